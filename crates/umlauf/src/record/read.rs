//! A horse's record, put together from its sections.

use crate::record::card::{self, CardRow};
use crate::record::filter::{Choices, Filter, GaitRidden};
use crate::record::{again, marks, milestones, movements, next, sides, since, stories, work};

use serde::Serialize;
use umlauf_gait::season::metric::Metric;
use umlauf_gait::season::record_line;
use umlauf_gait::season::verdict::Compared;
use umlauf_gait::words;
use umlauf_store::{Store, StoreError};
use utoipa::ToSchema;

use crate::compare::row::{ComparedRow, row};
use crate::compare::target::target_key;
use crate::digest;
use crate::record::horse_form::HorseForm;
use crate::record::season::{RECENT, Season, SessionAt, sessions_at, usual_tempo};

/// A horse's record in one gait.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct Record {
    /// Number.
    pub id: i64,
    /// Name.
    pub name: String,
    /// What the coach says of the horse.
    pub card: HorseForm,
    /// What was found, in one sentence.
    pub headline: String,
    /// What the season tells beside the card.
    pub stories: Vec<String>,
    /// How long ago it was ridden, and what to mind after a pause.
    pub now: work::Now,
    /// Gaits ridden, most strides first.
    pub gaits: Vec<GaitRidden>,
    /// The gait of this card.
    pub gait: String,
    /// The variant that counts: the one ridden most, when none was chosen.
    pub variant: Option<String>,
    /// The movement that counts, likewise.
    pub movement: Option<String>,
    /// Bouts of this gait that the filters leave out.
    pub left_out: usize,
    /// What there is to choose from.
    pub choices: Choices,
    /// Sessions with bouts that count, oldest first.
    pub sessions: Vec<SessionAt>,
    /// The card.
    pub rows: Vec<CardRow>,
    /// The last session against earlier ones.
    pub since: Vec<since::Since>,
    /// Left rein against right, over the last sessions.
    pub reins: Vec<ComparedRow>,
    /// Left lead against right, over the last sessions.
    pub leads: Vec<ComparedRow>,
    /// Right less left, session by session.
    pub gaps: Vec<sides::Gap>,
    /// What the gaps and the card's weaker side come to.
    pub weak_side: Option<String>,
    /// How many sessions left and right rest on.
    pub recent: usize,
    /// Pauses in the work.
    pub lay_offs: Vec<milestones::LayOffAt>,
    /// Movements, how often they were met, and whether the gait holds in them.
    pub exposures: Vec<movements::Exposure>,
    /// What came for the first time.
    pub milestones: Vec<milestones::Milestone>,
    /// Work as it was filmed, session by session, oldest first.
    pub work: Vec<work::Worked>,
    /// What to ride next, and why.
    pub next: Vec<next::Next>,
    /// Target tempo, when the coach has set one.
    pub target_tempo: Option<f64>,
    /// The coach's marks against the curves', in a sentence.
    pub agreement: Option<String>,
}

/// A horse's record.
///
/// # Errors
/// What the store meets.
pub fn read(store: &Store, id: i64, filter: &Filter) -> Result<Record, StoreError> {
    let horse = store.horse(id)?;
    let mut sessions = store.sessions_of(id)?;
    sessions.retain(|s| filter.holds_day(&s.date));
    let ridden = digest::of_horse(store, &horse, &sessions)?;
    let chosen = filter.choose(&ridden, &sessions);
    let (gait, counted) = (chosen.gait, &chosen.counted);
    let at = sessions_at(&sessions, counted);
    let degree = horse.card.degree;
    let season = Season { sessions: &sessions, ridden: &ridden, counted, at: &at, gait, degree };
    let kept: Option<f64> = store.choice(&target_key(id, gait))?.and_then(|t| t.parse().ok());
    let usual = usual_tempo(counted);
    let target =
        |m: Metric| m.own_target(gait).or(if m == Metric::Tempo { kept.or(usual) } else { None });
    let coach = store.coach_marks(id, gait.code())?;
    let (rows, trends) = card::rows(&season, target, &coach);
    let sides = sides::read(&season, target);
    let since = since::read(&season, target);
    let mut stories = stories::read(horse.card.gaited, &season);
    stories.extend(again::read(store, &horse, &season)?);
    let exposures = movements::read(&season);
    let chances: Vec<Option<f64>> = stories.iter().map(|s| s.chance).collect();
    let standing = record_line::standing(&trends, &sides.reins, &chances);
    let stands = |k: &usize| standing.trends[*k];
    let heading: Vec<_> = (0..trends.len()).filter(stands).map(|k| trends[k]).collect();
    let reins: Vec<Compared> = sides
        .reins
        .iter()
        .zip(&standing.sides)
        .map(|(c, headline)| Compared { headline: *headline, ..c.clone() })
        .collect();
    let told = !heading.is_empty() || reins.iter().any(|c| c.headline);
    let card = words::record::headline(words::names::gait_name(gait), &heading, &reins, at.len());
    let first = stories.iter().zip(&standing.stories).find(|(_, stands)| **stands);
    let headline = match first.map(|(story, _)| &story.says) {
        None if chosen.gaits.is_empty() => words::record::nothing_timed(&horse.card.name),
        Some(story) if !told => format!("{story}."),
        Some(story) => format!("{story}. {card}"),
        None => card,
    };
    let next = next::read(&season, &sides, &exposures);
    Ok(Record {
        headline,
        now: work::now(&season, filter.today()),
        weak_side: sides::weak_side(&sides, horse.card.weak_side.as_deref()),
        agreement: marks::agreement(&rows),
        stories: stories.into_iter().map(|s| s.says).collect(),
        since,
        next,
        reins: sides.reins.iter().map(row).collect(),
        leads: sides.leads.iter().map(row).collect(),
        gaps: sides.gaps,
        recent: at.len().min(RECENT),
        lay_offs: milestones::lay_offs(&sessions),
        exposures,
        milestones: milestones::read(&ridden, &sessions),
        work: work::read(&season),
        choices: chosen.choices,
        left_out: chosen.left_out,
        variant: chosen.variant,
        movement: chosen.movement,
        sessions: at,
        gaits: chosen.gaits,
        gait: gait.code().to_owned(),
        rows,
        target_tempo: kept,
        id,
        name: horse.card.name.clone(),
        card: HorseForm::of(&horse.card),
    })
}
