//! Halts and rein-back of the second horse: into them, out of them, and how soon they answer.

use rand::Rng;
use rand_chacha::ChaCha8Rng;
use umlauf_gait::base::gait::Gait;
use umlauf_gait::base::limb::{Limb, Side};
use umlauf_gait::events::answer::Answer;
use umlauf_gait::events::transition::Transition;
use umlauf_gait::marks::marks_csv;
use umlauf_gait::{Footfall, Options, analyse};

use crate::accuracy::row::Row;
use crate::accuracy::transitions::Going;
use crate::marking::{Marking, marked};
use crate::schooling::rng;
use crate::second_horse::{Pace, Straying, stances};

/// What a ride with one halt is judged by.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Part {
    /// A gait into the halt; walk follows.
    Into(Going),
    /// Out of it into a gait; walk came before.
    Out(Going),
    /// Out of it backwards.
    Back,
    /// A rein-back into a halt.
    FromBack,
}

impl Part {
    /// All that are judged.
    pub const ALL: [Self; 12] = [
        Self::Into(Going::Walk),
        Self::Into(Going::Trot),
        Self::Into(Going::Canter(Side::Left)),
        Self::Into(Going::Canter(Side::Right)),
        Self::Into(Going::FlatWalk),
        Self::Out(Going::Walk),
        Self::Out(Going::Trot),
        Self::Out(Going::Canter(Side::Left)),
        Self::Out(Going::Canter(Side::Right)),
        Self::Out(Going::FlatWalk),
        Self::Back,
        Self::FromBack,
    ];

    /// Name for tables.
    pub fn name(self) -> String {
        match self {
            Self::Into(gait) => format!("{} to halt", gait.name()),
            Self::Out(gait) => format!("halt to {}", gait.name()),
            Self::Back => "halt to rein-back".into(),
            Self::FromBack => "rein-back to halt".into(),
        }
    }
}

/// Diagonal pairs backwards: slow, and long on the ground.
fn rein_back(rng: &mut ChaCha8Rng) -> Pace {
    let about = |v: f64, by: f64, rng: &mut ChaCha8Rng| v + rng.random_range(-by..by);
    let own = Pace {
        stride_s: about(1.3, 0.15, rng),
        places: [about(0.51, 0.02, rng), about(0.01, 0.02, rng), 0.0, 0.5],
        duty: [0.66, 0.66, 0.64, 0.64].map(|d| about(d, 0.01, rng)),
        length: -0.8,
        gaited: false,
    };
    if rng.random_bool(0.5) { own.mirrored() } else { own }
}

/// One halt, and what is true of it.
struct Ride {
    marks: Vec<Footfall>,
    options: Options,
    gaits: [Gait; 2],
    /// Footfalls of the transition judged: its moment, s, the limbs within a twentieth of a stride,
    /// the stride, s, and when it was asked for.
    at_s: f64,
    limbs: Vec<Limb>,
    stride_s: f64,
    asked_s: f64,
    into: bool,
}

type Stances = Vec<(Limb, f64, f64)>;

/// Stands after `all`: every limb lands once more at its place and stays. When the last has landed.
fn stand(all: &mut Stances, pace: &Pace, now: f64, rng: &mut ChaCha8Rng) -> f64 {
    let slower = rng.random_range(1.0..1.25);
    for limb in Limb::ALL {
        let on = now + slower * pace.places[limb.index()] * pace.stride_s;
        all.push((limb, on, f64::INFINITY));
    }
    all.iter().map(|s| s.1).fold(f64::NEG_INFINITY, f64::max)
}

/// Goes off from a halt: where the first hoof leaves the ground is `from_s`.
fn go(
    all: &mut Stances,
    pace: &Pace,
    straying: &Straying,
    n: u32,
    from_s: f64,
    rng: &mut ChaCha8Rng,
) -> f64 {
    let (mut after, _) = stances(pace, straying, n, 0.0, rng);
    let swing = |limb: Limb| (1.0 - pace.duty[limb.index()]) * pace.stride_s;
    let lands = |limb: Limb, after: &Stances| {
        after.iter().filter(|s| s.0 == limb).map(|s| s.1).fold(f64::INFINITY, f64::min)
    };
    let leaves = Limb::ALL.map(|l| lands(l, &after) - swing(l));
    let shift = from_s - leaves.iter().copied().fold(f64::INFINITY, f64::min);
    for stance in &mut *all {
        if stance.2.is_infinite() {
            stance.2 = leaves[stance.0.index()] + shift;
        }
    }
    after.iter_mut().for_each(|s| (s.1, s.2) = (s.1 + shift, s.2 + shift));
    let first = after.iter().map(|s| s.1).fold(f64::INFINITY, f64::min);
    all.extend(after);
    first
}

