//! Which suggestions want a look, and where one seems to be missing.

use std::collections::BTreeSet;

use serde::Serialize;
use umlauf_gait::Footfall;
use umlauf_gait::base::limb::Limb;
use umlauf_gait::marking::doubtful_marks::{Doubt, DoubtfulMark};
use umlauf_store::clip::Clip;
use umlauf_store::marks::Mark;
use umlauf_store::origin::{Answer, Origin};
use utoipa::ToSchema;

use crate::clip::mark::LimbCode;
use crate::clip::reading::footfall;

/// Less sure than this, a suggestion wants a look (project default).
const WANTS_A_LOOK: f64 = 0.8;

/// A suggestion that is timed worse than this, s, wants a look as well: a frame and a half of the usual
/// film (project default).
const TIMED_BADLY_S: f64 = 0.025;

/// A footfall is missed among suggestions when one of them stands this near, s: about a slow stride.
const AMONG_S: f64 = 1.2;

/// One that wants a look and stands so near, s, may be the one that is missed, of another limb.
const MAY_BE_IT_S: f64 = 0.06;

/// A footfall that is due among suggestions, and that none of them is.
#[derive(Clone, Copy, Debug, Serialize, ToSchema)]
pub struct Missed {
    /// The limb.
    pub limb: LimbCode,
    /// When it is due, µs of the file.
    pub at_us: i64,
}

/// What wants a look.
#[derive(Clone, Debug, Default)]
pub struct Wanting {
    /// Suggestions, by the names of their marks, in order of time.
    pub doubtful: Vec<String>,
    /// Footfalls that none of them is, in order of time.
    pub missed: Vec<Missed>,
}

/// Whether a mark is a suggestion that wants a look by itself.
fn is_doubtful(mark: &Mark) -> bool {
    matches!(&mark.origin, Origin::Suggested { sure: Some(sure), sd_s, answer: Answer::Open, .. }
        if *sure < WANTS_A_LOOK || *sd_s > TIMED_BADLY_S)
}

/// Why a suggestion for `limb` wants a look by itself, in words; nothing for any other mark.
pub fn why_doubtful(mark: &Mark, limb: Limb) -> Option<String> {
    let Origin::Suggested { sure: Some(sure), sd_s, why, .. } = &mark.origin else { return None };
    is_doubtful(mark).then(|| {
        let name = limb.name();
        if *sure >= WANTS_A_LOOK {
            return format!("the {name} is timed to {:.0} ms only: {why}", 1000.0 * sd_s);
        }
        let why = if why.is_empty() { "look whether it is one" } else { why };
        format!("the {name} is {:.0} % sure: {why}", 100.0 * sure)
    })
}

/// What wants a look among the marks of a clip, where the analysis of all of them says `wrong` of some places.
pub fn wanting(clip: &Clip, marks: &[Mark], wrong: &[DoubtfulMark]) -> Wanting {
    let all = marks.iter().filter(|m| m.origin.is_open());
    let open: Vec<(Footfall, &Mark)> = all.map(|m| (footfall(clip, m, 0), m)).collect();
    // A footfall of the girdle's other limb may be the one that is missed.
    let may_be = |f: &Footfall, limb: Limb, at: f64| {
        let other = f.limb != limb && f.limb.is_hind() == limb.is_hind();
        other && (f.on.0 - at).abs() < MAY_BE_IT_S
    };
    let looks_wrong = |f: &Footfall| {
        wrong.iter().any(|w| match w.what {
            Doubt::OutOfPlace(limb) => limb == f.limb && (w.from_s - f.on.0).abs() < SAME_S,
            Doubt::Missing(limb) => may_be(f, limb, w.from_s),
        })
    };
    let doubtful = open.iter().filter(|(f, m)| is_doubtful(m) || looks_wrong(f));
    let mut missed = BTreeSet::new();
    for w in wrong {
        let (Doubt::Missing(limb), at) = (w.what, w.from_s) else { continue };
        let far = |f: &Footfall| (f.on.0 - at).abs();
        let beside = open.iter().min_by(|(a, _), (b, _)| far(a).total_cmp(&far(b)));
        let Some((beside, mark)) = beside.filter(|(f, _)| far(f) <= AMONG_S) else { continue };
        if open.iter().any(|(f, m)| may_be(f, limb, at) || is_doubtful(m) && far(f) < MAY_BE_IT_S) {
            continue;
        }
        #[expect(clippy::cast_possible_truncation, reason = "within a second of a mark")]
        let later = ((at - beside.on.0) * clip.settings.slow_factor * 1e6).round() as i64;
        missed.insert((mark.on_us + later, limb));
    }
    Wanting {
        doubtful: doubtful.map(|(_, m)| m.id.clone()).collect(),
        missed: missed
            .into_iter()
            .map(|(at_us, limb)| Missed { limb: limb.into(), at_us })
            .collect(),
    }
}

/// Two times of one mark differ by less, s.
const SAME_S: f64 = 1e-6;
