//! Side by side: any two bouts, sessions or reins, each figure with its difference and a verdict.

use axum::http::StatusCode;
use serde::{Deserialize, Serialize};
use umlauf_gait::base::gait::Gait;
use umlauf_gait::base::limb::Side;
use umlauf_gait::season::body_size;
use umlauf_gait::season::bout_summary::BoutSummary;
use umlauf_gait::season::metric::Metric;
use umlauf_gait::season::verdict::{self, Compared};
use umlauf_gait::words;
use umlauf_store::yard::Session;
use umlauf_store::{Store, StoreError};
use utoipa::{IntoParams, ToSchema};

use super::{Answer, Query, State};
use crate::desk::{self, Wheel};
use crate::digest::{self, Bout};
use crate::document::{Estimate, estimate};
use crate::problem::Problem;
use crate::report;

/// Two sides. A side is `bout:CLIP:PLACE`, `clip:CLIP:GAIT` or `session:SESSION:GAIT`; behind a
/// session may stand `:left` or `:right`, and `:in=MOVEMENT` (`straight` for bouts without one),
/// `:before=MOVEMENT` or `:after=MOVEMENT`.
#[derive(Debug, Deserialize, IntoParams)]
#[serde(deny_unknown_fields)]
#[into_params(parameter_in = Query)]
pub struct Sides {
    /// The first.
    a: String,
    /// The second.
    b: String,
}

/// A figure of both sides.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct ComparedRow {
    /// Its name in files.
    pub metric: String,
    /// Its name in words.
    pub name: String,
    /// Unit.
    pub unit: String,
    /// Digits after the point.
    pub digits: usize,
    /// The first side: mean over bouts.
    pub first: Estimate,
    /// The second side.
    pub second: Estimate,
    /// Second less first.
    pub difference: f64,
    /// Its 95 % interval.
    pub ci95: [f64; 2],
    /// Chance of such a difference without a change, after Holm's adjustment.
    pub adjusted_p: f64,
    /// Whether it stands after that adjustment.
    pub headline: bool,
    /// Smallest change that this pair would have shown in four of five cases.
    pub smallest: f64,
    /// Smallest change worth speaking of.
    pub worthwhile: f64,
    /// Fewer than three bouts on a side.
    pub provisional: bool,
    /// What was done about speed.
    pub speed_says: Option<String>,
    /// `better`, `worse`, `differs`, `no real difference` or `cannot tell`.
    pub verdict: String,
    /// In words.
    pub says: String,
}

/// One side.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct SideView {
    /// As it was asked for.
    pub of: String,
    /// Horse, day and what was ridden.
    pub title: String,
    /// A few words for sentences.
    pub short: String,
    /// Horse.
    pub horse: i64,
    /// Session.
    pub session: i64,
    /// Gait.
    pub gait: String,
    /// Bouts.
    pub bouts: usize,
    /// Strides.
    pub strides: usize,
    /// The bout that is shown: the longest.
    pub shown: BoutAt,
    /// Its wheel.
    pub wheel: Option<Wheel>,
    /// All bouts of the session in this gait.
    pub choices: Vec<BoutAt>,
}

/// A bout in its clip.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct BoutAt {
    /// Clip.
    pub clip: i64,
    /// Place in the clip's analysis.
    pub place: usize,
    /// From, true seconds.
    pub start_s: f64,
    /// To, true seconds.
    pub end_s: f64,
    /// Gait and lead.
    pub label: String,
    /// Rein.
    pub rein: Option<String>,
    /// Strides.
    pub strides: usize,
}

/// Two sides, compared.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct Comparison {
    /// The verdict in one sentence.
    pub headline: String,
    /// The first side.
    pub a: SideView,
    /// The second.
    pub b: SideView,
    /// Figures.
    pub rows: Vec<ComparedRow>,
    /// Conditions that differ, in words.
    pub differs: Vec<String>,
    /// What was done about the size of two horses, in words.
    pub size_says: Option<String>,
    /// Movements that were ridden between other work in the first side's session: before against
    /// after each is one click.
    pub around: Vec<Around>,
    /// The same session's other rein, for one click: first and second side.
    pub reins: Option<[String; 2]>,
}

