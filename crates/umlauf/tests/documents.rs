//! The document is the core's figures under fixed keys and in fixed units; comparisons and tables are
//! the same figures again.
#![allow(clippy::unwrap_used, reason = "a test that cannot go on has failed")]

mod common;

use std::process::Command;

use common::http::get;
use common::{Program, root};
use serde_json::Value;
use umlauf_gait::bouts::bout_figures::BoutFigures;
use umlauf_gait::marks::footfall_csv;
use umlauf_gait::stats::estimate::Estimate;
use umlauf_gait::{Analysis, Limb, Options, analyse};

const TABLES: [&str; 5] =
    ["bernsteen-changes", "distel-trot", "kiebitz-walk", "priel-canter", "tinne-lengthening"];

/// A table of the demo by the program and by the core.
fn both(name: &str) -> (Value, Analysis) {
    let path = root().join(format!("demo/{name}.footfalls.csv"));
    let out = Command::new(env!("CARGO_BIN_EXE_umlauf"))
        .args(["analyse", "--json"])
        .arg(&path)
        .output()
        .unwrap();
    let document = serde_json::from_slice(&out.stdout).unwrap();
    let table = footfall_csv::read(&std::fs::read(path).unwrap()).unwrap();
    let h = table.header;
    let options = Options {
        rein: h.rein,
        asked_lead: h.asked_lead,
        frame_rate: h.frame_rate,
        timing_sd: h.timing_sd,
        withers: h.withers,
        gaited: h.gaited.unwrap_or(false),
        ..Options::default()
    };
    (document, analyse(&table.footfalls, &options))
}

#[track_caller]
fn is(said: &Value, figure: Option<f64>) {
    match figure {
        None => assert!(said.is_null(), "{said}"),
        Some(f) => {
            let found = said.as_f64().unwrap_or_else(|| panic!("{said} is not {f}"));
            assert!((found - f).abs() <= 1e-12 * f.abs().max(1.0), "{found} is not {f}");
        }
    }
}

#[track_caller]
fn is_estimate(said: &Value, e: Option<Estimate>) {
    let Some(e) = e else { return assert!(said.is_null(), "{said}") };
    is(&said["value"], Some(e.value));
    is(&said["sd"], e.sd);
    assert_eq!(said["n"], e.n);
    match e.ci95 {
        None => assert!(said["ci95"].is_null()),
        Some((lo, hi)) => {
            is(&said["ci95"][0], Some(lo));
            is(&said["ci95"][1], Some(hi));
        }
    }
}

fn same(said: &Value, b: &BoutFigures) {
    is(&said["start_s"], Some(b.start_s));
    is(&said["end_s"], Some(b.end_s));
    assert_eq!(said["strides"], b.strides);
    assert_eq!(said["gait"], b.label.gait.code());
    is(&said["confidence"], Some(b.confidence));
    for (key, side) in
        [("hind_lead", b.label.hind_lead), ("fore_lead", b.label.fore_lead), ("rein", b.rein)]
    {
        assert_eq!(said[key].as_str(), side.map(umlauf_gait::Side::word));
    }
    is_estimate(&said["tempo"], b.tempo.map(|t| t.tempo));
    is_estimate(&said["stride_duration_s"], b.tempo.map(|t| t.duration));
    // Sixty seconds hold tempo strides of the duration.
    let product = said["tempo"]["value"].as_f64().unwrap()
        * said["stride_duration_s"]["value"].as_f64().unwrap();
    assert!((product - 60.0).abs() < 1e-9);
    is(&said["drift_per_min"]["value"], b.drift.map(|d| d.per_min));
    is(&said["regularity_cv_pct"]["value"], b.regularity.map(|r| r.value));
    is(&said["regularity_cv_pct"]["at_most"], b.regularity.and_then(|r| r.at_most));
    for limb in Limb::ALL {
        let (key, k) = (limb.code(), limb.index());
        is(&said["phases"][key], b.phases[k]);
        is_estimate(&said["duty_factor"][key], b.duty[k]);
    }
    is_estimate(&said["lateral_advanced_placement"], b.lap);
    is_estimate(&said["diagonal_dissociation_s"]["LH-RF"], b.dissociation[0]);
    is_estimate(&said["diagonal_dissociation_s"]["RH-LF"], b.dissociation[1]);
    is(&said["beat_evenness_rms_pct"], b.beat_evenness_pct.map(|e| e.value));
    is_estimate(&said["step_asymmetry_pct"], b.step_asymmetry);
    is_estimate(&said["canter_split_s"], b.canter.map(|c| c.dissociation));
    is_estimate(&said["suspension_s"], b.suspension.map(|s| s.each));
    is_estimate(&said["stance_symmetry_pct"]["fore"], b.stance_symmetry[0]);
    is_estimate(&said["stance_symmetry_pct"]["hind"], b.stance_symmetry[1]);
    is_estimate(&said["speed"], b.travel.map(|t| t.speed));
    is_estimate(&said["stride_length_m"], b.travel.map(|t| t.stride_length));
    is_estimate(&said["overtrack_m"], b.prints.overtrack_m);
    is_estimate(&said["body_angle_deg"], b.prints.body_angle_deg);
    is(&said["froude"], b.froude);
    is(&said["relative_stride_length"], b.relative_stride_length);
    let runs = b.good_runs.as_ref().map(|r| r.iter().map(|r| r.strides).collect::<Vec<_>>());
    assert_eq!(said["good_stride_runs"], serde_json::json!(runs));
}

