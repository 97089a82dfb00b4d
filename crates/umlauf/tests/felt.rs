//! `umlauf suggest` with what is known beside a film: sensors that the horse wore, strides that are labelled, and whole
//! folders of films.
#![allow(clippy::unwrap_used, reason = "a test that cannot go on has failed")]

mod common;

use std::fmt::Write as _;
use std::path::Path;
use std::process::Command;

use common::root;
use serde_json::Value;
use umlauf::suggest::felt::Sensed;
use umlauf::suggest::suggestion::Suggestion;
use umlauf::suggest::with_sensors::joined;
use umlauf_gait::Footfall;
use umlauf_gait::base::limb::Limb;
use umlauf_gait::marks::footfall_csv;
use umlauf_signals::sensor::hoof::Felt;
use umlauf_synth::clips::DEMO;
use umlauf_synth::sensors::{Sensor, hoof, trunk};

fn command(args: &[&str]) -> (Option<i32>, String, String) {
    let out =
        Command::new(env!("CARGO_BIN_EXE_umlauf")).args(args).current_dir(root()).output().unwrap();
    let text = |bytes: Vec<u8>| String::from_utf8(bytes).unwrap();
    (out.status.code(), text(out.stdout), text(out.stderr))
}

fn suggested(args: &[&str]) -> Value {
    let (status, out, err) = command(&[&["suggest"][..], args, &["--json"]].concat());
    assert_eq!(status, Some(0), "{err}");
    serde_json::from_str(&out).unwrap()
}

fn truth(clip: &str) -> Vec<Footfall> {
    let table = std::fs::read(root().join(format!("demo/{clip}.footfalls.csv"))).unwrap();
    footfall_csv::read(&table).unwrap().footfalls
}

/// What sensors on a clip's horse feel, by a clock that is late.
fn table(clip: &str, limbs: &[Limb], with_trunk: bool, late: f64) -> String {
    let film = DEMO.iter().find(|c| c.name == clip).unwrap().film();
    let sensor = Sensor { late_s: late + film.shot.margin_s, ..Sensor::usual(3) };
    let mut out = "time_s,limb,ax,ay,az\n".to_owned();
    let mut rows = |of: &str, all: Vec<(f64, [f64; 3])>| {
        for (at, [x, y, z]) in all {
            writeln!(out, "{at:.4},{of},{x:.2},{y:.2},{z:.2}").unwrap();
        }
    };
    for limb in limbs {
        rows(limb.code(), hoof(&film.truth, *limb, sensor));
    }
    if with_trunk {
        rows("trunk", trunk(&film.truth, sensor));
    }
    out
}

/// Errors of what has a limb and a source, s, by the nearest footfall of that limb.
fn errors(found: &Value, clip: &str, source: &str) -> Vec<f64> {
    let truth = truth(clip);
    let all = found["footfalls"].as_array().unwrap();
    let told = all.iter().filter(|f| f["source"].as_str().unwrap().contains(source));
    told.map(|f| {
        let limb: Limb = f["limb"].as_str().unwrap().parse().unwrap();
        let on = f["on_s"].as_f64().unwrap();
        let own = truth.iter().filter(|t| t.limb == limb).map(|t| on - t.on.0);
        own.min_by(|a, b| a.abs().total_cmp(&b.abs())).unwrap()
    })
    .collect()
}