/// A movement with work of the same gait before and after it.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct Around {
    /// Movement.
    pub movement: String,
    /// Before and after, as sides.
    pub sides: [String; 2],
}

/// Compares two sides.
#[utoipa::path(get, path = "/api/compare", params(Sides),
    responses((status = 200, body = Comparison), (status = "4XX", body = Problem, content_type = "application/problem+json")))]
pub async fn compare(state: State, Query(sides): Query<Sides>) -> Answer<Comparison> {
    let bad = |says: &str| Problem::new(StatusCode::UNPROCESSABLE_ENTITY, "invalid", says);
    let read = |text: &str| {
        Asked::read(text).ok_or_else(|| {
            bad("a side is bout:CLIP:PLACE, clip:CLIP:GAIT or session:SESSION:GAIT, with :left, :right, :in=MOVEMENT, :before=MOVEMENT or :after=MOVEMENT behind it")
        })
    };
    let (a, b) = (read(&sides.a)?, read(&sides.b)?);
    state.with(move |s| both(s, &sides, &a, &b)).await.map(axum::Json)
}

/// What a side asks for.
#[derive(Clone, Debug)]
enum Asked {
    Bout(i64, usize),
    Clip(i64, Gait),
    Session(i64, Gait, Which),
}

/// Which bouts of a session.
#[derive(Clone, Debug, Default)]
struct Which {
    rein: Option<Side>,
    /// In, before or after a movement.
    movement: Option<(When, String)>,
}

/// Where bouts lie about a movement.
#[derive(Clone, Copy, Debug, Eq, PartialEq)]
enum When {
    In,
    Before,
    After,
}

impl Which {
    fn read(parts: &[&str]) -> Option<Self> {
        let mut out = Self::default();
        for part in parts {
            if let Ok(rein) = part.parse::<Side>() {
                out.rein = Some(rein);
                continue;
            }
            let (when, movement) = part.split_once('=')?;
            let when = match when {
                "in" => When::In,
                "before" => When::Before,
                "after" => When::After,
                _ => return None,
            };
            if movement.is_empty() {
                return None;
            }
            out.movement = Some((when, movement.to_owned()));
        }
        Some(out)
    }

    /// Bouts, in order of clip and time, that are meant.
    fn choose(&self, mut bouts: Vec<Bout>, gait: Gait) -> Vec<Bout> {
        let named = |b: &Bout, m: &str| match b.movement.as_deref() {
            None => m == "straight",
            Some(own) => own == m,
        };
        if let Some((when, movement)) = &self.movement {
            let inside = |b: &Bout| named(b, movement);
            // Within a clip that has the movement its own place counts: reins are often filmed
            // clip by clip. Other clips lie before or after as a whole.
            let all = bouts.clone();
            let ends = |clip: i64| {
                let has = |b: &Bout| b.clip == clip && inside(b);
                if all.iter().any(has) {
                    (all.iter().position(has), all.iter().rposition(has))
                } else {
                    (all.iter().position(inside), all.iter().rposition(inside))
                }
            };
            let mut place = 0;
            bouts.retain(|b| {
                let at = place;
                place += 1;
                let (first, last) = ends(b.clip);
                match when {
                    When::In => inside(b),
                    When::Before => first.is_some_and(|f| at < f) && !inside(b),
                    When::After => last.is_some_and(|l| at > l) && !inside(b),
                }
            });
        }
        bouts.retain(|b| {
            b.digest.label.gait == gait && self.rein.is_none_or(|r| b.digest.rein == Some(r))
        });
        bouts
    }
}

