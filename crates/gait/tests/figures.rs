//! Every figure of a bout against closed forms of the stride that was drawn, and its interval
//! against rides whose truth is known.
#![allow(clippy::unwrap_used, reason = "a test that cannot go on has failed")]
#![allow(clippy::cast_precision_loss, reason = "counts of strides are small")]

use proptest::prelude::*;
use rand::{Rng as _, SeedableRng as _};
use rand_chacha::ChaCha8Rng;
use umlauf_gait::analysis::analyse::Analysis;
use umlauf_gait::base::gait::Gait;
use umlauf_gait::base::units::{FrameRate, Seconds};
use umlauf_gait::bouts::bout_figures::BoutFigures;
use umlauf_gait::bouts::missing::Missing;
use umlauf_gait::figures::canter_beats::{BeatClass, Beats};
use umlauf_gait::stats::estimate::Estimate;
use umlauf_gait::{Footfall, Limb, Options, Side, analyse};

/// A stride: phases and duty factors of LF, RF, LH, RH.
#[derive(Clone, Copy, Debug)]
struct Drawn {
    phases: [f64; 4],
    duty: [f64; 4],
}

const TROT: Drawn = Drawn { phases: [0.5, 0.0, 0.0, 0.5], duty: [0.42; 4] };
const WALK: Drawn = Drawn { phases: [0.25, 0.75, 0.0, 0.5], duty: [0.62; 4] };
/// Left lead: right hind, then left hind with right fore, then left fore.
const CANTER: Drawn = Drawn { phases: [0.5, 0.26, 0.26, 0.0], duty: [0.4; 4] };

impl Drawn {
    /// Strides of these durations, one after the other.
    fn ride(self, durations: &[f64]) -> Vec<Footfall> {
        let mut marks = Vec::new();
        let mut now = 1.0;
        for t in durations {
            for limb in Limb::ALL {
                let k = limb.index();
                let on = now + self.phases[k] * t;
                let off = Some(Seconds(on + self.duty[k] * t));
                marks.push(Footfall { off, ..Footfall::new(limb, Seconds(on)) });
            }
            now += t;
        }
        marks
    }
}

fn exact() -> Options {
    Options { timing_sd: Some(Seconds(1e-6)), ..Options::default() }
}

/// The only bout of a ride.
fn bout(marks: &[Footfall], options: &Options) -> BoutFigures {
    let Analysis { measured, .. } = analyse(marks, options);
    assert_eq!(measured.bouts.len(), 1, "{:?}", measured.bouts);
    measured.bouts.into_iter().next().unwrap()
}

fn near(a: f64, b: f64) -> bool {
    (a - b).abs() < 1e-6 * b.abs().max(1.0)
}

