//! What is counted when a film is watched: found, made up, of the right limb.
#![allow(clippy::unwrap_used, reason = "a test that cannot go on has failed")]

use umlauf_gait::base::limb::Limb;
use umlauf_signals::picture::may::May;
use umlauf_signals::picture::seen::Seen;
use umlauf_signals::picture::stance::Stance;
use umlauf_synth::flat::conditions::Handling;
use umlauf_synth::flat::film::{FlatFilm, MARGIN_S};
use umlauf_synth::watching::asked::{Asked, RIDDEN};
use umlauf_synth::watching::compared::Compared;
use umlauf_synth::watching::verdict::told;

const RATE: f64 = 60.0;

/// Everything that was ridden, seen so many frames late, by the limb that `as_limb` makes of each.
fn seen(film: &FlatFilm, late: f64, as_limb: impl Fn(Limb) -> Limb) -> Vec<Seen> {
    let stance = Stance {
        on: 0.0,
        ahead: 0.0,
        x: 0.0,
        row: 0.0,
        row_sd: 0.0,
        lit: 0.0,
        nearer: 0.0,
        may: May::ANY,
        is_one: 1.0,
    };
    let one = |limb: Limb, on: f64, off: f64| Seen {
        limb: as_limb(limb),
        on: (on + MARGIN_S) * RATE + late,
        on_sd: 0.25,
        heel_off: None,
        off: Some((off + MARGIN_S) * RATE),
        off_sd: 1.0,
        at: (0.0, 0.0),
        frame: 0,
        at_on: (0.0, 0.0),
        confidence: 0.9,
        why: vec![],
        stance,
    };
    let own = |l: Limb| film.truth.stances[l.index()].iter().map(move |s| (l, s.on, s.off));
    let mut all: Vec<Seen> =
        Limb::ALL.into_iter().flat_map(own).map(|(l, on, off)| one(l, on, off)).collect();
    all.sort_by(|a, b| a.on.total_cmp(&b.on));
    all
}

#[test]
fn the_truth_is_all_found_and_what_is_late_or_of_the_other_limb_is_not() {
    let asked = Asked {
        ridden: RIDDEN[2],
        rate: RATE,
        handling: Handling::Panning,
        seed: 4001,
        hard: None,
        wraps: 0,
    };
    let film = asked.film();
    let all = Compared::of(&film, &seen(&film, 0.0, |l| l));
    assert!(all.in_view > 20);
    assert_eq!((all.found, all.limb, all.made_up), (all.in_view, all.in_view, 0));
    assert!(all.on.iter().chain(&all.off).all(|e| e.abs() < 1e-9));
    let late = Compared::of(&film, &seen(&film, 0.5, |l| l));
    assert_eq!((late.found, late.made_up), (all.in_view, 0));
    assert!(late.on.iter().all(|e| (e - 0.5).abs() < 1e-9));
    assert!(late.on_sds.iter().all(|z| (z - 2.0).abs() < 1e-9));
    // Two frames late nothing is found, but where another hoof landed by then.
    let too_late = Compared::of(&film, &seen(&film, 2.0, |l| l));
    assert!(too_late.made_up > all.in_view / 2 && too_late.limb == 0);
    let swapped = Compared::of(&film, &seen(&film, 0.0, Limb::opposite));
    assert_eq!((swapped.found, swapped.limb), (all.in_view, 0));
    assert!(swapped.sure.iter().all(|(_, right)| !right));
}

#[test]
fn a_late_change_is_told_from_the_truth_and_the_other_lead_from_swapped_limbs() {
    for (seed, ridden) in [(4002, RIDDEN[3]), (4006, RIDDEN[3]), (4000, RIDDEN[2])] {
        let asked =
            Asked { ridden, rate: RATE, handling: Handling::Panning, seed, hard: None, wraps: 0 };
        let film = asked.film();
        let right = told(&asked, &film, &seen(&film, 0.0, |l| l));
        assert!(right.gait && right.tempo.unwrap().abs() < 1e-3 && !right.late_made_up);
        let other = told(&asked, &film, &seen(&film, 0.0, Limb::opposite));
        match asked.late_by() {
            Some(late) => assert!(late != 0 && right.late_found == Some(true)),
            None => assert_eq!((right.lead, other.lead), (Some(true), Some(false))),
        }
    }
}
