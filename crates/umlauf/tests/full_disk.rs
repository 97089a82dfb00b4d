//! A disk that fills up at every step of every kind of writing: clear words, nothing lost, taking away works, and all goes
//! on when there is room.
#![allow(clippy::unwrap_used, reason = "a test that cannot go on has failed")]

mod common;

use std::fs::File;
use std::io::Write as _;
use std::path::{Path, PathBuf};
use std::process::{Command, Stdio};
use std::time::Duration;

use common::{Program, counting_clip, http, root};
use serde_json::{Value, json};

/// A server on a small disk of its own.
struct Small {
    program: Program,
    /// The disk, as it is seen from here.
    disk: PathBuf,
}

impl Small {
    /// `None` where the machine lets us have no disk of our own.
    fn disk(mib: usize) -> Option<Self> {
        let disk = |script: &str| {
            let mut command = Command::new("unshare");
            command.args(["-rm", "sh", "-c"]);
            command.arg(format!("mount -t tmpfs -o size={mib}m none /mnt && {script}"));
            command
        };
        let had = disk("true").stderr(Stdio::null()).status().is_ok_and(|s| s.success());
        if !had {
            eprintln!("no disk of its own to be had here: not looked at");
            return None;
        }
        let mut command = disk("exec \"$0\" \"$@\"");
        command.arg(env!("CARGO_BIN_EXE_umlauf"));
        let program = Program::by(command, &["serve", "--by-hand"], Path::new("/mnt/yard"));
        let disk = PathBuf::from(format!("/proc/{}/root/mnt", program.id()));
        Some(Self { program, disk })
    }

    fn ask(&self, method: &str, path: &str, body: &Value) -> (u16, Value) {
        let kind = [("Content-Type", "application/json")];
        let url = format!("{}/api/{path}", self.program.url);
        let answer = http::send(method, &url, &kind, body.to_string().as_bytes());
        let read = if answer.text.is_empty() { Value::Null } else { answer.json() };
        (answer.status, read)
    }

    /// Leaves so many bytes free.
    fn leave(&self, bytes: u64) {
        let at = self.disk.join("filler");
        let _ = std::fs::remove_file(&at);
        let mut file = File::create(&at).unwrap();
        let block = [7u8; 4096];
        let mut filled = 0;
        while let Ok(n) = file.write(&block) {
            filled += n as u64;
        }
        file.set_len(filled.saturating_sub(bytes)).unwrap();
    }

    fn make_room(&self) {
        std::fs::remove_file(self.disk.join("filler")).unwrap();
    }
}

/// Saved, or refused because the disk is full, in words.
fn saved((status, says): &(u16, Value), what: &str) -> bool {
    if *status == 507 {
        assert_eq!(says["code"], "disk-full", "{what}: {says}");
        let words = says["detail"].as_str().unwrap();
        assert!(words.contains("full") && !words.contains("/mnt"), "{what}: {words}");
        return false;
    }
    assert!((200..300).contains(status), "{what}: {status} {says}");
    true
}

