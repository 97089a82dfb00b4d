//! What the Ground desk shows of one clip: its scale, its hooves, its stills, and what they tell.

use umlauf_gait::base::units::SlowFactor;
use umlauf_gait::findings::kind::Kind;
use umlauf_gait::ground::scale::Scale;
use umlauf_gait::still::working_frame;
use umlauf_gait::{Analysis, words};
use umlauf_store::clip::Clip;
use umlauf_store::marks::Mark;
use umlauf_store::{Store, StoreError};

use crate::clip::calibration::Calibration;
use crate::clip::{picture, reading, tag};
use crate::document::finding::{self, FindingSaid};
use crate::document::whole;
use crate::ground::stills::{stills, working_frames};
use crate::ground::view::{Ground, Hoof, OtherClip, Post, ToClick};
use crate::ground::ways::ways;

/// The Ground desk of a clip.
///
/// # Errors
/// What the store meets.
pub fn ground(store: &Store, id: i64) -> Result<Ground, StoreError> {
    let clip = store.clip(id)?;
    let horse = reading::horse_of(store, &clip)?;
    let (marks, own) = (store.marks(id)?, tag::shown(store.tags(id)?));
    let scatter = reading::scatter(store, &clip)?;
    let analysis = reading::analyse(&clip, horse.as_ref(), &marks, &own, scatter);
    let calibration = kept(store, &clip)?;
    let (_, options) = reading::on_true_clock(&clip, horse.as_ref(), &[]);
    let (ways, scale, camera) = ways(&clip, &calibration, &options, &analysis);
    let document = whole::document(&analysis);
    let working = match &horse {
        Some(horse) => working_frames(store, horse.id)?,
        None => Vec::new(),
    };
    Ok(Ground {
        revision: clip.revision,
        headline: words::ground_headline::of_ground(&analysis),
        ways,
        posts: calibration
            .arena()
            .posts(calibration.letters_out_m)
            .into_iter()
            .map(|(name, (x_m, y_m))| Post { name: name.to_owned(), x_m, y_m })
            .collect(),
        camera,
        hooves: hooves(&clip, &marks, scale.as_ref()),
        to_click: to_click(&clip, &marks),
        findings: findings(&analysis),
        bouts: document.bouts,
        stills: stills(&clip, &own, working_frame::working(&working).as_ref()),
        working_stills: working.len(),
        others: others(store, &clip)?,
        calibration,
    })
}

/// Findings of the ground: what is wrong, then what made the speed, then how long.
fn findings(analysis: &Analysis) -> Vec<FindingSaid> {
    let mut own: Vec<_> = analysis.findings.iter().filter(|f| f.kind.is_of_ground()).collect();
    own.sort_by_key(|f| (!f.kind.is_fault(), !matches!(f.kind, Kind::Speed { .. })));
    own.into_iter().map(|f| finding::finding(f, &analysis.schools)).collect()
}

/// The calibration kept with a clip; one without gets the arena its session speaks of.
fn kept(store: &Store, clip: &Clip) -> Result<Calibration, StoreError> {
    let mut own = Calibration::of(clip);
    if clip.settings.calibration.is_none()
        && let Some(session) = clip.session
    {
        let words = store.session(session)?.about.arena.to_lowercase().replace('×', "x");
        if words.contains("20x40") || words.contains("20 x 40") {
            own.arena.length_m = 40.0;
        }
    }
    Ok(own)
}

fn hooves(clip: &Clip, marks: &[Mark], scale: Option<&Scale>) -> Vec<Hoof> {
    let Some(scale) = scale else { return Vec::new() };
    let one = |m: &Mark| {
        let at = scale.place(picture::upright(clip, m.hoof?))?;
        let limb = if clip.settings.mirrored { m.limb.opposite() } else { m.limb };
        Some(Hoof { id: m.id.clone(), limb: limb.into(), on_us: m.on_us, x_m: at.x.0, y_m: at.y.0 })
    };
    marks.iter().filter_map(one).collect()
}

/// The middle of a stance, or shortly after its beginning when its end is not marked.
fn to_click(clip: &Clip, marks: &[Mark]) -> Vec<ToClick> {
    let slow = SlowFactor::new(clip.settings.slow_factor).unwrap_or(SlowFactor::NORMAL).get();
    #[expect(clippy::cast_possible_truncation, reason = "a fraction of a second")]
    let soon = (60_000.0 * slow) as i64;
    marks
        .iter()
        .filter(|m| m.hoof.is_none())
        .map(|m| ToClick {
            id: m.id.clone(),
            limb: if clip.settings.mirrored { m.limb.opposite() } else { m.limb }.into(),
            at_us: m.off_us.map_or(m.on_us + soon, |off| i64::midpoint(m.on_us, off)),
        })
        .collect()
}

fn others(store: &Store, clip: &Clip) -> Result<Vec<OtherClip>, StoreError> {
    let mut out = Vec::new();
    for other in store.clips()? {
        // A ride that came as a table had no tripod.
        let table = other.footage.codec == umlauf_store::ride::TABLE;
        if other.id == clip.id || table || other.settings.calibration.is_none() {
            continue;
        }
        let session = other.session.map(|s| store.session(s)).transpose()?;
        out.push(OtherClip {
            clip: other.id,
            name: other.name,
            date: session.map(|s| s.date),
            same_session: other.session.is_some() && other.session == clip.session,
        });
    }
    out.sort_by(|a, b| b.same_session.cmp(&a.same_session).then_with(|| b.date.cmp(&a.date)));
    out.truncate(12);
    Ok(out)
}
