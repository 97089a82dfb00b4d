//! ZIPs that are made to harm by what they are, not by what their document says: names that lead out, links, sizes that
//! lie, files within files, and files that are a ZIP and something else besides. Each is refused in words or comes in as
//! what it says; nothing outside the yard is touched, and nothing of it runs.
#![allow(clippy::unwrap_used, reason = "a test that cannot go on has failed")]

mod common;

use std::io::{Cursor, Write as _};

use common::http::{get, send};
use common::packed::{FILM, Yard, and, below, content, film, packed, tables, zip};
use serde_json::{Value, json};
use umlauf_store::archive::VERSION;
use zip::CompressionMethod::Stored;
use zip::ZipWriter;
use zip::write::SimpleFileOptions;

/// A file of a ZIP that is written byte by byte, so that each of its fields can lie.
#[derive(Clone, Default)]
struct Raw {
    name: Vec<u8>,
    /// Name in front of the bytes, where it is another one.
    local: Option<Vec<u8>>,
    bytes: Vec<u8>,
    flags: u16,
    method: u16,
    crc: Option<u32>,
    /// Size as it is packed and as it will be.
    sizes: Option<(u32, u32)>,
    /// Mode as Unix has it: 0o120000 is a link.
    mode: u32,
    /// Where its bytes are said to begin, where it is another place.
    at: Option<u32>,
    extra: Vec<u8>,
}

fn raw(name: &str, bytes: &[u8]) -> Raw {
    Raw { name: name.into(), bytes: bytes.into(), mode: 0o100_644, ..Raw::default() }
}

/// The cyclic redundancy check of ZIP (ITU-T V.42), bit by bit.
fn crc(bytes: &[u8]) -> u32 {
    !bytes.iter().fold(!0, |crc, byte| {
        (0..8)
            .fold(crc ^ u32::from(*byte), |c, _| (c >> 1) ^ (0xEDB8_8320 & (c & 1).wrapping_neg()))
    })
}

/// The bytes of a ZIP (APPNOTE 6.3.10, §4.3: local headers, central directory, its end).
fn written(files: &[Raw]) -> Vec<u8> {
    let (mut out, mut directory) = (Vec::new(), Vec::new());
    for f in files {
        let at = f.at.unwrap_or(out.len() as u32);
        let len = f.bytes.len() as u32;
        let (small, whole) = f.sizes.unwrap_or((len, len));
        let crc = f.crc.unwrap_or_else(|| crc(&f.bytes));
        let common = |name: &[u8]| {
            let mut head = Vec::new();
            for v in [20, f.flags, f.method, 0, 0x21] {
                head.extend(v.to_le_bytes());
            }
            for v in [crc, small, whole] {
                head.extend(v.to_le_bytes());
            }
            head.extend((name.len() as u16).to_le_bytes());
            head.extend((f.extra.len() as u16).to_le_bytes());
            head
        };
        let local = f.local.as_ref().unwrap_or(&f.name);
        out.extend(b"PK\x03\x04");
        out.extend(common(local));
        out.extend(local);
        out.extend(&f.extra);
        out.extend(&f.bytes);
        directory.extend(b"PK\x01\x02\x14\x03");
        directory.extend(common(&f.name));
        directory.extend([0; 6]);
        directory.extend((f.mode << 16).to_le_bytes());
        directory.extend(at.to_le_bytes());
        directory.extend(&f.name);
        directory.extend(&f.extra);
    }
    let (count, begins, size) = (files.len() as u16, out.len() as u32, directory.len() as u32);
    out.extend(directory);
    out.extend(end(count, size, begins));
    out
}

fn end(count: u16, size: u32, begins: u32) -> Vec<u8> {
    let mut out = b"PK\x05\x06\0\0\0\0".to_vec();
    out.extend([count.to_le_bytes(), count.to_le_bytes()].concat());
    out.extend([size.to_le_bytes(), begins.to_le_bytes()].concat());
    out.extend([0, 0]);
    out
}

