//! Strides of a canter whose marks are not all there, or not all right: explained as a whole between the
//! complete strides on both sides.
//!
//! Limb by limb a missing footfall is looked for where its neighbours put it, which a flying change
//! makes wrong: one hind comes a quarter stride late in it, the other as early. The clock of the canter
//! itself goes on through a change. So between two complete strides the number of strides is known,
//! and of each its four places; the marks as they were made are set against the leads that each stride
//! may have.

use std::borrow::Cow;
use std::collections::HashSet;

use crate::base::limb::{Limb, Side};
use crate::base::thresholds::Thresholds;
use crate::base::units::Seconds;
use crate::marks::footfall::{Footfall, by_limb};
use crate::stats::descriptive::median;
use crate::strides::canter::explain::{Explained, Scatter, explain};
use crate::strides::canter::pattern::{Leads, Pattern};
use crate::strides::canter::states::{Fits, LEADS, Told, best_run};
use crate::strides::classify::pair_lead;
use crate::strides::nearby::NearbyDuration;
use crate::strides::relabel::Relabelled;
use crate::strides::stride::Stride;
use crate::strides::tidy::Tidy;

/// A horse varies its own places by about this much, share of a stride (project default).
pub const OWN_SPREAD: f64 = 0.022;

/// And the duration of its strides (project default).
const STRIDE_SPREAD: f64 = 0.03;

/// A place further off than this many standard deviations is not the horse's own.
const UNLIKE: f64 = 3.5;

/// Strides without a complete one between them, at most.
const LONGEST: f64 = 8.0;

/// How far a hole may be from a whole number of strides, share of a stride.
const WHOLE: f64 = 0.3;

/// Complete strides that a pattern is learned from, at least.
const LEARNED: usize = 3;

/// A complete stride of a canter as it should be.
struct Anchor {
    /// Where it begins, by all its four marks, s.
    start: f64,
    leads: Leads,
}

/// A canter with its pattern.
struct Canter {
    pattern: Pattern,
    stride: f64,
    scatter: f64,
    anchors: Vec<Anchor>,
}

impl Canter {
    /// Where the marks of a stride begin that begins at `start`: between the leading fore of the one
    /// before and its own first hind, s.
    fn edge(&self, start: f64) -> f64 {
        start - 0.5 * (1.0 - self.pattern.leading_fore) * self.stride
    }
}

/// Mends the strides of canters between complete ones, and beyond the first and the last as long as
/// the canter goes on: marks given to wrong limbs are moved, missing ones inferred at their places.
/// `marks` are the marks as made, `strides` as cut from `tidy`, which is changed. Says whether
/// there was any: strides are to be cut anew then. O(n log n).
pub fn mend(
    marks: &[Footfall],
    tidy: &mut Tidy,
    strides: &[Stride],
    mark_sd: Option<f64>,
    limits: &Thresholds,
) -> bool {
    let canters = canters(tidy, strides, mark_sd, limits);
    if canters.is_empty() {
        return false;
    }
    let as_made = as_made(marks, tidy);
    let sorted = &*as_made;
    let mut mended = Mended::default();
    for (k, canter) in canters.iter().enumerate() {
        let (Some(first), Some(last)) = (canter.anchors.first(), canter.anchors.last()) else {
            continue;
        };
        let begin = mended.told.last().map_or(f64::NEG_INFINITY, |t| t.start + t.duration);
        let next = canters.get(k + 1).and_then(|c| c.anchors.first());
        let end = next.map_or(f64::INFINITY, |a| a.start);
        let mut before = beyond(canter, first.start, -1.0, begin, sorted);
        before.reverse();
        mended.take(canter, &before, (None, Some(first.leads)));
        for pair in canter.anchors.windows(2) {
            if let Some(hole) = hole(canter, pair, sorted) {
                mended.take(canter, &hole, (Some(pair[0].leads), Some(pair[1].leads)));
            }
        }
        let after = beyond(canter, last.start, 1.0, end, sorted);
        mended.take(canter, &after, (Some(last.leads), None));
    }
    drop(as_made);
    mended.put_into(tidy)
}

/// The marks as they were made, in order of time.
fn as_made<'a>(marks: &[Footfall], tidy: &'a Tidy) -> Cow<'a, [Footfall]> {
    if tidy.relabelled.is_empty() && tidy.dropped.is_empty() {
        if tidy.footfalls.iter().all(|m| !m.inferred) {
            return Cow::Borrowed(&tidy.footfalls);
        }
        return tidy.footfalls.iter().filter(|m| !m.inferred).cloned().collect();
    }
    let mut sorted = marks.to_vec();
    sorted.sort_by(|a, b| a.on.0.total_cmp(&b.on.0).then(a.limb.cmp(&b.limb)));
    Cow::Owned(sorted)
}

