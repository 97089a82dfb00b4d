//! Wraps that a horse wears, as they are shown to the program: one click on each in the film, or their
//! colours by name.

use std::path::Path;

use anyhow::{Context as _, Result, bail, ensure};
use umlauf_footage::probe::Probe;
use umlauf_gait::base::limb::Limb;
use umlauf_signals::picture::tint::Colour;
use umlauf_signals::picture::wraps::Wrap;

use crate::suggest::seen::{colour_at, time_of};

/// How a wrap was shown.
#[derive(Clone, Copy, Debug, PartialEq)]
pub enum Shown {
    /// By its colour: red, green, blue.
    Rgb([u8; 3]),
    /// By a click.
    Click(Click),
}

/// A click in a film.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Click {
    /// When, true seconds from the film's first frame.
    pub at_s: f64,
    /// Where, pixels of the film from the left.
    pub x: f64,
    /// Where, from the top.
    pub y: f64,
}

impl Click {
    /// The frame that was clicked, in a film that runs `slow` times slower than the world.
    ///
    /// # Errors
    /// When the film ends before.
    pub fn frame(&self, times: &[i64], slow: f64) -> Result<usize> {
        #[expect(clippy::cast_precision_loss, reason = "frames of a film")]
        let time = |k: usize| (time_of(times, k as f64) - time_of(times, 0.0)) / 1e6 / slow;
        let last = times.len().saturating_sub(1);
        ensure!(
            self.at_s <= time(last) + 1.0,
            "at {} s; the film ends at {:.2} s",
            self.at_s,
            time(last)
        );
        // A frame is shown until the next one is.
        Ok((0..last).find(|k| self.at_s < time(k + 1) - 1e-6).unwrap_or(last))
    }
}

/// Which click is meant.
pub fn of_the(what: &str, limb: Limb) -> String {
    format!("the click on the {} {what}", limb.name())
}

/// Reads a table of hooves as they stand: `limb,time_s,x_px,y_px`, a click each.
///
/// # Errors
/// When it is no such table: which line, and what is wrong with it.
pub fn hooves(bytes: &[u8]) -> Result<Vec<(Limb, Click)>> {
    let told =
        "a table of hooves has limb,time_s,x_px,y_px: a click on each where it stands in the film";
    let all = wraps(bytes).context(told)?;
    all.into_iter()
        .map(|(limb, shown)| match shown {
            Shown::Click(click) => Ok((limb, click)),
            Shown::Rgb(_) => bail!("a hoof is shown by a click, not by a colour; {told}"),
        })
        .collect()
}

/// Most rows of a table of wraps: a few clicks a limb.
const MOST: usize = 64;

/// A table of wraps as it should be.
const AS: &str = "a table of wraps has limb,time_s,x_px,y_px (a click on each wrap in the film) or \
                  limb,colour (#rrggbb)";

/// Reads a table of wraps: `limb,time_s,x_px,y_px`, or `limb,colour`, or both with one of them empty in a row.
///
/// # Errors
/// When it is no such table: which line, and what is wrong with it.
pub fn wraps(bytes: &[u8]) -> Result<Vec<(Limb, Shown)>> {
    let mut reader = csv::ReaderBuilder::new()
        .comment(Some(b'#'))
        .trim(csv::Trim::All)
        .flexible(true)
        .from_reader(bytes.strip_prefix(b"\xef\xbb\xbf").unwrap_or(bytes));
    let header = reader.headers().with_context(|| AS.to_owned())?.clone();
    let place = |name: &str| header.iter().position(|h| h == name);
    let limb_at = place("limb").with_context(|| format!("line 1: no column `limb`; {AS}"))?;
    let click = ["time_s", "x_px", "y_px"].map(place);
    let colour = place("colour");
    ensure!(click.iter().all(Option::is_some) || colour.is_some(), "line 1: {AS}");
    let mut out = vec![];
    for record in reader.records() {
        let record = record.with_context(|| AS.to_owned())?;
        let line = record.position().map_or(0, csv::Position::line);
        let cell = |at: Option<usize>| at.and_then(|k| record.get(k)).filter(|c| !c.is_empty());
        let short = |text: &str| text.chars().take(40).collect::<String>();
        let name = cell(Some(limb_at)).unwrap_or_default();
        let Ok(limb) = name.parse::<Limb>() else {
            bail!("line {line}: `{}` is no limb; LF, RF, LH or RH", short(name))
        };
        let shown = match (cell(colour), click.map(cell)) {
            (Some(text), _) => Shown::Rgb(
                rgb(text)
                    .with_context(|| format!("line {line}: `{}` is no #rrggbb", short(text)))?,
            ),
            (None, [Some(at), Some(x), Some(y)]) => {
                let number = |text: &str, what: &str, most: f64| {
                    let value = text.parse::<f64>().ok().filter(|v| (0.0..=most).contains(v));
                    value.with_context(|| {
                        format!(
                            "line {line}: {what} `{}` is no number from 0 to {most}",
                            short(text)
                        )
                    })
                };
                let at_s = number(at, "time_s", 604_800.0)?;
                let (x, y) = (number(x, "x_px", 1e5)?, number(y, "y_px", 1e5)?);
                Shown::Click(Click { at_s, x, y })
            }
            _ => bail!("line {line}: neither a click nor a colour; {AS}"),
        };
        ensure!(out.len() < MOST, "line {line}: more than {MOST} wraps");
        out.push((limb, shown));
    }
    ensure!(!out.is_empty(), "no wrap in it; {AS}");
    Ok(out)
}

fn rgb(text: &str) -> Option<[u8; 3]> {
    let digits = text.strip_prefix('#').unwrap_or(text);
    if digits.len() != 6 || !digits.is_ascii() {
        return None;
    }
    let mut out = [0; 3];
    for (k, byte) in out.iter_mut().enumerate() {
        *byte = u8::from_str_radix(&digits[2 * k..2 * k + 2], 16).ok()?;
    }
    Some(out)
}

/// The colours of wraps that were shown in a film that runs `slow` times slower than the world.
///
/// # Errors
/// When a click lies outside the film, or its frame cannot be read.
pub async fn learned(
    path: &Path,
    probe: &Probe,
    slow: f64,
    shown: &[(Limb, Shown)],
) -> Result<Vec<Wrap>> {
    let mut out = vec![];
    for (limb, shown) in shown {
        let colour = match *shown {
            Shown::Rgb(rgb) => Colour::of_rgb(rgb),
            Shown::Click(click) => {
                let of = || of_the("wrap", *limb);
                let frame = click.frame(&probe.frame_times, slow).with_context(of)?;
                colour_at(path, probe, frame, (click.x, click.y)).await.with_context(of)?
            }
        };
        out.push(Wrap { limb: *limb, colour });
    }
    Ok(out)
}