impl Asked {
    fn read(text: &str) -> Option<Self> {
        let parts: Vec<&str> = text.split(':').collect();
        let number = |k: usize| parts.get(k).and_then(|p| p.parse::<i64>().ok());
        match *parts.first()? {
            "bout" => Some(Self::Bout(number(1)?, usize::try_from(number(2)?).ok()?)),
            "clip" => Some(Self::Clip(number(1)?, Gait::named(parts.get(2)?)?)),
            "session" => {
                let which = Which::read(parts.get(3..).unwrap_or_default())?;
                Some(Self::Session(number(1)?, Gait::named(parts.get(2)?)?, which))
            }
            _ => None,
        }
    }
}

/// A side's bouts with their session.
struct Chosen {
    session: Session,
    horse: String,
    withers_m: Option<f64>,
    /// What was asked about a movement, in words.
    about: Option<String>,
    /// The movement whose bouts were asked for.
    inside: Option<String>,
    bouts: Vec<Bout>,
    /// All bouts of the session in the gait of these.
    all: Vec<Bout>,
}

fn choose(store: &Store, asked: &Asked) -> Result<Chosen, StoreError> {
    let session = match asked {
        Asked::Bout(clip, _) | Asked::Clip(clip, _) => {
            let session = store.clip(*clip)?.session;
            session.ok_or(StoreError::Missing("this clip belongs to no session yet"))?
        }
        Asked::Session(session, ..) => *session,
    };
    let session = store.session(session)?;
    let horse = store.horse(session.horse)?;
    let all = digest::of_horse(store, &horse, std::slice::from_ref(&session))?.bouts;
    let mut about = None;
    let mut inside = None;
    let bouts: Vec<Bout> = match asked {
        Asked::Bout(clip, place) => {
            let one = |b: &&Bout| b.clip == *clip && b.place == *place;
            all.iter().filter(one).cloned().collect()
        }
        Asked::Clip(clip, gait) => {
            let own = |b: &&Bout| b.clip == *clip && b.digest.label.gait == *gait;
            all.iter().filter(own).cloned().collect()
        }
        Asked::Session(_, gait, which) => {
            inside = which
                .movement
                .as_ref()
                .filter(|(when, _)| *when == When::In)
                .map(|(_, m)| m.clone());
            about = which.movement.as_ref().map(|(when, m)| match when {
                When::In => m.clone(),
                When::Before => format!("before the {m}"),
                When::After => format!("after the {m}"),
            });
            which.choose(all.clone(), *gait)
        }
    };
    let Some(first) = bouts.first() else {
        return Err(StoreError::Missing("there are no such bouts: time some strides first"));
    };
    let gait = first.digest.label.gait;
    let all = all.into_iter().filter(|b| b.digest.label.gait == gait).collect();
    let card = horse.card;
    Ok(Chosen { session, horse: card.name, withers_m: card.withers_m, about, inside, bouts, all })
}

/// Both sides' bouts, two horses' of known height scaled to one, and what was done.
fn sized(first: &Chosen, second: &Chosen) -> (Vec<BoutSummary>, Vec<BoutSummary>, Option<String>) {
    let plain = |c: &Chosen| c.bouts.iter().map(|b| b.digest.clone()).collect::<Vec<BoutSummary>>();
    if first.session.horse == second.session.horse {
        return (plain(first), plain(second), None);
    }
    let Some((a, b)) = first.withers_m.zip(second.withers_m) else {
        let says = "Two horses, and the height of one is not given: size stays in every figure.";
        return (plain(first), plain(second), Some(says.to_owned()));
    };
    let scaled = |c: &Chosen, h: f64| -> Vec<BoutSummary> {
        c.bouts.iter().map(|b| body_size::at_common_height(&b.digest, h)).collect()
    };
    let says = format!(
        "Two horses of {a:.2} and {b:.2} m: figures as both would go them at {:.2} m. A horse is measured against itself first; this ranks nobody.",
        body_size::COMMON_HEIGHT_M
    );
    (scaled(first, a), scaled(second, b), Some(says))
}

