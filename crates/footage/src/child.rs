//! Child processes on a leash: files only, a time limit, bounded output, killed when dropped.

use std::ffi::OsStr;
use std::process::Stdio;
use std::time::Duration;

use tokio::io::{AsyncRead, AsyncReadExt as _};
use tokio::process::Command;

use crate::FootageError;

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
    let mut child = Command::new(tool)
        .args(args)
        .stdin(Stdio::null())
        .stdout(Stdio::piped())
        .stderr(Stdio::piped())
        .kill_on_drop(true)
        .spawn()
        .map_err(|e| match e.kind() {
            std::io::ErrorKind::NotFound => FootageError::ToolMissing(tool),
            _ => FootageError::Io(e),
        })?;
    let (stdout, stderr) = (child.stdout.take(), child.stderr.take());
    let work = async {
        let (out, err) = tokio::join!(drain(stdout, most), drain(stderr, 64 * 1024));
        let status = child.wait().await?;
        Ok::<_, std::io::Error>((status, out?, err?))
    };
    let Ok(done) = tokio::time::timeout(limit, work).await else {
        return Err(FootageError::TimedOut { tool, seconds: limit.as_secs() });
    };
    let (status, out, err) = done?;
    if status.success() {
        return Ok(out);
    }
    let err = String::from_utf8_lossy(&err);
    let says = err.lines().rfind(|l| !l.trim().is_empty()).unwrap_or("no message");
    // ffmpeg puts the path in front; the coach knows which file it was.
    let says = says.rsplit(": ").next().unwrap_or(says);
    Err(FootageError::Failed { tool, says: says.chars().take(200).collect() })
}

/// Reads to the end, keeps at most `most` bytes; the rest is read and thrown away so that the
/// child never blocks.
async fn drain(from: Option<impl AsyncRead + Unpin>, most: u64) -> std::io::Result<Vec<u8>> {
    let mut kept = Vec::new();
    if let Some(mut from) = from {
        (&mut from).take(most).read_to_end(&mut kept).await?;
        tokio::io::copy(&mut from, &mut tokio::io::sink()).await?;
    }
    Ok(kept)
}
