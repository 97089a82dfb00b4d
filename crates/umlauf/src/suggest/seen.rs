//! Hooves in a film's pictures, chunk by chunk: memory is bounded however long the film.

use std::path::Path;

use anyhow::{Context as _, Result};
use umlauf_footage::probe::Probe;
use umlauf_gait::base::limb::Side;
use umlauf_signals::picture::follow::Click;
use umlauf_signals::picture::refused::{Camera, Refused};
use umlauf_signals::picture::seen::Seen;
use umlauf_signals::picture::tint::Colour;
use umlauf_signals::picture::watch::{Shown, Watched, watch_shown};
use umlauf_signals::picture::wraps::{Worn, Wrap};

use crate::suggest::giving_way::giving_way;
use crate::suggest::reading::{Reading, Size};

/// Pictures are watched at this width at first, pixels: the withers then stand 150 to 250 high in a film
/// that a horse fills by a third to a half.
const WIDTH: u32 = 640;

/// Frames that are watched together at most, and seconds.
const CHUNK: (usize, f64) = (900, 12.0);

/// Pixels of a frame that is wider than high.
const USUAL_PIXELS: usize = 640 * 360;

/// This part of a chunk is read ahead while another is watched.
const AHEAD: usize = 6;

/// Seconds that chunks share at either end, for a stance must lie whole in one of them.
const SHARED_S: f64 = 1.2;

/// What was seen in a film.
#[derive(Debug)]
pub struct Whole {
    /// How the camera moved, in the first part in which anything was seen.
    pub camera: Camera,
    /// The side of the horse that was seen there.
    pub near: Side,
    /// Height of the horse at the withers there, pixels of the pictures as they were watched.
    pub height: f64,
    /// Footfalls with places in the film's own pixels and frames counted from its first; each with the part
    /// of the film it was watched in.
    pub footfalls: Vec<(usize, Seen)>,
    /// Parts in which nothing was seen: first and last frame, and why.
    pub unseen: Vec<(usize, usize, Refused)>,
}

/// Share of the time that goes into decoding, roughly.
const READING: f64 = 0.3;

/// What is known of a film before it is watched.
#[derive(Clone, Copy, Debug)]
pub struct Known<'a> {
    /// Its true frame rate.
    pub rate: f64,
    /// The side that is seen, where it was said.
    pub near: Option<Side>,
    /// Wraps that the horse wears.
    pub wraps: &'a [Wrap],
    /// Hooves that were shown, in frames and pixels of the film.
    pub clicks: &'a [Click],
}

/// Watches a film; `done` is told the share that is watched.
///
/// # Errors
/// When the film cannot be decoded. Inside: why nothing is seen in it.
pub async fn seen(
    path: &Path,
    probe: &Probe,
    known: Known<'_>,
    done: &(dyn Fn(f64) + Sync),
) -> Result<std::result::Result<Whole, Refused>> {
    let first = seen_at(path, probe, known, WIDTH, done).await?;
    let small = match &first {
        Ok(whole) => whole.height < SMALL,
        Err(why) => matches!(why, Refused::TooSmall | Refused::NothingStands),
    };
    if !small || probe.width <= WIDTH {
        return Ok(first);
    }
    // A small horse in a large picture: once more, as large as memory allows.
    let larger = seen_at(path, probe, known, probe.width.min(2 * WIDTH), done).await?;
    let many = |seen: &std::result::Result<Whole, Refused>| {
        seen.as_ref().map_or(0, |whole| whole.footfalls.len())
    };
    Ok(if many(&larger) >= many(&first).max(1) { larger } else { first })
}

/// Withers lower than this, pixels, are watched in larger pictures where the film has them.
const SMALL: f64 = 110.0;

