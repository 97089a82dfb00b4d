//! Rein-back: steps of diagonal pairs backwards.

use crate::base::limb::Limb;
use crate::base::number::count;
use crate::marks::footfall::Footfall;
use crate::marks::movement::MovementKind;
use crate::marks::ride_mark::MovementStretch;
use crate::stats::descriptive::{mean, variance};

/// A rein-back.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct ReinBack {
    /// First footfall, s.
    pub time_s: f64,
    /// Last footfall, s.
    pub end_s: f64,
    /// Steps: each diagonal pair put down is one.
    pub steps: usize,
    /// Steps whose two hooves land together, of those with both hooves marked.
    pub diagonal: usize,
    /// Steps with both hooves marked.
    pub pairs: usize,
    /// Spread of the time from one step to the next, per cent of its mean, when there are four
    /// steps or more. It holds the marks' own error.
    pub spread_pct: Option<f64>,
    /// Largest distance of the hooves' prints from the line gone back, m, when positions tell.
    pub off_line_m: Option<f64>,
}

/// Two hooves of a diagonal nearer than this share of a step pair (half a stride) land together
/// (project default: a fifth of it).
const TOGETHER: f64 = 0.2;

/// Rein-backs in the stretches that the coach marked as such, from tidy marks in order of time.
pub fn rein_backs(marks: &[Footfall], movements: &[MovementStretch]) -> Vec<ReinBack> {
    let here = movements.iter().filter(|m| m.movement.kind == MovementKind::ReinBack);
    here.filter_map(|m| {
        let from = marks.partition_point(|f| f.on.0 < m.from_s);
        let to = marks.partition_point(|f| f.on.0 <= m.to_s);
        rein_back(marks.get(from..to)?)
    })
    .collect()
}

fn rein_back(marks: &[Footfall]) -> Option<ReinBack> {
    let (time_s, end_s) = (marks.first()?.on.0, marks.last()?.on.0);
    // Each footfall falls into the step of its diagonal: LH with RF, RH with LF.
    let left = |limb: Limb| matches!(limb, Limb::LH | Limb::RF);
    let mut steps: Vec<(bool, Vec<&Footfall>)> = Vec::new();
    for mark in marks {
        match steps.last_mut() {
            Some((side, own))
                if *side == left(mark.limb) && own.iter().all(|o| o.limb != mark.limb) =>
            {
                own.push(mark);
            }
            _ => steps.push((left(mark.limb), vec![mark])),
        }
    }
    let starts: Vec<f64> = steps.iter().map(|(_, own)| own[0].on.0).collect();
    let gaps: Vec<f64> = starts.windows(2).map(|w| w[1] - w[0]).collect();
    let step = if gaps.is_empty() { 0.0 } else { mean(&gaps) };
    let pairs: Vec<f64> = steps
        .iter()
        .filter(|(_, own)| own.len() == 2)
        .map(|(_, own)| own[1].on.0 - own[0].on.0)
        .collect();
    let together = pairs.iter().filter(|gap| **gap <= TOGETHER * step).count();
    let spread_pct = (gaps.len() >= 3).then(|| 100.0 * variance(&gaps).sqrt() / step);
    Some(ReinBack {
        time_s,
        end_s,
        steps: steps.len(),
        diagonal: together,
        pairs: pairs.len(),
        spread_pct,
        off_line_m: off_line(marks),
    })
}

/// Largest distance of each limb's prints from a line through them with the common direction, m.
fn off_line(marks: &[Footfall]) -> Option<f64> {
    let of = |limb: Limb| -> Vec<(f64, f64)> {
        marks
            .iter()
            .filter(|m| m.limb == limb)
            .filter_map(|m| m.at)
            .map(|p| (p.x.0, p.y.0))
            .collect()
    };
    let by_limb = Limb::ALL.map(of);
    let (mut dx, mut dy) = (0.0, 0.0);
    for own in by_limb.iter().filter(|own| own.len() >= 2) {
        dx += own[own.len() - 1].0 - own[0].0;
        dy += own[own.len() - 1].1 - own[0].1;
    }
    let length = f64::hypot(dx, dy);
    if length <= 0.0 {
        return None;
    }
    let across = |p: &(f64, f64)| (p.1 * dx - p.0 * dy) / length;
    by_limb
        .iter()
        .filter(|own| own.len() >= 2)
        .flat_map(|own| {
            let middle = own.iter().map(across).sum::<f64>() / count(own.len());
            own.iter().map(move |p| (across(p) - middle).abs())
        })
        .max_by(f64::total_cmp)
}
