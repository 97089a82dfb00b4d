//! Helpers of the store's tests.
#![allow(clippy::unwrap_used, reason = "a test that cannot go on has failed")]
#![allow(dead_code, reason = "each test binary uses some of them")]

use umlauf_gait::Limb;
use umlauf_store::archive::Table;
use umlauf_store::bringing::Bringing;
use umlauf_store::clip::Footage;
use umlauf_store::marks::{Change, Mark};
use umlauf_store::origin::Origin;
use umlauf_store::person::Person;
use umlauf_store::{Store, StoreError};

/// Puts tables that version `version` wrote into an empty yard.
pub fn put(store: &Store, tables: &[Table], version: usize) -> Result<(), StoreError> {
    let aside = tempfile::tempdir().unwrap();
    let mut bringing = Bringing::begin(aside.path(), version)?;
    for table in tables {
        bringing.table(&table.name, &table.columns)?;
        table.rows.iter().try_for_each(|row| bringing.row(row))?;
    }
    store.take_over(bringing.finish(&|_| true)?)
}

/// What a film is that is nowhere.
pub fn footage() -> Footage {
    Footage {
        content: "a".repeat(64),
        file: "original.mp4".into(),
        bytes: 1,
        codec: "h264".into(),
        width: 2,
        height: 2,
        rotation: 0,
        frame_rate: Some(120.0),
        tagged_rate: None,
        recorded: None,
    }
}

/// A mark nobody has made yet.
pub fn new_mark(k: i64) -> Change {
    let after = Mark {
        id: format!("m{k}"),
        limb: Limb::ALL[usize::try_from(k).unwrap() % 4],
        on_us: 1000 * k,
        off_us: Some(1000 * k + 500),
        origin: Origin::Stepped,
        author: Person::coach(),
        hoof: None,
    };
    Change { before: None, after: Some(after) }
}
