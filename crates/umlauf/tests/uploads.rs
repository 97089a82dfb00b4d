//! Footage on its way in: pieces that break off, come twice, in the wrong order, from two pages at
//! once, or are more than was said. What has arrived is kept to the byte; nothing else is.
#![allow(clippy::unwrap_used, reason = "a test that cannot go on has failed")]

mod common;

use std::io::{Read as _, Write as _};
use std::net::TcpStream;
use std::path::{Path, PathBuf};
use std::time::Duration;

use common::Program;
use common::http::{Answer, get, post, put, send};
use serde_json::{Value, json};

struct Yard {
    folder: tempfile::TempDir,
    program: Program,
}

impl Yard {
    fn open() -> Self {
        let folder = tempfile::tempdir().unwrap();
        let program = Program::start(&["serve"], &folder.path().join("yard"));
        Self { folder, program }
    }

    fn at(&self, path: &str) -> String {
        format!("{}/api/uploads{path}", self.program.url)
    }

    fn begin(&self, id: &str, bytes: usize) -> Answer {
        post(&self.at(""), &json!({"id": id, "session": null, "name": "ride.mp4", "bytes": bytes}))
    }

    fn piece(&self, id: &str, from: usize, bytes: &[u8]) -> Answer {
        put(&self.at(&format!("/{id}?from={from}")), bytes)
    }

    fn finish(&self, id: &str) -> Answer {
        post(&self.at(&format!("/{id}/finish")), &json!(null))
    }

    fn received(&self, id: &str) -> Option<u64> {
        let all = get(&self.at("")).json();
        let one = all.as_array().unwrap().iter().find(|u| u["id"] == id)?;
        one["received"].as_u64()
    }

    /// Files in the folder where uploads are collected.
    fn incoming(&self) -> Vec<PathBuf> {
        files(&self.folder.path().join("yard"))
            .into_iter()
            .filter(|p| p.components().any(|c| c.as_os_str() == "incoming"))
            .collect()
    }
}

fn files(folder: &Path) -> Vec<PathBuf> {
    let mut out = Vec::new();
    for entry in std::fs::read_dir(folder).unwrap().flatten() {
        let path = entry.path();
        if path.is_dir() { out.extend(files(&path)) } else { out.push(path) }
    }
    out
}

fn is(answer: &Answer, status: u16, code: &str) -> Value {
    let problem = answer.json();
    assert_eq!((answer.status, problem["code"].as_str()), (status, Some(code)), "{problem}");
    problem
}

/// A short film as it lies on a card.
fn film(folder: &Path) -> Vec<u8> {
    let path = folder.join("film.mp4");
    common::counting_clip(&path, 320, 60, 30);
    std::fs::read(path).unwrap()
}

#[test]
fn pieces_are_put_together_to_the_byte_whatever_happens_between_them() {
    let yard = Yard::open();
    let bytes = film(yard.folder.path());
    let (third, id) = (bytes.len() / 3, "abcdefgh0001");
    assert_eq!(yard.begin(id, bytes.len()).status, 200);
    assert_eq!(yard.piece(id, 0, &bytes[..third]).json()["received"], third);
    // The answer was lost, the page sends the piece again: refused, with where to go on from.
    let twice = is(&yard.piece(id, 0, &bytes[..third]), 409, "wrong-place");
    assert_eq!(twice["received"], third);
    is(&yard.piece(id, 2 * third, &bytes[2 * third..]), 409, "wrong-place");
    // It cannot be finished yet, and says how much has come.
    let early = is(&yard.finish(id), 409, "not-whole");
    assert_eq!(early["received"], third);
    // Begun again under the same name it goes on; said to be another size it is another file.
    assert_eq!(yard.begin(id, bytes.len()).json()["received"], third);
    is(&yard.begin(id, bytes.len() + 1), 422, "invalid");
    // A connection that breaks off in the middle of a piece leaves what had come.
    broken_off(&yard, id, third, &bytes[third..], third / 2);
    let before = yard.received(id).unwrap();
    assert!((third as u64..=(third + third / 2) as u64).contains(&before), "{before}");
    let from = usize::try_from(before).unwrap();
    // More than the file was said to have.
    let mut more = bytes[from..].to_vec();
    more.extend([0; 4096]);
    let long = yard.piece(id, from, &more);
    assert_eq!(long.status, 413, "{}", long.text);
    let from = usize::try_from(yard.received(id).unwrap()).unwrap();
    assert!(from <= bytes.len());
    if from < bytes.len() {
        assert_eq!(yard.piece(id, from, &bytes[from..]).status, 200);
    }
    let clip = yard.finish(id).json()["id"].clone();
    let view = get(&format!("{}/api/clips/{clip}", yard.program.url)).json();
    let kept = get(&format!("{}{}", yard.program.url, view["media"].as_str().unwrap()));
    assert!(kept.status == 200 && kept.body == bytes, "{} bytes", kept.body.len());
    assert!(yard.received(id).is_none() && yard.incoming().is_empty(), "{:?}", yard.incoming());
    assert_eq!(yard.finish(id).status, 404);
}

