//! What heads a horse's record over twelve sessions of the second horse: nothing where nothing changes,
//! and what changes where something does.

use rand::Rng;
use rand_chacha::ChaCha8Rng;
use umlauf_gait::base::gait::Gait;
use umlauf_gait::base::limb::{Limb, Side};
use umlauf_gait::season::again::{Session, again};
use umlauf_gait::season::bout_summary::BoutSummary;
use umlauf_gait::season::card_row::Row;
use umlauf_gait::season::metric::Metric;
use umlauf_gait::season::progress::{self, SessionValue, Trend};
use umlauf_gait::season::record_line::standing;
use umlauf_gait::season::sought::Sought;
use umlauf_gait::season::verdict::{self, Compared};
use umlauf_gait::stats::descriptive::mean;
use umlauf_gait::{Options, analyse};

use crate::accuracy::row::longest;
use crate::accuracy::sessions::is_it;
use crate::schooling::rng;
use crate::second_horse::{Kind, Pace, Seen, Straying, marks, pace};
use crate::session_rides::fault::Fault;
use crate::session_rides::session::session;
use crate::truth::normal;

/// Sessions of a season, a week apart.
const SESSIONS: u32 = 12;

/// Bouts of trot a rein.
const BOUTS: usize = 3;

/// Sessions that left and right are compared over.
const LATEST: usize = 4;

/// What changes over a season.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Change {
    /// The strides get less alike.
    Rhythm,
    /// The air goes.
    Air,
    /// Left and right steps get less alike.
    Steps,
    /// The left rein is less regular than the right, all season.
    LeftRein,
}

impl Change {
    /// All of them.
    pub const ALL: [Self; 4] = [Self::Rhythm, Self::Air, Self::Steps, Self::LeftRein];

    /// Name for tables.
    pub const fn name(self) -> &'static str {
        match self {
            Self::Rhythm => "rhythm from 1.8 to 4 %",
            Self::Air => "air 35 ms less",
            Self::Steps => "steps 10 % less alike",
            Self::LeftRein => "the left rein twice as irregular",
        }
    }

    /// Whether a row that heads the record tells it.
    fn is_told(self, by: Metric, of_sides: bool) -> bool {
        match self {
            Self::Rhythm => by == Metric::Regularity && !of_sides,
            Self::Air => by == Metric::Suspension && !of_sides,
            Self::Steps => by == Metric::StepAsymmetry && !of_sides,
            Self::LeftRein => by == Metric::Regularity && of_sides,
        }
    }
}

/// Seasons of a kind.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Told {
    /// What changes, if anything.
    pub change: Option<Change>,
    /// Seasons.
    pub seasons: u64,
    /// Headed by what changes; of seasons without a change, by anything.
    pub told: u64,
}

impl Told {
    /// Share of the seasons.
    pub fn share(&self) -> f64 {
        #[expect(clippy::cast_precision_loss, reason = "counts")]
        let share = self.told as f64 / self.seasons.max(1) as f64;
        share
    }
}

/// What heads the record after `runs` seasons with a change, or without any.
pub fn told(change: Option<Change>, runs: u64) -> Told {
    let right = (0..runs).filter(|run| {
        let mut rng = rng(4100 + change.map_or(0, |c| 1 + c as u64), *run);
        let sessions = season(change, &mut rng);
        let (trends, sides) = read(&sessions);
        let stand = standing(&trends, &sides, &[]);
        let heading =
            trends.iter().zip(&stand.trends).filter(|(_, s)| **s).map(|((row, _), _)| match row {
                Row::Figure(metric) => (Some(*metric), false),
                Row::Tally(_) => (None, false),
            });
        let of_sides = sides
            .iter()
            .zip(&stand.sides)
            .filter(|(_, s)| **s)
            .map(|(c, _)| (Some(c.metric), true));
        let mut all = heading.chain(of_sides).filter_map(|(m, sides)| Some((m?, sides)));
        match change {
            Some(change) => all.any(|(metric, sides)| change.is_told(metric, sides)),
            None => all.next().is_some(),
        }
    });
    Told { change, seasons: runs, told: right.count() as u64 }
}

/// Of `runs` seasons of twelve sessions with the same fault in each: how many records say so, with its
/// side where it has one. Without a fault: how many say anything.
pub fn told_again(fault: Option<Fault>, runs: u64) -> u64 {
    // Seasons do not depend on one another: two threads share them.
    let told = |runs: std::ops::Range<u64>| runs.filter(|run| is_told_again(fault, *run)).count();
    let (first, second) = (0..runs / 2, runs / 2..runs);
    let all = std::thread::scope(|scope| {
        let other = scope.spawn(|| told(second));
        told(first) + other.join().unwrap_or_default()
    });
    all as u64
}

