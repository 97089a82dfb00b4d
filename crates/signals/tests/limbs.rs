//! Limbs of strides in every gait, from the synthetic horse's own phases, where hardly anything tells near from far.
#![allow(clippy::unwrap_used, reason = "a test that cannot go on has failed")]

use rand::{Rng, SeedableRng};
use rand_chacha::ChaCha8Rng;
use umlauf_gait::base::limb::{Limb, Side};
use umlauf_signals::picture::may::May;
use umlauf_signals::picture::sides::{limbs, limbs_about};
use umlauf_signals::picture::stance::Stance;
use umlauf_synth::template::Template;
use umlauf_synth::truth::{Change, Ride, Truth};

fn noise(rng: &mut ChaCha8Rng) -> f64 {
    // Twelve uniform numbers are a bell, nearly.
    (0..12).map(|_| rng.random_range(-0.5..0.5)).sum()
}

/// Ten strides at 60 frames a second, of a horse whose left side is seen; the hinds' rows differ by as many
/// pixels as `apart`, the fores' by nothing.
fn strides(gait: &str, apart: f64, rng: &mut ChaCha8Rng) -> Vec<(Limb, Stance)> {
    let template = Template::named(gait).unwrap();
    let mut all: Vec<(Limb, Stance)> = (0..10)
        .flat_map(|k| Limb::ALL.map(|limb| (k, limb)))
        .map(|(k, limb)| {
            let phase = template.phases[limb.index()] + 0.012 * noise(rng);
            let on = 60.0 * template.stride_s * (f64::from(k) + phase);
            let side = if limb.side() == Side::Left { 0.5 } else { -0.5 };
            let row = if limb.is_hind() { side * apart } else { 0.0 };
            let stance = Stance {
                on,
                ahead: if limb.is_hind() { -0.35 } else { 0.3 } + 0.05 * noise(rng),
                x: 4.0 * on,
                row: 300.0 + row + 0.35 * noise(rng),
                row_sd: 0.0,
                lit: 0.0,
                nearer: 0.0,
                may: May::ANY,
                is_one: 1.0,
            };
            (limb, stance)
        })
        .collect();
    all.sort_by(|a, b| a.1.on.total_cmp(&b.1.on));
    all
}

const GAITS: [&str; 6] =
    ["walk", "trot", "canter", "canter-four-beat", "flat-walk", "stepping-pace"];

/// Two fores of a canter, of a short clip, said the wrong way round: that holds for those two, and what the rows of all
/// the others say is heard as before.
#[test]
fn a_wrong_word_holds_for_its_own_hoof_alone() {
    let mut rng = ChaCha8Rng::seed_from_u64(47);
    let (mut right, mut all) = (0, 0);
    for _ in 0..200 {
        let mut own = strides("canter", 0.0, &mut rng);
        own.truncate(20);
        for (limb, stance) in &mut own {
            let low = if limb.side() == Side::Left { 0.7 } else { -0.7 };
            stance.row += if limb.is_hind() { 0.0 } else { low + 0.6 * noise(&mut rng) };
        }
        let stances: Vec<Stance> = own.iter().map(|s| s.1).collect();
        let fores: Vec<usize> = (0..own.len()).filter(|k| !own[*k].0.is_hind()).collect();
        let said: Vec<(usize, Limb)> =
            fores[2..4].iter().map(|k| (*k, own[*k].0.opposite())).collect();
        let named = limbs_about(&stances, Side::Left, &said);
        assert!(said.iter().all(|(k, limb)| named[*k].limb == *limb));
        let others = fores.iter().filter(|k| said.iter().all(|s| s.0 != **k));
        let told: Vec<bool> = others.map(|k| named[*k].limb == own[*k].0).collect();
        right += told.iter().filter(|t| **t).count();
        all += told.len();
    }
    assert!(10 * right >= 7 * all, "{right} of {all}");
}

/// In walk and its kin a fore lands after the hind of its own side, in trot and canter with the other one or a little
/// later: fores whose rows tell nothing go with hinds whose rows do.
#[test]
fn fores_go_with_the_hinds_in_every_gait() {
    let mut rng = ChaCha8Rng::seed_from_u64(41);
    for gait in GAITS {
        let (mut right, mut all) = (0, 0);
        for _ in 0..20 {
            let own = strides(gait, 1.6, &mut rng);
            let named = limbs(&own.iter().map(|s| s.1).collect::<Vec<_>>(), Side::Left);
            right += own.iter().zip(&named).filter(|(s, n)| s.0 == n.limb).count();
            all += own.len();
        }
        assert!(right * 100 >= all * 98, "{gait}: {right} of {all}");
    }
}

