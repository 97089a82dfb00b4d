//! How often two sides are told apart: pairs of sessions of one synthetic horse, with and without a
//! true change.

use rand::Rng;
use rand_chacha::ChaCha8Rng;
use umlauf_gait::base::limb::Side;
use umlauf_gait::base::units::FrameRate;
use umlauf_gait::season::bout_summary::BoutSummary;
use umlauf_gait::season::metric::Metric;
use umlauf_gait::season::verdict::{self, Overall, Verdict};
use umlauf_gait::season::{body_size, movement_holds};
use umlauf_gait::{Options, analyse};

use crate::schooling::{rng, varied};
use crate::template::Template;
use crate::truth::{Ride, Truth, normal};

/// Spread between bouts of one session: tempo and stride length, shares.
const BETWEEN: (f64, f64) = (0.015, 0.03);

/// One side: bouts of about 14 strides on 120 frames/s, with places, in a session of this number.
fn session(
    horse: &Template,
    (number, bouts): (i64, usize),
    (tempo, length): (f64, f64),
    rng: &mut ChaCha8Rng,
) -> Vec<BoutSummary> {
    (0..bouts)
        .filter_map(|_| {
            let t = horse.stride_s / tempo / (1.0 + BETWEEN.0 * normal(rng));
            let l = horse.stride_length() * length * (1.0 + BETWEEN.1 * normal(rng));
            let template = Template { stride_s: t, speed: l / t, ..*horse };
            let ride = Ride {
                template,
                strides: rng.random_range(12..18),
                seed: rng.random(),
                stride_cv: 0.02,
                serial: 0.2,
                phase_sd: 0.006,
                duty_sd: 0.006,
                withers: 1.64,
                rein: Side::Left,
                from_y: 5.0,
                line_x: 18.6,
                changes: &[],
                then: None,
            };
            let marks = Truth::new(ride).read_off(120.0, rng.random_range(0.0..0.008));
            let options = Options { frame_rate: FrameRate::new(120.0).ok(), ..Options::default() };
            let analysis = analyse(&marks, &options);
            let own = analysis.bouts.iter().max_by_key(|b| b.strides).map(BoutSummary::of)?;
            Some(BoutSummary { session: Some(number), ..own })
        })
        .collect()
}

/// A pair of sessions of one horse, the second with tempo and stride length times something.
pub fn pair(run: u64, change: (f64, f64), bouts: usize) -> Vec<verdict::Compared> {
    let mut rng = rng(1200, run);
    const GAITS: [&str; 3] = ["trot", "canter-collected", "walk"];
    let mut horse = varied(GAITS[rng.random_range(0..GAITS.len())], &mut rng);
    horse.speed *= rng.random_range(0.95..1.05);
    let first = session(&horse, (1, bouts), (1.0, 1.0), &mut rng);
    let second = session(&horse, (2, bouts), change, &mut rng);
    let (a, b): (Vec<&BoutSummary>, Vec<&BoutSummary>) =
        (first.iter().collect(), second.iter().collect());
    // The horse's own tempo is the target.
    let target = 60.0 / horse.stride_s;
    verdict::compare(&a, &b, |m| (m == Metric::Tempo).then_some(target))
}

/// Share of pairs without a change whose headline says better or worse.
pub fn false_headlines(runs: u64) -> f64 {
    let told = (0..runs).filter(|run| {
        let overall = verdict::overall(&pair(*run, (1.0, 1.0), 5));
        matches!(overall, Overall::Better | Overall::Worse | Overall::Mixed | Overall::Differs)
    });
    share(told.count(), runs)
}

/// Share of pairs in which a change of tempo (at one speed) or of stride length is found.
pub fn found(metric: Metric, runs: u64) -> f64 {
    let change = match metric {
        Metric::Tempo => (1.04, 1.0 / 1.04),
        _ => (1.0, 1.08),
    };
    let told = (0..runs).filter(|run| {
        pair(*run, change, 5).iter().any(|c| {
            c.metric == metric
                && matches!(c.verdict, Verdict::Better | Verdict::Worse | Verdict::Differs)
        })
    });
    share(told.count(), runs)
}

