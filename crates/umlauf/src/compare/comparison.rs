//! Two sides, compared: figures with their differences, and one verdict.

use serde::Serialize;
use umlauf_gait::base::limb::Side;
use umlauf_gait::season::bout_summary::BoutSummary;
use umlauf_gait::season::metric::Metric;
use umlauf_gait::season::{body_size, verdict};
use umlauf_gait::words;
use umlauf_store::{Store, StoreError};
use utoipa::ToSchema;

use crate::clip::reading;
use crate::compare::chosen::{Chosen, choose};
use crate::compare::row::{ComparedRow, row};
use crate::compare::side::{Asked, When, Which};
use crate::compare::target::target;
use crate::dates;
use crate::digest::RiddenBout;
use crate::document::wheel::{self, Wheel};
use crate::refused::Refused;

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
    pub around: Vec<AroundMovement>,
    /// The same session's other rein, for one click: first and second side.
    pub reins: Option<[String; 2]>,
}

/// A movement with work of the same gait before and after it.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct AroundMovement {
    /// Movement.
    pub movement: String,
    /// Before and after, as sides.
    pub sides: [String; 2],
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

/// Compares two sides, each as it is asked for ([`Asked::read`]).
///
/// # Errors
/// [`Refused::Invalid`] for what is no side, and what the store meets.
pub fn both(store: &Store, a: &str, b: &str) -> Result<Comparison, Refused> {
    let (first, second) = (choose(store, &Asked::read(a)?)?, choose(store, &Asked::read(b)?)?);
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
    let (va, vb) = (view(store, a, &first)?, view(store, b, &second)?);
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

fn view(store: &Store, of: &str, c: &Chosen) -> Result<SideView, StoreError> {
    let longest = c.bouts.iter().max_by_key(|b| b.digest.strides).unwrap_or(&c.bouts[0]);
    let clip = store.clip(longest.clip)?;
    let horse = store.horse(c.session.horse)?;
    let analysis = reading::analysis_of(store, &clip, Some(&horse))?;
    let mut wheels = wheel::wheels(&analysis);
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

fn at(b: &RiddenBout) -> BoutAt {
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
            words.push(dates::in_words(&c.session.date));
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
    let all = |c: &Chosen, of: &dyn Fn(&RiddenBout) -> Option<String>| {
        let mut words: Vec<String> = c.bouts.iter().filter_map(of).collect();
        words.sort();
        words.dedup();
        words.join(", ")
    };
    let both = |of: &dyn Fn(&RiddenBout) -> Option<String>| (all(a, of), all(b, of));
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
fn around(c: &Chosen) -> Vec<AroundMovement> {
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
        .map(|m| AroundMovement {
            movement: m.to_owned(),
            sides: [side("before", m), side("after", m)],
        })
        .collect()
}
