//! Stills of a clip, measured and set against the horse's working frame.

use serde::Serialize;
use umlauf_gait::still::frame_check::{self, Frame};
use umlauf_gait::still::working_frame;
use umlauf_gait::words;
use umlauf_store::clip::Clip;
use umlauf_store::{Store, StoreError};
use utoipa::ToSchema;

use crate::clip::picture;
use crate::clip::tag::{self, Still, What};
use crate::document::estimate::{self, Estimate};

/// A still, measured.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct StillView {
    /// Tag.
    pub id: String,
    /// When, µs of the file.
    pub at_us: i64,
    /// As it was clicked.
    pub still: Still,
    /// Figures by name, with their units.
    pub figures: Vec<StillFigure>,
    /// Sentences, the most important first.
    pub says: Vec<String>,
    /// Where harm is possible.
    pub caution: String,
}

/// A figure of a still.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct StillFigure {
    /// Name.
    pub name: String,
    /// Unit.
    pub unit: String,
    /// Figure.
    pub value: Estimate,
    /// The same of the horse's working frame.
    pub working: Option<Estimate>,
}

/// What a still of a clip shows.
fn measured(clip: &Clip, still: &Still) -> Frame {
    frame_check::frame(&still.points(|p| picture::upright(clip, p)), f64::from(clip.footage.width))
}

/// Stills that show a horse's working frame, measured.
///
/// # Errors
/// What the store meets.
pub fn working_frames(store: &Store, horse: i64) -> Result<Vec<Frame>, StoreError> {
    let mut out = Vec::new();
    for (clip, tag) in store.tags_of_horse(horse, "still")? {
        for tag in tag::shown(vec![tag]) {
            if let What::Still(still) = &tag.what
                && still.working
            {
                out.push(measured(&store.clip(clip)?, still));
            }
        }
    }
    Ok(out)
}

/// Stills of a clip against the horse's working frame.
pub fn stills(clip: &Clip, own: &[tag::Tag], usual: Option<&Frame>) -> Vec<StillView> {
    let one = |tag: &tag::Tag| {
        let What::Still(still) = &tag.what else { return None };
        let now = measured(clip, still);
        let against = usual
            .filter(|_| !still.working)
            .and_then(|usual| working_frame::against_working(&now, usual));
        Some(StillView {
            id: tag.id.clone(),
            at_us: tag.from_us,
            figures: still_figures(&now, usual),
            says: words::still::still(&now, against.as_ref()),
            caution: words::still::CAUTION.to_owned(),
            still: still.clone(),
        })
    };
    own.iter().filter_map(one).collect()
}

fn still_figures(now: &Frame, usual: Option<&Frame>) -> Vec<StillFigure> {
    type Of = fn(&Frame) -> Option<umlauf_gait::stats::estimate::Estimate>;
    let rows: [(&str, &str, Of); 10] = [
        ("Nose line, in front of the vertical", "°", |f| f.nose_deg),
        ("Front, withers to poll", "heights", |f| f.front),
        ("Back, withers to croup", "heights", |f| f.back),
        ("Front by back", "", |f| f.front_by_back),
        ("Uphill", "°", |f| f.uphill_deg),
        ("Base of support", "heights", |f| f.base),
        ("Rider's trunk, forward", "°", |f| f.lean_deg),
        ("Heel in front of the hip", "°", |f| f.heel_deg),
        ("Out of line, ear to heel", "%", |f| f.line_share.map(|e| e.scaled(100.0))),
        ("Hand above elbow–bit", "°", |f| f.rein_deg),
    ];
    rows.into_iter()
        .filter_map(|(name, unit, of)| {
            Some(StillFigure {
                name: name.to_owned(),
                unit: unit.to_owned(),
                value: estimate::estimate(&of(now)?),
                working: usual.and_then(of).as_ref().map(estimate::estimate),
            })
        })
        .collect()
}
