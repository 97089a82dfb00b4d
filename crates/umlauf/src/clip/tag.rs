//! What the coach marks beside footfalls, as the page sends it and as the core reads it.

use std::collections::BTreeMap;

use serde::{Deserialize, Serialize};
use umlauf_gait::Side;
use umlauf_gait::base::gait::Gait;
use umlauf_gait::marks::aid::Aid;
use umlauf_gait::marks::coach_word::CoachWord;
use umlauf_gait::marks::movement::Movement;
use umlauf_gait::marks::ride_mark::{MarkKind, RideMark};
use umlauf_gait::still::points;
use umlauf_store::StoreError;
use umlauf_store::tag::{self, TagChange};
use utoipa::ToSchema;

use crate::clip::impossible::Impossible;
use crate::clip::picture::Pixel;

/// Something marked at a moment or over a stretch of a clip.
#[derive(Clone, Debug, Deserialize, Serialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Tag {
    /// Name, unique in the clip.
    pub id: String,
    /// When, or from when, µs of the file.
    pub from_us: i64,
    /// To when; `null` for a moment.
    pub to_us: Option<i64>,
    /// What.
    pub what: What,
}

/// What was marked.
#[derive(Clone, Debug, Deserialize, PartialEq, Serialize, ToSchema)]
#[serde(tag = "kind", rename_all = "snake_case")]
pub enum What {
    /// An aid is given.
    Aid {
        /// `walk`, `trot`, `canter-left`, `halt`, `change`, `half-halt`, `leg-LH`, `sit`, …
        asked: String,
    },
    /// A letter is passed.
    Letter {
        /// Its name.
        letter: String,
    },
    /// Free text.
    Note {
        /// The words.
        text: String,
    },
    /// Hooves are out of view.
    Unseen,
    /// What was ridden.
    Ridden(Ridden),
    /// A still with points clicked on horse and rider.
    Still(Still),
}

/// A still for the frame check.
#[derive(Clone, Debug, Default, Deserialize, PartialEq, Serialize, ToSchema)]
pub struct Still {
    /// Points by name: `poll`, `nose`, …, `LF`, …, `ear`, …; px of the picture as shown.
    pub points: BTreeMap<String, Pixel>,
    /// It shows this horse's working frame.
    #[serde(default)]
    pub working: bool,
    /// The coach's words.
    #[serde(default)]
    pub words: String,
}

impl Still {
    /// Points as the core reads them, a mirror image turned back.
    pub fn points(&self, upright: impl Fn((f64, f64)) -> (f64, f64)) -> points::Points {
        let one = |(name, p): (&String, &Pixel)| {
            Some((points::Point::named(name)?, upright((p.x_px, p.y_px))))
        };
        self.points.iter().filter_map(one).collect()
    }
}

/// What was ridden over a stretch, in the coach's words.
#[derive(Clone, Debug, Default, Deserialize, PartialEq, Serialize, ToSchema)]
pub struct Ridden {
    /// Gait, when the coach sets it.
    #[serde(default)]
    pub gait: Option<String>,
    /// `collected`, `working`, `medium`, `extended`, `free`, …
    #[serde(default)]
    pub variant: Option<String>,
    /// `left` or `right`.
    #[serde(default)]
    pub rein: Option<String>,
    /// Lead asked for: `left` or `right`.
    #[serde(default)]
    pub lead: Option<String>,
    /// Movement or figure: `shoulder-in`, `circle-20`, `tempi-4x5`, `drill-2x2`, …
    #[serde(default)]
    pub movement: Option<String>,
    /// Number of the attempt.
    #[serde(default)]
    pub attempt: Option<u32>,
    /// What the coach ticked.
    #[serde(default)]
    pub ticks: Vec<String>,
    /// More in their own words.
    #[serde(default)]
    pub words: String,
}

/// One change of one tag: from `before` (`null`: it is new) to `after` (`null`: it goes).
#[derive(Clone, Debug, Deserialize, Serialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct TagEdit {
    /// What must stand there now.
    pub before: Option<Tag>,
    /// What is to stand there.
    pub after: Option<Tag>,
}

impl TagEdit {
    /// As the store keeps it.
    ///
    /// # Errors
    /// A sentence when something in it cannot be.
    pub fn stored(&self) -> Result<TagChange, StoreError> {
        let one = |tag: &Option<Tag>| tag.as_ref().map(stored).transpose();
        Ok(TagChange { before: one(&self.before)?, after: one(&self.after)? })
    }
}

