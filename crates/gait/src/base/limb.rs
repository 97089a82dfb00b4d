//! The four limbs and the two sides.

use std::fmt;
use std::str::FromStr;

use thiserror::Error;

/// One of the four limbs.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash, PartialOrd, Ord)]
pub enum Limb {
    /// Left fore.
    LF,
    /// Right fore.
    RF,
    /// Left hind.
    LH,
    /// Right hind.
    RH,
}

/// Left or right: of a limb, a rein or a lead.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash)]
pub enum Side {
    /// Left.
    Left,
    /// Right.
    Right,
}

impl Limb {
    /// All four, in the order in which arrays indexed by [`Limb::index`] hold them.
    pub const ALL: [Self; 4] = [Self::LF, Self::RF, Self::LH, Self::RH];

    /// Place in an array of four: LF 0, RF 1, LH 2, RH 3.
    pub const fn index(self) -> usize {
        self as usize
    }

    /// Whether this is a hind limb.
    pub const fn is_hind(self) -> bool {
        matches!(self, Self::LH | Self::RH)
    }

    /// The side it is on.
    pub const fn side(self) -> Side {
        match self {
            Self::LF | Self::LH => Side::Left,
            Self::RF | Self::RH => Side::Right,
        }
    }

    /// The limb of the other side and the same end: LH for RH.
    pub const fn opposite(self) -> Self {
        match self {
            Self::LF => Self::RF,
            Self::RF => Self::LF,
            Self::LH => Self::RH,
            Self::RH => Self::LH,
        }
    }

    /// Its partner in a diagonal: RF for LH.
    ///
    /// ```
    /// use umlauf_gait::Limb;
    /// assert_eq!(Limb::LH.diagonal(), Limb::RF);
    /// assert_eq!(Limb::LH.opposite(), Limb::RH);
    /// assert_eq!("LF".parse(), Ok(Limb::LF));
    /// ```
    pub const fn diagonal(self) -> Self {
        match self {
            Self::LF => Self::RH,
            Self::RF => Self::LH,
            Self::LH => Self::RF,
            Self::RH => Self::LF,
        }
    }

    /// Its name in words.
    pub const fn name(self) -> &'static str {
        match self {
            Self::LF => "left fore",
            Self::RF => "right fore",
            Self::LH => "left hind",
            Self::RH => "right hind",
        }
    }

    /// The two letters by which people and files name it.
    pub const fn code(self) -> &'static str {
        match self {
            Self::LF => "LF",
            Self::RF => "RF",
            Self::LH => "LH",
            Self::RH => "RH",
        }
    }
}

impl fmt::Display for Limb {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.write_str(self.code())
    }
}

/// A text that names no limb.
#[derive(Clone, Copy, Debug, Error, PartialEq, Eq)]
#[error("a limb is LF, RF, LH or RH")]
pub struct UnknownLimb;

/// A text that names no side.
#[derive(Clone, Copy, Debug, Error, PartialEq, Eq)]
#[error("a side is left or right")]
pub struct UnknownSide;

impl FromStr for Limb {
    type Err = UnknownLimb;

    fn from_str(text: &str) -> Result<Self, UnknownLimb> {
        Self::ALL.into_iter().find(|limb| limb.code() == text).ok_or(UnknownLimb)
    }
}

impl Side {
    /// The other side.
    pub const fn opposite(self) -> Self {
        match self {
            Self::Left => Self::Right,
            Self::Right => Self::Left,
        }
    }

    /// `left` or `right`.
    ///
    /// ```
    /// use umlauf_gait::Side;
    /// assert_eq!(Side::Left.word(), "left");
    /// assert_eq!("right".parse(), Ok(Side::Right));
    /// assert!("Left".parse::<Side>().is_err());
    /// ```
    pub const fn word(self) -> &'static str {
        match self {
            Self::Left => "left",
            Self::Right => "right",
        }
    }
}

impl FromStr for Side {
    type Err = UnknownSide;

    fn from_str(text: &str) -> Result<Self, UnknownSide> {
        match text {
            "left" => Ok(Self::Left),
            "right" => Ok(Self::Right),
            _ => Err(UnknownSide),
        }
    }
}
