//! Transitions between gaits of the second horse: kind, moment, first limb, answer to the aid.

use rand::Rng;
use rand_chacha::ChaCha8Rng;
use umlauf_gait::base::gait::Gait;
use umlauf_gait::base::limb::{Limb, Side};
use umlauf_gait::bouts::bout_figures::BoutFigures;
use umlauf_gait::events::answer::Answer;
use umlauf_gait::events::transition::Transition;
use umlauf_gait::marks::marks_csv;
use umlauf_gait::{Footfall, Options, analyse};

use crate::accuracy::row::Row;
use crate::marking::{Marking, marked};
use crate::schooling::rng;
use crate::second_horse::{Kind, Pace, Straying, pace, stances};

/// A way of going.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Going {
    /// Walk.
    Walk,
    /// Trot.
    Trot,
    /// Canter on a lead.
    Canter(Side),
    /// A gaited horse's flat walk.
    FlatWalk,
}

impl Going {
    /// Pairs of gaits that one horse goes from and to.
    pub const PAIRS: [(Self, Self); 16] = [
        (Self::Walk, Self::Trot),
        (Self::Trot, Self::Walk),
        (Self::Walk, Self::Canter(Side::Left)),
        (Self::Canter(Side::Left), Self::Walk),
        (Self::Walk, Self::Canter(Side::Right)),
        (Self::Canter(Side::Right), Self::Walk),
        (Self::Trot, Self::Canter(Side::Left)),
        (Self::Canter(Side::Left), Self::Trot),
        (Self::Trot, Self::Canter(Side::Right)),
        (Self::Canter(Side::Right), Self::Trot),
        (Self::FlatWalk, Self::Canter(Side::Left)),
        (Self::Canter(Side::Left), Self::FlatWalk),
        (Self::FlatWalk, Self::Canter(Side::Right)),
        (Self::Canter(Side::Right), Self::FlatWalk),
        (Self::FlatWalk, Self::Trot),
        (Self::Trot, Self::FlatWalk),
    ];

    pub(super) const fn gait(self) -> Gait {
        match self {
            Self::Walk => Gait::Walk,
            Self::Trot => Gait::Trot,
            Self::Canter(_) => Gait::Canter,
            Self::FlatWalk => Gait::FlatWalk,
        }
    }

    pub(super) const fn aid(self) -> &'static str {
        match self {
            Self::Walk | Self::FlatWalk => "walk",
            Self::Trot => "trot",
            Self::Canter(Side::Left) => "canter-left",
            Self::Canter(Side::Right) => "canter-right",
        }
    }

    /// Name for tables.
    pub const fn name(self) -> &'static str {
        match self {
            Self::Walk => "walk",
            Self::Trot => "trot",
            Self::Canter(Side::Left) => "canter left",
            Self::Canter(Side::Right) => "canter right",
            Self::FlatWalk => "flat walk",
        }
    }

    /// A pace in it. A symmetrical gait may begin with either hind.
    pub(super) fn pace(self, rng: &mut ChaCha8Rng) -> Pace {
        let kind = match self {
            Self::Walk => Kind::Walk,
            Self::Trot => Kind::Trot,
            Self::Canter(_) => Kind::Canter,
            Self::FlatWalk => Kind::FlatWalk,
        };
        let own = pace(kind, rng);
        let mirrored = match self {
            Self::Canter(lead) => lead == Side::Right,
            _ => rng.random_bool(0.5),
        };
        if mirrored { own.mirrored() } else { own }
    }
}

/// One ride from a gait into another, and what is true of it.
struct Ride {
    marks: Vec<Footfall>,
    /// First footfalls of the new gait: all that land within a twentieth of its stride of the first.
    first: Vec<Limb>,
    begins_s: f64,
    stride_s: f64,
    asked_s: f64,
    options: Options,
}

fn ride((from, to): (Going, Going), marking: &Marking, rng: &mut ChaCha8Rng) -> Ride {
    let (mut old, mut new) = (from.pace(rng), to.pace(rng));
    old.gaited |= new.gaited;
    new.gaited |= old.gaited;
    let straying = Straying::drawn((0.01, 0.03), rng);
    let begins = rng.random_range(0.5..1.5);
    let (n, m) = (rng.random_range(6..14), rng.random_range(6..12));
    let (mut all, turn) = stances(&old, &straying, n, begins, rng);
    let (after, _) = stances(&new, &straying, m, turn, rng);
    let first_s = after.iter().map(|s| s.1).fold(f64::INFINITY, f64::min);
    let near = after.iter().filter(|s| s.1 < first_s + 0.05 * new.stride_s);
    let first = near.map(|s| s.0).collect();
    // A footfall of the old gait that the new one has overtaken is not put down, a stance ends before
    // its hoof lands again.
    all.retain(|s| s.1 < first_s - 0.02);
    for stance in &mut all {
        let own = after.iter().filter(|s| s.0 == stance.0).map(|s| s.1);
        stance.2 = stance.2.min(own.fold(f64::INFINITY, f64::min) - 0.05);
    }
    all.extend(after);
    all.sort_by(|a, b| a.1.total_cmp(&b.1));
    let (marks, _) = marked(all, marking, rng);
    let asked_s = first_s - rng.random_range(0.3..2.0);
    let table = format!("time_s,kind,detail\n{asked_s},aid,{}\n", to.aid());
    let said = marks_csv::read(table.as_bytes()).unwrap_or_default();
    let options = Options { gaited: new.gaited, marks: said, ..marking.options() };
    Ride { marks, first, begins_s: first_s, stride_s: new.stride_s, asked_s, options }
}

/// How many transitions of a pair of gaits are told with their kind, their first footfall within a
/// quarter stride, its limb, and the answer within a tenth of a second.
pub fn told(pair: (Going, Going), rate: f64, hard: bool, runs: u64) -> Row {
    let aim = if hard { 0.97 } else { 0.99 };
    let what = format!("{} to {}", pair.0.name(), pair.1.name());
    let mut right = 0;
    for run in 0..runs {
        let mut rng = rng(3000, run);
        let mut marking = Marking::hard(rate, &mut rng);
        if !hard {
            marking = Marking { missing: 0.0, mislabel: false, ..marking };
        }
        let ride = ride(pair, &marking, &mut rng);
        let found = analyse(&ride.marks, &ride.options);
        right += u64::from(
            is_right(&ride, pair, &found.events.transitions) && begins(&ride, pair.1, &found.bouts),
        );
    }
    Row { what, rate, runs, right, aim: (aim, false) }
}

/// Whether the bout of the new gait begins with it.
fn begins(ride: &Ride, to: Going, bouts: &[BoutFigures]) -> bool {
    let first = bouts.iter().find(|b| b.label.gait == to.gait());
    first.is_some_and(|b| (b.start_s - ride.begins_s).abs() < 0.25 * ride.stride_s)
}

type Told = (Transition, Option<Answer>);

fn is_right(ride: &Ride, (from, to): (Going, Going), told: &[Told]) -> bool {
    let [(t, answer)] = told else { return false };
    let kind = t.from == from.gait() && t.to == to.gait() && t.intermediate.is_none();
    let moment = (t.time_s - ride.begins_s).abs() < 0.25 * ride.stride_s;
    let limb = ride.first.contains(&t.first_limb);
    let answered = answer.is_some_and(|a| (a.seconds - (ride.begins_s - ride.asked_s)).abs() < 0.1);
    kind && moment && limb && answered
}