fn both(store: &Store, sides: &Sides, a: &Asked, b: &Asked) -> Result<Comparison, StoreError> {
    let (first, second) = (choose(store, a)?, choose(store, b)?);
    let (da, db, size_says) = sized(&first, &second);
    let (ra, rb): (Vec<&BoutSummary>, Vec<&BoutSummary>) =
        (da.iter().collect(), db.iter().collect());
    let target = target(store, first.session.horse, &first.bouts)?;
    let gait = first.bouts[0].digest.label.gait;
    let targets = |m: Metric| m.own_target(gait).or(if m == Metric::Tempo { target } else { None });
    // What one movement costs against another includes the speed it costs.
    let mut rows = if first.inside == second.inside {
        verdict::compare(&ra, &rb, targets)
    } else {
        verdict::compare_as_ridden(&ra, &rb, targets)
    };
    if first.session.horse != second.session.horse {
        verdict::without_rank(&mut rows);
    }
    let whole = verdict::overall(&rows);
    let (va, vb) = (view(store, &sides.a, &first)?, view(store, &sides.b, &second)?);
    let (short_a, short_b) = names(&first, &second);
    Ok(Comparison {
        headline: words::comparison::overall(&rows, whole, &short_a, &short_b),
        a: SideView { short: short_a, ..va },
        b: SideView { short: short_b, ..vb },
        rows: rows.iter().map(row).collect(),
        differs: differing(&first, &second),
        size_says,
        around: around(&first),
        reins: reins(&first),
    })
}

/// A figure of both sides as the page reads it.
pub fn row(c: &Compared) -> ComparedRow {
    ComparedRow {
        metric: c.metric.word().to_owned(),
        name: c.metric.name().to_owned(),
        unit: c.metric.unit().to_owned(),
        digits: c.metric.digits(),
        first: estimate(&c.first),
        second: estimate(&c.second),
        difference: c.difference.value,
        ci95: [c.difference.ci95.0, c.difference.ci95.1],
        adjusted_p: c.adjusted_p,
        headline: c.headline,
        smallest: c.smallest,
        worthwhile: c.worthwhile,
        provisional: c.provisional,
        speed_says: words::comparison::speed(c.speed),
        verdict: words::comparison::verdict(c.verdict).to_owned(),
        says: words::comparison::compared(c),
    }
}

/// Key of the choice that keeps a horse's target tempo in a gait.
pub fn target_key(horse: i64, gait: Gait) -> String {
    format!("target.{horse}.{}.tempo", gait.code())
}

/// The tempo that a horse is to go in the gait of some bouts: the coach's.
fn target(store: &Store, horse: i64, bouts: &[Bout]) -> Result<Option<f64>, StoreError> {
    let Some(bout) = bouts.first() else { return Ok(None) };
    let kept = store.choice(&target_key(horse, bout.digest.label.gait))?;
    Ok(kept.and_then(|t| t.parse().ok()))
}

fn view(store: &Store, of: &str, c: &Chosen) -> Result<SideView, StoreError> {
    let longest = c.bouts.iter().max_by_key(|b| b.digest.strides).unwrap_or(&c.bouts[0]);
    let clip = store.clip(longest.clip)?;
    let horse = store.horse(c.session.horse)?;
    let analysis = desk::analysis_of(store, &clip, Some(&horse))?;
    let mut wheels = desk::wheels(&analysis);
    let wheel = (longest.place < wheels.len()).then(|| wheels.swap_remove(longest.place));
    Ok(SideView {
        of: of.to_owned(),
        title: format!(
            "{}, {}",
            c.horse,
            words::names::label_name(longest.digest.label).to_lowercase()
        ),
        short: String::new(),
        horse: c.session.horse,
        session: c.session.id,
        gait: longest.digest.label.gait.code().to_owned(),
        bouts: c.bouts.len(),
        strides: c.bouts.iter().map(|b| b.digest.strides).sum(),
        shown: at(longest),
        wheel,
        choices: c.all.iter().map(at).collect(),
    })
}

fn at(b: &Bout) -> BoutAt {
    BoutAt {
        clip: b.clip,
        place: b.place,
        start_s: b.digest.start_s,
        end_s: b.digest.end_s,
        label: words::names::label_name(b.digest.label),
        rein: b.digest.rein.map(|r| r.word().to_owned()),
        strides: b.digest.strides,
    }
}

