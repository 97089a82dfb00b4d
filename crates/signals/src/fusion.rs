//! Picture and sound together: one clock offset a clip, and footfalls that both tell of.
//!
//! Sound comes later by its way, and a recorder may start its two tracks apart. How much is read from the
//! clip: the offset at which most beats lie on footfalls that were seen. A beat helps the footfall it lies
//! on when there is only one it can be of; where both disagree neither is bent.

use umlauf_gait::base::limb::Limb;

use crate::due::Due;
use crate::number::{count, place};

/// A moment and its standard deviation, s.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Moment {
    /// When, s.
    pub at: f64,
    /// Standard deviation, s.
    pub sd: f64,
}

/// How sound lies over the picture.
#[derive(Clone, Debug, PartialEq)]
pub struct Lined {
    /// Beats come so much later than what is seen, s.
    pub offset: f64,
    /// Its standard deviation, s: all beats of the clip share it on the picture's clock.
    pub offset_sd: f64,
    /// The beat of every footfall that was seen, where there is one.
    pub beat_of: Vec<Option<usize>>,
}

/// Farthest offset that is looked for, s.
const FARTHEST: f64 = 0.12;

/// Step of the search, s, and how near a beat lies to a footfall at the right offset.
const STEP: f64 = 0.002;
const NEAR: f64 = 0.010;

/// Fewest footfalls, and least share of them, that have a beat at the right offset.
const FEWEST: usize = 6;
const SHARE: f64 = 0.4;

/// Two footfalls within this of a beat, s: it may be either's.
const EITHER: f64 = 0.020;

/// Beyond so many standard deviations both tell of different things.
const APART: f64 = 3.0;

/// Lays beats over footfalls that were seen, both in order of time. `None` when no offset fits.
pub fn lined(seen: &[Moment], beats: &[Moment]) -> Option<Lined> {
    let steps = place((2.0 * FARTHEST / STEP).round());
    let hits = |offset: f64, within: f64| {
        seen.iter()
            .filter(|s| nearest(beats, s.at + offset).is_some_and(|(_, d)| d.abs() < within))
            .count()
    };
    let best = (0..=steps)
        .map(|k| STEP * count(k) - FARTHEST)
        .max_by_key(|offset| (hits(*offset, NEAR), hits(*offset, 0.5 * NEAR)))?;
    let found = hits(best, NEAR);
    if found < FEWEST || count(found) < SHARE * count(seen.len()) {
        return None;
    }
    let near: Vec<Moment> = seen
        .iter()
        .filter_map(|s| {
            let (beat, apart) = nearest(beats, s.at + best)?;
            Some(Moment { at: best + apart, sd: s.sd.hypot(beats[beat].sd) })
        })
        .filter(|m| (m.at - best).abs() < 2.0 * NEAR)
        .collect();
    let Moment { at: offset, sd: offset_sd } = most_agree(near)?;
    let beat_of = seen
        .iter()
        .enumerate()
        .map(|(k, s)| {
            let (beat, apart) = nearest(beats, s.at + offset)?;
            let agree = apart.abs() < APART * s.sd.hypot(beats[beat].sd).max(0.003);
            let at = beats[beat].at - offset;
            let alone =
                seen.iter().enumerate().all(|(other, o)| other == k || (o.at - at).abs() > EITHER);
            (agree && alone).then_some(beat)
        })
        .collect();
    Some(Lined { offset, offset_sd, beat_of })
}

/// What several moments of the same thing say: their mean by their errors, of those that agree with the median or the
/// mean before, for one beat in five may be another hoof's. Its standard deviation is that of the mean, or wider by as
/// much as they scatter more than they should. `None` of nothing.
fn most_agree(mut all: Vec<Moment>) -> Option<Moment> {
    all.sort_by(|a, b| a.at.total_cmp(&b.at));
    let mut mean = *all.get(all.len() / 2)?;
    for _ in 0..ROUNDS {
        let agree = || all.iter().filter(|m| (m.at - mean.at).abs() < APART * m.sd);
        let sum = |of: &dyn Fn(&Moment) -> f64| agree().map(|m| of(m) / (m.sd * m.sd)).sum::<f64>();
        let weight = sum(&|_| 1.0);
        if weight <= 0.0 {
            break;
        }
        let at = sum(&|m| m.at) / weight;
        let scatter =
            sum(&|m| (m.at - at).powi(2)) / count(agree().count().saturating_sub(1)).max(1.0);
        mean = Moment { at, sd: (scatter.max(1.0) / weight).sqrt() };
    }
    Some(mean)
}

/// Rounds in which what does not agree is left out.
const ROUNDS: usize = 4;

/// The beat nearest to a moment, and how much later it is.
fn nearest(beats: &[Moment], at: f64) -> Option<(usize, f64)> {
    let after = beats.partition_point(|b| b.at < at);
    let candidates = after.saturating_sub(1)..(after + 1).min(beats.len());
    candidates.map(|k| (k, beats[k].at - at)).min_by(|a, b| a.1.abs().total_cmp(&b.1.abs()))
}

/// What two moments of the same thing say together, by their errors.
///
/// ```
/// use umlauf_signals::fusion::{Moment, both};
/// let sure = both(Moment { at: 1.0, sd: 0.003 }, Moment { at: 1.008, sd: 0.004 });
/// assert!((sure.at - 1.00288).abs() < 1e-9 && (sure.sd - 0.0024).abs() < 1e-9);
/// ```
pub fn both(a: Moment, b: Moment) -> Moment {
    let (wa, wb) = (1.0 / (a.sd * a.sd), 1.0 / (b.sd * b.sd));
    Moment { at: (wa * a.at + wb * b.at) / (wa + wb), sd: (1.0 / (wa + wb)).sqrt() }
}

