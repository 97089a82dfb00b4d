//! Marks are saved edit by edit, undone and redone, and a full disk loses nothing.
#![allow(clippy::unwrap_used, reason = "a test that cannot go on has failed")]

mod common;

use common::footage;
use umlauf_gait::Limb;
use umlauf_store::clip::Settings;
use umlauf_store::marks::{Change, Mark};
use umlauf_store::origin::Origin;
use umlauf_store::person::Person;
use umlauf_store::tag::{Tag, TagChange};
use umlauf_store::yard::About;
use umlauf_store::{Store, StoreError};

fn store_with_clip(limit_kib: Option<u64>) -> (tempfile::TempDir, Store, i64) {
    let folder = tempfile::tempdir().unwrap();
    let store = Store::open(folder.path(), limit_kib).unwrap();
    let horse = store.add_horse("Priel", Some(1.68), false).unwrap();
    let session = store.add_session(horse.id, "2026-11-14", &About::default()).unwrap();
    let clip = store.add_clip(Some(session.id), "priel", &footage(), &[0, 8333, 16667]).unwrap();
    (folder, store, clip)
}

fn mark(id: &str, on_us: i64) -> Mark {
    Mark {
        id: id.into(),
        limb: Limb::RH,
        on_us,
        off_us: Some(on_us + 100_000),
        origin: Origin::Stepped,
        author: Person::coach(),
        hoof: None,
    }
}

fn new(id: &str, on_us: i64) -> Change {
    Change { before: None, after: Some(mark(id, on_us)) }
}

fn times(store: &Store, clip: i64) -> Vec<i64> {
    store.marks(clip).unwrap().into_iter().map(|m| m.on_us).collect()
}

#[test]
fn undo_and_redo_walk_the_whole_journal_and_survive_reopening() {
    let (folder, store, clip) = store_with_clip(None);
    for k in 0..20 {
        store.edit(clip, &format!("e{k}"), &[new(&format!("m{k}"), k * 1000)]).unwrap();
    }
    let moved = Change { before: Some(mark("m3", 3000)), after: Some(mark("m3", 3500)) };
    let gone = Change { before: Some(mark("m5", 5000)), after: None };
    store.edit(clip, "both", &[moved, gone]).unwrap();
    let hoof = |store: &Store| store.marks(clip).unwrap().iter().find_map(|m| m.hoof);
    let stood = Mark { hoof: Some((640.25, 481.5)), ..mark("m7", 7000) };
    let click = Change { before: Some(mark("m7", 7000)), after: Some(stood.clone()) };
    store.edit(clip, "click", &[click]).unwrap();
    assert_eq!(hoof(&store), stood.hoof);
    let full = times(&store, clip);
    assert!(full.contains(&3500) && !full.contains(&5000) && full.len() == 19);
    drop(store);

    let store = Store::open(folder.path(), None).unwrap();
    let mut states = vec![full.clone()];
    let revision = |store: &Store| store.clip(clip).unwrap().revision;
    assert_eq!(hoof(&store), stood.hoof);
    // A move that does not know of the click is refused: it would lose it.
    let blind = Change { before: Some(mark("m7", 7000)), after: Some(mark("m7", 7100)) };
    assert!(matches!(store.edit(clip, "blind", &[blind]), Err(StoreError::Conflict)));
    assert!(store.undo(clip, revision(&store)).unwrap() && hoof(&store).is_none());
    assert!(store.redo(clip, revision(&store)).unwrap());
    assert_eq!(hoof(&store), stood.hoof);
    assert!(store.undo(clip, revision(&store)).unwrap());
    while store.undo(clip, revision(&store)).unwrap() {
        states.push(times(&store, clip));
    }
    assert_eq!(states.len(), 22);
    assert_eq!(states[1].len(), 20);
    assert!(states[21].is_empty());
    for state in states.iter().rev().skip(1) {
        assert!(store.redo(clip, revision(&store)).unwrap());
        assert_eq!(&times(&store, clip), state);
    }
    assert!(store.redo(clip, revision(&store)).unwrap() && hoof(&store).is_some());
    assert!(!store.redo(clip, revision(&store)).unwrap());
}

#[test]
fn an_edit_sent_twice_is_made_once_and_a_stale_one_changes_nothing() {
    let (_folder, store, clip) = store_with_clip(None);
    for _ in 0..2 {
        store.edit(clip, "same", &[new("a", 10)]).unwrap();
    }
    assert_eq!(times(&store, clip), [10]);
    let before = store.clip(clip).unwrap().revision;
    store.undo(clip, before).unwrap();
    // The answer was lost and the request comes again: it must not undo what came before.
    assert!(matches!(store.undo(clip, before), Err(StoreError::Conflict)));
    store.redo(clip, store.clip(clip).unwrap().revision).unwrap();

    let stale = Change { before: Some(mark("a", 11)), after: Some(mark("a", 12)) };
    let result = store.edit(clip, "stale", &[new("b", 20), stale]);
    assert!(matches!(result, Err(StoreError::Conflict)));
    assert_eq!(times(&store, clip), [10], "all or nothing");
}

#[test]
fn an_edit_that_was_taken_back_and_forgotten_is_not_made_when_it_is_sent_again() {
    let (_folder, store, clip) = store_with_clip(None);
    store.edit(clip, "a", &[new("a", 10)]).unwrap();
    store.undo(clip, store.revision(clip).unwrap()).unwrap();
    // Before it is forgotten, and after.
    store.edit(clip, "a", &[new("a", 10)]).unwrap();
    assert_eq!(times(&store, clip), [0i64; 0]);
    store.edit(clip, "b", &[new("b", 20)]).unwrap();
    store.edit(clip, "a", &[new("a", 10)]).unwrap();
    assert_eq!(times(&store, clip), [20]);
}

