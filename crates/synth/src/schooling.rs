//! Rides with everything in them known, drawn at random as a hard-pressed coach would mark them:
//! for measuring how often the analysis is right.

use rand::{Rng, SeedableRng};
use rand_chacha::ChaCha8Rng;
use umlauf_gait::base::limb::{Limb, Side};
use umlauf_gait::base::units::{FrameRate, Seconds};
use umlauf_gait::{Footfall, Options};

use crate::template::{TEMPLATES, Template};
use crate::truth::normal;

/// How a ride is drawn and marked.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Marking {
    /// Frames per second.
    pub rate: f64,
    /// Scatter of a mark on top of the frame, s.
    pub jitter: f64,
    /// Share of marks that are missing.
    pub missing: f64,
    /// Whether one mark of the ride is given to a wrong limb.
    pub mislabel: bool,
    /// Spread of stride durations, share of the mean.
    pub stride_cv: f64,
    /// Correlation of one stride's deviation with the next's.
    pub serial: f64,
    /// Drift of tempo over the ride, share.
    pub drift: f64,
}

impl Marking {
    /// Stride CV 1–3 % with serial correlation 0–0.4, jitter 4–10 ms, 0–10 % missing marks and in
    /// half of the rides one mislabelled mark.
    pub fn hard(rate: f64, rng: &mut ChaCha8Rng) -> Self {
        Self {
            rate,
            jitter: rng.random_range(0.004..0.010),
            missing: rng.random_range(0.0..0.10),
            mislabel: rng.random_bool(0.5),
            stride_cv: rng.random_range(0.01..0.03),
            serial: rng.random_range(0.0..0.4),
            drift: 0.0,
        }
    }

    /// Scatter of at least half a frame and nothing missing: for judging intervals.
    pub fn clean(rate: f64, rng: &mut ChaCha8Rng) -> Self {
        Self {
            rate,
            jitter: rng.random_range(0.5..1.0) / rate,
            missing: 0.0,
            mislabel: false,
            stride_cv: rng.random_range(0.01..0.03),
            serial: rng.random_range(0.0..0.4),
            drift: 0.0,
        }
    }

    /// Standard deviation of a mark, s.
    pub fn sd(&self) -> f64 {
        self.jitter.hypot(1.0 / (self.rate * 12f64.sqrt()))
    }

    /// Options that tell the analysis what is known.
    pub fn options(&self) -> Options {
        Options {
            frame_rate: FrameRate::new(self.rate).ok(),
            timing_sd: (self.jitter > 0.0).then(|| Seconds(self.sd())),
            ..Options::default()
        }
    }
}

/// One stride of a ride's truth.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct TrueStride {
    /// First hind's footfall, s.
    pub start: f64,
    /// The next stride's.
    pub end: f64,
    /// Lead of the hinds.
    pub hind: Side,
    /// Lead of the fores.
    pub fore: Side,
}

/// A ride: its truth and the marks made of it.
#[derive(Clone, Debug)]
pub struct Schooling {
    /// The template drawn.
    pub template: Template,
    /// Strides.
    pub strides: Vec<TrueStride>,
    /// Marks in the order in which they were made, numbered from 1.
    pub marks: Vec<Footfall>,
    /// The mark given to a wrong limb: its number and the limb it belongs to.
    pub wrong: Option<(usize, Limb)>,
}

/// A template of a name varied as horses vary: T ±8 %, phases ±0.02, duty ±0.03.
pub fn varied(name: &str, rng: &mut ChaCha8Rng) -> Template {
    let mut t = *Template::named(name).unwrap_or(&TEMPLATES[0]);
    t.stride_s *= rng.random_range(0.92..1.08);
    for p in &mut t.phases {
        *p += rng.random_range(-0.02..0.02);
    }
    t.duty += rng.random_range(-0.03..0.03);
    t
}

/// Rides a template with leads given stride by stride (`left lead` is the template's own; in
/// symmetrical gaits they do not matter), and marks it.
pub fn ride(
    template: Template,
    leads: &[(Side, Side)],
    marking: &Marking,
    rng: &mut ChaCha8Rng,
) -> Schooling {
    let n = leads.len();
    let asymmetrical = template.carriage.heaves < 1.5;
    let fresh = (1.0 - marking.serial * marking.serial).sqrt();
    let mut start = rng.random_range(0.0..2.0);
    let mut deviation = normal(rng) * marking.stride_cv;
    let mut strides = Vec::with_capacity(n);
    let mut marks = Vec::with_capacity(4 * n + 4);
    for (k, &(hind, fore)) in leads.iter().enumerate() {
        deviation = marking.serial * deviation + fresh * marking.stride_cv * normal(rng);
        let along = (f64::from(u32::try_from(k).unwrap_or(0)) + 0.5)
            / f64::from(u32::try_from(n).unwrap_or(1))
            - 0.5;
        let tempo = 1.0 + marking.drift * along;
        let t = template.stride_s / tempo * (1.0 + deviation);
        strides.push(TrueStride { start, end: start + t, hind, fore });
        for limb in Limb::ALL {
            let lead = if limb.is_hind() { hind } else { fore };
            // Templates of canter are on the left lead.
            let own = if asymmetrical && lead == Side::Right { limb.opposite() } else { limb };
            let on = start + template.phases[own.index()] * t;
            marks.push((limb, on, on + template.duty * t));
        }
        start += t;
    }
    // The hind that begins the next stride ends the last one.
    if let Some(&(hind, _)) = leads.last() {
        let first = first_hind(&template, asymmetrical, hind);
        marks.push((first, start, start + template.duty * template.stride_s));
    }
    let (marks, wrong) = marked(marks, marking, rng);
    Schooling { template, strides, marks, wrong }
}

fn first_hind(template: &Template, asymmetrical: bool, lead: Side) -> Limb {
    // A varied phase may lie a little before 0.
    let (left, right) = (template.phases[Limb::LH.index()], template.phases[Limb::RH.index()]);
    let first = if left < right { Limb::LH } else { Limb::RH };
    if asymmetrical && lead == Side::Right { first.opposite() } else { first }
}

/// What a person marks of true stances: scattered, read to frames, some left out, one wrong.
fn marked(
    stances: Vec<(Limb, f64, f64)>,
    marking: &Marking,
    rng: &mut ChaCha8Rng,
) -> (Vec<Footfall>, Option<(usize, Limb)>) {
    let frame = |t: f64| (t * marking.rate - 1e-9).ceil() / marking.rate;
    let mut out: Vec<Footfall> = Vec::with_capacity(stances.len());
    for (limb, on, off) in stances {
        let on = frame(on + marking.jitter * normal(rng));
        let off = frame(off + marking.jitter * normal(rng));
        if rng.random::<f64>() >= marking.missing {
            let off = Some(Seconds(off.max(on)));
            let line = out.len() + 1;
            out.push(Footfall { off, line, ..Footfall::new(limb, Seconds(on)) });
        }
    }
    let mut wrong = None;
    if marking.mislabel && !out.is_empty() {
        let k = rng.random_range(0..out.len());
        let others: Vec<Limb> = Limb::ALL.into_iter().filter(|l| *l != out[k].limb).collect();
        wrong = Some((k + 1, out[k].limb));
        out[k].limb = others[rng.random_range(0..3)];
    }
    (out, wrong)
}

/// A generator for one run of one row.
pub fn rng(row: u64, run: u64) -> ChaCha8Rng {
    ChaCha8Rng::seed_from_u64(row.wrapping_mul(1_000_003).wrapping_add(run))
}
