//! What concerns all tables at once: emptying the bin, earlier versions, words of later ones.
#![allow(clippy::unwrap_used, reason = "a test that cannot go on has failed")]

mod common;

use common::{footage, put};
use rusqlite::Connection;
use umlauf_gait::Limb;
use umlauf_store::account::AccountForm;
use umlauf_store::act::Act;
use umlauf_store::clip::Settings;
use umlauf_store::hand::HandScatter;
use umlauf_store::job::{JobKind, Queue};
use umlauf_store::link::Shows;
use umlauf_store::marks::{Change, Mark};
use umlauf_store::origin::Origin;
use umlauf_store::person::Person;
use umlauf_store::role::Role;
use umlauf_store::session_log::{EntryKind, NewEntry};
use umlauf_store::tag::{Tag, TagChange};
use umlauf_store::yard::About;
use umlauf_store::{Store, StoreError, archive};

fn mark(id: &str, origin: Origin) -> Mark {
    let (on_us, off_us) = (1000, Some(2000));
    let author = Person::coach();
    Mark { id: id.into(), limb: Limb::LF, on_us, off_us, origin, author, hoof: Some((3.5, 4.25)) }
}

fn entry(at_ms: i64) -> NewEntry {
    NewEntry {
        at_ms,
        sd_s: Some(0.2),
        kind: EntryKind::Answer,
        says: "better".into(),
        about: Some("shoulder-in".into()),
        author: Person::named("anke").unwrap(),
    }
}

/// 2026-11-14, ten in the morning.
const MORNING: i64 = 1_794_650_400_000;

