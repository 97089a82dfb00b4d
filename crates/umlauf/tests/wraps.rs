//! A horse with wraps on its legs, drawn in colour and encoded: its limbs are told by what it wears, as one click on
//! each has shown; or by a click on a hoof of each.
#![allow(clippy::unwrap_used, reason = "a test that cannot go on has failed")]

mod common;

use std::fmt::Write as _;
use std::path::Path;
use std::process::Command;

use common::{root, worn};
use umlauf::suggest::worn::{Click, Shown, hooves, wraps};
use umlauf_gait::base::limb::Limb;
use umlauf_gait::marks::footfall_csv;
use umlauf_synth::flat::film::{FlatFilm, MARGIN_S};

/// Footfalls told of the right limb, and of another than landed then.
fn told(film: &FlatFilm, path: &Path, flag: &str, table: &Path) -> (usize, usize) {
    let out = Command::new(env!("CARGO_BIN_EXE_umlauf"))
        .args(["suggest", path.to_str().unwrap(), flag, table.to_str().unwrap()])
        .current_dir(root())
        .output()
        .unwrap();
    assert!(out.status.success(), "{}", String::from_utf8_lossy(&out.stderr));
    let seen = footfall_csv::read(&out.stdout).unwrap().footfalls;
    let there = |limb: Limb, on: f64| {
        let stances = &film.truth.stances[limb.index()];
        stances.iter().any(|s| (s.on + MARGIN_S - on).abs() < 1.5 / worn::RATE)
    };
    let right = seen.iter().filter(|f| there(f.limb, f.on.0)).count();
    let landed = |on: f64| Limb::ALL.into_iter().any(|l| there(l, on));
    let wrong = seen.iter().filter(|f| !there(f.limb, f.on.0) && landed(f.on.0)).count();
    assert!(seen.len() - right - wrong <= 1, "{} told", seen.len());
    (right, wrong)
}

#[test]
fn a_limb_is_told_by_the_wrap_that_one_click_has_shown() {
    let folder = tempfile::tempdir().unwrap();
    let (film, path) = (worn::film(), folder.path().join("wraps.mp4"));
    worn::encode(&film, &path);
    // A click on each wrap, or hoof, in the middle of a stance.
    let clicks = |of: fn(&FlatFilm, Limb) -> (f64, f64, f64), as_limb: fn(Limb) -> Limb| {
        let mut table = "limb,time_s,x_px,y_px\n".to_owned();
        for limb in Limb::ALL {
            let (at, x, y) = of(&film, limb);
            writeln!(table, "{},{at:.3},{x:.1},{y:.1}", as_limb(limb)).unwrap();
        }
        let path = folder.path().join("clicks.csv");
        std::fs::write(&path, table).unwrap();
        path
    };
    // Who says the fores the other way round gets them so: it is the wraps that are read.
    let swapped = |l: Limb| match l {
        Limb::LF => Limb::RF,
        Limb::RF => Limb::LF,
        hind => hind,
    };
    let (right, wrong) = told(&film, &path, "--wraps", &clicks(worn::click, swapped));
    assert!(right >= 7 && wrong >= 7, "{right} right, {wrong} wrong");
    // The same word on a hoof of each holds for those hooves, and the rows of all others speak against it.
    let (right, wrong) = told(&film, &path, "--hooves", &clicks(worn::hoof, swapped));
    assert!(right >= 14 && wrong == 2, "{right} right, {wrong} wrong");
    // As they are; a colour by its name does as well as a click.
    let mut table = "limb,colour\n".to_owned();
    for limb in Limb::ALL {
        let tone = film.made.wraps[limb.index()].unwrap();
        let (red, blue) = (tone.grey + 1.402 * tone.red, tone.grey + 1.772 * tone.blue);
        let green = (tone.grey - 0.299 * red - 0.114 * blue) / 0.587;
        let byte = |v: f64| (v * film.made.light).round().clamp(0.0, 255.0) as u8;
        writeln!(table, "{limb},#{:02x}{:02x}{:02x}", byte(red), byte(green), byte(blue)).unwrap();
    }
    let named = folder.path().join("named.csv");
    std::fs::write(&named, table).unwrap();
    let (right, wrong) = told(&film, &path, "--wraps", &named);
    assert!(right >= 16 && wrong == 0, "{right} right, {wrong} wrong");
}

#[test]
fn a_table_of_wraps_is_read_or_says_its_line() {
    let read = |text: &str| wraps(text.as_bytes());
    let both = read("limb,time_s,x_px,y_px,colour\nLF,1.5,300,200,\nRH,,,,#Ff8000\n").unwrap();
    assert_eq!(both[0], (Limb::LF, Shown::Click(Click { at_s: 1.5, x: 300.0, y: 200.0 })));
    assert_eq!(both[1], (Limb::RH, Shown::Rgb([255, 128, 0])));
    for (text, says) in [
        ("", "limb"),
        ("limb,time_s\nLF,1\n", "x_px"),
        ("limb,colour\n", "no wrap"),
        ("limb,colour\nLG,#ff0000\n", "line 2: `LG`"),
        ("limb,colour\nLF,#ff0000\nRF,rot\n", "line 3: `rot`"),
        ("limb,colour\nLF,#ffäöü\n", "line 2"),
        ("limb,time_s,x_px,y_px\nLF,NaN,1,1\n", "time_s `NaN`"),
        ("limb,time_s,x_px,y_px\nLF,1,-4,1\n", "x_px `-4`"),
    ] {
        let error = format!("{:#}", read(text).unwrap_err());
        assert!(error.contains(says), "{text:?}: {error}");
    }
    // A hoof has no colour of its own.
    let read = |text: &str| hooves(text.as_bytes());
    let one = read("limb,time_s,x_px,y_px\nRF,0.5,10,20\n").unwrap();
    assert_eq!(one, [(Limb::RF, Click { at_s: 0.5, x: 10.0, y: 20.0 })]);
    let error = format!("{:#}", read("limb,colour\nLF,#ff0000\n").unwrap_err());
    assert!(error.contains("by a click"), "{error}");
}