/// A sound yard's document.
fn document(tables: &[Value]) -> Vec<u8> {
    json!({"schema": "umlauf.yard/1", "version": VERSION, "tables": tables}).to_string().into()
}

fn sound() -> Raw {
    raw("yard.json", &document(&tables(&json!({}))))
}

fn own_film() -> Raw {
    raw(&film().0, FILM)
}

/// Whether the whole yard comes in, or all but its film, or nothing.
#[derive(Clone, Copy, Debug, PartialEq)]
enum Comes {
    Whole,
    WithoutFilm,
    Nothing,
}

#[test]
fn a_zip_that_lies_about_itself_comes_in_as_what_it_is_or_not_at_all() {
    use Comes::{Nothing, Whole, WithoutFilm};
    let away = tempfile::tempdir().unwrap();
    let letter = away.path().join("letter.txt");
    std::fs::write(&letter, "of somebody").unwrap();
    let out = letter.to_str().unwrap();
    let with = |more: Raw| written(&[sound(), own_film(), more]);
    let doc = |change: &dyn Fn(&mut Raw)| {
        let mut doc = sound();
        change(&mut doc);
        written(&[doc, own_film()])
    };
    let film = |change: &dyn Fn(&mut Raw)| {
        let mut film = own_film();
        change(&mut film);
        written(&[sound(), film])
    };
    let plain = written(&[sound(), own_film()]);
    let size = plain.len();
    let link = |name: &str| Raw { mode: 0o120_777, ..raw(name, out.as_bytes()) };
    let zip64 = {
        let mut extra = vec![1, 0, 16, 0];
        extra.extend([u64::MAX >> 1, u64::MAX >> 1].map(u64::to_le_bytes).concat());
        extra
    };
    let cases: Vec<(&str, Comes, Vec<u8>)> = vec![
        ("nothing but what it should be", Whole, plain.clone()),
        // Names that lead out.
        ("a file that leads out", Whole, with(raw("../../../outside/letter.txt", b"x"))),
        ("an absolute file", Whole, with(raw(out, b"x"))),
        ("a way out for another machine", Whole, with(raw("..\\..\\outside\\letter.txt", b"x"))),
        ("a drive", Whole, with(raw("C:\\letter.txt", b"x"))),
        ("a name that ends early", Whole, with(raw("yard.json\0.txt", b"x"))),
        ("a name of 60,000 letters", Whole, with(raw(&"../".repeat(20_000), b"x"))),
        ("a name that is no text", Whole, with(Raw { name: vec![0xff; 40], ..raw("", b"x") })),
        (
            "another name in front",
            Whole,
            doc(&|d| d.local = Some(b"../../../outside/letter.txt".to_vec())),
        ),
        ("a film with another name in front", Whole, film(&|f| f.local = Some(out.into()))),
        // Links.
        ("a link beside", Whole, with(link("link"))),
        ("a document that is a link", Nothing, written(&[link("yard.json")])),
        ("a film that is a link", WithoutFilm, written(&[sound(), link(&own_name())])),
        (
            "a folder that is a link",
            Whole,
            written(&[sound(), link(&format!("footage/{}", content())), own_film()]),
        ),
        ("a device", Whole, with(Raw { mode: 0o020_666, ..raw("null", b"") })),
        // Twice and within one another.
        ("a second document that is none", Nothing, with(raw("yard.json", b"{}"))),
        ("the film twice, once not itself", WithoutFilm, with(raw(&own_name(), b"another"))),
        (
            "two documents of the same bytes",
            Whole,
            with(Raw { at: Some(0), ..raw("copy/yard.json", &[]) }),
        ),
        ("a ZIP as the document", Nothing, doc(&|d| d.bytes.clone_from(&plain))),
        ("a ZIP as the film", WithoutFilm, film(&|f| f.bytes.clone_from(&plain))),
        ("the document is a folder", Nothing, doc(&|d| d.name = b"yard.json/".to_vec())),
        ("the document's name in capitals", Nothing, doc(&|d| d.name = b"YARD.JSON".to_vec())),
        ("65,000 files", Whole, {
            let mut all = vec![sound(), own_film()];
            all.extend((0..65_000).map(|k| raw(&format!("f{k}"), b"")));
            written(&all)
        }),
        ("65,000 films and no document", Nothing, {
            let films = (0..65_000).map(|k| raw(&format!("footage/{k:064}/x"), b""));
            written(&films.collect::<Vec<_>>())
        }),
        // Sizes and sums that lie.
        ("a document whose sum is wrong", Nothing, doc(&|d| d.crc = Some(1))),
        // Its hash says that it is whole all the same.
        ("a film whose sum is wrong", Whole, film(&|f| f.crc = Some(1))),
        ("a document that is said to be small", Nothing, doc(&|d| d.sizes = Some((9, 9)))),
        (
            "a document that is said to be huge",
            Nothing,
            doc(&|d| d.sizes = Some((u32::MAX - 1, u32::MAX - 1))),
        ),
        (
            "a film that is said to be huge",
            WithoutFilm,
            film(&|f| f.sizes = Some((u32::MAX - 1, u32::MAX - 1))),
        ),
        (
            "sizes of 2⁶³",
            Nothing,
            doc(&|d| (d.sizes, d.extra) = (Some((u32::MAX, u32::MAX)), zip64.clone())),
        ),
        (
            "a film of 2⁶³",
            WithoutFilm,
            film(&|f| (f.sizes, f.extra) = (Some((u32::MAX, u32::MAX)), zip64.clone())),
        ),
        ("a film that grows beyond what it says", WithoutFilm, growing(FILM.len() as u32)),
        ("an extra field that is cut", Whole, doc(&|d| d.extra = vec![1, 0, 255, 255])),
        ("a document that begins elsewhere", Nothing, doc(&|d| d.at = Some(size as u32 * 2))),
        ("a film that begins in the document", WithoutFilm, film(&|f| f.at = Some(0))),
        // Ways of packing.
        ("a document that is locked", Nothing, doc(&|d| d.flags = 1)),
        ("a film that is locked", WithoutFilm, film(&|f| f.flags = 1)),
        ("a document packed as nobody does", Nothing, doc(&|d| d.method = 99)),
        ("a film packed as nobody does", WithoutFilm, film(&|f| f.method = 99)),
        ("a document said to be deflated", Nothing, doc(&|d| d.method = 8)),
        // Ends that are none.
        ("nothing at all", Nothing, vec![]),
        ("only an end", Nothing, end(0, 0, 0)),
        ("half of it", Nothing, plain[..size / 2].to_vec()),
        ("all but the last byte", Nothing, plain[..size - 1].to_vec()),
        (
            "an end that counts 65,535",
            Nothing,
            [&plain[..size - 22], &end(u16::MAX, u32::MAX, 0)].concat(),
        ),
        (
            "a directory beyond the end",
            Nothing,
            [&plain[..size - 22], &end(2, 90, size as u32 * 9)].concat(),
        ),
        ("a film that the directory forgets", WithoutFilm, written(&[sound()])),
        // Documents that are none.
        ("a document of UTF-16", Nothing, doc(&|d| d.bytes = wide(&d.bytes))),
        (
            "a document that is no text",
            Nothing,
            doc(&|d| d.bytes.iter_mut().for_each(|b| *b ^= 0x80)),
        ),
        ("lists within lists", Nothing, doc(&|d| d.bytes = nested())),
        (
            "the tables twice",
            Nothing,
            doc(&|d| {
                let text = String::from_utf8(d.bytes.clone()).unwrap();
                let tables = &text[text.find("\"tables\"").unwrap()..text.len() - 1];
                d.bytes = format!("{},{tables}}}", &text[..text.len() - 1]).into();
            }),
        ),
        (
            "a number beyond all",
            Nothing,
            doc(&|d| {
                let text = String::from_utf8(d.bytes.clone()).unwrap();
                d.bytes = text.replace("[[1,\"Kiebitz\"]]", "[[1e999,\"Kiebitz\"]]").into();
            }),
        ),
    ];
    let mut refusing = Yard::empty();
    let mut wrong = vec![];
    for (name, comes, hostile) in &cases {
        let own = (*comes != Nothing).then(Yard::empty);
        let yard = own.as_ref().unwrap_or(&refusing);
        let (status, says) = yard.import(hostile);
        let answered = match (status, comes) {
            (422, Nothing) => !says.is_empty(),
            (200, WithoutFilm) => says.contains("the film of watt"),
            (200, Whole) => !says.contains("the film of watt"),
            _ => false,
        };
        if !answered {
            wrong.push(format!("{name}: {comes:?}, {status} {says}"));
            refusing = Yard::empty();
            continue;
        }
        if *comes == Nothing {
            yard.is_untouched(name);
        }
        // All that is there is the film, and what is made of it.
        for (path, bytes) in below(&yard.data.join("footage")) {
            let called = path.file_name().unwrap().to_str().unwrap();
            let film = called == "watt.mp4" && bytes == FILM;
            assert!(film || called.starts_with("proxy."), "{name}: {}", path.display());
        }
        let left = [
            (yard.outside.join("letter.txt"), b"of the coach".to_vec()),
            (letter.clone(), b"of somebody".to_vec()),
        ];
        assert_eq!([below(&yard.outside), below(away.path())].concat(), left, "{name}");
        let peak = yard.program.peak_memory_kib();
        assert!(peak < 200 << 10, "{name}: {peak} KiB");
    }
    assert!(wrong.is_empty(), "{wrong:#?}");
}

