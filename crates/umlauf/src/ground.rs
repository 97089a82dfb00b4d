//! What the Ground desk shows of one clip: its scale, its hooves, its stills, and what they tell.

use serde::Serialize;
use umlauf_gait::base::units::SlowFactor;
use umlauf_gait::findings::kind::Kind;
use umlauf_gait::ground::plane_checks::Warning;
use umlauf_gait::ground::scale::Scale;
use umlauf_gait::ground::source::Source;
use umlauf_gait::ground::travel;
use umlauf_gait::still::frame_check::{self, Frame};
use umlauf_gait::still::working_frame;
use umlauf_gait::{Analysis, Options, words};
use umlauf_store::clip::Clip;
use umlauf_store::marks::Mark;
use umlauf_store::{Store, StoreError};
use utoipa::ToSchema;

use crate::calibration::{Calibration, Tried};
use crate::desk::{self, LimbCode};
use crate::document::{self, Bout, Estimate, FindingSaid};
use crate::tags::{self, Still, What};

/// The Ground desk of a clip.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct Ground {
    /// Counts the changes of this clip.
    pub revision: i64,
    /// What was found, in one sentence.
    pub headline: String,
    /// What the coach says of its scale.
    pub calibration: Calibration,
    /// The five ways, best first.
    pub ways: Vec<Way>,
    /// Posts of the arena's letters, where they stand.
    pub posts: Vec<Post>,
    /// The camera, when the ground plane tells.
    pub camera: Option<CameraAt>,
    /// Hooves whose place is known, in order of time.
    pub hooves: Vec<Hoof>,
    /// Footfalls whose hoof is not clicked yet, in order of time, with the frame to click on.
    pub to_click: Vec<ToClick>,
    /// Bouts.
    pub bouts: Vec<Bout>,
    /// Findings of the ground.
    pub findings: Vec<FindingSaid>,
    /// Stills of this clip, in order of time.
    pub stills: Vec<StillView>,
    /// Stills of this horse that show its working frame, this clip's among them.
    pub working_stills: usize,
    /// Other clips whose scale may be taken over.
    pub others: Vec<OtherClip>,
}

/// A way to metres.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct Way {
    /// `ground`, `bar`, `letters`, `figure` or `withers`.
    pub source: String,
    /// Its name in words.
    pub name: String,
    /// `used`, `ready` (it works, a better one is used), `refused`, or `empty`.
    pub state: String,
    /// In words.
    pub says: String,
    /// What to look at again.
    pub warnings: Vec<String>,
    /// 95 % error of one stride's length by this way alone, %.
    pub error_pct: Option<f64>,
    /// Distance of each ground point from where the others put it, px.
    pub residuals_px: Vec<f64>,
}

/// A letter's post.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct Post {
    /// Letter.
    pub name: String,
    /// Across the arena, m.
    pub x_m: f64,
    /// Along the arena, m.
    pub y_m: f64,
}

/// Where the camera stands.
#[derive(Clone, Copy, Debug, Serialize, ToSchema)]
pub struct CameraAt {
    /// Across the arena, m.
    pub x_m: f64,
    /// Along the arena, m.
    pub y_m: f64,
    /// Height, m.
    pub height_m: f64,
}

/// A hoof on the ground.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct Hoof {
    /// Mark.
    pub id: String,
    /// Limb.
    pub limb: LimbCode,
    /// When it takes the ground, µs of the file.
    pub on_us: i64,
    /// Across the arena, or along the line of travel without a ground plane, m.
    pub x_m: f64,
    /// Along the arena, m.
    pub y_m: f64,
}

/// A footfall to be clicked.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct ToClick {
    /// Mark.
    pub id: String,
    /// Limb.
    pub limb: LimbCode,
    /// A moment at which the hoof stands, µs of the file.
    pub at_us: i64,
}

/// A still, measured.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct StillView {
    /// Tag.
    pub id: String,
    /// When, µs of the file.
    pub at_us: i64,
    /// As it was clicked.
    pub still: Still,
    /// Figures by name, with their units.
    pub figures: Vec<StillFigure>,
    /// Sentences, the most important first.
    pub says: Vec<String>,
    /// Where harm is possible.
    pub caution: String,
}

/// A figure of a still.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct StillFigure {
    /// Name.
    pub name: String,
    /// Unit.
    pub unit: String,
    /// Figure.
    pub value: Estimate,
    /// The same of the horse's working frame.
    pub working: Option<Estimate>,
}

