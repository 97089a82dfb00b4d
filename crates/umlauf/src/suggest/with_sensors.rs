//! What sensors felt laid over what was seen and heard.
//!
//! A sensor knows its limb, and its time to milliseconds, but not the film's clock. One offset a clip is found from the
//! footfalls both tell of, or from a clap. Where they tell of different things, the sensor's limb stands, and the row says
//! what the picture said.

use umlauf_gait::base::limb::Limb;
use umlauf_signals::fusion::{Moment, both};
use umlauf_signals::sensor::clocks::{Told, alone, late};
use umlauf_signals::sensor::hoof::Felt;

use crate::suggest::felt::Sensed;
use crate::suggest::suggestion::{OFF_UNSEEN, Suggestion};

/// Clocks are this far apart at most, s: farther, and one was set wrong.
const FARTHEST: f64 = 5.0;

/// Clocks that were set by one another are this near, s, and so is a clap.
const NEAR: f64 = 0.3;

/// Farthest that a clap is looked for on the other clock, s.
const CLAP: f64 = 60.0;

/// A landing this near to a footfall of its limb is the same, s.
const SAME: f64 = 0.045;

/// And to one of another limb, of which no landing was felt.
const MISNAMED: f64 = 0.025;

/// All sources as one list, with the offset of the sensors' clock.
pub struct Joined {
    /// Footfalls in order of time.
    pub footfalls: Vec<Suggestion>,
    /// The sensors' clock shows so much more than the film's, s; unknown where they could not be lined up.
    pub late_s: Option<f64>,
    /// What could not be joined, and why.
    pub says: Vec<String>,
}

/// Lays what sensors felt over what is told of a film; `heard` are beats of its sound.
pub fn joined(told: Vec<Suggestion>, heard: &[f64], sensed: &Sensed) -> Joined {
    let mut says = sensed.silent.clone();
    if sensed.hooves.is_empty() {
        return Joined { footfalls: told, late_s: None, says };
    }
    let felt = sensed.told();
    let seen: Vec<Told> = told
        .iter()
        .filter_map(|s| Some(Told { limb: s.limb.as_deref()?.parse().ok()?, on: s.on_s }))
        .filter(|t| sensed.hooves.contains_key(&t.limb))
        .collect();
    let by = if seen.is_empty() {
        let clap = by_clap(&felt, heard);
        says.push(match clap {
            Some(_) => "nothing was seen; the sensor's clock is lined up by a clap".to_owned(),
            None => {
                "nothing was seen that would line the sensor's clock up; taken as it is".to_owned()
            }
        });
        clap.unwrap_or(0.0)
    } else {
        match offset(&felt, &seen, heard) {
            Some(by) => by,
            None => {
                says.push(
                    "the sensor's clock does not fit what was seen, or fits a stride apart as well: not \
                     joined; clap before the camera with the sensor in the hand"
                        .to_owned(),
                );
                return Joined { footfalls: told, late_s: None, says };
            }
        }
    };
    Joined { footfalls: laid(told, sensed, by), late_s: Some(by), says }
}

fn offset(felt: &[Told], seen: &[Told], heard: &[f64]) -> Option<f64> {
    if let Some(late) = late(felt, seen, FARTHEST) {
        return Some(late.by);
    }
    let near = by_clap(felt, heard).unwrap_or(0.0);
    let shifted: Vec<Told> = felt.iter().map(|t| Told { on: t.on - near, ..*t }).collect();
    Some(near + late(&shifted, seen, NEAR)?.by)
}

fn by_clap(felt: &[Told], heard: &[f64]) -> Option<f64> {
    let mut landings: Vec<f64> = felt.iter().map(|t| t.on).collect();
    landings.sort_by(f64::total_cmp);
    let (felt, heard) = (alone(&landings), alone(heard));
    // Two that stand alone may be halts: which is the clap is then not known.
    let ([felt], [heard]) = (felt.as_slice(), heard.as_slice()) else { return None };
    let by = felt - heard;
    (by.abs() < CLAP).then_some(by)
}

