//! The coach's own marks beside those of the curves.

use umlauf_gait::season::coach_agreement;
use umlauf_gait::words;

use crate::record::card::CardRow;

/// How far the coach's marks lie from the curves', over all rows and sessions, in a sentence.
pub fn agreement(rows: &[CardRow]) -> Option<String> {
    let pairs: Vec<(f64, f64)> = rows
        .iter()
        .flat_map(|r| r.coach.iter().zip(&r.marks))
        .filter_map(|(coach, curve)| Some((coach.as_ref().copied()?, curve.as_ref().copied()?)))
        .collect();
    coach_agreement::agreement(&pairs).map(words::record::agreement)
}
