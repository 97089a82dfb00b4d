//! Statistics without horses: estimates, timing error, samples, trends.
//!
//! Reading order: [`estimate`], [`descriptive`], [`quantiles`], [`timing_error`], [`share`], [`two_samples`], [`trend`].

pub mod descriptive;
pub mod estimate;
pub mod quantiles;
pub mod share;
pub mod timing_error;
pub mod trend;
pub mod two_samples;
