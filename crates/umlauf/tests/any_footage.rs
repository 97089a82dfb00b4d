//! Any footage a coach has comes in with the times of its own frames; what is not footage is
//! refused in words and leaves nothing.
#![allow(clippy::unwrap_used, reason = "a test that cannot go on has failed")]

mod common;

use std::fs;
use std::time::Duration;

use common::footage_set::{bad, good, times_by_ffprobe};
use common::{Program, http};
use serde_json::{Value, json};

#[test]
fn good_files_keep_the_time_of_every_frame() {
    let folder = tempfile::tempdir().unwrap();
    let program = Program::start(&["serve"], &folder.path().join("yard"));
    let files = good(folder.path());
    let clips: Vec<i64> = files
        .iter()
        .map(|f| program.send_file(&f.path, None).unwrap_or_else(|p| panic!("{:?}: {p}", f.path)))
        .collect();
    program.wait_for_jobs(Duration::from_secs(240));
    for (file, clip) in files.iter().zip(clips) {
        let name = file.path.file_name().unwrap().to_string_lossy();
        let view = http::get(&format!("{}/api/clips/{clip}", program.url)).json();
        assert_eq!(view["proxy"], "ready", "{name}");
        assert!(!view["filmstrip"].is_null(), "{name}");
        let on_desk = http::get(&format!("{}/api/clips/{clip}/frames", program.url)).json();
        let on_desk: Vec<i64> = serde_json::from_value(on_desk["times_us"].clone()).unwrap();
        let wanted = times_by_ffprobe(&file.path);
        assert_eq!(on_desk.len(), wanted.len(), "{name}");
        for (a, b) in on_desk.iter().zip(&wanted) {
            assert!((a - b).abs() <= 1, "{name}: {a} is not {b}");
        }
        let turned = file.rotation % 180 == 90;
        let wide = view["width"].as_i64() > view["height"].as_i64();
        assert_eq!(wide, !turned, "{name}: {view}");
        if name == "slow-motion.mp4" {
            let desk = http::get(&format!("{}/api/clips/{clip}/desk", program.url)).json();
            assert_eq!(desk["slow_question"]["factor"], 8.0);
            assert_eq!(view["recorded"], "2026-11-20T10:00:00Z");
        }
    }
}

#[test]
fn a_file_that_breaks_off_keeps_the_frames_it_has_and_says_so() {
    let folder = tempfile::tempdir().unwrap();
    let program = Program::start(&["serve"], &folder.path().join("yard"));
    let whole = folder.path().join("whole.mp4");
    common::counting_clip(&whole, 640, 240, 60);
    let front = folder.path().join("front.mp4");
    let moved = std::process::Command::new("ffmpeg")
        .args(["-v", "error", "-i"])
        .arg(&whole)
        .args(["-c", "copy", "-movflags", "+faststart"])
        .arg(&front)
        .status();
    assert!(moved.unwrap().success());
    let bytes = fs::read(&front).unwrap();
    fs::write(&front, &bytes[..bytes.len() * 4 / 5]).unwrap();
    let clip = program.send_file(&front, None).unwrap();
    program.wait_for_jobs(Duration::from_secs(60));
    let view = http::get(&format!("{}/api/clips/{clip}", program.url)).json();
    assert_eq!(view["proxy"], "ready", "{view}");
    let frames = http::get(&format!("{}/api/clips/{clip}/frames", program.url)).json();
    let n = frames["times_us"].as_array().unwrap().len();
    assert!((120..240).contains(&n), "{n}");
}

#[test]
fn bad_files_are_refused_in_words_and_leave_nothing() {
    let folder = tempfile::tempdir().unwrap();
    let yard = folder.path().join("yard");
    let program = Program::start(&["serve"], &yard);
    for (path, wanted) in bad(folder.path()) {
        let said = program.send_file(&path, None).expect_err("refused");
        assert!(said.contains(wanted), "{}: {said}", path.display());
    }
    let empty = json!({"id": "emptyfile", "session": null, "name": "empty.mp4", "bytes": 0});
    let said = http::post(&format!("{}/api/uploads", program.url), &empty).json();
    assert!(said["detail"].as_str().unwrap().contains("empty"), "{said}");
    for left in ["incoming", "footage"] {
        assert_eq!(fs::read_dir(yard.join(left)).unwrap().count(), 0, "{left}");
    }
    assert_eq!(http::get(&format!("{}/api/uploads", program.url)).json(), json!([]));
    let yard = http::get(&format!("{}/api/yard", program.url)).json();
    assert_eq!(yard["unsorted"], json!([]));
}

#[test]
fn a_large_upload_needs_little_memory() {
    let folder = tempfile::tempdir().unwrap();
    let program = Program::start(&["serve"], &folder.path().join("yard"));
    // A clip padded with a free box: still a good file.
    let clip = folder.path().join("clip.mp4");
    common::counting_clip(&clip, 320, 60, 30);
    let mut bytes = fs::read(&clip).unwrap();
    let padding: u32 = 64 << 20;
    bytes.extend(padding.to_be_bytes());
    bytes.extend(b"free");
    bytes.resize(bytes.len() + padding as usize - 8, 7);
    fs::write(&clip, &bytes).unwrap();
    let before = program.memory_kib();
    let id = program.send_file(&clip, None).unwrap();
    let grown = program.peak_memory_kib().saturating_sub(before);
    assert!(grown < 50 << 10, "the server grew by {grown} KiB");
    program.wait_for_jobs(Duration::from_secs(60));
    let media: Value = http::get(&format!("{}/api/clips/{id}", program.url)).json();
    let content = media["media"].as_str().unwrap().split('/').nth(2).unwrap().to_owned();
    assert_eq!(content, blake3::hash(&bytes).to_hex().to_string());
}

#[test]
fn a_watched_folder_and_the_import_command_take_files_in_once() {
    let folder = tempfile::tempdir().unwrap();
    let (yard, inbox) = (folder.path().join("yard"), folder.path().join("inbox"));
    fs::create_dir(&inbox).unwrap();
    common::counting_clip(&inbox.join("first.mp4"), 320, 30, 30);
    fs::write(inbox.join("notes.txt"), "not footage").unwrap();
    let program = Program::start(&["serve"], &yard);
    let set = json!({"watched_folder": inbox});
    let answer = http::send(
        "PUT",
        &format!("{}/api/setup", program.url),
        &[("Content-Type", "application/json")],
        set.to_string().as_bytes(),
    );
    assert_eq!(answer.status, 200, "{}", answer.text);
    let unsorted = || {
        let yard = http::get(&format!("{}/api/yard", program.url)).json();
        yard["unsorted"].as_array().unwrap().len()
    };
    let patience = std::time::Instant::now();
    while unsorted() == 0 && patience.elapsed() < Duration::from_secs(30) {
        std::thread::sleep(Duration::from_millis(300));
    }
    assert_eq!(unsorted(), 1);
    common::counting_clip(&inbox.join("second.mp4"), 320, 20, 30);
    let import = || {
        let out = std::process::Command::new(env!("CARGO_BIN_EXE_umlauf"))
            .arg("import")
            .arg(&inbox)
            .arg("--data")
            .arg(&yard)
            .output()
            .unwrap();
        String::from_utf8(out.stdout).unwrap()
    };
    let said = import();
    assert!(said.contains("1 new, 1 known") || said.contains("0 new, 2 known"), "{said}");
    assert!(import().contains("0 new, 2 known"));
    assert!(inbox.join("first.mp4").exists(), "the folder is left as it is");
    assert_eq!(unsorted(), 2);
}
