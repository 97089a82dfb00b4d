//! Child processes on a leash: local files in known containers only, limits on time, memory and
//! picture size, bounded output, and killed with their whole group when the work is dropped.

use std::ffi::{OsStr, OsString};
use std::io::ErrorKind;
use std::path::Path;
use std::process::Stdio;
use std::time::{Duration, Instant};

use rustix::process::{Pid, Signal, kill_process_group};
use tokio::io::{AsyncRead, AsyncReadExt as _};
use tokio::process::{Child, ChildStdout, Command};
use tokio::task::JoinHandle;

use crate::cradle::born;
use crate::error::FootageError;

/// Address space of one child, KiB.
const MEMORY_KIB: u32 = 6 << 20;

/// Whether a person waits for what a program does.
#[derive(Clone, Copy, Debug, Eq, PartialEq)]
pub enum Haste {
    /// Somebody does.
    Waited,
    /// Nobody does: it gives way to all else.
    GivesWay,
}

impl Haste {
    /// Its place behind the others, as Linux counts it. Even what is waited for takes seconds, and gives way to what is
    /// answered in an instant: a third and a tenth of its weight.
    const fn niceness(self) -> u32 {
        match self {
            Self::Waited => 5,
            Self::GivesWay => 10,
        }
    }
}
/// Pixels of the largest picture decoded: 8192 × 8192.
const MOST_PIXELS: &str = "67108864";
/// Containers that cameras write. Playlists, which name other files, are not among them.
const CONTAINERS: &str = "mov,mp4,m4a,3gp,3g2,mj2,matroska,webm,avi,mpegts,mpeg,asf,flv,ogg";

/// Options that fence an input file; they stand before it.
pub fn fenced(input: &Path) -> Vec<OsString> {
    let mut args: Vec<OsString> = [
        "-protocol_whitelist",
        "file,pipe",
        "-format_whitelist",
        CONTAINERS,
        "-max_pixels",
        MOST_PIXELS,
        "-i",
    ]
    .map(OsString::from)
    .to_vec();
    // A name that begins with a dash or a protocol stays a file's name.
    let mut name = OsString::from("file:");
    name.push(input);
    args.push(name);
    args
}

/// Runs a program and gives its standard output, at most `most` bytes of it.
pub async fn run<I, S>(
    tool: &'static str,
    args: I,
    limit: Duration,
    most: u64,
) -> Result<Vec<u8>, FootageError>
where
    I: IntoIterator<Item = S>,
    S: AsRef<OsStr>,
{
    let mut kept = Vec::new();
    run_with(tool, args, limit, |block| {
        let room = usize::try_from(most).unwrap_or(usize::MAX).saturating_sub(kept.len());
        kept.extend_from_slice(&block[..block.len().min(room)]);
    })
    .await?;
    Ok(kept)
}

/// Runs a program and hands over its standard output block by block.
pub async fn run_with<I, S>(
    tool: &'static str,
    args: I,
    limit: Duration,
    mut take: impl FnMut(&[u8]),
) -> Result<(), FootageError>
where
    I: IntoIterator<Item = S>,
    S: AsRef<OsStr>,
{
    let mut running = Running::start(tool, args, limit, Haste::Waited)?;
    let mut block = vec![0; BLOCK];
    loop {
        match running.read(&mut block).await? {
            0 => return Ok(()),
            n => take(&block[..n]),
        }
    }
}

/// Bytes that are read at once.
pub const BLOCK: usize = 64 * 1024;

/// A program that runs while its output is read, as fast as somebody reads it.
#[derive(Debug)]
pub struct Running {
    tool: &'static str,
    child: Child,
    stdout: Option<ChildStdout>,
    says: Option<JoinHandle<std::io::Result<String>>>,
    limit: Duration,
    /// What is left of the limit: time in which nobody waits for the program is not its own.
    left: Duration,
    group: Option<Group>,
}

