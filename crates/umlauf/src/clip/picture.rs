//! Points of the picture.

use serde::{Deserialize, Serialize};
use umlauf_store::clip::Clip;
use utoipa::ToSchema;

/// A point of the picture as shown, before any mirroring.
#[derive(Clone, Copy, Debug, Deserialize, PartialEq, Serialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Pixel {
    /// From the left edge, px.
    pub x_px: f64,
    /// From the upper edge, px.
    pub y_px: f64,
}

/// The frame on the horse's own sides: a mirror image is turned back.
pub fn upright(clip: &Clip, (x, y): (f64, f64)) -> (f64, f64) {
    if clip.settings.mirrored { (f64::from(clip.footage.width) - x, y) } else { (x, y) }
}