#[track_caller]
fn is(found: Option<Estimate>, value: f64) {
    let found = found.unwrap().value;
    assert!((found - value).abs() < 1e-6 * value.abs().max(1.0), "{found} is not {value}");
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 150, failure_persistence: None, ..ProptestConfig::default() })]

    #[test]
    fn a_trot_has_the_figures_it_was_drawn_with(
        t in 0.66..0.84f64,
        left in -0.015..0.015f64,
        right in -0.015..0.015f64,
        step in 0.475..0.525f64,
        duty in prop::array::uniform4(0.33..0.41f64),
    ) {
        // Left hind at 0 and right fore `left` after it; right hind at `step` and left fore `right`
        // after that.
        let drawn = Drawn { phases: [step + right, left, 0.0, step], duty };
        let b = bout(&drawn.ride(&[t; 14]), &exact());
        prop_assert_eq!(b.label.gait, Gait::Trot);
        prop_assert!(near(b.tempo.unwrap().tempo.value, 60.0 / t));
        prop_assert!(near(b.tempo.unwrap().duration.value, t));
        prop_assert!(near(b.dissociation[0].unwrap().value, left * t));
        prop_assert!(near(b.dissociation[1].unwrap().value, right * t));
        // The fore after the hind of its side: left fore after left hind, right after right.
        let lap = f64::midpoint(step + right, (left - step).rem_euclid(1.0));
        prop_assert!(near(b.lap.unwrap().value, lap));
        // The step that ends with the left hind lasts 1 − step, the other one step.
        let (l, r) = (1.0 - step, step);
        prop_assert!(near(b.step_asymmetry.unwrap().value, 100.0 * (l - r) / (0.5 * (l + r))));
        for limb in Limb::ALL {
            prop_assert!(near(b.duty[limb.index()].unwrap().value, duty[limb.index()]));
        }
        for (pair, [l, r]) in [(0, [0, 1]), (1, [2, 3])] {
            let (l, r) = (duty[l], duty[r]);
            let index = 100.0 * (l - r) / (0.5 * (l + r));
            prop_assert!(near(b.stance_symmetry[pair].unwrap().value, index));
        }
        // From the later end of one diagonal to the earlier beginning of the next, both ways.
        let [lf, rf, lh, rh] = [
            step + right + duty[0], left + duty[1], duty[2], step + duty[3],
        ];
        let first = step.min(step + right) - rf.max(lh);
        let second = 1.0 + f64::min(0.0, left) - lf.max(rh);
        let air = f64::midpoint(first, second) * t;
        prop_assert!((b.suspension.unwrap().each.value - air).abs() < 1e-6);
        prop_assert_eq!(b.suspension.unwrap().phases, Some(2));
    }

    #[test]
    fn a_walk_has_the_evenness_it_was_drawn_with(
        t in 0.98..1.25f64,
        a in 0.21..0.29f64,
        half in 0.47..0.53f64,
        more in -0.02..0.02f64,
    ) {
        // Lateral sequence: left hind, left fore, right hind, right fore.
        let (b, c) = (half - a, a + more);
        let drawn = Drawn { phases: [a, a + b + c, 0.0, a + b], duty: [0.62; 4] };
        let found = bout(&drawn.ride(&[t; 12]), &exact());
        prop_assert_eq!(found.label.gait, Gait::Walk);
        let last = 1.0 - a - b - c;
        let square = [a, b, c, last].iter().map(|g| (100.0 * g - 25.0).powi(2)).sum::<f64>() / 4.0;
        let found_evenness = found.beat_evenness_pct.unwrap();
        prop_assert!((found_evenness.value - square.sqrt()).abs() < 2e-3);
        let (lo, hi) = found_evenness.ci95.unwrap();
        prop_assert!(lo <= square.sqrt() + 1e-9 && square.sqrt() <= hi + 1e-9);
        prop_assert!(near(found.lap.unwrap().value, f64::midpoint(a, c)));
        prop_assert!(near(found.tempo.unwrap().tempo.value, 60.0 / t));
        // A walk has no air and is not asked for it.
        prop_assert!(found.suspension.is_none());
        prop_assert!(found.why.contains(&("suspension_s", Missing::NotInThisGait)));
    }

    #[test]
    fn a_canter_has_the_split_and_the_air_it_was_drawn_with(
        t in 0.56..0.64f64,
        split in -0.04..0.04f64,
        lead in prop::bool::ANY,
        duty in 0.30..0.40f64,
    ) {
        let mut phases = [0.5, 0.26 + split, 0.26, 0.0];
        if lead {
            phases = [phases[1], phases[0], phases[3], phases[2]];
        }
        let b = bout(&Drawn { phases, duty: [duty; 4] }.ride(&[t; 14]), &exact());
        prop_assert_eq!(b.label.gait, Gait::Canter);
        let side = if lead { Side::Right } else { Side::Left };
        prop_assert_eq!((b.label.hind_lead, b.label.fore_lead), (Some(side), Some(side)));
        let canter = b.canter.unwrap();
        prop_assert!(near(canter.dissociation.value, split * t));
        // The leading fore leaves last, the next stride's first hind lands first.
        prop_assert!((b.suspension.unwrap().each.value - (0.5 - duty) * t).abs() < 1e-6);
        // In canter no diagonal but its own lands together, and the steps of the hinds are no steps.
        prop_assert!(b.step_asymmetry.is_none() && b.lap.is_none());
        prop_assert_eq!(b.dissociation.iter().flatten().count(), 1);
    }
}

