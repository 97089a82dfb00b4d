//! What the page reads of the Ground desk.

use serde::Serialize;
use utoipa::ToSchema;

use crate::clip::calibration::Calibration;
use crate::clip::mark::LimbCode;
use crate::document::bout::BoutSaid;
use crate::document::finding::FindingSaid;
use crate::ground::stills::StillView;

/// The Ground desk of a clip.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct Ground {
    /// Counts the changes of this clip.
    pub revision: i64,
    /// What was found, in one sentence.
    pub headline: String,
    /// What the coach says of its scale.
    pub calibration: Calibration,
    /// The five ways, best first.
    pub ways: Vec<Way>,
    /// Posts of the arena's letters, where they stand.
    pub posts: Vec<Post>,
    /// The camera, when the ground plane tells.
    pub camera: Option<CameraAt>,
    /// Hooves whose place is known, in order of time.
    pub hooves: Vec<Hoof>,
    /// Footfalls whose hoof is not clicked yet, in order of time, with the frame to click on.
    pub to_click: Vec<ToClick>,
    /// Bouts.
    pub bouts: Vec<BoutSaid>,
    /// Findings of the ground.
    pub findings: Vec<FindingSaid>,
    /// Stills of this clip, in order of time.
    pub stills: Vec<StillView>,
    /// Stills of this horse that show its working frame, this clip's among them.
    pub working_stills: usize,
    /// Other clips whose scale may be taken over.
    pub others: Vec<OtherClip>,
}

/// A way to metres.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct Way {
    /// `ground`, `bar`, `letters`, `figure` or `withers`.
    pub source: String,
    /// Its name in words.
    pub name: String,
    /// `used`, `ready` (it works, a better one is used), `refused`, or `empty`.
    pub state: String,
    /// In words.
    pub says: String,
    /// What to look at again.
    pub warnings: Vec<String>,
    /// 95 % error of one stride's length by this way alone, %.
    pub error_pct: Option<f64>,
    /// Distance of each ground point from where the others put it, px.
    pub residuals_px: Vec<f64>,
}

/// A letter's post.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct Post {
    /// Letter.
    pub name: String,
    /// Across the arena, m.
    pub x_m: f64,
    /// Along the arena, m.
    pub y_m: f64,
}

/// Where the camera stands.
#[derive(Clone, Copy, Debug, Serialize, ToSchema)]
pub struct CameraAt {
    /// Across the arena, m.
    pub x_m: f64,
    /// Along the arena, m.
    pub y_m: f64,
    /// Height, m.
    pub height_m: f64,
}

/// A hoof on the ground.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct Hoof {
    /// Mark.
    pub id: String,
    /// Limb.
    pub limb: LimbCode,
    /// When it takes the ground, µs of the file.
    pub on_us: i64,
    /// Across the arena, or along the line of travel without a ground plane, m.
    pub x_m: f64,
    /// Along the arena, m.
    pub y_m: f64,
}

/// A footfall to be clicked.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct ToClick {
    /// Mark.
    pub id: String,
    /// Limb.
    pub limb: LimbCode,
    /// A moment at which the hoof stands, µs of the file.
    pub at_us: i64,
}

/// Another clip with a scale.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct OtherClip {
    /// Number.
    pub clip: i64,
    /// Name.
    pub name: String,
    /// Day.
    pub date: Option<String>,
    /// It is of the same session.
    pub same_session: bool,
}