/// A movement against straight work, four sessions of two bouts in it and three straight ones: with
/// this change of tempo in the movement.
pub fn movement(run: u64, tempo: f64) -> Option<movement_holds::Held> {
    let mut rng = rng(1300, run);
    let horse = varied("trot", &mut rng);
    let straight = session(&horse, (1, 12), (1.0, 1.0), &mut rng);
    let inside = session(&horse, (1, 8), (tempo, 1.0), &mut rng);
    let (a, b): (Vec<&BoutSummary>, Vec<&BoutSummary>) =
        (straight.iter().collect(), inside.iter().collect());
    movement_holds::movement_holds(&a, &b).map(|a| a.held)
}

/// Two horses that move alike, one this many times as tall as the other: figures that are said to
/// differ, once as they are and once at one height.
pub fn sizes(run: u64, taller: f64) -> (usize, usize) {
    let mut rng = rng(1400, run);
    let horse = varied("trot", &mut rng);
    // Froude number and length in heights stay: time goes with the root of the height.
    let tall = Template {
        stride_s: horse.stride_s * taller.sqrt(),
        speed: horse.speed * taller.sqrt(),
        ..horse
    };
    let (a, b) = (
        session(&horse, (1, 6), (1.0, 1.0), &mut rng),
        session(&tall, (1, 6), (1.0, 1.0), &mut rng),
    );
    let differ = |a: &[BoutSummary], b: &[BoutSummary]| {
        let (a, b): (Vec<&BoutSummary>, Vec<&BoutSummary>) =
            (a.iter().collect(), b.iter().collect());
        // As ridden: speed is part of what size changes.
        verdict::compare_as_ridden(&a, &b, |_| None).iter().filter(|c| c.headline).count()
    };
    let height = 1.40;
    let sized = |of: &[BoutSummary], h: f64| -> Vec<BoutSummary> {
        of.iter().map(|d| body_size::at_common_height(d, h)).collect()
    };
    (differ(&a, &b), differ(&sized(&a, height), &sized(&b, height * taller)))
}

/// Whether "no real difference" is said where the interval lies inside what is worth speaking of, and
/// never where four fifths of it do not; the share of figures of which it is said at all.
pub fn alike(runs: u64) -> Option<f64> {
    let (mut all, mut said) = (0, 0);
    for run in 0..runs {
        for c in pair(run, (1.0, 1.0), 8) {
            let (lo, hi) = c.difference.ci95;
            let inside = lo > -c.worthwhile && hi < c.worthwhile;
            let says = c.verdict == Verdict::NoRealDifference;
            let half = 0.5 * (hi - lo);
            let near = c.difference.value.abs() + 0.8 * half < c.worthwhile;
            if says && !near || inside && !says {
                return None;
            }
            all += 1;
            said += usize::from(says);
        }
    }
    Some(share(said, all))
}

fn share(n: usize, of: u64) -> f64 {
    f64::from(u32::try_from(n).unwrap_or(u32::MAX))
        / f64::from(u32::try_from(of.max(1)).unwrap_or(1))
}

/// The section of the accuracy page about comparisons.
pub fn section(runs: u64) -> String {
    format!(
        "
## Comparisons

Pairs of sessions of one horse, five bouts a side, spread between bouts 1.5 % in tempo and 3 % in stride length.

| what | pairs | reached | aim |
|---|---:|---:|---:|
| no change: a headline says otherwise (after Holm) | {runs} | {:.1} % | ≤ 5.0 % |
| 4 % quicker at one speed: found | {runs} | {:.1} % | ≥ 90.0 % |
| 8 % longer strides: found | {runs} | {:.1} % | ≥ 90.0 % |
",
        100.0 * false_headlines(runs),
        100.0 * found(Metric::Tempo, runs),
        100.0 * found(Metric::StrideLength, runs),
    )
}
