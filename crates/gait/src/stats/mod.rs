//! Statistics without horses: estimates, timing error, samples, trends.
//!
//! Reading order: [`estimate`], [`descriptive`], [`quantiles`], [`timing_error`], [`series`], [`toeplitz`], [`wander`], [`stride_mean`], [`share`], [`sizes`], [`pooled`], [`two_samples`], [`families`], [`trend`].

pub mod descriptive;
pub mod estimate;
pub mod families;
pub mod pooled;
pub mod quantiles;
pub mod series;
pub mod share;
pub mod shrunk;
pub mod sizes;
pub mod stride_mean;
pub mod timing_error;
pub mod toeplitz;
pub mod trend;
pub mod two_samples;
pub mod wander;
