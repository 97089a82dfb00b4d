//! Rein-back: steps of diagonal pairs backwards.

use crate::base::gait::Gait;
use crate::base::limb::Limb;
use crate::base::number::count;
use crate::events::transition::Transition;
use crate::marks::footfall::Footfall;
use crate::marks::movement::MovementKind;
use crate::marks::ride_mark::MovementStretch;
use crate::stats::descriptive::{mean, variance};
use crate::strides::halt::Halt;

/// A rein-back.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct ReinBack {
    /// First footfall, s, …
    pub time_s: f64,
    /// … and whose.
    pub first_limb: Limb,
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

/// A hoof that leaves a halt lands within this time, s (project default).
const SWING_S: f64 = 1.0;

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

/// Puts right transitions out of halts into rein-backs that the coach marked: the first footfall is the
/// rein-back's, also where a few steps with a mark missing make no stride of diagonal pairs, or begin
/// one only with the second.
pub fn out_of_halts(rein_backs: &[ReinBack], halts: &[Halt], told: &mut Vec<Transition>) {
    for r in rein_backs.iter().filter(|r| r.steps >= 2) {
        let Some(halt) = halts.iter().rfind(|h| h.end_s <= r.time_s) else { continue };
        if r.time_s - halt.end_s > SWING_S {
            continue;
        }
        let during = |t: &&mut Transition| (halt.end_s..=r.end_s).contains(&t.time_s);
        match told.iter_mut().find(during) {
            Some(t) if t.to == Gait::ReinBack && r.time_s < t.time_s => {
                (t.time_s, t.first_limb) = (r.time_s, r.first_limb);
            }
            Some(_) => {}
            None => told.push(Transition {
                time_s: r.time_s,
                from: Gait::Halt,
                to: Gait::ReinBack,
                first_limb: r.first_limb,
                intermediate: None,
                steps: 0,
                lead: None,
            }),
        }
    }
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
        first_limb: marks.first()?.limb,
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