/// Where the near hooves are not seen, for they have the tone of their shadow, near limbs end higher in the picture
/// than far ones: a row that is known to say nothing makes no limb sure, and least of all the wrong one.
#[test]
fn rows_of_hooves_that_vanish_make_nothing_sure() {
    let mut rng = ChaCha8Rng::seed_from_u64(42);
    for gait in GAITS {
        for _ in 0..10 {
            let mut own = strides(gait, 2.0, &mut rng);
            for (_, s) in own.iter_mut().filter(|(limb, _)| limb.side() == Side::Left) {
                (s.row, s.row_sd) = (s.row - 6.0, 6.0);
            }
            let named = limbs(&own.iter().map(|s| s.1).collect::<Vec<_>>(), Side::Left);
            let sure = named.iter().map(|n| n.sure).fold(0.0, f64::max);
            assert!(sure < 0.75, "{gait}: {sure}");
        }
    }
}

/// Light that tells five of six stances, near from far.
fn lit(own: &mut [(Limb, Stance)], rng: &mut ChaCha8Rng) {
    for (limb, s) in own {
        let near = (limb.side() == Side::Left) == rng.random_bool(5.0 / 6.0);
        s.lit = if near { 1.6 } else { -1.6 };
    }
}

/// Where rows say nothing, the far limbs' shade tells them, of a whole clip surely.
#[test]
fn light_tells_the_sides_of_a_clip_whose_rows_say_nothing() {
    let mut rng = ChaCha8Rng::seed_from_u64(43);
    for gait in GAITS {
        let (mut right, mut sure, mut all) = (0, 0, 0);
        for _ in 0..20 {
            let mut own = strides(gait, 0.0, &mut rng);
            own.iter_mut().for_each(|(_, s)| s.row_sd = 6.0);
            lit(&mut own, &mut rng);
            let named = limbs(&own.iter().map(|s| s.1).collect::<Vec<_>>(), Side::Left);
            right += own.iter().zip(&named).filter(|(s, n)| s.0 == n.limb).count();
            sure += named.iter().filter(|n| n.sure > 0.9).count();
            all += own.len();
        }
        assert!(right * 100 >= all * 96 && sure * 2 > all, "{gait}: {right}, {sure} of {all}");
    }
}

/// Rows that run the wrong way for a whole clip, for a shadow was taken for the hooves, do not outvote light; but nobody
/// can be sure then.
#[test]
fn rows_that_light_contradicts_are_not_believed() {
    let mut rng = ChaCha8Rng::seed_from_u64(44);
    for gait in GAITS {
        let (mut right, mut all) = (0, 0);
        for _ in 0..20 {
            let mut own = strides(gait, -2.0, &mut rng);
            lit(&mut own, &mut rng);
            let named = limbs(&own.iter().map(|s| s.1).collect::<Vec<_>>(), Side::Left);
            right += own.iter().zip(&named).filter(|(s, n)| s.0 == n.limb).count();
            all += own.len();
            let sure = named.iter().map(|n| n.sure).fold(0.0, f64::max);
            assert!(sure < 0.75, "{gait}: {sure}");
        }
        assert!(right * 100 >= all * 95, "{gait}: {right} of {all}");
    }
}

/// A change that is late behind, of a horse whose far fores are not seen to their hooves: their rows do not say how deep
/// they stand, but which stances are of one limb, and light says which.
#[test]
fn halves_of_rows_that_say_nothing_tell_a_late_change() {
    const LATE: &[Change] = &[
        Change { stride: 5, hinds: false, fores: true },
        Change { stride: 6, hinds: true, fores: false },
    ];
    let mut rng = ChaCha8Rng::seed_from_u64(45);
    let (mut right, mut all) = (0, 0);
    for seed in 0..20 {
        let truth = Truth::new(Ride {
            template: *Template::named("canter").unwrap(),
            strides: 10,
            seed,
            stride_cv: 0.015,
            serial: 0.3,
            phase_sd: 0.006,
            duty_sd: 0.008,
            withers: 1.65,
            rein: Side::Left,
            from_y: 0.0,
            line_x: 0.0,
            changes: LATE,
            then: None,
        });
        let mut own: Vec<(Limb, Stance)> = vec![];
        for limb in Limb::ALL {
            for s in &truth.stances[limb.index()] {
                let near = limb.side() == Side::Left;
                let vanishes = !limb.is_hind() && !near;
                let lit = if near == rng.random_bool(5.0 / 6.0) { 1.6 } else { -1.6 };
                let row = 300.0 + if near { 1.0 } else { -1.0 } + 0.2 * noise(&mut rng);
                let stance = Stance {
                    on: 60.0 * s.on,
                    ahead: if limb.is_hind() { -0.35 } else { 0.3 } + 0.05 * noise(&mut rng),
                    x: 240.0 * s.on,
                    row: if vanishes { row - 4.0 } else { row },
                    row_sd: if vanishes { 6.0 } else { 0.0 },
                    nearer: 0.0,
                    lit: if limb.is_hind() { 0.0 } else { lit },
                    may: May::ANY,
                    is_one: 1.0,
                };
                own.push((limb, stance));
            }
        }
        own.sort_by(|a, b| a.1.on.total_cmp(&b.1.on));
        let named = limbs(&own.iter().map(|s| s.1).collect::<Vec<_>>(), Side::Left);
        right += own.iter().zip(&named).filter(|(s, n)| s.0 == n.limb).count();
        all += own.len();
    }
    assert!(right * 100 >= all * 98, "{right} of {all}");
}
