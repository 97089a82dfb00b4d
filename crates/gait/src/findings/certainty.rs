//! How sure a finding is.

/// How sure a finding is.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Certainty {
    /// The interval lies wholly on one side of the limit.
    Clear,
    /// The figure lies beyond the limit, its interval does not wholly.
    Likely,
    /// The clip does not support a verdict.
    CannotTell,
}
