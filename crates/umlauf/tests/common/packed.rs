//! Yards packed for a test, and an empty yard that they are sent to.
#![allow(clippy::unwrap_used, reason = "a test that cannot go on has failed")]

use std::io::{Cursor, Write as _};
use std::path::{Path, PathBuf};
use std::process::Command;

use serde_json::{Value, json};
use umlauf_store::archive::VERSION;
use zip::write::SimpleFileOptions;
use zip::{CompressionMethod, ZipWriter};

use super::Program;
use super::http::{get, send};

/// A small film by its bytes: nothing looks into it before it is in the yard.
pub const FILM: &[u8] = b"not really a film, but what a hash is made of";

pub fn content() -> String {
    blake3::hash(FILM).to_hex().to_string()
}

/// A yard of one horse, one session and one clip, as `tables` of its document.
pub fn tables(clip: &Value) -> Vec<Value> {
    let mut own = json!({
        "id": 1, "session": 1, "name": "watt", "content": content(), "file": "watt.mp4",
        "bytes": FILM.len(), "codec": "h264", "width": 64, "height": 48, "frame_rate": 50.0,
        "frame_times": {"hex": "0000000000000000204e000000000000"}, "length_s": 0.04,
        "settings": "{}",
    });
    for (key, value) in clip.as_object().unwrap() {
        own[key] = value.clone();
    }
    let (columns, row): (Vec<Value>, Vec<Value>) =
        own.as_object().unwrap().iter().map(|(k, v)| (json!(k), v.clone())).unzip();
    vec![
        json!({"name": "horse", "columns": ["id", "name"], "rows": [[1, "Kiebitz"]]}),
        json!({"name": "session", "columns": ["id", "horse", "date"], "rows": [[1, 1, "2026-03-01"]]}),
        json!({"name": "clip", "columns": columns, "rows": [row]}),
    ]
}

/// A table of one row beside the others.
pub fn and(name: &str, columns: &[&str], row: Value) -> Vec<Value> {
    let mut all = tables(&json!({}));
    all.push(json!({"name": name, "columns": columns, "rows": [row]}));
    all
}

pub fn packed(document: &str, films: &[(String, &[u8], CompressionMethod)]) -> Vec<u8> {
    let mut zip = ZipWriter::new(Cursor::new(Vec::new()));
    let deflated = SimpleFileOptions::default().compression_method(CompressionMethod::Deflated);
    zip.start_file("yard.json", deflated).unwrap();
    zip.write_all(document.as_bytes()).unwrap();
    for (name, bytes, method) in films {
        zip.start_file(name, SimpleFileOptions::default().compression_method(*method)).unwrap();
        zip.write_all(bytes).unwrap();
    }
    zip.finish().unwrap().into_inner()
}

pub fn film() -> (String, &'static [u8], CompressionMethod) {
    (format!("footage/{}/watt.mp4", content()), FILM, CompressionMethod::Stored)
}

pub fn zip(tables: &[Value]) -> Vec<u8> {
    let document = json!({"schema": "umlauf.yard/1", "version": VERSION, "tables": tables});
    packed(&document.to_string(), &[film()])
}

/// All files below a folder with what is in them.
pub fn below(folder: &Path) -> Vec<(PathBuf, Vec<u8>)> {
    let mut out = Vec::new();
    for entry in std::fs::read_dir(folder).into_iter().flatten().flatten() {
        if entry.path().is_dir() {
            out.extend(below(&entry.path()));
        } else {
            out.push((entry.path(), std::fs::read(entry.path()).unwrap()));
        }
    }
    out.sort();
    out
}

pub struct Yard {
    /// Gone with this value.
    pub folder: tempfile::TempDir,
    /// What lies beside the yard and is nobody's business.
    pub outside: PathBuf,
    pub data: PathBuf,
    pub program: Program,
}

impl Yard {
    pub fn empty() -> Self {
        let folder = tempfile::tempdir().unwrap();
        let outside = folder.path().join("outside");
        std::fs::create_dir_all(&outside).unwrap();
        std::fs::write(outside.join("letter.txt"), "of the coach").unwrap();
        let data = folder.path().join("yard");
        let program = Program::start(&["serve"], &data);
        Self { folder, outside, data, program }
    }

    pub fn at(&self, path: &str) -> String {
        format!("{}/api/{path}", self.program.url)
    }

    pub fn import(&self, zip: &[u8]) -> (u16, String) {
        let answer = send("POST", &self.at("import"), &[("Content-Type", "application/zip")], zip);
        (answer.status, answer.text)
    }

    /// Every page answers, and there is nothing in the yard.
    pub fn is_untouched(&self, after: &str) {
        let yard = get(&self.at("yard"));
        assert_eq!(yard.status, 200, "{after}");
        assert_eq!(yard.json()["horses"], json!([]), "{after}");
        assert_eq!(below(&self.data.join("footage")), vec![], "{after}");
        assert_eq!(below(&self.data.join("incoming")), vec![], "{after}");
        assert!(!self.data.join("coming-back").exists(), "{after}");
        assert_eq!(below(&self.outside).len(), 1, "{after}");
    }
}

/// What `umlauf restore` says.
pub fn restore(zip: &Path, data: &Path) -> (bool, String) {
    let out = Command::new(env!("CARGO_BIN_EXE_umlauf"))
        .args(["restore", zip.to_str().unwrap(), "--data", data.to_str().unwrap()])
        .output()
        .unwrap();
    let said = [out.stdout, out.stderr].concat();
    (out.status.success(), String::from_utf8(said).unwrap())
}
