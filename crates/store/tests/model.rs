//! Any sequence of edits, undos, redos and reopenings leaves the store as a plain list of states would:
//! the journal is set against a model that keeps every state whole.
#![allow(clippy::unwrap_used, reason = "a test that cannot go on has failed")]

mod common;

use common::footage;
use std::collections::BTreeMap;

use proptest::prelude::*;
use umlauf_gait::Limb;
use umlauf_store::clip::Settings;
use umlauf_store::marks::{Change, Mark};
use umlauf_store::origin::Origin;
use umlauf_store::person::Person;
use umlauf_store::tag::{Tag, TagChange};
use umlauf_store::yard::About;
use umlauf_store::{Store, StoreError};

/// What a coach, or a careless program, does next.
#[derive(Clone, Debug)]
enum Deed {
    /// Puts these marks where they are said to be, whether they are there or not.
    Put(Vec<(u8, u8)>),
    /// Takes a mark away, naming what stands there.
    Take(u8),
    /// Changes a mark, naming something that does not stand there.
    Stale(u8),
    /// Says something of a moment.
    Tag(u8),
    /// Says something of the clip.
    Rein(u8),
    /// Sends the last edit again.
    Again,
    Undo,
    Redo,
    /// From a revision that is long past.
    StaleUndo,
    Reopen,
}

fn deed() -> impl Strategy<Value = Deed> {
    prop_oneof![
        5 => prop::collection::vec((0..6u8, 0..40u8), 1..4).prop_map(Deed::Put),
        2 => (0..6u8).prop_map(Deed::Take),
        1 => (0..6u8).prop_map(Deed::Stale),
        2 => (0..4u8).prop_map(Deed::Tag),
        2 => (0..3u8).prop_map(Deed::Rein),
        1 => Just(Deed::Again),
        4 => Just(Deed::Undo),
        3 => Just(Deed::Redo),
        1 => Just(Deed::StaleUndo),
        1 => Just(Deed::Reopen),
    ]
}

/// Everything the coach sees of a clip.
#[derive(Clone, Debug, Default, PartialEq)]
struct Seen {
    marks: BTreeMap<String, Mark>,
    tags: BTreeMap<String, Tag>,
    rein: Option<String>,
}

/// The states there have been, and which of them is shown.
struct Model {
    states: Vec<Seen>,
    now: usize,
}

impl Model {
    fn seen(&self) -> &Seen {
        &self.states[self.now]
    }

    fn does(&mut self, next: Seen) {
        self.states.truncate(self.now + 1);
        self.states.push(next);
        self.now += 1;
    }
}

fn mark(name: u8, at: u8) -> Mark {
    let on_us = i64::from(at) * 10_000;
    Mark {
        id: format!("m{name}"),
        limb: Limb::ALL[usize::from(name) % 4],
        on_us,
        off_us: (!at.is_multiple_of(3)).then_some(on_us + 5000),
        origin: if at.is_multiple_of(5) { Origin::Tapped { rate: 0.5 } } else { Origin::Stepped },
        author: Person::coach(),
        hoof: at.is_multiple_of(4).then_some((f64::from(at) + 0.25, 7.5)),
    }
}

fn tag(name: u8, at: i64) -> Tag {
    let what = format!("{{\"kind\":\"note\",\"text\":\"note {name} at {at}\"}}");
    Tag { id: format!("t{name}"), from_us: at, to_us: None, what }
}

fn open_with_clip(folder: &std::path::Path) -> (Store, i64) {
    let store = Store::open(folder, None).unwrap();
    let horse = store.add_horse("Tinne", None, false).unwrap();
    let session = store.add_session(horse.id, "2026-11-14", &About::default()).unwrap();
    let clip = store.add_clip(Some(session.id), "tinne", &footage(), &[0, 16_667]).unwrap();
    (store, clip)
}

