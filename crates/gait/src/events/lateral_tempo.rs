//! Lateral work against the straight work before and after it: does the gait hold?

use crate::base::limb::Side;
use crate::bouts::bout_figures::BoutFigures;
use crate::marks::movement::{LateralMovement, MovementKind};
use crate::stats::estimate::Estimate;

/// Which straight work a lateral bout was set against.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum StraightWork {
    /// The bout before.
    Before,
    /// The bout after.
    After,
    /// Both.
    Both,
}

/// A lateral bout against straight work.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Lateral {
    /// Place of the bout.
    pub bout: usize,
    /// Start of the bout, s.
    pub time_s: f64,
    /// End of the bout, s.
    pub end_s: f64,
    /// What was ridden.
    pub movement: LateralMovement,
    /// On which rein or to which side.
    pub side: Option<Side>,
    /// What it was set against.
    pub against: StraightWork,
    /// Change of tempo, per cent.
    pub tempo_change_pct: Estimate,
    /// Change of stride length, per cent.
    pub stride_change_pct: Option<Estimate>,
    /// Regularity against that of the straight work, per cent of the stride, both resolved.
    pub regularity_pct: Option<(f64, f64)>,
}

/// The same movement on both sides.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct BothSides {
    /// What was ridden.
    pub movement: LateralMovement,
    /// Place of the first bout to the left.
    pub left: usize,
    /// Place of the first bout to the right.
    pub right: usize,
    /// Change of tempo to the left less that to the right, percentage points.
    pub difference_pct: Estimate,
}

/// Straight work further away than this is no neighbour, s (project default).
const NEIGHBOUR_S: f64 = 60.0;

/// Sets every lateral bout against the nearest straight bout of its gait (and lead) before it, and
/// after it. A bout without a movement counts as straight.
pub fn lateral(bouts: &[BoutFigures]) -> Vec<Lateral> {
    let mut out = Vec::new();
    for (k, bout) in bouts.iter().enumerate() {
        let Some(movement) = bout.movement.as_ref().and_then(|m| m.kind.lateral()) else {
            continue;
        };
        let straight = |b: &&BoutFigures| {
            b.label == bout.label
                && b.tempo.is_some()
                && b.movement.as_ref().is_none_or(|m| m.kind == MovementKind::Straight)
        };
        let before = bouts[..k]
            .iter()
            .rev()
            .take_while(|b| bout.start_s - b.end_s <= NEIGHBOUR_S)
            .find(straight);
        let after = bouts[k + 1..]
            .iter()
            .take_while(|b| b.start_s - bout.end_s <= NEIGHBOUR_S)
            .find(straight);
        let against = match (before, after) {
            (Some(_), Some(_)) => StraightWork::Both,
            (Some(_), None) => StraightWork::Before,
            (None, Some(_)) => StraightWork::After,
            (None, None) => continue,
        };
        let neighbours: Vec<&BoutFigures> = before.into_iter().chain(after).collect();
        let tempo = |b: &BoutFigures| b.tempo.map(|t| t.tempo);
        let length = |b: &BoutFigures| b.travel.map(|t| t.stride_length);
        let Some(tempo_change_pct) = change_pct(bout, &neighbours, tempo) else { continue };
        let cv = |b: &BoutFigures| b.regularity.filter(|r| r.resolved).map(|r| r.value);
        out.push(Lateral {
            bout: k,
            time_s: bout.start_s,
            end_s: bout.end_s,
            movement,
            side: bout.movement.as_ref().and_then(|m| m.side),
            against,
            tempo_change_pct,
            stride_change_pct: change_pct(bout, &neighbours, length),
            regularity_pct: cv(bout).zip(neighbours.iter().find_map(|b| cv(b))),
        });
    }
    out
}

/// The same movement to the left against to the right, mean over its bouts. `None` for a
/// movement ridden to one side only.
pub fn both_sides(lateral: &[Lateral]) -> Vec<BothSides> {
    let one = |movement| {
        let of = |side| -> Vec<&Lateral> {
            lateral.iter().filter(|l| l.movement == movement && l.side == Some(side)).collect()
        };
        let (left, right) = (of(Side::Left), of(Side::Right));
        let changes = |own: &[&Lateral]| own.iter().map(|l| l.tempo_change_pct).collect::<Vec<_>>();
        let (l, r) = (pooled(&changes(&left))?, pooled(&changes(&right))?);
        Some(BothSides {
            movement,
            left: left.first()?.bout,
            right: right.first()?.bout,
            difference_pct: difference(l, r),
        })
    };
    LateralMovement::ALL.into_iter().filter_map(one).collect()
}

/// Mean of independent estimates.
fn pooled(of: &[Estimate]) -> Option<Estimate> {
    let n = crate::base::number::count(of.len());
    let value = of.iter().map(|e| e.value).sum::<f64>() / n;
    let half = of.iter().map(|e| e.half_width().map(|h| h * h)).sum::<Option<f64>>();
    let half = half.map(|h| h.sqrt() / n);
    (!of.is_empty()).then(|| Estimate {
        value,
        sd: None,
        ci95: half.map(|h| (value - h, value + h)),
        n: of.iter().map(|e| e.n).sum(),
    })
}

/// Difference of independent estimates.
fn difference(a: Estimate, b: Estimate) -> Estimate {
    let value = a.value - b.value;
    let half = a.half_width().zip(b.half_width()).map(|(x, y)| x.hypot(y));
    Estimate { value, sd: None, ci95: half.map(|h| (value - h, value + h)), n: a.n.min(b.n) }
}

/// Change of a figure against the mean of the neighbours, per cent: 100·(x/x₀ − 1), the standard
/// errors of both carried by the delta method.
fn change_pct(
    bout: &BoutFigures,
    neighbours: &[&BoutFigures],
    of: impl Fn(&BoutFigures) -> Option<Estimate>,
) -> Option<Estimate> {
    let here = of(bout)?;
    let there = pooled(&neighbours.iter().filter_map(|b| of(b)).collect::<Vec<_>>())?;
    let value = 100.0 * (here.value / there.value - 1.0);
    // Each half width holds its own quantile, so that few strides keep a wide interval.
    let half = here.half_width().zip(there.half_width()).map(|(a, b)| {
        100.0 * (a / there.value).hypot(here.value * b / (there.value * there.value))
    });
    Some(Estimate {
        value,
        sd: None,
        ci95: half.map(|h| (value - h, value + h)),
        n: here.n.min(there.n),
    })
}
