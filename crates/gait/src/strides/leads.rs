//! The leads of hinds and fores in a canter, stride by stride, from the marks that were really
//! made.
//!
//! In a stretch of canter the horse's own pattern is learned first: where in the stride the second
//! hind, the trailing and the leading fore land. Each stride is then set against the four
//! combinations of hind and fore lead, by how well its real marks fit that pattern, and the most
//! likely run of combinations is taken (Viterbi 1967, IEEE Trans Inf Theory 13:260). A stride in
//! which a mark is missing still tells: one fore at the place of the leading fore is the leading
//! fore.

use rayon::iter::{IndexedParallelIterator, ParallelIterator};
use rayon::slice::ParallelSlice;

use crate::base::gait::Label;
use crate::base::limb::{Limb, Side};
use crate::base::phase;
use crate::marks::footfall::Footfall;
use crate::strides::nearby::first_at;
use crate::strides::stride::Stride;

/// Leads of hinds and fores.
const STATES: [(Side, Side); 4] = [
    (Side::Left, Side::Left),
    (Side::Right, Side::Right),
    (Side::Left, Side::Right),
    (Side::Right, Side::Left),
];

/// Places in the stride, shares from the first hind: second hind, trailing fore, leading fore.
#[derive(Clone, Copy, Debug, PartialEq)]
struct Pattern {
    second_hind: f64,
    trailing_fore: f64,
    leading_fore: f64,
}

/// A horse varies its own phases by about this much (project default).
const OWN_SPREAD: f64 = 0.022;

/// A mark further off than this many standard deviations is a slip and says no more.
const SLIP: f64 = 3.5;

/// Settles what is even, and nothing else.
const OPEN: f64 = 1e-6;

/// A state that is less likely than the best by this log-likelihood is ruled out.
const SURE: f64 = 3.0;

/// Log-likelihood lost by a clean change,
const CLEAN: f64 = 3.0;

/// by a stride in which one pair begins to go alone,
const PARTING: f64 = 4.5;

/// and by the other pair's following.
const JOINING: f64 = 1.0;

/// Strides that are looked at in one go.
const PART: usize = 512;

/// What else a stride's leads may be: leads of hinds and fores that the marks speak against by less than
/// [`SURE`].
pub type Instead = Option<(Side, Side)>;

/// Sets the leads in `labels` of a stretch of canter or gallop by the strides' real marks, and says of
/// each stride what else they may be. `marks` are tidy marks, `by_limb` their places; `mark_sd` is the
/// error of one mark, s (5 ms is assumed when it is not known: only the leads hang on it, no figure).
pub fn settle(
    strides: &[Stride],
    labels: &mut [Label],
    marks: &[Footfall],
    by_limb: &[Vec<usize>; 4],
    mark_sd: Option<f64>,
) -> Vec<Instead> {
    let Some(pattern) = pattern(strides, labels) else { return vec![None; strides.len()] };
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
            STATES.map(|state| {
                let told = Some(state.0) == label.hind_lead && Some(state.1) == label.fore_lead;
                let marks = misfit(s, state, pattern, t, sd, marks, by_limb, &near);
                // Where the marks leave it open the stride keeps the leads it had.
                if told { marks } else { marks + OPEN }
            })
        });
        fits.collect::<Vec<[f64; 4]>>()
    };
    let parts = strides.par_chunks(PART).zip(labels.par_chunks(PART));
    let fits: Vec<[f64; 4]> = parts.flat_map_iter(part).collect();
    let run = best_run(&fits);
    for (label, state) in labels.iter_mut().zip(&run) {
        (label.hind_lead, label.fore_lead) = (Some(state.0), Some(state.1));
    }
    let through = costs_through(&fits);
    run.iter().zip(&through).map(|(state, costs)| second(*state, costs)).collect()
}

/// The next best state of a stride, if it is near enough.
fn second(best: (Side, Side), costs: &[f64; 4]) -> Instead {
    let least = costs.iter().copied().fold(f64::INFINITY, f64::min);
    let others = (0..4).filter(|k| STATES[*k] != best);
    let next = others.min_by(|a, b| costs[*a].total_cmp(&costs[*b]))?;
    (costs[next] < least + SURE).then_some(STATES[next])
}

