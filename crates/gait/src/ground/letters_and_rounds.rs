//! Speed without hoof clicks: from the moments at which letters are passed, and from strides round
//! a figure of known size. Stride length is speed × stride duration.

use crate::figures::tempo::Tempo;
use crate::ground::arena::{self, Arena};
use crate::ground::source::Source;
use crate::ground::travel::Travel;
use crate::marks::ride_mark::{MarkKind, RideMark};
use crate::stats::descriptive::mean;
use crate::stats::estimate::Estimate;

/// How far the camera stands from the track and from the letters, m. A pass is seen along the line
/// of sight: letters that stand behind the track make the way look longer than it is.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Distances {
    /// Camera to the horse's track.
    pub to_track_m: f64,
    /// Camera to the letters' line.
    pub to_letters_m: f64,
    /// Standard deviation of each, m.
    pub sd_m: f64,
}

/// A figure ridden in whole rounds.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Rounds {
    /// From, s.
    pub from_s: f64,
    /// To, s.
    pub to_s: f64,
    /// Diameter that was really ridden, m.
    pub diameter_m: f64,
    /// Whole rounds.
    pub rounds: f64,
}

/// Standard deviation with which the eye tells the frame of a pass, s (project default).
const PASS_SD_S: f64 = 0.02;

/// Without the distances the way may look up to this much longer than it is (letters half a metre
/// outside the rail seen over the arena; project default).
const LONGER: f64 = 0.11;

/// ±5 % of the path as 95 % limits (project default).
const PATH_SD: f64 = 0.05 / 1.96;

/// Speed of a bout from letters passed in it: the slope of way over time. `mark_sd` is that of a
/// stepped mark, s. `None` with fewer than two letters of one line in the bout.
pub fn by_letters(
    bout: (f64, f64),
    tempo: Tempo,
    marks: &[RideMark],
    arena: Arena,
    distances: Option<Distances>,
    mark_sd: f64,
) -> Option<Travel> {
    let margin = tempo.duration.value / 2.0;
    let passes: Vec<(f64, arena::Place)> = marks
        .iter()
        .filter(|m| m.time >= bout.0 - margin && m.time <= bout.1 + margin)
        .filter_map(|m| match &m.kind {
            MarkKind::Letter(name) => arena.letter(name).map(|place| (m.time, place)),
            _ => None,
        })
        .collect();
    // Of equally long ones the first.
    let best = straight_runs(&passes).into_iter().rev().max_by_key(Vec::len).unwrap_or_default();
    if best.len() < 2 {
        return None;
    }
    let (ts, ys): (Vec<f64>, Vec<f64>) = best.into_iter().unzip();
    let (t, y) = (mean(&ts), mean(&ys));
    let spread: f64 = ts.iter().map(|s| (s - t) * (s - t)).sum();
    let slope = ts.iter().zip(&ys).map(|(s, v)| (s - t) * (v - y)).sum::<f64>() / spread;
    let timing = mark_sd.hypot(PASS_SD_S) / spread.sqrt();
    let (ratio, relative) = match distances {
        Some(d) => {
            let own = (d.sd_m / d.to_track_m).hypot(d.sd_m / d.to_letters_m);
            (d.to_track_m / d.to_letters_m, timing.hypot(own))
        }
        None => (1.0, timing),
    };
    let longer = if distances.is_some() { 0.0 } else { LONGER };
    Some(of_speed(slope * ratio, relative, longer, ts.len(), tempo, Source::Letters))
}

/// Runs of passes straight along one line, each as seconds and metres from its first. Where the
/// horse turns round, the run back begins with the next letter: the turn is no part of it.
fn straight_runs(passes: &[(f64, arena::Place)]) -> Vec<Vec<(f64, f64)>> {
    let mut runs: Vec<Vec<(f64, f64)>> = Vec::new();
    let mut first = 0;
    for k in 0..passes.len() {
        let (t0, p0) = passes[first];
        let (t, p) = passes[k];
        let last = runs.last().and_then(|r| r.last()).copied();
        let goes_on = last.is_some_and(|(before, way)| {
            let along = p.1 - p0.1;
            let same_way = way == 0.0 || way.signum() == along.signum();
            (p.0 - p0.0).abs() < 1e-6 && t - t0 > before && along.abs() > way.abs() && same_way
        });
        if goes_on {
            runs.last_mut().into_iter().for_each(|r| r.push((t - t0, p.1 - p0.1)));
        } else {
            first = k;
            runs.push(vec![(0.0, 0.0)]);
        }
    }
    for (_, way) in runs.iter_mut().flatten() {
        *way = way.abs();
    }
    runs
}

/// Speed of a bout ridden round a figure: at least four fifths of the rounds lie in it.
pub fn by_rounds(bout: (f64, f64), tempo: Tempo, figures: &[Rounds]) -> Option<Travel> {
    let inside = |f: &&Rounds| {
        let shared = bout.1.min(f.to_s) - bout.0.max(f.from_s);
        f.to_s > f.from_s && shared >= 0.8 * (f.to_s - f.from_s)
    };
    let f = figures.iter().find(inside)?;
    let way = arena::circumference(f.diameter_m) * f.rounds;
    let speed = way / (f.to_s - f.from_s);
    let strides = ((f.to_s - f.from_s) / tempo.duration.value).round().max(1.0);
    #[expect(
        clippy::cast_possible_truncation,
        clippy::cast_sign_loss,
        reason = "a count of strides"
    )]
    let n = strides as usize;
    Some(of_speed(speed, PATH_SD, 0.0, n, tempo, Source::Figure))
}

/// Travel at a speed known to a relative standard deviation; the truth may also be smaller by the
/// share `longer`.
fn of_speed(
    speed: f64,
    relative: f64,
    longer: f64,
    n: usize,
    tempo: Tempo,
    source: Source,
) -> Travel {
    let estimate = |value: f64, relative: f64| {
        let half = 1.96 * relative * value;
        Estimate { value, sd: None, ci95: Some((value * (1.0 - longer) - half, value + half)), n }
    };
    let duration = tempo.duration;
    let own = duration.half_width().map_or(0.0, |h| h / 1.96 / duration.value);
    Travel {
        speed: estimate(speed, relative),
        stride_length: estimate(speed * duration.value, relative.hypot(own)),
        source,
    }
}
