//! The gait card: a row a figure, over sessions, with its mark and the coach's.

use serde::Serialize;
use umlauf_gait::season::best;
use umlauf_gait::season::card;
use umlauf_gait::season::card_row::Row;
use umlauf_gait::season::metric::Metric;
use umlauf_gait::season::progress::{self, SessionValue, Trend};
use umlauf_gait::season::tally::Tally;
use umlauf_gait::stats::estimate::Estimate as Figure;
use umlauf_gait::words;
use umlauf_store::coach_mark::CoachMark;
use utoipa::ToSchema;

use crate::document::estimate::{Estimate, estimate};
use crate::record::season::{Season, SessionAt};

/// A figure of the card.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct CardRow {
    /// Its name in files.
    pub metric: String,
    /// Its name in words.
    pub name: String,
    /// Unit.
    pub unit: String,
    /// Digits after the point.
    pub digits: usize,
    /// Value of each session, in the order of `sessions`.
    pub series: Vec<Option<Estimate>>,
    /// Mark of each session by the curve, 0 to 10.
    pub marks: Vec<Option<f64>>,
    /// The coach's own mark of each session.
    pub coach: Vec<Option<f64>>,
    /// Places in `sessions`: the first with a value.
    pub first: Option<usize>,
    /// The one before this.
    pub last: Option<usize>,
    /// The best, where one way is better.
    pub best: Option<usize>,
    /// The best one's figure, corrected for being picked.
    pub best_value: Option<Estimate>,
    /// Sessions that the best was picked from.
    pub best_of: usize,
    /// The latest with a value.
    pub this: Option<usize>,
    /// The curve of the mark: figure (or distance from the target) and mark.
    pub curve: Vec<[f64; 2]>,
    /// What the curve is over.
    pub curve_over: Option<String>,
    /// Target.
    pub target: Option<f64>,
    /// Change in 30 days and its interval.
    pub trend: Option<[f64; 3]>,
    /// The trend in words.
    pub trend_says: Option<String>,
    /// The trend's own values at the first session and at the last, in words.
    pub trend_ends: Option<String>,
    /// `better`, `worse`, `changes`, `steady` or `cannot tell`.
    pub course: Option<String>,
    /// The bouts or moments of this session that it came from.
    pub from: Vec<FromBout>,
}

/// A bout or moment that a figure came from.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct FromBout {
    /// Clip.
    pub clip: i64,
    /// From, s.
    pub start_s: f64,
    /// Figure.
    pub value: Estimate,
    /// Rein.
    pub rein: Option<String>,
}

/// A value of a session with where it came from.
type Part = (FromBout, Figure);

/// The rows of a card, and the trends of those that have one.
pub fn rows(
    season: &Season<'_>,
    target: impl Fn(Metric) -> Option<f64>,
    coach: &[CoachMark],
) -> (Vec<CardRow>, Vec<(Row, Trend)>) {
    let mut trends = Vec::new();
    let figures = Metric::ALL.into_iter().filter(|m| m.belongs_to(season.gait)).map(Row::Figure);
    let tallies =
        Tally::ALL.into_iter().filter(|d| d.belongs_to(season.gait, season.degree)).map(Row::Tally);
    let out = figures
        .chain(tallies)
        .filter_map(|row| {
            let target = if let Row::Figure(m) = row { target(m) } else { None };
            one(row, season, target, coach, &mut trends)
        })
        .collect();
    (out, trends)
}

/// What a figure of a session is made of.
fn parts(row: Row, season: &Season<'_>, at: &SessionAt) -> Vec<Part> {
    match row {
        Row::Figure(metric) => {
            let own = season.counted.iter().filter(|b| b.session == at.id);
            own.filter_map(|b| {
                let value = b.digest.value(metric)?;
                let rein = b.digest.rein.map(|r| r.word().to_owned());
                let (clip, start_s) = (b.clip, b.digest.start_s);
                Some((FromBout { clip, start_s, value: estimate(&value), rein }, value))
            })
            .collect()
        }
        Row::Tally(tally) => {
            let own = season.ridden.counted.iter().filter(|d| {
                d.session == at.id && d.done.tally == tally && d.done.gait == season.gait
            });
            own.map(|d| {
                let value = Figure { value: d.done.value, sd: None, ci95: None, n: 1 };
                let shown = if tally == Tally::Answer { value } else { value.scaled(100.0) };
                let (clip, start_s) = (d.clip, d.done.time_s);
                (FromBout { clip, start_s, value: estimate(&shown), rein: None }, value)
            })
            .collect()
        }
    }
}

fn value(row: Row, parts: &[Part]) -> Option<Figure> {
    match row {
        Row::Figure(_) => {
            progress::session_value(&parts.iter().map(|(_, e)| *e).collect::<Vec<_>>())
        }
        Row::Tally(tally) => tally.of(&parts.iter().map(|(_, e)| e.value).collect::<Vec<_>>()),
    }
}

fn one(
    row: Row,
    season: &Season<'_>,
    target: Option<f64>,
    coach: &[CoachMark],
    trends: &mut Vec<(Row, Trend)>,
) -> Option<CardRow> {
    let at = season.at;
    let mut all: Vec<Vec<Part>> = at.iter().map(|s| parts(row, season, s)).collect();
    let series: Vec<Option<Figure>> = all.iter().map(|p| value(row, p)).collect();
    let places: Vec<usize> = (0..series.len()).filter(|k| series[*k].is_some()).collect();
    let values: Vec<SessionValue> = places
        .iter()
        .filter_map(|k| Some(SessionValue { day: at[*k].day, value: series[*k]? }))
        .collect();
    let this = places.last().copied()?;
    let trend = progress::trend(row, &values, target);
    if let Some(trend) = trend {
        trends.push((row, trend));
    }
    let mark =
        |e: &Option<Figure>| e.as_ref().and_then(|e| card::mark(row, season.gait, e.value, target));
    let own = |s: &SessionAt| {
        let found = coach.iter().find(|m| m.session == s.id && m.figure == row.word());
        found.map(|m| m.mark)
    };
    let curve = card::curve(row, season.gait);
    let best = best::best(row, &values, target);
    Some(CardRow {
        metric: row.word().to_owned(),
        name: row.name().to_owned(),
        unit: row.unit().to_owned(),
        digits: row.digits(),
        marks: series.iter().map(mark).collect(),
        coach: at.iter().map(own).collect(),
        first: places.first().copied(),
        last: places.len().checked_sub(2).and_then(|k| places.get(k).copied()),
        best: best.and_then(|b| places.get(b.place).copied()),
        best_value: best.map(|b| estimate(&b.value)),
        best_of: best.map_or(0, |b| b.of),
        this: Some(this),
        curve: curve.map_or(Vec::new(), |(c, _)| c.iter().map(|(x, y)| [*x, *y]).collect()),
        curve_over: curve.map(|(_, from_target)| match (from_target, row) {
            (false, _) => row.unit().to_owned(),
            (true, Row::Figure(Metric::Tempo)) => "% from the target".to_owned(),
            (true, _) => format!("{} from the target", row.unit()),
        }),
        target,
        trend: trend.map(|t| [t.per_month.value, t.per_month.lo, t.per_month.hi]),
        trend_says: trend.map(|t| words::record::trend(row, &t)),
        trend_ends: trend.map(|t| words::record::trend_ends(row, &t)),
        course: trend.map(|t| words::record::course(t.course).to_owned()),
        from: all.swap_remove(this).into_iter().map(|(from, _)| from).collect(),
        series: series.iter().map(|e| e.as_ref().map(estimate)).collect(),
    })
}
