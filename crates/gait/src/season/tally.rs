//! What a horse does once, at a moment: an answer to an aid, a flying change, a strike-off, a
//! transition. A card counts or times them beside the figures of its bouts.

use crate::analysis::analyse::Analysis;
use crate::base::gait::Gait;
use crate::base::number::count;
use crate::bouts::lead_verdict::LeadVerdict;
use crate::events::flying_change::Verdict;
use crate::season::metric::Direction;
use crate::stats::descriptive::{mean, variance};
use crate::stats::estimate::Estimate;
use crate::stats::quantiles::t95;
use crate::stats::share::wilson;

/// A figure of what the horse does once, counted or timed.
#[derive(Clone, Copy, Debug, Eq, Hash, PartialEq)]
pub enum Tally {
    /// From the aid to the first footfall of the gait asked for, strides.
    Answer,
    /// Share of canters on the lead asked for, %.
    Lead,
    /// Share of flying changes that were clean, %.
    Changes,
    /// Share of transitions into the gait without steps of another between, %.
    Direct,
}

impl Tally {
    /// All, in the order of a card.
    pub const ALL: [Self; 4] = [Self::Answer, Self::Lead, Self::Changes, Self::Direct];

    /// Its name in files.
    pub const fn word(self) -> &'static str {
        match self {
            Self::Answer => "answer",
            Self::Lead => "lead_as_asked",
            Self::Changes => "clean_changes",
            Self::Direct => "direct_transitions",
        }
    }

    /// By its name in files.
    pub fn named(word: &str) -> Option<Self> {
        Self::ALL.into_iter().find(|d| d.word() == word)
    }

    /// Its name for a coach.
    pub const fn name(self) -> &'static str {
        match self {
            Self::Answer => "Answer to the aid",
            Self::Lead => "Lead as asked",
            Self::Changes => "Clean flying changes",
            Self::Direct => "Direct transitions into it",
        }
    }

    /// Its unit.
    pub const fn unit(self) -> &'static str {
        match self {
            Self::Answer => "strides",
            Self::Lead => "% of canters",
            Self::Changes => "% of changes",
            Self::Direct => "% of transitions",
        }
    }

    /// Digits after the point.
    pub const fn digits(self) -> usize {
        match self {
            Self::Answer => 1,
            _ => 0,
        }
    }

    /// Which way is better.
    pub const fn direction(self) -> Direction {
        match self {
            Self::Answer => Direction::Lower,
            _ => Direction::Higher,
        }
    }

    /// The smallest change worth speaking of (project defaults).
    pub const fn worthwhile(self) -> f64 {
        match self {
            Self::Answer => 0.3,
            _ => 10.0,
        }
    }

    /// Whether the card of a gait has it. Direct transitions are expected from the second degree of
    /// collection on; before that progressive ones are right.
    pub fn belongs_to(self, gait: Gait, degree: Option<u8>) -> bool {
        match self {
            Self::Answer => true,
            Self::Lead | Self::Changes => matches!(gait, Gait::Canter | Gait::Gallop),
            Self::Direct => degree.is_some_and(|d| d >= 2),
        }
    }

    /// The figure of a session, from what was counted: their mean with the interval of their
    /// spread for times; for shares, each 1 (so) or 0 (not so), the share with Wilson's interval
    /// (Wilson 1927, J Am Stat Assoc 22:209; value from memory), per cent.
    pub fn of(self, values: &[f64]) -> Option<Estimate> {
        if values.is_empty() {
            return None;
        }
        let n = values.len();
        let value = mean(values);
        if self == Self::Answer {
            let sd = (n >= 2).then(|| variance(values).sqrt());
            let half = sd.map(|s| t95(count(n) - 1.0) * s / count(n).sqrt());
            return Some(Estimate { value, sd, ci95: half.map(|h| (value - h, value + h)), n });
        }
        let (lo, hi) = wilson(value, n);
        Some(Estimate { value: 100.0 * value, sd: None, ci95: Some((100.0 * lo, 100.0 * hi)), n })
    }
}

/// Something done once: what it counts for, the gait it belongs to, when, and its value (strides, or 1
/// and 0 for so and not so).
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Counted {
    /// Which.
    pub tally: Tally,
    /// The gait whose card counts it.
    pub gait: Gait,
    /// When, s.
    pub time_s: f64,
    /// Value.
    pub value: f64,
}

/// All that a clip counts.
pub fn counted(analysis: &Analysis) -> Vec<Counted> {
    let yes = |so: bool| if so { 1.0 } else { 0.0 };
    let mut out = Vec::new();
    for (t, answer) in &analysis.events.transitions {
        let done = |tally, value| Counted { tally, gait: t.to, time_s: t.time_s, value };
        if let Some(answer) = answer {
            out.push(done(Tally::Answer, answer.strides));
        }
        if skips_a_gait(t.from, t.to) {
            out.push(done(Tally::Direct, yes(t.intermediate.is_none())));
        }
    }
    for bout in &analysis.bouts {
        let Some(verdict) = bout.lead_verdict else { continue };
        let value = yes(matches!(verdict, LeadVerdict::True | LeadVerdict::Counter));
        let (gait, time_s) = (bout.label.gait, bout.start_s);
        out.push(Counted { tally: Tally::Lead, gait, time_s, value });
    }
    for (change, _) in analysis.events.changes.iter().filter(|(c, _)| c.withheld.is_none()) {
        let value = yes(change.verdict == Verdict::Clean);
        let (gait, time_s) = (Gait::Canter, change.time_s);
        out.push(Counted { tally: Tally::Changes, gait, time_s, value });
    }
    out
}

/// Whether a transition skips a gait, so that it can be direct or progressive.
fn skips_a_gait(from: Gait, to: Gait) -> bool {
    let rank = |g: Gait| match g {
        Gait::Halt => Some(0_i32),
        Gait::Walk => Some(1),
        Gait::Trot => Some(2),
        Gait::Canter | Gait::Gallop => Some(3),
        _ => None,
    };
    rank(from).zip(rank(to)).is_some_and(|(a, b)| (a - b).abs() >= 2)
}
