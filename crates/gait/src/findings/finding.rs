//! One finding: what was seen, where, how sure. Facts only; the sentences live in `words`.

use crate::findings::certainty::Certainty;
use crate::findings::kind::Kind;

/// One finding.
#[derive(Clone, Debug, PartialEq)]
pub struct Finding {
    /// What.
    pub kind: Kind,
    /// Bout it was seen in.
    pub bout: usize,
    /// From, s.
    pub start_s: f64,
    /// To, s.
    pub end_s: f64,
    /// How sure.
    pub sure: Certainty,
}
