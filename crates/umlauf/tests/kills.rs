//! Kills at random moments, over marking, uploads, taking away, emptying the bin, exports, backups, imports and the work
//! on footage: nothing acknowledged is lost, nothing doubled, and the next start leaves nothing that belongs to nobody.
//! `UMLAUF_KILLS` says how many (`make torture`: 1,000).
#![allow(clippy::unwrap_used, reason = "a test that cannot go on has failed")]

mod common;

use std::collections::{BTreeMap, BTreeSet};
use std::path::{Path, PathBuf};
use std::sync::Mutex;
use std::time::Duration;

use common::{Program, counting_clip, http, root};
use serde_json::{Value, json};

/// A small generator of numbers (SplitMix64): the same kills for the same seed.
struct Chance(u64);

impl Chance {
    fn next(&mut self) -> u64 {
        self.0 = self.0.wrapping_add(0x9e37_79b9_7f4a_7c15);
        let mut z = self.0;
        z = (z ^ (z >> 30)).wrapping_mul(0xbf58_476d_1ce4_e5b9);
        z = (z ^ (z >> 27)).wrapping_mul(0x94d0_49bb_1331_11eb);
        z ^ (z >> 31)
    }

    fn below(&mut self, n: u64) -> u64 {
        self.next() % n
    }
}

/// What the server has acknowledged.
#[derive(Default)]
struct Acknowledged {
    /// Marks by clip.
    marks: BTreeMap<i64, BTreeSet<String>>,
    /// Clips, and whether they were emptied from the bin for good; `None`: that was asked and not answered.
    clips: BTreeMap<i64, Option<bool>>,
}

/// As HTTP, where nobody may be there any more.
fn ask(method: &str, url: &str, body: &[u8], kind: &str) -> Option<(u16, Value)> {
    let (method, url, body, kind) =
        (method.to_owned(), url.to_owned(), body.to_vec(), kind.to_owned());
    // A connection that breaks is a panic of the test's own client.
    std::panic::catch_unwind(move || {
        let answer = http::send(&method, &url, &[("Content-Type", kind.as_str())], &body);
        (answer.status, serde_json::from_str(&answer.text).unwrap_or(Value::Null))
    })
    .ok()
}

fn post(url: &str, body: &Value) -> Option<(u16, Value)> {
    ask("POST", url, body.to_string().as_bytes(), "application/json")
}

/// Does things one after the other until the server is gone.
fn at_work(url: &str, lane: u64, seed: u64, films: &[PathBuf], acked: &Mutex<Acknowledged>) {
    let mut chance = Chance(seed);
    let api = |path: &str| format!("{url}/api/{path}");
    for k in 0.. {
        let clips: Vec<i64> = {
            let a = acked.lock().unwrap();
            a.clips.iter().filter(|(_, gone)| **gone == Some(false)).map(|(id, _)| *id).collect()
        };
        let clip = (!clips.is_empty()).then(|| clips[chance.below(clips.len() as u64) as usize]);
        let done = match (chance.below(20), clip) {
            (0..3, _) | (_, None) => {
                let film = &films[chance.below(films.len() as u64) as usize];
                let bytes = std::fs::read(film).unwrap();
                let id = format!("u{seed:016x}{k}");
                let begin =
                    json!({"id": id, "session": null, "name": "f.mp4", "bytes": bytes.len()});
                let half = bytes.len() / 2;
                let sent = post(&api("uploads"), &begin)
                    .and_then(|_| {
                        ask("PUT", &api(&format!("uploads/{id}?from=0")), &bytes[..half], "x/y")
                    })
                    .and_then(|_| {
                        ask(
                            "PUT",
                            &api(&format!("uploads/{id}?from={half}")),
                            &bytes[half..],
                            "x/y",
                        )
                    })
                    .and_then(|_| post(&api(&format!("uploads/{id}/finish")), &Value::Null));
                if let Some((200, added)) = &sent {
                    let mut a = acked.lock().unwrap();
                    a.clips.entry(added["id"].as_i64().unwrap()).or_insert(Some(false));
                }
                sent
            }
            // One lane alone takes away, so that what it removes is nobody else's clip to mark.
            (3, Some(clip)) if lane == 0 => {
                acked.lock().unwrap().clips.insert(clip, None);
                let gone = ask("DELETE", &api(&format!("clips/{clip}")), &[], "x/y")
                    .and_then(|_| post(&api("space/empty"), &Value::Null));
                if gone.as_ref().is_some_and(|(status, _)| *status == 200) {
                    acked.lock().unwrap().clips.insert(clip, Some(true));
                }
                gone
            }
            (4, _) => ask("GET", &api("export"), &[], "x/y"),
            (5, _) if lane == 0 => post(&api("backups"), &Value::Null),
            (_, Some(clip)) => {
                let id = format!("m{lane}-{seed:x}-{k}");
                let us = i64::try_from(chance.below(900_000)).unwrap();
                let mark = json!({"id": id, "limb": "LF", "on_us": us, "off_us": null});
                let edit = json!({"edit_id": format!("e{id}"), "changes": [{"before": null, "after": mark}]});
                let made = post(&api(&format!("clips/{clip}/edits")), &edit);
                if made.as_ref().is_some_and(|(status, _)| *status == 200) {
                    acked.lock().unwrap().marks.entry(clip).or_default().insert(id);
                }
                made
            }
        };
        if done.is_none() {
            return;
        }
    }
}

