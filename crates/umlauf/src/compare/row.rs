//! A figure of both sides, as the page reads it.

use serde::Serialize;
use umlauf_gait::season::verdict::Compared;
use umlauf_gait::words;
use utoipa::ToSchema;

use crate::document::estimate::{Estimate, estimate};

/// A figure of both sides.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct ComparedRow {
    /// Its name in files.
    pub metric: String,
    /// Its name in words.
    pub name: String,
    /// Unit.
    pub unit: String,
    /// Digits after the point.
    pub digits: usize,
    /// The first side: mean over bouts.
    pub first: Estimate,
    /// The second side.
    pub second: Estimate,
    /// Second less first.
    pub difference: f64,
    /// Its 95 % interval.
    pub ci95: [f64; 2],
    /// Chance of such a difference without a change, after Holm's adjustment.
    pub adjusted_p: f64,
    /// Whether it stands after that adjustment.
    pub headline: bool,
    /// Smallest change that this pair would have shown in four of five cases.
    pub smallest: f64,
    /// Smallest change worth speaking of.
    pub worthwhile: f64,
    /// Fewer than three bouts on a side.
    pub provisional: bool,
    /// What was done about speed.
    pub speed_says: Option<String>,
    /// `better`, `worse`, `differs`, `no real difference` or `cannot tell`.
    pub verdict: String,
    /// In words.
    pub says: String,
}

/// A figure of both sides as the page reads it.
pub fn row(c: &Compared) -> ComparedRow {
    ComparedRow {
        metric: c.metric.word().to_owned(),
        name: c.metric.name().to_owned(),
        unit: c.metric.unit().to_owned(),
        digits: c.metric.digits(),
        first: estimate(&c.first),
        second: estimate(&c.second),
        difference: c.difference.value,
        ci95: [c.difference.ci95.0, c.difference.ci95.1],
        adjusted_p: c.adjusted_p,
        headline: c.headline,
        smallest: c.smallest,
        worthwhile: c.worthwhile,
        provisional: c.provisional,
        speed_says: words::comparison::speed(c.speed),
        verdict: words::comparison::verdict(c.verdict).to_owned(),
        says: words::comparison::compared(c),
    }
}