fn seen(store: &Store, clip: i64) -> Seen {
    Seen {
        marks: store.marks(clip).unwrap().into_iter().map(|m| (m.id.clone(), m)).collect(),
        tags: store.tags(clip).unwrap().into_iter().map(|t| (t.id.clone(), t)).collect(),
        rein: store.clip(clip).unwrap().settings.rein,
    }
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 60, failure_persistence: None, ..ProptestConfig::default() })]

    #[test]
    fn the_journal_is_a_list_of_states_that_is_walked(deeds in prop::collection::vec(deed(), 1..40)) {
        let folder = tempfile::tempdir().unwrap();
        let (mut store, clip) = open_with_clip(folder.path());
        let me = Person::coach();
        let mut model = Model { states: vec![Seen::default()], now: 0 };
        let mut last: Option<(String, Vec<Change>, Vec<TagChange>)> = None;
        for (k, deed) in deeds.iter().enumerate() {
            let id = format!("edit-{k}");
            let revision = store.clip(clip).unwrap().revision;
            // Whatever was done, marks are what their journal says of them.
            prop_assert_eq!(store.disagreeing().unwrap(), []);
            match deed {
                Deed::Put(places) => {
                    let mut next = model.seen().clone();
                    let mut changes = Vec::new();
                    for (name, at) in places {
                        let after = mark(*name, *at);
                        let before = next.marks.insert(after.id.clone(), after.clone());
                        if before.as_ref() != Some(&after) {
                            changes.push(Change { before, after: Some(after) });
                        }
                    }
                    if changes.is_empty() { continue; }
                    store.edit_all(clip, &id, &me, &changes, &[]).unwrap();
                    model.does(next);
                    last = Some((id, changes, vec![]));
                }
                Deed::Take(name) => {
                    let mut next = model.seen().clone();
                    let Some(before) = next.marks.remove(&format!("m{name}")) else { continue };
                    let changes = vec![Change { before: Some(before), after: None }];
                    store.edit_all(clip, &id, &me, &changes, &[]).unwrap();
                    model.does(next);
                    last = Some((id, changes, vec![]));
                }
                Deed::Stale(name) => {
                    // A time that no mark ever has.
                    let never = Mark { on_us: 777, off_us: None, ..mark(*name, 1) };
                    let change = Change { before: Some(never), after: Some(mark(*name, 2)) };
                    let refused = store.edit_all(clip, &id, &me, &[change], &[]);
                    prop_assert!(matches!(refused, Err(StoreError::Conflict)), "{:?}", refused);
                }
                Deed::Tag(name) => {
                    let mut next = model.seen().clone();
                    let after = tag(*name, k as i64);
                    let before = next.tags.insert(after.id.clone(), after.clone());
                    let tags = vec![TagChange { before, after: Some(after) }];
                    store.edit_all(clip, &id, &me, &[], &tags).unwrap();
                    model.does(next);
                    last = Some((id, vec![], tags));
                }
                Deed::Rein(which) => {
                    let rein = [None, Some("left"), Some("right")][usize::from(*which)];
                    let before = store.clip(clip).unwrap().settings;
                    let after = Settings { rein: rein.map(str::to_owned), ..before.clone() };
                    if before.rein == after.rein { continue; }
                    store.change_settings(clip, &id, &me, &before, &after).unwrap();
                    let rein = after.rein;
                    model.does(Seen { rein, ..model.seen().clone() });
                }
                Deed::Again => {
                    let Some((id, changes, tags)) = &last else { continue };
                    store.edit_all(clip, id, &me, changes, tags).unwrap();
                }
                Deed::Undo => {
                    let could = store.undo(clip, revision).unwrap();
                    prop_assert_eq!(could, model.now > 0);
                    model.now -= usize::from(could);
                    last = None;
                }
                Deed::Redo => {
                    let could = store.redo(clip, revision).unwrap();
                    prop_assert_eq!(could, model.now + 1 < model.states.len());
                    model.now += usize::from(could);
                    last = None;
                }
                Deed::StaleUndo => {
                    let refused = store.undo(clip, revision - 1);
                    prop_assert!(matches!(refused, Err(StoreError::Conflict)), "{:?}", refused);
                }
                Deed::Reopen => {
                    drop(store);
                    store = Store::open(folder.path(), None).unwrap();
                }
            }
            prop_assert_eq!(&seen(&store, clip), model.seen(), "after {:?}, number {}", deed, k);
            let (undo, redo) = store.journal_depth(clip).unwrap();
            let depth = (model.now as i64, (model.states.len() - 1 - model.now) as i64);
            prop_assert_eq!((undo, redo), depth, "after {:?}, number {}", deed, k);
        }
        // And all the way back, and forth again.
        let there = model.seen().clone();
        while store.undo(clip, store.clip(clip).unwrap().revision).unwrap() {
            model.now -= 1;
            prop_assert_eq!(&seen(&store, clip), model.seen());
        }
        prop_assert_eq!(model.now, 0);
        prop_assert_eq!(&seen(&store, clip), &Seen::default());
        while seen(&store, clip) != there {
            prop_assert!(store.redo(clip, store.clip(clip).unwrap().revision).unwrap());
        }
    }
}
