//! What the tests of the whole program share.
#![allow(dead_code, reason = "each test file uses its own part")]

use std::io::{BufRead as _, BufReader, Write as _};
use std::path::{Path, PathBuf};
use std::process::{Child, Command, Stdio};

/// The repository.
pub fn root() -> PathBuf {
    Path::new(env!("CARGO_MANIFEST_DIR")).join("../..")
}

/// A running `umlauf`, killed when dropped.
pub struct Program {
    child: Child,
    /// Where it listens, without a slash at the end.
    pub url: String,
}

impl Program {
    /// Starts the program on a free port and waits until it says where it is.
    pub fn start(args: &[&str], data: &Path) -> Self {
        let mut child = Command::new(env!("CARGO_BIN_EXE_umlauf"))
            .args(args)
            .args(["--port", "0", "--data"])
            .arg(data)
            .stdout(Stdio::piped())
            .spawn()
            .expect("umlauf starts");
        let mut line = String::new();
        BufReader::new(child.stdout.take().expect("its output"))
            .read_line(&mut line)
            .expect("a line");
        let url = line
            .split_whitespace()
            .find(|w| w.starts_with("http://"))
            .unwrap_or_else(|| panic!("no address in {line:?}"))
            .trim_end_matches('/')
            .to_owned();
        Self { child, url }
    }

    /// Kills it as a power cut would.
    pub fn kill(mut self) {
        self.child.kill().expect("killed");
        self.child.wait().expect("ended");
    }
}

impl Drop for Program {
    fn drop(&mut self) {
        let _ = self.child.kill();
        let _ = self.child.wait();
    }
}

/// A clip with its frame number painted in it: twelve squares of 80 pixels, the lowest bit on the
/// left.
pub fn counting_clip(into: &Path, frames: u32, rate: u32) {
    const CELL: usize = 80;
    let (w, h) = (1280usize, 720usize);
    let mut ffmpeg = Command::new("ffmpeg")
        .args(["-v", "error", "-y", "-f", "rawvideo", "-pix_fmt", "gray", "-s", "1280x720"])
        .args(["-framerate", &rate.to_string(), "-i", "-"])
        .args(["-c:v", "libx264", "-preset", "ultrafast", "-crf", "20", "-pix_fmt", "yuv420p"])
        .arg(into)
        .stdin(Stdio::piped())
        .spawn()
        .expect("ffmpeg runs");
    let mut pipe = ffmpeg.stdin.take().expect("its input");
    for frame in 0..frames {
        let mut picture = vec![128u8; w * h];
        for y in 300..300 + CELL {
            for x in 0..12 * CELL {
                let bit = (frame >> (x / CELL)) & 1;
                picture[y * w + x] = if bit == 1 { 235 } else { 16 };
            }
        }
        pipe.write_all(&picture).expect("a frame");
    }
    drop(pipe);
    assert!(ffmpeg.wait().expect("ffmpeg ends").success());
}

/// Plain HTTP/1.1 over a socket: enough to talk to a server on this machine.
pub mod http {
    use std::io::{Read as _, Write as _};
    use std::net::TcpStream;

    /// An answer.
    pub struct Answer {
        /// Status code.
        pub status: u16,
        /// Headers as they came, lower case.
        pub head: String,
        /// Body as bytes.
        pub body: Vec<u8>,
        /// Body as text.
        pub text: String,
    }

    impl Answer {
        /// The body as JSON.
        pub fn json(&self) -> serde_json::Value {
            serde_json::from_str(&self.text).unwrap_or_else(|e| panic!("{e}: {}", self.text))
        }
    }

    /// GET.
    pub fn get(url: &str) -> Answer {
        send("GET", url, &[], &[])
    }

    /// POST of JSON.
    pub fn post(url: &str, json: &serde_json::Value) -> Answer {
        send("POST", url, &[("Content-Type", "application/json")], json.to_string().as_bytes())
    }

    /// PUT of bytes.
    pub fn put(url: &str, bytes: &[u8]) -> Answer {
        send("PUT", url, &[("Content-Type", "application/octet-stream")], bytes)
    }

    /// Any request.
    pub fn send(method: &str, url: &str, headers: &[(&str, &str)], body: &[u8]) -> Answer {
        let rest = url.strip_prefix("http://").expect("an http address");
        let (host, path) = rest.split_once('/').expect("a path");
        let mut socket = TcpStream::connect(host).expect("connected");
        let mut head = format!("{method} /{path} HTTP/1.1\r\nConnection: close\r\n");
        if !headers.iter().any(|(name, _)| *name == "Host") {
            head += &format!("Host: {host}\r\n");
        }
        for (name, value) in headers {
            head += &format!("{name}: {value}\r\n");
        }
        head += &format!("Content-Length: {}\r\n\r\n", body.len());
        socket.write_all(head.as_bytes()).expect("sent");
        // A server that refuses may close before it has read everything.
        let _ = socket.write_all(body);
        let mut answer = Vec::new();
        let _ = socket.read_to_end(&mut answer);
        let split = answer.windows(4).position(|w| w == b"\r\n\r\n").expect("an answer");
        let head = String::from_utf8_lossy(&answer[..split]).to_lowercase();
        let status = head.split(' ').nth(1).and_then(|s| s.parse().ok()).expect("a status");
        let body = if head.contains("transfer-encoding: chunked") {
            unchunked(&answer[split + 4..])
        } else {
            answer[split + 4..].to_vec()
        };
        let text = String::from_utf8_lossy(&body).into_owned();
        Answer { status, head, body, text }
    }

    fn unchunked(mut from: &[u8]) -> Vec<u8> {
        let mut out = Vec::new();
        while let Some(end) = from.windows(2).position(|w| w == b"\r\n") {
            let size = usize::from_str_radix(&String::from_utf8_lossy(&from[..end]), 16)
                .expect("a chunk's size");
            if size == 0 {
                break;
            }
            out.extend(&from[end + 2..end + 2 + size]);
            from = &from[end + 4 + size..];
        }
        out
    }
}