/// What was told of a footfall by one source.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Told {
    /// Its limb, where the source knows limbs.
    pub limb: Option<Limb>,
    /// When it took the ground.
    pub on: Moment,
    /// Chance that it is right.
    pub confidence: f64,
}

/// A footfall of a clip that was looked at and listened to.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Footfall {
    /// What is told of it by both, on the picture's clock.
    pub told: Told,
    /// Which of those seen it is.
    pub seen: Option<usize>,
    /// Which beat it is.
    pub beat: Option<usize>,
    /// Why it is less sure than its sources.
    pub why: Option<Disagree>,
}

/// Where picture and sound do not say the same.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Disagree {
    /// A beat where no footfall was seen.
    HeardNotSeen,
    /// No beat, in a clip where nearly all others have one.
    SeenNotHeard,
}

/// A beat this near to a footfall that was seen is of it or of the one beside it, s.
const ALSO_HEARD: f64 = 0.045;

/// Where this share of the others is heard, silence says something …
const ALL_HEARD: f64 = 0.9;

/// … and leaves so much of a footfall's chance; below this it is not listed.
const SILENT: f64 = 0.6;
const NOT_LISTED: f64 = 0.5;

/// Two that agree and do not know of each other leave this share of doubt; a beat alone has this share of its chance.
const AGREED: f64 = 0.7;
const ALONE: f64 = 0.8;

/// Of the error of a footfall that is seen its clip's others have this share as well: light, dust and the horse's hooves
/// are the same for all (project default, by the errors in drawn films). No beat takes that away, for the sound's clock is
/// read from them. At least the other share is a footfall's own.
const SHARED: f64 = 0.6;
const OWN: f64 = 0.3;

/// The middle one of the standard deviations, s.
fn usual_sd(seen: &[Told]) -> f64 {
    let mut sds: Vec<f64> = seen.iter().map(|t| t.on.sd).collect();
    sds.sort_by(f64::total_cmp);
    sds.get(sds.len() / 2).copied().unwrap_or(0.0)
}

/// Footfalls seen and beats heard, each in order of time, as one list, and how much later the sound comes. A beat that
/// nothing was seen of is listed by itself, as the limb that is due then, where one alone is. `None` where no offset
/// fits: they are not of one horse.
pub fn joined(seen: &[Told], heard: &[Told]) -> Option<(Vec<Footfall>, f64)> {
    let moments = |all: &[Told]| all.iter().map(|t| t.on).collect::<Vec<_>>();
    let shared = SHARED * usual_sd(seen);
    let own = |m: Moment| Moment {
        sd: m.sd.mul_add(m.sd, -shared * shared).max((OWN * m.sd).powi(2)).sqrt(),
        ..m
    };
    let eyes: Vec<Moment> = seen.iter().map(|t| own(t.on)).collect();
    let ears = moments(heard);
    let Lined { offset, offset_sd, beat_of } = lined(&eyes, &ears)?;
    let on_picture =
        |beat: usize| Moment { at: ears[beat].at - offset, sd: ears[beat].sd.hypot(offset_sd) };
    let with_shared = |m: Moment| Moment { sd: m.sd.hypot(shared), ..m };
    let is_heard = |t: &Told| {
        nearest(&ears, t.on.at + offset).is_some_and(|(_, d)| d.abs() < ALSO_HEARD + t.on.sd)
    };
    let silent = count(seen.iter().filter(|t| is_heard(t)).count()) > ALL_HEARD * count(seen.len());
    let by_both = seen.iter().zip(&beat_of).enumerate().filter_map(|(k, (told, beat))| {
        let footfall = Footfall { told: *told, seen: Some(k), beat: *beat, why: None };
        let (on, confidence, why) = match beat {
            Some(beat) => (
                with_shared(both(eyes[k], on_picture(*beat))),
                1.0 - (1.0 - told.confidence) * AGREED,
                None,
            ),
            None if silent && !is_heard(told) => {
                (told.on, SILENT * told.confidence, Some(Disagree::SeenNotHeard))
            }
            None => (told.on, told.confidence, None),
        };
        let told = Told { on, confidence, ..*told };
        (why.is_none() || confidence > NOT_LISTED).then_some(Footfall { told, why, ..footfall })
    });
    let mut out: Vec<Footfall> = by_both.collect();
    let due = Due::of(Limb::ALL.map(|limb| {
        let own = out.iter().filter(|f| f.told.limb == Some(limb) && f.why.is_none());
        own.map(|f| f.told.on.at).collect()
    }));
    let beside = |at: f64| out.iter().any(|f| (f.told.on.at - at).abs() < ALSO_HEARD);
    let alone = (0..heard.len()).filter(|k| !beat_of.contains(&Some(*k)));
    let alone: Vec<Footfall> = alone
        .filter(|k| !beside(on_picture(*k).at))
        .map(|k| {
            let on = with_shared(on_picture(k));
            let limb = due.as_ref().and_then(|due| due.whose(on.at));
            let told = Told { limb, on, confidence: ALONE * heard[k].confidence };
            Footfall { told, seen: None, beat: Some(k), why: Some(Disagree::HeardNotSeen) }
        })
        .collect();
    out.extend(alone);
    out.sort_by(|a, b| a.told.on.at.total_cmp(&b.told.on.at));
    Some((out, offset))
}