/// Another clip with a scale.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct OtherClip {
    /// Number.
    pub clip: i64,
    /// Name.
    pub name: String,
    /// Day.
    pub date: Option<String>,
    /// It is of the same session.
    pub same_session: bool,
}

/// The Ground desk of a clip.
///
/// # Errors
/// What the store meets.
pub fn ground(store: &Store, id: i64) -> Result<Ground, StoreError> {
    let clip = store.clip(id)?;
    let horse = desk::horse_of(store, &clip)?;
    let (marks, own) = (store.marks(id)?, tags::shown(store.tags(id)?));
    let analysis = desk::analyse(&clip, horse.as_ref(), &marks, &own, desk::scatter(store)?);
    let calibration = kept(store, &clip)?;
    let (_, options) = desk::on_true_clock(&clip, horse.as_ref(), &[]);
    let (ways, scale, camera) = ways(&clip, &calibration, &options, &analysis);
    let document = document::document(&analysis);
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
    own.into_iter().map(|f| document::finding(f, &analysis.schools)).collect()
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

fn ways(
    clip: &Clip,
    own: &Calibration,
    options: &Options,
    analysis: &Analysis,
) -> (Vec<Way>, Option<Scale>, Option<CameraAt>) {
    let tried = [
        (Source::Ground, own.plane(clip)),
        (Source::Bar, own.bar(clip)),
        (Source::Withers, own.withers(clip, options)),
    ];
    let (mut out, mut best, mut camera) = (Vec::new(), None, None);
    for (source, tried) in tried {
        let mut way = empty_way(source);
        match tried {
            Tried::Empty => way.says = hint(source).to_owned(),
            Tried::Refused(why) => {
                "refused".clone_into(&mut way.state);
                way.says = words::scales::refused(&why);
            }
            Tried::NoScale(why) => {
                "refused".clone_into(&mut way.state);
                way.says = words::scales::no_scale(why).to_owned();
            }
            Tried::Scale(scale) => {
                way.error_pct = stride_error(&scale, analysis);
                if let Scale::Ground(plane) = &scale {
                    way.says = words::scales::plane(plane);
                    way.warnings = plane.warnings.iter().map(words::scales::warning).collect();
                    // Points close to a line carry the map badly even when they fit.
                    if plane.warnings.is_empty() && way.error_pct.is_some_and(|e| e > 6.0) {
                        way.warnings.push(words::scales::warning(&Warning::NearlyInLine));
                    }
                    way.residuals_px.clone_from(&plane.residuals_px);
                    camera = plane.camera.map(|c| CameraAt {
                        x_m: c.at.0,
                        y_m: c.at.1,
                        height_m: c.height_m,
                    });
                } else {
                    way.says = scale_says(source).to_owned();
                }
                let state = if best.is_none() { "used" } else { "ready" };
                state.clone_into(&mut way.state);
                if best.is_none() {
                    best = Some(scale);
                }
            }
        }
        out.push(way);
    }
    let found = |source: Source| {
        analysis
            .bouts
            .iter()
            .flat_map(|b| b.travel.iter().chain(&b.other_ways))
            .find(|t| t.source == source)
            .copied()
    };
    for source in [Source::Letters, Source::Figure] {
        let mut way = empty_way(source);
        hint(source).clone_into(&mut way.says);
        if let Some(travel) = found(source) {
            let used = analysis.bouts.iter().any(|b| b.travel.is_some_and(|t| t.source == source));
            if used { "used" } else { "ready" }.clone_into(&mut way.state);
            way.error_pct =
                travel.stride_length.half_width().map(|h| 100.0 * h / travel.stride_length.value);
            way.says =
                format!("Stride {} by this way.", words::numbers::metres(travel.stride_length));
            if source == Source::Letters && own.distances.is_none() {
                way.warnings.push(
                    "Without the camera's two distances it may be up to 11 % too long.".into(),
                );
            }
        } else if source == Source::Letters && own.distances.is_some() {
            "ready".clone_into(&mut way.state);
        } else if source == Source::Figure && !own.rounds.is_empty() {
            "refused".clone_into(&mut way.state);
            way.says = "No bout lies in the rounds given: time strides there.".into();
        }
        out.push(way);
    }
    out.sort_by_key(|w| {
        ["ground", "bar", "letters", "figure", "withers"].iter().position(|s| *s == w.source)
    });
    (out, best, camera)
}

fn empty_way(source: Source) -> Way {
    Way {
        source: source.word().to_owned(),
        name: words::names::source_name(source).to_owned(),
        state: "empty".to_owned(),
        says: String::new(),
        warnings: Vec::new(),
        error_pct: None,
        residuals_px: Vec::new(),
    }
}

const fn hint(source: Source) -> &'static str {
    match source {
        Source::Ground => {
            "Click four or more points of known place: letters, poles, cones. The camera must stand still."
        }
        Source::Bar => {
            "Click poles or cones a known distance apart along the line of travel, the camera square to it."
        }
        Source::Letters => {
            "On the Timing desk, mark the moments at which the horse passes two letters. The camera may pan."
        }
        Source::Figure => {
            "Say from when to when whole rounds of a figure were ridden, and how wide it really was."
        }
        Source::Withers => "Click the ground under the withers, then the withers. Rough: ± 8 %.",
    }
}