#[test]
fn sensors_with_a_clock_of_their_own_are_lined_up_with_the_film() {
    let folder = tempfile::tempdir().unwrap();
    let path = folder.path().join("felt.csv");
    let clip = "bernsteen-changes";
    std::fs::write(&path, table(clip, &[Limb::LH, Limb::RH], true, -1.3)).unwrap();
    let found = suggested(&["demo/bernsteen-changes.mp4", "--sensor", path.to_str().unwrap()]);
    let late = found["sensor_late_s"].as_f64().unwrap();
    assert!((late + 1.3).abs() < 0.005, "{late}");
    let errors = errors(&found, clip, "sensor");
    let within = errors.iter().filter(|e| e.abs() < 0.01).count();
    // A stride before and after the ride is felt, and is not in the table.
    assert!(within >= 26 && errors.len() <= within + 6, "{within} of {}", errors.len());
    let tempo = found["trunk"]["tempo"].as_f64().unwrap();
    let hinds: Vec<f64> =
        truth(clip).iter().filter(|t| t.limb == Limb::LH).map(|t| t.on.0).collect();
    let strides = (hinds.len() - 1) as f64;
    let truly = 60.0 * strides / (hinds[hinds.len() - 1] - hinds[0]);
    assert!((tempo / truly - 1.0).abs() < 0.01, "{tempo} {truly}");
}

#[test]
fn sensors_alone_are_taken_by_their_own_clock_and_it_is_said() {
    let found = suggested(&[
        "demo/distel-trot.mp4",
        "--use",
        "sensor",
        "--sensor",
        "demo/distel-trot.sensor.csv",
    ]);
    assert_eq!(found["gait"], "trot");
    assert!(found["sensors"][0].as_str().unwrap().contains("taken as it is"), "{found}");
    let first = found["footfalls"][3]["on_s"].as_f64().unwrap();
    let truth = truth("distel-trot");
    // The shipped table's clock is 0.4 s late.
    assert!(truth.iter().any(|t| (t.on.0 + 0.4 - first).abs() < 0.004), "{first}");
}

#[test]
fn one_labelled_stride_names_the_beats_of_a_walk() {
    let folder = tempfile::tempdir().unwrap();
    let path = folder.path().join("known.csv");
    let truth = truth("kiebitz-walk");
    let middle = truth.len() / 2;
    let mut known = "limb,on_s\n".to_owned();
    let mut all = truth.clone();
    all.sort_by(|a, b| a.on.0.total_cmp(&b.on.0));
    for f in &all[middle..middle + 4] {
        writeln!(known, "{},{}", f.limb, f.on.0).unwrap();
    }
    std::fs::write(&path, known).unwrap();
    let film = "demo/kiebitz-walk.mp4";
    let found = suggested(&[film, "--use", "sound", "--known", path.to_str().unwrap()]);
    let named: Vec<&Value> =
        found["footfalls"].as_array().unwrap().iter().filter(|f| !f["limb"].is_null()).collect();
    let right = named.iter().filter(|f| {
        let on = f["on_s"].as_f64().unwrap();
        let limb: Limb = f["limb"].as_str().unwrap().parse().unwrap();
        truth.iter().any(|t| t.limb == limb && (t.on.0 - on).abs() < 0.015)
    });
    let right = right.count();
    assert!(10 * right >= 9 * truth.len() && named.len() <= right + 8, "{right} {}", named.len());
    assert_eq!(found["gait"], "walk");
}

#[test]
fn a_folder_is_gone_through_and_what_is_no_film_does_not_stop_it() {
    let folder = tempfile::tempdir().unwrap();
    let (from, into) = (folder.path().join("films"), folder.path().join("tables"));
    std::fs::create_dir(&from).unwrap();
    for clip in ["kiebitz-walk", "distel-trot"] {
        let film = format!("{clip}.mp4");
        std::fs::copy(root().join("demo").join(&film), from.join(&film)).unwrap();
    }
    std::fs::write(from.join("broken.mp4"), b"no film").unwrap();
    let args = |into: &Path| {
        let text = |p: &Path| p.to_str().unwrap().to_owned();
        vec![text(&from), "--use".into(), "sound".into(), "--into".into(), text(into)]
    };
    let all = args(&into);
    let all: Vec<&str> = std::iter::once("suggest").chain(all.iter().map(String::as_str)).collect();
    let (status, out, err) = command(&all);
    assert_eq!(status, Some(1), "{out}{err}");
    assert!(err.contains("1 of 3 films"), "{err}");
    assert!(out.contains("broken.mp4: ") && out.contains("kiebitz-walk.mp4: 0 footfalls"), "{out}");
    for clip in ["kiebitz-walk", "distel-trot"] {
        let table = std::fs::read_to_string(into.join(format!("{clip}.footfalls.csv"))).unwrap();
        assert!(table.lines().filter(|l| l.contains(",sound,")).count() > 15, "{table}");
    }
    assert!(!into.join("broken.footfalls.csv").exists());
}

