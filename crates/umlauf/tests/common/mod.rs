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
    /// Starts the program on a free port and waits until it says where it is. It looks for no footfalls by
    /// itself, which a test asks for where it is about them.
    pub fn start(args: &[&str], data: &Path) -> Self {
        Self::looking(&[args, &["--by-hand"]].concat(), data)
    }

    /// As [`Program::start`], looking for footfalls by itself.
    pub fn looking(args: &[&str], data: &Path) -> Self {
        Self::by(Command::new(env!("CARGO_BIN_EXE_umlauf")), args, data)
    }

    /// As [`Program::looking`], by a command of one's own that runs it.
    pub fn by(mut command: Command, args: &[&str], data: &Path) -> Self {
        let mut child = command
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

    /// Its number among the machine's processes.
    pub fn id(&self) -> u32 {
        self.child.id()
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

/// What a film is of which nothing matters but the letter that its content is made of.
pub fn footage(content: char) -> umlauf_store::clip::Footage {
    umlauf_store::clip::Footage {
        content: String::from(content).repeat(64),
        file: "original.mp4".into(),
        bytes: 1,
        codec: "h264".into(),
        width: 2,
        height: 2,
        rotation: 0,
        frame_rate: Some(120.0),
        tagged_rate: None,
        recorded: None,
    }
}

/// A clip with its frame number painted in it: twelve squares a sixteenth of the picture wide, the
/// lowest bit on the left, their middle just above the picture's.
pub fn counting_clip(into: &Path, width: usize, frames: u32, rate: u32) {
    let (w, h, cell) = (width, width * 9 / 16, width / 16);
    let size = format!("{w}x{h}");
    let mut ffmpeg = Command::new("ffmpeg")
        .args(["-v", "error", "-y", "-f", "rawvideo", "-pix_fmt", "gray", "-s", &size])
        .args(["-framerate", &rate.to_string(), "-i", "-"])
        .args(["-c:v", "libx264", "-preset", "ultrafast", "-crf", "20", "-pix_fmt", "yuv420p"])
        .arg(into)
        .stdin(Stdio::piped())
        .spawn()
        .expect("ffmpeg runs");
    let mut pipe = ffmpeg.stdin.take().expect("its input");
    for frame in 0..frames {
        let mut picture = vec![128u8; w * h];
        let top = h / 2 - cell * 3 / 4;
        for y in top..top + cell {
            for x in 0..12 * cell {
                let bit = (frame >> (x / cell)) & 1;
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

pub mod footage_set;

pub mod packed;

pub mod worn;

impl Program {
    /// Sends a file as the page does, in pieces; gives the clip's number or the refusal's words.
    pub fn send_file(&self, path: &Path, session: Option<i64>) -> Result<i64, String> {
        use std::io::Read as _;
        let mut file = std::fs::File::open(path).expect("the file");
        let bytes = file.metadata().expect("its size").len();
        let id = format!("t{:016x}", bytes ^ (path.as_os_str().len() as u64) << 40);
        let begin = serde_json::json!({"id": id, "session": session, "bytes": bytes,
                                       "name": path.file_name().expect("a name").to_string_lossy()});
        let begun = http::post(&format!("{}/api/uploads", self.url), &begin);
        assert_eq!(begun.status, 200, "{}", begun.text);
        let mut sent = 0;
        let mut piece = vec![0; 16 << 20];
        while sent < bytes {
            let n = file.read(&mut piece).expect("read");
            let url = format!("{}/api/uploads/{id}?from={sent}", self.url);
            let answer = http::put(&url, &piece[..n]);
            assert_eq!(answer.status, 200, "{}", answer.text);
            sent += n as u64;
        }
        let finish = format!("{}/api/uploads/{id}/finish", self.url);
        let answer = http::post(&finish, &serde_json::json!(null));
        if answer.status == 200 {
            Ok(answer.json()["id"].as_i64().expect("a number"))
        } else {
            Err(answer.json()["detail"].as_str().expect("words").to_owned())
        }
    }

    /// Waits until nothing is being made any more.
    pub fn wait_for_jobs(&self, most: std::time::Duration) {
        let began = std::time::Instant::now();
        loop {
            let jobs = http::get(&format!("{}/api/jobs", self.url)).json();
            let open = jobs.as_array().expect("jobs").iter().filter(|j| {
                let state = j["state"].as_str();
                state == Some("waiting") || state == Some("running")
            });
            if open.count() == 0 {
                return;
            }
            assert!(began.elapsed() < most, "the work does not end: {jobs}");
            std::thread::sleep(std::time::Duration::from_millis(200));
        }
    }

    /// Memory of the program now, KiB.
    pub fn memory_kib(&self) -> u64 {
        self.status("VmRSS:")
    }

    /// Most memory the program ever had, KiB.
    pub fn peak_memory_kib(&self) -> u64 {
        self.status("VmHWM:")
    }

    fn status(&self, key: &str) -> u64 {
        let text = std::fs::read_to_string(format!("/proc/{}/status", self.child.id()))
            .expect("the system's word");
        let line = text.lines().find_map(|l| l.strip_prefix(key)).expect("a line");
        line.trim().trim_end_matches(" kB").parse().expect("a number")
    }
}
