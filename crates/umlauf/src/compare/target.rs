//! A horse's target tempo.

use umlauf_gait::base::gait::Gait;
use umlauf_store::{Store, StoreError};

use crate::choices::TARGET;
use crate::digest::RiddenBout;

/// Key of the choice that keeps a horse's target tempo in a gait.
pub fn target_key(horse: i64, gait: Gait) -> String {
    format!("{TARGET}{horse}.{}.tempo", gait.code())
}

/// The tempo that a horse is to go in the gait of some bouts: the coach's.
pub(crate) fn target(
    store: &Store,
    horse: i64,
    bouts: &[RiddenBout],
) -> Result<Option<f64>, StoreError> {
    let Some(bout) = bouts.first() else { return Ok(None) };
    let kept = store.choice(&target_key(horse, bout.digest.label.gait))?;
    Ok(kept.and_then(|t| t.parse().ok()))
}
