//! Hoofbeats: where the sound begins anew, by itself or because the rhythm wants it there.

use crate::number::{count, place, small};
use crate::sound::bands::{QUICK, SLOW, Slower, powers};
use crate::sound::loudness::Loudness;
use crate::sound::novelty::novelty;
use crate::sound::onset::onset;
use crate::sound::rhythm::{Rhythm, STEP, rhythms, whole};
use crate::sound::tempo::tempo;

/// A hoofbeat, of one hoof or of two that land together.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Beat {
    /// When it begins, s from the first sample.
    pub at_s: f64,
    /// Standard deviation of that, s.
    pub sd_s: f64,
    /// How sure it is that this is a hoof, 0 to 1.
    pub confidence: f64,
    /// How far it stands out, in usual scatters of the sound.
    pub stands_out: f64,
    /// It follows soon on what was much louder, as an echo does.
    pub rings: bool,
}

/// What is heard.
#[derive(Clone, Debug, PartialEq)]
pub struct Heard {
    /// Beats in order of time.
    pub beats: Vec<Beat>,
    /// The rhythm about every second.
    pub rhythms: Vec<Option<Rhythm>>,
    /// The rhythm of the whole sound, if it is one: that of a single gait.
    pub whole: Option<Rhythm>,
}

/// Beats nearer than this are heard as one, ms.
const TOGETHER: usize = 32;
/// Weakest that is looked at, in novelty.
const WEAKEST: f32 = 3.0;
/// Least confidence of a beat that is told.
const TOLD: f64 = 0.5;

/// Hoofbeats in mono samples, −1 to 1, `rate` of them a second; none below 16 000 a second.
pub fn beats(samples: &[f32], rate: u32) -> Heard {
    if rate < QUICK {
        return Heard { beats: vec![], rhythms: vec![], whole: None };
    }
    let [slow, quick] = [SLOW, QUICK].map(|about| Slower::of(samples, rate, about));
    let bands = powers(&slow, &quick);
    let novelty = novelty(&bands);
    let first = rhythms(&novelty);
    let fine = Fine { step_s: 1.0 / slow.rate, samples: slow.samples };
    let loudness = Loudness::of(&bands);
    let mut found: Vec<Candidate> = candidates(&novelty)
        .into_iter()
        .filter_map(|k| {
            let (at_s, sd_s) = fine.moment(k, f64::from(novelty[k]))?;
            let rhythm = first.get(k / STEP).copied().flatten();
            let stands_out = f64::from(novelty[k]);
            let (rings, dies) = (loudness.rings(k), loudness.dies(k));
            Some(Candidate { at_s, sd_s, stands_out, rings, dies, rhythm })
        })
        .collect();
    // Beats that are sure tell the rhythm better than all that sounds, and it tells the others.
    let sure = agreed(&found);
    let train = train(&found, &sure, novelty.len());
    let at: Vec<(f64, f64)> = found.iter().map(|c| c.at_s).zip(sure).collect();
    let whole = whole(&train).map(|rhythm| tempo(rhythm, &at));
    let rhythms = rhythms(&train);
    for c in &mut found {
        c.rhythm = rhythms.get(place(1000.0 * c.at_s) / STEP).copied().flatten();
    }
    let sure = agreed(&found);
    let beats = found
        .iter()
        .zip(sure)
        .filter(|(_, confidence)| *confidence >= TOLD)
        .map(|(c, confidence)| Beat {
            at_s: c.at_s,
            sd_s: c.sd_s,
            confidence,
            stands_out: c.stands_out,
            rings: c.rings,
        })
        .collect();
    Heard { beats, rhythms, whole }
}

/// What may be a beat.
struct Candidate {
    at_s: f64,
    sd_s: f64,
    stands_out: f64,
    rings: bool,
    /// How much louder it is than what is left of it a moment later, as a logarithm.
    dies: f64,
    rhythm: Option<Rhythm>,
}

/// How sure each candidate is, after they have been asked several times how well each fits the rhythm of
/// those that are sure.
fn agreed(all: &[Candidate]) -> Vec<f64> {
    const ROUNDS: usize = 4;
    let mut sure: Vec<f64> = all.iter().map(|c| confidence(c, 0.0, 0.0)).collect();
    for _ in 0..ROUNDS {
        sure = (0..all.len())
            .map(|k| {
                let c = &all[k];
                let Some(rhythm) = c.rhythm else { return confidence(c, 0.0, 0.0) };
                let at = |shift| fits(all, &sure, k, rhythm.period_s, shift);
                let mut elsewhere = [0.2, 0.32, 0.44, 0.56, 0.68, 0.8].map(at);
                elsewhere.sort_by(f64::total_cmp);
                confidence(c, at(0.0), f64::midpoint(elsewhere[2], elsewhere[3]))
            })
            .collect();
    }
    sure
}

