//! Findings, as the document writes them.

use serde::Serialize;
use umlauf_gait::base::schools::Schools;
use umlauf_gait::findings::finding::Finding;
use umlauf_gait::words;
use utoipa::ToSchema;

/// A finding.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct FindingSaid {
    /// Name for programs.
    pub code: String,
    /// A heading of a few words.
    pub title: String,
    /// Whether it asks for attention.
    pub fault: bool,
    /// Place of its bout in `bouts`.
    pub bout: usize,
    /// From.
    pub start_s: f64,
    /// To.
    pub end_s: f64,
    /// A plain sentence.
    pub says: String,
    /// The figure with unit and error.
    pub figure: String,
    /// `clear`, `likely` or `cannot tell`.
    pub sure: String,
    /// What to ride.
    pub r#try: Vec<String>,
    /// Where harm is possible.
    pub caution: Option<String>,
}

pub(crate) fn finding(f: &Finding, schools: &Schools) -> FindingSaid {
    let said = words::finding::say(f, schools);
    FindingSaid {
        code: said.code.to_owned(),
        title: said.title,
        fault: f.kind.is_fault(),
        bout: f.bout,
        start_s: f.start_s,
        end_s: f.end_s,
        says: said.says,
        figure: said.figure,
        sure: words::names::certainty(f.sure).to_owned(),
        r#try: said.advice.iter().map(|a| a.says.to_owned()).collect(),
        caution: said.caution.map(str::to_owned),
    }
}
