//! The tables of a packed yard, read row by row: a season's marks do not have to fit into memory, and what is no table
//! of a yard ends the reading where it stands.

use std::fmt;
use std::io::Read;
use std::path::Path;

use serde::de::{DeserializeSeed, Error as _, IgnoredAny, MapAccess, SeqAccess, Visitor};
use serde::{Deserialize, Deserializer as _};
use serde_json::Value;
use umlauf_store::StoreError;
use umlauf_store::archive::UNNUMBERED;
use umlauf_store::bringing::Bringing;

use crate::archive::readable::tables;
use crate::archive_error::{ArchiveError, SCHEMA};

/// What stands beside the tables.
#[derive(Deserialize)]
struct Head {
    schema: String,
    /// Version of the store that wrote the tables.
    version: Option<usize>,
}

/// The version of the store that wrote `yard.json`.
///
/// # Errors
/// When it is none.
pub fn version(from: impl Read) -> Result<usize, ArchiveError> {
    let head: Head = serde_json::from_reader(from).map_err(ArchiveError::Unreadable)?;
    if head.schema == SCHEMA {
        Ok(head.version.unwrap_or(UNNUMBERED))
    } else {
        Err(ArchiveError::OtherVersion(head.schema.chars().take(40).collect()))
    }
}

/// Which tables of a yard are read.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Tables {
    /// All.
    Whole,
    /// Those that say which horses, sessions and clips there are; marks, which are most of it, are passed over.
    Brief,
}

impl Tables {
    fn hold(self, name: &str) -> bool {
        self == Self::Whole || ["horse", "session", "clip"].contains(&name)
    }
}

/// Reads `wanted` tables of `yard.json`, that version `version` wrote, into a yard that is put together in `folder`.
///
/// # Errors
/// When a row or table is none of a yard.
pub fn read(
    from: impl Read,
    version: usize,
    wanted: Tables,
    folder: &Path,
) -> Result<Bringing, ArchiveError> {
    let bringing = Bringing::begin(folder, version).map_err(tables)?;
    let mut reading = Reading { bringing, wanted, wrong: None };
    let mut json = serde_json::Deserializer::from_reader(from);
    let read = json.deserialize_map(Document(&mut reading)).and_then(|()| json.end());
    match (reading.wrong, read) {
        (Some(wrong), _) => Err(wrong),
        (None, Err(e)) => Err(ArchiveError::Unreadable(e)),
        (None, Ok(())) => Ok(reading.bringing),
    }
}

struct Reading {
    bringing: Bringing,
    wanted: Tables,
    /// What is wrong, in better words than those of a reader of JSON.
    wrong: Option<ArchiveError>,
}

impl Reading {
    /// Ends the reading where the yard that is put together refuses what comes.
    fn hears<E: serde::de::Error>(&mut self, said: Result<(), StoreError>) -> Result<(), E> {
        said.map_err(|e| {
            self.wrong = Some(tables(e));
            E::custom("not a yard")
        })
    }
}

struct Document<'r>(&'r mut Reading);

impl<'de> Visitor<'de> for Document<'_> {
    type Value = ();

    fn expecting(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.write_str("a yard")
    }

    fn visit_map<A: MapAccess<'de>>(self, mut map: A) -> Result<(), A::Error> {
        while let Some(key) = map.next_key::<String>()? {
            if key == "tables" {
                map.next_value_seed(AllTables(self.0))?;
            } else {
                map.next_value::<IgnoredAny>()?;
            }
        }
        Ok(())
    }
}

struct AllTables<'r>(&'r mut Reading);

impl<'de> DeserializeSeed<'de> for AllTables<'_> {
    type Value = ();

    fn deserialize<D: serde::Deserializer<'de>>(self, from: D) -> Result<(), D::Error> {
        from.deserialize_seq(self)
    }
}

impl<'de> Visitor<'de> for AllTables<'_> {
    type Value = ();

    fn expecting(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.write_str("tables")
    }

    fn visit_seq<A: SeqAccess<'de>>(self, mut all: A) -> Result<(), A::Error> {
        while all.next_element_seed(OneTable(self.0))?.is_some() {}
        Ok(())
    }
}

struct OneTable<'r>(&'r mut Reading);

impl<'de> DeserializeSeed<'de> for OneTable<'_> {
    type Value = ();

    fn deserialize<D: serde::Deserializer<'de>>(self, from: D) -> Result<(), D::Error> {
        from.deserialize_map(self)
    }
}

impl<'de> Visitor<'de> for OneTable<'_> {
    type Value = ();

    fn expecting(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.write_str("a table")
    }

    fn visit_map<A: MapAccess<'de>>(self, mut map: A) -> Result<(), A::Error> {
        let (mut name, mut columns): (Option<String>, Option<Vec<String>>) = (None, None);
        while let Some(key) = map.next_key::<String>()? {
            match key.as_str() {
                "name" => name = Some(map.next_value()?),
                "columns" => columns = Some(map.next_value()?),
                "rows" => {
                    let (Some(name), Some(columns)) = (&name, &columns) else {
                        return Err(A::Error::custom("rows before their table's name and columns"));
                    };
                    if !self.0.wanted.hold(name) {
                        map.next_value::<IgnoredAny>()?;
                        continue;
                    }
                    let begun = self.0.bringing.table(name, columns);
                    self.0.hears(begun)?;
                    map.next_value_seed(Rows(self.0))?;
                }
                _ => {
                    map.next_value::<IgnoredAny>()?;
                }
            }
        }
        Ok(())
    }
}

struct Rows<'r>(&'r mut Reading);

impl<'de> DeserializeSeed<'de> for Rows<'_> {
    type Value = ();

    fn deserialize<D: serde::Deserializer<'de>>(self, from: D) -> Result<(), D::Error> {
        from.deserialize_seq(self)
    }
}

impl<'de> Visitor<'de> for Rows<'_> {
    type Value = ();

    fn expecting(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.write_str("rows")
    }

    fn visit_seq<A: SeqAccess<'de>>(self, mut all: A) -> Result<(), A::Error> {
        while let Some(row) = all.next_element::<Vec<Value>>()? {
            let added = self.0.bringing.row(&row);
            self.0.hears(added)?;
        }
        Ok(())
    }
}
