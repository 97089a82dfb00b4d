//! Where in the stride of a canter the four limbs land.

use crate::base::limb::{Limb, Side};
use crate::stats::descriptive::median;
use crate::strides::stride::Stride;

/// Leads of hinds and fores.
pub type Leads = (Side, Side);

/// Places in the stride, shares from the first hind.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Pattern {
    /// Second hind.
    pub second_hind: f64,
    /// Trailing fore.
    pub trailing_fore: f64,
    /// Leading fore.
    pub leading_fore: f64,
}

impl Pattern {
    /// The middle one of strides that are fully marked and united on a lead; `None` without one.
    pub fn of<'a>(strides: impl Iterator<Item = (&'a Stride, Side)>) -> Option<Self> {
        let mut places: [Vec<f64>; 3] = Default::default();
        for (stride, lead) in strides {
            let (second, trailing, leading) = limbs((lead, lead));
            for (list, limb) in places.iter_mut().zip([second, trailing, leading]) {
                list.extend(stride.phase(limb));
            }
        }
        let [second, trailing, leading] = places.map(median);
        Some(Self { second_hind: second?, trailing_fore: trailing?, leading_fore: leading? })
    }

    /// Which limb lands when under leads, in the order first hind, second hind, trailing fore, leading
    /// fore.
    pub const fn places(&self, leads: Leads) -> [(Limb, f64); 4] {
        let (second, trailing, leading) = limbs(leads);
        [
            (second.opposite(), 0.0),
            (second, self.second_hind),
            (trailing, self.trailing_fore),
            (leading, self.leading_fore),
        ]
    }
}

/// Second hind, trailing fore and leading fore under leads.
const fn limbs((hind, fore): Leads) -> (Limb, Limb, Limb) {
    let second = match hind {
        Side::Left => Limb::LH,
        Side::Right => Limb::RH,
    };
    let (trailing, leading) = match fore {
        Side::Left => (Limb::RF, Limb::LF),
        Side::Right => (Limb::LF, Limb::RF),
    };
    (second, trailing, leading)
}
