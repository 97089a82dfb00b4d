//! Child processes on a leash: files only, a time limit, bounded output, killed with their group
//! when the work is dropped.

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
        let (out, err) = tokio::join!(each_block(stdout, &mut take), last_words(stderr));
        out?;
        let status = child.wait().await?;
        Ok::<_, std::io::Error>((status, err?))
    };
    let Ok(done) = tokio::time::timeout(limit, work).await else {
        return Err(FootageError::TimedOut { tool, seconds: limit.as_secs() });
    };
    let (status, says) = done?;
    if status.success() { Ok(()) } else { Err(FootageError::Failed { tool, says }) }
}

async fn each_block(
    from: Option<impl AsyncRead + Unpin>,
    take: &mut impl FnMut(&[u8]),
) -> std::io::Result<()> {
    let Some(mut from) = from else { return Ok(()) };
    let mut block = vec![0; 64 * 1024];
    loop {
        match from.read(&mut block).await? {
            0 => return Ok(()),
            n => take(&block[..n]),
        }
    }
}

/// Reads messages to their end and gives the last line, at most 200 letters, without the path
/// that ffmpeg puts in front: the coach knows which file it was.
async fn last_words(from: Option<impl AsyncRead + Unpin>) -> std::io::Result<String> {
    let mut tail: Vec<u8> = Vec::new();
    each_block(from, &mut |block| {
        tail.extend_from_slice(block);
        let surplus = tail.len().saturating_sub(16 * 1024);
        tail.drain(..surplus);
    })
    .await?;
    let text = String::from_utf8_lossy(&tail);
    let line = text.lines().rfind(|l| !l.trim().is_empty()).unwrap_or("no message");
    Ok(line.rsplit(": ").next().unwrap_or(line).chars().take(200).collect())
}
