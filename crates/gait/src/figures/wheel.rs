//! The stride wheel: every stride of a bout laid over one another on a clock face, the first hind
//! at twelve, for drawing. Phases 0 to 1 clockwise; arrays indexed by [`Limb::index`].

use crate::base::gait::Gait;
use crate::base::limb::Limb;
use crate::base::phase;
use crate::base::thresholds::Thresholds;
use crate::strides::stride::Stride;

/// One stride on the wheel.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub struct Spoke {
    /// Phase of each limb's footfall.
    pub on: [Option<f64>; 4],
    /// Phase at which each limb leaves the ground, 0 to 1 (past the start of the next stride it
    /// begins anew).
    pub off: [Option<f64>; 4],
}

/// A bout's wheel.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct Wheel {
    /// Every stride.
    pub spokes: Vec<Spoke>,
    /// The mean stride: circular means.
    pub mean: Spoke,
    /// Sectors with no hoof on the ground in the mean stride, each from and to.
    pub air: Vec<(f64, f64)>,
    /// Where the beats of an ideal stride of this gait fall.
    pub ideal: &'static [f64],
    /// When the leg for each hind can act in the mean stride, from and to (common practice, see
    /// [`crate::events::aid_phase`]); for hinds whose stance is known.
    pub leg_windows: Vec<(Limb, f64, f64)>,
}

/// The wheel of the strides of one bout.
pub fn wheel(strides: &[Stride], gait: Gait, limits: &Thresholds) -> Wheel {
    let spokes: Vec<Spoke> = strides
        .iter()
        .map(|s| Spoke {
            on: Limb::ALL.map(|l| s.phase(l)),
            off: Limb::ALL
                .map(|l| s.off[l.index()].map(|off| phase::wrap((off - s.start) / s.duration()))),
        })
        .collect();
    let circular = |get: &dyn Fn(&Spoke) -> Option<f64>| {
        phase::mean(&spokes.iter().filter_map(get).collect::<Vec<f64>>())
    };
    let mean = Spoke {
        on: Limb::ALL.map(|l| circular(&|s| s.on[l.index()])),
        off: Limb::ALL.map(|l| circular(&|s| s.off[l.index()])),
    };
    let leg_windows = [Limb::LH, Limb::RH]
        .into_iter()
        .filter_map(|hind| {
            let (on, off) = (mean.on[hind.index()]?, mean.off[hind.index()]?);
            let stance = phase::wrap(off - on);
            let from = phase::wrap(off - limits.aid_stance_share * stance);
            Some((hind, from, phase::wrap(off + limits.aid_after_share * stance)))
        })
        .collect();
    Wheel { air: air(&mean), ideal: gait.ideal_beats(), mean, spokes, leg_windows }
}

/// The gaps between the stances of a mean stride; none unless every stance is known.
fn air(mean: &Spoke) -> Vec<(f64, f64)> {
    let mut stances: Vec<(f64, f64)> = Vec::with_capacity(4);
    for limb in Limb::ALL {
        let (Some(on), Some(off)) = (mean.on[limb.index()], mean.off[limb.index()]) else {
            return Vec::new();
        };
        stances.push((on, on + phase::wrap(off - on)));
    }
    stances.sort_by(|a, b| a.0.total_cmp(&b.0));
    let mut gaps = Vec::new();
    let first = stances[0].0;
    // Stances that reach over the end of the circle cover its beginning.
    let mut covered = stances.iter().map(|s| s.1 - 1.0).fold(first, f64::max);
    for (on, off) in &stances {
        if *on > covered {
            gaps.push((covered, *on));
        }
        covered = covered.max(*off);
    }
    if covered < 1.0 + first {
        gaps.push((covered, 1.0 + first));
    }
    gaps.into_iter().map(|(a, b)| (phase::wrap(a), phase::wrap(b))).collect()
}

#[cfg(test)]
mod tests {
    use super::{Spoke, air};

    fn spoke(on: [f64; 4], duty: f64) -> Spoke {
        Spoke { on: on.map(Some), off: on.map(|p| Some((p + duty).rem_euclid(1.0))) }
    }

    #[test]
    fn a_walk_has_no_air_a_trot_two_gaps_a_canter_one() {
        assert!(air(&spoke([0.24, 0.74, 0.0, 0.5], 0.63)).is_empty());
        let trot = air(&spoke([0.51, 0.01, 0.0, 0.5], 0.42));
        assert_eq!(trot.len(), 2);
        for (gap, (from, to)) in trot.iter().zip([(0.43, 0.5), (0.93, 0.0)]) {
            assert!((gap.0 - from).abs() < 1e-9 && (gap.1 - to).abs() < 1e-9, "{trot:?}");
        }
        let canter = air(&spoke([0.48, 0.26, 0.25, 0.0], 0.40));
        assert_eq!(canter.len(), 1);
        assert!((canter[0].0 - 0.88).abs() < 1e-9 && canter[0].1.abs() < 1e-9, "{canter:?}");
    }
}