#[test]
fn a_disk_that_fills_up_at_any_step_loses_nothing_and_says_so() {
    let Some(small) = Small::disk(48) else { return };
    let folder = tempfile::tempdir().unwrap();
    let film = folder.path().join("film.mp4");
    counting_clip(&film, 160, 30, 60);
    let first = small.program.send_file(&film, None).unwrap();
    small.program.wait_for_jobs(Duration::from_secs(120));
    let horse = small.ask("POST", "horses", &json!({"name": "Kiebitz"})).1["id"].clone();
    std::fs::create_dir(small.disk.join("stick")).unwrap();
    small.ask("PUT", "backups", &json!({"folder": "/mnt/stick"}));
    // As much as a few films with their copies may take is there, then less and less.
    let (mut horses, mut tags, mut clips) = (vec![], vec![], vec![first]);
    let (mut refused, mut done) = (0, 0);
    let mut count = |saved: bool| {
        *(if saved { &mut done } else { &mut refused }) += 1;
        saved
    };
    for (round, free) in
        [1 << 20, 1 << 18, 1 << 17, 1 << 16, 49_152, 32_768, 24_576, 16_384, 12_288, 8192, 4096, 0]
            .into_iter()
            .enumerate()
    {
        let fill = || small.leave(free);
        fill();
        let name = format!("horse {round} {}", "of a long name ".repeat(5));
        if count(saved(&small.ask("POST", "horses", &json!({"name": name})), "a horse")) {
            horses.push(name);
        }
        for k in 0..12 {
            fill();
            let id = format!("n{round}-{k}");
            let note = "a footfall ".repeat(40);
            let tag = json!({"id": id, "from_us": k, "to_us": null, "what": {"kind": "note", "text": note}});
            let edit = json!({"edit_id": format!("e{id}"), "changes": [], "tags": [{"before": null, "after": tag}]});
            if count(saved(&small.ask("POST", &format!("clips/{first}/edits"), &edit), "an edit")) {
                tags.push(id);
            }
        }
        fill();
        let day = format!("2026-11-{:02}", round + 1);
        let at = format!("horses/{horse}/sessions");
        count(saved(&small.ask("POST", &at, &json!({"date": day})), "a session"));
        fill();
        count(saved(
            &small.ask(
                "PUT",
                "setup",
                &json!({"watched_folder": null, "find_footfalls": round % 2 == 0}),
            ),
            "a choice",
        ));
        fill();
        // A film: begun, sent, finished, each with as little room.
        let other = folder.path().join("other.mp4");
        counting_clip(&other, 160, 31 + round as u32, 60);
        let bytes = std::fs::read(&other).unwrap();
        let id = format!("upload{round:04}");
        let begin = json!({"id": id, "session": null, "name": "other.mp4", "bytes": bytes.len()});
        if count(saved(&small.ask("POST", "uploads", &begin), "an upload begun")) {
            fill();
            let url = format!("{}/api/uploads/{id}?from=0", small.program.url);
            let sent = http::put(&url, &bytes);
            if count(saved(&(sent.status, sent.json()), "an upload")) {
                fill();
                let made = small.ask("POST", &format!("uploads/{id}/finish"), &json!(null));
                if count(saved(&made, "an upload finished")) {
                    clips.push(made.1["id"].as_i64().unwrap());
                }
            }
            fill();
            // Given up, if it did not come to an end.
            let (status, _) = small.ask("DELETE", &format!("uploads/{id}"), &json!(null));
            assert!(status == 204 || status == 404, "{status}");
        }
        fill();
        count(saved(&small.ask("POST", "backups", &json!(null)), "a backup"));
        fill();
        // Taking away works however full it is.
        let (_, yard) = small.ask("GET", "yard", &json!(null));
        assert!(yard["horses"].as_array().is_some(), "{yard}");
        assert_eq!(small.ask("DELETE", &format!("horses/{horse}"), &json!(null)).0, 204);
        fill();
        let back = || small.ask("POST", &format!("horses/{horse}/restore"), &json!(null));
        if !count(saved(&back(), "a horse brought back")) {
            small.make_room();
            assert_eq!(back().0, 204);
        }
    }
    println!("{done} saved, {refused} refused");
    assert!(refused > 20 && done > 40, "{done} saved, {refused} refused");
    is_whole(&small, &horses, &tags, first);
    // A clip goes for good on a full disk, and makes room.
    small.leave(0);
    assert_eq!(
        small.ask("DELETE", &format!("clips/{}", clips.pop().unwrap()), &json!(null)).0,
        204
    );
    assert_eq!(small.ask("POST", "space/empty", &json!(null)).0, 200);
    small.make_room();
    // What is being made while the disk fills up comes to an end, though the end cannot be kept before there is room.
    let late = folder.path().join("late.mp4");
    counting_clip(&late, 320, 61, 60);
    clips.push(small.program.send_file(&late, None).unwrap());
    small.leave(0);
    std::thread::sleep(Duration::from_secs(5));
    // All goes on when there is room, and nothing was lost.
    small.make_room();
    is_whole(&small, &horses, &tags, first);
    assert!(saved(&small.ask("POST", "backups", &json!(null)), "a backup"));
    small.program.wait_for_jobs(Duration::from_secs(120));
    for job in small.ask("GET", "jobs", &json!(null)).1.as_array().unwrap().iter().rev() {
        if job["state"] == "failed" {
            small.ask("POST", &format!("jobs/{}/retry", job["id"]), &json!(null));
        }
    }
    small.program.wait_for_jobs(Duration::from_secs(120));
    for clip in clips {
        assert_eq!(small.ask("GET", &format!("clips/{clip}"), &json!(null)).1["proxy"], "ready");
    }
    let copy = folder.path().join("copy");
    let copied = Command::new("cp").arg("-r").arg(small.disk.join("yard")).arg(&copy).status();
    assert!(copied.unwrap().success());
    let check = Command::new(env!("CARGO_BIN_EXE_umlauf"))
        .args(["check", "--data"])
        .arg(copy)
        .output()
        .unwrap();
    let says = [check.stdout, check.stderr].concat();
    assert!(check.status.success(), "{}", String::from_utf8_lossy(&says));
}

