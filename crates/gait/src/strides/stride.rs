//! One stride: a whole cycle of the four limbs.

use crate::base::limb::Limb;
use crate::base::phase;
use crate::marks::footfall::GroundPoint;
use crate::strides::seldom::Seldom;

/// One stride. Times in true seconds, arrays indexed by [`Limb::index`].
#[derive(Clone, Debug, PartialEq)]
pub struct Stride {
    /// First hind's on.
    pub start: f64,
    /// The next stride's start.
    pub end: f64,
    /// The hind that begins it.
    pub first_hind: Limb,
    /// Each limb's on within this stride.
    pub on: [Option<f64>; 4],
    /// Each limb's off, possibly after `end`.
    pub off: [Option<f64>; 4],
    /// Where each hoof stood.
    pub at: Seldom<GroundPoint>,
    /// Standard deviations of the marks that have one of their own.
    pub sd: Seldom<f64>,
    /// Limbs whose footfall is inferred.
    pub inferred: [bool; 4],
    /// The footfall that ends it is inferred.
    pub end_inferred: bool,
}

/// Whether a stride begins where another ends.
pub fn follows(stride: &Stride, next: &Stride) -> bool {
    (next.start - stride.end).abs() < 1e-9
}

impl Stride {
    /// Whether both its ends and all its footfalls were marked: only such strides enter statistics.
    pub fn is_marked(&self) -> bool {
        !self.end_inferred && !self.inferred.contains(&true)
    }

    /// Whether the footfall that begins it was marked.
    pub fn start_is_marked(&self) -> bool {
        !self.inferred[self.first_hind.index()]
    }

    /// Duration T, s.
    pub fn duration(&self) -> f64 {
        self.end - self.start
    }

    /// Phase of a limb's footfall, 0 to 1 from the start of the stride.
    pub fn phase(&self, limb: Limb) -> Option<f64> {
        self.on[limb.index()].map(|on| phase::wrap((on - self.start) / self.duration()))
    }

    /// Phase of `b` after `a`, 0 to 1.
    pub fn phase_between(&self, a: Limb, b: Limb) -> Option<f64> {
        Some(phase::wrap(self.gap(a, b)? / self.duration()))
    }

    /// Time from the on of `a` to the on of `b`, s, the short way round the stride: negative when
    /// `b` lands first.
    pub fn gap_short(&self, a: Limb, b: Limb) -> Option<f64> {
        Some(phase::signed(self.gap(a, b)? / self.duration()) * self.duration())
    }

    fn gap(&self, a: Limb, b: Limb) -> Option<f64> {
        Some(self.on[b.index()]? - self.on[a.index()]?)
    }

    /// Stance of a limb, s.
    pub fn stance(&self, limb: Limb) -> Option<f64> {
        Some(self.off[limb.index()]? - self.on[limb.index()]?)
    }

    /// Duty factor β of a limb: stance / T.
    pub fn duty(&self, limb: Limb) -> Option<f64> {
        Some(self.stance(limb)? / self.duration())
    }

    /// Mean of a figure over the limbs of one end, from those that have it.
    pub fn hind_duty(&self) -> Option<f64> {
        match (self.duty(Limb::LH), self.duty(Limb::RH)) {
            (Some(a), Some(b)) => Some(f64::midpoint(a, b)),
            (a, b) => a.or(b),
        }
    }
}
