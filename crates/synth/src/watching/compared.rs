//! Footfalls that were found against those that were ridden.

use umlauf_gait::base::limb::Limb;
use umlauf_signals::picture::seen::Seen;

use crate::flat::canvas::count;
use crate::flat::conditions::Shown;
use crate::flat::film::{FlatFilm, MARGIN_S};

/// A footfall that was ridden and is in view.
#[derive(Clone, Copy, Debug, PartialEq)]
struct Footfall {
    limb: Limb,
    on: f64,
    off: f64,
    along: f64,
    shown: bool,
}

/// What was found in a film, or in many.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct Compared {
    /// Footfalls in view, from the hoof's taking the ground to its leaving.
    pub in_view: usize,
    /// Found within [`WITHIN`] frames.
    pub found: usize,
    /// Found with their limb.
    pub limb: usize,
    /// Told where none was ridden.
    pub made_up: usize,
    /// Errors of the ons of those found, frames.
    pub on: Vec<f64>,
    /// The same by their standard deviations.
    pub on_sds: Vec<f64>,
    /// Errors of the offs, frames.
    pub off: Vec<f64>,
    /// Where hooves were told to stand from where their toes did, forwards and upwards, heights at the withers.
    pub places: Vec<(f64, f64)>,
    /// How sure each footfall was said to be, and whether it was right.
    pub sure: Vec<(f64, bool)>,
}

/// A footfall is found when its on lies this near, frames.
pub const WITHIN: f64 = 1.5;

/// Of the film's first and last so many seconds nothing is asked: what stood before has no on, what stands
/// on has no off.
const ENDS_S: (f64, f64) = (0.4, 0.15);

/// Pixels that a hoof in view is away from the picture's edges: sideways, and from its lower one.
const ROOM: (f64, f64) = (12.0, 4.0);

fn ridden(film: &FlatFilm) -> Vec<Footfall> {
    let made = &film.made;
    if made.shown != Shown::Horse {
        return vec![];
    }
    let (width, height) = (count(made.size.0), count(made.size.1));
    let frames = film.frames();
    let in_frames = |s: f64| (s + MARGIN_S) * made.rate;
    let mut all: Vec<Footfall> = Limb::ALL
        .into_iter()
        .flat_map(|limb| film.truth.stances[limb.index()].iter().map(move |s| (limb, s)))
        .map(|(limb, s)| {
            let (on, off) = (in_frames(s.on), in_frames(s.off));
            let inside = |f: f64| {
                #[expect(
                    clippy::cast_possible_truncation,
                    clippy::cast_sign_loss,
                    reason = "a frame"
                )]
                let frame = (f.max(0.0) as usize).min(frames - 1);
                let at = film.stands(frame, limb, s.along);
                at.0 > ROOM.0 && at.0 < width - ROOM.0 && at.1 < height - ROOM.1
            };
            let asked = on > ENDS_S.0 * made.rate && off < count(frames) - ENDS_S.1 * made.rate;
            let along = s.along;
            Footfall { limb, on, off, along, shown: asked && inside(on) && inside(off) }
        })
        .collect();
    all.sort_by(|a, b| a.on.total_cmp(&b.on));
    all
}

impl Compared {
    /// What was found in a film.
    pub fn of(film: &FlatFilm, seen: &[Seen]) -> Self {
        let mut open = ridden(film);
        let mut out = Self { in_view: open.iter().filter(|f| f.shown).count(), ..Self::default() };
        for s in seen {
            // Of two at about one time the one of the same limb is meant.
            let off = |f: &Footfall| (s.on - f.on).abs() + if f.limb == s.limb { 0.0 } else { 0.7 };
            let near = (0..open.len())
                .filter(|k| (s.on - open[*k].on).abs() <= WITHIN)
                .min_by(|a, b| off(&open[*a]).total_cmp(&off(&open[*b])));
            let Some(k) = near else {
                out.made_up += 1;
                out.sure.push((s.confidence, false));
                continue;
            };
            let truth = open.remove(k);
            if !truth.shown {
                continue;
            }
            let right = truth.limb == s.limb;
            out.found += 1;
            out.limb += usize::from(right);
            out.on.push(s.on - truth.on);
            out.on_sds.push((s.on - truth.on) / s.on_sd);
            out.sure.push((s.confidence, right));
            out.off.extend(s.off.map(|off| off - truth.off));
            let toe = film.stands(s.frame, truth.limb, truth.along);
            let way = film.stands(s.frame, truth.limb, truth.along + 1.0).0 - toe.0;
            let by = 1.0 / film.made.withers_px;
            out.places.push(((s.at.0 - toe.0) * by * way.signum(), (toe.1 - s.at.1) * by));
        }
        out
    }

    /// Adds what was found in another film.
    pub fn add(&mut self, other: &Self) {
        self.in_view += other.in_view;
        self.found += other.found;
        self.limb += other.limb;
        self.made_up += other.made_up;
        self.on.extend(&other.on);
        self.on_sds.extend(&other.on_sds);
        self.off.extend(&other.off);
        self.places.extend(&other.places);
        self.sure.extend(&other.sure);
    }
}
