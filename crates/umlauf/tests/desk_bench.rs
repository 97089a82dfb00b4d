//! Speed of the Timing desk on a clip of half an hour with ten thousand marks, printed by
//! `make bench`.
#![allow(clippy::unwrap_used, reason = "a bench that cannot go on has failed")]

mod common;

use std::process::Command;
use std::time::{Duration, Instant};

use common::http::{get, post};
use common::{Program, root};
use serde_json::{Value, json};

/// A canter of 2,500 strides over half an hour, four marks each, on frames of 30 a second.
fn marks(frames: &[i64]) -> Vec<Value> {
    let mut out = Vec::new();
    let mut start = 0.5;
    for k in 0..2_500u32 {
        let t = 0.715 * (1.0 + 0.01 * (f64::from(k) * 1.7).sin());
        for (limb, phase) in [("RH", 0.0), ("LH", 0.27), ("RF", 0.31), ("LF", 0.53)] {
            let frame = |s: f64| {
                let us = (s * 1e6) as i64;
                frames[frames.partition_point(|f| *f < us).min(frames.len() - 1)]
            };
            let on = start + phase * t;
            out.push(json!({"before": null, "after": {
                "id": format!("m{}", out.len()), "limb": limb,
                "on_us": frame(on), "off_us": frame(on + 0.44 * t)
            }}));
        }
        start += t;
    }
    out
}

#[test]
#[ignore = "a measurement: run by `make bench`"]
fn one_mark_among_ten_thousand() {
    let folder = tempfile::tempdir().unwrap();
    let program = Program::looking(&["serve"], &folder.path().join("yard"));
    let clip = folder.path().join("half-an-hour.mp4");
    let made = Command::new("ffmpeg")
        .args(["-v", "error", "-f", "lavfi", "-i", "color=c=gray:size=64x48:rate=30:duration=1800"])
        .args(["-c:v", "libx264", "-preset", "ultrafast", "-pix_fmt", "yuv420p"])
        .arg(&clip)
        .status();
    assert!(made.unwrap().success());
    let id = program.send_file(&clip, None).unwrap();
    program.wait_for_jobs(Duration::from_secs(600));
    let at = |path: &str| format!("{}/api/clips/{id}/{path}", program.url);
    let frames: Vec<i64> =
        serde_json::from_value(get(&at("frames")).json()["times_us"].clone()).unwrap();
    let all = marks(&frames);
    let answer = post(&at("edits"), &json!({"edit_id": "all", "changes": all}));
    assert_eq!(answer.status, 200, "{}", answer.text);

    let mut here = all[5_000]["after"].clone();
    edits("one mark of 10,000 moved, server", &at("edits"), &mut here);
    page(&program, id);

    // The same while footfalls are looked for in a minute of 1080 lines at 60 frames/s.
    let large = folder.path().join("a-minute.mp4");
    let made = Command::new("ffmpeg")
        .args(["-v", "error", "-stream_loop", "-1", "-i", "demo/priel-canter.mp4", "-t", "60"])
        .args(["-vf", "scale=1920:1080,fps=60", "-c:v", "libx264", "-preset", "ultrafast"])
        .arg(&large)
        .current_dir(root())
        .status();
    assert!(made.unwrap().success());
    program.send_file(&large, None).unwrap();
    // Whether that alone is still under way.
    let looks = || {
        let jobs = get(&format!("{}/api/jobs", program.url)).json();
        let open = jobs.as_array().unwrap().iter().filter(|j| {
            let state = j["state"].as_str();
            state == Some("waiting") || state == Some("running")
        });
        let kinds: Vec<&Value> = open.map(|j| &j["kind"]).collect();
        kinds == ["footfalls"]
    };
    let began = Instant::now();
    while !looks() {
        assert!(began.elapsed() < Duration::from_secs(300), "it is not looked for");
        std::thread::sleep(Duration::from_millis(50));
    }
    edits("the same while footfalls are looked for, server", &at("edits"), &mut here);
    println!("(still looking: {})", looks());
    page(&program, id);
    println!("(still looking: {})", looks());
}

/// Moves one mark to and fro a hundred times and prints how long the server took.
fn edits(what: &str, url: &str, here: &mut Value) {
    let mut took = Vec::new();
    let mut bytes = 0;
    for k in 0..100 {
        let mut there = here.clone();
        let step = if k % 2 == 0 { 33_333 } else { -33_333 };
        there["on_us"] = json!(here["on_us"].as_i64().unwrap() + step);
        let changes = [json!({"before": here, "after": there})];
        let body = json!({"edit_id": format!("{what}{k}"), "changes": changes});
        let began = Instant::now();
        let answer = post(url, &body);
        took.push(began.elapsed().as_secs_f64() * 1e3);
        assert_eq!(answer.status, 200, "{}", answer.text);
        bytes = answer.body.len();
        *here = there;
    }
    took.sort_by(f64::total_cmp);
    println!(
        "{what}: median {:.1} ms, 95 % {:.1} ms (aim at most 20), answer {} kB",
        took[50],
        took[94],
        bytes / 1000
    );
}

/// Steps on the strip and moved marks in the browser.
fn page(program: &Program, clip: i64) {
    let status = Command::new("npx")
        .args(["playwright", "test", "--config", "bench.config.ts", "long-clip"])
        .current_dir(root().join("e2e"))
        .env("UMLAUF_URL", &program.url)
        .env("UMLAUF_LONG", clip.to_string())
        .status();
    assert!(status.unwrap().success());
}
