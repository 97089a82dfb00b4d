//! The queue survives restarts, and no job runs for ever or behind the coach's back; uploads know
//! how much has arrived; hands are told apart by person and frame rate.
#![allow(clippy::unwrap_used, reason = "a test that cannot go on has failed")]

mod common;

use common::footage;
use umlauf_store::hand::HandScatter;
use umlauf_store::job::{JobKind, JobState, MOST_ATTEMPTS, Queue};
use umlauf_store::person::Person;
use umlauf_store::yard::About;
use umlauf_store::{Store, StoreError};

fn yard() -> (tempfile::TempDir, Store, i64) {
    let folder = tempfile::tempdir().unwrap();
    let store = Store::open(folder.path(), None).unwrap();
    let clip = store.add_clip(None, "film", &footage(), &[0]).unwrap();
    (folder, store, clip)
}

#[test]
fn jobs_are_taken_in_the_order_they_were_asked_for_and_each_once() {
    let (_folder, store, clip) = yard();
    let kinds = [JobKind::Sound, JobKind::Proxy, JobKind::Filmstrip];
    let ids: Vec<i64> = kinds.iter().map(|k| store.add_job(clip, *k).unwrap()).collect();
    let long = store.add_job(clip, JobKind::Footfalls).unwrap();
    for (id, kind) in ids.iter().zip(kinds) {
        let job = store.take_job(Queue::Shown).unwrap().unwrap();
        assert_eq!((job.id, job.kind, job.state), (*id, kind, JobState::Running));
        assert_eq!(job.attempts, 1);
        assert!(job.began_ms > 1_600_000_000_000);
    }
    assert_eq!(store.take_job(Queue::Shown).unwrap(), None);
    // What takes long waits in a queue of its own, and nothing waits for it.
    assert_eq!(store.take_job(Queue::Looked).unwrap().map(|j| j.id), Some(long));
    store.job_progress(ids[0], 0.4).unwrap();
    assert!((store.job(ids[0]).unwrap().progress - 0.4).abs() < 1e-12);
    store.job_progress(ids[0], 7.0).unwrap();
    assert!((store.job(ids[0]).unwrap().progress - 1.0).abs() < 1e-12);
    store.end_job(ids[0], None).unwrap();
    store.end_job(ids[1], Some(&"x".repeat(999))).unwrap();
    let (done, failed) = (store.job(ids[0]).unwrap(), store.job(ids[1]).unwrap());
    assert_eq!((done.state, failed.state), (JobState::Done, JobState::Failed));
    assert_eq!(failed.says.len(), 400);
    let listed: Vec<i64> = store.jobs().unwrap().iter().map(|j| j.id).collect();
    assert_eq!(listed, [long, ids[2], ids[1], ids[0]]);
}

#[test]
fn a_job_that_kills_the_program_each_time_is_given_up() {
    let (folder, store, clip) = yard();
    let id = store.add_job(clip, JobKind::Proxy).unwrap();
    drop(store);
    for attempt in 1..=MOST_ATTEMPTS {
        // Each time the program dies in the midst of it and starts anew.
        let store = Store::open(folder.path(), None).unwrap();
        store.requeue_jobs().unwrap();
        let job = store.take_job(Queue::Shown).unwrap().unwrap();
        assert_eq!((job.id, job.attempts), (id, attempt));
    }
    let store = Store::open(folder.path(), None).unwrap();
    store.requeue_jobs().unwrap();
    let job = store.job(id).unwrap();
    assert_eq!(job.state, JobState::Failed);
    assert!(job.says.contains("too often"), "{}", job.says);
    assert_eq!(store.take_job(Queue::Shown).unwrap(), None);
    // The coach may ask for it once more, and then it begins from nothing.
    let again = store.steer_job(id, false).unwrap();
    assert_eq!((again.state, again.attempts, again.says.as_str()), (JobState::Waiting, 0, ""));
}

#[test]
fn jobs_of_a_clip_that_was_taken_away_wait_for_it_to_come_back() {
    let (_folder, store, clip) = yard();
    let (proxy, _) = (
        store.add_job(clip, JobKind::Proxy).unwrap(),
        store.add_job(clip, JobKind::Sound).unwrap(),
    );
    assert_eq!(store.take_job(Queue::Shown).unwrap().unwrap().id, proxy);
    let horse = store.add_horse("Tinne", None, false).unwrap().id;
    let session = store.add_session(horse, "2026-11-14", &About::default()).unwrap().id;
    store.move_clip(clip, session).unwrap();
    store.remove_horse(horse, true).unwrap();
    assert_eq!(store.put_back_jobs().unwrap(), [proxy]);
    assert_eq!(store.put_back_jobs().unwrap(), [0i64; 0]);
    assert!(store.take_job(Queue::Shown).unwrap().is_none());
    store.remove_horse(horse, false).unwrap();
    let again = store.take_job(Queue::Shown).unwrap().unwrap();
    assert_eq!((again.id, again.attempts), (proxy, 1));
}

