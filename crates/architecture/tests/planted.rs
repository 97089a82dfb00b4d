//! Plants what a plan forbids and sees it found.
#![allow(clippy::unwrap_used, reason = "a test that cannot go on has failed")]

use std::fs;

use umlauf_architecture::{Language, Plan, complaints};

fn said(files: &[(&str, &str)], language: Language, plan: &Plan<'_>) -> Vec<String> {
    let folder = tempfile::tempdir().unwrap();
    for (name, text) in files {
        let path = folder.path().join(name);
        fs::create_dir_all(path.parent().unwrap()).unwrap();
        fs::write(path, text).unwrap();
    }
    complaints(folder.path(), language, plan).unwrap()
}

const PLAN: Plan<'static> =
    Plan { levels: &[&["low"], &["left", "right"], &["lib"]], most_lines: 5, longer: &[] };

#[test]
fn a_house_in_order_has_no_complaint() {
    let files = [
        ("lib.rs", "pub mod low;\npub use left::a::A;"),
        ("low/mod.rs", "pub mod a;\n"),
        (
            "low/a.rs",
            "pub struct A;\n// not crate::left::a::A\nconst B: &str = \"crate::left::a\";",
        ),
        (
            "left/a.rs",
            "use crate::low::a::{A, B};\n\n#[cfg(test)]\nmod tests { use crate::right::a::C; }",
        ),
        ("right/a.rs", "fn f() -> crate::low::a::A { todo() }"),
    ];
    assert_eq!(said(&files, Language::Rust, &PLAN), Vec::<String>::new());
}

#[test]
fn an_arrow_upwards_or_sideways_is_found_however_it_is_written() {
    for upward in [
        "use crate::left::a::A;",
        "use crate::{low::b::B, left::{a::{self, A}}};",
        "use super::super::left::a::A;",
        "fn f(x: &crate::left::a::A) {}",
    ] {
        let files = [("low/a.rs", upward), ("low/b.rs", ""), ("left/a.rs", "")];
        let all = said(&files, Language::Rust, &PLAN);
        assert_eq!(all, ["low/a.rs uses left/a.rs, which stands above it"], "{upward}");
    }
    let files = [("right/a.rs", "use crate::left::a::A;"), ("left/a.rs", "")];
    assert_eq!(
        said(&files, Language::Rust, &PLAN),
        ["right/a.rs uses left/a.rs, which stands beside it"]
    );
}

#[test]
fn rings_long_files_and_unknown_folders_are_found() {
    let files = [
        ("low/a.rs", "use super::b::B;"),
        ("low/b.rs", "use crate::low::c::C;"),
        ("low/c.rs", "use crate::low::a::A;"),
        ("low/d.rs", "use crate::low::a::A;"),
    ];
    assert_eq!(said(&files, Language::Rust, &PLAN), ["a ring: low/a.rs → low/b.rs → low/c.rs"]);
    let files = [("low/a.rs", "a\n\nb\n// c\nd\ne\nf\ng\n"), ("cellar/a.rs", "")];
    assert_eq!(
        said(&files, Language::Rust, &PLAN),
        [
            "cellar/a.rs: its folder `cellar` stands in no level of the plan",
            "low/a.rs: 6 lines of code, more than 5"
        ]
    );
    let listed = Plan { longer: &[("low/a.rs", "a table"), ("low/z.rs", "gone")], ..PLAN };
    assert_eq!(
        said(&[("low/a.rs", "a")], Language::Rust, &listed),
        [
            "low/a.rs is listed as longer than 5 lines and is not",
            "low/z.rs is listed as longer and is not there"
        ]
    );
}

#[test]
fn screens_do_not_import_each_other() {
    let files = [
        (
            "left/page.tsx",
            "import { a } from \"../low/a\";\nimport type { B } from \"../right/b.ts\";",
        ),
        ("left/page.test.tsx", "import { c } from \"../right/b\";"),
        ("right/b.ts", "const lazy = () => import(\"../left/page\");"),
        ("low/a.ts", "import { useState } from \"react\";"),
    ];
    assert_eq!(
        said(&files, Language::TypeScript, &PLAN),
        [
            "left/page.tsx uses right/b.ts, which stands beside it",
            "right/b.ts uses left/page.tsx, which stands beside it",
            "a ring: left/page.tsx → right/b.ts"
        ]
    );
}
