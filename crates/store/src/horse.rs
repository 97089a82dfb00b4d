//! Horses, and what the coach says of each.

use rusqlite::params;

use crate::error::changed;
use crate::error::{StoreError, found};
use crate::store::Store;

/// A horse.
#[derive(Clone, Debug, PartialEq)]
pub struct Horse {
    /// Number.
    pub id: i64,
    /// What the coach says of it.
    pub card: HorseCard,
}

/// A horse's card.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct HorseCard {
    /// Name.
    pub name: String,
    /// Height at the withers, m.
    pub withers_m: Option<f64>,
    /// Its intended gait may be a four-beat gait other than walk.
    pub gaited: bool,
    /// Year of birth.
    pub born: Option<i32>,
    /// Degree of collection, 1 to 4.
    pub degree: Option<u8>,
    /// The gait it is meant to go, for a gaited horse.
    pub intended_gait: String,
    /// Weaker side: `left` or `right`.
    pub weak_side: Option<String>,
    /// Trouble with leads.
    pub leads: String,
    /// What there was before; the coach's own.
    pub history: String,
    /// What it is to learn.
    pub goals: String,
    /// What to mind.
    pub cautions: String,
}

impl HorseCard {
    /// Trimmed, and refused where it cannot be.
    fn checked(&self) -> Result<Self, StoreError> {
        let invalid = |says: &str| Err(StoreError::Invalid(says.to_owned()));
        let long = [&self.leads, &self.history, &self.goals, &self.cautions];
        if self.withers_m.is_some_and(|h| !(0.5..=2.5).contains(&h)) {
            return invalid("the height at the withers must lie between 0.5 and 2.5 m");
        }
        if self.born.is_some_and(|y| !(1950..=2100).contains(&y)) {
            return invalid("the year of birth must lie between 1950 and 2100");
        }
        if self.degree.is_some_and(|d| !(1..=4).contains(&d)) {
            return invalid("the degree of collection is 1 to 4");
        }
        if self.weak_side.as_deref().is_some_and(|s| s != "left" && s != "right") {
            return invalid("the weaker side is left or right");
        }
        if long.iter().any(|t| t.chars().count() > 2000) {
            return invalid("each text on a horse's card must stay under 2000 letters");
        }
        let trimmed = |t: &String| t.trim().to_owned();
        Ok(Self {
            name: name_of(&self.name)?,
            intended_gait: trimmed(&self.intended_gait),
            leads: trimmed(&self.leads),
            history: trimmed(&self.history),
            goals: trimmed(&self.goals),
            cautions: trimmed(&self.cautions),
            ..self.clone()
        })
    }
}

const COLUMNS: &str = "id, name, withers_m, gaited, born, degree, intended_gait, weak_side, leads,
    history, goals, cautions";
const LONGEST_NAME: usize = 120;

fn name_of(text: &str) -> Result<String, StoreError> {
    let text = text.trim();
    if text.is_empty() || text.chars().count() > LONGEST_NAME {
        return Err(StoreError::Invalid(format!(
            "a horse's name must have between 1 and {LONGEST_NAME} letters"
        )));
    }
    Ok(text.to_owned())
}

impl Store {
    /// Adds a horse of which the least is known.
    ///
    /// # Errors
    /// As [`Store::change_horse`].
    pub fn add_horse(
        &self,
        name: &str,
        withers_m: Option<f64>,
        gaited: bool,
    ) -> Result<Horse, StoreError> {
        let card = HorseCard { name: name.to_owned(), withers_m, gaited, ..HorseCard::default() };
        let card = card.checked()?;
        let connection = self.write();
        connection.execute(
            "INSERT INTO horse (id, name, withers_m, gaited)
             VALUES ((SELECT last + 1 FROM given WHERE kind = 'horse'), ?1, ?2, ?3)",
            params![card.name, withers_m, gaited],
        )?;
        Ok(Horse { id: connection.last_insert_rowid(), card })
    }

    /// Changes a horse's card.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] without such a horse; [`StoreError::Invalid`] for an empty or
    /// overlong name, a height outside 0.5 to 2.5 m, or what else no card can say.
    pub fn change_horse(&self, id: i64, card: &HorseCard) -> Result<(), StoreError> {
        let c = card.checked()?;
        let rows = self.write().execute(
            "UPDATE horse SET name = ?2, withers_m = ?3, gaited = ?4, born = ?5, degree = ?6,
                 intended_gait = ?7, weak_side = ?8, leads = ?9, history = ?10, goals = ?11,
                 cautions = ?12
             WHERE id = ?1",
            params![
                id,
                c.name,
                c.withers_m,
                c.gaited,
                c.born,
                c.degree,
                c.intended_gait,
                c.weak_side,
                c.leads,
                c.history,
                c.goals,
                c.cautions
            ],
        )?;
        changed(rows, "horse", id)
    }

    /// One horse.
    ///
    /// # Errors
    /// [`StoreError::NotFound`].
    pub fn horse(&self, id: i64) -> Result<Horse, StoreError> {
        let connection = self.read()?;
        let sql = format!("SELECT {COLUMNS} FROM horse WHERE id = ?1");
        let row = connection.query_row(&sql, [id], horse_row);
        found(row, "horse", id)
    }

    /// All horses, by name.
    ///
    /// # Errors
    /// When the file cannot be read.
    pub fn horses(&self) -> Result<Vec<Horse>, StoreError> {
        self.horses_where("removed = 0")
    }

    /// Horses that were taken away.
    ///
    /// # Errors
    /// When the file cannot be read.
    pub fn removed_horses(&self) -> Result<Vec<Horse>, StoreError> {
        self.horses_where("removed = 1")
    }

    fn horses_where(&self, which: &str) -> Result<Vec<Horse>, StoreError> {
        let connection = self.read()?;
        let sql =
            format!("SELECT {COLUMNS} FROM horse WHERE {which} ORDER BY name COLLATE NOCASE, id");
        let mut query = connection.prepare_cached(&sql)?;
        let rows = query.query_map([], horse_row)?;
        Ok(rows.collect::<Result<_, _>>()?)
    }

    /// Takes a horse with its sessions away, or brings it back.
    ///
    /// # Errors
    /// [`StoreError::NotFound`].
    pub fn remove_horse(&self, id: i64, removed: bool) -> Result<(), StoreError> {
        let sql = "UPDATE horse SET removed = ?2 WHERE id = ?1";
        changed(self.write().execute(sql, params![id, removed])?, "horse", id)
    }
}

fn horse_row(r: &rusqlite::Row<'_>) -> Result<Horse, rusqlite::Error> {
    Ok(Horse {
        id: r.get(0)?,
        card: HorseCard {
            name: r.get(1)?,
            withers_m: r.get(2)?,
            gaited: r.get(3)?,
            born: r.get(4)?,
            degree: r.get(5)?,
            intended_gait: r.get(6)?,
            weak_side: r.get(7)?,
            leads: r.get(8)?,
            history: r.get(9)?,
            goals: r.get(10)?,
            cautions: r.get(11)?,
        },
    })
}
