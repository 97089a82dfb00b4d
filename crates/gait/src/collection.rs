//! Longer or quicker: how much of a change of speed came from tempo, and work forward and back.

use crate::analysis::BoutFigures;
use crate::classify::Gait;
use crate::ride_mark::Stretch;
use crate::stride::Stride;
use crate::thresholds::Thresholds;
use crate::uncertainty::{Estimate, mean};

/// How a change of speed was made.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Manner {
    /// By the stride.
    ByStride,
    /// Partly by tempo.
    Between,
    /// Too much by tempo.
    ByTempo,
    /// The speed changed too little, or the interval reaches over a limit.
    CannotTell,
}

/// A change of speed between two bouts of one gait.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct SpeedChange {
    /// Speed after by speed before.
    pub speed_ratio: f64,
    /// Stride length after by stride length before.
    pub length_ratio: f64,
    /// Share of the change that came from tempo, ln(f₂/f₁)/ln(v₂/v₁).
    pub tempo_share: Estimate,
    /// Verdict.
    pub manner: Manner,
}

impl SpeedChange {
    /// Whether the horse went slower.
    pub fn is_slower(&self) -> bool {
        self.speed_ratio < 1.0
    }
}

/// Smallest |ln(v₂/v₁)| of which a verdict is given (project default).
const LEAST_CHANGE: f64 = 0.10;

/// Tempo share of a change of speed. Tempo f (strides/min) and stride length L (m) are measured
/// apart and v = L·f, so the error of f stands in both logarithms: with A = ln(f₂/f₁) and
/// B = ln(L₂/L₁) + A the variance of A/B is ((1 − s)²·var A + s²·var ln(L₂/L₁))/B², s = A/B (delta
/// method). Limits: trot and canter 25 and 35 %, walk 40 and 50 % (project defaults; trained
/// horses' published tables give 8 to 27 %, for the walk 27 to 38 %).
pub fn speed_change(
    gait: Gait,
    tempo: (Estimate, Estimate),
    length: (Estimate, Estimate),
    limits: &Thresholds,
) -> Option<SpeedChange> {
    let a = (tempo.1.value / tempo.0.value).ln();
    let l = (length.1.value / length.0.value).ln();
    let b = a + l;
    if !b.is_finite() || b == 0.0 {
        return None;
    }
    let share = a / b;
    let relative = |e: Estimate| e.half_width().map(|h| h / e.value);
    let pair = |(x, y): (Estimate, Estimate)| Some(relative(x)?.hypot(relative(y)?));
    let half = pair(tempo)
        .zip(pair(length))
        .map(|(ha, hl)| ((1.0 - share) * ha).hypot(share * hl) / b.abs());
    let ci95 = half.map(|h| (share - h, share + h));
    let [low, high] = if gait.beats() == Some(4.0) && !gait.is_asymmetrical() {
        limits.tempo_share_walk
    } else {
        limits.tempo_share
    };
    let manner = match ci95 {
        _ if b.abs() < LEAST_CHANGE => Manner::CannotTell,
        Some((_, hi)) if hi <= low => Manner::ByStride,
        Some((lo, _)) if lo > high => Manner::ByTempo,
        Some((lo, hi)) if lo > low && hi <= high => Manner::Between,
        _ => Manner::CannotTell,
    };
    Some(SpeedChange {
        speed_ratio: b.exp(),
        length_ratio: l.exp(),
        tempo_share: Estimate { value: share, sd: None, ci95, n: tempo.0.n.min(tempo.1.n) },
        manner,
    })
}

/// Changes of speed between each bout with a known stride length and the one before it in the
/// same gait on the same lead, with the place of the later bout.
pub fn speed_changes(bouts: &[BoutFigures], limits: &Thresholds) -> Vec<(usize, SpeedChange)> {
    let mut out = Vec::new();
    for (k, bout) in bouts.iter().enumerate() {
        let Some((tempo, travel)) = bout.tempo.zip(bout.travel) else { continue };
        let before = bouts[..k]
            .iter()
            .rev()
            .find_map(|b| (b.label == bout.label).then(|| b.tempo.zip(b.travel)).flatten());
        let Some((tempo0, travel0)) = before else { continue };
        let change = speed_change(
            bout.label.gait,
            (tempo0.tempo, tempo.tempo),
            (travel0.stride_length, travel.stride_length),
            limits,
        );
        // Two bouts at one speed are no change to speak of.
        let told = change.filter(|c| c.speed_ratio.ln().abs() >= LEAST_CHANGE);
        out.extend(told.map(|c| (k, c)));
    }
    out
}

/// Work forward and back.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct ForwardBack {
    /// From, s.
    pub time_s: f64,
    /// To, s.
    pub end_s: f64,
    /// Stride length of the big strides by that of the small ones, when positions tell.
    pub stride_ratio: Option<f64>,
    /// Tempo of the big strides against that of the small ones, per cent.
    pub tempo_change_pct: Option<f64>,
    /// Largest distance of a stride's tempo (mean of three in a row) from the whole's, per cent:
    /// tempo was held within this.
    pub tempo_held_pct: f64,
    /// Times the gait was broken.
    pub breaks: usize,
    /// Changes between big and small strides.
    pub changes: usize,
    /// Strides that each change took, on average.
    pub strides_to_change: Option<f64>,
}

