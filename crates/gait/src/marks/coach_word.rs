//! What the coach says of a stretch: its gait, its rein, the lead asked for. It stands over what
//! the marks say; a measured number never changes by it.

use crate::base::gait::Gait;
use crate::base::limb::Side;

/// What was said of a stretch, true seconds.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct CoachWord {
    /// From.
    pub from_s: f64,
    /// To.
    pub to_s: f64,
    /// The gait ridden.
    pub gait: Option<Gait>,
    /// The rein.
    pub rein: Option<Side>,
    /// The lead asked for.
    pub lead: Option<Side>,
}

/// The latest word on a moment that answers a question.
pub fn at<T>(
    said: &[CoachWord],
    time: f64,
    question: impl Fn(&CoachWord) -> Option<T>,
) -> Option<T> {
    said.iter().rev().filter(|s| (s.from_s..s.to_s).contains(&time)).find_map(question)
}