#[test]
fn every_figure_of_the_core_stands_in_the_document_in_its_unit() {
    let mut bouts = 0;
    for name in TABLES {
        let (document, core) = both(name);
        let said = document["bouts"].as_array().unwrap();
        assert_eq!(said.len(), core.bouts.len(), "{name}");
        for (said, b) in said.iter().zip(&core.bouts) {
            same(said, b);
            bouts += 1;
        }
        assert_eq!(document["findings"].as_array().unwrap().len(), core.findings.len());
        assert_eq!(document["input"]["footfalls"], core.footfalls);
        assert_eq!(document["headline"], umlauf_gait::words::headline::of_clip(&core));
    }
    assert!(bouts > TABLES.len(), "{bouts} bouts");
}

#[test]
fn what_is_null_in_a_bout_says_why_in_words() {
    for name in TABLES {
        let (document, _) = both(name);
        for bout in document["bouts"].as_array().unwrap() {
            let why = bout["why"].as_object().unwrap();
            for (key, says) in why {
                assert!(bout.get(key).is_some() || key == "intervals", "{name}: no key {key}");
                assert!(says.as_str().unwrap().len() > 8, "{key}: {says}");
            }
            for key in ["tempo", "regularity_cv_pct", "suspension_s", "speed", "drift_per_min"] {
                assert!(!bout[key].is_null() || why.contains_key(key), "{name}: {key}");
            }
        }
    }
}

/// Every number below a value.
fn numbers(value: &Value, out: &mut Vec<f64>) {
    match value {
        Value::Number(n) => out.extend(n.as_f64()),
        Value::Array(list) => list.iter().for_each(|v| numbers(v, out)),
        Value::Object(map) => map.values().for_each(|v| numbers(v, out)),
        _ => {}
    }
}

#[test]
fn sides_exchanged_are_the_same_comparison_seen_from_the_other_end() {
    let folder = tempfile::tempdir().unwrap();
    let program = Program::start(&["demo"], &folder.path().join("yard"));
    let ask = |a: &str, b: &str| {
        let answer = get(&format!("{}/api/compare?a={a}&b={b}", program.url));
        assert_eq!(answer.status, 200, "{:.300}", answer.text);
        answer.json()
    };
    let yard = get(&format!("{}/api/yard", program.url)).json();
    let mut compared = 0;
    for horse in yard["horses"].as_array().unwrap() {
        let sessions = horse["sessions"].as_array().unwrap();
        let (Some(first), Some(last)) = (sessions.first(), sessions.last()) else { continue };
        if first["id"] == last["id"] {
            continue;
        }
        for gait in ["walk", "trot", "canter"] {
            let side = |s: &Value| format!("session:{}:{gait}", s["id"]);
            let (a, b) = (side(first), side(last));
            let url = format!("{}/api/compare?a={a}&b={b}", program.url);
            if get(&url).status != 200 {
                continue;
            }
            let (one, other) = (ask(&a, &b), ask(&b, &a));
            let (rows, back) = (one["rows"].as_array().unwrap(), other["rows"].as_array().unwrap());
            assert_eq!(rows.len(), back.len());
            for (x, y) in rows.iter().zip(back) {
                assert_eq!(x["metric"], y["metric"]);
                let near = |p: &Value, q: &Value| {
                    let (p, q) = (p.as_f64().unwrap(), q.as_f64().unwrap());
                    assert!((p + q).abs() < 1e-9 * p.abs().max(1.0), "{x} {y}");
                };
                near(&x["difference"], &y["difference"]);
                near(&x["ci95"][0], &y["ci95"][1]);
                near(&x["ci95"][1], &y["ci95"][0]);
                assert_eq!((&x["first"], &x["second"]), (&y["second"], &y["first"]));
                let turned = match x["verdict"].as_str().unwrap() {
                    "better" => "worse",
                    "worse" => "better",
                    same => same,
                };
                assert_eq!(y["verdict"], turned, "{}", x["metric"]);
            }
            let mut all = Vec::new();
            numbers(&one, &mut all);
            assert!(all.iter().all(|n| n.is_finite()));
            compared += 1;
        }
    }
    assert!(compared >= 5, "{compared}");
}

#[test]
fn a_records_table_is_the_record() {
    let folder = tempfile::tempdir().unwrap();
    let program = Program::start(&["demo"], &folder.path().join("yard"));
    for gait in ["walk", "trot", "canter"] {
        let at = |what: &str| format!("{}/api/horses/1/{what}?gait={gait}", program.url);
        let record = get(&at("record")).json();
        let table = get(&at("record.csv"));
        assert!(table.head.contains("text/csv"), "{}", table.head);
        let mut lines = table.text.lines().map(|l| l.split(',').collect::<Vec<_>>());
        let head = lines.next().unwrap();
        let rows: Vec<Vec<&str>> = lines.collect();
        let sessions = record["sessions"].as_array().unwrap();
        assert_eq!(rows.len(), sessions.len(), "{gait}");
        for (k, (row, session)) in rows.iter().zip(sessions).enumerate() {
            assert_eq!(row.len(), head.len());
            assert_eq!(row[0], session["date"]);
            assert_eq!(row[1], session["bouts"].to_string());
            for card in record["rows"].as_array().unwrap() {
                let metric = card["metric"].as_str().unwrap();
                let at = head.iter().position(|h| *h == metric).unwrap();
                assert_eq!(head[at + 1], format!("{metric}_lo"));
                let said = &card["series"][k];
                match said["value"].as_f64() {
                    Some(value) => assert_eq!(row[at].parse::<f64>().unwrap(), value),
                    None => assert!(row[at].is_empty(), "{metric}: {}", row[at]),
                }
            }
        }
    }
}
