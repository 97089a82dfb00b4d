//! The program's modules and the page's folders stand in reading order; arrows point down.

mod common;

use umlauf_architecture::{Language, Plan, complaints};

/// Modules of the program from the bottom up.
const PROGRAM: Plan<'static> = Plan {
    levels: &[
        &[
            "assets",
            "at_length",
            "dates",
            "archive_error",
            "choices",
            "copied",
            "films",
            "held",
            "room",
        ],
        &["refused"],
        &["problem"],
        &["people"],
        &["check"],
        &["clip"],
        &["document"],
        &["digest"],
        &["suggest"],
        &["desk", "ground", "compare", "arena", "vocabulary"],
        &["record"],
        &["yard"],
        &["report"],
        &["app"],
        &["intake"],
        &["jobs"],
        &["share", "archive"],
        &["leftovers", "backup"],
        &["watchman"],
        &["api"],
        &["server"],
        &["demo"],
        &["cli"],
        &["lib"],
        &["main"],
    ],
    most_lines: 350,
    longer: &[],
};

#[test]
fn the_programs_arrows_point_down_and_its_files_stay_short() {
    let source = common::root().join("crates/umlauf/src");
    let found = complaints(&source, Language::Rust, &PROGRAM).expect("the source can be read");
    assert_eq!(found, Vec::<String>::new());
}

/// The framework's own state extractor would hand out the yard without saying who asks.
#[test]
fn no_handler_reaches_the_yard_without_knowing_who_asks() {
    let handlers = common::root().join("crates/umlauf/src/api");
    for file in std::fs::read_dir(handlers).expect("the handlers can be read") {
        let path = file.expect("a file").path();
        let text = std::fs::read_to_string(&path).expect("a handler's file");
        for way in ["extract::State<", "axum::extract::State", "extract::{State", "Extension"] {
            assert!(!text.contains(way), "{} takes the yard by {way}", path.display());
        }
    }
}

/// Folders of the page from the bottom up; screens stand beside one another.
const PAGE: Plan<'static> = Plan {
    levels: &[
        &["api"],
        &["ui"],
        &["live"],
        &["wheel", "strip", "picture"],
        &[
            "arena", "beside", "desk", "door", "filming", "ground", "record", "session", "setup",
            "yard",
        ],
        &["main"],
    ],
    most_lines: 350,
    longer: &[],
};

#[test]
fn the_pages_arrows_point_down_and_its_screens_keep_to_themselves() {
    let source = common::root().join("web/src");
    let found = complaints(&source, Language::TypeScript, &PAGE).expect("the page can be read");
    assert_eq!(found, Vec::<String>::new());
}
