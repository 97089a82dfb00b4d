//! Flying changes: which strides swapped, hinds and fores apart.
//!
//! A change happens in the suspension: hinds and fores swap in the same stride when it is clean.
//! With H the stride in which the hinds first go on the new lead and F that of the fores: H = F
//! clean, H > F late behind by H − F, F > H late in front.

use crate::base::gait::Label;
use crate::base::limb::{Limb, Side};
use crate::base::thresholds::Thresholds;
pub use crate::events::verdict::Verdict;
use crate::events::withheld::{Open, Withheld};
use crate::figures::suspension;
use crate::strides::canter::leads::hinds_together;
use crate::strides::classify::pair_lead;
use crate::strides::stride::Stride;

/// One flying change.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct FlyingChange {
    /// The footfall that begins the first stride in which either pair has swapped, s.
    pub time_s: f64,
    /// Place of that stride.
    pub stride: usize,
    /// Lead before.
    pub from: Side,
    /// Lead after.
    pub to: Side,
    /// What became of it.
    pub verdict: Verdict,
    /// Strides by which the later pair was late.
    pub late_by_strides: usize,
    /// Swap of the fores to swap of the hinds, s, later pair positive; late changes only.
    pub late_by_s: Option<f64>,
    /// Trot steps between the leads.
    pub intermediate_steps: usize,
    /// Strides since the change before, in the same canter.
    pub strides_since_last: Option<usize>,
    /// What was withheld, and which mark would tell.
    pub withheld: Option<Withheld>,
    /// Signed suspension of the stride before, s.
    pub suspension_before_s: Option<f64>,
    /// Tempo of the three strides before, strides/min.
    pub tempo_before: Option<f64>,
    /// Tempo of the changing stride.
    pub tempo_at: Option<f64>,
    /// Tempo of the three strides after.
    pub tempo_after: Option<f64>,
}

/// Leads of one stride. `hind` is `None` when the hinds land together.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
struct Leads {
    hind: Option<Side>,
    fore: Option<Side>,
}

/// Changes within strides in a row, with their smoothed labels; strides that do not canter end a
/// canter.
pub fn changes(
    strides: &[Stride],
    labels: &[Label],
    open: &Open<'_>,
    limits: &Thresholds,
) -> Vec<FlyingChange> {
    let mut out = Vec::new();
    let mut k = 0;
    while k < strides.len() {
        if !labels[k].gait.is_asymmetrical() {
            k += 1;
            continue;
        }
        let from = k;
        while k < strides.len()
            && labels[k].gait.is_asymmetrical()
            && (k == from || strides[k].start - strides[k - 1].end < 0.5 * strides[k].duration())
        {
            k += 1;
        }
        in_canter(strides, labels, open, from..k, limits, &mut out);
    }
    out
}

fn in_canter(
    strides: &[Stride],
    labels: &[Label],
    open: &Open<'_>,
    run: std::ops::Range<usize>,
    limits: &Thresholds,
    out: &mut Vec<FlyingChange>,
) {
    let leads: Vec<Leads> = run.clone().map(|k| leads(&strides[k], labels[k], limits)).collect();
    let united = |l: &Leads| l.hind.filter(|h| l.fore == Some(*h));
    let Some(begin) = leads.iter().position(|l| united(l).is_some()) else { return };
    let Some(mut lead) = united(&leads[begin]) else { return };
    let mut found: Vec<FlyingChange> = Vec::new();
    let mut i = begin;
    while i < leads.len() {
        if united(&leads[i]) == Some(lead) {
            i += 1;
            continue;
        }
        let Some(end) = (i..leads.len()).find(|j| united(&leads[*j]).is_some()) else { break };
        let (from, to) = (lead, united(&leads[end]).unwrap_or(lead));
        let settled = |get: fn(&Leads) -> Option<Side>| {
            let old = (i..=end).rev().find(|j| get(&leads[*j]) != Some(to));
            old.map_or(i, |j| j + 1)
        };
        if from == to {
            // A stride in which only the hinds land together by chance is no change.
            let swapped =
                |l: &Leads| l.hind == Some(from.opposite()) || l.fore == Some(from.opposite());
            if leads[i..end].iter().any(swapped) {
                let mut change = describe(strides, run.start + i, from, from.opposite());
                change.verdict = Verdict::NotCompleted;
                found.push(change);
            }
        } else {
            let (hind, fore) = (settled(|l| l.hind), settled(|l| l.fore));
            let first = hind.min(fore);
            let mut change = describe(strides, run.start + first, from, to);
            let together = leads[first..hind].iter().any(|l| l.hind.is_none());
            change.verdict = if together { Verdict::HindsTogether } else { by_order(hind, fore) };
            change.late_by_strides = hind.abs_diff(fore);
            if hind != fore {
                change.late_by_s =
                    swap_distance(&strides[run.start + hind], &strides[run.start + fore], to);
            }
            let about = run.start + first.saturating_sub(1)..run.start + end + 1;
            if let Some((place, other, needs)) = open.about(strides, about) {
                let likely = (change.verdict, change.late_by_strides);
                // The verdict if that stride's leads were the others.
                let mut leads = leads.clone();
                if let Some(other) = other {
                    leads[place - run.start] = Leads { hind: Some(other.0), fore: Some(other.1) };
                }
                let swap = |get: fn(&Leads) -> Option<Side>| {
                    let around = (first.saturating_sub(1)..=end).rev();
                    let old = around.into_iter().find(|j| get(&leads[*j]) != Some(to));
                    old.map_or(first, |j| j + 1)
                };
                let (hind, fore) = (swap(|l| l.hind), swap(|l| l.fore));
                let instead = (by_order(hind, fore), hind.abs_diff(fore));
                let instead = Some(instead).filter(|i| *i != likely);
                change.withheld = Some(Withheld { likely, instead, needs });
                change.verdict = Verdict::Withheld;
            }
            found.push(change);
            lead = to;
        }
        i = end + 1;
    }
    merge_changed_back(&mut found);
    for k in 1..found.len() {
        found[k].strides_since_last = Some(found[k].stride - found[k - 1].stride);
    }
    out.extend(found);
}

