//! Two sessions of the second horse compared: what is told where nothing changed, and whether what is
//! called no real difference is none.

use rand::Rng;
use rand_chacha::ChaCha8Rng;
use umlauf_gait::analyse;
use umlauf_gait::base::limb::Limb;
use umlauf_gait::season::bout_summary::BoutSummary;
use umlauf_gait::season::metric::Metric;
use umlauf_gait::season::verdict::{self, Compared, Overall, Verdict};

use crate::accuracy::row::{Row, longest};
use crate::schooling::rng;
use crate::second_horse::{Kind, Pace, Seen, Straying, marks, pace};
use crate::truth::normal;

/// What is told of pairs.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Asked {
    /// A headline where the horse has not changed.
    Headline,
    /// "No real difference" of a figure that truly differs by no more than what is worth speaking of,
    /// among horses some of which have changed.
    NoDifference,
}

/// How much the horse's days differ, one standard deviation.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Days {
    /// Tempo and length, shares of themselves.
    pub pace: f64,
    /// Stances, shares of the stride.
    pub stance: f64,
}

/// Days that are drawn: alike, and as they often are.
pub const DAYS: [Days; 3] = [
    Days { pace: 0.0, stance: 0.0 },
    Days { pace: 0.005, stance: 0.002 },
    Days { pace: 0.010, stance: 0.004 },
];

/// A session that is one side of a pair: its bouts, and what is true of its day.
struct Filmed {
    bouts: Vec<BoutSummary>,
    /// Tempo at one speed, a factor.
    tempo: f64,
    /// Length of stride as ridden, a factor.
    length: f64,
    /// Stance longer by this share of the stride.
    stance: f64,
}

fn filmed(
    horse: &Pace,
    session: i64,
    (quicker, longer): (f64, f64),
    days: Days,
    rng: &mut ChaCha8Rng,
) -> Filmed {
    let rate = if rng.random_bool(0.5) { 30.0 } else { 60.0 };
    let seen = Seen { rate, scatter: rng.random_range(0.004..0.010) };
    let between = rng.random_range(0.004..0.020);
    let tempo = quicker * (1.0 + days.pace * normal(rng));
    let length = longer * (1.0 + days.pace * normal(rng));
    // He is ridden at a speed of the day: quicker and longer at once.
    let speed = 1.0 + 0.04 * normal(rng);
    let stance = days.stance * normal(rng);
    let many = rng.random_range(4..=7);
    let bouts = (0..many).filter_map(|_| {
        let own = speed * (1.0 + 0.03 * normal(rng));
        let today = Pace {
            stride_s: horse.stride_s / (tempo * own.powf(0.3) * (1.0 + between * normal(rng))),
            length: horse.length * length * own.powf(0.7) * (1.0 + 1.5 * between * normal(rng)),
            duty: Limb::ALL
                .map(|l| horse.duty[l.index()] + stance - 0.10 * (own - 1.0) + 0.003 * normal(rng)),
            ..*horse
        };
        let straying = Straying::drawn((0.01, 0.04), rng);
        let ridden = marks(&today, &straying, rng.random_range(8..=20), &seen, rng);
        let analysis = analyse(&ridden, &seen.options(&today));
        let own = longest(&analysis.bouts).map(BoutSummary::of)?;
        Some(BoutSummary { session: Some(session), ..own })
    });
    Filmed { bouts: bouts.collect(), tempo, length: length * speed.powf(0.7), stance }
}

/// A pair of sessions of a horse that changes by shares of tempo and length.
fn pair(run: u64, change: (f64, f64), days: Days) -> (Vec<Compared>, [Filmed; 2], Pace) {
    let mut rng = rng(5100, run);
    let horse = pace(Kind::ALL[rng.random_range(0..Kind::ALL.len())], &mut rng);
    let first = filmed(&horse, 1, (1.0, 1.0), days, &mut rng);
    let second = filmed(&horse, 2, change, days, &mut rng);
    let (a, b): (Vec<&BoutSummary>, Vec<&BoutSummary>) =
        (first.bouts.iter().collect(), second.bouts.iter().collect());
    let target = 60.0 / horse.stride_s;
    let told = verdict::compare(&a, &b, |m| (m == Metric::Tempo).then_some(target));
    (told, [first, second], horse)
}

/// What truly lies between two sessions in a figure, in its unit.
fn truly(c: &Compared, [a, b]: &[Filmed; 2], horse: &Pace) -> f64 {
    let stance = (b.stance - a.stance).abs();
    match c.metric {
        Metric::Tempo => (b.tempo / a.tempo - 1.0).abs() * c.first.value,
        Metric::StrideLength => (b.length / a.length - 1.0).abs() * c.first.value,
        Metric::HindDuty => 100.0 * stance,
        Metric::Suspension => 1e3 * stance * horse.stride_s,
        _ => 0.0,
    }
}

/// How often it is told, over `runs` pairs.
pub fn told(asked: Asked, days: Days, runs: u64) -> Row {
    let (mut of, mut right) = (0, 0);
    for run in 0..runs {
        let change = match asked {
            Asked::Headline => (1.0, 1.0),
            // As often more as less than what is worth speaking of.
            Asked::NoDifference => {
                let mut own = rng(5200, run);
                (own.random_range(0.97..1.03), own.random_range(0.94..1.06))
            }
        };
        let (compared, sides, horse) = pair(run, change, days);
        match asked {
            Asked::Headline => {
                of += 1;
                let overall = verdict::overall(&compared);
                let heads = !matches!(overall, Overall::Alike | Overall::CannotTell);
                right += u64::from(heads);
            }
            Asked::NoDifference => {
                let none = compared.iter().filter(|c| c.verdict == Verdict::NoRealDifference);
                for c in none {
                    of += 1;
                    right += u64::from(truly(c, &sides, &horse) <= c.worthwhile);
                }
            }
        }
    }
    let (what, aim) = match asked {
        Asked::Headline => ("no change: a headline says otherwise", (0.05, true)),
        Asked::NoDifference => ("\"no real difference\" is none", (0.95, false)),
    };
    let what = format!("{what}, days {:.1} % apart", 100.0 * days.pace);
    Row { what, rate: 0.0, runs: of, right, aim }
}
