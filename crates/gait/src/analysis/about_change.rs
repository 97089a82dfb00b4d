//! The strides about a flying change, one by one: leads of hinds and fores, air, tempo.

use crate::analysis::analyse::Analysis;
use crate::base::gait::Label;
use crate::base::limb::Side;
use crate::events::flying_change::FlyingChange;
use crate::figures::suspension;

/// One stride near a change.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct StrideAbout {
    /// Strides from the one in which the change begins: −1 is the one before.
    pub place: i32,
    /// Its start, s.
    pub start_s: f64,
    /// Its end, s.
    pub end_s: f64,
    /// Lead of the hinds.
    pub hind: Option<Side>,
    /// Lead of the fores.
    pub fore: Option<Side>,
    /// Suspension at its end, s, an overlap negative.
    pub suspension_s: Option<f64>,
    /// Strides/min.
    pub tempo: f64,
}

/// Strides shown before a change, and after it has come through.
const BESIDE: usize = 2;

/// The strides from two before a change to two after the later pair has changed.
pub fn about_change(analysis: &Analysis, change: &FlyingChange) -> Vec<StrideAbout> {
    let strides = &analysis.strides;
    let label = |k: usize| {
        let bout = analysis.bout_strides.iter().position(|r| r.contains(&k));
        bout.map_or(Label::UNCLEAR, |b| analysis.bouts[b].label)
    };
    let from = change.stride.saturating_sub(BESIDE);
    let to = (change.stride + change.late_by_strides + BESIDE + 1).min(strides.len());
    (from..to)
        .map(|k| {
            let (stride, Label { hind_lead, fore_lead, .. }) = (&strides[k], label(k));
            let next = strides.get(k + 1).filter(|n| (n.start - stride.end).abs() < 1e-9);
            #[expect(
                clippy::cast_possible_truncation,
                clippy::cast_possible_wrap,
                reason = "a few"
            )]
            let place = k as i32 - change.stride as i32;
            StrideAbout {
                place,
                start_s: stride.start,
                end_s: stride.end,
                hind: hind_lead,
                fore: fore_lead,
                suspension_s: next.and_then(|n| suspension::after_canter(stride, n)),
                tempo: 60.0 / stride.duration(),
            }
        })
        .collect()
}