fn laid(mut told: Vec<Suggestion>, sensed: &Sensed, by: f64) -> Vec<Suggestion> {
    let mut taken = vec![false; told.len()];
    let mut alone: Vec<(Limb, &Felt)> = Vec::new();
    let landings = sensed.hooves.iter().flat_map(|(l, all)| all.iter().map(move |f| (*l, f)));
    for (limb, felt) in landings {
        let on = felt.on - by;
        let own = nearest(&told, &taken, on, SAME, |s| s.limb.as_deref() == Some(limb.code()));
        match own.or_else(|| nearest(&told, &taken, on, SAME, |s| s.limb.is_none())) {
            Some(k) => {
                taken[k] = true;
                take(&mut told[k], limb, felt, by);
            }
            None => alone.push((limb, felt)),
        }
    }
    for (limb, felt) in alone {
        let on = felt.on - by;
        match nearest(&told, &taken, on, MISNAMED, |s| s.limb.is_some()) {
            Some(k) => {
                taken[k] = true;
                let said = told[k].limb.take().unwrap_or_default();
                take(&mut told[k], limb, felt, by);
                doubt(&mut told[k], &format!("the picture says {said}"), 0.9);
            }
            None => {
                told.push(of_felt(limb, felt, by));
                taken.push(true);
            }
        }
    }
    for (s, taken) in told.iter_mut().zip(taken) {
        let worn = s.limb.as_deref().and_then(|l| l.parse::<Limb>().ok());
        let worn = worn.is_some_and(|l| sensed.hooves.contains_key(&l));
        let during = (sensed.span.0..sensed.span.1).contains(&(s.on_s + by));
        if !taken && worn && during {
            doubt(s, "its sensor felt no landing", 0.3);
        }
    }
    told.sort_by(|a, b| a.on_s.total_cmp(&b.on_s));
    told
}

fn nearest(
    told: &[Suggestion],
    taken: &[bool],
    on: f64,
    within: f64,
    is: impl Fn(&Suggestion) -> bool,
) -> Option<usize> {
    let far = |k: &usize| (told[*k].on_s - on).abs();
    (0..told.len())
        .filter(|k| !taken[*k] && far(k) < within && is(&told[*k]))
        .min_by(|a, b| far(a).total_cmp(&far(b)))
}

fn take(s: &mut Suggestion, limb: Limb, felt: &Felt, by: f64) {
    let on = both(
        Moment { at: s.on_s, sd: s.sd_on_s.max(0.001) },
        Moment { at: felt.on - by, sd: felt.on_sd },
    );
    // Two that are far apart for their errors are not averaged: the sensor's stands.
    let apart = (s.on_s - (felt.on - by)).abs() > FAR * s.sd_on_s.hypot(felt.on_sd);
    (s.on_s, s.sd_on_s) = if apart { (felt.on - by, felt.on_sd) } else { (on.at, on.sd) };
    let (source, wrong_as_well) = match s.source {
        "sound" => ("sound+sensor", 0.5),
        "picture+sound" => ("picture+sound+sensor", 0.3),
        _ => ("picture+sensor", 0.4),
    };
    s.limb = Some(limb.to_string());
    s.source = source;
    s.confidence = 1.0 - (1.0 - felt.confidence) * wrong_as_well;
    if felt.off.is_some() {
        s.off_s = felt.off.map(|off| off - by);
        s.heel_off_s = felt.heel_off.map(|off| off - by);
        s.sd_off_s = Some(felt.off_sd);
        let others = s.why.split("; ").filter(|why| *why != OFF_UNSEEN);
        s.why = others.collect::<Vec<_>>().join("; ");
    }
    if apart {
        doubt(s, "picture and sensor tell of moments apart; the sensor's is given", 0.95);
    }
}

/// Beyond so many standard deviations two sources tell of different moments.
const FAR: f64 = 3.0;

fn of_felt(limb: Limb, felt: &Felt, by: f64) -> Suggestion {
    Suggestion {
        limb: Some(limb.to_string()),
        on_s: felt.on - by,
        off_s: felt.off.map(|off| off - by),
        heel_off_s: felt.heel_off.map(|off| off - by),
        x_px: None,
        y_px: None,
        sd_on_s: felt.on_sd,
        sd_off_s: felt.off.map(|_| felt.off_sd),
        confidence: felt.confidence,
        source: "sensor",
        why: String::new(),
        at_on: None,
        told_from: None,
    }
}

fn doubt(s: &mut Suggestion, why: &str, times: f64) {
    if !s.why.is_empty() {
        s.why.push_str("; ");
    }
    s.why.push_str(why);
    s.confidence *= times;
}
