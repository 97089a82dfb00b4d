//! Marks of footfalls, as the page sends them and the store keeps them.

use serde::{Deserialize, Serialize};
use umlauf_gait::Limb;
use umlauf_store::marks::{self, Change};
use umlauf_store::origin;
use umlauf_store::person::Person;
use utoipa::ToSchema;

use crate::clip::picture::Pixel;

/// One stance of one limb on the file's clock.
#[derive(Clone, Debug, Deserialize, Serialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Mark {
    /// Name, unique in the clip.
    pub id: String,
    /// `LF`, `RF`, `LH` or `RH`.
    pub limb: LimbCode,
    /// First frame of contact, µs.
    pub on_us: i64,
    /// First frame clear, µs.
    pub off_us: Option<i64>,
    /// How it came about; left out, it was stepped or dragged to its frame.
    #[serde(default)]
    pub origin: Origin,
    /// Where the hoof stands in the picture, when it was clicked.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub hoof: Option<Pixel>,
}

/// How a mark came about.
#[derive(Clone, Debug, Default, Deserialize, Serialize, ToSchema)]
#[serde(tag = "how", rename_all = "snake_case")]
pub enum Origin {
    /// A person stepped to the frame that shows it, or dragged it there.
    #[default]
    Stepped,
    /// A person tapped it while the footage played.
    Tapped {
        /// Playback rate, 1 for the file's own.
        rate: f64,
    },
    /// A detector suggested it.
    Suggested {
        /// Which detector.
        detector: String,
        /// Standard deviation, true seconds.
        sd_s: f64,
        /// Chance that it is right, 0 to 1.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        #[schema(nullable = false)]
        sure: Option<f64>,
        /// Why it is less than sure.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        why: String,
        /// What the coach has said to it; left out, it was taken.
        #[serde(default, skip_serializing_if = "Answer::is_taken")]
        answer: Answer,
    },
    /// A sensor on the horse gave it.
    Sensor {
        /// Which sensor.
        name: String,
        /// Standard deviation, true seconds.
        sd_s: f64,
    },
}

impl From<Origin> for origin::Origin {
    fn from(o: Origin) -> Self {
        match o {
            Origin::Stepped => Self::Stepped,
            Origin::Tapped { rate } => Self::Tapped { rate },
            Origin::Suggested { detector, sd_s, sure, why, answer } => {
                let answer = match answer {
                    Answer::Open => origin::Answer::Open,
                    Answer::Taken => origin::Answer::Taken,
                    Answer::Looked => origin::Answer::Looked,
                };
                Self::Suggested { detector, sd_s, sure, why, answer }
            }
            Origin::Sensor { name, sd_s } => Self::Sensor { name, sd_s },
        }
    }
}

impl From<origin::Origin> for Origin {
    fn from(o: origin::Origin) -> Self {
        use origin::Origin as Kept;
        match o {
            Kept::Stepped => Self::Stepped,
            Kept::Tapped { rate } => Self::Tapped { rate },
            Kept::Suggested { detector, sd_s, sure, why, answer } => {
                let answer = match answer {
                    origin::Answer::Open => Answer::Open,
                    origin::Answer::Taken => Answer::Taken,
                    origin::Answer::Looked => Answer::Looked,
                };
                Self::Suggested { detector, sd_s, sure, why, answer }
            }
            Kept::Sensor { name, sd_s } => Self::Sensor { name, sd_s },
        }
    }
}

/// What the coach has said to a suggestion.
#[derive(Clone, Copy, Debug, Default, Deserialize, Serialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum Answer {
    /// Nothing yet: it is shown, and does not count.
    Open,
    /// Taken with others, not looked at by itself.
    #[default]
    Taken,
    /// Looked at, and taken.
    Looked,
}

impl Answer {
    #[expect(clippy::trivially_copy_pass_by_ref, reason = "serde asks for a reference")]
    fn is_taken(&self) -> bool {
        matches!(self, Self::Taken)
    }
}

/// A limb.
#[derive(Clone, Copy, Debug, Deserialize, Serialize, ToSchema)]
#[serde(rename_all = "UPPERCASE")]
pub enum LimbCode {
    /// Left fore.
    Lf,
    /// Right fore.
    Rf,
    /// Left hind.
    Lh,
    /// Right hind.
    Rh,
}

/// One change of one mark: from `before` (`null`: it is new) to `after` (`null`: it goes).
#[derive(Clone, Debug, Deserialize, Serialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct MarkChange {
    /// What must stand there now.
    pub before: Option<Mark>,
    /// What is to stand there.
    pub after: Option<Mark>,
}

impl From<LimbCode> for Limb {
    fn from(code: LimbCode) -> Self {
        match code {
            LimbCode::Lf => Self::LF,
            LimbCode::Rf => Self::RF,
            LimbCode::Lh => Self::LH,
            LimbCode::Rh => Self::RH,
        }
    }
}

impl From<Limb> for LimbCode {
    fn from(limb: Limb) -> Self {
        match limb {
            Limb::LF => Self::Lf,
            Limb::RF => Self::Rf,
            Limb::LH => Self::Lh,
            Limb::RH => Self::Rh,
        }
    }
}

impl Mark {
    /// As the file shows it, in which a mirror image has left and right changed.
    pub fn in_file(self, mirrored: bool) -> marks::Mark {
        let limb = seen(self.limb.into(), mirrored);
        let Self { id, on_us, off_us, origin, hoof, .. } = self;
        let hoof = hoof.map(|h| (h.x_px, h.y_px));
        // Whoever makes the edit is put in when it is kept.
        let author = Person::coach();
        marks::Mark { id, limb, on_us, off_us, origin: origin.into(), author, hoof }
    }

    /// As the horse is.
    pub(crate) fn of_horse(mark: marks::Mark, mirrored: bool) -> Self {
        let limb = seen(mark.limb, mirrored).into();
        let marks::Mark { id, on_us, off_us, origin, hoof, .. } = mark;
        let hoof = hoof.map(|(x_px, y_px)| Pixel { x_px, y_px });
        Self { id, limb, on_us, off_us, origin: origin.into(), hoof }
    }
}

impl MarkChange {
    /// As the store keeps it: marks as the file shows them.
    pub fn in_file(self, mirrored: bool) -> Change {
        Change {
            before: self.before.map(|m| m.in_file(mirrored)),
            after: self.after.map(|m| m.in_file(mirrored)),
        }
    }
}

/// A limb's name in the mirror, and back.
pub(crate) const fn seen(limb: Limb, mirrored: bool) -> Limb {
    if mirrored { limb.opposite() } else { limb }
}
