//! The lead against rein and asked lead.

use crate::base::gait::Label;
use crate::base::limb::Side;
use crate::bouts::options::Options;
use crate::marks::{coach_word, ride_mark};

/// The lead against what was wanted.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum LeadVerdict {
    /// The lead of the rein.
    True,
    /// The other lead, and asked for.
    Counter,
    /// Not the lead asked for (or not the rein's, when nothing was asked).
    Wrong,
    /// Hinds and fores on different leads.
    Disunited,
}

/// The rein said of the middle of a stretch, or of the whole clip.
pub(crate) fn rein_at(start: f64, end: f64, options: &Options) -> Option<Side> {
    coach_word::at(&options.said, f64::midpoint(start, end), |s| s.rein).or(options.rein)
}

/// Lead against rein and asked lead. The lead asked for decides; without one, the rein's.
pub(crate) fn lead_verdict(
    label: Label,
    start: f64,
    end: f64,
    options: &Options,
) -> Option<LeadVerdict> {
    let (hind, fore) = (label.hind_lead?, label.fore_lead?);
    if hind != fore {
        return Some(LeadVerdict::Disunited);
    }
    // A word on the stretch stands over an aid before it, and that over the whole clip's.
    let middle = f64::midpoint(start, end);
    let asked = coach_word::at(&options.said, middle, |s| s.lead)
        .or_else(|| ride_mark::asked_lead(&options.marks, start))
        .or(options.asked_lead);
    match (rein_at(start, end, options), asked) {
        (_, Some(asked)) if asked != hind => Some(LeadVerdict::Wrong),
        (Some(rein), _) if rein == hind => Some(LeadVerdict::True),
        (Some(_), Some(_)) => Some(LeadVerdict::Counter),
        (Some(_), None) => Some(LeadVerdict::Wrong),
        (None, _) => None,
    }
}