/// What was acknowledged is there, and nothing else.
fn is_whole(small: &Small, horses: &[String], tags: &[String], clip: i64) {
    let (_, yard) = small.ask("GET", "yard", &json!(null));
    let there: Vec<&str> =
        yard["horses"].as_array().unwrap().iter().map(|h| h["name"].as_str().unwrap()).collect();
    for name in horses {
        assert!(there.contains(&name.trim()), "{name} of {there:?}");
    }
    assert_eq!(there.len(), horses.len() + 1);
    let (_, desk) = small.ask("GET", &format!("clips/{clip}/desk"), &json!(null));
    let mut noted: Vec<&str> =
        desk["tags"].as_array().unwrap().iter().map(|t| t["id"].as_str().unwrap()).collect();
    noted.sort_unstable();
    let mut tags: Vec<&str> = tags.iter().map(String::as_str).collect();
    tags.sort_unstable();
    assert_eq!(noted, tags);
}

#[test]
fn a_full_disk_does_not_lock_itself() {
    let Some(small) = Small::disk(24) else { return };
    let program = &small.program;
    let at = |path: &str| format!("{}/api/{path}", program.url);
    let film = root().join("demo/kiebitz-walk.mp4");
    let clip = program.send_file(&film, None).unwrap();
    let begin = json!({"id": "filler0001", "session": null, "name": "f.mp4", "bytes": 64 << 20});
    assert_eq!(http::post(&at("uploads"), &begin).status, 200);
    let full = http::put(&at("uploads/filler0001?from=0"), &vec![7; 40 << 20]);
    assert_eq!((full.status, &full.json()["code"]), (507, &"disk-full".into()));
    // Marking is refused in words until there is room, and reading goes on.
    let mark = |k: usize| {
        let note = "a footfall ".repeat(40);
        let tag = json!({"id": format!("n{k}"), "from_us": k, "to_us": null, "what": {"kind": "note", "text": note}});
        let edit = json!({"edit_id": format!("e{k}"), "changes": [], "tags": [{"before": null, "after": tag}]});
        http::post(&at(&format!("clips/{clip}/edits")), &edit)
    };
    let refused = (0..200).map(mark).find(|a| a.status != 200).expect("a disk that is full");
    assert_eq!((refused.status, &refused.json()["code"]), (507, &"disk-full".into()));
    assert_eq!(http::get(&at("yard")).status, 200);
    // Taking away works, and makes room.
    assert_eq!(http::send("DELETE", &at(&format!("clips/{clip}")), &[], &[]).status, 204);
    assert_eq!(http::send("DELETE", &at("uploads/filler0001"), &[], &[]).status, 204);
    assert_eq!(http::post(&at("space/empty"), &json!(null)).status, 200);
    let again = program.send_file(&film, None);
    assert!(again.is_ok(), "{again:?}");
}