/// The canters of a ride, with the complete strides that are like each other.
fn canters(
    tidy: &Tidy,
    strides: &[Stride],
    mark_sd: Option<f64>,
    limits: &Thresholds,
) -> Vec<Canter> {
    let moved: HashSet<usize> = tidy.relabelled.iter().map(|r| r.line).collect();
    let mut times: Vec<f64> = Vec::new();
    if !moved.is_empty() {
        times.extend(tidy.footfalls.iter().filter(|m| moved.contains(&m.line)).map(|m| m.on.0));
    }
    let was_moved = |s: &Stride| {
        let first = s.on.iter().flatten().copied().fold(s.start, f64::min);
        let next = times.partition_point(|t| *t < first);
        times.get(next).is_some_and(|t| *t < s.end)
    };
    let lead = |s: &Stride, right: Limb, left: Limb| {
        pair_lead(s.phase_between(right, left)?, limits.couplet_min, limits.couplet_max)
    };
    let complete: Vec<(&Stride, Leads)> = strides
        .iter()
        .filter(|s| s.is_marked() && !was_moved(s))
        .filter_map(|s| Some((s, (lead(s, Limb::RH, Limb::LH)?, lead(s, Limb::RF, Limb::LF)?))))
        .collect();
    let near = |a: &(&Stride, Leads), b: &(&Stride, Leads)| {
        b.0.start - a.0.end < (LONGEST + WHOLE) * a.0.duration()
    };
    complete.chunk_by(near).filter_map(|own| canter(own, mark_sd)).collect()
}

fn canter(own: &[(&Stride, Leads)], mark_sd: Option<f64>) -> Option<Canter> {
    if own.len() < LEARNED {
        return None;
    }
    let united: Vec<(&Stride, Side)> =
        own.iter().filter(|(_, l)| l.0 == l.1).map(|(s, l)| (*s, l.0)).collect();
    let pattern = Pattern::of(united.into_iter())?;
    let stride = median(own.iter().map(|(s, _)| s.duration()).collect())?;
    let scatter = OWN_SPREAD.hypot(mark_sd.unwrap_or(0.005) / stride);
    let anchors: Vec<Anchor> = own
        .iter()
        .filter(|(s, _)| (s.duration() / stride - 1.0).abs() < 4.0 * STRIDE_SPREAD)
        .filter_map(|(s, leads)| {
            let mut shift = 0.0;
            for (limb, place) in pattern.places(*leads) {
                let off = (s.on[limb.index()]? - s.start) / stride - place;
                if off.abs() > UNLIKE * std::f64::consts::SQRT_2 * scatter {
                    return None;
                }
                shift += 0.25 * off;
            }
            Some(Anchor { start: s.start + shift * stride, leads: *leads })
        })
        .collect();
    Some(Canter { pattern, stride, scatter, anchors })
}

/// A stride that is not sure: where it is thought to begin, the marks about it, and how each of
/// [`LEADS`] explains them.
struct Unsure<'a> {
    start: f64,
    duration: f64,
    edges: (f64, f64),
    marks: &'a [Footfall],
    explained: [Explained; 4],
}

impl<'a> Unsure<'a> {
    /// A stride that begins about `start`, known to `scatter` (share of a stride); its marks lie
    /// between the `edges`, s.
    fn about(
        canter: &Canter,
        start: f64,
        duration: f64,
        scatter: f64,
        edges: (f64, f64),
        sorted: &'a [Footfall],
    ) -> Self {
        let at = |time: f64| sorted.partition_point(|m| m.on.0 < time);
        let marks = sorted.get(at(edges.0)..at(edges.1)).unwrap_or_default();
        let near: Vec<_> = marks.iter().map(|m| ((m.on.0 - start) / duration, m.limb)).collect();
        let scatter = Scatter { mark: canter.scatter, start: scatter };
        let explained = LEADS.map(|l| explain(&near, &canter.pattern.places(l), scatter));
        Self { start, duration, edges, marks, explained }
    }

    fn best(&self) -> &Explained {
        let by_cost = |a: &&Explained, b: &&Explained| a.cost.total_cmp(&b.cost);
        self.explained.iter().min_by(by_cost).unwrap_or(&self.explained[0])
    }
}

/// The strides between neighbouring anchors, if there are any and their number is sure.
fn hole<'a>(canter: &Canter, pair: &[Anchor], sorted: &'a [Footfall]) -> Option<Vec<Unsure<'a>>> {
    let [a, b] = pair else { return None };
    let apart = (b.start - a.start) / canter.stride;
    let whole = apart.round();
    if !(2.0..=LONGEST + 1.0).contains(&whole) || (apart - whole).abs() > WHOLE {
        return None;
    }
    let duration = (b.start - a.start) / whole;
    let start = |k: f64| a.start + k * duration;
    let mut out = Vec::new();
    let mut k = 1.0;
    while k < whole {
        // Between two known starts the strides can only wander so far.
        let bridge = STRIDE_SPREAD * (k * (whole - k) / whole).sqrt();
        let edges = (canter.edge(start(k)), canter.edge(start(k + 1.0)));
        out.push(Unsure::about(canter, start(k), duration, bridge, edges, sorted));
        k += 1.0;
    }
    let sum = |of: fn(&Explained) -> usize| out.iter().map(|u| of(u.best())).sum::<usize>();
    let is_canter = sum(|e| e.foreign + e.far) == 0
        && sum(|e| e.wrong) <= 1 + out.len() / 6
        && sum(Explained::found) + 1 >= 3 * out.len();
    is_canter.then_some(out)
}

