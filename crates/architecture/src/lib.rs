//! Holds a source folder to its plan: each folder uses only those above it in a table, files form
//! no ring, and none grows past a number of lines of code.
//!
//! Imports are read as text, in Rust (`crate::…`, `super::…`) and in TypeScript (relative paths).
//! What stands under `#[cfg(test)]` is left out: tests may look anywhere.

mod imports;
mod rings;
mod source;

use std::collections::BTreeMap;
use std::path::Path;

pub use source::{Language, SourceFile, lines_of_code};

/// What a source folder must keep to.
pub struct Plan<'a> {
    /// Folders (or files at the top) in levels, the lowest first. A level's folders use those of
    /// lower levels, and not one another.
    pub levels: &'a [&'a [&'a str]],
    /// Most lines of code in a file.
    pub most_lines: usize,
    /// Files that may be longer, each with its reason.
    pub longer: &'a [(&'a str, &'a str)],
}

/// Everything in a source folder that does not keep to a plan, a sentence each; empty when all is
/// well.
///
/// # Errors
/// When the folder cannot be read.
pub fn complaints(
    folder: &Path,
    language: Language,
    plan: &Plan<'_>,
) -> std::io::Result<Vec<String>> {
    let files = source::read(folder, language)?;
    let names: Vec<&str> = files.iter().map(|f| f.name.as_str()).collect();
    let mut out = Vec::new();
    let mut arrows: BTreeMap<&str, Vec<String>> = BTreeMap::new();
    for file in &files {
        let used = imports::of(file, &names, language);
        let here = level(plan, file.folder());
        if here.is_none() {
            out.push(format!(
                "{}: its folder `{}` stands in no level of the plan",
                file.name,
                file.folder()
            ));
        }
        for other in &used {
            let there = folder_of(other);
            if there == file.folder() {
                continue;
            }
            match (here, level(plan, there)) {
                (Some(a), Some(b)) if b > a => {
                    out.push(format!("{} uses {other}, which stands above it", file.name));
                }
                (Some(a), Some(b)) if b == a => {
                    out.push(format!("{} uses {other}, which stands beside it", file.name));
                }
                _ => {}
            }
        }
        arrows.insert(&file.name, used);
        let reason = plan.longer.iter().find(|(name, _)| *name == file.name);
        let lines = file.lines_of_code();
        match reason {
            None if lines > plan.most_lines => out.push(format!(
                "{}: {lines} lines of code, more than {}",
                file.name, plan.most_lines
            )),
            Some(_) if lines <= plan.most_lines => out.push(format!(
                "{} is listed as longer than {} lines and is not",
                file.name, plan.most_lines
            )),
            _ => {}
        }
    }
    for (name, _) in plan.longer {
        if !names.contains(name) {
            out.push(format!("{name} is listed as longer and is not there"));
        }
    }
    for ring in rings::rings(&arrows) {
        out.push(format!("a ring: {}", ring.join(" → ")));
    }
    Ok(out)
}

/// Median lines of code of the files of a folder.
///
/// # Errors
/// When the folder cannot be read.
pub fn median_lines(folder: &Path, language: Language) -> std::io::Result<usize> {
    let mut lines: Vec<usize> =
        source::read(folder, language)?.iter().map(SourceFile::lines_of_code).collect();
    lines.sort_unstable();
    Ok(lines.get(lines.len() / 2).copied().unwrap_or(0))
}

fn level(plan: &Plan<'_>, folder: &str) -> Option<usize> {
    plan.levels.iter().position(|level| level.contains(&folder))
}

/// The first folder of a file's name, or the file's own name without its ending.
fn folder_of(name: &str) -> &str {
    name.split_once('/')
        .map_or_else(|| name.split('.').next().unwrap_or(name), |(folder, _)| folder)
}
