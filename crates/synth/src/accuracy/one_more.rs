//! What one stride more changes in the width of an interval: the same bout, with and without it.

use std::fmt::Write as _;

use umlauf_gait::stats::descriptive::median;

use crate::accuracy::by_length::{Cell, Figure, Ride, each};
use crate::accuracy::row::RATES;
use crate::second_horse::Kind;

/// Strides of the bouts that are given one more.
pub const SHORT: [u32; 7] = [5, 6, 7, 8, 9, 10, 11];

/// More than this, either way, is a jump.
const MOST: f64 = 0.2;

/// Rides with an interval both times, fewer of which say nothing.
const FEW: usize = 100;

/// Median width with one stride more by that without, from each of [`SHORT`], over rides that have an
/// interval both times; `None` of too few.
pub type Steps = [[Option<f64>; SHORT.len()]; Figure::ALL.len()];

/// [`Steps`] of a cell, whatever its strides.
pub fn steps(cell: &Cell, runs: u64) -> Steps {
    let rides = |strides: u32| {
        let mut out: Vec<Option<Ride>> = (0..runs).map(|_| None).collect();
        each(&Cell { strides, ..*cell }, runs, |run, ride, _| {
            let place = usize::try_from(run).ok().and_then(|run| out.get_mut(run));
            if let Some(place) = place {
                *place = Some(ride);
            }
        });
        out
    };
    let mut out = Steps::default();
    let mut before = rides(SHORT[0]);
    for (step, strides) in SHORT.into_iter().enumerate() {
        let now = rides(strides + 1);
        for (figure, out) in out.iter_mut().enumerate() {
            let width = |ride: &Option<Ride>| {
                let [_, lo, hi, _] = ride.as_ref()?[figure]?;
                Some(hi - lo)
            };
            let both = before.iter().zip(&now).filter_map(|(a, b)| Some((width(a)?, width(b)?)));
            let (before, after): (Vec<f64>, Vec<f64>) = both.unzip();
            out[step] = if before.len() < FEW {
                None
            } else {
                median(after).zip(median(before)).map(|(after, before)| after / before)
            };
        }
        before = now;
    }
    out
}

/// [`steps`] of all gaits and rates, with marks that scatter and on the bare frame grid.
pub fn all_steps(runs: u64) -> Vec<(Cell, Steps)> {
    let of = |bare| {
        let mut out = Vec::new();
        for kind in Kind::ALL {
            for rate in RATES {
                let cell =
                    Cell { kind, strides: SHORT[0], rate, bare, spread: (0.01, 0.05), drift: 0.0 };
                out.push((cell, steps(&cell, runs)));
            }
        }
        out
    };
    std::thread::scope(|scope| {
        let grid = scope.spawn(|| of(true));
        let mut all = of(false);
        all.extend(grid.join().unwrap_or_default());
        all
    })
}

/// The section of the page.
pub fn section(all: &[(Cell, Steps)]) -> String {
    let mut out = String::from(INTRODUCTION);
    let mut judged = 0;
    let mut far: Vec<(f64, String)> = Vec::new();
    for (cell, steps) in all {
        for (figure, steps) in Figure::ALL.into_iter().zip(steps) {
            for (from, ratio) in SHORT.into_iter().zip(steps) {
                let Some(ratio) = ratio else { continue };
                judged += 1;
                if (ratio - 1.0).abs() > MOST {
                    let marks = if cell.bare { "grid" } else { "scattered" };
                    let (figure, gait, rate) = (figure.name(), cell.kind.name(), cell.rate);
                    far.push((
                        *ratio,
                        format!("| {figure} | {gait} | {rate} | {marks} | {from} to {} | {ratio:.2} |\n", from + 1),
                    ));
                }
            }
        }
    }
    far.sort_by(|a, b| a.0.total_cmp(&b.0));
    let _ = writeln!(out, "**Missed**: {} of {judged} changes are larger.\n", far.len());
    if !far.is_empty() {
        out.push_str("| figure | gait | frames/s | marks | strides | ratio |\n|---|---|---:|---|---:|---:|\n");
        far.iter().for_each(|(_, line)| out.push_str(line));
        out.push('\n');
    }
    out.push_str("| figure |");
    for from in SHORT {
        let _ = write!(out, " {from} to {} |", from + 1);
    }
    let _ = writeln!(out, "\n|---|{}", "---:|".repeat(SHORT.len()));
    for (k, figure) in Figure::ALL.into_iter().enumerate() {
        let _ = write!(out, "| {} |", figure.name());
        for step in 0..SHORT.len() {
            let mut seen: Vec<f64> = all.iter().filter_map(|(_, s)| s[k][step]).collect();
            seen.sort_by(f64::total_cmp);
            let middle = median(seen.clone());
            let _ = match (seen.first(), seen.last(), middle) {
                (Some(least), Some(most), Some(middle)) => {
                    write!(out, " {middle:.2} ({least:.2}–{most:.2}) |")
                }
                _ => write!(out, " – |"),
            };
        }
        out.push('\n');
    }
    out
}

const INTRODUCTION: &str = "
### One stride more

Median width of an interval with one stride more, by that without it, over rides that have it both times: the
middle of all gaits, frame rates and marks, and the least and the most of them. Aim: never more than 20 %
either way (an ideal interval shrinks by 9 % from five strides to six).

";
