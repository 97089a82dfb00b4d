//! A bout reduced to what comparisons need.

use crate::base::gait::Label;
use crate::base::limb::Side;
use crate::bouts::bout_figures::BoutFigures;
use crate::season::metric::Metric;
use crate::stats::estimate::Estimate;

/// A bout reduced to what comparisons need.
#[derive(Clone, Debug, PartialEq)]
pub struct BoutSummary {
    /// From, s.
    pub start_s: f64,
    /// To, s.
    pub end_s: f64,
    /// Strides.
    pub strides: usize,
    /// Gait and leads.
    pub label: Label,
    /// Rein ridden.
    pub rein: Option<Side>,
    /// Speed, m/s.
    pub speed: Option<f64>,
    /// The session it was ridden in, when that is known.
    pub session: Option<i64>,
    /// Figures.
    pub values: Vec<(Metric, Estimate)>,
}

impl BoutSummary {
    /// Of a bout.
    pub fn of(bout: &BoutFigures) -> Self {
        Self {
            start_s: bout.start_s,
            end_s: bout.end_s,
            strides: bout.strides,
            label: bout.label,
            rein: bout.rein,
            speed: bout.travel.map(|t| t.speed.value),
            session: None,
            values: Metric::ALL.into_iter().filter_map(|m| Some((m, m.read(bout)?))).collect(),
        }
    }

    /// One of its figures.
    pub fn value(&self, metric: Metric) -> Option<Estimate> {
        self.values.iter().find(|(m, _)| *m == metric).map(|(_, e)| *e)
    }
}
