//! Quantities, limbs, gaits, limits and schools: words that everything else uses.
//!
//! Reading order: [`units`], [`number`], [`limb`], [`phase`], [`gait`], [`thresholds`], [`usual`], [`schools`].

pub mod gait;
pub mod limb;
pub mod number;
pub mod phase;
pub mod schools;
pub mod thresholds;
pub mod units;
pub mod usual;
