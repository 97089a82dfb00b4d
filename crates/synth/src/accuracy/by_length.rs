//! How often intervals hold the truth, by how many strides they rest on: the second horse.

use rand::Rng;
use umlauf_gait::base::limb::Limb;
use umlauf_gait::base::thresholds::Thresholds;
use umlauf_gait::base::units::Seconds;
use umlauf_gait::bouts::bout_figures::BoutFigures;
use umlauf_gait::findings::kind::Kind as FindingKind;
use umlauf_gait::stats::descriptive::{mean, variance};
use umlauf_gait::stats::estimate::Estimate;
use umlauf_gait::{Footfall, analyse};

use crate::accuracy::row::{RATES, longest};
use crate::schooling::rng;
use crate::second_horse::{Kind, Pace, Seen, Straying, marks, pace};

/// Strides of the bouts.
pub const LENGTHS: [u32; 8] = [5, 6, 8, 10, 12, 16, 24, 40];

/// A figure with an interval.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Figure {
    /// Stride duration (and tempo, which is the same figure turned over).
    Tempo,
    /// Spread of stride durations.
    Regularity,
    /// Time in the air.
    Suspension,
    /// Dissociation of the left hind's diagonal.
    Dissociation,
    /// Duty factor of the left hind.
    Duty,
    /// Left step against right step.
    Steps,
    /// Left hind's stance against right hind's.
    Stances,
    /// Evenness of four beats.
    Beats,
    /// Stride length.
    Length,
}

impl Figure {
    /// All of them.
    pub const ALL: [Self; 9] = [
        Self::Tempo,
        Self::Regularity,
        Self::Suspension,
        Self::Dissociation,
        Self::Duty,
        Self::Steps,
        Self::Stances,
        Self::Beats,
        Self::Length,
    ];

    /// Name for tables.
    pub const fn name(self) -> &'static str {
        match self {
            Self::Tempo => "tempo",
            Self::Regularity => "regularity",
            Self::Suspension => "suspension",
            Self::Dissociation => "dissociation",
            Self::Duty => "duty factor",
            Self::Steps => "step symmetry",
            Self::Stances => "stance symmetry",
            Self::Beats => "beat evenness",
            Self::Length => "stride length",
        }
    }

    /// Value, interval and truth.
    fn of(self, bout: &BoutFigures, pace: &Pace, kind: Kind, s: &Straying) -> Option<[f64; 4]> {
        let t = pace.stride_s;
        let with = |e: Estimate, truth: f64| {
            let (lo, hi) = e.ci95?;
            Some([e.value, lo, hi, truth])
        };
        let place = |l: Limb| pace.places[l.index()];
        match self {
            Self::Tempo => with(bout.tempo?.duration, t),
            Self::Regularity => {
                let r = bout.regularity?;
                let (lo, hi) = r.ci95?;
                Some([r.value, lo, hi, 100.0 * s.spread])
            }
            Self::Suspension => with(bout.suspension?.each, pace.suspension(kind)?),
            Self::Dissociation => {
                with(bout.dissociation[0]?, (place(Limb::RF) - place(Limb::LH)) * t)
            }
            Self::Duty => with(bout.duty[Limb::LH.index()]?, pace.duty[Limb::LH.index()]),
            Self::Steps => {
                let left = place(Limb::LH) - place(Limb::RH)
                    + if place(Limb::RH) > 0.0 { 1.0 } else { 0.0 };
                with(bout.step_asymmetry?, 400.0 * (left - 0.5))
            }
            Self::Stances => {
                let (l, r) = (pace.duty[Limb::LH.index()], pace.duty[Limb::RH.index()]);
                with(bout.stance_symmetry[1]?, 200.0 * (l - r) / (l + r))
            }
            Self::Beats => with(bout.beat_evenness_pct?, pace.beat_rms_pct()),
            Self::Length => with(bout.travel?.stride_length, pace.length),
        }
    }
}

/// What a cell of the table is of.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Cell {
    /// The gait.
    pub kind: Kind,
    /// Strides of a bout.
    pub strides: u32,
    /// Frames a second.
    pub rate: f64,
    /// Marks have no error but the frame's.
    pub bare: bool,
    /// Spread of stride durations between these shares.
    pub spread: (f64, f64),
    /// Share by which the tempo rises or falls over the ride.
    pub drift: f64,
}

/// What was found in the rides of a cell.
#[derive(Clone, Debug, PartialEq)]
pub struct Found {
    /// Of every figure.
    pub figures: [Held; Figure::ALL.len()],
    /// Bouts.
    pub bouts: u64,
    /// Bouts that were said to drift.
    pub drifting: u64,
    /// Of those, bouts said to drift slowly.
    pub slowly: u64,
}

/// What was found of one figure.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct Held {
    /// Rides in which the figure had an interval.
    pub cases: u64,
    /// Rides in which it held the truth.
    pub held: u64,
    /// Median width.
    pub width: f64,
    /// That width by an ideal one's: 2·1.96 times the scatter of the errors.
    pub beside_ideal: f64,
}

impl Held {
    /// Share of intervals that held the truth.
    pub fn share(&self) -> f64 {
        #[expect(clippy::cast_precision_loss, reason = "counts")]
        let share = self.held as f64 / self.cases.max(1) as f64;
        share
    }
}

