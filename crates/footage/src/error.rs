//! What may go wrong with footage.

use thiserror::Error;

/// What went wrong with a file of footage.
#[derive(Debug, Error)]
pub enum FootageError {
    /// A program is not installed.
    #[error(
        "`{0}` is not installed: install it with `apt-get install ffmpeg util-linux`, then try again"
    )]
    ToolMissing(&'static str),
    /// Not footage.
    #[error("this file is not a video that can be read ({0}); give an MP4, MOV, MKV or WebM file")]
    NotVideo(String),
    /// A container without pictures.
    #[error("this video holds no frames; film again, or check that the file was copied to its end")]
    NoFrames,
    /// A file that breaks off.
    #[error("{asked} pictures were asked for and {got} can be decoded: the file breaks off there")]
    Broken {
        /// Pictures asked for.
        asked: usize,
        /// Pictures decoded.
        got: usize,
    },
    /// A stretch of sound that no file has.
    #[error("sound is read from 0 s on, at most two hours in one go")]
    NoSound,
    /// Took too long.
    #[error("`{tool}` did not finish within {seconds} s and was stopped")]
    TimedOut {
        /// Program.
        tool: &'static str,
        /// Limit, s.
        seconds: u64,
    },
    /// The program failed.
    #[error("`{tool}` failed: {says}")]
    Failed {
        /// Program.
        tool: &'static str,
        /// Its last words.
        says: String,
    },
    /// The proxy's frames do not stand at the original's times.
    #[error("the proxy's frame times differ from the original's; the original is shown instead")]
    ProxyTimes,
    /// Reading or writing failed.
    #[error("{0}")]
    Io(#[from] std::io::Error),
}
