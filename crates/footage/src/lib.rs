//! Footage through ffprobe and ffmpeg as child processes: what a file holds, when each of its
//! frames is shown, a proxy that steps fast, its frames in grey, and its sound.

mod child;
mod cradle;
mod error;
pub mod filmstrip;
pub mod frames;
pub mod probe;
pub mod proxy;
pub mod share;
pub mod sound;

pub use error::FootageError;