async fn seen_at(
    path: &Path,
    probe: &Probe,
    known: Known<'_>,
    most_wide: u32,
    done: &(dyn Fn(f64) + Sync),
) -> Result<std::result::Result<Whole, Refused>> {
    let Some((size, by)) = Size::of(probe, most_wide) else {
        return Ok(Err(Refused::TooSmall));
    };
    let Known { rate, near, wraps, clicks } = known;
    let frames = probe.frame_times.len();
    #[expect(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "clamped")]
    let in_frames = |s: f64, most: usize| (s * rate).clamp(1.0, most as f64) as usize;
    // A film that stands on end has more pixels a frame, and fewer frames at a time.
    let most = CHUNK.0 * USUAL_PIXELS / size.pixels().max(USUAL_PIXELS);
    // So has one in colour.
    let most = if wraps.is_empty() { most } else { most * 3 / 5 };
    let chunk = in_frames(CHUNK.1, most);
    let shared = in_frames(SHARED_S, chunk / 4);
    // While one chunk is watched, so much of the next is read.
    let ahead = 2 * shared + most / AHEAD;
    let mut reading = Reading::of(path, probe, 0..frames, size, !wraps.is_empty())?;
    let mut whole: Option<Whole> = None;
    let mut unseen: Vec<(usize, usize, Refused)> = Vec::new();
    let mut own = 0;
    let mut part = 0;
    while own < frames {
        // A short rest belongs to the chunk before it.
        let end = if frames - own <= chunk - shared { frames } else { own + chunk - 2 * shared };
        let (from, to) = (own.saturating_sub(shared), (end + shared).min(frames));
        let read = |read: usize| {
            #[expect(clippy::cast_precision_loss, reason = "frames of a film")]
            done((own as f64 + READING * (read as f64).min((end - own) as f64)) / frames as f64);
        };
        let again = if end < frames { end.saturating_sub(shared) } else { frames };
        let (pictures, tints) = reading.up_to(to, again, read).await?;
        let clicks = clicks.iter().filter(|c| (from..to).contains(&c.frame)).map(|c| Click {
            frame: c.frame - from,
            at: (c.at.0 / by, c.at.1 / by),
            ..*c
        });
        let shown = Shown { near, worn: Worn::new(wraps, tints), clicks: clicks.collect() };
        let (tell, mut told) = tokio::sync::mpsc::unbounded_channel();
        // The receiver lives as long as the look.
        let watching = move || watch_shown(pictures, rate, &shown, &|share| _ = tell.send(share));
        let watching = giving_way(watching);
        tokio::pin!(watching);
        let watched = loop {
            tokio::select! {
                watched = &mut watching => break watched?,
                Some(share) = told.recv() => {
                    let part = READING + (1.0 - READING) * share;
                    #[expect(clippy::cast_precision_loss, reason = "frames of a film")]
                    done((own as f64 + part * (end - own) as f64) / frames as f64);
                }
                read = reading.one(), if !reading.is_ahead(ahead) => read?,
            }
        };
        match watched {
            Err(why) => unseen.push((own, end - 1, why)),
            Ok(found) => add(&mut whole, found, part, from, own..end, by),
        }
        own = end;
        part += 1;
        #[expect(clippy::cast_precision_loss, reason = "frames of a film")]
        done(own as f64 / frames as f64);
    }
    Ok(match whole {
        Some(whole) => Ok(Whole { unseen, ..whole }),
        None => Err(unseen.first().map_or(Refused::Short, |u| u.2)),
    })
}

/// Takes over what a chunk that began at frame `from` shows in its own frames.
fn add(
    whole: &mut Option<Whole>,
    found: Watched,
    part: usize,
    from: usize,
    own: std::ops::Range<usize>,
    by: f64,
) {
    #[expect(clippy::cast_precision_loss, reason = "frames of a film")]
    let later = from as f64;
    let footfalls =
        found.footfalls.into_iter().filter(|f| own.contains(&(f.frame + from))).map(|f| Seen {
            on: f.on + later,
            heel_off: f.heel_off.map(|h| h + later),
            off: f.off.map(|o| o + later),
            frame: f.frame + from,
            at: (f.at.0 * by, f.at.1 * by),
            at_on: (f.at_on.0 * by, f.at_on.1 * by),
            ..f
        });
    let footfalls = footfalls.map(|f| (part, f));
    whole
        .get_or_insert_with(|| Whole {
            camera: found.camera,
            near: found.near,
            height: found.height,
            footfalls: Vec::new(),
            unseen: Vec::new(),
        })
        .footfalls
        .extend(footfalls);
}

/// The colour that a film shows at a place of one of its frames, in its own pixels.
///
/// # Errors
/// When the frame cannot be decoded, or shows no such place.
pub async fn colour_at(path: &Path, probe: &Probe, frame: usize, at: (f64, f64)) -> Result<Colour> {
    let (size, by) = Size::of(probe, WIDTH).context("the film is too small")?;
    let mut reading = Reading::of(path, probe, frame..frame + 1, size, true)?;
    let (_, tints) = reading.up_to(frame + 1, frame + 1, |_| ()).await?;
    tints
        .first()
        .and_then(|tint| tint.about(at.0 / by, at.1 / by, CLICKED))
        .with_context(|| format!("the film has no place {:.0}, {:.0}", at.0, at.1))
}

/// A click shows the colour of so many pixels about it, in the pictures as they are watched.
const CLICKED: usize = 2;

/// Time of a moment between frames, µs of the file's clock.
pub fn time_of(frame_times: &[i64], frame: f64) -> f64 {
    #[expect(clippy::cast_precision_loss, reason = "µs of a file, far below 2^52")]
    let at = |k: usize| frame_times[k] as f64;
    let last = frame_times.len() - 1;
    if last == 0 {
        return at(0);
    }
    #[expect(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "clamped")]
    let before = frame.floor().clamp(0.0, last as f64 - 1.0) as usize;
    #[expect(clippy::cast_precision_loss, reason = "frames of a film")]
    let part = frame - before as f64;
    at(before) + part * (at(before + 1) - at(before))
}

/// What a camera's way is called in a table.
pub const fn camera_name(camera: Camera) -> &'static str {
    match camera {
        Camera::Fixed => "fixed",
        Camera::Panning => "panning",
        Camera::Handheld => "handheld",
    }
}
