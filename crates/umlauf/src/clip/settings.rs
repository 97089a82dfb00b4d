//! What the coach says of a clip.

use serde::{Deserialize, Serialize};
use umlauf_store::clip::Settings;
use utoipa::ToSchema;

/// What the coach says of a clip.
#[derive(Clone, Debug, Deserialize, Serialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct ClipSettings {
    /// How many times slower the file runs than the world.
    pub slow_factor: f64,
    /// Whether the coach has said so.
    #[serde(default)]
    pub slow_confirmed: bool,
    /// The picture is a mirror image: left is right.
    #[serde(default)]
    pub mirrored: bool,
    /// `left` or `right`.
    pub rein: Option<String>,
    /// `left` or `right`.
    pub asked_lead: Option<String>,
    /// The clip begins here, µs of the file; marks before do not count.
    pub trim_from_us: Option<i64>,
    /// The clip ends here; marks after do not count.
    pub trim_to_us: Option<i64>,
    /// The coach's words.
    #[serde(default)]
    pub note: String,
}

impl From<Settings> for ClipSettings {
    fn from(s: Settings) -> Self {
        let Settings { slow_factor, slow_confirmed, mirrored, rein, asked_lead, .. } = s;
        let Settings { trim_from_us, trim_to_us, note, .. } = s;
        Self {
            slow_factor,
            slow_confirmed,
            mirrored,
            rein,
            asked_lead,
            trim_from_us,
            trim_to_us,
            note,
        }
    }
}

impl From<ClipSettings> for Settings {
    fn from(s: ClipSettings) -> Self {
        let ClipSettings { slow_factor, slow_confirmed, mirrored, rein, asked_lead, .. } = s;
        let ClipSettings { trim_from_us, trim_to_us, note, .. } = s;
        Self {
            slow_factor,
            slow_confirmed,
            mirrored,
            rein,
            asked_lead,
            trim_from_us,
            trim_to_us,
            note,
            calibration: None,
        }
    }
}
