//! A horse's record: gait cards, trends over sessions, left against right, milestones.

use std::collections::BTreeMap;

use axum::http::StatusCode;
use serde::{Deserialize, Serialize};
use umlauf_gait::card;
use umlauf_gait::classify::Gait;
use umlauf_gait::limb::Side;
use umlauf_gait::metric::{Digest, Metric};
use umlauf_gait::progress::{self, Course, SessionValue, Trend};
use umlauf_gait::verdict;
use umlauf_gait::{wording, wording_record};
use umlauf_store::yard::{Horse, Session};
use umlauf_store::{Store, StoreError};
use utoipa::{IntoParams, ToSchema};

use super::compare::{ComparedRow, row, target_key};
use super::{Answer, Json, Path, Query, State};
use crate::digest::{self, Bout};
use crate::document::{Estimate, estimate};
use crate::problem::Problem;

/// Which bouts count.
#[derive(Clone, Debug, Default, Deserialize, IntoParams)]
#[serde(deny_unknown_fields)]
#[into_params(parameter_in = Query)]
pub struct Filter {
    /// Gait; nothing for the one ridden most.
    gait: Option<String>,
    /// Variant; nothing for the one ridden most, `any` for all.
    variant: Option<String>,
    /// Movement.
    movement: Option<String>,
    /// Footing.
    surface: Option<String>,
    /// Rider.
    rider: Option<String>,
    /// `left` or `right`.
    rein: Option<String>,
    /// Frames per second, whole.
    rate: Option<u32>,
    /// First day, `YYYY-MM-DD`.
    from: Option<String>,
    /// Last day.
    to: Option<String>,
}

/// A horse's record in one gait.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct Record {
    /// Number.
    pub id: i64,
    /// Name.
    pub name: String,
    /// Height at the withers, m.
    pub withers_m: Option<f64>,
    /// What was found, in one sentence.
    pub headline: String,
    /// What the season tells beside the card.
    pub stories: Vec<String>,
    /// Gaits ridden, most strides first.
    pub gaits: Vec<GaitRidden>,
    /// The gait of this card.
    pub gait: String,
    /// The variant that counts: the one ridden most, when none was chosen.
    pub variant: Option<String>,
    /// What there is to choose from.
    pub choices: Choices,
    /// Sessions with bouts that count, oldest first.
    pub sessions: Vec<SessionAt>,
    /// The card.
    pub rows: Vec<CardRow>,
    /// Left rein against right, over the last sessions.
    pub reins: Vec<ComparedRow>,
    /// Left lead against right, over the last sessions.
    pub leads: Vec<ComparedRow>,
    /// How many sessions those rest on.
    pub recent: usize,
    /// Pauses in the work.
    pub lay_offs: Vec<LayOffAt>,
    /// Movements and how often they were met.
    pub exposures: Vec<Exposure>,
    /// What came for the first time.
    pub milestones: Vec<Milestone>,
    /// Target tempo, when the coach has set one.
    pub target_tempo: Option<f64>,
}

/// A gait in the record.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct GaitRidden {
    /// Its name in files.
    pub gait: String,
    /// Its name.
    pub name: String,
    /// Strides.
    pub strides: usize,
    /// Sessions.
    pub sessions: usize,
}

/// What the filters can be.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct Choices {
    /// Variants.
    pub variants: Vec<String>,
    /// Movements.
    pub movements: Vec<String>,
    /// Footings.
    pub surfaces: Vec<String>,
    /// Riders.
    pub riders: Vec<String>,
    /// Frame rates, frames/s.
    pub rates: Vec<u32>,
}

