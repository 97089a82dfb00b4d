//! What is kept stays kept, what is deleted is gone, and nobody else's page gets at it.
#![allow(clippy::unwrap_used, reason = "a test that cannot go on has failed")]

mod common;

use std::os::unix::fs::symlink;
use std::path::{Path, PathBuf};
use std::process::Command;
use std::time::{Duration, Instant};

use common::{Program, counting_clip, http, root};
use serde_json::{Value, json};

fn until<T>(what: &str, mut look: impl FnMut() -> Option<T>) -> T {
    let begun = Instant::now();
    loop {
        if let Some(seen) = look() {
            return seen;
        }
        assert!(begun.elapsed() < Duration::from_secs(120), "no {what}");
        std::thread::sleep(Duration::from_millis(50));
    }
}

/// Programs that have a file of a folder on their command line, besides the server itself.
fn at_work(folder: &Path) -> Vec<String> {
    let folder = folder.to_string_lossy().into_owned();
    let lines = std::fs::read_dir("/proc").unwrap().flatten().filter_map(|p| {
        let line = std::fs::read(p.path().join("cmdline")).ok()?;
        Some(String::from_utf8_lossy(&line).replace('\0', " "))
    });
    lines.filter(|l| l.starts_with("ffmpeg") && l.contains(&folder)).collect()
}

fn files(folder: &Path) -> Vec<PathBuf> {
    let inside = std::fs::read_dir(folder).into_iter().flatten().flatten().map(|f| f.path());
    inside.flat_map(|p| if p.is_dir() { files(&p) } else { vec![p] }).collect()
}

fn named(folder: &Path, part: &str) -> Vec<PathBuf> {
    files(folder).into_iter().filter(|f| f.to_string_lossy().contains(part)).collect()
}

/// A yard with one session of a horse, and its number.
fn with_session(program: &Program, name: &str) -> i64 {
    let horse = http::post(&format!("{}/api/horses", program.url), &json!({ "name": name }));
    let horse = horse.json()["id"].as_i64().unwrap();
    let about = json!({"date": "2026-11-14"});
    let session = http::post(&format!("{}/api/horses/{horse}/sessions", program.url), &about);
    session.json()["id"].as_i64().unwrap()
}

#[test]
fn what_was_being_made_ends_with_the_server_and_is_made_anew() {
    let folder = tempfile::tempdir().unwrap();
    let (film, data) = (folder.path().join("long.mp4"), folder.path().join("yard"));
    counting_clip(&film, 1280, 900, 60);
    let program = Program::start(&["serve"], &data);
    let clip = program.send_file(&film, None).unwrap();
    let half = until("copy that is being made", || named(&data, ".part.mp4").pop());
    assert!(!at_work(&data).is_empty());
    program.kill();
    until("end of what the killed server had begun", || at_work(&data).is_empty().then_some(()));
    assert!(half.exists());

    let program = Program::start(&["serve"], &data);
    let view = || http::get(&format!("{}/api/clips/{clip}", program.url)).json();
    until("copy", || (view()["proxy"] == "ready").then_some(()));
    assert_eq!(named(&data, ".part."), [] as [PathBuf; 0]);
    let copy = named(&data, "proxy.mp4").pop().unwrap();
    let decoded = Command::new("ffmpeg")
        .args(["-v", "error", "-xerror", "-err_detect", "explode", "-i"])
        .arg(&copy)
        .args(["-map", "0:v", "-f", "framecrc", "-"])
        .output()
        .unwrap();
    assert!(decoded.status.success() && decoded.stderr.is_empty());
    let frames =
        String::from_utf8_lossy(&decoded.stdout).lines().filter(|l| !l.starts_with('#')).count();
    assert_eq!(frames, 900);

    // Taken away while work goes on, a clip is left alone until it comes back.
    let other = folder.path().join("other.mp4");
    counting_clip(&other, 1280, 901, 60);
    let clip = program.send_file(&other, None).unwrap();
    until("second copy that is being made", || (!at_work(&data).is_empty()).then_some(()));
    let at = format!("{}/api/clips/{clip}", program.url);
    assert_eq!(http::send("DELETE", &at, &[], &[]).status, 204);
    until("end of its work", || at_work(&data).is_empty().then_some(()));
    let jobs = || http::get(&format!("{}/api/jobs", program.url)).json();
    let of_clip = |j: &Value| j["clip"] == clip && j["state"] == "waiting";
    until("job that waits", || jobs().as_array().unwrap().iter().any(of_clip).then_some(()));
    assert_eq!(http::post(&format!("{at}/restore"), &json!(null)).status, 204);
    until("copy after all", || (http::get(&at).json()["proxy"] == "ready").then_some(()));
}