/// Verdict by the strides in which hinds and fores first go on the new lead.
fn by_order(hind: usize, fore: usize) -> Verdict {
    match hind.cmp(&fore) {
        std::cmp::Ordering::Equal => Verdict::Clean,
        std::cmp::Ordering::Greater => Verdict::LateBehind,
        std::cmp::Ordering::Less => Verdict::LateInFront,
    }
}

/// Leads of one stride as settled. When the hinds were marked together they have none, and the
/// fores speak for themselves.
fn leads(stride: &Stride, label: Label, limits: &Thresholds) -> Leads {
    if !hinds_together(stride, limits.couplet_min) {
        return Leads { hind: label.hind_lead, fore: label.fore_lead };
    }
    let marked = !stride.inferred[Limb::LF.index()] && !stride.inferred[Limb::RF.index()];
    let own = stride
        .phase_between(Limb::RF, Limb::LF)
        .filter(|_| marked)
        .and_then(|delta| pair_lead(delta, limits.couplet_min, limits.couplet_max));
    Leads { hind: None, fore: own.or(label.fore_lead) }
}

fn describe(strides: &[Stride], k: usize, from: Side, to: Side) -> FlyingChange {
    let tempo = |range: std::ops::Range<usize>| {
        let own = strides.get(range)?;
        let seconds: f64 = own.iter().map(Stride::duration).sum();
        (!own.is_empty()).then(|| 60.0 * crate::base::number::count(own.len()) / seconds)
    };
    let before = k.checked_sub(1).map(|j| &strides[j]);
    FlyingChange {
        time_s: strides[k].start,
        stride: k,
        from,
        to,
        verdict: Verdict::Clean,
        late_by_strides: 0,
        late_by_s: None,
        intermediate_steps: 0,
        strides_since_last: None,
        withheld: None,
        suspension_before_s: before.and_then(|s| suspension::after_canter(s, &strides[k])),
        tempo_before: tempo(k.saturating_sub(3)..k),
        tempo_at: tempo(k..k + 1),
        tempo_after: tempo(k + 1..(k + 4).min(strides.len())),
    }
}

/// From the earlier pair's first footfall on the new lead to the later pair's, s.
fn swap_distance(hind: &Stride, fore: &Stride, to: Side) -> Option<f64> {
    // On the new lead each pair begins with the limb of the other side.
    let (first_hind, first_fore) = match to {
        Side::Left => (Limb::RH, Limb::RF),
        Side::Right => (Limb::LH, Limb::LF),
    };
    let (h, f) = (hind.on[first_hind.index()]?, fore.on[first_fore.index()]?);
    Some((h - f).abs())
}

/// Two changes within two strides, there and back, with none near them: the horse changed back.
/// In a line of tempi changes follow one another.
fn merge_changed_back(found: &mut Vec<FlyingChange>) {
    const ALONE: usize = 3;
    let mut k = 0;
    while k + 1 < found.len() {
        let (a, b) = (found[k], found[k + 1]);
        let alone_before = k == 0 || a.stride - found[k - 1].stride > ALONE;
        let alone_after = k + 2 == found.len() || found[k + 2].stride - b.stride > ALONE;
        if b.to == a.from && b.stride - a.stride <= 2 && alone_before && alone_after {
            found[k].verdict = Verdict::ChangedBack;
            found.remove(k + 1);
        }
        k += 1;
    }
}