fn own_name() -> String {
    film().0
}

/// A film of 64 MiB that says it has `bytes`.
fn growing(bytes: u32) -> Vec<u8> {
    let mut packer = ZipWriter::new(Cursor::new(Vec::new()));
    packer.start_file("x", SimpleFileOptions::default()).unwrap();
    packer.write_all(&vec![0; 64 << 20]).unwrap();
    let whole = packer.finish().unwrap().into_inner();
    // Its bytes lie between a header of 30 bytes and a name of one, and the directory's first entry.
    let ends = whole.windows(4).position(|w| w == b"PK\x01\x02").unwrap();
    let bomb = &whole[31..ends];
    let sizes = Some((bomb.len() as u32, bytes));
    written(&[sound(), Raw { method: 8, sizes, ..raw(&own_name(), bomb) }])
}

fn wide(text: &[u8]) -> Vec<u8> {
    text.iter().flat_map(|b| [*b, 0]).collect()
}

fn nested() -> Vec<u8> {
    let (open, close) = ("[".repeat(100_000), "]".repeat(100_000));
    format!("{{\"schema\":\"umlauf.yard/1\",\"version\":{VERSION},\"tables\":{open}{close}}}")
        .into()
}

/// Rows that would make somebody a coach, begin work, or fill a page, and names that no film has.
#[test]
fn what_a_yard_does_not_bring_along_is_refused() {
    let yard = Yard::empty();
    let clip = |own: Value| zip(&tables(&own));
    let cases = [
        (
            "a person who gets in",
            zip(&and(
                "account",
                &["id", "person", "role", "password"],
                json!([1, "x", "coach", "$argon2id$"]),
            )),
        ),
        (
            "somebody who is in",
            zip(&and(
                "signed_in",
                &["token", "account", "began_ms", "seen_ms", "device"],
                json!(["00", 1, 0, 0, "x"]),
            )),
        ),
        (
            "a link that shows a film",
            zip(&and("link", &["token", "clip", "ends_ms", "author"], json!(["00", 1, 1, "x"]))),
        ),
        (
            "an account of what was done",
            zip(&and("act", &["at_ms", "author", "did"], json!([1, "x", "nothing"]))),
        ),
        ("work to be done", zip(&and("job", &["clip", "kind"], json!([1, "proxy"])))),
        ("a file that was seen", zip(&and("seen_file", &["path"], json!(["/etc/passwd"])))),
        ("a film under way", zip(&and("upload", &["id", "name"], json!(["x", "../x"])))),
        ("a view", zip(&and("pragma_database_list", &["file"], json!(["x"])))),
        ("a film whose name has two lines", clip(json!({"file": "watt\n.mp4"}))),
        (
            "a film whose name is too long",
            clip(json!({"file": format!("{}.mp4", "w".repeat(300))})),
        ),
        ("a film on a drive", clip(json!({"file": "C:watt.mp4"}))),
        ("a content in capitals", clip(json!({"content": content().to_uppercase()}))),
        (
            "a content with a way in it",
            clip(json!({"content": format!("{}/../x", &content()[..59])})),
        ),
        (
            "frames that go back",
            clip(json!({"frame_times": {"hex": "204e0000000000000000000000000000"}})),
        ),
        ("half a byte", clip(json!({"frame_times": {"hex": "000"}}))),
        ("a clip of no session", clip(json!({"session": 7}))),
    ];
    for (name, hostile) in &cases {
        let (status, says) = yard.import(hostile);
        assert_eq!(status, 422, "{name}: {says}");
        yard.is_untouched(name);
    }
}

