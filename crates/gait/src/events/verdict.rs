//! What became of a flying change.

/// What became of a change.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Verdict {
    /// All four in one stride.
    Clean,
    /// The hinds later than the fores.
    LateBehind,
    /// The fores later than the hinds.
    LateInFront,
    /// The hinds landed together in the changing stride.
    HindsTogether,
    /// With trot steps between the leads.
    ThroughTrot,
    /// Asked for and not given.
    Missed,
    /// One pair swapped and swapped back.
    NotCompleted,
    /// All four back within two strides.
    ChangedBack,
    /// The marks about the changing stride cannot tell.
    Withheld,
}
