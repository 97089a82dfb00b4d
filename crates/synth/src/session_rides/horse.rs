//! A horse in all its gaits, and what makes a canter of another.

use rand::Rng;
use rand_chacha::ChaCha8Rng;
use umlauf_gait::base::limb::{Limb, Side};

use crate::second_horse::{Kind, Pace, pace};
use crate::session_rides::fault::Fault;

/// A horse in its gaits.
pub(crate) struct Horse {
    pub(crate) walk: Pace,
    pub(crate) trot: Pace,
    /// On the left lead.
    pub(crate) canter: Pace,
    pub(crate) gaited: Pace,
}

impl Horse {
    pub(crate) fn drawn(
        gaited: bool,
        fault: Option<Fault>,
        side: Side,
        rng: &mut ChaCha8Rng,
    ) -> Self {
        let mut horse = Self {
            walk: pace(Kind::Walk, rng),
            trot: pace(Kind::Trot, rng),
            canter: pace(Kind::Canter, rng),
            gaited: pace(if gaited { Kind::Gaited } else { Kind::FlatWalk }, rng),
        };
        if fault == Some(Fault::UnevenSteps) {
            // The step onto a hind is longer when it lands later after the other.
            let by = rng.random_range(0.030..0.045) * if side == Side::Right { 1.0 } else { -1.0 };
            horse.trot.places[Limb::RH.index()] = 0.5 + by;
            horse.trot.places[Limb::LF.index()] = 0.505 + by;
        }
        horse
    }
}

/// A canter on a lead, from one on the left lead.
pub(crate) fn on_lead(left: Pace, lead: Side) -> Pace {
    if lead == Side::Left { left } else { left.mirrored() }
}

/// The hinds of one pace, the fores of another.
pub(crate) fn crossed(hinds: &Pace, fores: &Pace) -> Pace {
    let by = |hind: [f64; 4], fore: [f64; 4]| {
        Limb::ALL.map(|l| if l.is_hind() { hind[l.index()] } else { fore[l.index()] })
    };
    Pace { places: by(hinds.places, fores.places), duty: by(hinds.duty, fores.duty), ..*hinds }
}

/// Sets a left-lead canter's diagonal apart by a time, s: the fore later, and the leading fore with it.
pub(crate) fn split(canter: &mut Pace, apart: f64) {
    let [lf, rf, lh] = [Limb::LF, Limb::RF, Limb::LH].map(Limb::index);
    let by = canter.places[lh] + apart / canter.stride_s - canter.places[rf];
    canter.places[rf] += by;
    canter.places[lf] += 0.5 * by;
}
