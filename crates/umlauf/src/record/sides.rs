//! Left against right: over the last sessions, and session by session.

use serde::Serialize;
use umlauf_gait::base::limb::Side;
use umlauf_gait::season::bout_summary::BoutSummary;
use umlauf_gait::season::card_row::Row;
use umlauf_gait::season::metric::{Direction, Metric};
use umlauf_gait::season::progress::{self, SessionValue};
use umlauf_gait::season::verdict::{self, Compared, Verdict};
use umlauf_gait::stats::estimate::Estimate as Figure;
use umlauf_gait::words;
use utoipa::ToSchema;

use crate::digest::RiddenBout;
use crate::document::estimate::{Estimate, estimate};
use crate::record::season::{RECENT, Season};

/// Right less left of a figure, session by session.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct Gap {
    /// Its name in files.
    pub metric: String,
    /// Its name in words.
    pub name: String,
    /// Unit.
    pub unit: String,
    /// Digits after the point.
    pub digits: usize,
    /// In the order of `sessions`; nothing where one rein is missing.
    pub series: Vec<Option<Estimate>>,
    /// The smallest difference worth speaking of.
    pub worthwhile: f64,
    /// What it comes to.
    pub says: String,
}

/// Left against right.
pub struct Sides {
    /// Reins over the last sessions.
    pub reins: Vec<Compared>,
    /// Leads over the last sessions.
    pub leads: Vec<Compared>,
    /// Reins session by session.
    pub gaps: Vec<Gap>,
}

/// Left against right in a season.
pub fn read(season: &Season<'_>, target: impl Fn(Metric) -> Option<f64> + Copy) -> Sides {
    let recent: Vec<i64> = season.at.iter().rev().take(RECENT).map(|s| s.id).collect();
    let lately: Vec<&RiddenBout> =
        season.counted.iter().copied().filter(|b| recent.contains(&b.session)).collect();
    let side = |of: &dyn Fn(&RiddenBout) -> Option<Side>, want: Side| -> Vec<&BoutSummary> {
        lately.iter().filter(|b| of(b) == Some(want)).map(|b| &b.digest).collect()
    };
    let rein = |b: &RiddenBout| b.digest.rein;
    let lead =
        |b: &RiddenBout| b.digest.label.hind_lead.filter(|h| b.digest.label.fore_lead == Some(*h));
    let reins = verdict::compare(&side(&rein, Side::Left), &side(&rein, Side::Right), target);
    let leads = if season.gait.is_asymmetrical() {
        verdict::compare(&side(&lead, Side::Left), &side(&lead, Side::Right), target)
    } else {
        Vec::new()
    };
    let gaps = reins.iter().filter_map(|c| gap(c.metric, c.first.value, season)).collect();
    Sides { reins, leads, gaps }
}

fn gap(metric: Metric, level: f64, season: &Season<'_>) -> Option<Gap> {
    let of = |id: i64, side: Side| -> Vec<Figure> {
        let own = season.counted.iter();
        own.filter(|b| b.session == id && b.digest.rein == Some(side))
            .filter_map(|b| b.digest.value(metric))
            .collect()
    };
    let series: Vec<Option<Figure>> = season
        .at
        .iter()
        .map(|s| progress::side_gap(&of(s.id, Side::Left), &of(s.id, Side::Right)))
        .collect();
    let values: Vec<SessionValue> = season
        .at
        .iter()
        .zip(&series)
        .filter_map(|(s, e)| Some(SessionValue { day: s.day, value: (*e)? }))
        .collect();
    let over = progress::gap_over(&values)?;
    let row = Row::Figure(metric);
    let trend = progress::gap_trend(row, &values, level);
    Some(Gap {
        metric: metric.word().to_owned(),
        name: metric.name().to_owned(),
        unit: metric.unit().to_owned(),
        digits: metric.digits(),
        series: series.iter().map(|e| e.as_ref().map(estimate)).collect(),
        worthwhile: metric.worthwhile(level),
        says: words::record::gap(row, over, trend.as_ref()),
    })
}

/// The weaker rein as it was measured, when one stands out.
pub fn weaker(sides: &Sides) -> Option<Side> {
    let any = |v: Verdict| sides.reins.iter().any(|c| c.headline && c.verdict == v);
    // The second side is the right rein.
    match (any(Verdict::Better), any(Verdict::Worse)) {
        (true, false) => Some(Side::Left),
        (false, true) => Some(Side::Right),
        _ => None,
    }
}

/// The weaker side of the card beside the measured one.
pub fn weak_side(sides: &Sides, said: Option<&str>) -> Option<String> {
    let told = sides.reins.iter().any(|c| c.metric.direction() != Direction::None);
    Some(match (said, weaker(sides)) {
        (None, None) => return None,
        (None, Some(w)) => format!("Measured, the {} rein is the weaker one.", w.word()),
        (Some(s), Some(w)) if s == w.word() => {
            format!("The card says {s}, and so do the figures.")
        }
        (Some(s), Some(w)) => format!(
            "The card says {s}; in the last sessions the {} rein was the weaker one.",
            w.word()
        ),
        (Some(s), None) if told => {
            format!("The card says {s}; in the last sessions no rein stands out.")
        }
        (Some(s), None) => format!("The card says {s}; nothing is measured on both reins yet."),
    })
}
