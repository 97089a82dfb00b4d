//! Horses, their cards, and the coach's own marks are kept as they were said.
#![allow(clippy::unwrap_used, reason = "a test that cannot go on has failed")]

mod common;

use common::put;
use umlauf_store::archive::UNNUMBERED;
use umlauf_store::horse::HorseCard;
use umlauf_store::yard::About;
use umlauf_store::{Store, StoreError};

fn yard() -> (tempfile::TempDir, Store) {
    let folder = tempfile::tempdir().unwrap();
    let store = Store::open(folder.path(), None).unwrap();
    (folder, store)
}

#[test]
fn a_card_is_kept_over_a_restart_and_a_bad_one_changes_nothing() {
    let (folder, store) = yard();
    let horse = store.add_horse(" Lach ", Some(1.58), true).unwrap();
    assert_eq!(
        horse.card,
        HorseCard {
            name: "Lach".into(),
            withers_m: Some(1.58),
            gaited: true,
            ..HorseCard::default()
        }
    );
    let card = HorseCard {
        born: Some(2017),
        degree: Some(2),
        intended_gait: "rack".into(),
        weak_side: Some("right".into()),
        leads: "Left lead late.".into(),
        history: " from the mainland ".into(),
        goals: "Rack on a loose rein.".into(),
        cautions: "Shies at gulls.".into(),
        ..horse.card.clone()
    };
    store.change_horse(horse.id, &card).unwrap();
    let kept = HorseCard { history: "from the mainland".into(), ..card.clone() };
    for bad in [
        HorseCard { name: "x".repeat(121), ..card.clone() },
        HorseCard { withers_m: Some(0.2), ..card.clone() },
        HorseCard { withers_m: Some(f64::NAN), ..card.clone() },
        HorseCard { degree: Some(0), ..card.clone() },
        HorseCard { weak_side: Some("Left".into()), ..card.clone() },
        HorseCard { cautions: "ä".repeat(2001), ..card.clone() },
    ] {
        let refused = store.change_horse(horse.id, &bad);
        assert!(matches!(refused, Err(StoreError::Invalid(_))), "{bad:?}");
    }
    assert!(matches!(store.change_horse(99, &card), Err(StoreError::NotFound { .. })));
    drop(store);
    let again = Store::open(folder.path(), None).unwrap();
    assert_eq!(again.horse(horse.id).unwrap().card, kept);
    // Taken away and brought back, it is the same horse.
    again.remove_horse(horse.id, true).unwrap();
    assert!(again.horses().unwrap().is_empty());
    assert_eq!(again.removed_horses().unwrap()[0].card, kept);
    again.remove_horse(horse.id, false).unwrap();
    assert_eq!(again.horses().unwrap()[0].card, kept);
}

#[test]
fn marks_of_the_coach_stand_in_order_of_days() {
    let (_folder, store) = yard();
    let horse = store.add_horse("Lach", None, false).unwrap().id;
    let other = store.add_horse("Wrack", None, false).unwrap().id;
    let session = |horse, date| store.add_session(horse, date, &About::default()).unwrap().id;
    let late = session(horse, "2026-11-20");
    let early = session(horse, "2026-10-02");
    let gone = session(horse, "2026-11-01");
    let others = session(other, "2026-11-01");
    for (at, gait, figure, mark) in [
        (late, "trot", "tempo", 7.0),
        (early, "trot", "tempo", 5.5),
        (gone, "trot", "tempo", 1.0),
        (others, "trot", "tempo", 2.0),
        (early, "canter", "tempo", 3.0),
        (late, "trot", "air", 6.0),
    ] {
        store.set_coach_mark(at, gait, figure, Some(mark)).unwrap();
    }
    store.remove_session(gone, true).unwrap();
    // Said again, a mark is changed; taken back, it is gone.
    store.set_coach_mark(late, "trot", "tempo", Some(7.5)).unwrap();
    store.set_coach_mark(late, "trot", "air", None).unwrap();
    let all = store.coach_marks(horse, "trot").unwrap();
    let seen: Vec<(i64, &str, f64)> =
        all.iter().map(|m| (m.session, m.figure.as_str(), m.mark)).collect();
    assert_eq!(seen, [(early, "tempo", 5.5), (late, "tempo", 7.5)]);
    for bad in [-0.1, 10.1, f64::NAN] {
        let refused = store.set_coach_mark(late, "trot", "tempo", Some(bad));
        assert!(matches!(refused, Err(StoreError::Invalid(_))), "{bad}");
    }
    assert!(matches!(
        store.set_coach_mark(99, "trot", "tempo", Some(5.0)),
        Err(StoreError::NotFound { .. })
    ));
}

#[test]
fn a_yard_of_an_earlier_version_opens_with_empty_cards() {
    let (folder, store) = yard();
    let horse = store.add_horse("Lach", Some(1.6), false).unwrap().id;
    let tables = store.tables().unwrap();
    drop((folder, store));
    // What an earlier version wrote had none of the card's columns.
    let old = tables
        .into_iter()
        .filter(|t| t.name == "horse")
        .map(|mut t| {
            if t.name == "horse" {
                let kept = ["id", "name", "withers_m", "gaited", "removed"];
                let places: Vec<usize> = (0..t.columns.len())
                    .filter(|k| kept.contains(&t.columns[*k].as_str()))
                    .collect();
                t.columns = places.iter().map(|k| t.columns[*k].clone()).collect();
                for row in &mut t.rows {
                    *row = places.iter().map(|k| row[*k].clone()).collect();
                }
            }
            t
        })
        .collect::<Vec<_>>();
    let (_folder, fresh) = yard();
    put(&fresh, &old, UNNUMBERED).unwrap();
    let back = fresh.horse(horse).unwrap().card;
    assert_eq!((back.name.as_str(), back.withers_m), ("Lach", Some(1.6)));
    assert_eq!((back.degree, back.cautions.as_str()), (None, ""));
    // A yard that is not empty is not written over, the bin counted; choices give way.
    assert!(matches!(put(&fresh, &old, UNNUMBERED), Err(StoreError::Invalid(_))));
    let (_folder, chosen) = yard();
    chosen.set_choice("keys", Some("{}")).unwrap();
    assert!(chosen.tables_are_empty().unwrap());
    put(&chosen, &old, UNNUMBERED).unwrap();
    assert_eq!(chosen.choice("keys").unwrap(), None);
    assert!(!chosen.tables_are_empty().unwrap());
}