fn ride(part: Part, marking: &Marking, rng: &mut ChaCha8Rng) -> Ride {
    let (before, after) = match part {
        Part::Into(gait) => (gait.pace(rng), Going::Walk.pace(rng)),
        Part::Out(gait) => (Going::Walk.pace(rng), gait.pace(rng)),
        Part::Back => (Going::Walk.pace(rng), rein_back(rng)),
        Part::FromBack => (rein_back(rng), Going::Walk.pace(rng)),
    };
    let straying = Straying::drawn((0.01, 0.03), rng);
    let begins = rng.random_range(0.5..1.5);
    let few = |back: bool, rng: &mut ChaCha8Rng| {
        if back { rng.random_range(3..5) } else { rng.random_range(6..12) }
    };
    let n = few(part == Part::FromBack, rng);
    let m = few(part == Part::Back, rng);
    let (mut all, now) = stances(&before, &straying, n, begins, rng);
    let stands = stand(&mut all, &before, now, rng);
    // A hoof that stands at the halt has left the ground before.
    for limb in Limb::ALL {
        let last =
            all.iter().filter(|s| s.0 == limb).map(|s| s.1).fold(f64::NEG_INFINITY, f64::max);
        all.iter_mut()
            .filter(|s| s.0 == limb && s.1 < last)
            .for_each(|s| s.2 = s.2.min(last - 0.05));
    }
    let leaves = stands + rng.random_range(0.5..3.0);
    let lands = go(&mut all, &after, &straying, m, leaves, rng);
    all.sort_by(|a, b| a.1.total_cmp(&b.1));
    let into = matches!(part, Part::Into(_) | Part::FromBack);
    let (at_s, stride_s) = if into { (stands, before.stride_s) } else { (lands, after.stride_s) };
    let near = all.iter().filter(|s| (s.1 - at_s).abs() < 0.05 * stride_s);
    let limbs = near.map(|s| s.0).collect();
    let (marks, _) = marked(all, marking, rng);
    // What comes after a halt is asked for at the halt.
    let asked_s = if into {
        at_s - rng.random_range(0.3..1.5)
    } else {
        leaves - rng.random_range(0.1..0.95) * (leaves - stands)
    };
    let (gaits, aid, back) = match part {
        Part::Into(g) => ([g.gait(), Gait::Halt], "halt", None),
        Part::Out(g) => ([Gait::Halt, g.gait()], g.aid(), None),
        Part::Back => ([Gait::Halt, Gait::ReinBack], "rein-back", Some((leaves - 0.1, 1e3))),
        Part::FromBack => ([Gait::ReinBack, Gait::Halt], "halt", Some((0.0, stands + 0.1))),
    };
    let mut table = format!("time_s,kind,detail\n{asked_s},aid,{aid}\n");
    if let Some((from, to)) = back {
        table += &format!("{from},start,rein-back\n{to},end,rein-back\n");
    }
    let said = marks_csv::read(table.as_bytes()).unwrap_or_default();
    let gaited = before.gaited || after.gaited;
    let options = Options { gaited, marks: said, ..marking.options() };
    Ride { marks, options, gaits, at_s, limbs, stride_s, asked_s, into }
}

/// How many are told with their kind, moment, limb and answer.
pub fn told(part: Part, rate: f64, hard: bool, runs: u64) -> Row {
    let aim = if hard { 0.97 } else { 0.99 };
    let mut right = 0;
    for run in 0..runs {
        let mut rng = rng(3200, run);
        let mut marking = Marking::hard(rate, &mut rng);
        if !hard {
            marking = Marking { missing: 0.0, mislabel: false, ..marking };
        }
        let ride = ride(part, &marking, &mut rng);
        let found = analyse(&ride.marks, &ride.options);
        right += u64::from(is_right(&ride, &found.events.transitions));
    }
    Row { what: part.name(), rate, runs, right, aim: (aim, false) }
}

type Told = (Transition, Option<Answer>);

fn is_right(ride: &Ride, told: &[Told]) -> bool {
    let [into, out] = told else { return false };
    let (t, answer) = if ride.into { into } else { out };
    let kind = [t.from, t.to] == ride.gaits && t.intermediate.is_none();
    let moment = (t.time_s - ride.at_s).abs() < 0.25 * ride.stride_s;
    let limb = ride.limbs.contains(&t.first_limb);
    // No answer is told of an aid for a rein-back.
    let answered = answer.is_some_and(|a| (a.seconds - (ride.at_s - ride.asked_s)).abs() < 0.1);
    kind && moment && limb && (answered || ride.gaits[1] == Gait::ReinBack)
}