fn inside(folder: &Path) -> Vec<String> {
    let all = std::fs::read_dir(folder).into_iter().flatten().flatten();
    all.filter_map(|f| f.file_name().into_string().ok()).collect()
}

/// What must be true of a yard whose server was killed and has started again.
fn is_whole(program: &Program, data: &Path, acked: &mut Acknowledged, after: &str) {
    let get = |path: &str| http::get(&format!("{}/api/{path}", program.url));
    let mut contents = BTreeSet::new();
    for (clip, gone) in acked.clips.clone() {
        let view = get(&format!("clips/{clip}"));
        match gone {
            Some(gone) => {
                assert_eq!(view.status, if gone { 404 } else { 200 }, "{after}: clip {clip}")
            }
            // Asked and not answered. What is in the bin goes with whatever is emptied from it next.
            None if view.status == 404 => {
                acked.clips.insert(clip, Some(true));
            }
            None => {}
        }
        if view.status != 200 {
            continue;
        }
        let marks = get(&format!("clips/{clip}/desk")).json()["marks"].clone();
        let ids: Vec<String> = marks
            .as_array()
            .unwrap()
            .iter()
            .map(|m| m["id"].as_str().unwrap().to_owned())
            .collect();
        let there: BTreeSet<String> = ids.iter().cloned().collect();
        assert_eq!(ids.len(), there.len(), "{after}: doubled marks of clip {clip}");
        let lost: Vec<_> =
            acked.marks.get(&clip).into_iter().flatten().filter(|m| !there.contains(*m)).collect();
        assert!(lost.is_empty(), "{after}: clip {clip} lost {lost:?}");
    }
    let store = umlauf_store::Store::open(data, None).unwrap();
    for clip in store.all_clips().unwrap() {
        let content = &clip.footage.content;
        let folder = data.join("footage").join(content);
        let bytes = std::fs::read(folder.join(&clip.footage.file)).unwrap();
        assert_eq!(
            blake3::hash(&bytes).to_hex().to_string(),
            *content,
            "{after}: film of {}",
            clip.id
        );
        contents.insert(content.clone());
    }
    let folders: BTreeSet<String> = inside(&data.join("footage")).into_iter().collect();
    assert!(folders.is_subset(&contents), "{after}: folders of no clip");
    let uploads: BTreeSet<String> = store.uploads().unwrap().into_iter().map(|u| u.id).collect();
    let coming: BTreeSet<String> = inside(&data.join("incoming")).into_iter().collect();
    assert!(coming.is_subset(&uploads), "{after}: {coming:?} come for no upload");
    assert!(
        store.disagreeing().unwrap().is_empty() && store.lost_changes().unwrap() == 0,
        "{after}"
    );
    let (other, _) = store.broken_pages(0..usize::MAX).unwrap().unwrap();
    assert_eq!(other, [] as [usize; 0], "{after}: pages that nobody wrote");
}