#[test]
fn impossible_marks_are_refused() {
    let (_folder, store, clip) = store_with_clip(None);
    let backwards = Mark { off_us: Some(5), ..mark("a", 10) };
    for bad in [backwards, mark(&"x".repeat(65), 0), mark("a", i64::MAX / 2), mark("", 0)] {
        let change = Change { before: None, after: Some(bad) };
        assert!(matches!(store.edit(clip, "e", &[change]), Err(StoreError::Invalid(_))));
    }
    assert!(matches!(store.edit(clip, "e", &[]), Err(StoreError::Invalid(_))));
    assert!(matches!(store.edit(99, "e", &[new("a", 1)]), Err(StoreError::NotFound { .. })));
}

#[test]
fn a_full_disk_is_said_and_loses_nothing() {
    let (folder, store, clip) = store_with_clip(Some(200));
    let mut saved = 0;
    let full = loop {
        let changes: Vec<Change> =
            (0..20).map(|k| new(&format!("m{saved}-{k}"), saved * 1000 + k)).collect();
        match store.edit(clip, &format!("e{saved}"), &changes) {
            Ok(()) => saved += 1,
            Err(e) => break e,
        }
        assert!(saved < 10_000, "the limit does not hold");
    };
    assert!(matches!(full, StoreError::Full), "{full}");
    assert!(full.to_string().contains("everything saved before it is safe"));
    assert!(saved > 3);
    assert_eq!(times(&store, clip).len() as i64, saved * 20);
    drop(store);
    // With room again the same edit goes through.
    let store = Store::open(folder.path(), None).unwrap();
    assert_eq!(times(&store, clip).len() as i64, saved * 20);
    store.edit(clip, &format!("e{saved}"), &[new("later", 5)]).unwrap();
}

fn tag(id: &str, from_us: i64, what: &str) -> Tag {
    Tag { id: id.into(), from_us, to_us: None, what: what.into() }
}

#[test]
fn tags_share_the_journal_with_marks() {
    let (folder, store, clip) = store_with_clip(None);
    let put = |t: &Tag| TagChange { before: None, after: Some(t.clone()) };
    let (aid, note) = (tag("a", 10, "aid"), tag("n", 5, "note"));
    store.edit(clip, "e1", &[new("m", 10)]).unwrap();
    store
        .edit_all(clip, "e2", &Person::coach(), &[new("n", 20)], &[put(&aid), put(&note)])
        .unwrap();
    assert_eq!(store.tags(clip).unwrap(), [note.clone(), aid.clone()]);
    let moved = Tag { to_us: Some(90), ..aid.clone() };
    let change = TagChange { before: Some(aid.clone()), after: Some(moved.clone()) };
    store.edit_all(clip, "e3", &Person::coach(), &[], std::slice::from_ref(&change)).unwrap();
    // What is not there any more cannot be changed again, and nothing of the edit is done.
    let stale = store.edit_all(clip, "e4", &Person::coach(), &[new("o", 30)], &[change]);
    assert!(matches!(stale, Err(StoreError::Conflict)));
    assert_eq!(times(&store, clip), [10, 20]);
    drop(store);

    let store = Store::open(folder.path(), None).unwrap();
    assert_eq!(store.tags(clip).unwrap(), [note.clone(), moved.clone()]);
    let undo = || store.undo(clip, store.revision(clip).unwrap()).unwrap();
    assert!(undo());
    assert_eq!(store.tags(clip).unwrap(), [note.clone(), aid]);
    assert!(undo());
    assert!(store.tags(clip).unwrap().is_empty());
    assert_eq!(times(&store, clip), [10]);
    for _ in 0..2 {
        assert!(store.redo(clip, store.revision(clip).unwrap()).unwrap());
    }
    assert_eq!((store.tags(clip).unwrap(), times(&store, clip)), (vec![note, moved], vec![10, 20]));

    let wrong = [
        TagChange { before: None, after: None },
        put(&Tag { to_us: Some(1), ..tag("x", 2, "") }),
        put(&tag("", 2, "")),
        put(&tag("x", 2, &"x".repeat(5000))),
    ];
    for change in wrong {
        let refused = store.edit_all(clip, "w", &Person::coach(), &[], &[change]);
        assert!(matches!(refused, Err(StoreError::Invalid(_))));
    }
}

#[test]
fn marks_in_memory_follow_those_on_disk() {
    // A second store on the same folder reads from disk what the first keeps in memory.
    let (folder, store, clip) = store_with_clip(None);
    let disk = || Store::open(folder.path(), None).unwrap().marks(clip).unwrap();
    for k in 0..30i64 {
        store.edit(clip, &format!("e{k}"), &[new(&format!("m{k}"), (k * 7919) % 1000)]).unwrap();
        assert_eq!(store.marks(clip).unwrap(), disk());
        if k % 5 == 4 {
            store.undo(clip, store.revision(clip).unwrap()).unwrap();
            assert_eq!(store.marks(clip).unwrap(), disk());
        }
        if k % 7 == 6 {
            let (now, coach) = (store.clip(clip).unwrap().settings, Person::coach());
            let other = Settings { mirrored: !now.mirrored, ..now.clone() };
            store.change_settings(clip, &format!("s{k}"), &coach, &now, &other).unwrap();
            assert_eq!(store.marks(clip).unwrap(), disk());
        }
    }
    // Someone else's edit is seen.
    let other = Store::open(folder.path(), None).unwrap();
    other.edit(clip, "theirs", &[new("theirs", 5)]).unwrap();
    assert_eq!(store.marks(clip).unwrap(), other.marks(clip).unwrap());
}