/// A session in the record.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct SessionAt {
    /// Number.
    pub id: i64,
    /// `YYYY-MM-DD`.
    pub date: String,
    /// Days since the first.
    pub day: i64,
    /// Bouts that count.
    pub bouts: usize,
    /// Strides.
    pub strides: usize,
    /// The rider's own score.
    pub score: Option<f64>,
    /// The coach's words.
    pub note: String,
}

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
    /// Places in `sessions`: first, best and last with a value.
    pub first: Option<usize>,
    /// Best, where one way is better.
    pub best: Option<usize>,
    /// Last.
    pub last: Option<usize>,
    /// Mark of the last session, 0 to 10.
    pub mark: Option<f64>,
    /// The curve of that mark: figure (or distance from the target) and mark.
    pub curve: Vec<[f64; 2]>,
    /// What the curve is over.
    pub curve_over: Option<String>,
    /// Target.
    pub target: Option<f64>,
    /// Change in 30 days and its interval.
    pub trend: Option<[f64; 3]>,
    /// The trend in words.
    pub trend_says: Option<String>,
    /// `better`, `worse`, `changes`, `steady` or `cannot tell`.
    pub course: Option<String>,
    /// The bouts of the last session that it came from.
    pub from: Vec<FromBout>,
}

/// A bout that a figure came from.
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

/// A pause.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct LayOffAt {
    /// Last day before it.
    pub from: String,
    /// First day after it.
    pub to: String,
    /// Days.
    pub days: i64,
}

/// A movement met.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct Exposure {
    /// Movement.
    pub movement: String,
    /// Times.
    pub times: usize,
    /// On the left rein.
    pub left: usize,
    /// On the right rein.
    pub right: usize,
    /// Day of the last time.
    pub last: String,
}

/// Something for the first time.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct Milestone {
    /// Day.
    pub date: String,
    /// Session.
    pub session: i64,
    /// In words.
    pub says: String,
}

/// A horse's target.
#[derive(Clone, Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Target {
    /// Gait.
    gait: String,
    /// Strides/min; `null` takes it away.
    tempo: Option<f64>,
}

/// A horse's record.
#[utoipa::path(get, path = "/api/horses/{horse}/record", params(("horse" = i64, Path,), Filter),
    responses((status = 200, body = Record), (status = "4XX", body = Problem, content_type = "application/problem+json")))]
pub async fn record(
    state: State,
    Path(id): Path<i64>,
    Query(filter): Query<Filter>,
) -> Answer<Record> {
    state.with(move |s| read(s, id, &filter)).await.map(axum::Json)
}

/// Sets a target tempo.
#[utoipa::path(put, path = "/api/horses/{horse}/target", params(("horse" = i64, Path,)),
    request_body = Target,
    responses((status = 204), (status = "4XX", body = Problem, content_type = "application/problem+json")))]
pub async fn set_target(
    state: State,
    Path(id): Path<i64>,
    Json(new): Json<Target>,
) -> Result<StatusCode, Problem> {
    let invalid = |says: &str| Problem::new(StatusCode::UNPROCESSABLE_ENTITY, "invalid", says);
    let gait =
        Gait::named(&new.gait).ok_or_else(|| invalid("this is no gait that Umlauf knows"))?;
    if new.tempo.is_some_and(|t| !(20.0..=180.0).contains(&t)) {
        return Err(invalid("a target tempo lies between 20 and 180 strides/min"));
    }
    state
        .with(move |s| {
            s.horse(id)?;
            s.set_choice(&target_key(id, gait), new.tempo.map(|t| t.to_string()).as_deref())
        })
        .await?;
    Ok(StatusCode::NO_CONTENT)
}

/// Sessions that left and right are compared over.
const RECENT: usize = 4;