#[test]
fn whatever_a_kill_interrupts_nothing_acknowledged_is_lost() {
    let kills: u64 = std::env::var("UMLAUF_KILLS").ok().and_then(|n| n.parse().ok()).unwrap_or(25);
    let folder = tempfile::tempdir().unwrap();
    let [data, stick] = ["yard", "stick"].map(|n| folder.path().join(n));
    std::fs::create_dir(&stick).unwrap();
    let films: Vec<PathBuf> = (0..5)
        .map(|k| {
            let film = folder.path().join(format!("{k}.mp4"));
            counting_clip(&film, 160, 40 + 7 * k, 60);
            film
        })
        .collect();
    let mut chance = Chance(20_261_201);
    let mut acked = Acknowledged::default();
    // The client's own panics, when the server is gone, are no news.
    std::panic::set_hook(Box::new(|_| {}));
    let first = Program::start(&["serve"], &data);
    let chosen = json!({ "folder": stick }).to_string();
    ask("PUT", &format!("{}/api/backups", first.url), chosen.as_bytes(), "application/json")
        .unwrap();
    drop(first);
    let mut failed = None;
    for kill in 0..kills {
        let program = Program::start(&["serve"], &data);
        let shared = Mutex::new(std::mem::take(&mut acked));
        let url = program.url.clone();
        let pause = Duration::from_millis(5 + chance.below(700));
        let seeds = [chance.next(), chance.next()];
        std::thread::scope(|s| {
            for (lane, seed) in (0u64..).zip(seeds) {
                let (url, films, shared) = (&url, &films, &shared);
                s.spawn(move || at_work(url, lane, seed, films, shared));
            }
            std::thread::sleep(pause);
            program.kill();
        });
        acked = shared.into_inner().unwrap();
        let again = Program::start(&["serve"], &data);
        let whole = std::panic::AssertUnwindSafe(|| {
            is_whole(&again, &data, &mut acked, &format!("kill {kill}"));
        });
        if let Err(why) = std::panic::catch_unwind(whole) {
            failed = Some(why);
            break;
        }
    }
    drop(std::panic::take_hook());
    if let Some(why) = failed {
        let text = why.downcast_ref::<String>().cloned();
        panic!("{}", text.or_else(|| why.downcast_ref::<&str>().map(|s| (*s).to_owned())).unwrap());
    }
    // Of all that was done there is something of each kind, and the yard is whole to the last frame.
    let gone = acked.clips.values().filter(|gone| **gone == Some(true)).count();
    let marks: usize = acked.marks.values().map(BTreeSet::len).sum();
    println!(
        "{kills} kills: {} clips, {gone} of them emptied from the bin, {marks} marks",
        acked.clips.len()
    );
    assert!(acked.clips.len() > 3 && marks > 50 && (gone > 0 || kills < 25));
    let program = Program::start(&["serve"], &data);
    program.wait_for_jobs(Duration::from_secs(600));
    drop(program);
    let check = std::process::Command::new(env!("CARGO_BIN_EXE_umlauf"))
        .args(["check", "--data"])
        .arg(&data)
        .output()
        .unwrap();
    assert!(check.status.success(), "{}", String::from_utf8_lossy(&check.stdout));
}

#[test]
fn a_yard_that_was_coming_back_when_it_was_killed_comes_back_whole_or_not_at_all() {
    let kills: u64 =
        std::env::var("UMLAUF_KILLS").ok().and_then(|n| n.parse().ok()).unwrap_or(100) / 10;
    let folder = tempfile::tempdir().unwrap();
    let (data, zip) = (folder.path().join("yard"), folder.path().join("yard.zip"));
    let program = Program::start(&["serve"], &data);
    for name in ["kiebitz-walk", "distel-trot", "priel-canter"] {
        program.send_file(&root().join(format!("demo/{name}.mp4")), None).unwrap();
    }
    std::fs::write(&zip, http::get(&format!("{}/api/export", program.url)).body).unwrap();
    drop(program);
    let mut chance = Chance(7);
    let (mut whole, mut none) = (0, 0);
    for kill in 0..kills {
        let back = folder.path().join(format!("back{kill}"));
        let mut restore = std::process::Command::new(env!("CARGO_BIN_EXE_umlauf"))
            .args(["restore", zip.to_str().unwrap(), "--data", back.to_str().unwrap()])
            .stdout(std::process::Stdio::null())
            .spawn()
            .unwrap();
        std::thread::sleep(Duration::from_millis(chance.below(160)));
        restore.kill().unwrap();
        restore.wait().unwrap();
        let program = Program::start(&["serve"], &back);
        let clips = http::get(&format!("{}/api/yard", program.url)).json()["unsorted"].clone();
        match clips.as_array().unwrap().len() {
            0 => {
                none += 1;
                assert!(inside(&back.join("footage")).is_empty(), "kill {kill}");
            }
            n => {
                whole += 1;
                assert_eq!((n, inside(&back.join("footage")).len()), (3, 3), "kill {kill}");
            }
        }
        is_whole(&program, &back, &mut Acknowledged::default(), &format!("kill {kill}"));
        assert!(!back.join("coming-back").exists());
        drop(program);
        std::fs::remove_dir_all(&back).unwrap();
    }
    println!("{kills} kills: {whole} whole, {none} not at all");
}
