//! Missing marks, put where their limb's neighbours predict them, so that strides can be cut and
//! labelled. An inferred mark never enters a statistic: a stride that has one is left out of them.

use rayon::iter::{IntoParallelIterator, ParallelIterator};

use crate::base::limb::Limb;
use crate::base::number;
use crate::base::units::Seconds;
use crate::marks::footfall::Footfall;
use crate::strides::nearby::NearbyDuration;

/// Most marks in a row that are inferred.
const MOST_IN_A_ROW: f64 = 2.0;

/// How far a hole may be from a whole number of strides, share of a stride.
const WHOLE: f64 = 0.33;

/// The marks inferred between tidy marks (sorted, one limb's places in `by_limb`), in order of
/// time; `nearby` is their stride duration. A limb that is known to have stood through the gap missed
/// no footfall.
pub fn infer(
    marks: &[Footfall],
    by_limb: &[Vec<usize>; 4],
    nearby: &NearbyDuration,
) -> Vec<Footfall> {
    let mut out: Vec<Footfall> = Limb::ALL
        .into_par_iter()
        .flat_map_iter(|limb| of_limb(limb, marks, &by_limb[limb.index()], nearby))
        .collect();
    out.sort_by(|a, b| a.on.0.total_cmp(&b.on.0));
    out
}

/// Those of one limb.
fn of_limb(
    limb: Limb,
    marks: &[Footfall],
    own: &[usize],
    nearby: &NearbyDuration,
) -> Vec<Footfall> {
    let mut out = Vec::new();
    let mut near = nearby.walk();
    for places in own.windows(2) {
        let w = [marks[places[0]].on.0, marks[places[1]].on.0];
        let gap = w[1] - w[0];
        let Some(stride) = near.at(f64::midpoint(w[0], w[1])) else { continue };
        if marks[places[0]].stance().is_some_and(|s| s > 0.9 * stride) {
            continue;
        }
        // When the other limbs are as slow the stride is long, and nothing is missing.
        let others = marks[places[0]..places[1]].iter().filter(|m| m.limb != limb).count();
        if number::count(others) < 3.0 * (gap / stride).round() - 2.0 {
            continue;
        }
        let strides = (gap / stride).round();
        let missing = strides - 1.0;
        if (1.0..=MOST_IN_A_ROW).contains(&missing) && (gap / stride - strides).abs() < WHOLE {
            let mut k = 1.0;
            while k <= missing {
                let on = Seconds(w[0] + gap * k / strides);
                out.push(Footfall { inferred: true, ..Footfall::new(limb, on) });
                k += 1.0;
            }
        }
    }
    out
}