fn stored(tag: &Tag) -> Result<tag::Tag, StoreError> {
    check(&tag.what)?;
    let what = serde_json::to_string(&tag.what).map_err(|e| StoreError::Invalid(e.to_string()))?;
    Ok(tag::Tag { id: tag.id.clone(), from_us: tag.from_us, to_us: tag.to_us, what })
}

fn check(what: &What) -> Result<(), Impossible> {
    let named = |text: &str, most: usize| (1..=most).contains(&text.trim().chars().count());
    let side = |word: &Option<String>| word.as_deref().is_none_or(|w| w.parse::<Side>().is_ok());
    match what {
        What::Aid { asked } if !named(asked, 40) => Err("an aid needs a name".into()),
        What::Letter { letter } if !named(letter, 8) => Err("a letter needs its name".into()),
        What::Note { text } if !named(text, 500) => Err("a note needs 1 to 500 letters".into()),
        What::Ridden(r) => {
            if !side(&r.rein) || !side(&r.lead) {
                return Err("rein and lead are left or right".into());
            }
            if r.gait.as_deref().is_some_and(|g| Gait::named(g).is_none()) {
                return Err("this is no gait that Umlauf knows".into());
            }
            let short = [&r.variant, &r.movement].into_iter().flatten().all(|t| named(t, 60));
            let ticks = r.ticks.len() <= 20 && r.ticks.iter().all(|t| named(t, 80));
            if !short || !ticks || r.words.chars().count() > 1000 {
                return Err("what was ridden is too long to keep; shorten it".into());
            }
            Ok(())
        }
        What::Still(still) => {
            let near = |v: f64| (-20_000.0..=40_000.0).contains(&v);
            if still.points.values().any(|p| !near(p.x_px) || !near(p.y_px)) {
                return Err("a point of the still lies far outside the picture".into());
            }
            if still.points.keys().any(|name| points::Point::named(name).is_none()) {
                return Err("a point of the still has a name that Umlauf does not know".into());
            }
            if still.words.chars().count() > 500 {
                return Err("a still's words must stay under 500 letters".into());
            }
            Ok(())
        }
        _ => Ok(()),
    }
}

/// Tags as the page reads them; what cannot be read (from a newer version) is left out.
pub fn shown(tags: Vec<tag::Tag>) -> Vec<Tag> {
    tags.into_iter()
        .filter_map(|t| {
            let what = serde_json::from_str(&t.what).ok()?;
            Some(Tag { id: t.id, from_us: t.from_us, to_us: t.to_us, what })
        })
        .collect()
}

/// What was ridden at a moment, in the coach's words, and where that stretch begins, µs; of two
/// stretches the later one.
pub fn ridden_at(tags: &[Tag], us: i64) -> Option<(i64, &Ridden)> {
    tags.iter().rev().find_map(|tag| match &tag.what {
        What::Ridden(r) if tag.from_us <= us && tag.to_us.is_none_or(|to| us < to) => {
            Some((tag.from_us, r))
        }
        _ => None,
    })
}

/// Tags as the core reads them, `time` giving true seconds.
pub fn for_the_core(tags: &[Tag], time: impl Fn(i64) -> f64) -> (Vec<RideMark>, Vec<CoachWord>) {
    let (mut marks, mut said) = (Vec::new(), Vec::new());
    for tag in tags {
        let from = time(tag.from_us);
        let to = tag.to_us.map_or(f64::INFINITY, &time);
        let mut put = |time: f64, kind| {
            if time.is_finite() {
                marks.push(RideMark { time, kind });
            }
        };
        match &tag.what {
            What::Aid { asked } => put(from, MarkKind::Aid(Aid::named(asked))),
            What::Letter { letter } => put(from, MarkKind::Letter(letter.clone())),
            // A still is a picture, no event of the ride.
            What::Still(_) => {}
            What::Note { text } => put(from, MarkKind::Note(text.clone())),
            What::Unseen => {
                put(from, MarkKind::UnseenStart);
                put(to, MarkKind::UnseenEnd);
            }
            What::Ridden(r) => {
                let side = |word: &Option<String>| word.as_deref().and_then(|w| w.parse().ok());
                let (gait, rein) = (r.gait.as_deref().and_then(Gait::named), side(&r.rein));
                let lead = side(&r.lead);
                if let Some(name) = &r.movement {
                    let movement = Movement { side: rein, ..Movement::named(name) };
                    put(from, MarkKind::Start(movement.clone()));
                    put(to, MarkKind::End(movement));
                }
                if gait.is_some() || rein.is_some() || lead.is_some() {
                    said.push(CoachWord { from_s: from, to_s: to, gait, rein, lead });
                }
            }
        }
    }
    (marks, said)
}
