//! When a limb is due: it lands once a stride, and evenly.

use umlauf_gait::base::limb::Limb;

/// A limb does not land again within this share of a stride.
const AGAIN: f64 = 0.4;

/// Strides about a footfall that differ from the usual one by less than this share are even.
const EVEN: f64 = 0.08;

/// How well a limb's landing is known by those before and after, and by those of one side, shares of a stride
/// (project default: a steady horse's strides differ by two to three per cent).
const BETWEEN: f64 = 0.02;
const BESIDE: f64 = 0.04;

/// A landing this near to where a limb is due may be its own, as a share of a stride.
const OWN: f64 = 0.06;

/// Landings of a clip's limbs, in any one unit of time.
pub struct Due {
    ons: [Vec<f64>; 4],
    /// The usual stride.
    pub stride: f64,
}

impl Due {
    /// Of landings by limb, each in order. `None` where no limb has landed twice.
    pub fn of(ons: [Vec<f64>; 4]) -> Option<Self> {
        let mut strides: Vec<f64> =
            ons.iter().flat_map(|own| own.windows(2).map(|w| w[1] - w[0])).collect();
        strides.sort_by(f64::total_cmp);
        let stride = *strides.get(strides.len() / 2)?;
        Some(Self { ons, stride })
    }

    /// When `limb` is due about `at` by its landings before and after, and how well that is known (a standard
    /// deviation); `None` where they are not even.
    pub fn at(&self, limb: Limb, at: f64) -> Option<(f64, f64)> {
        let own = &self.ons[limb.index()];
        let even = |strides: f64, from: f64, to: f64| {
            (to - from - strides * self.stride).abs() < EVEN * strides * self.stride
        };
        let next = own.partition_point(|on| *on < at);
        let on = |k: Option<usize>| k.and_then(|k| own.get(k)).copied();
        let (before, after) = (on(next.checked_sub(1)), on(Some(next)));
        if let (Some(a), Some(b)) = (before, after)
            && even(2.0, a, b)
        {
            return Some((0.5 * (a + b), BETWEEN * self.stride));
        }
        match (on(next.checked_sub(2)), before, after, on(Some(next + 1))) {
            (Some(a), Some(b), None, _) if even(1.0, a, b) => {
                Some((b + self.stride, BESIDE * self.stride))
            }
            (_, None, Some(a), Some(b)) if even(1.0, a, b) => {
                Some((a - self.stride, BESIDE * self.stride))
            }
            _ => None,
        }
    }

    /// Whether `limb` lands so near to `at` that it cannot land then as well.
    pub fn again(&self, limb: Limb, at: f64) -> bool {
        self.ons[limb.index()].iter().any(|on| (on - at).abs() < AGAIN * self.stride)
    }

    /// The limb that lands at `at`, where one alone is due then.
    pub fn whose(&self, at: f64) -> Option<Limb> {
        let mut due = Limb::ALL.into_iter().filter(|limb| {
            !self.again(*limb, at)
                && self.at(*limb, at).is_some_and(|(on, _)| (on - at).abs() < OWN * self.stride)
        });
        due.next().filter(|_| due.next().is_none())
    }
}
