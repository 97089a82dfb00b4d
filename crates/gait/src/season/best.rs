//! The best session of a figure: what is picked because it is the best is corrected for it.

use crate::base::number::count;
use crate::season::card_row::Row;
use crate::season::metric::Direction;
use crate::season::progress::SessionValue;
use crate::stats::descriptive::mean;
use crate::stats::estimate::Estimate;
use crate::stats::quantiles::normal_quantile;
use crate::stats::shrunk::{Measured, shrunk};

/// The best of several sessions.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Best {
    /// Its place.
    pub place: usize,
    /// Sessions it was picked from.
    pub of: usize,
    /// The figure without the luck that it was picked for: what it is expected to have been, given all
    /// sessions, and its 95 % interval. `n` is its bouts.
    pub value: Estimate,
}

/// Sessions of one horse are usually about as unlike as this part of what is worth speaking of, and so
/// is the first from the last (project default): more than the day's form makes, for what is ridden differs
/// too.
const USUAL: f64 = 0.5;

/// The best session of a figure, in order of time, by what each is expected to have been
/// ([`shrunk`]: one that is known badly lies where the others do). Sessions without an error are left
/// out. `None` without a better way, or with fewer than two to pick from.
pub fn best(row: Row, values: &[SessionValue], target: Option<f64>) -> Option<Best> {
    let loss = |value: f64| match (row.direction(), target) {
        (Direction::Higher, _) => Some(-value),
        (Direction::Lower, _) => Some(value),
        (Direction::Target, Some(t)) => Some((value - t).abs()),
        _ => None,
    };
    let errors = errors(values);
    let known: Vec<(usize, Measured)> = values
        .iter()
        .zip(errors)
        .enumerate()
        .filter_map(|(k, (v, error))| {
            #[expect(clippy::cast_precision_loss, reason = "days")]
            let at = v.day as f64;
            Some((k, Measured { at, value: v.value.value, error: error? }))
        })
        .collect();
    let measured: Vec<Measured> = known.iter().map(|(_, m)| *m).collect();
    let level = mean(&measured.iter().map(|m| m.value).collect::<Vec<f64>>());
    let truths = shrunk(&measured, USUAL * row.worthwhile(level))?;
    let losses = (0..known.len()).map(|k| loss(truths.value(k))).collect::<Option<Vec<f64>>>()?;
    let first = (0..losses.len()).min_by(|a, b| losses[*a].total_cmp(&losses[*b]))?;
    let place = known[first].0;
    let n = values[place].value.n;
    let value =
        Estimate { value: truths.value(first), sd: None, ci95: Some(truths.ci95(first)), n };
    Some(Best { place, of: known.len(), value })
}

/// Standard error of each session: from how bouts of one session spread in all of them together, for
/// two or three bouts hardly tell it by themselves; without that, from its own interval.
fn errors(values: &[SessionValue]) -> Vec<Option<f64>> {
    let spreads =
        || values.iter().filter_map(|v| Some((v.value.n, v.value.sd?))).filter(|(n, _)| *n >= 2);
    let dof: f64 = spreads().map(|(n, _)| count(n) - 1.0).sum();
    let sum: f64 = spreads().map(|(n, sd)| (count(n) - 1.0) * sd * sd).sum();
    let spread = if dof > 0.0 { (sum / dof).sqrt() } else { 0.0 };
    let one = |v: &SessionValue| {
        let of_bouts = spread / count(v.value.n.max(1)).sqrt();
        let own = v.value.half_width().map(|half| half / normal_quantile(0.975));
        let error = if v.value.n >= 2 && v.value.sd.is_some() {
            of_bouts
        } else {
            own.unwrap_or(0.0).max(of_bouts)
        };
        (error > 0.0).then_some(error)
    };
    values.iter().map(one).collect()
}
