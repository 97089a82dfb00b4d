//! The store's files stand in reading order and arrows between them point down.
#![allow(clippy::unwrap_used, reason = "a test that cannot go on has failed")]

use std::path::Path;

use umlauf_architecture::{Language, Plan, complaints, median_lines};

/// Files from the bottom up.
const PLAN: Plan<'static> = Plan {
    levels: &[
        &["content", "count", "error", "log"],
        &["json", "person", "origin", "role", "schema", "seal", "settings"],
        &["connections"],
        &["mark", "sealing"],
        &["store"],
        &["account", "act", "shown", "choice", "digest", "hand", "horse", "loose", "upload", "job"],
        &["signed_in", "yard"],
        &["clip", "coach_mark", "link", "session_log"],
        &["marks", "tag"],
        &["found", "journal", "ride"],
        &["bin", "archive", "soundness"],
        &["bringing", "one_horse"],
        &["lib"],
    ],
    most_lines: 350,
    longer: &[],
};

#[test]
fn arrows_point_down_and_files_stay_short() {
    let source = Path::new(env!("CARGO_MANIFEST_DIR")).join("src");
    assert_eq!(complaints(&source, Language::Rust, &PLAN).unwrap(), Vec::<String>::new());
    assert!(median_lines(&source, Language::Rust).unwrap() <= 130);
}
