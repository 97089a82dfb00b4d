//! Aids: what the rider asks for.

use crate::base::limb::{Limb, Side};

/// What an aid asks for.
#[derive(Clone, Debug, PartialEq, Eq)]
pub enum Aid {
    /// Walk.
    Walk,
    /// Trot.
    Trot,
    /// Canter, on a lead when it is named.
    Canter(Option<Side>),
    /// Halt.
    Halt,
    /// A flying change.
    Change,
    /// A half-halt.
    HalfHalt,
    /// The leg for one limb.
    Leg(Limb),
    /// Anything else, by its name.
    Other(String),
}

impl Aid {
    /// From its name in files.
    ///
    /// ```
    /// use umlauf_gait::Limb;
    /// use umlauf_gait::marks::aid::Aid;
    /// assert_eq!(Aid::named("leg-LH"), Aid::Leg(Limb::LH));
    /// assert_eq!(Aid::named("halt").name(), "halt");
    /// ```
    pub fn named(text: &str) -> Self {
        match text {
            "walk" => Self::Walk,
            "trot" => Self::Trot,
            "canter" => Self::Canter(None),
            "canter-left" => Self::Canter(Some(Side::Left)),
            "canter-right" => Self::Canter(Some(Side::Right)),
            "halt" => Self::Halt,
            "change" => Self::Change,
            "half-halt" => Self::HalfHalt,
            other => other
                .strip_prefix("leg-")
                .and_then(|limb| limb.parse().ok())
                .map_or_else(|| Self::Other(other.to_owned()), Self::Leg),
        }
    }

    /// Its name in files.
    pub fn name(&self) -> String {
        match self {
            Self::Walk => "walk".into(),
            Self::Trot => "trot".into(),
            Self::Canter(None) => "canter".into(),
            Self::Canter(Some(side)) => format!("canter-{}", side.word()),
            Self::Halt => "halt".into(),
            Self::Change => "change".into(),
            Self::HalfHalt => "half-halt".into(),
            Self::Leg(limb) => format!("leg-{limb}"),
            Self::Other(name) => name.clone(),
        }
    }
}