#[test]
fn stances_that_overlap_count_as_air_below_nothing() {
    let piaffe = Drawn { duty: [0.55; 4], ..TROT };
    let b = bout(&piaffe.ride(&[1.1; 12]), &exact());
    assert_eq!(b.label.gait, Gait::Piaffe);
    is(b.suspension.map(|s| s.each), -0.05 * 1.1);
    assert_eq!(b.suspension.unwrap().phases, Some(0));
    // One diagonal in the air and one not: the mean is read, and its sign.
    let lame = Drawn { duty: [0.53, 0.44, 0.44, 0.53], ..TROT };
    let b = bout(&lame.ride(&[0.8; 12]), &exact());
    is(b.suspension.map(|s| s.each), 0.8 * f64::midpoint(0.06, -0.03));
}

#[test]
fn offs_that_were_not_marked_are_missed_and_said_to_be() {
    let mut marks = TROT.ride(&[0.75; 10]);
    for m in marks.iter_mut().filter(|m| m.limb == Limb::RF) {
        m.off = None;
    }
    let b = bout(&marks, &exact());
    assert!(b.suspension.is_none() && b.duty[Limb::RF.index()].is_none());
    is(b.duty[Limb::LF.index()], 0.42);
    assert!(b.stance_symmetry[0].is_none() && b.stance_symmetry[1].is_some());
    let bare: Vec<Footfall> = marks.iter().map(|m| Footfall { off: None, ..m.clone() }).collect();
    let b = bout(&bare, &exact());
    assert!(b.why.contains(&("suspension_s", Missing::NoOffs)), "{:?}", b.why);
    assert!(b.duty.iter().all(Option::is_none));
}

/// Durations about 0.75 s with a known coefficient of variation, in a fixed irregular order.
fn wandering(cv: f64, n: usize) -> Vec<f64> {
    let mut rng = ChaCha8Rng::seed_from_u64(7);
    let raw: Vec<f64> = (0..n).map(|_| rng.random_range(-1.0..1.0)).collect();
    let mean = raw.iter().sum::<f64>() / n as f64;
    let sd = (raw.iter().map(|r| (r - mean).powi(2)).sum::<f64>() / (n as f64 - 1.0)).sqrt();
    raw.iter().map(|r| 0.75 * (1.0 + cv * (r - mean) / sd)).collect()
}

#[test]
fn regularity_is_the_spread_of_the_strides_and_not_of_the_marks() {
    for cv in [0.02, 0.05] {
        let durations = wandering(cv, 40);
        // The first and the last stride are on the way in and out.
        let inner = &durations[1..38];
        let mean = inner.iter().sum::<f64>() / 37.0;
        let variance = inner.iter().map(|t| (t - mean).powi(2)).sum::<f64>() / 36.0;
        let b = bout(&TROT.ride(&durations), &exact());
        let found = b.regularity.unwrap();
        assert!(found.resolved && found.at_most.is_none());
        assert!((found.value - 100.0 * variance.sqrt() / mean).abs() < 1e-3, "{found:?}");
        let (lo, hi) = found.ci95.unwrap();
        assert!(lo < 100.0 * cv && 100.0 * cv < hi, "{found:?}");
        // SciPy, chi2.ppf([0.975, 0.025], 36): the interval of a standard deviation.
        let ends = [(36.0_f64 / 54.437_29).sqrt(), (36.0_f64 / 21.335_88).sqrt()];
        for (end, factor) in [lo, hi].into_iter().zip(ends) {
            let formula = 100.0 * variance.sqrt() / mean * factor;
            // Strides may have been alike, which makes a spread less sure than that of chance.
            assert!((end / formula - 1.0).abs() < 0.12, "{end} {formula}");
        }
    }
}

