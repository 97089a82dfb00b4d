//! Why a figure of a bout is not there.

/// Why a figure is not there.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Missing {
    /// The timing error is not known.
    NoTimingError,
    /// No off times in this bout.
    NoOffs,
    /// No hoof positions.
    NoPositions,
    /// No height at the withers.
    NoWithers,
    /// The gait has no such thing.
    NotInThisGait,
    /// Not every limb is marked.
    LimbMissing,
    /// Too few strides for a spread.
    TooFewStrides,
    /// The interval reaches over the limit.
    CannotTell,
    /// Neither rein nor asked lead is known.
    NoRein,
    /// All strides were used because the bout is short.
    ShortBout,
    /// It begins with a flying change.
    AfterChange,
    /// The horse stands: there are no strides.
    Standing,
    /// Nothing was marked here.
    NoMarks,
    /// The coach said the hooves are out of view.
    Unseen,
    /// The coach marked none.
    NotMarked,
}