fn is_told_again(fault: Option<Fault>, run: u64) -> bool {
    let mut rng = rng(4200 + fault.map_or(0, |f| 1 + f as u64), run);
    let sessions: Vec<Session<(bool, usize)>> = (0..SESSIONS)
        .map(|_| {
            let ride = session(fault, &mut rng);
            let clips: Vec<_> = ride.clips.iter().map(|(m, o)| analyse(m, o)).collect();
            Session::of(&clips, |clip, finding| {
                let own = clips.iter().position(|c| std::ptr::eq(c, clip)).unwrap_or(0);
                let planted = fault.zip(ride.planted);
                let is_it = planted.is_some_and(|(f, p)| is_it(f, &p, own, finding));
                let Some((sought, _)) = Sought::of(&finding.kind) else {
                    return Some((is_it, 99));
                };
                Some((is_it, sought.kind()))
            })
        })
        .collect();
    again(&sessions).is_some_and(|a| fault.is_none() || a.what.0)
}

/// The bouts of twelve sessions: days have a shift in common, bouts one of their own, some are filmed at
/// 30 frames a second and some at 60.
fn season(change: Option<Change>, rng: &mut ChaCha8Rng) -> Vec<Vec<BoutSummary>> {
    let horse = pace(Kind::Trot, rng);
    (0..SESSIONS)
        .map(|k| {
            let along = f64::from(k) / f64::from(SESSIONS - 1);
            let day = 1.0 + 0.012 * normal(rng);
            let stance = 0.004 * normal(rng);
            let rate = if rng.random_bool(0.5) { 30.0 } else { 60.0 };
            let seen = Seen { rate, scatter: rng.random_range(0.004..0.010) };
            let mut bouts = Vec::new();
            for rein in [Side::Left, Side::Right] {
                for _ in 0..BOUTS {
                    let (today, spread) = changed(&horse, change, along, rein);
                    let own = 1.0 + 0.010 * normal(rng);
                    let today = Pace {
                        stride_s: today.stride_s * day * own,
                        length: today.length * (1.0 + 0.015 * normal(rng)),
                        duty: today.duty.map(|d| d + stance + 0.004 * normal(rng)),
                        ..today
                    };
                    bouts.extend(bout(&today, spread, rein, &seen, rng));
                }
            }
            bouts
        })
        .collect()
}

/// How the horse goes at a place of the season, and the spread of its strides.
fn changed(horse: &Pace, change: Option<Change>, along: f64, rein: Side) -> (Pace, f64) {
    let mut pace = *horse;
    let mut spread = 0.020;
    match change {
        Some(Change::Rhythm) => spread = 0.018 + 0.022 * along,
        // Stances longer by a share take as much of each moment of air.
        Some(Change::Air) => pace.duty = horse.duty.map(|d| d + along * 0.035 / horse.stride_s),
        Some(Change::Steps) => {
            // Away from even, whichever way the horse is made.
            let way = (horse.places[Limb::RH.index()] - 0.5).signum();
            for limb in [Limb::RH, Limb::LF] {
                pace.places[limb.index()] += way * 0.025 * along;
            }
        }
        Some(Change::LeftRein) if rein == Side::Left => spread = 0.040,
        Some(Change::LeftRein) | None => {}
    }
    (pace, spread)
}

fn bout(
    pace: &Pace,
    spread: f64,
    rein: Side,
    seen: &Seen,
    rng: &mut ChaCha8Rng,
) -> Option<BoutSummary> {
    let straying = Straying { spread, ..Straying::drawn((0.01, 0.03), rng) };
    let strides = rng.random_range(10..=18);
    let marks = marks(pace, &straying, strides, seen, rng);
    let analysis = analyse(&marks, &Options { rein: Some(rein), ..seen.options(pace) });
    longest(&analysis.bouts).filter(|b| b.label.gait == Gait::Trot).map(BoutSummary::of)
}

/// Trends and left against right, as a record reads them.
fn read(sessions: &[Vec<BoutSummary>]) -> (Vec<(Row, Trend)>, Vec<Compared>) {
    let values = |metric: Metric| -> Vec<SessionValue> {
        (0..)
            .step_by(7)
            .zip(sessions)
            .filter_map(|(day, bouts)| {
                let own: Vec<_> = bouts.iter().filter_map(|b| b.value(metric)).collect();
                Some(SessionValue { day, value: progress::session_value(&own)? })
            })
            .collect()
    };
    let usual = mean(&values(Metric::Tempo).iter().map(|v| v.value.value).collect::<Vec<f64>>());
    let target = |m: Metric| m.own_target(Gait::Trot).or((m == Metric::Tempo).then_some(usual));
    let trends = Metric::ALL
        .into_iter()
        .filter(|m| m.belongs_to(Gait::Trot))
        .filter_map(|m| {
            let row = Row::Figure(m);
            Some((row, progress::trend(row, &values(m), target(m))?))
        })
        .collect();
    let lately: Vec<&BoutSummary> = sessions[sessions.len() - LATEST..].iter().flatten().collect();
    let side = |want: Side| -> Vec<&BoutSummary> {
        lately.iter().filter(|b| b.rein == Some(want)).copied().collect()
    };
    (trends, verdict::compare(&side(Side::Left), &side(Side::Right), target))
}