#[test]
fn a_table_that_is_none_of_a_sensor_says_where_and_what() {
    let folder = tempfile::tempdir().unwrap();
    let path = folder.path().join("felt.csv");
    for (table, says) in [
        ("", "no column `time_s`"),
        ("time_s,limb,ax,ay\n1,LF,1,2\n", "no column `az`"),
        ("time_s,limb,ax,ay,az\n", "no samples"),
        ("time_s,limb,ax,ay,az\n0.1,LX,1,2,3\n", "line 2: `LX` is no limb"),
        ("time_s,limb,ax,ay,az\n0.1,LF,1,2,3\n0.2,LF,1,x,3\n", "line 3: ay `x` is no number"),
        ("time_s,limb,ax,ay,az\n0.1,LF,1,2,NaN\n", "line 2: az `NaN` is no number"),
        ("time_s,limb,ax,ay,az\n0.1,LF,98000,2,3\n", "m/s²"),
    ] {
        std::fs::write(&path, table).unwrap();
        let film = "demo/distel-trot.mp4";
        let (status, out, err) = command(&["suggest", film, "--sensor", path.to_str().unwrap()]);
        assert_eq!((status, out.as_str()), (Some(1), ""), "{table}");
        assert!(err.contains(says), "{table}: {err}");
    }
    let (status, _, err) = command(&["suggest", "demo", "--sensor", path.to_str().unwrap()]);
    assert!(status == Some(1) && err.contains("belong to one film"), "{err}");
    let (status, _, err) = command(&["suggest", "demo"]);
    assert!(status == Some(1) && err.contains("--into"), "{err}");
}

fn told(limb: Option<&str>, on_s: f64, source: &'static str) -> Suggestion {
    Suggestion {
        limb: limb.map(str::to_owned),
        on_s,
        off_s: None,
        heel_off_s: None,
        x_px: None,
        y_px: None,
        sd_on_s: 0.004,
        sd_off_s: None,
        confidence: 0.9,
        source,
        why: String::new(),
        at_on: None,
        told_from: None,
    }
}

fn landing(on: f64) -> Felt {
    Felt { on, on_sd: 0.002, heel_off: None, off: None, off_sd: 0.01, confidence: 0.99 }
}

#[test]
fn where_picture_and_sensor_disagree_the_row_says_so() {
    // Strides of no one length, that a stride too many is told from.
    let ons: Vec<f64> = (0..10).map(|k| 0.7 * f64::from(k) + 0.02 * f64::from(k * k % 7)).collect();
    let mut seen: Vec<Suggestion> = ons.iter().map(|on| told(Some("LF"), *on, "picture")).collect();
    seen[4].limb = Some("RF".to_owned());
    seen[6].on_s += 0.03;
    seen.push(told(Some("LF"), 3.1, "picture"));
    let felt = ons.iter().map(|on| landing(on + 0.25)).collect();
    let mut sensed = Sensed { span: (0.0, 10.0), ..Sensed::default() };
    sensed.hooves.insert(Limb::LF, felt);
    let all = joined(seen, &[], &sensed);
    assert!((all.late_s.unwrap() - 0.25).abs() < 0.002, "{:?}", all.late_s);
    let at = |on: f64| all.footfalls.iter().find(|f| (f.on_s - on).abs() < 0.003).unwrap();
    assert_eq!(at(ons[4]).limb.as_deref(), Some("LF"));
    assert!(at(ons[4]).why.contains("the picture says RF"));
    // The sensor's moment, not one between, and less sure.
    assert!(at(ons[6]).why.contains("apart") && at(ons[6]).confidence < at(ons[7]).confidence);
    assert!(at(3.1).why.contains("felt no landing") && at(3.1).confidence < 0.5);
}

