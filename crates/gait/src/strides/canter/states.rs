//! The likeliest run of leads through the strides of a canter (Viterbi 1967, IEEE Trans Inf Theory
//! 13:260), and what else each stride may be.
//!
//! Horses change united, or one pair goes first and the other joins it; that a pair parts and comes back
//! is rarer. So a disunited stride remembers the lead on which the horse was united last.

use crate::base::limb::Side;
use crate::strides::canter::pattern::Leads;

/// What a stride may be: its leads, and the lead on which the horse was united last.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
struct State {
    leads: Leads,
    united: Side,
}

const STATES: [State; 6] = {
    use Side::{Left, Right};
    [
        State { leads: (Left, Left), united: Left },
        State { leads: (Right, Right), united: Right },
        State { leads: (Left, Right), united: Left },
        State { leads: (Left, Right), united: Right },
        State { leads: (Right, Left), united: Left },
        State { leads: (Right, Left), united: Right },
    ]
};

/// The leads in the order in which fits are given.
pub const LEADS: [Leads; 4] = {
    use Side::{Left, Right};
    [(Left, Left), (Right, Right), (Left, Right), (Right, Left)]
};

/// What a stride's marks speak against each of [`LEADS`], in log-likelihood.
pub type Fits = [f64; 4];

/// Log-likelihood lost by a clean change,
const CLEAN: f64 = 3.0;

/// by a stride in which one pair begins to go alone,
const PARTING: f64 = 4.5;

/// by the other pair's following,
const JOINING: f64 = 1.0;

/// and by the first pair's coming back instead.
const COMING_BACK: f64 = 4.0;

/// A disunited stride has been united before; what it was cannot change on the way.
const NEVER: f64 = 1e3;

/// Leads that are less likely than the best by this log-likelihood are ruled out.
const SURE: f64 = 3.0;

/// What else a stride's leads may be: those that the marks speak against by less than [`SURE`].
pub type Instead = Option<Leads>;

/// What was found of a stride between complete ones.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Told {
    /// When it begins, s.
    pub start: f64,
    /// How long it lasts, s.
    pub duration: f64,
    /// Its leads, …
    pub leads: Leads,
    /// … and what else they may be.
    pub instead: Instead,
}

fn step(from: State, to: State) -> f64 {
    let is_united = |s: State| s.leads.0 == s.leads.1;
    match (from == to, is_united(from), is_united(to)) {
        (true, ..) => 0.0,
        (false, true, true) => CLEAN,
        (false, true, false) if from.united == to.united => PARTING,
        (false, false, true) if from.united == to.united => COMING_BACK,
        (false, false, true) => JOINING,
        (false, false, false) if from.united == to.united => PARTING + JOINING,
        (false, _, false) => NEVER,
    }
}

fn fit(fits: &Fits, state: State) -> f64 {
    LEADS.iter().position(|l| *l == state.leads).map_or(0.0, |k| fits[k])
}

/// The likeliest leads of strides in a row, and what else each of them may be. O(n).
pub fn best_run(fits: &[Fits]) -> Vec<(Leads, Instead)> {
    let before = reach(fits.iter(), step);
    let mut after = reach(fits.iter().rev(), |from, to| step(to, from));
    after.reverse();
    let whole: Vec<[f64; 6]> = (0..fits.len())
        .map(|k| std::array::from_fn(|s| before[k][s] + fit(&fits[k], STATES[s]) + after[k][s]))
        .collect();
    let mut out: Vec<(Leads, Instead)> = Vec::with_capacity(fits.len());
    let mut last: Option<usize> = None;
    for (k, costs) in whole.iter().enumerate() {
        // Runs that are equally likely must not be mixed: each stride goes on from the one before.
        let from_here = |s: usize| {
            let entered = last.map_or(0.0, |l| step(STATES[l], STATES[s]));
            entered + fit(&fits[k], STATES[s]) + after[k][s]
        };
        let best = (0..STATES.len()).min_by(|a, b| from_here(*a).total_cmp(&from_here(*b)));
        let best = best.unwrap_or(0);
        last = Some(best);
        let leads = STATES[best].leads;
        let others = (0..STATES.len()).filter(|s| STATES[*s].leads != leads);
        let next = others.min_by(|a, b| costs[*a].total_cmp(&costs[*b]));
        let instead = next.filter(|s| costs[*s] < costs[best] + SURE).map(|s| STATES[s].leads);
        out.push((leads, instead));
    }
    out
}

/// Cost of the best run that leads up to each state of each stride, its own fit left out.
fn reach<'a>(
    fits: impl Iterator<Item = &'a Fits>,
    between: impl Fn(State, State) -> f64,
) -> Vec<[f64; 6]> {
    let mut out: Vec<[f64; 6]> = Vec::new();
    let mut last: Option<[f64; 6]> = None;
    for fits in fits {
        let here: [f64; 6] = std::array::from_fn(|to| {
            last.map_or(0.0, |cost| {
                let through = |from: usize| cost[from] + between(STATES[from], STATES[to]);
                (0..STATES.len()).map(through).fold(f64::INFINITY, f64::min)
            })
        });
        out.push(here);
        last = Some(std::array::from_fn(|s| here[s] + fit(fits, STATES[s])));
    }
    out
}
