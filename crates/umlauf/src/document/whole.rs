//! The analysis document, `umlauf.analysis/1`: the core's figures under fixed keys.
//!
//! Times s, lengths m, speeds m/s, tempo strides/min, phases and shares 0–1 unless a key ends in
//! `_pct`. A figure that cannot be had is `null`, with the reason in `why`.

use serde::Serialize;
use umlauf_gait::{Analysis, words};
use utoipa::ToSchema;

use crate::document::bout::{BoutSaid, bout};
use crate::document::event::Event;
use crate::document::events::events;
use crate::document::finding::{FindingSaid, finding};

/// A mark left out.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct Dropped {
    /// Line of the file, or place in the list of marks.
    pub line: usize,
    /// Why.
    pub why: String,
}

/// A mark given to another limb.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct Relabelled {
    /// Line of the file.
    pub line: usize,
    /// Limb as marked.
    pub from: String,
    /// Limb as used.
    pub to: String,
}

/// What came in and what was done to it.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct Input {
    /// Marks given.
    pub footfalls: usize,
    /// Marks left out.
    pub dropped: Vec<Dropped>,
    /// Marks given to another limb.
    pub relabelled: Vec<Relabelled>,
    /// Standard deviation of a mark, s.
    pub timing_sd_s: Option<f64>,
    /// The same in words.
    pub timing_says: String,
}

/// The whole document.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct Document {
    /// Always `umlauf.analysis/1`.
    pub schema: String,
    /// What was found, in one sentence.
    pub headline: String,
    /// What came in.
    pub input: Input,
    /// Bouts in order of time.
    pub bouts: Vec<BoutSaid>,
    /// Events in order of time.
    pub events: Vec<Event>,
    /// Findings, faults first.
    pub findings: Vec<FindingSaid>,
}

/// Puts an analysis into the document.
pub fn document(analysis: &Analysis) -> Document {
    Document {
        schema: "umlauf.analysis/1".into(),
        headline: words::headline::of_clip(analysis),
        input: Input {
            footfalls: analysis.footfalls,
            dropped: analysis
                .dropped
                .iter()
                .map(|d| Dropped { line: d.line, why: words::missing::dropped(&d.reason) })
                .collect(),
            relabelled: analysis
                .relabelled
                .iter()
                .map(|r| Relabelled {
                    line: r.line,
                    from: r.from.code().into(),
                    to: r.to.code().into(),
                })
                .collect(),
            timing_sd_s: analysis.timing_sd_s,
            timing_says: words::missing::timing(analysis.timing_sd_s),
        },
        bouts: analysis.bouts.iter().map(bout).collect(),
        events: events(analysis),
        findings: analysis.findings.iter().map(|f| finding(f, &analysis.schools)).collect(),
    }
}
