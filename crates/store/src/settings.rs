//! What the coach says of a clip.

use serde::{Deserialize, Serialize};

use crate::error::StoreError;

/// What the coach says of a clip. Changes of it can be undone like those of marks.
#[derive(Clone, Debug, Deserialize, PartialEq, Serialize)]
#[serde(default, deny_unknown_fields)]
pub struct Settings {
    /// Slow-motion factor.
    pub slow_factor: f64,
    /// Whether the coach has said so; a question is asked only once.
    pub slow_confirmed: bool,
    /// The picture is a mirror image: left is right. Marks are kept as the file shows them.
    pub mirrored: bool,
    /// Rein: `left` or `right`.
    pub rein: Option<String>,
    /// Lead asked for.
    pub asked_lead: Option<String>,
    /// The clip begins here, µs of the file; marks before do not count.
    pub trim_from_us: Option<i64>,
    /// The clip ends here; marks after do not count.
    pub trim_to_us: Option<i64>,
    /// The coach's words.
    pub note: String,
    /// How metres are found in this clip, as JSON that the caller reads.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub calibration: Option<serde_json::Value>,
}

impl Default for Settings {
    fn default() -> Self {
        Self {
            slow_factor: 1.0,
            slow_confirmed: false,
            mirrored: false,
            rein: None,
            asked_lead: None,
            trim_from_us: None,
            trim_to_us: None,
            note: String::new(),
            calibration: None,
        }
    }
}

impl Settings {
    /// These settings with what differs between `before` and `after` changed.
    ///
    /// # Errors
    /// [`StoreError::Conflict`] when one of them stands neither as before nor as after.
    pub fn changed(&self, before: &Self, after: &Self) -> Result<Self, StoreError> {
        fn one<T: Clone + PartialEq>(now: &T, before: &T, after: &T) -> Result<T, StoreError> {
            if before == after {
                return Ok(now.clone());
            }
            if now == before || now == after {
                Ok(after.clone())
            } else {
                Err(StoreError::Conflict)
            }
        }
        let (n, b, a) = (self, before, after);
        // The trim is one thing: its end must stay behind its beginning.
        let trim = |s: &Self| (s.trim_from_us, s.trim_to_us);
        let (trim_from_us, trim_to_us) = one(&trim(n), &trim(b), &trim(a))?;
        Ok(Self {
            slow_factor: one(&n.slow_factor, &b.slow_factor, &a.slow_factor)?,
            slow_confirmed: one(&n.slow_confirmed, &b.slow_confirmed, &a.slow_confirmed)?,
            mirrored: one(&n.mirrored, &b.mirrored, &a.mirrored)?,
            rein: one(&n.rein, &b.rein, &a.rein)?,
            asked_lead: one(&n.asked_lead, &b.asked_lead, &a.asked_lead)?,
            trim_from_us,
            trim_to_us,
            note: one(&n.note, &b.note, &a.note)?,
            calibration: one(&n.calibration, &b.calibration, &a.calibration)?,
        })
    }
}