/// Work forward and back in the stretches that the coach marked as such.
pub fn forward_back(
    strides: &[Stride],
    bouts: &[BoutFigures],
    movements: &[Stretch],
) -> Vec<ForwardBack> {
    let one = |m: &Stretch| {
        let middle = |s: &Stride| f64::midpoint(s.start, s.end);
        let first = strides.partition_point(|s| middle(s) < m.from_s);
        let last = strides.partition_point(|s| middle(s) < m.to_s);
        let own = strides.get(first..last).filter(|own| own.len() >= 4)?;
        let durations: Vec<f64> = own.iter().map(Stride::duration).collect();
        let typical = mean(&durations);
        let held = durations
            .windows(3)
            .map(|w| 100.0 * (typical / mean(w) - 1.0).abs())
            .fold(0.0, f64::max);
        let (from, to) = (own[0].start, own[own.len() - 1].end);
        let here: Vec<&BoutFigures> =
            bouts.iter().filter(|b| b.start_s < to && b.end_s > from && b.strides > 0).collect();
        let breaks = here.windows(2).filter(|w| w[0].label.gait != w[1].label.gait).count();
        let sizes = sizes(own);
        let big = |want| -> Vec<usize> {
            sizes.iter().flatten().filter(|(_, b)| *b == Some(want)).map(|(k, _)| *k).collect()
        };
        let length_of = |k: usize| own[k].duration() * speed(&own[k], &own[k + 1]).unwrap_or(0.0);
        let mean_over = |of: &[usize], f: &dyn Fn(usize) -> f64| {
            (!of.is_empty()).then(|| mean(&of.iter().map(|k| f(*k)).collect::<Vec<f64>>()))
        };
        let (large, small) = (big(true), big(false));
        let ratio = mean_over(&large, &length_of).zip(mean_over(&small, &length_of));
        let durations = mean_over(&large, &|k| own[k].duration())
            .zip(mean_over(&small, &|k| own[k].duration()));
        let (changes, between) = sizes.as_ref().map_or((0, 0), |s| changes(s));
        Some(ForwardBack {
            time_s: from,
            end_s: to,
            stride_ratio: ratio.map(|(a, b)| a / b),
            tempo_change_pct: durations.map(|(a, b)| 100.0 * (b / a - 1.0)),
            tempo_held_pct: held,
            breaks: breaks.div_ceil(2),
            changes,
            strides_to_change: (changes > 0)
                .then(|| 1.0 + crate::phase::count(between) / crate::phase::count(changes)),
        })
    };
    movements.iter().filter(|m| m.movement.name == "forward-back").filter_map(one).collect()
}

/// Ground speed from one stride to the next, m/s.
fn speed(a: &Stride, b: &Stride) -> Option<f64> {
    let (mut sum, mut n) = (0.0, 0.0);
    for k in 0..4 {
        if let (Some(p), Some(q), Some(t), Some(u)) = (a.at[k], b.at[k], a.on[k], b.on[k]) {
            sum += (q.x.0 - p.x.0).hypot(q.y.0 - p.y.0) / (u - t);
            n += 1.0;
        }
    }
    (n > 0.0).then(|| sum / n)
}

/// A stride's place and whether it is big (`true`), small, or between.
type Size = (usize, Option<bool>);

/// Strides sorted into big, small and between by their length: the upper and the lower third of
/// the range from the shortest tenth to the longest. `None` without positions, or when all are of
/// one size (the range is under 8 % of the mean, project default).
fn sizes(strides: &[Stride]) -> Option<Vec<Size>> {
    let lengths: Vec<(usize, f64)> = strides
        .windows(2)
        .enumerate()
        .filter(|(_, w)| (w[1].start - w[0].end).abs() < 1e-9)
        .filter_map(|(k, w)| Some((k, w[0].duration() * speed(&w[0], &w[1])?)))
        .collect();
    let mut sorted: Vec<f64> = lengths.iter().map(|(_, l)| *l).collect();
    sorted.sort_by(f64::total_cmp);
    let n = sorted.len();
    let (lo, hi) = (*sorted.get(n / 10)?, *sorted.get(n - 1 - n / 10)?);
    if hi - lo < 0.08 * mean(&sorted) {
        return None;
    }
    let third = (hi - lo) / 3.0;
    let size = |l: f64| {
        if l >= hi - third {
            Some(true)
        } else if l <= lo + third {
            Some(false)
        } else {
            None
        }
    };
    Some(lengths.into_iter().map(|(k, l)| (k, size(l))).collect())
}

/// Changes between big and small, and the strides between that they took.
fn changes(sizes: &[Size]) -> (usize, usize) {
    let (mut changes, mut between, mut waiting) = (0, 0, 0);
    let mut last = None;
    for (_, size) in sizes {
        match (last, size) {
            (Some(a), Some(b)) if a != *b => {
                changes += 1;
                between += waiting;
                last = Some(*b);
                waiting = 0;
            }
            (_, Some(b)) => {
                last = Some(*b);
                waiting = 0;
            }
            (_, None) => waiting += 1,
        }
    }
    (changes, between)
}