impl Running {
    /// Starts a program; within a Tokio runtime.
    pub fn start<I, S>(
        tool: &'static str,
        args: I,
        limit: Duration,
        haste: Haste,
    ) -> Result<Self, FootageError>
    where
        I: IntoIterator<Item = S>,
        S: AsRef<OsStr>,
    {
        // The kernel ends it when this program ends, however that may be; what was born of a program that had ended by
        // then ends by itself. The shell sets the limit on memory for itself and becomes the program.
        let mut command = Command::new("setpriv");
        command
            .args(["--pdeathsig", "KILL", "/bin/sh", "-c"])
            .arg(format!(
                "[ $PPID = {} ] && ulimit -v {MEMORY_KIB} && exec nice -n {} \"$0\" \"$@\"",
                std::process::id(),
                haste.niceness()
            ))
            .arg(tool)
            .args(args)
            .stdin(Stdio::null())
            .stdout(Stdio::piped())
            .stderr(Stdio::piped())
            .process_group(0)
            .kill_on_drop(true);
        let mut child = born(command).map_err(|e| match e.kind() {
            ErrorKind::NotFound => FootageError::ToolMissing("setpriv"),
            _ => e.into(),
        })?;
        let (stdout, stderr) = (child.stdout.take(), child.stderr.take());
        let says = Some(tokio::spawn(last_words(stderr)));
        let group = Some(Group(child.id()));
        Ok(Self { tool, child, stdout, says, limit, left: limit, group })
    }

    /// Reads what comes next into a block that is not empty; how many bytes it were, none when the program has ended
    /// well. A read that is given up loses nothing.
    ///
    /// # Errors
    /// When the program failed, or was waited for beyond its limit.
    pub async fn read(&mut self, into: &mut [u8]) -> Result<usize, FootageError> {
        let since = Instant::now();
        let (tool, seconds) = (self.tool, self.limit.as_secs());
        let read = tokio::time::timeout(self.left, self.next(into)).await;
        self.left = self.left.saturating_sub(since.elapsed());
        read.map_err(|_| FootageError::TimedOut { tool, seconds })?
    }

    async fn next(&mut self, into: &mut [u8]) -> Result<usize, FootageError> {
        if let Some(stdout) = &mut self.stdout {
            match stdout.read(into).await? {
                0 => self.stdout = None,
                n => return Ok(n),
            }
        }
        let status = self.child.wait().await?;
        self.group = None;
        let says = match &mut self.says {
            Some(says) => says.await.map_err(std::io::Error::other)??,
            None => String::new(),
        };
        self.says = None;
        match status.code() {
            Some(0) => Ok(0),
            // What a shell answers when there is no such program.
            Some(127) => Err(FootageError::ToolMissing(self.tool)),
            _ => Err(FootageError::Failed { tool: self.tool, says }),
        }
    }
}

/// A group of processes that ends with this value.
#[derive(Debug)]
struct Group(Option<u32>);

impl Drop for Group {
    fn drop(&mut self) {
        let pid = self.0.and_then(|id| i32::try_from(id).ok()).and_then(Pid::from_raw);
        if let Some(pid) = pid {
            // A group that has ended by itself is gone already.
            let _ = kill_process_group(pid, Signal::KILL);
        }
    }
}

/// Reads messages to their end and gives the last line, at most 200 letters, without the path
/// that ffmpeg puts in front: the coach knows which file it was.
async fn last_words(from: Option<impl AsyncRead + Unpin>) -> std::io::Result<String> {
    let mut tail: Vec<u8> = Vec::new();
    let mut block = vec![0; BLOCK];
    if let Some(mut from) = from {
        loop {
            match from.read(&mut block).await? {
                0 => break,
                n => tail.extend_from_slice(&block[..n]),
            }
            let surplus = tail.len().saturating_sub(16 * 1024);
            tail.drain(..surplus);
        }
    }
    let text = String::from_utf8_lossy(&tail);
    if text.contains("moov atom not found") {
        return Ok("the file breaks off before its index: copy it from the camera once more".into());
    }
    let line = text.lines().rfind(|l| !l.trim().is_empty()).unwrap_or("no message");
    Ok(line.rsplit(": ").next().unwrap_or(line).chars().take(200).collect())
}