/// What tells the sides apart in a sentence: the rein, the day, or the horse.
fn names(a: &Chosen, b: &Chosen) -> (String, String) {
    let rein = |c: &Chosen| {
        let first = c.bouts[0].digest.rein;
        first.filter(|r| c.bouts.iter().all(|b| b.digest.rein == Some(*r)))
    };
    let name = |c: &Chosen, other: &Chosen| {
        let mut words = Vec::new();
        if c.session.horse != other.session.horse {
            words.push(c.horse.clone());
        }
        if let Some(r) = rein(c).filter(|r| rein(other) != Some(*r)) {
            words.push(format!("the {} rein", r.word()));
        }
        if let Some(about) = c.about.as_ref().filter(|_| c.about != other.about) {
            words.push(about.clone());
        }
        if c.session.date != other.session.date {
            words.push(report::day(&c.session.date));
        }
        if words.is_empty() {
            let at = c.bouts[0].digest.start_s;
            words.push(format!("the bout at {at:.0} s"));
        }
        words.join(", ")
    };
    (name(a, b), name(b, a))
}

/// Conditions that differ.
fn differing(a: &Chosen, b: &Chosen) -> Vec<String> {
    let mut out = Vec::new();
    let mut say = |what: &str, x: &str, y: &str| {
        if x != y {
            let or = |t: &str| if t.is_empty() { "not given".to_owned() } else { t.to_owned() };
            out.push(format!("{what}: {} against {}", or(x), or(y)));
        }
    };
    let (sa, sb) = (&a.session.about, &b.session.about);
    say("footing", &sa.surface, &sb.surface);
    say("rider", &sa.rider, &sb.rider);
    say("place", &sa.arena, &sb.arena);
    let all = |c: &Chosen, of: &dyn Fn(&Bout) -> Option<String>| {
        let mut words: Vec<String> = c.bouts.iter().filter_map(of).collect();
        words.sort();
        words.dedup();
        words.join(", ")
    };
    let both = |of: &dyn Fn(&Bout) -> Option<String>| (all(a, of), all(b, of));
    let (x, y) = both(&|b| b.variant.clone());
    say("variant", &x, &y);
    let (x, y) = both(&|b| b.movement.clone());
    say("movement", &x, &y);
    let (x, y) = both(&|b| b.frame_rate.map(|r| format!("{r:.0} frames/s")));
    say("film", &x, &y);
    let (x, y) = both(&|b| Some(b.digest.label.gait.code().to_owned()));
    say("gait", &x, &y);
    out
}

/// The same session's reins in this gait, when both were ridden.
fn reins(c: &Chosen) -> Option<[String; 2]> {
    let ridden = |side| c.all.iter().any(|b| b.digest.rein == Some(side));
    if !ridden(Side::Left) || !ridden(Side::Right) {
        return None;
    }
    let gait = c.bouts.first()?.digest.label.gait.code();
    let of = |rein: &str| format!("session:{}:{gait}:{rein}", c.session.id);
    Some([of("left"), of("right")])
}

/// Movements of the session with bouts of this gait before and after them.
fn around(c: &Chosen) -> Vec<Around> {
    let mut movements: Vec<&str> = c.all.iter().filter_map(|b| b.movement.as_deref()).collect();
    movements.retain(|m| *m != "straight");
    movements.sort_unstable();
    movements.dedup();
    let Some(gait) = c.bouts.first().map(|b| b.digest.label.gait) else { return Vec::new() };
    let side = |when: &str, m: &str| format!("session:{}:{}:{when}={m}", c.session.id, gait.code());
    let any = |when, m: &str| {
        let which = Which { rein: None, movement: Some((when, m.to_owned())) };
        !which.choose(c.all.clone(), gait).is_empty()
    };
    movements
        .into_iter()
        .filter(|m| any(When::Before, m) && any(When::After, m))
        .map(|m| Around { movement: m.to_owned(), sides: [side("before", m), side("after", m)] })
        .collect()
}