/// A yard with a row in every table that belongs to the horse.
fn filled(store: &Store) -> (i64, i64, i64) {
    let horse = store.add_horse("Distel", None, false).unwrap().id;
    let session = store.add_session(horse, "2026-11-14", &About::default()).unwrap().id;
    let clip = store.add_clip(Some(session), "distel", &footage(), &[0, 8333]).unwrap();
    let tag = Tag { id: "t".into(), from_us: 5, to_us: None, what: r#"{"kind":"note"}"#.into() };
    let tags = [TagChange { before: None, after: Some(tag) }];
    let new = Change { before: None, after: Some(mark("m", Origin::Tapped { rate: 0.25 })) };
    store.edit_all(clip, "e", &Person::named("anke").unwrap(), &[new], &tags).unwrap();
    store.set_coach_mark(session, "trot", "tempo", Some(7.0)).unwrap();
    store.add_job(clip, JobKind::Proxy).unwrap();
    store.begin_upload("upload01", Some(session), "film.mp4", 9).unwrap();
    store.keep_digests(&[(clip, "key".into(), "body".into())]).unwrap();
    assert!(store.suggest(clip, vec![], "{}").unwrap());
    store.log(session, &entry(MORNING)).unwrap();
    store.set_choice(&format!("target.{horse}.trot.tempo"), Some("78")).unwrap();
    (horse, session, clip)
}

/// Rows of every table of the file, but for those that hold no yard.
fn rows(folder: &std::path::Path) -> Vec<(String, i64)> {
    let file = Connection::open(folder.join("yard.sqlite")).unwrap();
    let mut names = file
        .prepare("SELECT name FROM sqlite_schema WHERE type = 'table' AND name NOT LIKE 'sqlite%'")
        .unwrap();
    let names: Vec<String> =
        names.query_map([], |r| r.get(0)).unwrap().collect::<Result<_, _>>().unwrap();
    let count = |name: &String| {
        file.query_row(&format!("SELECT count(*) FROM {name}"), [], |r| r.get(0)).unwrap()
    };
    names.iter().map(|name| (name.clone(), count(name))).collect()
}

#[test]
fn a_removed_horse_leaves_no_row_behind_once_the_bin_is_emptied() {
    let folder = tempfile::tempdir().unwrap();
    let store = Store::open(folder.path(), None).unwrap();
    let (horse, _, _) = filled(&store);
    store.edit(store.all_clips().unwrap()[0].id, "f", &[gone("m")]).unwrap();
    store.undo(1, store.revision(1).unwrap()).unwrap();
    let other = Change { before: None, after: Some(mark("n", Origin::Stepped)) };
    store.edit(1, "g", &[other]).unwrap();
    // People see it, and links show it.
    let person = Person::named("Henrike").unwrap();
    let form = AccountForm { person, role: Role::Rider, under_age: false, horses: vec![horse] };
    let account = store.add_account(&form, "a hash").unwrap();
    store.sign_in(account, "another", "a tablet", 1).unwrap();
    let film = Shows::Film { clip: 1, silent: true, blurred: false };
    for (token, shows) in [("one", Shows::Report(1)), ("two", film)] {
        store.add_link(token, shows, i64::MAX, &Person::coach()).unwrap();
    }
    let (did, about) = ("changed the card of".into(), format!("horse {horse}"));
    store.note_act(&Act { at_ms: 1, author: Person::coach(), did, about }).unwrap();
    // Not of any horse: files that were looked at, hands, and contents without a clip.
    let apart = ["seen_file", "hand", "loose"];
    for (table, count) in rows(folder.path()) {
        assert!(count > 0 || apart.contains(&table.as_str()), "{table} is not filled: add it here");
    }
    store.remove_horse(horse, true).unwrap();
    assert_eq!(store.purge_removed().unwrap(), ["a".repeat(64)]);
    // Its folder is still there, until somebody has removed it.
    assert_eq!(store.loose().unwrap(), ["a".repeat(64)]);
    store.let_go(&"a".repeat(64)).unwrap();
    for (table, count) in rows(folder.path()) {
        // The yard's own name, the last numbers given, people, and what they did to what has no name any more.
        let stays = [("choice", 1), ("given", 6), ("account", 1), ("signed_in", 1), ("act", 1)];
        assert!(count == 0 || stays.contains(&(table.as_str(), count)), "{table}: {count}");
    }
    // Nor a word in the file and its log, as anybody may read them.
    let bytes = || ["yard.sqlite", "yard.sqlite-wal"].map(|f| std::fs::read(folder.path().join(f)));
    let says = |word: &str| {
        let holds = |b: &Vec<u8>| b.windows(word.len()).any(|w| w == word.as_bytes());
        bytes().iter().flatten().any(holds)
    };
    store.scrub().unwrap();
    assert!(says("horse") && !says("Distel") && !says("shoulder-in") && !says("upload01"));
    // A new one is not taken for it.
    let next = store.add_horse("Tinne", None, false).unwrap().id;
    assert!(next > horse);
    let session = store.add_session(next, "2026-11-14", &About::default()).unwrap().id;
    let clip = store.add_clip(Some(session), "tinne", &footage(), &[0, 8333]).unwrap();
    assert_eq!((session, clip, store.add_job(clip, JobKind::Proxy).unwrap()), (2, 2, 2));
    // What has a clip is not loose.
    assert!(store.loose().unwrap().is_empty());
}

/// The mark of this name taken away, as [`filled`] has put it.
fn gone(id: &str) -> Change {
    let mark =
        Mark { author: Person::named("anke").unwrap(), ..mark(id, Origin::Tapped { rate: 0.25 }) };
    Change { before: Some(mark), after: None }
}

#[test]
fn a_removed_clip_or_session_goes_alone() {
    let folder = tempfile::tempdir().unwrap();
    let store = Store::open(folder.path(), None).unwrap();
    let (horse, session, clip) = filled(&store);
    let choice = format!("target.{horse}.trot.tempo");
    store.remove_clip(clip, true).unwrap();
    store.purge_removed().unwrap();
    assert!(matches!(store.clip(clip), Err(StoreError::NotFound { .. })));
    assert_eq!(store.session_log(session).unwrap().len(), 1);
    store.remove_session(session, true).unwrap();
    store.purge_removed().unwrap();
    assert!(matches!(store.session(session), Err(StoreError::NotFound { .. })));
    assert_eq!(store.horses().unwrap().len(), 1);
    assert_eq!(store.choice(&choice).unwrap().as_deref(), Some("78"));
}

#[test]
fn what_the_tables_hold_comes_back_as_it_was() {
    let (from, to) = (tempfile::tempdir().unwrap(), tempfile::tempdir().unwrap());
    let store = Store::open(from.path(), None).unwrap();
    let (_, session, clip) = filled(&store);
    let scatter = HandScatter { person: Person::coach(), frame_rate: None, scatter_s: 0.004 };
    store.set_hand_scatter(&scatter).unwrap();
    store.set_clip_began(clip, Some(MORNING)).unwrap();
    let back = Store::open(to.path(), None).unwrap();
    put(&back, &store.tables().unwrap(), archive::VERSION).unwrap();
    assert_eq!(back.tables().unwrap(), store.tables().unwrap());
    assert_eq!(back.marks(clip).unwrap()[0].author.id(), "anke");
    assert_eq!(back.session_log(session).unwrap()[0].entry, entry(MORNING));
    assert_eq!(back.clip(clip).unwrap().began_ms, Some(MORNING));
    let line = &back.journal(clip).unwrap()[0];
    assert_eq!((line.edit_id.as_str(), line.author.id(), line.undone), ("e", "anke", false));
    assert!(line.at_ms.is_some());
    // An archive of the fifth version comes back with its journal.
    let columns = ["clip", "seq", "place", "mark", "new_limb", "new_on", "new_off"];
    let old = |name: &str, columns: &[&str], row: serde_json::Value| archive::Table {
        name: name.into(),
        columns: columns.iter().map(|c| (*c).to_owned()).collect(),
        rows: vec![row.as_array().unwrap().clone()],
    };
    let tables: Vec<_> = store.tables().unwrap();
    let mut clips = tables.iter().find(|t| t.name == "clip").unwrap().clone();
    clips.columns.pop();
    clips.rows[0].pop();
    clips.rows[0][1] = serde_json::Value::Null;
    let fifth = [
        clips,
        old("edit", &["clip", "seq", "edit_id"], serde_json::json!([clip, 1, "e"])),
        old("edit_change", &columns, serde_json::json!([clip, 1, 0, "m", "LF", 7, null])),
        old("mark", &["clip", "id", "limb", "on_us"], serde_json::json!([clip, "m", "LF", 7])),
    ];
    let third = tempfile::tempdir().unwrap();
    let brought = Store::open(third.path(), None).unwrap();
    put(&brought, &fifth, archive::UNNUMBERED).unwrap();
    assert_eq!(brought.marks(clip).unwrap()[0].on_us, 7);
    assert!(brought.undo(clip, brought.revision(clip).unwrap()).unwrap());
    assert!(brought.marks(clip).unwrap().is_empty());
    let later = archive::VERSION + 1;
    let said = put(&brought, &store.tables().unwrap(), later).unwrap_err();
    assert!(said.to_string().contains("bring Umlauf up to date"), "{said}");
}

#[test]
fn words_of_a_later_version_are_refused_and_not_read_as_others() {
    let folder = tempfile::tempdir().unwrap();
    let store = Store::open(folder.path(), None).unwrap();
    let (_, session, clip) = filled(&store);
    let known = store.add_job(clip, JobKind::Sound).unwrap();
    let file = Connection::open(folder.path().join("yard.sqlite")).unwrap();
    let spoil = |sql: &str| file.execute_batch(sql).unwrap();
    spoil("UPDATE job SET kind = 'dream' WHERE kind = 'proxy'");
    assert_eq!(store.take_job(Queue::Shown).unwrap().map(|j| j.id), Some(known));
    assert!(store.take_job(Queue::Shown).unwrap().is_none());
    assert_eq!(store.jobs().unwrap().len(), 1);
    assert!(matches!(store.job(known - 1), Err(StoreError::Unknown(_))));
    spoil("UPDATE session_log SET kind = 'song'");
    let said = store.session_log(session).unwrap_err().to_string();
    assert!(said.contains("`song`") && said.contains("later version"), "{said}");
    spoil(r#"UPDATE mark SET origin = '{"how":"dreamt"}'; UPDATE clip SET revision = 99"#);
    assert!(matches!(store.marks(clip), Err(StoreError::Unknown(_))));
    spoil("UPDATE mark SET origin = NULL, limb = 'XX'; UPDATE clip SET revision = 100");
    assert!(matches!(store.marks(clip), Err(StoreError::Unknown(_))));
    spoil("UPDATE clip SET proxy = 'perhaps'");
    assert!(matches!(store.clip(clip), Err(StoreError::Unknown(_))));
    spoil(r#"UPDATE clip SET proxy = 'ready', settings = '{"slow_factor":1,"moon":2}'"#);
    assert!(matches!(store.clip(clip), Err(StoreError::Damaged(_))));
}

#[test]
fn two_windows_that_change_different_settings_both_keep_theirs() {
    let folder = tempfile::tempdir().unwrap();
    let store = Store::open(folder.path(), None).unwrap();
    let (_, _, clip) = filled(&store);
    let (one, two) = (Person::coach(), Person::named("anke").unwrap());
    let seen = store.clip(clip).unwrap().settings;
    let rein = Settings { rein: Some("left".into()), ..seen.clone() };
    let slow = Settings { slow_factor: 4.0, slow_confirmed: true, ..seen.clone() };
    store.change_settings(clip, "rein", &one, &seen, &rein).unwrap();
    store.change_settings(clip, "slow", &two, &seen, &slow).unwrap();
    let now = store.clip(clip).unwrap().settings;
    assert_eq!((now.rein.as_deref(), now.slow_factor), (Some("left"), 4.0));
    // The same thing changed by both: whoever comes second is told.
    let other = Settings { rein: Some("right".into()), ..seen.clone() };
    let late = store.change_settings(clip, "late", &two, &seen, &other);
    assert!(matches!(late, Err(StoreError::Conflict)));
    // Taken back, only the later change goes.
    assert!(store.undo(clip, store.revision(clip).unwrap()).unwrap());
    let now = store.clip(clip).unwrap().settings;
    assert_eq!((now.rein.as_deref(), now.slow_factor), (Some("left"), 1.0));
}

#[test]
fn a_log_stands_in_order_of_time_and_refuses_what_cannot_be() {
    let folder = tempfile::tempdir().unwrap();
    let store = Store::open(folder.path(), None).unwrap();
    let (_, session, _) = filled(&store);
    store.log(session, &entry(MORNING - 5000)).unwrap();
    let times: Vec<i64> =
        store.session_log(session).unwrap().iter().map(|e| e.entry.at_ms - MORNING).collect();
    assert_eq!(times, [-5000, 0]);
    let long = NewEntry { says: "x".repeat(2001), ..entry(MORNING) };
    for bad in [long, entry(0), entry(i64::MAX)] {
        assert!(matches!(store.log(session, &bad), Err(StoreError::Invalid(_))));
    }
    assert!(matches!(store.log(99, &entry(MORNING)), Err(StoreError::NotFound { .. })));
}
