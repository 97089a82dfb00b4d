//! Horses of different size side by side: by dynamic similarity (Alexander & Jayes 1983, J Zool
//! 201:135; value from memory) lengths go with the height at the withers, durations with its square
//! root. Scaled to one height, what is left is not size.

use crate::season::bout_summary::BoutSummary;
use crate::season::metric::Metric;
use crate::stats::estimate::Estimate;

/// The height at the withers that both horses are scaled to, m (project default).
pub const COMMON_HEIGHT_M: f64 = 1.60;

/// What a figure is made of.
#[derive(Clone, Copy, Debug, Eq, PartialEq)]
pub enum Dimension {
    /// A length.
    Length,
    /// A duration.
    Duration,
    /// Something in a time.
    Rate,
    /// A share.
    Share,
}

/// What a figure is made of.
pub const fn dimension(metric: Metric) -> Dimension {
    match metric {
        Metric::StrideLength => Dimension::Length,
        Metric::Suspension | Metric::Dissociation => Dimension::Duration,
        Metric::Tempo => Dimension::Rate,
        _ => Dimension::Share,
    }
}

/// A bout as the same horse, moving the same way, would have gone it at the common height.
/// `withers_m` is the horse's own height, m.
pub fn at_common_height(bout: &BoutSummary, withers_m: f64) -> BoutSummary {
    let by = COMMON_HEIGHT_M / withers_m;
    let scaled = |(m, e): &(Metric, Estimate)| {
        let factor = match dimension(*m) {
            Dimension::Length => by,
            Dimension::Duration => by.sqrt(),
            Dimension::Rate => 1.0 / by.sqrt(),
            Dimension::Share => 1.0,
        };
        (*m, e.scaled(factor))
    };
    BoutSummary {
        speed: bout.speed.map(|v| v * by.sqrt()),
        values: bout.values.iter().map(scaled).collect(),
        ..bout.clone()
    }
}
