//! Evenness of the beats: the mean phases, the walk's four gaps, the trot's steps and the
//! dissociation of its diagonals.

use crate::base::limb::Limb;
use crate::base::phase;
use crate::base::usual::{self, Usual};
use crate::stats::estimate::Estimate;
use crate::stats::quantiles::normal_quantile;
use crate::stats::sizes::size_in_space;
use crate::stats::stride_mean::{Shown, StrideMean};
use crate::strides::stride::Stride;

/// Circular mean phase of a limb's footfall from the start of the stride.
pub fn mean_phase(strides: &[Stride], limb: Limb) -> Option<f64> {
    phase::mean(&strides.iter().filter_map(|s| s.phase(limb)).collect::<Vec<f64>>())
}

/// Lateral advanced placement: the fore after the hind of its side, mean of both sides, share of
/// the stride.
pub fn lateral_advanced_placement(strides: &[Stride], over: &StrideMean) -> Option<Estimate> {
    let values: Vec<f64> = strides
        .iter()
        .filter_map(|s| {
            let left = s.phase_between(Limb::LH, Limb::LF)?;
            let right = s.phase_between(Limb::RH, Limb::RF)?;
            phase::mean(&[left, right])
        })
        .collect();
    let unrolled = phase::unrolled(&values)?;
    // The mean of two differences of two marks each weighs one mark, in strides.
    over.of(&unrolled, 1.0 / (over.stride_s * over.stride_s))
}

/// Time from a hind's footfall to that of its diagonal fore, s; positive when the hind lands
/// first (Holmström et al. 1994 saw that in elite trot; value from memory).
pub fn dissociation(strides: &[Stride], hind: Limb, over: &StrideMean) -> Option<Estimate> {
    let fore = if hind == Limb::LH { Limb::RF } else { Limb::LF };
    let gaps: Vec<f64> = strides.iter().filter_map(|s| s.gap_short(hind, fore)).collect();
    over.of(&gaps, 2.0)
}

/// Root mean square distance of the mean stride's four gaps from 25 % each, per cent of the
/// stride, with what the marks and the strides' scatter add to a size taken out. `None` unless all
/// four limbs were marked.
///
/// The size moves with each stride's gaps along the direction in which the mean stride is uneven:
/// that series gives its error; [`size_in_space`] frees it of the bias that every size has.
pub fn four_beat_rms_pct(strides: &[Stride], over: &StrideMean) -> Option<Estimate> {
    let mut order = Limb::ALL.map(|l| (l, mean_phase(strides, l)));
    if order.iter().any(|(_, p)| p.is_none()) {
        return None;
    }
    let phase = |p: &Option<f64>| p.unwrap_or(0.0);
    order.sort_by(|a, b| phase(&a.1).total_cmp(&phase(&b.1)));
    let after = |k: usize| (k + 1) % 4;
    let gap = |from: f64, to: f64| phase::wrap(to - from);
    let off: [f64; 4] =
        std::array::from_fn(|k| gap(phase(&order[k].1), phase(&order[after(k)].1)) - 0.25);
    let rms = (off.iter().map(|o| o * o).sum::<f64>() / 4.0).sqrt();
    let n = strides.len();
    if rms < 1e-12 {
        return Some(Estimate { value: 0.0, sd: None, ci95: None, n });
    }
    // A footfall ends one gap and begins the next.
    let pull = off.map(|o| o / (4.0 * rms));
    let marks: f64 = (0..4).map(|k| (pull[k] - pull[after(k)]).powi(2)).sum();
    let series: Vec<f64> = strides
        .iter()
        .filter_map(|s| {
            let mut sum = 0.0;
            for k in 0..4 {
                let (a, b) = (s.phase(order[k].0)?, s.phase(order[after(k)].0)?);
                sum += pull[k] * (phase::signed(b - a - 0.25 - off[k]) + off[k]);
            }
            Some(sum)
        })
        .collect();
    let marks = marks / (over.stride_s * over.stride_s);
    let usual = usual::PLACES.scaled(marks.sqrt() * over.stride_s);
    let by = Shown { values: &series, marks, shared: 0.0, next: 0.0, usual };
    let along = over.about(rms, n, by).scaled(100.0);
    Some(along.half_width().filter(|h| *h > 0.0).map_or(along, |half| {
        let (value, ci95) = size_in_space(along.value, half / normal_quantile(0.975));
        Estimate { value, ci95: Some(ci95), ..along }
    }))
}

/// Symmetry index of the hinds' step times, 100·(L − R)/(½(L + R)) per cent (Robinson et al.
/// 1987; value from memory): the step that ends with the left hind against the other.
pub fn step_asymmetry(strides: &[Stride], over: &StrideMean) -> Option<Estimate> {
    let values: Vec<f64> = strides
        .iter()
        .filter_map(|s| {
            // L − R = 2·(RH→LH) − T and ½(L + R) = ½T.
            let left_step = s.phase_between(Limb::RH, Limb::LH)?;
            Some(400.0 * (left_step - 0.5))
        })
        .collect();
    // (400/T) of the difference of a mark and the mean of the stride's two end marks: 1² + ½² + ½²,
    // and neighbours share an end, ½ · ½.
    let marks = 1.5 * (400.0 / over.stride_s).powi(2);
    let shared = 0.25 / 1.5;
    // The landings' own scatter is shared like the marks' error.
    let places = usual::PLACES.scaled(marks.sqrt() * over.stride_s);
    let usual = Usual { likeness: places.likeness + shared, ..places };
    over.shown(&values, Shown { values: &values, marks, shared, next: 0.0, usual })
}
