//! Rides that come as tables: marks without footage, put in whole.

use rusqlite::params;

use crate::clip::{Settings, to_blob};
use crate::error::StoreError;
use crate::json::to_json;
use crate::marks::{self, Change, Mark};
use crate::store::Store;
use crate::tag::Tag;

/// The codec of a clip that is a table: there is nothing to be shown.
pub const TABLE: &str = "table";

/// A ride as a table.
#[derive(Clone, Debug)]
pub struct TableRide {
    /// Session.
    pub session: i64,
    /// Name.
    pub name: String,
    /// Hash of what it was made from.
    pub content: String,
    /// Times of frames, µs.
    pub frame_times: Vec<i64>,
    /// Frames per second.
    pub frame_rate: f64,
    /// What the coach says of it.
    pub settings: Settings,
    /// Marks.
    pub marks: Vec<Mark>,
    /// Tags.
    pub tags: Vec<Tag>,
}

impl Store {
    /// Adds rides, all or none. They begin with an empty journal: what came in whole goes as a
    /// whole, by removing the clip.
    ///
    /// # Errors
    /// [`StoreError::Full`]; [`StoreError::Sqlite`] without such a session.
    pub fn add_table_rides(&self, rides: &[TableRide]) -> Result<Vec<i64>, StoreError> {
        let mut connection = self.write();
        *self.recent() = None;
        let tx = connection.transaction()?;
        let mut ids = Vec::with_capacity(rides.len());
        for ride in rides {
            let length_s = ride.frame_times.last().map_or(0.0, |last| {
                #[expect(clippy::cast_precision_loss, reason = "a ride is under 2^52 µs long")]
                let s = *last as f64 / 1e6;
                s
            });
            tx.prepare_cached(
                "INSERT INTO clip (id, session, name, content, file, bytes, codec, width, height,
                                   frame_rate, frame_times, length_s, settings, proxy)
                 VALUES ((SELECT last + 1 FROM given WHERE kind = 'clip'), ?1, ?2, ?3, '', 0, ?4, 1000, 10, ?5, ?6, ?7, ?8, 'failed')",
            )?
            .execute(params![
                ride.session,
                ride.name,
                ride.content,
                TABLE,
                ride.frame_rate,
                to_blob(&ride.frame_times),
                length_s,
                to_json(&ride.settings)?
            ])?;
            let clip = tx.last_insert_rowid();
            ids.push(clip);
            for m in &ride.marks {
                marks::put(&tx, clip, &Change { before: None, after: Some(m.clone()) })?;
            }
            for t in &ride.tags {
                tx.prepare_cached(
                    "INSERT INTO tag (clip, id, from_us, to_us, what) VALUES (?1, ?2, ?3, ?4, ?5)",
                )?
                .execute(params![clip, t.id, t.from_us, t.to_us, t.what])?;
            }
        }
        tx.commit()?;
        Ok(ids)
    }
}
