//! Speed of footage, printed by `make bench`: making a proxy, random access in it, a 2 GB upload.
#![allow(clippy::unwrap_used, reason = "a bench that cannot go on has failed")]

mod common;

use std::fs;
use std::process::Command;
use std::time::{Duration, Instant};

use common::{Program, http, root};

#[test]
#[ignore = "a measurement: run by `make bench`"]
fn proxies_against_their_originals() {
    let folder = tempfile::tempdir().unwrap();
    let program = Program::start(&["serve"], &folder.path().join("yard"));
    let full_hd = folder.path().join("1080p60.mp4");
    let made = Command::new("ffmpeg")
        .args(["-v", "error", "-f", "lavfi", "-i", "testsrc2=size=1920x1080:rate=60:duration=10"])
        .args(["-c:v", "libx264", "-preset", "veryfast", "-b:v", "20M", "-pix_fmt", "yuv420p"])
        .arg(&full_hd)
        .status();
    assert!(made.unwrap().success());
    let mut pairs = Vec::new();
    for (name, path) in
        [("720p120 walk", root().join("demo/kiebitz-walk.mp4")), ("1080p60 test picture", full_hd)]
    {
        let id = program.send_file(&path, None).unwrap();
        let began = Instant::now();
        program.wait_for_jobs(Duration::from_secs(300));
        let took = began.elapsed().as_secs_f64();
        let clip = http::get(&format!("{}/api/clips/{id}", program.url)).json();
        let length = clip["length_s"].as_f64().unwrap();
        let content = clip["media"].as_str().unwrap().split('/').nth(2).unwrap().to_owned();
        let yard = folder.path().join("yard/footage").join(&content);
        let size = |file: &str| fs::metadata(yard.join(file)).unwrap().len() as f64;
        let original = clip["bytes"].as_f64().unwrap();
        println!(
            "{name}: proxy {:.1} MB, {:.2} times the original; all made in {took:.1} s, {:.2} times real time",
            size("proxy.mp4") / 1e6,
            size("proxy.mp4") / original,
            took / length,
        );
        let media = |which: &str| format!("/media/{content}/{which}");
        pairs.push(serde_json::json!({"name": name, "proxy": media("proxy"), "original": media("original")}));
    }
    let status = Command::new("npx")
        .args(["playwright", "test", "--config", "bench.config.ts"])
        .current_dir(root().join("e2e"))
        .env("UMLAUF_URL", &program.url)
        .env("UMLAUF_BENCH", serde_json::Value::from(pairs).to_string())
        .status();
    assert!(status.unwrap().success());
}

#[test]
#[ignore = "a measurement: run by `make bench`"]
fn a_two_gigabyte_upload() {
    let folder = tempfile::tempdir().unwrap();
    let yard = folder.path().join("yard");
    let program = Program::start(&["serve"], &yard);
    let clip = folder.path().join("clip.mp4");
    common::counting_clip(&clip, 320, 60, 30);
    let mut bytes = fs::read(&clip).unwrap();
    let padding: u32 = 2_000_000_000;
    bytes.extend(padding.to_be_bytes());
    bytes.extend(b"free");
    fs::write(&clip, &bytes).unwrap();
    let whole = bytes.len() as u64 + u64::from(padding) - 8;
    fs::OpenOptions::new().write(true).open(&clip).unwrap().set_len(whole).unwrap();
    let before = program.memory_kib();
    let began = Instant::now();
    let id = program.send_file(&clip, None).unwrap();
    let took = began.elapsed().as_secs_f64();
    let grown = program.peak_memory_kib().saturating_sub(before);
    println!(
        "2 GB upload: {:.0} MB/s, server grew by {:.1} MB (aim below 50)",
        whole as f64 / 1e6 / took,
        grown as f64 / 1024.0
    );
    program.kill();
    let program = Program::start(&["serve"], &yard);
    let view = http::get(&format!("{}/api/clips/{id}", program.url)).json();
    assert_eq!(view["bytes"].as_u64(), Some(whole));
}