/// A horse's record.
///
/// # Errors
/// What the store meets.
pub fn read(store: &Store, id: i64, filter: &Filter) -> Result<Record, StoreError> {
    let horse = store.horse(id)?;
    let mut sessions = store.sessions_of(id)?;
    // Days as text sort as days.
    sessions.retain(|s| {
        filter.from.as_deref().is_none_or(|from| s.date.as_str() >= from)
            && filter.to.as_deref().is_none_or(|to| s.date.as_str() <= to)
    });
    let ridden = digest::of_horse(store, &horse, &sessions)?;
    let all = &ridden.bouts;
    let gaits = gaits(all);
    let gait = filter
        .gait
        .as_deref()
        .and_then(Gait::named)
        .or_else(|| gaits.first().and_then(|g| Gait::named(&g.gait)))
        .unwrap_or(Gait::Trot);
    let session_of = |b: &Bout| sessions.iter().find(|s| s.id == b.session);
    let same =
        |want: &Option<String>, has: Option<&str>| want.as_deref().is_none_or(|w| has == Some(w));
    // Like is compared with like: of several variants the one ridden most.
    let variant = match filter.variant.as_deref() {
        Some("any") => None,
        Some(v) => Some(v.to_owned()),
        None => most_ridden(all.iter().filter(|b| b.digest.label.gait == gait)),
    };
    let counted: Vec<&Bout> = all
        .iter()
        .filter(|b| b.digest.label.gait == gait)
        .filter(|b| {
            same(&variant, b.variant.as_deref())
                && same(&filter.movement, b.movement.as_deref())
                && same(&filter.rein, b.digest.rein.map(Side::word))
                && filter.rate.is_none_or(|r| rate(b) == Some(r))
                && session_of(b).is_some_and(|s| {
                    same(&filter.surface, Some(&s.about.surface))
                        && same(&filter.rider, Some(&s.about.rider))
                })
        })
        .collect();
    let at = sessions_at(&sessions, &counted);
    let kept: Option<f64> = store.choice(&target_key(id, gait))?.and_then(|t| t.parse().ok());
    let target = |m: Metric| {
        m.own_target(gait).or(if m == Metric::Tempo {
            kept.or_else(|| usual_tempo(&counted))
        } else {
            None
        })
    };
    let mut trends: Vec<(Metric, Trend)> = Vec::new();
    let rows = Metric::ALL
        .into_iter()
        .filter(|m| m.belongs_to(gait))
        .filter_map(|m| card_row(m, gait, &at, &counted, target(m), &mut trends))
        .collect();
    let recent: Vec<i64> = at.iter().rev().take(RECENT).map(|s| s.id).collect();
    let lately: Vec<&Bout> =
        counted.iter().copied().filter(|b| recent.contains(&b.session)).collect();
    let side = |of: &dyn Fn(&Bout) -> Option<Side>, want: Side| -> Vec<&Digest> {
        lately.iter().filter(|b| of(b) == Some(want)).map(|b| &b.digest).collect()
    };
    let rein = |b: &Bout| b.digest.rein;
    let lead = |b: &Bout| b.digest.label.hind_lead.filter(|h| b.digest.label.fore_lead == Some(*h));
    let reins = verdict::compare(&side(&rein, Side::Left), &side(&rein, Side::Right), target);
    let leads = if gait.is_asymmetrical() {
        verdict::compare(&side(&lead, Side::Left), &side(&lead, Side::Right), target)
    } else {
        Vec::new()
    };
    let stories = stories(&horse, &ridden, &sessions, &counted);
    let told = reins.iter().any(|c| c.headline)
        || trends.iter().any(|(_, t)| matches!(t.course, Course::Better | Course::Worse));
    let card = wording_record::record(wording::gait_name(gait), &trends, &reins, at.len());
    Ok(Record {
        headline: match stories.first() {
            Some(story) if !told => format!("{story}."),
            Some(story) => format!("{story}. {card}"),
            None => card,
        },
        stories,
        reins: reins.iter().map(row).collect(),
        leads: leads.iter().map(row).collect(),
        recent: recent.len(),
        variant,
        lay_offs: lay_offs(&sessions),
        exposures: exposures(all, &sessions),
        milestones: milestones(&ridden, &sessions),
        choices: choices(all, &sessions, gait),
        sessions: at,
        gaits,
        gait: gait.code().to_owned(),
        rows,
        target_tempo: kept,
        id,
        name: horse.name.clone(),
        withers_m: horse.withers_m,
    })
}

/// The variant with the most strides.
fn most_ridden<'a>(bouts: impl Iterator<Item = &'a Bout>) -> Option<String> {
    let mut counts: BTreeMap<Option<&str>, usize> = BTreeMap::new();
    for b in bouts {
        *counts.entry(b.variant.as_deref()).or_default() += b.digest.strides;
    }
    counts.into_iter().max_by_key(|(_, n)| *n).and_then(|(v, _)| v.map(str::to_owned))
}