/// The strides beyond an anchor that begins at `start`, one `way` in time (+1 or −1), as long as their
/// marks are the canter's and before the `end`. The outermost is left alone: the gait may end in it.
fn beyond<'a>(
    canter: &Canter,
    start: f64,
    way: f64,
    end: f64,
    sorted: &'a [Footfall],
) -> Vec<Unsure<'a>> {
    let (mut out, mut at, mut wrong) = (Vec::new(), start, 0);
    let forward = way > 0.0;
    let mut edge = canter.edge(if forward { start + canter.stride } else { start });
    loop {
        let begins = at + way * canter.stride;
        if way * (end - begins) < 0.5 * canter.stride {
            break;
        }
        let far = canter.edge(if forward { begins + canter.stride } else { begins });
        let edges = if forward { (edge, far) } else { (far, edge) };
        let unsure = Unsure::about(canter, begins, canter.stride, STRIDE_SPREAD, edges, sorted);
        let best = unsure.best();
        wrong += best.wrong;
        if best.foreign + best.far > 0 || best.found() < 3 || wrong > 1 {
            break;
        }
        at = begins + best.shift * canter.stride;
        edge = far;
        out.push(unsure);
    }
    out.pop();
    out
}

/// What is mended.
#[derive(Default)]
struct Mended {
    footfalls: Vec<Footfall>,
    relabelled: Vec<Relabelled>,
    told: Vec<Told>,
    /// From where to where the marks were explained, s, and their rows.
    stretches: Vec<(f64, f64)>,
    lines: HashSet<usize>,
}

impl Mended {
    /// Takes strides in a row as their likeliest leads explain them; what is known of the strides
    /// before and after them decides with.
    fn take(
        &mut self,
        canter: &Canter,
        unsure: &[Unsure<'_>],
        (before, after): (Option<Leads>, Option<Leads>),
    ) {
        let (Some(first), Some(last)) = (unsure.first(), unsure.last()) else { return };
        if unsure.iter().all(|u| u.best().is_whole()) {
            return;
        }
        // A complete stride is what it is.
        let known = |leads: Leads| LEADS.map(|l| if l == leads { 0.0 } else { 50.0 });
        let fits: Vec<Fits> = (before.map(known).into_iter())
            .chain(unsure.iter().map(|u| u.explained.map(|e| e.cost)))
            .chain(after.map(known))
            .collect();
        let run = best_run(&fits);
        let run = &run[usize::from(before.is_some())..][..unsure.len()];
        let chosen = |leads: &Leads, unsure: &Unsure| {
            unsure.explained[LEADS.iter().position(|l| l == leads).unwrap_or(0)]
        };
        // No mark is lost: what the canter does not explain is left to be read as anything else.
        if run.iter().zip(unsure).any(|((leads, _), u)| chosen(leads, u).foreign > 0) {
            return;
        }
        for ((leads, instead), unsure) in run.iter().zip(unsure) {
            let explained = chosen(leads, unsure);
            let (start, duration) =
                (unsure.start + explained.shift * unsure.duration, unsure.duration);
            self.told.push(Told { start, duration, leads: *leads, instead: *instead });
            for ((limb, place), mark) in
                canter.pattern.places(*leads).into_iter().zip(explained.of_place)
            {
                let Some(mark) = mark.map(|m| &unsure.marks[m]) else {
                    let on = Seconds(start + place * duration);
                    self.footfalls.push(Footfall { inferred: true, ..Footfall::new(limb, on) });
                    continue;
                };
                if mark.limb != limb {
                    let (line, from) = (mark.line, mark.limb);
                    self.relabelled.push(Relabelled { line, from, to: limb });
                }
                self.lines.insert(mark.line);
                self.footfalls.push(Footfall { limb, ..mark.clone() });
            }
        }
        self.stretches.push((first.edges.0, last.edges.1));
    }

    /// Puts what was explained in the place of what was there.
    /// Whether there was anything.
    fn put_into(mut self, tidy: &mut Tidy) -> bool {
        if self.told.is_empty() {
            return false;
        }
        let stretches = &self.stretches;
        tidy.footfalls.retain(|m| {
            let next = stretches.partition_point(|s| s.1 <= m.on.0);
            !stretches.get(next).is_some_and(|s| s.0 <= m.on.0)
        });
        tidy.footfalls.append(&mut self.footfalls);
        tidy.footfalls.sort_by(|a, b| a.on.0.total_cmp(&b.on.0).then(a.limb.cmp(&b.limb)));
        tidy.relabelled.retain(|r| !self.lines.contains(&r.line));
        tidy.relabelled.append(&mut self.relabelled);
        tidy.relabelled.sort_by_key(|r| r.line);
        tidy.dropped.retain(|d| !self.lines.contains(&d.line));
        tidy.by_limb = by_limb(&tidy.footfalls);
        tidy.set_offs_aside();
        tidy.nearby = NearbyDuration::of(&tidy.footfalls, &tidy.by_limb);
        tidy.told = self.told;
        true
    }
}
