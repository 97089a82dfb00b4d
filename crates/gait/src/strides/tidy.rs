//! Untidy input made tidy: sorted, wrong limbs put right, doubles dropped, impossible offs set
//! aside, and every change reported. Nothing is corrected in silence.

use crate::base::limb::Limb;
use crate::base::thresholds::Thresholds;
use crate::base::units::Seconds;
use crate::marks::footfall::{Footfall, by_limb};
use crate::strides::canter::states::Told;
use crate::strides::missing_marks::infer;
use crate::strides::nearby::NearbyDuration;
use crate::strides::relabel::{Relabelled, relabel};

/// A mark that was left out, or whose off was set aside, and why.
#[derive(Clone, Debug, PartialEq)]
pub struct Dropped {
    /// Row of the input.
    pub line: usize,
    /// What was wrong with it.
    pub reason: DropReason,
}

/// Why a mark, or its off, was not used.
#[derive(Clone, Debug, PartialEq)]
pub enum DropReason {
    /// Another mark of the same limb stands this many seconds before it.
    Double {
        /// The limb.
        limb: Limb,
        /// Distance to the mark that was kept, s.
        apart_s: f64,
    },
    /// A beat that was suggested without a limb.
    NoLimb,
    /// The stance outlasts the limb's next footfall: the on is kept, the off is not known.
    OffAfterNext {
        /// The limb.
        limb: Limb,
    },
}

/// Marks in order of time, per limb and free of doubles.
#[derive(Clone, Debug, Default)]
pub struct Tidy {
    /// All marks kept and those inferred, in order of their on.
    pub footfalls: Vec<Footfall>,
    /// For each limb ([`Limb::index`]) the places of its marks in `footfalls`, in order of time.
    pub by_limb: [Vec<usize>; 4],
    /// The stride's duration nearby.
    pub nearby: NearbyDuration,
    /// What was left out.
    pub dropped: Vec<Dropped>,
    /// What was given to another limb.
    pub relabelled: Vec<Relabelled>,
    /// Strides of canters that were mended, in order of time.
    pub told: Vec<Told>,
}

impl Tidy {
    /// Sets aside every off that lies after the next on that was marked of its limb.
    pub fn set_offs_aside(&mut self) {
        for (limb, own) in Limb::ALL.into_iter().zip(&self.by_limb) {
            let mut last: Option<usize> = None;
            for &here in own {
                let Footfall { on, inferred, .. } = self.footfalls[here];
                if inferred {
                    continue;
                }
                let Some(before) = last.replace(here) else { continue };
                let before = &mut self.footfalls[before];
                if before.off.is_some_and(|off| off.0 > on.0) {
                    before.off = None;
                    let reason = DropReason::OffAfterNext { limb };
                    self.dropped.push(Dropped { line: before.line, reason });
                }
            }
        }
        self.dropped.sort_by_key(|d| d.line);
    }
}

/// Sorts marks, gives mislabelled ones to their limb, drops doubles (closer than min(0.25 s, 0.35 T) on one limb; the first is kept)
/// sets aside an off that lies after the limb's next on, and infers missing marks. O(n log n).
pub fn tidy(marks: &[Footfall], limits: &Thresholds) -> Tidy {
    let mut sorted = in_order(marks);
    let (relabelled, nearby) = relabel(&mut sorted);
    let typical = typical_interval(&sorted, limits.duplicate_s / 4.0);
    let closest =
        typical.map_or(limits.duplicate_s, |t| limits.duplicate_s.min(limits.duplicate_share * t));

    let mut out = Tidy { relabelled, ..Tidy::default() };
    let mut last: [Option<usize>; 4] = [None; 4];
    let mut kept = 0;
    for k in 0..sorted.len() {
        let Footfall { limb, on, line, .. } = sorted[k];
        if let Some(before) = last[limb.index()] {
            let apart = on.0 - sorted[before].on.0;
            if apart < closest {
                out.dropped
                    .push(Dropped { line, reason: DropReason::Double { limb, apart_s: apart } });
                continue;
            }
            if sorted[before].off.is_some_and(|off| off.0 > on.0) {
                let line = sorted[before].line;
                sorted[before].off = None;
                out.dropped.push(Dropped { line, reason: DropReason::OffAfterNext { limb } });
            }
        }
        last[limb.index()] = Some(kept);
        sorted.swap(kept, k);
        kept += 1;
    }
    sorted.truncate(kept);
    out.footfalls = sorted;
    out.by_limb = by_limb(&out.footfalls);
    out.dropped.sort_by_key(|d| d.line);
    // Where nothing was moved or dropped the durations are what they were.
    let same = out.relabelled.is_empty() && kept == marks.len();
    out.nearby = if same { nearby } else { NearbyDuration::of(&out.footfalls, &out.by_limb) };
    let inferred = infer(&out.footfalls, &out.by_limb, &out.nearby);
    if !inferred.is_empty() {
        out.footfalls.extend(inferred);
        out.footfalls.sort_by(|a, b| a.on.0.total_cmp(&b.on.0).then(a.limb.cmp(&b.limb)));
        out.by_limb = by_limb(&out.footfalls);
        out.nearby = NearbyDuration::of(&out.footfalls, &out.by_limb);
    }
    out
}

/// Marks in order of their on, limb and off; those alike in all keep their order. Small keys are sorted
/// in their place.
fn in_order(marks: &[Footfall]) -> Vec<Footfall> {
    let off = |m: &Footfall| m.off.map_or(f64::INFINITY, |off| off.0);
    let order = |a: &Footfall, b: &Footfall| {
        a.on.0.total_cmp(&b.on.0).then(a.limb.cmp(&b.limb)).then(off(a).total_cmp(&off(b)))
    };
    if marks.is_sorted_by(|a, b| order(a, b).is_le()) {
        return marks.to_vec();
    }
    let mut keys: Vec<(f64, usize)> = marks.iter().map(|m| m.on.0).zip(0..).collect();
    keys.sort_unstable_by(|(on, i), (then, j)| {
        on.total_cmp(then).then_with(|| order(&marks[*i], &marks[*j])).then(i.cmp(j))
    });
    keys.into_iter().map(|(_, i)| marks[i].clone()).collect()
}

/// Median distance between neighbouring marks of one limb, s, leaving out those closer than
/// `at_least` (doubles); `None` without two marks of a limb.
fn typical_interval(sorted: &[Footfall], at_least: f64) -> Option<f64> {
    let mut last: [Option<Seconds>; 4] = [None; 4];
    let mut gaps: Vec<f64> = Vec::with_capacity(sorted.len());
    for mark in sorted {
        if let Some(before) = last[mark.limb.index()].replace(mark.on) {
            let gap = mark.on.0 - before.0;
            if gap > at_least {
                gaps.push(gap);
            }
        }
    }
    if gaps.is_empty() {
        return None;
    }
    let middle = gaps.len() / 2;
    Some(*gaps.select_nth_unstable_by(middle, f64::total_cmp).1)
}