/// What a season tells beside the figures of one gait: the return from a lay-off, slips out of the
/// intended gait, flying changes.
fn stories(
    horse: &Horse,
    ridden: &digest::Ridden,
    sessions: &[Session],
    counted: &[&Bout],
) -> Vec<String> {
    let mut out = Vec::new();
    let days: Vec<i64> = sessions.iter().map(|s| day_of(&s.date)).collect();
    if let Some(off) = progress::lay_offs(&days).last() {
        let of = |want: &dyn Fn(i64) -> bool, last: bool, most: usize| -> Vec<&Digest> {
            let mut ids: Vec<i64> =
                sessions.iter().filter(|s| want(day_of(&s.date))).map(|s| s.id).collect();
            if last {
                ids.reverse();
            }
            ids.truncate(most);
            counted.iter().filter(|b| ids.contains(&b.session)).map(|b| &b.digest).collect()
        };
        let before = of(&|d| d <= off.from, true, 3);
        let then = of(&|d| d >= off.to, false, 2);
        let now = of(&|d| d >= off.to, true, 2);
        let later = sessions.iter().filter(|s| day_of(&s.date) >= off.to).count();
        if !before.is_empty() && !then.is_empty() {
            let first = verdict::compare(&before, &then, |_| None);
            let last =
                if later > 3 { verdict::compare(&before, &now, |_| None) } else { first.clone() };
            out.push(wording_record::after_lay_off(off.to - off.from, &first, &last));
        }
    }
    if horse.gaited {
        out.extend(slips(ridden, sessions));
    }
    let halves =
        |of: &[digest::Changes]| of.iter().fold((0, 0), |s, c| (s.0 + c.clean, s.1 + c.all));
    if ridden.changes.len() >= 4 {
        let (a, b) = ridden.changes.split_at(ridden.changes.len() / 2);
        out.push(wording_record::clean_changes(halves(a), halves(b)));
    }
    out
}

/// Bouts of stepping pace among those of a four-beat gait, session by session.
fn slips(ridden: &digest::Ridden, sessions: &[Session]) -> Option<String> {
    let four = [Gait::FlatWalk, Gait::RunningWalk, Gait::Rack, Gait::Walk, Gait::SteppingPace];
    let (mut months, mut shares, mut counts) = (Vec::new(), Vec::new(), Vec::new());
    for s in sessions {
        let own: Vec<&Bout> = ridden
            .bouts
            .iter()
            .filter(|b| b.session == s.id && four.contains(&b.digest.label.gait))
            .collect();
        if own.is_empty() {
            continue;
        }
        let slipped = own.iter().filter(|b| b.digest.label.gait == Gait::SteppingPace).count();
        #[expect(clippy::cast_precision_loss, reason = "days and bouts")]
        {
            months.push(day_of(&s.date) as f64 / 30.0);
            shares.push(slipped as f64 / own.len() as f64);
        }
        counts.push((slipped, own.len()));
    }
    if counts.iter().all(|(n, _)| *n == 0) {
        return None;
    }
    let sum = |of: &[(usize, usize)]| of.iter().fold((0, 0), |s, c| (s.0 + c.0, s.1 + c.1));
    let (a, b) = counts.split_at(counts.len() / 2);
    let slope = umlauf_gait::trend::theil_sen(&months, &shares);
    let grows = slope.and_then(|t| {
        if t.lo > 0.0 {
            Some(true)
        } else if t.hi < 0.0 {
            Some(false)
        } else {
            None
        }
    });
    Some(wording_record::slips(wording::gait_name(Gait::SteppingPace), sum(a), sum(b), grows))
}

/// Whole frames per second.
fn rate(b: &Bout) -> Option<u32> {
    #[expect(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "a frame rate")]
    let whole = b.frame_rate.map(|r| r.round() as u32);
    whole
}

/// The horse's own median tempo, the target that stands in for one.
fn usual_tempo(bouts: &[&Bout]) -> Option<f64> {
    let mut all: Vec<f64> =
        bouts.iter().filter_map(|b| b.digest.value(Metric::Tempo)).map(|e| e.value).collect();
    all.sort_by(f64::total_cmp);
    all.get(all.len() / 2).copied()
}

