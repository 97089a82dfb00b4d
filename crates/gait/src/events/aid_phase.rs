//! When in the stride an aid falls, and whether inside the window in which it can act.
//!
//! Windows (common practice; schools differ): leg for a hind, the last 15 % of its stance to 5 %
//! of it after it leaves; outside fore for a turn, the last 15 % of its stance; canter depart, as
//! the outside hind takes the ground; flying change, from the leading fore's footfall to the end
//! of suspension; half-halt, while the outside hind stands.

use crate::base::gait::Label;
use crate::base::limb::{Limb, Side};
use crate::base::phase;
use crate::base::schools::AidTiming;
use crate::bouts::lead_verdict::rein_at;
use crate::bouts::options::Options;
use crate::marks::aid::Aid;
use crate::marks::ride_mark::MarkKind;
use crate::strides::stride::Stride;

/// An aid in the stride.
#[derive(Clone, Debug, PartialEq)]
pub struct AidPhase {
    /// When, s.
    pub time_s: f64,
    /// What was asked.
    pub asked: Aid,
    /// Its place in the stride, 0 to 1 from the first hind's footfall; `None` between strides.
    pub phase: Option<f64>,
    /// Whether it fell into its window; `None` when no window is known or the marks do not tell.
    pub in_window: Option<bool>,
}

/// Aids of one kind taken together.
#[derive(Clone, Debug, PartialEq)]
pub struct AidSummary {
    /// What was asked.
    pub asked: Aid,
    /// First of them, s.
    pub from_s: f64,
    /// Last of them, s.
    pub to_s: f64,
    /// How many fell into a stride.
    pub aids: usize,
    /// Those whose window is known.
    pub judged: usize,
    /// Those inside.
    pub inside: usize,
    /// Circular mean of their phases.
    pub mean_phase: f64,
    /// Circular spread √(−2 ln R), share of the stride.
    pub scatter: f64,
}

/// Places all aids in their strides. The rein of the moment, said of the stretch or of the clip,
/// tells outside from inside.
pub fn aid_phases(strides: &[Stride], labels: &[Label], options: &Options) -> Vec<AidPhase> {
    let ride = Ride { strides, labels, options };
    let mut out: Vec<AidPhase> = options
        .marks
        .iter()
        .filter_map(|m| match &m.kind {
            // Sits of the rising trot are no aids.
            MarkKind::Aid(Aid::Other(name)) if name == "sit" => None,
            MarkKind::Aid(aid) => Some((m.time, aid)),
            _ => None,
        })
        .map(|(time_s, asked)| {
            let k = strides.partition_point(|s| s.start <= time_s);
            let here = k.checked_sub(1).filter(|k| time_s < strides[*k].end);
            AidPhase {
                time_s,
                asked: asked.clone(),
                phase: here.map(|k| (time_s - strides[k].start) / strides[k].duration()),
                in_window: here.and_then(|k| ride.in_window(k, time_s, asked)),
            }
        })
        .collect();
    out.sort_by(|a, b| a.time_s.total_cmp(&b.time_s));
    out
}

/// Means over the aids of each kind, in order of their first.
pub fn summaries(aids: &[AidPhase]) -> Vec<AidSummary> {
    let mut kinds: Vec<&Aid> = Vec::new();
    for aid in aids {
        if !kinds.contains(&&aid.asked) {
            kinds.push(&aid.asked);
        }
    }
    let one = |asked: &Aid| {
        let own: Vec<&AidPhase> =
            aids.iter().filter(|a| a.asked == *asked && a.phase.is_some()).collect();
        let phases: Vec<f64> = own.iter().filter_map(|a| a.phase).collect();
        let resultant = phase::resultant(&phases);
        Some(AidSummary {
            asked: asked.clone(),
            from_s: own.first()?.time_s,
            to_s: own.last()?.time_s,
            aids: own.len(),
            judged: own.iter().filter(|a| a.in_window.is_some()).count(),
            inside: own.iter().filter(|a| a.in_window == Some(true)).count(),
            mean_phase: phase::mean(&phases)?,
            scatter: (-2.0 * resultant.max(1e-12).ln()).max(0.0).sqrt() / std::f64::consts::TAU,
        })
    };
    kinds.into_iter().filter_map(one).collect()
}

/// What decides the window of an aid.
struct Ride<'a> {
    strides: &'a [Stride],
    labels: &'a [Label],
    options: &'a Options,
}

impl Ride<'_> {
    /// The windows of an aid about the stride `k`, as times from and to, s. A stance may reach over
    /// from the stride before, a footfall belong to the next.
    fn windows(&self, k: usize, time: f64, aid: &Aid) -> Vec<(f64, f64)> {
        let Ride { strides, labels, options } = *self;
        let limits = &options.thresholds;
        let near = strides[k.saturating_sub(1)..(k + 2).min(strides.len())].iter();
        let hind = |side: Side| if side == Side::Left { Limb::LH } else { Limb::RH };
        let fore = |side: Side| if side == Side::Left { Limb::LF } else { Limb::RF };
        let stance = |s: &Stride, limb: Limb| Some((s.on[limb.index()]?, s.off[limb.index()]?));
        let share = limits.aid_stance_share;
        let leaving = |s: &Stride, limb: Limb, after: f64| {
            let (on, off) = stance(s, limb)?;
            let length = off - on;
            Some((off - share * length, off + after * length))
        };
        match aid {
            Aid::Leg(limb) if limb.is_hind() => {
                let limb = *limb;
                match options.schools.aid_timing {
                    AidTiming::HindLeaving => {
                        near.filter_map(|s| leaving(s, limb, limits.aid_after_share)).collect()
                    }
                    // The outer fore breaks over while the diagonal hind still pushes.
                    AidTiming::OutsideFore => {
                        near.filter_map(|s| leaving(s, fore(limb.side().opposite()), 0.0)).collect()
                    }
                }
            }
            Aid::Leg(limb) => near.filter_map(|s| leaving(s, *limb, 0.0)).collect(),
            Aid::Canter(Some(lead)) => {
                let outside = hind(lead.opposite());
                let slack = |s: &Stride| limits.aid_depart_share * s.duration();
                near.filter_map(|s| {
                    let on = s.on[outside.index()]?;
                    Some((on - slack(s), on + slack(s)))
                })
                .collect()
            }
            Aid::Change => {
                let Some(lead) = labels[k].hind_lead else { return Vec::new() };
                near.filter_map(|s| Some((s.on[fore(lead).index()]?, s.end))).collect()
            }
            Aid::HalfHalt => {
                let Some(outside) = rein_at(time, time, options).map(|r| hind(r.opposite())) else {
                    return Vec::new();
                };
                near.filter_map(|s| stance(s, outside)).collect()
            }
            Aid::Other(name) => {
                let outside = match name.as_str() {
                    "turn-left" => fore(Side::Right),
                    "turn-right" => fore(Side::Left),
                    _ => return Vec::new(),
                };
                near.filter_map(|s| leaving(s, outside, 0.0)).collect()
            }
            _ => Vec::new(),
        }
    }

    /// Whether an aid fell into a window; `None` when none is known.
    fn in_window(&self, k: usize, time: f64, aid: &Aid) -> Option<bool> {
        let windows = self.windows(k, time, aid);
        let inside = |(from, to): &(f64, f64)| (*from..=*to).contains(&time);
        (!windows.is_empty()).then(|| windows.iter().any(inside))
    }
}
