//! What a film is asked to show: the gait, the frame rate, how the camera is handled, and a seed for all
//! else.

use umlauf_gait::base::limb::{Limb, Side};

use crate::flat::conditions::{Conditions, Handling, Shown};
use crate::flat::film::FlatFilm;
use crate::template::Template;
use crate::truth::{Change, Ride, Truth};

/// What is ridden.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct Ridden {
    /// Name in the table.
    pub name: &'static str,
    /// The gait's template.
    pub template: &'static str,
    /// Whole strides.
    pub strides: usize,
    /// It has a flying change, clean or late.
    pub changes: bool,
}

const fn steadily(name: &'static str, template: &'static str, strides: usize) -> Ridden {
    Ridden { name, template, strides, changes: false }
}

/// All that is ridden.
pub const RIDDEN: [Ridden; 7] = [
    steadily("walk", "walk", 6),
    steadily("trot", "trot", 8),
    steadily("canter", "canter", 8),
    Ridden { changes: true, ..steadily("changes", "canter", 10) },
    steadily("canter in four beats", "canter-four-beat", 8),
    steadily("flat walk", "flat-walk", 6),
    steadily("stepping pace", "stepping-pace", 8),
];

/// A film.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Asked {
    /// What is ridden.
    pub ridden: Ridden,
    /// Frames a second.
    pub rate: f64,
    /// How the camera is handled.
    pub handling: Handling,
    /// Everything else.
    pub seed: u64,
    /// What is not as it should be.
    pub hard: Option<Hard>,
    /// How many limbs wear wraps, each of another colour.
    pub wraps: usize,
}

/// What makes a film one of which nothing should be told, or little.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Hard {
    /// There is no horse in it.
    Without(Shown),
    /// The horse is larger than the picture.
    TooClose,
    /// It is 30 to 46 pixels high, or 30 to 38 before a camera that stands still.
    TooFar,
    /// The camera trembles by 0.03 radians, twenty times as much as a hand or more.
    Shaken,
    /// It is dusk: a tenth of the light, and noise.
    Dark,
    /// The whole horse has the tone of the ground, and throws no shadow.
    HoovesOfSand,
}

/// All that is hard, by name.
pub const HARD: [(&str, Hard); 10] = [
    ("nothing moves", Hard::Without(Shown::Nothing)),
    ("a car", Hard::Without(Shown::Car)),
    ("a dog", Hard::Without(Shown::Dog)),
    ("someone on foot", Hard::Without(Shown::Walker)),
    ("a flag", Hard::Without(Shown::Flag)),
    ("a horse too close", Hard::TooClose),
    ("a horse too far", Hard::TooFar),
    ("a camera that shakes", Hard::Shaken),
    ("dusk", Hard::Dark),
    ("legs and hooves of the sand's tone", Hard::HoovesOfSand),
];

impl Hard {
    fn make(self, made: Conditions) -> Conditions {
        match self {
            // A horse behind the rail would be one.
            Self::Without(shown) => Conditions { shown, company: false, ..made },
            Self::TooClose => Conditions { withers_px: 2.6 * made.withers_px, ..made },
            Self::TooFar => Conditions { withers_px: 0.2 * made.withers_px, ..made },
            Self::Shaken => Conditions { shake: 0.03, handling: Handling::Handheld, ..made },
            Self::Dark => Conditions { light: 0.1, noise: 3.0 + made.noise, ..made },
            Self::HoovesOfSand => Conditions {
                coat: made.sand,
                points: made.sand,
                hooves: made.sand,
                socks: [false; 4],
                shadow: 0.0,
                ..made
            },
        }
    }
}

/// Changes of the rides that have them, by the strides by which the hinds are later than the fores.
const CHANGED: [(i64, [Change; 2]); 3] = [
    (0, [change(5, true), change(5, false)]),
    (1, [change(6, true), change(5, false)]),
    (-1, [change(5, true), change(6, false)]),
];

const fn change(stride: usize, hinds: bool) -> Change {
    Change { stride, hinds, fores: !hinds }
}

impl Asked {
    /// By how many strides the hinds change later than the fores, where there is a change.
    pub fn late_by(&self) -> Option<i64> {
        self.ridden.changes.then(|| self.changed().0)
    }

    fn changed(&self) -> &'static (i64, [Change; 2]) {
        // Half of them clean, a quarter late behind, a quarter late in front.
        &CHANGED[[0, 1, 0, 2][usize::try_from(self.seed / 2 % 4).unwrap_or(0)]]
    }

    /// The limbs that wear wraps: of two both fores, or those of a side.
    pub fn wrapped(&self) -> &'static [Limb] {
        match (self.wraps, self.seed % 3) {
            (0, _) => &[],
            (2, 0) => &[Limb::LF, Limb::RF],
            (2, 1) => &[Limb::LF, Limb::LH],
            (2, _) => &[Limb::RF, Limb::RH],
            _ => &Limb::ALL,
        }
    }

    /// The film.
    pub fn film(&self) -> FlatFilm {
        let seed = self.seed;
        let template =
            *Template::named(self.ridden.template).unwrap_or(&crate::template::TEMPLATES[0]);
        let changes: &[Change] = if self.ridden.changes { &self.changed().1 } else { &[] };
        #[expect(clippy::cast_precision_loss, reason = "below seven")]
        let taller = 0.2 * (seed % 7) as f64 / 7.0;
        let ride = Ride {
            template: if seed.is_multiple_of(2) { template } else { template.mirrored() },
            // Of many frames a second fewer strides are drawn.
            strides: self.ridden.strides - if self.rate > 100.0 { 2 } else { 0 },
            seed: seed + 17,
            stride_cv: 0.015,
            serial: 0.3,
            phase_sd: 0.006,
            duty_sd: 0.008,
            withers: 1.55 + taller,
            rein: Side::Left,
            from_y: 0.0,
            line_x: 0.0,
            changes,
            then: None,
        };
        let made = Conditions::drawn(seed, self.rate, self.handling);
        let made = self.hard.map_or(made, |hard| hard.make(made)).wrapped(self.wrapped());
        FlatFilm::new(Truth::new(ride), made)
    }
}
