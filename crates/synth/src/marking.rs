//! How a person marks a ride: scattered, read to frames, some left out, one given to a wrong limb.

use rand::Rng;
use rand_chacha::ChaCha8Rng;
use umlauf_gait::base::limb::Limb;
use umlauf_gait::base::units::{FrameRate, Seconds};
use umlauf_gait::{Footfall, Options};

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

/// What a person marks of true stances: scattered, read to frames, some left out, one wrong.
pub(crate) fn marked(
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
