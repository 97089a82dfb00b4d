//! Rising trot: on which diagonal the rider sits, how evenly, and whether the horse follows a
//! change of the rider's tempo.

use statrs::distribution::{ContinuousCDF, StudentsT};

use crate::base::gait::{Gait, Label};
use crate::base::limb::{Limb, Side};
use crate::base::number::count;
use crate::base::phase;
use crate::marks::aid::Aid;
use crate::marks::ride_mark::{MarkKind, RideMark};
use crate::stats::descriptive::mean;
use crate::strides::stride::Stride;

/// A run of rising trot.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Posting {
    /// First sit, s.
    pub time_s: f64,
    /// Last sit, s.
    pub end_s: f64,
    /// Sits marked.
    pub sits: usize,
    /// The diagonal that stands while the rider sits, by its fore: left is LF with RH.
    pub diagonal: Option<Side>,
    /// Mean place of the sit after that diagonal's hind takes the ground, share of the stride.
    pub mean_phase: f64,
    /// Circular spread of that place, share of the stride.
    pub scatter: f64,
    /// Strides by which the horse's tempo follows the rider's, when both vary enough to tell.
    pub lag_strides: Option<usize>,
    /// Correlation at that lag.
    pub correlation: Option<f64>,
}

/// Longest lag that is looked for, strides.
const LONGEST_LAG: usize = 6;

/// Fewest sits for a lag.
const FEWEST: usize = 12;

/// Correlation from which the horse is said to follow (project default).
const FOLLOWS: f64 = 0.6;

/// Times at which the rider sits, from aids named `sit`, sorted.
fn sits(marks: &[RideMark]) -> Vec<f64> {
    let sit = |m: &&RideMark| matches!(&m.kind, MarkKind::Aid(Aid::Other(name)) if name == "sit");
    let mut out: Vec<f64> = marks.iter().filter(sit).map(|m| m.time).collect();
    out.sort_by(f64::total_cmp);
    out
}

/// Rising trot in runs of trot strides (`labels` are smoothed) with at least three marked sits.
pub fn posting(strides: &[Stride], labels: &[Label], marks: &[RideMark]) -> Vec<Posting> {
    let sits = sits(marks);
    let mut placed: Vec<(f64, usize)> = Vec::with_capacity(sits.len());
    for time in sits {
        let k = strides.partition_point(|s| s.start <= time);
        let Some(k) = k.checked_sub(1) else { continue };
        if labels[k].gait == Gait::Trot && time < strides[k].end {
            placed.push((time, k));
        }
    }
    // A sit a stride; a longer pause ends the run.
    placed
        .chunk_by(|a, b| b.1 - a.1 <= 3)
        .filter(|run| run.len() >= 3)
        .filter_map(|run| one(strides, run))
        .collect()
}

fn one(strides: &[Stride], run: &[(f64, usize)]) -> Option<Posting> {
    let after = |hind: Limb| -> Vec<f64> {
        run.iter()
            .filter_map(|(time, k)| {
                let s = &strides[*k];
                Some(phase::wrap((time - s.on[hind.index()]?) / s.duration()))
            })
            .collect()
    };
    // The rider sits into the half of the stride that a hind's footfall begins.
    let of = |hind: Limb| {
        let phases = after(hind);
        Some((hind, phase::mean(&phases)?, phase::resultant(&phases)))
    };
    let (hind, mean_phase, resultant) =
        [of(Limb::LH)?, of(Limb::RH)?].into_iter().min_by(|a, b| a.1.total_cmp(&b.1))?;
    // Circular standard deviation √(−2 ln R), in turns.
    let scatter = (-2.0 * resultant.max(1e-12).ln()).max(0.0).sqrt() / std::f64::consts::TAU;
    let together = resultant > 0.5;
    let lag = follows(strides, run);
    Some(Posting {
        time_s: run[0].0,
        end_s: run[run.len() - 1].0,
        sits: run.len(),
        diagonal: together.then(|| hind.side().opposite()),
        mean_phase,
        scatter,
        lag_strides: lag.map(|(lag, _)| lag),
        correlation: lag.map(|(_, r)| r),
    })
}

/// The lag, in strides, at which stride durations resemble the times from sit to sit most, and
/// their correlation there. The rider sits into the stride under way, so that the two are alike at
/// once whoever leads: a horse that follows does so in a later one. The largest of several lags is
/// large by chance too: it is told when it stands with all of them counted.
fn follows(strides: &[Stride], run: &[(f64, usize)]) -> Option<(usize, f64)> {
    if run.len() < FEWEST {
        return None;
    }
    let gaps: Vec<(f64, usize)> = run
        .windows(2)
        .filter(|w| w[1].1 == w[0].1 + 1)
        .map(|w| (w[1].0 - w[0].0, w[0].1))
        .collect();
    let at = |lag: usize| {
        let (x, y): (Vec<f64>, Vec<f64>) = gaps
            .iter()
            .filter_map(|(gap, k)| Some((*gap, strides.get(k + lag)?.duration())))
            .unzip();
        (x.len() + LONGEST_LAG >= FEWEST).then(|| (correlation(&x, &y), chance(&x, &y)))
    };
    let (lag, (r, chance)) = (1..=LONGEST_LAG)
        .filter_map(|lag| Some((lag, at(lag)?)))
        .max_by(|a, b| a.1.0.total_cmp(&b.1.0))?;
    (r >= FOLLOWS && count(LONGEST_LAG) * chance <= BY_CHANCE).then_some((lag, r))
}

/// Chance of so large a correlation of two series that have nothing to do with one another. Series
/// that each resemble themselves agree by chance more often: they count for
/// n·(1 − ρ₁ρ₂)/(1 + ρ₁ρ₂) values (Bartlett 1935, J R Stat Soc 98:536; value from memory).
fn chance(x: &[f64], y: &[f64]) -> f64 {
    let r = correlation(x, y).clamp(-0.999_999, 0.999_999);
    let own = |v: &[f64]| correlation(&v[..v.len() - 1], &v[1..]);
    let alike = if x.len() < 4 { 0.0 } else { (own(x) * own(y)).clamp(0.0, 0.9) };
    let dof = count(x.len()) * (1.0 - alike) / (1.0 + alike) - 2.0;
    let Ok(student) = StudentsT::new(0.0, 1.0, dof.max(1.0)) else { return 1.0 };
    student.sf(r * (dof.max(1.0) / (1.0 - r * r)).sqrt())
}

/// Chance up to which a horse is said to follow that does not (project default, the usual 5 %).
const BY_CHANCE: f64 = 0.05;

fn correlation(x: &[f64], y: &[f64]) -> f64 {
    let (mx, my) = (mean(x), mean(y));
    let sum = |f: &dyn Fn(f64, f64) -> f64| -> f64 {
        x.iter().zip(y).map(|(a, b)| f(a - mx, b - my)).sum::<f64>() / count(x.len())
    };
    let spread = (sum(&|a, _| a * a) * sum(&|_, b| b * b)).sqrt();
    if spread > 0.0 { sum(&|a, b| a * b) / spread } else { 0.0 }
}
