//! Schools: where good people disagree. A school changes words, targets and windows, never a
//! measured number.

/// First limb from the halt.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
pub enum FirstFromHalt {
    /// The hind first is the ideal to aim for.
    #[default]
    Hind,
    /// The fore first is what horses do; ask for the hind next.
    Fore,
}

/// How the walk is named.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
pub enum NamingWalk {
    /// LH LF RH RF.
    #[default]
    Lateral,
    /// LF RH RF LH: the same cycle from another start.
    Diagonal,
}

/// Tracks of the shoulder-in.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
pub enum ShoulderIn {
    /// Three tracks, about 30°.
    #[default]
    Three,
    /// Four tracks, if the bend is true.
    Four,
}

/// Tempo when the canter is collected.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
pub enum CollectingTempo {
    /// As in the big canter.
    #[default]
    Same,
    /// A touch slower into the pirouette.
    Slower,
}

/// How a change is prepared.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
pub enum PreparingChange {
    /// In a forward canter, changed inside the forward stride.
    #[default]
    Forward,
    /// Collected first, then changed.
    Collect,
}

/// How counter canter is ridden.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
pub enum CounterCanter {
    /// At an even pace.
    #[default]
    Even,
    /// Forward and back, to keep it alive.
    ForwardBack,
}

/// What tempo is counted in.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
pub enum Counting {
    /// Strides/min.
    #[default]
    Strides,
    /// Beats/min.
    Beats,
}

/// What progress is measured against.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
pub enum Progress {
    /// The horse's own past.
    #[default]
    OwnPast,
    /// A reference for the level.
    Level,
}

/// When a leg aid falls.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
pub enum AidTiming {
    /// As the hind is about to leave the ground.
    #[default]
    HindLeaving,
    /// As the outside fore is about to break over, for turns.
    OutsideFore,
}

/// The schools in force; the default of each is the first named.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
pub struct Schools {
    /// First limb from the halt.
    pub first_from_halt: FirstFromHalt,
    /// How the walk is named.
    pub naming_walk: NamingWalk,
    /// Tracks of the shoulder-in.
    pub shoulder_in: ShoulderIn,
    /// Tempo when the canter is collected.
    pub collecting_tempo: CollectingTempo,
    /// How a change is prepared.
    pub preparing_change: PreparingChange,
    /// How counter canter is ridden.
    pub counter_canter: CounterCanter,
    /// What tempo is counted in.
    pub counting: Counting,
    /// What progress is measured against.
    pub progress: Progress,
    /// When a leg aid falls.
    pub aid_timing: AidTiming,
}

/// The matters, each with the names of its two schools in files and settings, the default first.
pub const MATTERS: [(&str, [&str; 2]); 9] = [
    ("first-from-halt", ["hind", "fore"]),
    ("naming-walk", ["lateral", "diagonal"]),
    ("shoulder-in", ["three-tracks", "four-tracks"]),
    ("collecting-tempo", ["same", "slower"]),
    ("preparing-change", ["forward", "collect"]),
    ("counter-canter", ["even", "forward-back"]),
    ("counting", ["strides", "beats"]),
    ("progress", ["own-past", "level"]),
    ("aid-timing", ["hind-leaving", "outside-fore"]),
];

impl Schools {
    /// Chooses a school by the names of [`MATTERS`]; false when there is no such matter or school.
    ///
    /// ```
    /// use umlauf_gait::base::schools::{MATTERS, Schools};
    /// let mut schools = Schools::default();
    /// let (matter, [_, other]) = MATTERS[0];
    /// assert!(schools.choose(matter, other));
    /// assert!(!schools.choose("weather", "sun"));
    /// ```
    pub fn choose(&mut self, matter: &str, school: &str) -> bool {
        let Some((_, names)) = MATTERS.iter().find(|(m, _)| *m == matter) else { return false };
        let Some(second) = names.iter().position(|n| *n == school).map(|k| k == 1) else {
            return false;
        };
        /// The second school where it is chosen, else the first.
        fn pick<T>(second: bool, other: T, first: T) -> T {
            if second { other } else { first }
        }
        match matter {
            "first-from-halt" => {
                self.first_from_halt = pick(second, FirstFromHalt::Fore, FirstFromHalt::Hind);
            }
            "naming-walk" => {
                self.naming_walk = pick(second, NamingWalk::Diagonal, NamingWalk::Lateral);
            }
            "shoulder-in" => self.shoulder_in = pick(second, ShoulderIn::Four, ShoulderIn::Three),
            "collecting-tempo" => {
                self.collecting_tempo =
                    pick(second, CollectingTempo::Slower, CollectingTempo::Same);
            }
            "preparing-change" => {
                self.preparing_change =
                    pick(second, PreparingChange::Collect, PreparingChange::Forward);
            }
            "counter-canter" => {
                self.counter_canter = pick(second, CounterCanter::ForwardBack, CounterCanter::Even);
            }
            "counting" => self.counting = pick(second, Counting::Beats, Counting::Strides),
            "progress" => self.progress = pick(second, Progress::Level, Progress::OwnPast),
            _ => {
                self.aid_timing = pick(second, AidTiming::OutsideFore, AidTiming::HindLeaving);
            }
        }
        true
    }

    /// The school in force of each matter, as place in [`MATTERS`]' pairs.
    pub fn chosen(&self) -> [usize; 9] {
        [
            usize::from(self.first_from_halt == FirstFromHalt::Fore),
            usize::from(self.naming_walk == NamingWalk::Diagonal),
            usize::from(self.shoulder_in == ShoulderIn::Four),
            usize::from(self.collecting_tempo == CollectingTempo::Slower),
            usize::from(self.preparing_change == PreparingChange::Collect),
            usize::from(self.counter_canter == CounterCanter::ForwardBack),
            usize::from(self.counting == Counting::Beats),
            usize::from(self.progress == Progress::Level),
            usize::from(self.aid_timing == AidTiming::OutsideFore),
        ]
    }
}
