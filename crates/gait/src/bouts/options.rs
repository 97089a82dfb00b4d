//! What is known beside the marks.

use crate::base::limb::Side;
use crate::base::schools::Schools;
use crate::base::thresholds::Thresholds;
use crate::base::units::{FrameRate, Metres, Seconds};
use crate::ground::arena::Arena;
use crate::ground::letters_and_rounds::{Distances, Rounds};
use crate::ground::scale::Scale;
use crate::marks::coach_word::CoachWord;
use crate::marks::ride_mark::RideMark;

/// What is known beside the marks.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct Options {
    /// The rein ridden.
    pub rein: Option<Side>,
    /// The canter lead asked for.
    pub asked_lead: Option<Side>,
    /// Capture rate: marks without an error of their own were stepped to its frames.
    pub frame_rate: Option<FrameRate>,
    /// Error of a mark, when known better than from the frame rate.
    pub timing_sd: Option<Seconds>,
    /// Height at the withers.
    pub withers: Option<Metres>,
    /// The horse's intended gait may be a four-beat gait other than walk.
    pub gaited: bool,
    /// What the coach marked beside the footfalls.
    pub marks: Vec<RideMark>,
    /// What the coach says of stretches: gait, rein, lead asked for.
    pub said: Vec<CoachWord>,
    /// The arena, when letters and places are meant in its coordinates.
    pub arena: Option<Arena>,
    /// The scale by which hoof positions were read.
    pub scale: Option<Scale>,
    /// Distances of the camera from track and letters.
    pub distances: Option<Distances>,
    /// Figures ridden in whole rounds.
    pub rounds: Vec<Rounds>,
    /// Schools in force: words and targets.
    pub schools: Schools,
    /// The horse's degree of collection, 1 to 4, when the coach has said it: from the second on
    /// direct transitions are expected.
    pub degree: Option<u8>,
    /// Limits of labels and verdicts.
    pub thresholds: Thresholds,
}
