//! Work forward and back: big strides against small ones.

use crate::bouts::bout_figures::BoutFigures;
use crate::marks::movement::MovementKind;
use crate::marks::ride_mark::MovementStretch;
use crate::stats::descriptive::mean;
use crate::strides::stride::Stride;

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
    movements: &[MovementStretch],
) -> Vec<ForwardBack> {
    let one = |m: &MovementStretch| {
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
            strides_to_change: (changes > 0).then(|| {
                1.0 + crate::base::number::count(between) / crate::base::number::count(changes)
            }),
        })
    };
    movements
        .iter()
        .filter(|m| m.movement.kind == MovementKind::ForwardBack)
        .filter_map(one)
        .collect()
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
