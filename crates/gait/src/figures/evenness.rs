//! Evenness of the beats: the mean phases, the walk's four gaps, the trot's steps and the
//! dissociation of its diagonals.

use crate::base::limb::Limb;
use crate::base::phase;
use crate::stats::estimate::Estimate;
use crate::stats::timing_error::{TimingError, mean_of};
use crate::strides::stride::Stride;

/// Circular mean phase of a limb's footfall from the start of the stride.
pub fn mean_phase(strides: &[Stride], limb: Limb) -> Option<f64> {
    phase::mean(&strides.iter().filter_map(|s| s.phase(limb)).collect::<Vec<f64>>())
}

/// Lateral advanced placement: the fore after the hind of its side, mean of both sides, share of
/// the stride.
pub fn lateral_advanced_placement(
    strides: &[Stride],
    timing: Option<TimingError>,
    stride_s: f64,
    spread_s: f64,
) -> Option<Estimate> {
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
    mean_of(timing, &unrolled, 1.0 / (stride_s * stride_s), stride_s, spread_s)
}

/// Time from a hind's footfall to that of its diagonal fore, s; positive when the hind lands
/// first (Holmström et al. 1994 saw that in elite trot; value from memory).
pub fn dissociation(
    strides: &[Stride],
    hind: Limb,
    timing: Option<TimingError>,
    stride_s: f64,
    spread_s: f64,
) -> Option<Estimate> {
    let fore = if hind == Limb::LH { Limb::RF } else { Limb::LF };
    let gaps: Vec<f64> = strides.iter().filter_map(|s| s.gap_short(hind, fore)).collect();
    mean_of(timing, &gaps, 2.0, stride_s, spread_s)
}

/// Root mean square distance of the mean stride's four gaps from 25 % each, per cent of the
/// stride. `None` unless all four limbs were marked.
pub fn four_beat_rms_pct(strides: &[Stride]) -> Option<f64> {
    let mut beats: Vec<f64> =
        Limb::ALL.into_iter().map(|l| mean_phase(strides, l)).collect::<Option<_>>()?;
    beats.sort_by(f64::total_cmp);
    let gaps =
        (0..4).map(|k| if k < 3 { beats[k + 1] - beats[k] } else { 1.0 + beats[0] - beats[3] });
    let square: f64 = gaps.map(|g| (g - 0.25) * (g - 0.25)).sum();
    Some(100.0 * (square / 4.0).sqrt())
}

/// Symmetry index of the hinds' step times, 100·(L − R)/(½(L + R)) per cent (Robinson et al.
/// 1987; value from memory): the step that ends with the left hind against the other.
pub fn step_asymmetry(
    strides: &[Stride],
    timing: Option<TimingError>,
    stride_s: f64,
    spread_s: f64,
) -> Option<Estimate> {
    let values: Vec<f64> = strides
        .iter()
        .filter_map(|s| {
            // L − R = 2·(RH→LH) − T and ½(L + R) = ½T.
            let left_step = s.phase_between(Limb::RH, Limb::LH)?;
            Some(400.0 * (left_step - 0.5))
        })
        .collect();
    // (400/T) of a difference 2·mark − sum of the two start marks, weight 1² + ½² + ½².
    mean_of(timing, &values, 1.5 * (400.0 / stride_s).powi(2), stride_s, spread_s)
}
