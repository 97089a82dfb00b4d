//! Help with marking against horses whose truth is known: foretold strides and the coach's own
//! scatter.

use umlauf_gait::base::units::Seconds;
use umlauf_gait::marking::next_stride::next_stride;
use umlauf_gait::marking::scatter::{FEWEST_PAIRS, scatter};
use umlauf_gait::{Footfall, Limb, Side};
use umlauf_synth::marking::Marking;
use umlauf_synth::schooling::{Schooling, ride, rng, varied};

const GAITS: [&str; 3] = ["walk", "trot", "canter-working"];

/// Steady marking: stride CV 1.2 %, frames of 120 a second, no scatter beside them.
const STEADY: Marking = Marking {
    rate: 120.0,
    jitter: 0.0,
    missing: 0.0,
    mislabel: false,
    stride_cv: 0.012,
    serial: 0.3,
    drift: 0.0,
};

fn ridden(gait: &str, leads: &[(Side, Side)], run: u64) -> Schooling {
    let mut rng = rng(901, run);
    let template = varied(gait, &mut rng);
    ride(template, leads, &STEADY, &mut rng)
}

/// Marks up to a stride's end, and the time until which they are known.
fn known(s: &Schooling, strides: usize) -> (Vec<Footfall>, Seconds) {
    let until = Seconds(s.strides[strides].start + 1e-3 + 1.0 / STEADY.rate);
    (s.marks.iter().filter(|m| m.on.0 <= until.0).cloned().collect(), until)
}

/// How far a foretold footfall lies from the nearest true one of its limb, s.
fn miss(s: &Schooling, limb: Limb, on: f64) -> f64 {
    let own = s.marks.iter().filter(|m| m.limb == limb).map(|m| (m.on.0 - on).abs());
    own.fold(f64::INFINITY, f64::min)
}

#[test]
fn the_next_stride_is_foretold_to_the_horses_own_unsteadiness() {
    for gait in GAITS {
        let mut misses = Vec::new();
        for run in 0..60 {
            let s = ridden(gait, &[(Side::Left, Side::Left); 9], run);
            for strides in [2, 4, 7] {
                let (marks, until) = known(&s, strides);
                let next = next_stride(&marks, until);
                assert_eq!(next.len(), 4, "{gait}");
                assert!(next.windows(2).all(|w| w[0].on.0 <= w[1].on.0));
                for f in next {
                    assert!(f.on.0 > until.0 - s.template.stride_s * 0.2);
                    misses.push(miss(&s, f.limb, f.on.0) / s.template.stride_s);
                    let stance = f.off.map(|off| (off.0 - f.on.0) / s.template.stride_s);
                    assert!((stance.unwrap_or(0.0) - s.template.duty).abs() < 0.04);
                }
            }
        }
        misses.sort_by(f64::total_cmp);
        let at = |share: usize| misses[misses.len() * share / 100];
        // A stride differs from the one before by about √2·1.2 %; forecast from several it is less
        // than twice that nearly always.
        assert!(at(50) < 0.015 && at(95) < 0.04, "{gait}: {:.4} {:.4}", at(50), at(95));
    }
}

#[test]
fn a_stride_after_a_change_is_foretold_on_the_new_lead() {
    let mut leads = [(Side::Left, Side::Left); 8];
    leads[4..].fill((Side::Right, Side::Right));
    for run in 0..40 {
        let s = ridden("canter-working", &leads, run);
        // The changed stride itself is known; the next one keeps its places.
        let (marks, until) = known(&s, 5);
        let worst = next_stride(&marks, until)
            .into_iter()
            .map(|f| miss(&s, f.limb, f.on.0) / s.template.stride_s)
            .fold(0.0, f64::max);
        assert!(worst < 0.08, "{worst}");
    }
}

#[test]
fn nothing_is_foretold_from_too_little_or_where_marks_stand_already() {
    let s = ridden("trot", &[(Side::Left, Side::Left); 6], 1);
    let one = &s.marks[..3];
    assert!(next_stride(one, Seconds(99.0)).is_empty());
    assert!(next_stride(&[], Seconds(0.0)).is_empty());
    // From the middle of a ride that is marked on: nothing is missing.
    let (_, until) = known(&s, 3);
    assert!(next_stride(&s.marks, until).is_empty());
    // A limb that was lost long ago is not guessed at.
    let lost: Vec<Footfall> = s
        .marks
        .iter()
        .filter(|m| m.limb != Limb::LF || m.on.0 < s.strides[2].start)
        .cloned()
        .collect();
    let next = next_stride(&lost, Seconds(s.strides[5].end));
    assert!(!next.is_empty() && next.iter().all(|f| f.limb != Limb::LF));
}

#[test]
fn the_scatter_of_two_timings_holds_the_hand_that_made_them() {
    let (mut held, mut runs) = (0, 0);
    for run in 0..400 {
        let mut rng = rng(902, run);
        let template = varied("trot", &mut rng);
        let jitter = 0.003 + 0.00002 * f64::from(u32::try_from(run).unwrap_or(0));
        // Frames so fine that they add nothing: the hand alone scatters.
        let marking = Marking { rate: 10_000.0, jitter, ..STEADY };
        let s = ride(template, &[(Side::Left, Side::Left); 6], &STEADY, &mut rng);
        let mut again = || -> Vec<Footfall> {
            let hand = |m: &Footfall, n: f64| Footfall {
                on: Seconds(m.on.0 + marking.jitter * n),
                ..m.clone()
            };
            s.marks.iter().map(|m| hand(m, umlauf_synth::truth::normal(&mut rng))).collect()
        };
        let (first, second) = (again(), again());
        if let Some(found) = scatter(&first, &second) {
            runs += 1;
            assert_eq!(found.pairs, s.marks.len());
            held += usize::from((found.ci95.0..=found.ci95.1).contains(&jitter));
        }
    }
    assert_eq!(runs, 400);
    // 95 % of 400 within three standard deviations.
    assert!((367..=393).contains(&held), "{held}");
}

#[test]
fn too_few_pairs_tell_no_scatter_and_other_limbs_are_no_pair() {
    let s = ridden("walk", &[(Side::Left, Side::Left); 5], 3);
    assert!(scatter(&s.marks, &s.marks[..FEWEST_PAIRS - 1]).is_none());
    let other: Vec<Footfall> =
        s.marks.iter().map(|m| Footfall { limb: m.limb.opposite(), ..m.clone() }).collect();
    assert!(scatter(&s.marks, &other).is_none());
}
