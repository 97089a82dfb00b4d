//! Footage through ffprobe and ffmpeg as child processes: what a file holds, when each of its
//! frames is shown, a proxy that steps fast, and its sound.

mod child;
pub mod filmstrip;
pub mod probe;
pub mod proxy;
pub mod sound;

use thiserror::Error;

/// What went wrong with a file of footage.
#[derive(Debug, Error)]
pub enum FootageError {
    /// A program is not installed.
    #[error("`{0}` is not installed: install it with `apt-get install ffmpeg`, then try again")]
    ToolMissing(&'static str),
    /// Not footage.
    #[error("this file is not a video that can be read ({0}); give an MP4, MOV, MKV or WebM file")]
    NotVideo(String),
    /// A container without pictures.
    #[error("this video holds no frames; film again, or check that the file was copied to its end")]
    NoFrames,
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