/// Cost of the best run through each state of each stride.
fn costs_through(fits: &[[f64; 4]]) -> Vec<[f64; 4]> {
    let reach = |order: &mut dyn Iterator<Item = usize>, ahead: bool| {
        let mut out = vec![[0.0; 4]; fits.len()];
        let mut last: Option<[f64; 4]> = None;
        for k in order {
            let here = std::array::from_fn(|to| {
                last.map_or(0.0, |cost| {
                    let between = |from: usize| {
                        let (a, b) = if ahead { (from, to) } else { (to, from) };
                        cost[from] + step(STATES[a], STATES[b])
                    };
                    (0..4).map(between).fold(f64::INFINITY, f64::min)
                })
            });
            out[k] = here;
            last = Some(std::array::from_fn(|s| here[s] + fits[k][s]));
        }
        out
    };
    let before = reach(&mut (0..fits.len()), true);
    let after = reach(&mut (0..fits.len()).rev(), false);
    (0..fits.len())
        .map(|k| std::array::from_fn(|s| before[k][s] + fits[k][s] + after[k][s]))
        .collect()
}

/// The horse's pattern from its fully marked strides with both leads alike; `None` without one.
fn pattern(strides: &[Stride], labels: &[Label]) -> Option<Pattern> {
    let mut places: [Vec<f64>; 3] = Default::default();
    for (stride, label) in strides.iter().zip(labels) {
        let (Some(lead), true) = (label.hind_lead, stride.is_marked() && !label.is_disunited())
        else {
            continue;
        };
        let (second, trailing, leading) = limbs(lead, lead);
        for (list, limb) in places.iter_mut().zip([second, trailing, leading]) {
            list.extend(stride.phase(limb));
        }
    }
    let median = |list: &mut Vec<f64>| {
        list.sort_by(f64::total_cmp);
        list.get(list.len() / 2).copied()
    };
    let [second, trailing, leading] = &mut places;
    Some(Pattern {
        second_hind: median(second)?,
        trailing_fore: median(trailing)?,
        leading_fore: median(leading)?,
    })
}

/// Second hind, trailing fore and leading fore under a hind and a fore lead.
const fn limbs(hind: Side, fore: Side) -> (Limb, Limb, Limb) {
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

/// How badly the real marks about a stride fit a state, as a log-likelihood lost. `near` are the
/// places of each limb's first marks from the stride's start on.
#[expect(clippy::too_many_arguments, reason = "what one look at one stride needs")]
fn misfit(
    stride: &Stride,
    state: (Side, Side),
    pattern: Pattern,
    t: f64,
    sd: f64,
    marks: &[Footfall],
    by_limb: &[Vec<usize>; 4],
    near: &[usize; 4],
) -> f64 {
    let (second, trailing, leading) = limbs(state.0, state.1);
    let places = [
        (second.opposite(), 0.0),
        (second, pattern.second_hind),
        (trailing, pattern.trailing_fore),
        (leading, pattern.leading_fore),
    ];
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

fn step(from: (Side, Side), to: (Side, Side)) -> f64 {
    let united = |s: (Side, Side)| s.0 == s.1;
    match (from == to, united(from), united(to)) {
        (true, ..) => 0.0,
        (false, true, true) => CLEAN,
        (false, true, false) => PARTING,
        (false, false, true) => JOINING,
        (false, false, false) => PARTING + JOINING,
    }
}

fn best_run(fits: &[[f64; 4]]) -> Vec<(Side, Side)> {
    let Some(first) = fits.first() else { return Vec::new() };
    let mut cost = *first;
    let mut from: Vec<[usize; 4]> = Vec::with_capacity(fits.len());
    for fit in &fits[1..] {
        let mut whence = [0; 4];
        let mut next = [0.0; 4];
        for to in 0..4 {
            let through = |k: usize| cost[k] + step(STATES[k], STATES[to]);
            let best = (0..4).min_by(|a, b| through(*a).total_cmp(&through(*b))).unwrap_or(to);
            whence[to] = best;
            next[to] = through(best) + fit[to];
        }
        cost = next;
        from.push(whence);
    }
    let mut k = (0..4).min_by(|a, b| cost[*a].total_cmp(&cost[*b])).unwrap_or(0);
    let mut out = vec![STATES[k]; fits.len()];
    for (place, whence) in from.iter().enumerate().rev() {
        k = whence[k];
        out[place] = STATES[k];
    }
    out
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
