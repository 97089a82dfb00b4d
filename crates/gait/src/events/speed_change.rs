//! Longer or quicker: how much of a change of speed came from tempo.

use crate::base::gait::Gait;
use crate::base::thresholds::Thresholds;
use crate::bouts::bout_figures::BoutFigures;
use crate::marks::movement::MovementKind;
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
    /// Change of tempo.
    pub tempo: LogRatio,
    /// Change of stride length.
    pub length: LogRatio,
    /// Up to this share it is made by the stride.
    pub fine: f64,
    /// Verdict.
    pub manner: Manner,
}

impl SpeedChange {
    /// Tempo beyond what the change of speed accounts for, share, positive when it is too much.
    pub fn too_much_tempo(&self) -> Estimate {
        let (s, way) = (self.fine, self.speed_ratio.ln().signum());
        let value = way * ((1.0 - s) * self.tempo.value - s * self.length.value);
        let half = self.tempo.half.zip(self.length.half);
        let half = half.map(|(tempo, length)| ((1.0 - s) * tempo).hypot(s * length));
        let ci95 = half.map(|h| (value - h, value + h));
        Estimate { value, sd: None, ci95, n: self.tempo_share.n }
    }

    /// Whether the horse went slower.
    pub fn is_slower(&self) -> bool {
        self.speed_ratio < 1.0
    }
}

/// Smallest |ln(v₂/v₁)| of which a verdict is given (project default), …
const LEAST_CHANGE: f64 = 0.10;

/// … unless the tempo alone changes by this: a horse that quickens and gains little is the plainest
/// case of hurrying (project default).
const LEAST_TEMPO: f64 = 0.08;

/// Whether speed or tempo changed by enough to speak of, from ln(f₂/f₁) and ln(v₂/v₁).
fn is_change(tempo: f64, speed: f64) -> bool {
    speed.abs() >= LEAST_CHANGE
        || (tempo.abs() >= LEAST_TEMPO && speed.abs() >= 0.5 * LEAST_CHANGE && tempo * speed > 0.0)
}

/// A logarithm of a ratio with half its 95 % interval.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct LogRatio {
    /// ln(after/before).
    pub value: f64,
    /// Half the interval, when both are known with one.
    pub half: Option<f64>,
}

impl LogRatio {
    fn of((before, after): (Estimate, Estimate)) -> Self {
        let relative = |e: Estimate| e.half_width().map(|h| h / e.value);
        let half = relative(before).zip(relative(after)).map(|(x, y)| x.hypot(y));
        Self { value: (after.value / before.value).ln(), half }
    }
}

/// Tempo share of a change of speed. Tempo f (strides/min) and stride length L (m) are measured
/// apart and v = L·f. With A = ln(f₂/f₁) and B = ln(L₂/L₁) + A the share is A/B; its interval holds
/// every s for which A − s·B = (1 − s)·A − s·ln(L₂/L₁) may be 0 (Fieller 1954, J R Stat Soc B
/// 16:175; value from memory). Limits: trot and canter 25 and 35 %, walk 40 and 50 % (project
/// defaults; trained horses' published tables give 8 to 27 %, for the walk 27 to 38 %).
pub fn speed_change(
    gait: Gait,
    tempo: (Estimate, Estimate),
    length: (Estimate, Estimate),
    limits: &Thresholds,
) -> Option<SpeedChange> {
    let n = tempo.0.n.min(tempo.1.n);
    let (tempo, length) = (LogRatio::of(tempo), LogRatio::of(length));
    let (a, b) = (tempo.value, tempo.value + length.value);
    if !b.is_finite() || b == 0.0 {
        return None;
    }
    let ci95 = fieller(tempo, length);
    let [low, high] = if gait.beats() == Some(4.0) && !gait.is_asymmetrical() {
        limits.tempo_share_walk
    } else {
        limits.tempo_share
    };
    let manner = match ci95 {
        _ if !is_change(a, b) => Manner::CannotTell,
        Some((_, hi)) if hi <= low => Manner::ByStride,
        Some((lo, _)) if lo > high => Manner::ByTempo,
        Some((lo, hi)) if lo > low && hi <= high => Manner::Between,
        _ => Manner::CannotTell,
    };
    Some(SpeedChange {
        speed_ratio: b.exp(),
        length_ratio: length.value.exp(),
        tempo_share: Estimate { value: a / b, sd: None, ci95, n },
        tempo,
        length,
        fine: low,
        manner,
    })
}

/// Both ends of the interval of A/B; `None` when the speed may not have changed at all.
fn fieller(tempo: LogRatio, length: LogRatio) -> Option<(f64, f64)> {
    let (a, b) = (tempo.value, tempo.value + length.value);
    let (ha, hl) = (tempo.half?.powi(2), length.half?.powi(2));
    // (a − s·b)² = (1 − s)²·ha + s²·hl, a parabola in s.
    let (two, one, none) = (b * b - ha - hl, a * b - ha, a * a - ha);
    let root = (one * one - two * none).max(0.0).sqrt();
    (two > 0.0).then(|| ((one - root) / two, (one + root) / two))
}

/// Whether a bout's speed is its own: on two tracks, in pirouettes and backwards the movement sets it.
fn own_speed(bout: &BoutFigures) -> bool {
    bout.movement.as_ref().is_none_or(|m| {
        !matches!(
            m.kind,
            MovementKind::Lateral(_)
                | MovementKind::HalfPirouette
                | MovementKind::FullPirouette
                | MovementKind::ReinBack
        )
    })
}

/// Changes of speed between each bout with a known stride length and the one before it in the
/// same gait on the same lead, with the place of the later bout.
pub fn speed_changes(bouts: &[BoutFigures], limits: &Thresholds) -> Vec<(usize, SpeedChange)> {
    let mut out = Vec::new();
    for (k, bout) in bouts.iter().enumerate().filter(|(_, b)| own_speed(b)) {
        let Some((tempo, travel)) = bout.tempo.zip(bout.travel) else { continue };
        let before = bouts[..k]
            .iter()
            .rev()
            .filter(|b| own_speed(b))
            .find_map(|b| (b.label == bout.label).then(|| b.tempo.zip(b.travel)).flatten());
        let Some((tempo0, travel0)) = before else { continue };
        let change = speed_change(
            bout.label.gait,
            (tempo0.tempo, tempo.tempo),
            (travel0.stride_length, travel.stride_length),
            limits,
        );
        // Two bouts at one speed are no change to speak of.
        let told = change.filter(|c| {
            let speed = c.speed_ratio.ln();
            is_change(c.tempo_share.value * speed, speed)
        });
        out.extend(told.map(|c| (k, c)));
    }
    out
}
