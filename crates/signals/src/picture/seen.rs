//! A footfall as it was seen in pictures.

use umlauf_gait::base::limb::Limb;

use crate::picture::stance::Stance;

/// A footfall that was seen.
#[derive(Clone, Debug, PartialEq)]
pub struct Seen {
    /// The limb.
    pub limb: Limb,
    /// When it took the ground, frames from the first.
    pub on: f64,
    /// Its standard deviation.
    pub on_sd: f64,
    /// When the heel left, when that is told apart.
    pub heel_off: Option<f64>,
    /// When the toe left, when that is seen.
    pub off: Option<f64>,
    /// Its standard deviation.
    pub off_sd: f64,
    /// Where it stood, pixels of the frame in the middle of its stance.
    pub at: (f64, f64),
    /// That frame.
    pub frame: usize,
    /// Where it stood in the frame in which it took the ground.
    pub at_on: (f64, f64),
    /// Chance that it is right: a footfall, and of this limb.
    pub confidence: f64,
    /// Why it is less than sure.
    pub why: Vec<Doubt>,
    /// What its limb was told from, in the pictures watched together.
    pub stance: Stance,
}

impl Seen {
    /// Forgets when it left: that was another's.
    pub fn without_off(&mut self) {
        (self.off, self.heel_off, self.off_sd) = (None, None, f64::INFINITY);
        if !self.why.contains(&Doubt::OffUnseen) {
            self.why.push(Doubt::OffUnseen);
        }
    }
}

/// What makes a footfall less than sure.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Doubt {
    /// The hoof is hardly darker or lighter than the ground.
    LooksLikeGround,
    /// Near and far limb cannot be told apart for sure.
    NearOrFar,
    /// It stood much longer or shorter than the others.
    UnlikeOthers,
    /// It is timed by how long an edge stayed, for the hoof itself is not seen well.
    NotSeenWell,
    /// Its landing is hidden, by another hoof or otherwise: it is timed by the limb that goes with it.
    LandingHidden,
    /// When it left is not seen.
    OffUnseen,
}