/// The marks as a clip at this rate shows them: on the first frame that shows the contact.
fn filmed(marks: &[Footfall], rate: f64) -> (Vec<Footfall>, Options) {
    let frame = |s: Seconds| Seconds((s.0 * rate).ceil() / rate);
    let marks = marks
        .iter()
        .map(|m| Footfall { on: frame(m.on), off: m.off.map(frame), ..m.clone() })
        .collect();
    let frame_rate = Some(FrameRate::new(rate).unwrap());
    (marks, Options { frame_rate, ..Options::default() })
}

#[test]
fn a_steady_horse_filmed_slowly_is_not_called_irregular() {
    for t in [0.741, 0.75, 0.757, 0.768, 0.781] {
        let (marks, options) = filmed(&TROT.ride(&[t; 24]), 30.0);
        let found = bout(&marks, &options).regularity.unwrap();
        assert!(!found.resolved && found.ci95.is_none(), "{t}: {found:?}");
        // One frame of 33 ms hides some per cent of such a stride, and says how many.
        let most = found.at_most.unwrap();
        assert!(most > 0.5 && most < 6.0, "{t}: {found:?}");
        let fine = filmed(&TROT.ride(&[t; 24]), 240.0);
        let fine = bout(&fine.0, &fine.1).regularity.unwrap();
        assert!(fine.at_most.unwrap_or(fine.value) < most / 3.0, "{t}: {fine:?}");
    }
}

#[test]
fn a_slow_drift_is_told_by_its_slope_and_flagged_by_its_total() {
    // From 80 strides/min, 4 strides/min a minute faster: over 60 s that is 5 %.
    for (slope, flagged) in [(4.0, true), (-4.0, true), (1.0, false), (0.0, false)] {
        let (mut now, mut durations) = (0.0, Vec::new());
        while now < 60.0 {
            let t = 60.0 / (80.0 + slope * now / 60.0);
            durations.push(t);
            now += t;
        }
        let found = bout(&TROT.ride(&durations), &exact()).drift.unwrap();
        assert!((found.per_min - slope).abs() < 0.02, "{slope}: {found:?}");
        assert!((found.total_share - slope / (80.0 + slope / 2.0)).abs() < 2e-3, "{found:?}");
        assert_eq!(found.flagged, flagged, "{slope}: {found:?}");
    }
}

#[test]
fn canter_strides_get_a_class_only_when_their_whole_interval_lies_in_it() {
    let t = 0.6;
    let of = |split_s: f64, sd: f64| {
        let phases = [0.5, 0.26 + split_s / t, 0.26, 0.0];
        let options = Options { timing_sd: Some(Seconds(sd)), ..Options::default() };
        let found = bout(&Drawn { phases, ..CANTER }.ride(&[t; 12]), &options).canter.unwrap();
        (found.beats.unwrap(), found.verdict)
    };
    // Limits 20 and 40 ms; a gap is known to ± 2.83 σ.
    let all = |three, split, four, unresolved| Beats { three, split, four, unresolved };
    for (split_s, sd, beats, verdict) in [
        (0.005, 0.001, all(9, 0, 0, 0), Some(BeatClass::Three)),
        (0.030, 0.001, all(0, 9, 0, 0), Some(BeatClass::Split)),
        (0.055, 0.001, all(0, 0, 9, 0), Some(BeatClass::Four)),
        (-0.030, 0.001, all(0, 9, 0, 0), Some(BeatClass::Split)),
        (-0.055, 0.001, all(0, 0, 9, 0), Some(BeatClass::Four)),
        (0.019, 0.001, all(0, 0, 0, 9), Some(BeatClass::Three)),
        (0.005, 0.010, all(0, 0, 0, 9), Some(BeatClass::Three)),
    ] {
        let (found, said) = of(split_s, sd);
        let total = found.three + found.split + found.four + found.unresolved;
        assert_eq!((found, total), (beats, 9), "{split_s} {sd}");
        if sd < 0.002 && found.unresolved == 0 {
            assert_eq!(said, verdict, "{split_s} {sd}");
        }
    }
    // Without any known error nothing is put into a class.
    let bare = bout(&CANTER.ride(&[t; 12]), &Options::default());
    assert!(bare.canter.unwrap().beats.is_none() && bare.canter.unwrap().verdict.is_none());
}

