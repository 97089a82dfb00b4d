//! What a yard's file cannot say truly is noticed, and mended where it says the truth elsewhere.
#![allow(clippy::unwrap_used, reason = "a test that cannot go on has failed")]

mod common;

use std::path::Path;

use common::footage;
use rusqlite::Connection;
use umlauf_gait::Limb;
use umlauf_store::marks::{Change, Mark};
use umlauf_store::origin::Origin;
use umlauf_store::person::Person;
use umlauf_store::{Store, StoreError};

fn with_clip(folder: &Path) -> (Store, i64) {
    let store = Store::open(folder, None).unwrap();
    let clip = store.add_clip(None, "tinne", &footage(), &[0, 16_667]).unwrap();
    (store, clip)
}

fn new(k: i64) -> Change {
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

#[test]
fn acknowledged_changes_that_half_a_log_has_lost_are_counted() {
    let folder = tempfile::tempdir().unwrap();
    let (store, clip) = with_clip(folder.path());
    for k in 0..40 {
        store.edit(clip, &format!("e{k}"), &[new(k)]).unwrap();
    }
    // The yard as a kill leaves it, and half of its log.
    let killed = tempfile::tempdir().unwrap();
    for name in ["yard.sqlite", "yard.sqlite-wal", "yard.count"] {
        std::fs::copy(folder.path().join(name), killed.path().join(name)).unwrap();
    }
    let log = killed.path().join("yard.sqlite-wal");
    let whole = std::fs::metadata(&log).unwrap().len();
    std::fs::OpenOptions::new().write(true).open(&log).unwrap().set_len(whole / 2).unwrap();
    let left = Store::open(killed.path(), None).unwrap();
    let there = left.marks(clip).unwrap().len();
    assert!((5..35).contains(&there), "{there}");
    assert_eq!(left.lost_changes().unwrap(), 40 - there as u64);
    // It is said until somebody has seen it, and counted from there on.
    left.edit(clip, "later", &[new(100)]).unwrap();
    drop(left);
    let left = Store::open(killed.path(), None).unwrap();
    assert_eq!(left.lost_changes().unwrap(), 40 - there as u64);
    left.forget_lost_changes().unwrap();
    drop(left);
    assert_eq!(Store::open(killed.path(), None).unwrap().lost_changes().unwrap(), 0);
    // A whole log loses nothing.
    drop(store);
    assert_eq!(Store::open(folder.path(), None).unwrap().lost_changes().unwrap(), 0);
}

#[test]
fn films_without_a_yard_are_no_new_yard() {
    let folder = tempfile::tempdir().unwrap();
    drop(with_clip(folder.path()));
    std::fs::create_dir(folder.path().join("footage").join("a".repeat(64))).unwrap();
    let file = folder.path().join("yard.sqlite");
    for empty in [false, true] {
        std::fs::remove_file(&file).unwrap();
        if empty {
            std::fs::write(&file, "").unwrap();
        }
        let refused = Store::open(folder.path(), None).err().unwrap();
        assert!(matches!(&refused, StoreError::Lost { films: 1, .. }), "{refused}");
        assert!(refused.to_string().contains("put the file back from a backup"));
        std::fs::write(&file, "x").unwrap();
    }
}

#[test]
fn a_mark_is_what_its_journal_says_and_is_made_so_again() {
    let folder = tempfile::tempdir().unwrap();
    let (store, clip) = with_clip(folder.path());
    for k in 0..6 {
        store.edit(clip, &format!("e{k}"), &[new(k)]).unwrap();
    }
    store.undo(clip, store.revision(clip).unwrap()).unwrap();
    let sound = store.marks(clip).unwrap();
    let damage =
        |sql: &str| Connection::open(folder.path().join("yard.sqlite")).unwrap().execute(sql, []);
    for sql in [
        "DELETE FROM mark WHERE id = 'm1'",
        "UPDATE mark SET on_us = on_us + 1 WHERE id = 'm2'",
        "UPDATE mark SET limb = 'RF' WHERE id = 'm3'",
        "UPDATE mark SET off_us = NULL WHERE id = 'm4'",
    ] {
        assert_eq!(damage(sql).unwrap(), 1);
    }
    let wrong = store.disagreeing().unwrap();
    let names: Vec<&str> = wrong.iter().map(|d| d.id.as_str()).collect();
    assert_eq!(names, ["m1", "m2", "m3", "m4"]);
    store.mend_marks(&wrong).unwrap();
    assert_eq!((store.disagreeing().unwrap(), store.marks(clip).unwrap()), (vec![], sound));

    assert!(store.integrity(false).unwrap().is_empty() && store.dangling().unwrap().is_empty());
    let connection = Connection::open(folder.path().join("yard.sqlite")).unwrap();
    connection.pragma_update(None, "foreign_keys", false).unwrap();
    connection.execute("INSERT INTO tag VALUES (99, 't', 0, NULL, '{}')", []).unwrap();
    assert_eq!(store.dangling().unwrap(), [("tag".to_owned(), 1)]);
    // A page in the middle of the file that is no page any more.
    drop((connection, store));
    let file = folder.path().join("yard.sqlite");
    let mut bytes = std::fs::read(&file).unwrap();
    let page = 4096 * 3;
    bytes[page..page + 64].fill(0x5a);
    std::fs::write(&file, bytes).unwrap();
    let store = Store::open(folder.path(), None).unwrap();
    assert!(!store.integrity(true).unwrap().is_empty());
}
