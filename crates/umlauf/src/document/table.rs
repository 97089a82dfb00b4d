//! `umlauf analyse` and `POST /api/analyse`: a table in, the document out.

use anyhow::Result;
use umlauf_gait::base::schools::Schools;
use umlauf_gait::base::units::{FrameRate, Metres, Seconds};
use umlauf_gait::marks::footfall_csv::{self, FootfallTable};
use umlauf_gait::marks::ride_mark::RideMark;
use umlauf_gait::marks::table::TableError;
use umlauf_gait::strides::tidy::{DropReason, Dropped};
use umlauf_gait::{Analysis, Footfall, Options, Side};

/// Largest table taken: some eight million footfalls.
pub const MOST_BYTES: usize = 256 << 20;

/// Options given beside the table; they stand over its comments.
#[derive(Clone, Debug, Default)]
pub struct Given {
    /// Rein ridden.
    pub rein: Option<Side>,
    /// Lead asked for.
    pub asked_lead: Option<Side>,
    /// Capture rate.
    pub frame_rate: Option<FrameRate>,
    /// Standard deviation of a mark.
    pub timing_sd: Option<Seconds>,
    /// Height at the withers.
    pub withers: Option<Metres>,
    /// What the coach marked beside the footfalls.
    pub marks: Vec<RideMark>,
    /// Schools in force.
    pub schools: Schools,
    /// Degree of collection, 1 to 4.
    pub degree: Option<u8>,
    /// The intended gait may be a four-beat gait other than walk.
    pub gaited: bool,
}

/// Chooses a school from `matter=school`.
///
/// # Errors
/// [`UnknownSchool`], which lists what there is.
pub fn choose_school(schools: &mut Schools, text: &str) -> Result<(), UnknownSchool> {
    let known = text.split_once('=').is_some_and(|(m, s)| schools.choose(m.trim(), s.trim()));
    if known { Ok(()) } else { Err(UnknownSchool) }
}

/// No school of that name in that matter.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct UnknownSchool;

impl std::error::Error for UnknownSchool {}

impl std::fmt::Display for UnknownSchool {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        let all: Vec<String> = umlauf_gait::base::schools::MATTERS
            .iter()
            .map(|(matter, [a, b])| format!("{matter}={a} or {b}"))
            .collect();
        write!(f, "no such school; there are {}", all.join(", "))
    }
}

/// Reads a table and analyses it; gives its footfalls too.
///
/// # Errors
/// [`TableError`] for anything that is not a footfalls table.
pub fn table(bytes: &[u8], given: &Given) -> Result<(Analysis, Vec<Footfall>), TableError> {
    let FootfallTable { footfalls, header, without_limb } = footfall_csv::read(bytes)?;
    let options = Options {
        rein: given.rein.or(header.rein),
        asked_lead: given.asked_lead.or(header.asked_lead),
        frame_rate: given.frame_rate.or(header.frame_rate),
        timing_sd: given.timing_sd.or(header.timing_sd),
        withers: given.withers.or(header.withers),
        marks: given.marks.clone(),
        schools: given.schools,
        degree: given.degree,
        gaited: given.gaited || header.gaited.unwrap_or(false),
        ..Options::default()
    };
    let mut analysis = umlauf_gait::analyse(&footfalls, &options);
    let unnamed = |line| Dropped { line, reason: DropReason::NoLimb };
    analysis.measured.dropped.extend(without_limb.into_iter().map(unnamed));
    analysis.measured.dropped.sort_by_key(|d| d.line);
    Ok((analysis, footfalls))
}
