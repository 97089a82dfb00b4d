//! Films that were told wrongly once: without a horse, with one that is taken for part of another, with hooves of their shadow's tone, with a hind
//! that lands in the print of the fore, or beside it. How many of all films are told rightly is in
//! `docs/accuracy-films.md`.
#![allow(clippy::unwrap_used, reason = "a test that cannot go on has failed")]

use umlauf_synth::flat::conditions::{Handling, Shown};
use umlauf_synth::watching::asked::{Asked, Hard, RIDDEN, Ridden};
use umlauf_synth::watching::table::{Outcome, outcome, outcomes};

fn ridden(name: &str, strides: usize) -> Ridden {
    Ridden { strides, ..*RIDDEN.iter().find(|r| r.name == name).unwrap() }
}

fn told(name: &str, strides: usize, rate: f64, handling: Handling, seed: u64) -> Outcome {
    outcome(&Asked { ridden: ridden(name, strides), rate, handling, seed, hard: None, wraps: 0 })
}

#[test]
fn of_a_film_without_a_horse_nothing_is_told() {
    let shown = [Shown::Nothing, Shown::Car, Shown::Dog, Shown::Walker, Shown::Flag];
    let asked = |shown, (handling, seed)| {
        let hard = Some(Hard::Without(shown));
        Asked { ridden: ridden("trot", 3), rate: 30.0, handling, seed, hard, wraps: 0 }
    };
    let cameras = [(Handling::Fixed, 1_300_000), (Handling::Panning, 1_300_001)];
    let all: Vec<Asked> =
        shown.into_iter().flat_map(|s| cameras.map(|camera| asked(s, camera))).collect();
    for (asked, of) in all.iter().zip(outcomes(&all, |_, _| ())) {
        assert!(of.refused.is_some(), "{asked:?}");
    }
}

/// Of those in view: at least so many found, no more made up, so many of those found of the right limb.
fn is_told(of: &Outcome, found: f64, made_up: usize, limb: f64) {
    let c = &of.compared;
    let told = format!("{} of {}, limb {}, made up {}", c.found, c.in_view, c.limb, c.made_up);
    assert!(c.in_view >= 12 && c.found as f64 >= found * c.in_view as f64, "{told}");
    assert!(c.made_up <= made_up && c.limb as f64 >= limb * c.found as f64, "{told}");
}

#[test]
fn the_horse_that_is_filmed_is_told_and_not_the_one_behind_the_rail() {
    // It comes in when the other is alone in the picture, and leaves before it.
    let of = told("trot", 8, 30.0, Handling::Fixed, 2012);
    is_told(&of, 0.8, 0, 0.95);
}

#[test]
fn hooves_nearly_of_their_shadows_tone_stand_on_their_own_row() {
    let of = told("canter", 8, 60.0, Handling::Panning, 3002);
    is_told(&of, 0.95, 1, 0.95);
}

#[test]
fn a_hind_in_the_print_of_the_fore_is_a_stance_of_its_own() {
    let of = told("canter in four beats", 8, 120.0, Handling::Fixed, 2054);
    is_told(&of, 0.9, 1, 0.95);
}

#[test]
fn near_hooves_that_vanish_in_their_shadow_are_not_taken_for_far_ones() {
    let of = told("trot", 8, 60.0, Handling::Handheld, 5005);
    is_told(&of, 0.95, 1, 0.95);
}

#[test]
fn a_hind_that_lands_beside_a_standing_fore_is_found() {
    let of = told("stepping pace", 8, 60.0, Handling::Panning, 3003);
    is_told(&of, 0.8, 1, 0.95);
}

#[test]
fn a_horse_that_passes_another_is_not_lost() {
    let of = told("canter", 6, 60.0, Handling::Panning, 5014);
    is_told(&of, 0.9, 1, 0.95);
}
