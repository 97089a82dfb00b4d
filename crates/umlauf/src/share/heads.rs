//! Where riders' heads are in a film, chunk by chunk: memory is bounded however long it is.

use std::path::Path;

use anyhow::Result;
use umlauf_footage::probe::Probe;
use umlauf_footage::share::Part;
use umlauf_signals::picture::rider;

use crate::suggest::giving_way::giving_way;
use crate::suggest::reading::{Reading, Size};

/// Pictures are looked at this wide, pixels: a head needs no more.
const WIDTH: u32 = 480;

/// Frames that are looked at together, and those that are shared with the next.
const CHUNK: (usize, usize) = (600, 60);

/// What holds the rider's head in each frame, pixels of the film; `None` where nothing says where it is.
///
/// # Errors
/// When the film cannot be decoded.
pub async fn heads(path: &Path, probe: &Probe) -> Result<Vec<Option<Part>>> {
    let frames = probe.frame_times.len();
    let Some((size, by)) = Size::of(probe, WIDTH) else { return Ok(vec![None; frames]) };
    let rate = probe.frame_rate().unwrap_or(30.0);
    let mut reading = Reading::of(path, probe, 0..frames, size, false)?;
    let mut out = Vec::with_capacity(frames);
    while out.len() < frames {
        let own = out.len();
        let (from, end) = (own.saturating_sub(CHUNK.1), (own + CHUNK.0).min(frames));
        let to = (end + CHUNK.1).min(frames);
        let again = if end < frames { end.saturating_sub(CHUNK.1) } else { frames };
        let (pictures, _) = reading.up_to(to, again, |_| ()).await?;
        let found = giving_way(move || rider::heads(&pictures, rate)).await?;
        let part = |k: usize| {
            let area = (*found.get(k - from)?)?.scaled(by);
            let (left, top) = (f64::from(area.left), f64::from(area.top));
            Some((left, top, f64::from(area.right) - left, f64::from(area.bottom) - top))
        };
        out.extend((own..end).map(part));
    }
    Ok(out)
}