/// Beats as what stands out, millisecond by millisecond.
fn train(all: &[Candidate], sure: &[f64], length: usize) -> Vec<f32> {
    let mut out = vec![0.0; length];
    for (c, sure) in all.iter().zip(sure) {
        if let Some(v) = out.get_mut(place(1000.0 * c.at_s)) {
            *v = small(*sure);
        }
    }
    out
}

/// How surely there are beats some periods before and after a candidate, shifted by a share of one,
/// 0 to 1.
fn fits(all: &[Candidate], sure: &[f64], k: usize, period_s: f64, shift: f64) -> f64 {
    let (mut sum, mut weights) = (0.0, 0.0);
    for times in [-4.0, -3.0, -2.0, -1.0, 1.0, 2.0, 3.0, 4.0f64] {
        let at = all[k].at_s + period_s * (times + shift);
        if at < 0.0 || at > all[all.len() - 1].at_s + period_s {
            continue;
        }
        let room = 0.008 + 0.03 * period_s * times.abs().sqrt();
        let from = all.partition_point(|c| c.at_s < at - room);
        let near = all[from..].iter().zip(&sure[from..]).take_while(|(c, _)| c.at_s <= at + room);
        let most =
            near.map(|(c, sure)| sure * (1.0 - ((c.at_s - at) / room).powi(2))).fold(0.0, f64::max);
        let weight = 1.0 / times.abs().sqrt();
        sum += weight * most;
        weights += weight;
    }
    if weights > 0.0 { sum / weights } else { 0.0 }
}

/// How sure a beat is, from how far it stands out, how soon it dies away, and how much better it fits the
/// rhythm than other moments do (weights by logistic regression on drawn beats that no test uses).
fn confidence(c: &Candidate, fits: f64, elsewhere: f64) -> f64 {
    let odds = 1.25 * (c.stands_out / 11.0).ln()
        + 3.8 * (fits - elsewhere)
        + 2.6 * (c.dies - 0.7).clamp(-2.0, 1.5)
        - 0.6
        - if c.rings { 5.0 } else { 0.0 };
    1.0 / (1.0 + (-odds).exp())
}

/// Milliseconds that stand out most within [`TOGETHER`].
fn candidates(novelty: &[f32]) -> Vec<usize> {
    let mut order: Vec<usize> = (0..novelty.len()).filter(|k| novelty[*k] >= WEAKEST).collect();
    order.sort_by(|a, b| novelty[*b].total_cmp(&novelty[*a]));
    let mut taken = vec![false; novelty.len()];
    let mut out = Vec::new();
    for k in order {
        let from = k.saturating_sub(TOGETHER);
        let to = (k + TOGETHER + 1).min(novelty.len());
        if !taken[from..to].iter().any(|t| *t) {
            taken[k] = true;
            out.push(k);
        }
    }
    out.sort_unstable();
    out
}

/// The sound at some eight thousand samples a second, in which beginnings are looked for.
struct Fine {
    samples: Vec<f32>,
    /// Seconds a sample.
    step_s: f64,
}

/// Where a beginning is looked for about the moment that stands out most, and how long before it the
/// sound is listened to, s.
const ABOUT: (f64, f64) = (0.016, 0.014);
const LISTENED: f64 = 0.040;

/// Error of a beginning beside the criterion's own, s: a hoof takes a while to sound; as much again for one that
/// stands out no more than so many usual scatters. And how much wider than the criterion says
/// beginnings scatter, for beats do not begin at once.
const OWN_ERROR: f64 = 0.001;
const FAINT: f64 = 12.0;
const WIDER: f64 = 2.0;

/// A hoof grows loud over a millisecond or three, and noise hides how it begins: so much later than the hoof
/// a beginning is found on the mean (measured on drawn beats), s.
const LATE: f64 = 0.0008;

impl Fine {
    /// When a beat near a millisecond that stands out so far begins, and how surely, s.
    fn moment(&self, ms: usize, stands_out: f64) -> Option<(f64, f64)> {
        let about = count(ms) / 1000.0;
        let at = |s: f64| place(s / self.step_s);
        let range = at(about - ABOUT.0)..at(about + ABOUT.1).min(self.samples.len());
        let before = range.start.min(at(LISTENED));
        let onset = onset(&self.samples, range, before)?;
        // A mean of some samples stands at their first.
        // No worse known than that it is somewhere in the stretch.
        let anywhere = (ABOUT.0 + ABOUT.1) / 12f64.sqrt();
        let sd = (WIDER * onset.sd * self.step_s)
            .min(anywhere)
            .hypot(OWN_ERROR * (1.0 + FAINT / stands_out));
        Some(((count(onset.sample) * self.step_s - LATE).max(0.0), sd))
    }
}