/// A ZIP that is something else as well is a ZIP here, and a film that is a page or a script is a film.
#[test]
fn a_file_of_two_kinds_is_one_of_them_and_nothing_of_it_runs() {
    let script = "<script>fetch('/api/horses/1',{method:'DELETE'})</script>";
    let plain = zip(&tables(&json!({})));
    let fronts: [(&str, &[u8]); 5] = [
        ("a page", script.as_bytes()),
        ("a picture", b"GIF89a\x01\0\x01\0\0\0\0;"),
        ("a shell's script", b"#!/bin/sh\ntouch /tmp/umlauf-ran\nexit\n"),
        ("a program", b"\x7fELF\x02\x01\x01"),
        ("a document to print", b"%PDF-1.4\n"),
    ];
    for (name, front) in fronts {
        let yard = Yard::empty();
        let (status, says) = yard.import(&[front, &plain].concat());
        assert_eq!(status, 200, "{name}: {says}");
        assert_eq!(get(&yard.at("yard")).json()["horses"][0]["name"], "Kiebitz", "{name}");
        assert_eq!(below(&yard.outside).len(), 1, "{name}");
    }
    assert!(!std::path::Path::new("/tmp/umlauf-ran").exists());
    for (name, bytes) in [
        ("watt.html", script),
        ("watt.js", "/*ftyp*/fetch('/api/horses/1',{method:'DELETE'})"),
        ("watt.svg", "<svg xmlns='http://www.w3.org/2000/svg' onload='fetch(`/api/horses/1`)'/>"),
        ("watt.css", "*{background:url(/api/export)}"),
        ("watt.mjs", "export default fetch('/api/export')"),
    ] {
        let hash = blake3::hash(bytes.as_bytes()).to_hex().to_string();
        let own = json!({"content": hash, "file": name, "bytes": bytes.len()});
        let document = String::from_utf8(document(&tables(&own))).unwrap();
        let yard = Yard::empty();
        let (status, says) = yard.import(&packed(
            &document,
            &[(format!("footage/{hash}/{name}"), bytes.as_bytes(), Stored)],
        ));
        assert_eq!(status, 200, "{name}: {says}");
        let media = format!("{}/media/{hash}/original", yard.program.url);
        // As a script, a style, a picture, a page or a worker would ask for it.
        for wanted in ["script", "style", "image", "document", "iframe", "worker", "serviceworker"]
        {
            let answer = send("GET", &media, &[("Sec-Fetch-Dest", wanted)], &[]);
            assert_eq!((answer.status, answer.text.as_str()), (200, bytes), "{name} as {wanted}");
            for line in [
                "content-type: application/octet-stream",
                "x-content-type-options: nosniff",
                "content-security-policy: default-src 'none'; media-src 'self'; img-src 'self'; sandbox",
            ] {
                assert!(answer.head.contains(line), "{name} as {wanted}: {}", answer.head);
            }
        }
    }
}