fn gaits(all: &[Bout]) -> Vec<GaitRidden> {
    let mut out: Vec<GaitRidden> = Vec::new();
    for gait in Gait::ALL {
        let own: Vec<&Bout> = all.iter().filter(|b| b.digest.label.gait == gait).collect();
        if own.is_empty() || matches!(gait, Gait::Unclear | Gait::Halt) {
            continue;
        }
        let mut sessions: Vec<i64> = own.iter().map(|b| b.session).collect();
        sessions.dedup();
        out.push(GaitRidden {
            gait: gait.code().to_owned(),
            name: wording::gait_name(gait).to_owned(),
            strides: own.iter().map(|b| b.digest.strides).sum(),
            sessions: sessions.len(),
        });
    }
    out.sort_by_key(|g| std::cmp::Reverse(g.strides));
    out
}

fn day_of(date: &str) -> i64 {
    let epoch = jiff::civil::Date::constant(2000, 1, 1);
    date.parse::<jiff::civil::Date>()
        .ok()
        .and_then(|d| d.since((jiff::Unit::Day, epoch)).ok())
        .map_or(0, |s| i64::from(s.get_days()))
}

fn sessions_at(sessions: &[Session], counted: &[&Bout]) -> Vec<SessionAt> {
    let first = sessions.first().map_or(0, |s| day_of(&s.date));
    sessions
        .iter()
        .filter_map(|s| {
            let own: Vec<&&Bout> = counted.iter().filter(|b| b.session == s.id).collect();
            (!own.is_empty()).then(|| SessionAt {
                id: s.id,
                date: s.date.clone(),
                day: day_of(&s.date) - first,
                bouts: own.len(),
                strides: own.iter().map(|b| b.digest.strides).sum(),
                score: s.about.score,
                note: s.about.note.clone(),
            })
        })
        .collect()
}

fn card_row(
    metric: Metric,
    gait: Gait,
    at: &[SessionAt],
    counted: &[&Bout],
    target: Option<f64>,
    trends: &mut Vec<(Metric, Trend)>,
) -> Option<CardRow> {
    let of = |s: &SessionAt| -> Vec<(&Bout, umlauf_gait::uncertainty::Estimate)> {
        let own = counted.iter().filter(|b| b.session == s.id);
        own.filter_map(|b| Some((*b, b.digest.value(metric)?))).collect()
    };
    let series: Vec<Option<umlauf_gait::uncertainty::Estimate>> = at
        .iter()
        .map(|s| progress::session_value(&of(s).iter().map(|(_, e)| *e).collect::<Vec<_>>()))
        .collect();
    let places: Vec<usize> = (0..series.len()).filter(|k| series[*k].is_some()).collect();
    let values: Vec<SessionValue> = places
        .iter()
        .filter_map(|k| Some(SessionValue { day: at[*k].day, value: series[*k]? }))
        .collect();
    let last = places.last().copied()?;
    let trend = progress::trend(metric, &values, target);
    if let Some(trend) = trend {
        trends.push((metric, trend));
    }
    let value = series[last]?;
    let curve = card::curve(metric, gait);
    Some(CardRow {
        metric: metric.word().to_owned(),
        name: metric.name().to_owned(),
        unit: metric.unit().to_owned(),
        digits: metric.digits(),
        first: places.first().copied(),
        best: progress::best(metric, &values, target).and_then(|k| places.get(k).copied()),
        last: Some(last),
        mark: card::mark(metric, gait, value.value, target),
        curve: curve.map_or(Vec::new(), |(c, _)| c.iter().map(|(x, y)| [*x, *y]).collect()),
        curve_over: curve.map(|(_, from_target)| match (from_target, metric) {
            (false, _) => metric.unit().to_owned(),
            (true, Metric::Tempo) => "% from the target".to_owned(),
            (true, _) => format!("{} from the target", metric.unit()),
        }),
        target,
        trend: trend.map(|t| [t.per_month.value, t.per_month.lo, t.per_month.hi]),
        trend_says: trend.map(|t| wording_record::trend(metric, &t)),
        course: trend.map(|t| wording_record::course(t.course).to_owned()),
        from: of(&at[last])
            .into_iter()
            .map(|(b, e)| FromBout {
                clip: b.clip,
                start_s: b.digest.start_s,
                value: estimate(&e),
                rein: b.digest.rein.map(|r| r.word().to_owned()),
            })
            .collect(),
        series: series.iter().map(|e| e.as_ref().map(estimate)).collect(),
    })
}