#[test]
fn a_clap_lines_up_what_nothing_was_seen_of_and_two_do_not() {
    let mut sensed = Sensed { span: (0.0, 10.0), ..Sensed::default() };
    let felt = [1.0, 4.0, 4.4, 4.8, 5.2].map(landing).to_vec();
    sensed.hooves.insert(Limb::LF, felt);
    let one = joined(vec![], &[3.0, 6.0, 6.4, 6.8], &sensed);
    assert_eq!(one.late_s, Some(-2.0));
    assert!(one.says[0].contains("clap"), "{:?}", one.says);
    let two = joined(vec![], &[3.0, 6.0, 6.4, 6.8, 9.0], &sensed);
    assert_eq!(two.late_s, Some(0.0));
    assert!(two.says[0].contains("taken as it is"), "{:?}", two.says);
}

/// What a listener that is sent `bytes` says, and whether it was done.
fn listened(into: &Path, bytes: &[u8]) -> (bool, String, String) {
    use std::io::{BufRead as _, BufReader, Read as _, Write as _};
    let mut child = Command::new(env!("CARGO_BIN_EXE_umlauf"))
        .args(["listen", "--at", "127.0.0.1:0", "--into", into.to_str().unwrap()])
        .stdout(std::process::Stdio::piped())
        .stderr(std::process::Stdio::piped())
        .spawn()
        .unwrap();
    let mut out = BufReader::new(child.stdout.take().unwrap());
    let mut line = String::new();
    out.read_line(&mut line).unwrap();
    let at = line.trim().strip_prefix("listening at ").unwrap().to_owned();
    let mut stream = std::net::TcpStream::connect(at).unwrap();
    // It may have heard enough before all is sent.
    let _ = stream.write_all(bytes);
    drop(stream);
    let (mut says, mut error) = (String::new(), String::new());
    out.read_to_string(&mut says).unwrap();
    child.stderr.take().unwrap().read_to_string(&mut error).unwrap();
    (child.wait().unwrap().success(), says, error)
}

#[test]
fn what_sensors_send_is_kept_sample_by_sample_and_what_is_none_is_left_out() {
    let folder = tempfile::tempdir().unwrap();
    let whole = table("distel-trot", &[Limb::LF, Limb::RH], true, 0.0);
    // A line that is no sample, and a last one that is cut off.
    let (head, rest) = whole.split_at(whole.find('\n').unwrap() + 1);
    let sent = format!("{head}1.0,LX,1,2,3\n0.5,LF,nan,0,0\n{rest}3.1,LF,9");
    let into = folder.path().join("felt.csv");
    let (done, says, error) = listened(&into, sent.as_bytes());
    assert!(done, "{error}");
    assert_eq!(std::fs::read_to_string(&into).unwrap(), whole);
    let samples = whole.lines().count() - 1;
    assert!(says.contains(&format!("{samples} samples, 3 lines that were none")), "{says}");
    assert!(says.contains("landings of LF") && says.contains("landings of RH"), "{says}");
    assert!(says.contains("trunk at 79."), "{says}");
    // What is there is not written over; what is no stream of samples ends it, and what came is kept.
    let args = ["listen", "--at", "127.0.0.1:0", "--into", into.to_str().unwrap()];
    assert!(command(&args).2.contains("is it there already?"));
    assert!(
        command(&["listen", "--at", "0.0.0.0:0", "--into", "/tmp/no"]).2.contains("this machine")
    );
    let into = folder.path().join("endless.csv");
    let endless = [head.as_bytes(), b"0.1,LF,1,2,3\n", &[b'7'; 100_000]].concat();
    let (done, _, error) = listened(&into, &endless);
    assert!(!done && error.contains("longer than 200 bytes"), "{error}");
    assert_eq!(std::fs::read_to_string(&into).unwrap().lines().count(), 2);
}