#[test]
fn good_strides_are_counted_up_to_the_one_that_is_not() {
    let mut durations = [0.75; 20];
    durations[7] = 0.75 * 1.09;
    durations[8] = 0.75 * 1.055;
    durations[14] = 0.75 * 0.92;
    let runs = bout(&TROT.ride(&durations), &exact()).good_runs.unwrap();
    let runs: Vec<(usize, usize)> = runs.iter().map(|r| (r.first, r.strides)).collect();
    assert_eq!(runs, [(0, 7), (8, 6), (15, 4)]);
    // An error of the marks widens the limit: what may be the marks' is not held against the horse.
    let rough = Options { timing_sd: Some(Seconds(0.02)), ..Options::default() };
    let runs = bout(&TROT.ride(&durations), &rough).good_runs.unwrap();
    assert_eq!(runs.iter().map(|r| r.strides).collect::<Vec<_>>(), [19]);
    assert!(bout(&TROT.ride(&durations), &Options::default()).good_runs.is_none());
}

#[test]
fn fewer_strides_say_less_and_one_says_no_spread() {
    let one = bout(&TROT.ride(&[0.75, 0.75]), &exact());
    assert_eq!(one.strides, 1);
    assert!(near(one.tempo.unwrap().tempo.value, 80.0));
    assert!(one.tempo.unwrap().tempo.ci95.is_none() && one.regularity.is_none());
    assert!(one.drift.is_none() && one.good_runs.is_none());
    let width = |n: usize| {
        let durations: Vec<f64> = wandering(0.03, n);
        let t = bout(&TROT.ride(&durations), &exact()).tempo.unwrap();
        t.tempo.half_width().unwrap()
    };
    assert!(width(6) > 1.3 * width(20) && width(20) > 1.3 * width(80));
}

#[test]
fn a_horse_without_spread_is_known_to_the_two_marks_at_its_ends() {
    let sd = 0.004;
    let options = Options { timing_sd: Some(Seconds(sd)), ..Options::default() };
    let tempo = bout(&TROT.ride(&[0.75; 14]), &options).tempo.unwrap();
    // Twelve steady strides: SE = √2·σ/12. A spread hidden in the marks may add some to it.
    let least = 1.96 * 2f64.sqrt() * sd / 12.0;
    let half = tempo.duration.half_width().unwrap();
    assert!(half > least && half < 4.0 * least, "{half} {least}");
    // The tempo's error is the duration's, in strides/min: 60/T² times as large.
    let slope = 60.0 / (0.75 * 0.75);
    assert!((tempo.tempo.half_width().unwrap() / (slope * half) - 1.0).abs() < 1e-9);
}

/// Share of `rides` whose interval holds the truth; figures that have none do not count.
fn covered(truth: f64, rides: u64, figure: impl Fn(u64) -> Option<Estimate>) -> f64 {
    let mut held = (0_u32, 0_u32);
    for seed in 0..rides {
        if let Some((lo, hi)) = figure(seed).and_then(|e| e.ci95) {
            held.0 += u32::from(lo <= truth && truth <= hi);
            held.1 += 1;
        }
    }
    assert!(u64::from(held.1) > rides * 9 / 10, "{held:?}");
    f64::from(held.0) / f64::from(held.1)
}

