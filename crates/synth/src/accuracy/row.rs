//! One row of the table, and how its rides are run.

use rand::Rng;
use rand_chacha::ChaCha8Rng;
use umlauf_gait::base::gait::Gait;
use umlauf_gait::base::limb::Side;
use umlauf_gait::bouts::bout_figures::BoutFigures;

use crate::schooling::rng;

/// One row of the table: how many runs, how many right.
#[derive(Clone, Debug, PartialEq)]
pub struct Row {
    /// What was asked.
    pub what: String,
    /// Frames per second.
    pub rate: f64,
    /// Runs.
    pub runs: u64,
    /// Right answers.
    pub right: u64,
    /// The aim, as a share, and whether it is an upper limit.
    pub aim: (f64, bool),
}

impl Row {
    /// Share of right answers.
    pub fn share(&self) -> f64 {
        #[expect(clippy::cast_precision_loss, reason = "counts")]
        let share = self.right as f64 / self.runs.max(1) as f64;
        share
    }
}

/// Frame rates of the table.
pub const RATES: [f64; 4] = [30.0, 60.0, 120.0, 240.0];

pub(crate) const GAITS: [(&str, Gait); 9] = [
    ("walk", Gait::Walk),
    ("walk-collected", Gait::Walk),
    ("trot", Gait::Trot),
    ("trot-collected", Gait::Trot),
    ("trot-extended", Gait::Trot),
    ("canter", Gait::Canter),
    ("canter-collected", Gait::Canter),
    ("canter-extended", Gait::Canter),
    ("gallop", Gait::Gallop),
];

pub(crate) fn tally(
    what: &str,
    rate: f64,
    runs: u64,
    aim: (f64, bool),
    row: u64,
    mut run: impl FnMut(&mut ChaCha8Rng) -> Option<bool>,
) -> Row {
    let (mut counted, mut right) = (0, 0);
    for k in 0..runs {
        let mut rng = rng(row, k);
        if let Some(ok) = run(&mut rng) {
            counted += 1;
            right += u64::from(ok);
        }
    }
    Row { what: what.to_owned(), rate, runs: counted, right, aim }
}

pub(crate) fn side(rng: &mut ChaCha8Rng) -> Side {
    if rng.random_bool(0.5) { Side::Left } else { Side::Right }
}

pub(crate) fn longest(bouts: &[BoutFigures]) -> Option<&BoutFigures> {
    bouts.iter().max_by_key(|b| b.strides)
}
