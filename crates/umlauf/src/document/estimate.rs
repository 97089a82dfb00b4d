//! Means with their errors, as the document writes them.

use serde::Serialize;
use umlauf_gait::base::limb::Side;
use umlauf_gait::stats::estimate;
use utoipa::ToSchema;

/// A mean over strides: `sd` is the spread between strides with the timing error taken out,
/// `ci95` is of the mean.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct Estimate {
    /// Mean.
    pub value: f64,
    /// Spread between strides.
    pub sd: Option<f64>,
    /// 95 % interval of the mean.
    pub ci95: Option<[f64; 2]>,
    /// Strides.
    pub n: usize,
}

pub(crate) fn estimate(e: &estimate::Estimate) -> Estimate {
    Estimate { value: e.value, sd: e.sd, ci95: e.ci95.map(|(lo, hi)| [lo, hi]), n: e.n }
}

pub(crate) fn opt(e: &Option<estimate::Estimate>) -> Option<Estimate> {
    e.as_ref().map(estimate)
}

pub(crate) fn side(side: Option<Side>) -> Option<String> {
    side.map(|s| s.word().to_owned())
}
