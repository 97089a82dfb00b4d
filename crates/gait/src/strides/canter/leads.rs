//! The leads of hinds and fores in a canter, stride by stride, from the marks that were really
//! made.
//!
//! In a stretch of canter the horse's own pattern is learned first. Each stride is then set against the four
//! combinations of hind and fore lead, by how well its real marks fit that pattern, and the most
//! likely run of combinations is taken. A stride in
//! which a mark is missing still tells: one fore at the place of the leading fore is the leading
//! fore.

use rayon::iter::{IndexedParallelIterator, ParallelIterator};
use rayon::slice::ParallelSlice;

use crate::base::gait::Label;
use crate::base::limb::Limb;
use crate::base::phase;
use crate::marks::footfall::Footfall;
use crate::strides::canter::holes::OWN_SPREAD;
use crate::strides::canter::pattern::{Leads, Pattern};
use crate::strides::canter::states::{Fits, Instead, LEADS, Told, best_run};
use crate::strides::nearby::first_at;
use crate::strides::stride::Stride;

/// A mark further off than this many standard deviations is a slip and says no more.
const SLIP: f64 = 3.5;

/// Settles what is even, and nothing else.
const OPEN: f64 = 1e-6;

/// Strides that are looked at in one go.
const PART: usize = 512;

/// Sets the leads in `labels` of a stretch of canter or gallop by the strides' real marks, and says of
/// each stride what else they may be. `marks` are tidy marks, `by_limb` their places; `mark_sd` is the
/// error of one mark, s (5 ms is assumed when it is not known: only the leads hang on it, no figure).
/// Strides that were `told` (in order of time) keep what was found of them.
pub fn settle(
    strides: &[Stride],
    labels: &mut [Label],
    marks: &[Footfall],
    by_limb: &[Vec<usize>; 4],
    mark_sd: Option<f64>,
    told: &[Told],
) -> Vec<Instead> {
    let united = strides.iter().zip(labels.iter()).filter_map(|(stride, label)| {
        let lead = label.hind_lead.filter(|_| stride.is_marked() && !label.is_disunited())?;
        Some((stride, lead))
    });
    let Some(pattern) = Pattern::of(united) else { return vec![None; strides.len()] };
    let mut durations: Vec<f64> = strides.iter().map(Stride::duration).collect();
    durations.sort_by(f64::total_cmp);
    let t = durations[durations.len() / 2];
    let sd = OWN_SPREAD.hypot(mark_sd.unwrap_or(0.005) / t);
    let part = |(strides, labels): (&[Stride], &[Label])| {
        let mut near = [0; 4];
        let fits = strides.iter().zip(labels).map(|(s, label)| {
            for (k, own) in near.iter_mut().zip(by_limb) {
                *k = first_at(own, *k, |&i| marks[i].on.0 >= s.start);
            }
            LEADS.map(|leads| {
                let told = Some(leads.0) == label.hind_lead && Some(leads.1) == label.fore_lead;
                let marks = misfit(s, leads, &pattern, t, sd, marks, by_limb, &near);
                // Where the marks leave it open the stride keeps the leads it had.
                if told { marks } else { marks + OPEN }
            })
        });
        fits.collect::<Vec<Fits>>()
    };
    let parts = strides.par_chunks(PART).zip(labels.par_chunks(PART));
    let fits: Vec<Fits> = parts.flat_map_iter(part).collect();
    let mut run = best_run(&fits);
    // Of a ride with many canters only what was told of this one.
    let (begins, ends) = (strides[0].start - t, strides[strides.len() - 1].end);
    let own = told.partition_point(|told| told.start < begins)
        ..told.partition_point(|told| told.start < ends);
    for t in &told[own] {
        let k = strides.partition_point(|s| s.end < t.start + 0.5 * t.duration);
        if let (Some(run), Some(s)) = (run.get_mut(k), strides.get(k))
            && (s.start - t.start).abs() < 0.2 * t.duration
        {
            *run = (t.leads, t.instead);
        }
    }
    for (label, (leads, _)) in labels.iter_mut().zip(&run) {
        (label.hind_lead, label.fore_lead) = (Some(leads.0), Some(leads.1));
    }
    run.into_iter().map(|(_, instead)| instead).collect()
}

/// How badly the real marks about a stride fit leads, as a log-likelihood lost. `near` are the
/// places of each limb's first marks from the stride's start on.
#[expect(clippy::too_many_arguments, reason = "what one look at one stride needs")]
fn misfit(
    stride: &Stride,
    leads: Leads,
    pattern: &Pattern,
    t: f64,
    sd: f64,
    marks: &[Footfall],
    by_limb: &[Vec<usize>; 4],
    near: &[usize; 4],
) -> f64 {
    let places = pattern.places(leads);
    // Where each mark says that the stride began, in strides from where it is thought to.
    let mut says: [f64; 4] = [0.0; 4];
    let mut n = 0;
    for (limb, place) in places {
        let own = &by_limb[limb.index()];
        let due = stride.start + place * t;
        let k = first_at(own, near[limb.index()], |&i| marks[i].on.0 >= due);
        let near = [k.checked_sub(1), Some(k)]
            .into_iter()
            .flatten()
            .filter_map(|k| own.get(k))
            .map(|&i| &marks[i])
            .filter(|m| !m.inferred)
            .map(|m| (m.on.0 - due) / t)
            .min_by(|a, b| a.abs().total_cmp(&b.abs()));
        if let Some(off) = near.filter(|off| off.abs() < 0.5) {
            says[n] = off;
            n += 1;
        }
    }
    if n < 2 {
        return 0.0;
    }
    let says = &mut says[..n];
    says.sort_by(f64::total_cmp);
    // A start that was marked stays where it is; an inferred one gives way to the others.
    let shift = if stride.start_is_marked() {
        0.0
    } else {
        f64::midpoint(says[(n - 1) / 2], says[n / 2]).clamp(-0.2, 0.2)
    };
    says.iter().map(|off| 0.5 * (((off - shift) / sd).abs().min(SLIP)).powi(2)).sum()
}

/// Whether both hinds of a stride were marked and landed within `least` of the stride of one
/// another.
pub fn hinds_together(stride: &Stride, least: f64) -> bool {
    let marked = !stride.inferred[Limb::LH.index()] && !stride.inferred[Limb::RH.index()];
    marked
        && stride
            .phase_between(Limb::RH, Limb::LH)
            .is_some_and(|delta| phase::signed(delta).abs() < least)
}
