//! Any bytes as a footfalls table and a marks table, cut at the first empty line: read or refused,
//! analysed and put into words, never a panic. `make fuzz` runs it.

#![no_main]

use libfuzzer_sys::fuzz_target;
use umlauf_gait::{Options, analyse, words};
use umlauf_gait::marks::{captions, footfall_csv, marks_csv};

fuzz_target!(|bytes: &[u8]| {
    let cut = bytes.windows(2).position(|w| w == b"\n\n").unwrap_or(bytes.len());
    let (table, marks) = bytes.split_at(cut);
    let marks = marks_csv::read(marks.trim_ascii_start()).unwrap_or_default();
    if let Ok(table) = footfall_csv::read(table) {
        let header = &table.header;
        let options = Options {
            rein: header.rein,
            asked_lead: header.asked_lead,
            frame_rate: header.frame_rate,
            timing_sd: header.timing_sd,
            withers: header.withers,
            gaited: header.gaited.unwrap_or(false),
            marks,
            ..Options::default()
        };
        let analysis = analyse(&table.footfalls, &options);
        for finding in &analysis.findings {
            assert!(!words::finding::say(finding, &analysis.schools).says.is_empty());
        }
        captions::webvtt(&table.footfalls, |s| s);
    }
});
