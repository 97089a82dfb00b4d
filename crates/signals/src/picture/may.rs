//! Whose a stance may be, by what is known beside its place: a person's word, or the wrap above its hoof.

use umlauf_gait::base::limb::{Limb, Side};

/// The limbs that a stance may be of.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct May(u8);

impl May {
    /// Any.
    pub const ANY: Self = Self(0b1111);

    /// One alone.
    pub const fn only(limb: Limb) -> Self {
        Self(bit(limb))
    }

    /// One of some; of none is of any.
    pub fn one_of(limbs: &[Limb]) -> Self {
        Self::of_bits(limbs.iter().fold(0, |all, l| all | bit(*l)))
    }

    /// Any but some.
    ///
    /// ```
    /// use umlauf_gait::base::limb::{Limb, Side};
    /// use umlauf_signals::picture::may::May;
    /// let may = May::but(&[Limb::LF]);
    /// assert_eq!((may.girdle(), may.side(true), may.side(false)), (None, Some(Side::Right), None));
    /// ```
    pub fn but(limbs: &[Limb]) -> Self {
        let left = limbs.iter().fold(Self::ANY.0, |all, l| all & !bit(*l));
        if left == 0 { Self::ANY } else { Self(left) }
    }

    /// From the bits of [`May::bits`]; none of them is any limb.
    pub const fn of_bits(bits: u8) -> Self {
        if bits & Self::ANY.0 == 0 { Self::ANY } else { Self(bits & Self::ANY.0) }
    }

    /// A bit a limb, in the order of [`Limb::ALL`].
    pub const fn bits(self) -> u8 {
        self.0
    }

    /// Whether it may be of a limb.
    pub const fn allows(self, limb: Limb) -> bool {
        self.0 & bit(limb) != 0
    }

    /// Whether it is a fore, where that is known.
    pub fn girdle(self) -> Option<bool> {
        let has = |hind: bool| Limb::ALL.iter().any(|l| l.is_hind() == hind && self.allows(*l));
        match (has(false), has(true)) {
            (true, true) => None,
            (fore, _) => Some(fore),
        }
    }

    /// Its side, where it is a fore or is none and that tells.
    pub fn side(self, fore: bool) -> Option<Side> {
        let own = |side: Side| {
            Limb::ALL.iter().any(|l| l.is_hind() != fore && l.side() == side && self.allows(*l))
        };
        match (own(Side::Left), own(Side::Right)) {
            (true, false) => Some(Side::Left),
            (false, true) => Some(Side::Right),
            _ => None,
        }
    }
}

const fn bit(limb: Limb) -> u8 {
    1 << limb.index()
}