#[test]
fn a_page_made_of_another_yard_reads_and_writes_nothing_here() {
    let folder = tempfile::tempdir().unwrap();
    let [one, other] = ["one", "other"].map(|n| Program::start(&["serve"], &folder.path().join(n)));
    let name = |p: &Program| {
        let head = http::get(&format!("{}/api/yard", p.url)).head;
        head.lines().find_map(|l| l.strip_prefix("umlauf-yard: ").map(str::to_owned)).unwrap()
    };
    let yard = name(&one);
    assert!(yard.len() == 32 && yard != name(&other) && yard == name(&one));
    let add = |p: &Program, yard: &str| {
        let headers = [("Content-Type", "application/json"), ("Umlauf-Yard", yard)];
        http::send("POST", &format!("{}/api/horses", p.url), &headers, br#"{"name":"Priel"}"#)
    };
    assert_eq!(add(&one, &yard).status, 200);
    let refused = add(&other, &yard);
    assert_eq!((refused.status, &refused.json()["code"]), (409, &"other-yard".into()));
    let horses = http::get(&format!("{}/api/yard", other.url)).json()["horses"].clone();
    assert_eq!(horses, json!([]));
    // A restart does not make it another one.
    one.kill();
    assert_eq!(name(&Program::start(&["serve"], &folder.path().join("one"))), yard);
}

#[test]
fn what_is_emptied_from_the_bin_is_gone_from_the_disk() {
    let folder = tempfile::tempdir().unwrap();
    let data = folder.path().join("yard");
    let program = Program::start(&["serve"], &data);
    let session = with_session(&program, "Zaunkoenigin");
    let clip = program.send_file(&root().join("demo/priel-canter.mp4"), Some(session)).unwrap();
    let unknown = data.join("footage").join("b".repeat(64));
    std::fs::create_dir(&unknown).unwrap();
    assert_eq!(
        http::send("DELETE", &format!("{}/api/horses/1", program.url), &[], &[]).status,
        204
    );
    assert_eq!(http::post(&format!("{}/api/space/empty", program.url), &json!(null)).status, 200);
    program.kill();
    for file in files(&data) {
        let bytes = std::fs::read(&file).unwrap();
        assert!(!bytes.windows(12).any(|w| w == b"Zaunkoenigin"), "{}", file.display());
    }
    assert_eq!(std::fs::read_dir(data.join("footage")).unwrap().count(), 1);

    // What a kill between the tables and the folders leaves is swept; what nobody knows of is not.
    let [left, half] = ["c", "d"].map(|c| data.join("footage").join(c.repeat(64)));
    for folder in [&left, &half] {
        std::fs::create_dir(folder).unwrap();
        std::fs::write(folder.join("original.mp4"), "x").unwrap();
    }
    umlauf_store::Store::open(&data, None).unwrap().loosen(&"c".repeat(64)).unwrap();
    let program = Program::start(&["serve"], &data);
    assert!(!left.exists() && half.exists() && unknown.exists());
    assert_eq!(with_session(&program, "Priel"), session + 1);
    let next = program.send_file(&root().join("demo/priel-canter.mp4"), None).unwrap();
    assert_eq!(next, clip + 1);
}

#[test]
fn a_film_for_a_session_that_was_taken_away_waits_to_be_sorted() {
    let folder = tempfile::tempdir().unwrap();
    let program = Program::start(&["serve"], &folder.path().join("yard"));
    let session = with_session(&program, "Tinne");
    let at = |path: &str| format!("{}/api/{path}", program.url);
    let film = std::fs::read(root().join("demo/distel-trot.mp4")).unwrap();
    let begin =
        json!({"id": "abcdef0123", "session": session, "name": "t.mp4", "bytes": film.len()});
    assert_eq!(http::post(&at("uploads"), &begin).status, 200);
    assert_eq!(http::put(&at("uploads/abcdef0123?from=0"), &film).status, 200);
    assert_eq!(http::send("DELETE", &at(&format!("sessions/{session}")), &[], &[]).status, 204);
    let clip = http::post(&at("uploads/abcdef0123/finish"), &json!(null)).json()["id"].clone();
    assert_eq!(http::get(&at(&format!("clips/{clip}"))).json()["session"], Value::Null);
}

#[test]
fn a_film_that_came_stays_when_it_cannot_be_looked_into() {
    let folder = tempfile::tempdir().unwrap();
    let (data, tools) = (folder.path().join("yard"), folder.path().join("tools"));
    std::fs::create_dir(&tools).unwrap();
    for tool in ["setpriv", "nice"] {
        symlink(Path::new("/usr/bin").join(tool), tools.join(tool)).unwrap();
    }
    let mut command = Command::new(env!("CARGO_BIN_EXE_umlauf"));
    command.env("PATH", &tools);
    let program = Program::by(command, &["serve", "--by-hand"], &data);
    let refused = program.send_file(&root().join("demo/distel-trot.mp4"), None).unwrap_err();
    assert!(refused.contains("ffprobe") && refused.contains("apt-get install"), "{refused}");
    program.kill();
    let program = Program::start(&["serve"], &data);
    let uploads = http::get(&format!("{}/api/uploads", program.url)).json();
    let [waits] = uploads.as_array().unwrap().as_slice() else { panic!("{uploads}") };
    assert_eq!(waits["received"], waits["bytes"]);
    let id = waits["id"].as_str().unwrap();
    let done = http::post(&format!("{}/api/uploads/{id}/finish", program.url), &json!(null));
    assert_eq!(done.json()["id"], 1);
}

#[test]
fn a_film_is_shown_as_a_film_whatever_else_it_is() {
    let folder = tempfile::tempdir().unwrap();
    let program = Program::start(&["serve"], &folder.path().join("yard"));
    // A film that calls itself a page.
    let page = folder.path().join("ride.html");
    std::fs::copy(root().join("demo/distel-trot.mp4"), &page).unwrap();
    program.send_file(&page, None).unwrap();
    let content = std::fs::read_dir(folder.path().join("yard/footage")).unwrap().next().unwrap();
    let content = content.unwrap().file_name().into_string().unwrap();
    let media = format!("{}/media/{content}/original", program.url);
    let says = |head: &str, name: &str| {
        head.lines().find_map(|l| l.strip_prefix(&format!("{name}: ")).map(str::to_owned))
    };
    let shown = http::get(&media).head;
    assert_eq!(says(&shown, "content-type").unwrap(), "application/octet-stream");
    assert_eq!(says(&shown, "x-content-type-options").unwrap(), "nosniff");
    assert!(says(&shown, "content-security-policy").unwrap().ends_with("sandbox"));
    assert_eq!(says(&shown, "content-disposition"), None);
    let alone = http::send("GET", &media, &[("Sec-Fetch-Dest", "document")], &[]).head;
    assert_eq!(says(&alone, "content-disposition").unwrap(), "attachment");
    for path in ["/", "/api/yard", "/media/nothing/original"] {
        let head = http::get(&format!("{}{path}", program.url)).head;
        for (name, value) in [
            ("referrer-policy", "no-referrer"),
            ("cross-origin-resource-policy", "same-origin"),
            ("cross-origin-opener-policy", "same-origin"),
            ("x-content-type-options", "nosniff"),
        ] {
            assert_eq!(says(&head, name).as_deref(), Some(value), "{path}");
        }
    }
    // Another site's page is told nothing, be it of the same machine.
    for (path, from, status) in [
        ("/api/export", "cross-site", 403),
        ("/api/yard", "same-site", 403),
        ("/api/yard", "same-origin", 200),
        ("/api/yard", "none", 200),
        ("/", "cross-site", 200),
    ] {
        let url = format!("{}{path}", program.url);
        let answer = http::send("GET", &url, &[("Sec-Fetch-Site", from)], &[]);
        assert_eq!(answer.status, status, "{path} from {from}");
    }
}

#[test]
fn a_folder_of_the_machine_or_of_the_yard_itself_is_not_watched() {
    let folder = tempfile::tempdir().unwrap();
    let data = folder.path().join("yard");
    let program = Program::start(&["serve"], &data);
    let around = folder.path().join("around");
    symlink(data.join("incoming"), &around).unwrap();
    let watch = |at: &Path| {
        let body = json!({ "watched_folder": at }).to_string();
        let json = [("Content-Type", "application/json")];
        http::send("PUT", &format!("{}/api/setup", program.url), &json, body.as_bytes()).status
    };
    for bad in [&data, &data.join("footage"), &around, Path::new("/proc/self"), Path::new("/dev")] {
        assert_eq!(watch(bad), 422, "{}", bad.display());
    }
    assert_eq!(watch(folder.path()), 200);
}

#[test]
fn what_takes_long_waits_for_its_turn_and_marking_does_not() {
    use std::io::{Read as _, Write as _};
    let folder = tempfile::tempdir().unwrap();
    let program = Program::start(&["serve"], &folder.path().join("yard"));
    let clip = program.send_file(&root().join("demo/kiebitz-walk.mp4"), None).unwrap();
    let host = program.url.strip_prefix("http://").unwrap().to_owned();
    let open = |head: &str| {
        let mut socket = std::net::TcpStream::connect(&host).unwrap();
        socket.write_all(head.as_bytes()).unwrap();
        socket
    };
    // Tables that are announced and do not come: as many as are taken at once, and as wait, and more.
    let table = format!(
        "POST /api/analyse HTTP/1.1\r\nHost: {host}\r\nContent-Type: text/csv\r\nContent-Length: 60000000\r\n\r\n"
    );
    let cores = std::thread::available_parallelism().unwrap().get();
    let before = program.memory_kib();
    let mut held: Vec<_> = (0..cores + 100).map(|_| open(&table)).collect();
    let refused = until("one that is told to come again", || {
        held.iter_mut().find_map(|socket| {
            socket.set_read_timeout(Some(Duration::from_millis(20))).unwrap();
            let mut answer = [0; 4000];
            let n = socket.read(&mut answer).ok()?;
            Some(String::from_utf8_lossy(&answer[..n]).into_owned())
        })
    });
    assert!(refused.starts_with("HTTP/1.1 503") && refused.contains("too-many"), "{refused}");
    assert!(program.memory_kib() < before + (64 << 10), "{} KiB", program.memory_kib());
    let mark = json!({"id": "m", "limb": "LH", "on_us": 700_000, "off_us": null});
    let edit = json!({"edit_id": "e", "changes": [{"before": null, "after": mark}]});
    assert_eq!(http::post(&format!("{}/api/clips/{clip}/edits", program.url), &edit).status, 200);
    // Those who have gone leave their places, once it is seen that they have.
    drop(held);
    until("place for the next", || {
        let table = b"limb,on_s\nLH,0\n";
        let answer = http::send("POST", &format!("{}/api/analyse", program.url), &[], table);
        (answer.status != 503).then_some(())
    });

    // Who begins a request and says no more is let go.
    let mut idle = open("GET /api/yard HT");
    idle.set_read_timeout(Some(Duration::from_secs(40))).unwrap();
    let silent = |e: &std::io::Error| {
        matches!(e.kind(), std::io::ErrorKind::WouldBlock | std::io::ErrorKind::TimedOut)
    };
    assert!(!idle.read(&mut [0; 4000]).is_err_and(|e| silent(&e)), "it is still waited for");
}
