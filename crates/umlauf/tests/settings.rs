//! Marks survive whatever is said of their clip: another slow-motion factor, a trim, a mirror, a
//! proxy made anew. Everything can be undone.
#![allow(clippy::unwrap_used, reason = "a test that cannot go on has failed")]

mod common;

use common::footage;
use proptest::prelude::*;
use umlauf::desk::{self, Desk};
use umlauf_gait::Limb;
use umlauf_store::Store;
use umlauf_store::clip::{ProxyState, Settings};
use umlauf_store::marks::{Change, Mark};
use umlauf_store::origin::Origin;
use umlauf_store::person::Person;
use umlauf_store::yard::About;

#[derive(Clone, Debug)]
enum Act {
    Slow(f64),
    Mirror,
    Trim(Option<i64>, Option<i64>),
    Rein(bool),
    Proxy,
    Mark(i64),
    Undo,
    Redo,
}

fn acts() -> impl Strategy<Value = Vec<Act>> {
    let act = prop_oneof![
        prop::sample::select(vec![1.0, 2.0, 4.0, 8.0, 5.5]).prop_map(Act::Slow),
        Just(Act::Mirror),
        (prop::option::of(0..3_000_000i64), prop::option::of(4_000_000..9_000_000i64))
            .prop_map(|(a, b)| Act::Trim(a, b)),
        any::<bool>().prop_map(Act::Rein),
        Just(Act::Proxy),
        (0..8_000_000i64).prop_map(Act::Mark),
        Just(Act::Undo),
        Just(Act::Redo),
    ];
    prop::collection::vec(act, 1..25)
}

/// A walking horse's clip, marked.
fn marked() -> (tempfile::TempDir, Store, i64) {
    let folder = tempfile::tempdir().unwrap();
    let store = Store::open(folder.path(), None).unwrap();
    let horse = store.add_horse("Tinne", Some(1.5), false).unwrap();
    let session = store.add_session(horse.id, "2026-11-14", &About::default()).unwrap();
    let footage = footage('1');
    let times: Vec<i64> = (0..1000).map(|k| k * 1_000_000 / 120).collect();
    let clip = store.add_clip(Some(session.id), "walk", &footage, &times).unwrap();
    let mut changes = Vec::new();
    for stride in 0..7 {
        for (limb, phase, stance) in [
            (Limb::LH, 0.0, 0.63),
            (Limb::LF, 0.24, 0.61),
            (Limb::RH, 0.5, 0.65),
            (Limb::RF, 0.74, 0.6),
        ] {
            let on = ((f64::from(stride) + phase) * 1.08 * 1e6) as i64;
            let id = format!("{limb}{stride}");
            let off_us = Some(on + (stance * 1.08e6) as i64);
            let mark = Mark {
                id,
                limb,
                on_us: on,
                off_us,
                origin: Origin::Stepped,
                author: Person::coach(),
                hoof: None,
            };
            changes.push(Change { before: None, after: Some(mark) });
        }
    }
    store.edit(clip, "marks", &changes).unwrap();
    (folder, store, clip)
}

fn act(store: &Store, clip: i64, k: usize, act: &Act) {
    let now = store.clip(clip).unwrap();
    let mut settings: Settings = now.settings.clone();
    match act {
        Act::Slow(factor) => settings.slow_factor = *factor,
        Act::Mirror => settings.mirrored = !settings.mirrored,
        Act::Trim(from, to) => {
            (settings.trim_from_us, settings.trim_to_us) = (*from, *to);
        }
        Act::Rein(left) => {
            settings.rein = Some(if *left { "left" } else { "right" }.to_owned());
        }
        Act::Proxy => return store.set_proxy(clip, ProxyState::Ready, k as i64).unwrap(),
        Act::Mark(on_us) => {
            let id = format!("x{k}");
            let mark = Mark {
                id,
                limb: Limb::RF,
                on_us: *on_us,
                off_us: None,
                origin: Origin::Stepped,
                author: Person::coach(),
                hoof: None,
            };
            let change = Change { before: None, after: Some(mark) };
            return store.edit(clip, &format!("e{k}"), &[change]).unwrap();
        }
        Act::Undo => {
            store.undo(clip, now.revision).unwrap();
            return;
        }
        Act::Redo => {
            store.redo(clip, now.revision).unwrap();
            return;
        }
    }
    store
        .change_settings(clip, &format!("s{k}"), &Person::coach(), &now.settings, &settings)
        .unwrap();
}

fn tempo(desk: &Desk) -> Option<f64> {
    Some(desk.analysis.bouts.first()?.tempo.as_ref()?.value)
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 40, failure_persistence: None, ..ProptestConfig::default() })]

    #[test]
    fn marks_survive_and_undo_leads_back(acts in acts()) {
        let (_folder, store, clip) = marked();
        let original = store.marks(clip).unwrap();
        let mut added = std::collections::HashSet::new();
        for (k, a) in acts.iter().enumerate() {
            act(&store, clip, k, a);
            if let Act::Mark(_) = a {
                added.insert(format!("x{k}"));
            }
            // But for undone ones, the marks stand as the file shows them, to the µs.
            let marks = store.marks(clip).unwrap();
            if !acts[..=k].iter().any(|a| matches!(a, Act::Undo)) {
                for m in &original {
                    prop_assert!(marks.contains(m));
                }
                prop_assert_eq!(marks.len(), original.len() + added.len());
            }
        }
        while store.undo(clip, store.clip(clip).unwrap().revision).unwrap() {}
        let clip_now = store.clip(clip).unwrap();
        prop_assert_eq!(clip_now.settings, Settings::default());
        prop_assert!(store.marks(clip).unwrap().is_empty());
    }

    #[test]
    fn settings_change_the_reading_as_they_say(factor in prop::sample::select(vec![2.0, 4.0, 8.0])) {
        let (_folder, store, clip) = marked();
        let plain = desk::desk(&store, clip, true).unwrap();
        act(&store, clip, 0, &Act::Slow(factor));
        let slow = desk::desk(&store, clip, true).unwrap();
        let (a, b) = (tempo(&plain).unwrap(), tempo(&slow).unwrap());
        prop_assert!((b - a * factor).abs() < 1e-9 * b);
        act(&store, clip, 1, &Act::Slow(1.0));
        act(&store, clip, 2, &Act::Mirror);
        let mirror = desk::desk(&store, clip, true).unwrap();
        let duty = |d: &Desk| {
            let duty = &d.analysis.bouts[0].duty_factor;
            [&duty.lf, &duty.rf, &duty.lh, &duty.rh].map(|e| e.as_ref().unwrap().value)
        };
        let [lf, rf, lh, rh] = duty(&plain);
        prop_assert_eq!(duty(&mirror), [rf, lf, rh, lh]);
        act(&store, clip, 3, &Act::Mirror);
        act(&store, clip, 4, &Act::Trim(Some(2_000_000), None));
        let trimmed = desk::desk(&store, clip, true).unwrap();
        prop_assert!(trimmed.analysis.bouts[0].strides < plain.analysis.bouts[0].strides);
        prop_assert_eq!(trimmed.marks.unwrap().len(), plain.marks.unwrap().len());
    }
}
