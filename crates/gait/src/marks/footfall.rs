//! A footfall: the instant a hoof takes the ground, and what else is known of that stance.

use crate::base::limb::Limb;
use crate::base::units::{Metres, Seconds};
use crate::marks::origin::Origin;

/// A place on the ground, arena coordinates: x across, y from the A end to the C end.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct GroundPoint {
    /// Across the arena, from K's side.
    pub x: Metres,
    /// Along the arena, from the A end.
    pub y: Metres,
}

/// One stance of one limb, as marked.
#[derive(Clone, Debug, PartialEq)]
pub struct Footfall {
    /// Which limb.
    pub limb: Limb,
    /// The hoof takes the ground (first frame of contact).
    pub on: Seconds,
    /// The hoof is clear of the ground (first frame clear); `None` when not marked.
    pub off: Option<Seconds>,
    /// Where the hoof stood, when known.
    pub at: Option<GroundPoint>,
    /// How it came about.
    pub origin: Origin,
    /// Standard deviation of this mark's time, when it has one of its own (a tapped mark is
    /// worse than a stepped one); otherwise the whole file's holds.
    pub sd: Option<Seconds>,
    /// Put where a mark is missing, for cutting strides and drawing only.
    pub inferred: bool,
    /// Row it came from (line of the file, or place in the list), for messages.
    pub line: usize,
}

impl Footfall {
    /// A bare footfall: a limb and an instant.
    pub fn new(limb: Limb, on: Seconds) -> Self {
        Self {
            limb,
            on,
            off: None,
            at: None,
            origin: Origin::Stepped,
            sd: None,
            inferred: false,
            line: 0,
        }
    }

    /// Stance: off − on in seconds, when the off is known.
    ///
    /// ```
    /// use umlauf_gait::base::units::Seconds;
    /// use umlauf_gait::{Footfall, Limb};
    /// let tapped = Footfall::new(Limb::LH, Seconds(1.0));
    /// assert_eq!(tapped.stance(), None);
    /// let held = Footfall { off: Some(Seconds(1.3)), ..tapped };
    /// assert!((held.stance().expect("a stance") - 0.3).abs() < 1e-12);
    /// ```
    pub fn stance(&self) -> Option<f64> {
        self.off.map(|off| off.0 - self.on.0)
    }
}

/// The places of each limb's marks.
pub(crate) fn by_limb(marks: &[Footfall]) -> [Vec<usize>; 4] {
    let mut own = Limb::ALL.map(|_| Vec::with_capacity(marks.len() / 4 + 1));
    for (k, mark) in marks.iter().enumerate() {
        own[mark.limb.index()].push(k);
    }
    own
}