fn lay_offs(sessions: &[Session]) -> Vec<LayOffAt> {
    let days: Vec<i64> = sessions.iter().map(|s| day_of(&s.date)).collect();
    let date = |day: i64| {
        let at = sessions.iter().find(|s| day_of(&s.date) == day);
        at.map_or_else(String::new, |s| s.date.clone())
    };
    progress::lay_offs(&days)
        .into_iter()
        .map(|l| LayOffAt { from: date(l.from), to: date(l.to), days: l.to - l.from })
        .collect()
}

fn exposures(all: &[Bout], sessions: &[Session]) -> Vec<Exposure> {
    let mut out: BTreeMap<&str, Exposure> = BTreeMap::new();
    let mut met = Vec::new();
    for b in all {
        let Some(movement) = b.movement.as_deref().filter(|m| *m != "straight") else { continue };
        // A stretch that falls into several bouts was met once.
        let stretch = (b.clip, b.stretch);
        if met.contains(&stretch) {
            continue;
        }
        met.push(stretch);
        let date = sessions.iter().find(|s| s.id == b.session).map_or("", |s| s.date.as_str());
        let e = out.entry(movement).or_insert_with(|| Exposure {
            movement: movement.to_owned(),
            times: 0,
            left: 0,
            right: 0,
            last: String::new(),
        });
        e.times += 1;
        e.left += usize::from(b.digest.rein == Some(Side::Left));
        e.right += usize::from(b.digest.rein == Some(Side::Right));
        date.clone_into(&mut e.last);
    }
    out.into_values().collect()
}

/// First times: a gait, a movement, changes without a fault.
fn milestones(ridden: &digest::Ridden, sessions: &[Session]) -> Vec<Milestone> {
    let mut out = Vec::new();
    let mut seen: Vec<String> = Vec::new();
    for s in sessions {
        let mut first = |says: String| {
            if !seen.contains(&says) {
                seen.push(says.clone());
                out.push(Milestone { date: s.date.clone(), session: s.id, says });
            }
        };
        let own: Vec<&Bout> = ridden.bouts.iter().filter(|b| b.session == s.id).collect();
        for b in &own {
            if !matches!(b.digest.label.gait, Gait::Unclear | Gait::Halt) {
                let gait = wording::gait_name(b.digest.label.gait).to_lowercase();
                first(format!("First measured {gait}."));
            }
            if let Some(m) = b.movement.as_deref().filter(|m| *m != "straight") {
                first(format!("First {m}."));
            }
        }
        if let Some(c) = ridden.changes.iter().find(|c| c.session == s.id)
            && c.clean == c.all
        {
            first("First session in which every flying change was clean.".to_owned());
        }
    }
    out
}

fn choices(all: &[Bout], sessions: &[Session], gait: Gait) -> Choices {
    let own: Vec<&Bout> = all.iter().filter(|b| b.digest.label.gait == gait).collect();
    let sorted = |mut words: Vec<String>| {
        words.sort();
        words.dedup();
        words.retain(|w| !w.is_empty());
        words
    };
    let here = |of: &dyn Fn(&Session) -> String| {
        sorted(sessions.iter().filter(|s| own.iter().any(|b| b.session == s.id)).map(of).collect())
    };
    Choices {
        variants: sorted(own.iter().filter_map(|b| b.variant.clone()).collect()),
        movements: sorted(own.iter().filter_map(|b| b.movement.clone()).collect()),
        surfaces: here(&|s| s.about.surface.clone()),
        riders: here(&|s| s.about.rider.clone()),
        rates: {
            let mut rates: Vec<u32> = own.iter().filter_map(|b| rate(b)).collect();
            rates.sort_unstable();
            rates.dedup();
            rates
        },
    }
}