/// What one ride showed of every figure: value, interval and truth.
pub(crate) type Ride = [Option<[f64; 4]>; Figure::ALL.len()];

/// Every figure's intervals over `runs` rides of a cell.
pub fn cell(cell: &Cell, runs: u64) -> Found {
    let (mut bouts, mut drifting, mut slowly) = (0, 0, 0);
    let mut found: [Vec<[f64; 4]>; Figure::ALL.len()] = Default::default();
    each(cell, runs, |_, ride, bout| {
        bouts += 1;
        if let Some(drift) = bout.drift.filter(|d| d.flagged) {
            drifting += 1;
            slowly += u64::from(drift.is_slow(&Thresholds::default()));
        }
        for (found, seen) in found.iter_mut().zip(ride) {
            found.extend(seen);
        }
    });
    Found { figures: found.map(|found| summed(&found)), bouts, drifting, slowly }
}

/// The rides of a cell that have a bout, with their numbers.
pub(crate) fn each(cell: &Cell, runs: u64, mut take: impl FnMut(u64, Ride, &BoutFigures)) {
    for run in 0..runs {
        // One stride more is the same bout with one stride more.
        let mut rng = rng(2000 + cell.kind as u64 + 10 * cell.rate as u64, run);
        let pace = pace(cell.kind, &mut rng);
        let up = if rng.random_bool(0.5) { 1.0 } else { -1.0 };
        let straying =
            Straying { drift: up * cell.drift, ..Straying::drawn(cell.spread, &mut rng) };
        let scatter = if cell.bare { 0.0 } else { rng.random_range(0.4..0.9) / cell.rate };
        let seen = Seen { rate: cell.rate, scatter };
        let marks = marks(&pace, &straying, cell.strides, &seen, &mut rng);
        let analysis = analyse(&marks, &seen.options(&pace));
        if let Some(bout) = longest(&analysis.bouts) {
            take(run, Figure::ALL.map(|f| f.of(bout, &pace, cell.kind, &straying)), bout);
        }
    }
}

/// Every cell of the table: all gaits, lengths and rates, with marks that scatter and on the bare
/// frame grid.
pub fn all_cells(runs: u64) -> Vec<(Cell, Found)> {
    let mut cells = Vec::new();
    for bare in [false, true] {
        for kind in Kind::ALL {
            for rate in RATES {
                for strides in LENGTHS {
                    cells.push(Cell {
                        kind,
                        strides,
                        rate,
                        bare,
                        spread: (0.01, 0.05),
                        drift: 0.0,
                    });
                }
            }
        }
    }
    // Cells do not depend on one another: two threads share them.
    let (one, two) = cells.split_at(cells.len() / 2);
    let measure = |part: &[Cell]| -> Vec<(Cell, Found)> {
        part.iter().map(|c| (*c, cell(c, runs))).collect()
    };
    std::thread::scope(|scope| {
        let other = scope.spawn(|| measure(two));
        let mut all = measure(one);
        all.extend(other.join().unwrap_or_default());
        all
    })
}

/// Share of sessions of ten bouts without a drift in which one is told.
pub fn drifting_sessions(runs: u64) -> (u64, u64) {
    let mut told = 0;
    for run in 0..runs {
        let mut rng = rng(2100, run);
        let seen = Seen { rate: RATES[rng.random_range(0..4)], scatter: 0.0 };
        let pace = pace(Kind::ALL[rng.random_range(0..4)], &mut rng);
        let mut all = Vec::new();
        let mut from = 0.0;
        for _ in 0..10 {
            let straying = Straying::drawn((0.01, 0.05), &mut rng);
            let strides = LENGTHS[rng.random_range(2..8)];
            let bout = marks(&pace, &straying, strides, &seen, &mut rng);
            let later = |s: Seconds| Seconds(s.0 + from);
            all.extend(bout.into_iter().map(|m| Footfall {
                off: m.off.map(later),
                at: None,
                ..Footfall::new(m.limb, later(m.on))
            }));
            from += f64::from(strides) * pace.stride_s + 8.0;
        }
        let analysis = analyse(&all, &seen.options(&pace));
        let drifts = |kind: &FindingKind| {
            matches!(kind, FindingKind::Drift { .. } | FindingKind::TempoChange { .. })
        };
        told += u64::from(analysis.findings.iter().any(|f| drifts(&f.kind)));
    }
    (told, runs)
}

fn summed(found: &[[f64; 4]]) -> Held {
    let errors: Vec<f64> = found.iter().map(|[v, _, _, truth]| v - truth).collect();
    let mut widths: Vec<f64> = found.iter().map(|[_, lo, hi, _]| hi - lo).collect();
    widths.sort_by(f64::total_cmp);
    let width = widths.get(widths.len() / 2).copied().unwrap_or(f64::NAN);
    let scatter = (variance(&errors) + mean(&errors).powi(2)).sqrt();
    Held {
        cases: found.len() as u64,
        held: found.iter().filter(|[_, lo, hi, truth]| lo <= truth && truth <= hi).count() as u64,
        width,
        beside_ideal: width / (2.0 * 1.96 * scatter),
    }
}
