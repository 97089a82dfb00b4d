//! The ways to a length, best first.

/// Which way a length was found, best first.
#[derive(Clone, Copy, Debug, Eq, Ord, PartialEq, PartialOrd)]
pub enum Source {
    /// Known points on the ground.
    Ground,
    /// Poles or cones a known distance apart along the line of travel.
    Bar,
    /// Moments at which two letters were passed.
    Letters,
    /// Strides round a figure of known size.
    Figure,
    /// Height at the withers.
    Withers,
}

impl Source {
    /// Its name in files.
    pub const fn word(self) -> &'static str {
        match self {
            Self::Ground => "ground",
            Self::Bar => "bar",
            Self::Letters => "letters",
            Self::Figure => "figure",
            Self::Withers => "withers",
        }
    }
}
