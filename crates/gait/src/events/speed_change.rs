//! Longer or quicker: how much of a change of speed came from tempo.

use crate::base::gait::Gait;
use crate::base::thresholds::Thresholds;
use crate::bouts::bout_figures::BoutFigures;
use crate::stats::estimate::Estimate;

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