/// Announces a piece, sends a part of it and goes away.
fn broken_off(yard: &Yard, id: &str, from: usize, piece: &[u8], part: usize) {
    let host = yard.program.url.strip_prefix("http://").unwrap();
    let mut socket = TcpStream::connect(host).unwrap();
    let head = format!(
        "PUT /api/uploads/{id}?from={from} HTTP/1.1\r\nHost: {host}\r\n\
         Content-Type: application/octet-stream\r\nContent-Length: {}\r\n\r\n",
        piece.len()
    );
    socket.write_all(head.as_bytes()).unwrap();
    socket.write_all(&piece[..part]).unwrap();
    socket.shutdown(std::net::Shutdown::Write).unwrap();
    let _ = socket.read_to_end(&mut Vec::new());
    // The writer lets go of the file a moment later.
    for _ in 0..50 {
        if yard.piece(id, usize::MAX / 2, b"").json()["code"] != "busy" {
            return;
        }
        std::thread::sleep(Duration::from_millis(20));
    }
    panic!("the broken upload is never let go");
}

#[test]
fn two_pages_do_not_write_one_file() {
    let yard = Yard::open();
    let id = "abcdefgh0002";
    yard.begin(id, 1 << 20);
    let host = yard.program.url.strip_prefix("http://").unwrap();
    let mut slow = TcpStream::connect(host).unwrap();
    let head = format!(
        "PUT /api/uploads/{id}?from=0 HTTP/1.1\r\nHost: {host}\r\nConnection: close\r\n\
         Content-Type: application/octet-stream\r\nContent-Length: {}\r\n\r\n",
        1 << 20
    );
    slow.write_all(head.as_bytes()).unwrap();
    slow.write_all(&[1; 1000]).unwrap();
    std::thread::sleep(Duration::from_millis(200));
    is(&yard.piece(id, 0, &[2; 1000]), 409, "busy");
    is(&yard.finish(id), 409, "busy");
    slow.write_all(&vec![1; (1 << 20) - 1000]).unwrap();
    let mut answer = String::new();
    slow.read_to_string(&mut answer).unwrap();
    assert!(answer.starts_with("HTTP/1.1 200"), "{answer}");
    assert_eq!(yard.received(id), Some(1 << 20));
    // All of it from the first page: not a byte of the second.
    let file = std::fs::read(&yard.incoming()[0]).unwrap();
    assert!(file.iter().all(|b| *b == 1));
    // A file that is no footage is refused when it is whole, and is gone.
    let answer = yard.finish(id);
    assert_eq!(answer.status, 422, "{}", answer.text);
    assert!(yard.incoming().is_empty() && yard.received(id).is_none());
}

#[test]
fn what_was_never_begun_or_was_given_up_is_not_there() {
    let yard = Yard::open();
    for answer in [yard.piece("neverbegun", 0, b"x"), yard.finish("neverbegun")] {
        assert_eq!(answer.status, 404, "{}", answer.text);
    }
    // Names that would lead elsewhere are no names.
    for id in [
        "../../../../etc/passwd",
        "..%2f..%2fetc%2fpasswd",
        "short",
        "with space in it",
        "ünschärfe1",
    ] {
        is(&yard.begin(id, 10), 422, "invalid");
        let answer = put(&yard.at(&format!("/{}?from=0", id.replace(' ', "%20"))), b"x");
        assert!((400..=405).contains(&answer.status), "{id}: {}", answer.status);
    }
    let id = "abcdefgh0003";
    yard.begin(id, 10);
    yard.piece(id, 0, b"12345");
    assert_eq!(yard.incoming().len(), 1);
    let url = yard.at(&format!("/{id}"));
    assert_eq!(send("DELETE", &url, &[], b"").status, 204);
    assert!(yard.incoming().is_empty() && yard.received(id).is_none());
    // Given up twice is given up; nothing of it can go on.
    assert_eq!(send("DELETE", &url, &[], b"").status, 204);
    assert_eq!(yard.piece(id, 5, b"67890").status, 404);
    // Sizes from outside are hostile too.
    for bytes in [json!(-1), json!(0), json!(1.5), json!("10"), json!(u64::MAX)] {
        let begin = json!({"id": "abcdefgh0004", "session": null, "name": "a", "bytes": bytes});
        let answer = post(&yard.at(""), &begin);
        assert!([400, 422].contains(&answer.status), "{bytes}: {}", answer.text);
    }
    for from in ["-1", "x", "1e3", "18446744073709551616", ""] {
        let answer = put(&yard.at(&format!("/{id}?from={from}")), b"x");
        assert_eq!(answer.status, 400, "{from}: {}", answer.text);
    }
    assert_eq!(get(&yard.at("")).json(), json!([]));
}