/// A ride whose durations and stances wander independently by some per cent, filmed at a rate.
fn lively(drawn: Drawn, t: f64, strides: usize, rate: f64, seed: u64) -> BoutFigures {
    let mut rng = ChaCha8Rng::seed_from_u64(seed);
    // The sum of three uniform values is near enough to a normal one.
    let mut noise = |sd: f64| sd * (0..3).map(|_| rng.random_range(-1.0..1.0)).sum::<f64>();
    let mut marks = Vec::new();
    let mut now = 1.0 + noise(0.2);
    for _ in 0..strides {
        let own = t * (1.0 + noise(0.02));
        for limb in Limb::ALL {
            let k = limb.index();
            let on = now + drawn.phases[k] * own + noise(0.004);
            let off = Some(Seconds(on + drawn.duty[k] * t + noise(0.006)));
            marks.push(Footfall { off, ..Footfall::new(limb, Seconds(on)) });
        }
        now += own;
    }
    let (marks, options) = filmed(&marks, rate);
    bout(&marks, &options)
}

#[test]
fn intervals_hold_the_truth_as_often_as_they_say() {
    let rides = 300;
    for (drawn, t, strides, rate) in
        [(TROT, 0.75, 20, 60.0), (TROT, 0.737, 40, 120.0), (WALK, 1.1, 20, 60.0)]
    {
        let of = |seed| lively(drawn, t, strides, rate, seed);
        // 95 % promised; 300 rides know a share to ± 2.5 %. Wider than promised is allowed.
        let tempo = covered(t, rides, |s| of(s).tempo.map(|t| t.duration));
        assert!(tempo >= 0.92, "tempo {strides} strides at {rate}: {tempo}");
        let duty = covered(drawn.duty[2], rides, |s| of(s).duty[2]);
        assert!(duty >= 0.92, "duty {strides} strides at {rate}: {duty}");
        let even = covered(0.0, rides, |s| of(s).stance_symmetry[1]);
        assert!(even >= 0.92, "symmetry {strides} strides at {rate}: {even}");
    }
}

/// Six steady strides, with one before and one after: every limb times them anew, so one mark that is off moves a quarter
/// of what it would alone, the error of all is half of one limb's, and what one limb missed the others tell.
#[test]
fn tempo_rests_on_every_limb_that_was_marked_at_both_ends() {
    let ride = TROT.ride(&[0.75; 9]);
    let duration = |marks: &[Footfall]| bout(marks, &exact()).tempo.unwrap().duration;
    let of = |limb: Limb, stride: usize| {
        let mut own = (0..ride.len()).filter(|k| ride[*k].limb == limb);
        own.nth(stride).unwrap()
    };
    for limb in Limb::ALL {
        let mut late = ride.clone();
        late[of(limb, 7)].on.0 += 0.02;
        let told = duration(&late).value;
        assert!(near(told, 0.75 + 0.02 / (4.0 * 6.0)), "{limb}: {told}");
        let mut missed = ride.clone();
        missed.remove(of(limb, 1));
        let told = duration(&missed);
        assert!(near(told.value, 0.75) && told.n == 6, "{limb}: {told:?}");
    }
    let mut rng = ChaCha8Rng::seed_from_u64(53);
    let sd = 0.006;
    let errors = (0..400).map(|_| {
        let mut marks = ride.clone();
        for mark in &mut marks {
            let bell: f64 = (0..12).map(|_| rng.random_range(-0.5..0.5)).sum();
            mark.on.0 += sd * bell;
        }
        duration(&marks).value - 0.75
    });
    let rms = (errors.map(|e| e * e).sum::<f64>() / 400.0).sqrt();
    let ratio = rms / (sd * (2.0_f64 / 4.0).sqrt() / 6.0);
    assert!((0.9..1.1).contains(&ratio), "{ratio}");
}
