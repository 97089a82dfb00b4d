//! How a mark came about.

/// Who or what put a mark where it is. Only a stepped mark stands on the frame grid of its clip; any
/// other carries an error of its own.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Hash)]
pub enum Origin {
    /// A person stepped to the frame that shows it, or dragged it there.
    #[default]
    Stepped,
    /// A person tapped it while the footage played.
    Tapped,
    /// A detector suggested it from picture or sound.
    Suggested,
    /// A detector suggested it, and a person looked at it and took it as it was.
    Confirmed,
    /// A sensor on the horse gave it.
    Sensor,
}

impl Origin {
    /// All.
    pub const ALL: [Self; 5] =
        [Self::Stepped, Self::Tapped, Self::Suggested, Self::Confirmed, Self::Sensor];

    /// Its name in files.
    ///
    /// ```
    /// use umlauf_gait::marks::origin::Origin;
    /// assert_eq!(Origin::Tapped.word(), "tapped");
    /// assert_eq!(Origin::named("tapped"), Some(Origin::Tapped));
    /// ```
    pub const fn word(self) -> &'static str {
        match self {
            Self::Stepped => "stepped",
            Self::Tapped => "tapped",
            Self::Suggested => "suggested",
            Self::Confirmed => "confirmed",
            Self::Sensor => "sensor",
        }
    }

    /// Whether nobody has looked at the very moment of the mark.
    pub const fn is_unseen(self) -> bool {
        matches!(self, Self::Suggested | Self::Sensor)
    }

    /// By its name in files.
    pub fn named(word: &str) -> Option<Self> {
        Self::ALL.into_iter().find(|o| o.word() == word)
    }
}