const fn scale_says(source: Source) -> &'static str {
    match source {
        Source::Bar => {
            "Lengths along the bar's line; the horse must go over it, the camera square to it."
        }
        _ => "Rough, ± 8 %: good for telling a walk from a run, not for progress.",
    }
}

/// 95 % error of one stride by a scale where the horse goes, %.
fn stride_error(scale: &Scale, analysis: &Analysis) -> Option<f64> {
    let bout = analysis.bouts.iter().find(|b| b.travel.is_some())?;
    let length = bout.travel?.stride_length.value;
    let (at, direction) = match scale {
        Scale::Ground(_) => bout.prints.way?,
        Scale::Side(_) => ((0.0, 0.0), (1.0, 0.0)),
    };
    travel::scale_error(scale, at, direction, length).map(|s| 196.0 * s)
}

fn hooves(clip: &Clip, marks: &[Mark], scale: Option<&Scale>) -> Vec<Hoof> {
    let Some(scale) = scale else { return Vec::new() };
    let one = |m: &Mark| {
        let at = scale.place(desk::upright(clip, m.hoof?))?;
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

/// What a still of a clip shows.
fn measured(clip: &Clip, still: &Still) -> Frame {
    frame_check::frame(&still.points(|p| desk::upright(clip, p)), f64::from(clip.footage.width))
}

/// Stills that show a horse's working frame, measured.
///
/// # Errors
/// What the store meets.
pub fn working_frames(store: &Store, horse: i64) -> Result<Vec<Frame>, StoreError> {
    let mut out = Vec::new();
    for (clip, tag) in store.tags_of_horse(horse, "still")? {
        for tag in tags::shown(vec![tag]) {
            if let What::Still(still) = &tag.what
                && still.working
            {
                out.push(measured(&store.clip(clip)?, still));
            }
        }
    }
    Ok(out)
}

/// Stills of a clip against the horse's working frame.
pub fn stills(clip: &Clip, own: &[tags::Tag], usual: Option<&Frame>) -> Vec<StillView> {
    let one = |tag: &tags::Tag| {
        let What::Still(still) = &tag.what else { return None };
        let now = measured(clip, still);
        let against = usual
            .filter(|_| !still.working)
            .and_then(|usual| working_frame::against_working(&now, usual));
        Some(StillView {
            id: tag.id.clone(),
            at_us: tag.from_us,
            figures: still_figures(&now, usual),
            says: words::still::still(&now, against.as_ref()),
            caution: words::still::CAUTION.to_owned(),
            still: still.clone(),
        })
    };
    own.iter().filter_map(one).collect()
}

fn still_figures(now: &Frame, usual: Option<&Frame>) -> Vec<StillFigure> {
    type Of = fn(&Frame) -> Option<umlauf_gait::stats::estimate::Estimate>;
    let rows: [(&str, &str, Of); 10] = [
        ("Nose line, in front of the vertical", "°", |f| f.nose_deg),
        ("Front, withers to poll", "heights", |f| f.front),
        ("Back, withers to croup", "heights", |f| f.back),
        ("Front by back", "", |f| f.front_by_back),
        ("Uphill", "°", |f| f.uphill_deg),
        ("Base of support", "heights", |f| f.base),
        ("Rider's trunk, forward", "°", |f| f.lean_deg),
        ("Heel in front of the hip", "°", |f| f.heel_deg),
        ("Out of line, ear to heel", "%", |f| f.line_share.map(|e| e.scaled(100.0))),
        ("Hand above elbow–bit", "°", |f| f.rein_deg),
    ];
    rows.into_iter()
        .filter_map(|(name, unit, of)| {
            Some(StillFigure {
                name: name.to_owned(),
                unit: unit.to_owned(),
                value: document::estimate(&of(now)?),
                working: usual.and_then(of).as_ref().map(document::estimate),
            })
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
