//! Suggestions stand among the marks, and count when they are taken.
#![allow(clippy::unwrap_used, reason = "a test that cannot go on has failed")]

mod common;

use common::{footage, put};
use umlauf_gait::Limb;
use umlauf_store::marks::{Change, Mark};
use umlauf_store::origin::{Answer, Origin};
use umlauf_store::person::Person;
use umlauf_store::{Store, StoreError};

fn yard() -> (tempfile::TempDir, Store, i64) {
    let folder = tempfile::tempdir().unwrap();
    let store = Store::open(folder.path(), None).unwrap();
    let clip = store.add_clip(None, "film", &footage(), &[0]).unwrap();
    (folder, store, clip)
}

fn mark(id: &str, on_us: i64, origin: Origin) -> Mark {
    let (off_us, author) = (None, Person::coach());
    Mark { id: id.into(), limb: Limb::LF, on_us, off_us, origin, author, hoof: None }
}

fn suggested(id: &str, on_us: i64, answer: Answer) -> Mark {
    let (detector, why) = ("picture".to_owned(), String::new());
    mark(id, on_us, Origin::Suggested { detector, sd_s: 0.004, sure: Some(0.9), why, answer })
}

fn names(marks: &[Mark]) -> Vec<&str> {
    marks.iter().map(|m| m.id.as_str()).collect()
}

#[test]
fn what_is_found_counts_when_it_is_taken_and_undoing_goes_on_from_the_coachs_own() {
    let (folder, store, clip) = yard();
    let own = Change { before: None, after: Some(mark("own", 500, Origin::Stepped)) };
    store.edit(clip, "e1", &[own]).unwrap();
    let found = ["a", "b", "c"].into_iter().zip([1000, 2000, 3000]);
    let found: Vec<Mark> = found.map(|(id, at)| suggested(id, at, Answer::Open)).collect();
    let before = store.revision(clip).unwrap();
    assert!(store.suggest(clip, found.clone(), "{\"near\":\"left\"}").unwrap());
    assert_eq!(store.revision(clip).unwrap(), before + 1);
    assert_eq!(store.found(clip).unwrap().as_deref(), Some("{\"near\":\"left\"}"));
    assert_eq!(names(&store.marks(clip).unwrap()), ["own"]);
    assert_eq!(names(&store.marks_and_suggestions(clip).unwrap()), ["own", "a", "b", "c"]);
    assert_eq!(store.open_suggestions().unwrap().get(&clip), Some(&3));
    // A second search does not put others beside those that wait.
    assert!(!store.suggest(clip, vec![suggested("d", 9, Answer::Open)], "{}").unwrap());

    let taken = suggested("b", 2000, Answer::Looked);
    let take = Change { before: Some(found[1].clone()), after: Some(taken) };
    store.edit(clip, "e2", &[take]).unwrap();
    // As it stands on disk, not in memory.
    drop(store);
    let store = Store::open(folder.path(), None).unwrap();
    assert_eq!(names(&store.marks(clip).unwrap()), ["own", "b"]);
    assert_eq!(store.open_suggestions().unwrap().get(&clip), Some(&2));
    for left in [&["own"][..], &[]] {
        assert!(store.undo(clip, store.revision(clip).unwrap()).unwrap());
        assert_eq!(names(&store.marks(clip).unwrap()), left);
    }
    assert!(!store.undo(clip, store.revision(clip).unwrap()).unwrap());
    assert_eq!(names(&store.marks_and_suggestions(clip).unwrap()), ["a", "b", "c"]);
}

#[test]
fn nothing_is_slipped_in_as_taken_and_a_bad_one_takes_all_back() {
    let (_folder, store, clip) = yard();
    let invalid = |marks| {
        matches!(store.suggest(clip, marks, "{}"), Err(StoreError::Invalid(_)))
            && store.marks_and_suggestions(clip).unwrap().is_empty()
            && store.found(clip).unwrap().is_none()
    };
    assert!(invalid(vec![suggested("a", 0, Answer::Taken)]));
    assert!(invalid(vec![mark("a", 0, Origin::Stepped)]));
    let far = suggested("b", 10_i64.pow(13), Answer::Open);
    assert!(invalid(vec![suggested("a", 0, Answer::Open), far]));
    let mut sure = suggested("a", 0, Answer::Open);
    if let Origin::Suggested { sure, .. } = &mut sure.origin {
        *sure = Some(1.5);
    }
    assert!(invalid(vec![sure]));
}

#[test]
fn a_yard_taken_along_brings_its_suggestions_with_it() {
    let (_folder, store, clip) = yard();
    store.suggest(clip, vec![suggested("a", 1000, Answer::Open)], "{\"x\":1}").unwrap();
    let (_other, back) = {
        let folder = tempfile::tempdir().unwrap();
        let store = Store::open(folder.path(), None).unwrap();
        (folder, store)
    };
    put(&back, &store.tables().unwrap(), umlauf_store::archive::VERSION).unwrap();
    assert_eq!(back.found(clip).unwrap().as_deref(), Some("{\"x\":1}"));
    assert_eq!(
        back.marks_and_suggestions(clip).unwrap(),
        store.marks_and_suggestions(clip).unwrap()
    );
}

#[test]
fn what_waits_is_taken_back_before_a_clip_is_looked_at_anew_and_what_was_answered_stays() {
    let (_folder, store, clip) = yard();
    let found: Vec<Mark> =
        [("a", 1000), ("b", 2000)].map(|(id, at)| suggested(id, at, Answer::Open)).to_vec();
    store.suggest(clip, found.clone(), "{}").unwrap();
    let taken = Some(suggested("a", 1000, Answer::Taken));
    let take = Change { before: Some(found[0].clone()), after: taken };
    store.edit(clip, "e1", &[take]).unwrap();
    let before = store.revision(clip).unwrap();
    store.withdraw(clip, "{\"wraps\":[]}").unwrap();
    // A page that watches sees that something changed.
    assert!(store.revision(clip).unwrap() > before);
    assert_eq!(names(&store.marks_and_suggestions(clip).unwrap()), ["a"]);
    assert_eq!(store.found(clip).unwrap().as_deref(), Some("{\"wraps\":[]}"));
    assert!(store.suggest(clip, vec![found[1].clone()], "{}").unwrap());
    assert_eq!(names(&store.marks_and_suggestions(clip).unwrap()), ["a", "b"]);
}
