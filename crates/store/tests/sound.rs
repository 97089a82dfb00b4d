//! What a yard's file cannot say truly is noticed, and mended where it says the truth elsewhere.
#![allow(clippy::unwrap_used, reason = "a test that cannot go on has failed")]

mod common;

use std::path::Path;

use common::{footage, new_mark};
use rusqlite::Connection;
use umlauf_store::marks::Change;
use umlauf_store::{Store, StoreError};

fn with_clip(folder: &Path) -> (Store, i64) {
    let store = Store::open(folder, None).unwrap();
    let clip = store.add_clip(None, "tinne", &footage(), &[0, 16_667]).unwrap();
    (store, clip)
}

#[test]
fn acknowledged_changes_that_half_a_log_has_lost_are_counted() {
    let folder = tempfile::tempdir().unwrap();
    let (store, clip) = with_clip(folder.path());
    for k in 0..40 {
        store.edit(clip, &format!("e{k}"), &[new_mark(k)]).unwrap();
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
    left.edit(clip, "later", &[new_mark(100)]).unwrap();
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
        store.edit(clip, &format!("e{k}"), &[new_mark(k)]).unwrap();
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

/// A number in `0..below` that depends on `k` alone.
fn drawn(k: u64, below: u64) -> u64 {
    let mut x = (k + 1).wrapping_mul(0x9e37_79b9_7f4a_7c15);
    x = (x ^ (x >> 30)).wrapping_mul(0xbf58_476d_1ce4_e5b9);
    x = (x ^ (x >> 27)).wrapping_mul(0x94d0_49bb_1331_11eb);
    (x ^ (x >> 31)) % below
}

#[test]
fn a_flipped_bit_anywhere_in_the_file_or_its_log_is_noticed() {
    let folder = tempfile::tempdir().unwrap();
    let (store, clip) = with_clip(folder.path());
    for k in 0..100 {
        let changes: Vec<Change> = (0..8).map(|j| new_mark(8 * k + j)).collect();
        store.edit(clip, &format!("e{k}"), &changes).unwrap();
    }
    drop(store);
    // All of that is in the file; what comes now is in the log alone, as a kill leaves it.
    let store = Store::open(folder.path(), None).unwrap();
    for k in 0..30 {
        store
            .add_horse(&format!("horse {k}, with a long name to be read one day"), None, false)
            .unwrap();
        store.edit(clip, &format!("later {k}"), &[new_mark(10_000 + k)]).unwrap();
    }
    let whole = store.tables().unwrap();
    let names = ["yard.sqlite", "yard.sqlite-wal", "yard.seal", "yard.count"];
    let killed = || {
        let to = tempfile::tempdir().unwrap();
        for name in names {
            std::fs::copy(folder.path().join(name), to.path().join(name)).unwrap();
        }
        to
    };
    let says = |at: &Path| -> Option<String> {
        let store = match Store::open(at, None) {
            Ok(store) => store,
            Err(e) => return Some(e.to_string()),
        };
        if store.lost_changes().unwrap_or(1) > 0 {
            return Some("changes are lost".into());
        }
        match store.broken_pages(0..usize::MAX) {
            Ok(Some((broken, _))) if broken.is_empty() => {}
            other => return Some(format!("{other:?}")),
        }
        Some("").filter(|_| store.tables().unwrap() != whole).map(Into::into)
    };
    let unharmed = killed();
    assert_eq!(says(unharmed.path()), None);
    for k in 0..200 {
        let at = killed();
        let file = at.path().join(names[(k % 3) as usize]);
        let mut bytes = std::fs::read(&file).unwrap();
        let bit = drawn(k, 8 * bytes.len() as u64);
        bytes[(bit / 8) as usize] ^= 1 << (bit % 8);
        std::fs::write(&file, bytes).unwrap();
        let said = says(at.path());
        assert!(said.is_some_and(|s| !s.is_empty()), "bit {bit} of {}", file.display());
    }
}

#[test]
fn a_seal_follows_its_file_over_vacuum_growth_and_a_log_that_grows_long() {
    let folder = tempfile::tempdir().unwrap();
    let (store, clip) = with_clip(folder.path());
    let sound = |store: &Store| {
        let (broken, pages) = store.broken_pages(0..usize::MAX).unwrap().unwrap();
        assert_eq!(broken, [] as [usize; 0]);
        pages
    };
    for k in 0..400 {
        let changes: Vec<Change> = (0..20).map(|j| new_mark(20 * k + j)).collect();
        store.edit(clip, &format!("e{k}"), &changes).unwrap();
    }
    let log = || std::fs::metadata(folder.path().join("yard.sqlite-wal")).unwrap().len();
    assert!(log() < 12 << 20, "{}", log());
    let grown = sound(&store);
    store.remove_clip(clip, true).unwrap();
    store.purge_removed().unwrap();
    store.scrub().unwrap();
    assert!(sound(&store) < grown && log() == 0);
    // Somebody reads for long: the log waits, and the seal with it.
    let reads = store.snapshot().unwrap();
    for k in 0..50 {
        store.add_horse(&format!("horse {k}"), None, false).unwrap();
    }
    store.scrub().unwrap_or(());
    sound(&store);
    drop(reads);
    // Another hand changes a word.
    drop(store);
    let file = folder.path().join("yard.sqlite");
    drop(Store::open(folder.path(), None).unwrap());
    let mut bytes = std::fs::read(&file).unwrap();
    let at = bytes.windows(8).position(|w| w == b"horse 17").unwrap();
    bytes[at + 7] = b'8';
    std::fs::write(&file, bytes).unwrap();
    let store = Store::open(folder.path(), None).unwrap();
    assert_eq!(store.integrity(false).unwrap(), [] as [String; 0]);
    assert_eq!(store.broken_pages(0..usize::MAX).unwrap().unwrap().0, [at / 4096]);
    // It stays said when the page is written over, until it was seen.
    store.add_horse("Priel", None, false).unwrap();
    store.add_horse("Bernsteen", None, false).unwrap();
    drop(store);
    let store = Store::open(folder.path(), None).unwrap();
    assert_eq!(store.broken_pages(0..usize::MAX).unwrap().unwrap().0, [at / 4096]);
    store.seal_anew().unwrap();
    let pages = sound(&store);
    drop(store);
    // A file that is cut short.
    let cut = std::fs::OpenOptions::new().write(true).open(&file).unwrap();
    cut.set_len(4096 * (pages as u64 - 3)).unwrap();
    assert!(Store::open(folder.path(), None).is_err());
}