#[test]
fn a_cancelled_job_stays_cancelled_whatever_its_work_comes_to() {
    let (_folder, store, clip) = yard();
    let id = store.add_job(clip, JobKind::Proxy).unwrap();
    store.take_job(Queue::Shown).unwrap();
    assert_eq!(store.steer_job(id, true).unwrap().state, JobState::Cancelled);
    store.job_progress(id, 0.9).unwrap();
    store.end_job(id, None).unwrap();
    let job = store.job(id).unwrap();
    assert_eq!((job.state, job.progress), (JobState::Cancelled, 0.0));
    store.requeue_jobs().unwrap();
    assert_eq!(store.take_job(Queue::Shown).unwrap(), None);
    // What has ended cannot be cancelled, what waits cannot be tried again.
    assert!(matches!(store.steer_job(id, true), Err(StoreError::Invalid(_))));
    store.steer_job(id, false).unwrap();
    assert!(matches!(store.steer_job(id, false), Err(StoreError::Invalid(_))));
    assert!(matches!(store.steer_job(99, true), Err(StoreError::NotFound { .. })));
}

#[test]
fn an_upload_knows_how_much_has_arrived_and_leaves_nothing_when_given_up() {
    let (_folder, store, _) = yard();
    let upload = store.begin_upload("abcdefgh", None, "ride.mp4", 1000).unwrap();
    assert_eq!((upload.received, upload.bytes), (0, 1000));
    std::fs::write(store.upload_file("abcdefgh"), [7; 300]).unwrap();
    assert_eq!(store.upload("abcdefgh").unwrap().received, 300);
    // Begun once more, it goes on.
    assert_eq!(store.begin_upload("abcdefgh", None, "ride.mp4", 1000).unwrap().received, 300);
    assert_eq!(store.uploads().unwrap().len(), 1);
    let file = store.upload_file("abcdefgh");
    store.end_upload("abcdefgh").unwrap();
    assert!(!file.exists() && store.uploads().unwrap().is_empty());
    assert!(matches!(store.upload("abcdefgh"), Err(StoreError::Missing(_))));
    for bad in ["short", "../../etc", &"x".repeat(65), "with space", "ümlauts8"] {
        let refused = store.begin_upload(bad, None, "ride.mp4", 10);
        assert!(matches!(refused, Err(StoreError::Invalid(_))), "{bad}");
    }
    let lost = store.begin_upload("abcdefgh", Some(77), "ride.mp4", 10);
    assert!(matches!(lost, Err(StoreError::NotFound { .. })));
}

#[test]
fn hands_are_told_apart_by_person_and_frame_rate() {
    let (_folder, store, _) = yard();
    let anke = Person::named("anke").unwrap();
    let hand = |person: &Person, frame_rate, scatter_s| HandScatter {
        person: person.clone(),
        frame_rate,
        scatter_s,
    };
    for h in [
        hand(&Person::coach(), Some(60.0), 0.006),
        hand(&Person::coach(), Some(240.0), 0.003),
        hand(&anke, Some(60.0), 0.010),
    ] {
        store.set_hand_scatter(&h).unwrap();
    }
    let of = |person: &Person, rate| store.hand_scatter(person, rate).unwrap().map(|h| h.scatter_s);
    assert_eq!(of(&Person::coach(), Some(50.0)), Some(0.006));
    assert_eq!(of(&Person::coach(), Some(200.0)), Some(0.003));
    assert_eq!(of(&anke, Some(240.0)), Some(0.010));
    assert_eq!(of(&Person::named("jan").unwrap(), Some(60.0)), None);
    // Measured again at the same rate, the later one counts.
    store.set_hand_scatter(&hand(&anke, Some(60.0), 0.008)).unwrap();
    assert_eq!(of(&anke, None), Some(0.008));
    store.forget_hand(&anke).unwrap();
    assert_eq!((of(&anke, None), of(&Person::coach(), None).is_some()), (None, true));
    for (rate, scatter) in [(Some(60.0), -0.001), (Some(60.0), f64::NAN), (Some(-1.0), 0.004)] {
        let refused = store.set_hand_scatter(&hand(&anke, rate, scatter));
        assert!(matches!(refused, Err(StoreError::Invalid(_))), "{rate:?} {scatter}");
    }
}
