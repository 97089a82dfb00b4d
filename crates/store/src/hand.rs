//! The scatter of each person's hand: how far two timings of the same footfall lie apart.

use rusqlite::params;

use crate::error::StoreError;
use crate::person::Person;
use crate::store::Store;

/// A person's scatter, as it was measured on footage of one frame rate.
#[derive(Clone, Debug, PartialEq)]
pub struct HandScatter {
    /// Whose hand.
    pub person: Person,
    /// Frames/s of the footage it was measured on; `None` when that was not kept.
    pub frame_rate: Option<f64>,
    /// Standard deviation of a stepped mark beyond its frame, s.
    pub scatter_s: f64,
}

/// What was measured at the frame rate nearest to `frame_rate`, by ratio; what was measured at an
/// unknown rate comes last.
///
/// ```
/// use umlauf_store::hand::{HandScatter, nearest};
/// use umlauf_store::person::Person;
/// let at = |rate, scatter_s| HandScatter { person: Person::coach(), frame_rate: rate, scatter_s };
/// let all = [at(None, 0.009), at(Some(60.0), 0.006), at(Some(240.0), 0.003)];
/// assert_eq!(nearest(&all, Some(100.0)).map(|h| h.scatter_s), Some(0.006));
/// assert_eq!(nearest(&all, Some(130.0)).map(|h| h.scatter_s), Some(0.003));
/// assert_eq!(nearest(&all[..1], Some(60.0)).map(|h| h.scatter_s), Some(0.009));
/// ```
pub fn nearest(all: &[HandScatter], frame_rate: Option<f64>) -> Option<&HandScatter> {
    let apart = |h: &HandScatter| match (h.frame_rate, frame_rate) {
        (Some(had), Some(now)) if now > 0.0 => (had / now).ln().abs(),
        (Some(_), _) => 1e3,
        (None, _) => 1e6,
    };
    all.iter().min_by(|a, b| apart(a).total_cmp(&apart(b)))
}

impl Store {
    /// All that was measured of a person's hand, by frame rate.
    ///
    /// # Errors
    /// When the file cannot be read.
    pub fn hand_scatters(&self, person: &Person) -> Result<Vec<HandScatter>, StoreError> {
        let connection = self.read()?;
        let mut query = connection.prepare_cached(
            "SELECT frame_rate, scatter_s FROM hand WHERE person = ?1 ORDER BY frame_rate",
        )?;
        let rows = query.query_map([person], |r| {
            let rate: f64 = r.get(0)?;
            Ok(HandScatter {
                person: person.clone(),
                frame_rate: (rate > 0.0).then_some(rate),
                scatter_s: r.get(1)?,
            })
        })?;
        Ok(rows.collect::<Result<_, _>>()?)
    }

    /// The scatter that holds for a person on footage of `frame_rate`: the [`nearest`].
    ///
    /// # Errors
    /// When the file cannot be read.
    pub fn hand_scatter(
        &self,
        person: &Person,
        frame_rate: Option<f64>,
    ) -> Result<Option<HandScatter>, StoreError> {
        Ok(nearest(&self.hand_scatters(person)?, frame_rate).cloned())
    }

    /// Keeps what was measured; a measurement at the same frame rate gives way.
    ///
    /// # Errors
    /// [`StoreError::Invalid`] for a scatter that is no length of time; [`StoreError::Full`].
    pub fn set_hand_scatter(&self, hand: &HandScatter) -> Result<(), StoreError> {
        let rate = hand.frame_rate.unwrap_or(0.0);
        if !(0.0..=1.0).contains(&hand.scatter_s) || !(0.0..=100_000.0).contains(&rate) {
            return Err(StoreError::Invalid("a hand's scatter is 0 to 1 s".into()));
        }
        self.write().execute(
            "INSERT INTO hand (person, frame_rate, scatter_s) VALUES (?1, ?2, ?3)
             ON CONFLICT DO UPDATE SET scatter_s = ?3",
            params![hand.person, rate, hand.scatter_s],
        )?;
        Ok(())
    }

    /// Forgets all that was measured of a person's hand.
    ///
    /// # Errors
    /// [`StoreError::Full`].
    pub fn forget_hand(&self, person: &Person) -> Result<(), StoreError> {
        self.write().execute("DELETE FROM hand WHERE person = ?1", [person])?;
        Ok(())
    }
}
