//! A yard of every version that was ever on a coach's disk opens, and nothing that was in it is lost. The files in
//! `schemas/` are those yards; `schemas/make.py` wrote each when its version was new.
#![allow(clippy::unwrap_used, reason = "a test that cannot go on has failed")]

use std::path::Path;

use rusqlite::Connection;
use umlauf_gait::Limb;
use umlauf_store::archive::VERSION;
use umlauf_store::origin::Origin;
use umlauf_store::person::Person;
use umlauf_store::{Store, StoreError};

/// The yard of a version, as SQLite's own words make it.
fn yard(folder: &Path, version: usize) {
    let file = Path::new(env!("CARGO_MANIFEST_DIR")).join(format!("tests/schemas/{version}.sql"));
    let sql = std::fs::read_to_string(&file)
        .unwrap_or_else(|e| panic!("{}: {e}; run make.py there", file.display()));
    let connection = Connection::open(folder.join(Store::FILE)).unwrap();
    connection.pragma_update(None, "foreign_keys", false).unwrap();
    connection.execute_batch(&sql).unwrap();
}

/// What the tables are made of, but for spaces.
fn schema(folder: &Path) -> Vec<String> {
    let connection = Connection::open(folder.join(Store::FILE)).unwrap();
    let mut query = connection
        .prepare(
            "SELECT type || ' ' || name || ' ' || coalesce(sql, '') FROM sqlite_schema ORDER BY 1",
        )
        .unwrap();
    let all = query.query_map([], |r| r.get::<_, String>(0)).unwrap();
    all.map(|sql| sql.unwrap().split_whitespace().collect::<Vec<_>>().join(" ")).collect()
}

#[test]
fn every_version_opens_with_its_marks_its_journal_and_all_that_was_said() {
    let fresh = tempfile::tempdir().unwrap();
    drop(Store::open(fresh.path(), None).unwrap());
    for version in 1..=VERSION {
        let folder = tempfile::tempdir().unwrap();
        yard(folder.path(), version);
        let store = Store::open(folder.path(), None).unwrap();
        assert!(store.integrity(false).unwrap().is_empty() && store.dangling().unwrap().is_empty());
        assert_eq!(store.lost_changes().unwrap(), 0, "{version}");
        assert!(store.disagreeing().unwrap().is_empty(), "{version}");
        let since = |first: usize| version >= first;

        // Marks and their journal, walked to both ends.
        let seen = || -> Vec<(String, Limb, i64, Option<i64>, Origin)> {
            let marks = store.marks(1).unwrap().into_iter();
            marks.map(|m| (m.id, m.limb, m.on_us, m.off_us, m.origin)).collect()
        };
        let a = ("a".to_owned(), Limb::LH, 10, Some(20), Origin::Stepped);
        let b = |on| ("b".to_owned(), Limb::RF, on, None, Origin::Tapped { rate: 0.5 });
        let c = ("c".to_owned(), Limb::LF, 40, Some(44), Origin::Stepped);
        assert_eq!(seen(), [a.clone(), b(30)], "{version}");
        assert_eq!(store.marks(1).unwrap()[0].hoof, since(3).then_some((1.5, 2.5)), "{version}");
        let waiting = store.marks_and_suggestions(1).unwrap().len() - 2;
        assert_eq!(waiting, usize::from(since(7)), "{version}");
        let mut revision = store.revision(1).unwrap();
        let mut walk = |back: bool| {
            let done = if back { store.undo(1, revision) } else { store.redo(1, revision) };
            revision = store.revision(1).unwrap();
            done.unwrap()
        };
        assert!(walk(false));
        assert_eq!(seen(), [a.clone(), b(30), c]);
        assert!(walk(true) && walk(true));
        assert_eq!(seen(), [a, b(28)]);
        assert!(walk(true) && seen().is_empty() && !walk(true), "{version}");
        assert!(walk(false) && walk(false));
        assert_eq!(store.journal(1).unwrap()[0].at_ms, None);

        // What was said.
        let card = store.horse(1).unwrap().card;
        assert_eq!((card.name.as_str(), card.withers_m), ("Tinne", Some(1.52)), "{version}");
        assert_eq!((card.born, card.degree), (since(5).then_some(2014), since(5).then_some(3)));
        let session = store.session(1).unwrap();
        assert_eq!(
            (session.date.as_str(), session.about.note.as_str()),
            ("2026-03-01", "soft ground")
        );
        assert_eq!(session.about.score, since(2).then_some(64.5), "{version}");
        let clip = store.clip(1).unwrap();
        assert_eq!((clip.settings.slow_factor, clip.settings.rein.as_deref()), (4.0, Some("left")));
        assert_eq!(clip.began_ms, since(6).then_some(1_772_355_600_000));
        assert_eq!(store.tags(1).unwrap().len(), usize::from(since(2)), "{version}");
        assert_eq!(store.session_log(1).unwrap().len(), usize::from(since(6)), "{version}");
        assert_eq!(store.removed_horses().unwrap()[0].card.name, "Priel");
        assert_eq!(store.choice("target.1.trot.tempo").unwrap().as_deref(), Some("78"));
        assert_eq!(store.choice("scatter_s").unwrap(), None);
        let hand = store.hand_scatter(&Person::coach(), Some(120.0)).unwrap().unwrap();
        assert_eq!((hand.frame_rate, hand.scatter_s), (None, 0.0045), "{version}");

        // What is new gets a number that nothing had.
        let next = store.add_horse("Distel", None, false).unwrap().id;
        assert_eq!(next, if since(8) { 10 } else { 3 }, "{version}");
        drop(store);
        assert_eq!(schema(folder.path()), schema(fresh.path()), "{version}");
    }
}

#[test]
fn a_yard_of_a_later_version_is_left_as_it_is() {
    let folder = tempfile::tempdir().unwrap();
    yard(folder.path(), VERSION);
    let file = folder.path().join(Store::FILE);
    let later = format!("PRAGMA user_version = {}", VERSION + 1);
    Connection::open(&file).unwrap().execute_batch(&later).unwrap();
    let before = std::fs::read(&file).unwrap();
    let refused = Store::open(folder.path(), None).map(|_| ()).unwrap_err();
    assert!(
        matches!(refused, StoreError::Later { version, .. } if version == VERSION + 1),
        "{refused}"
    );
    assert!(refused.to_string().contains("bring Umlauf up to date"), "{refused}");
    let connection = Connection::open(&file).unwrap();
    let horses: i64 = connection.query_row("SELECT count(*) FROM horse", [], |r| r.get(0)).unwrap();
    assert_eq!(horses, 2);
    drop(connection);
    assert_eq!(std::fs::read(&file).unwrap().len(), before.len());
}
