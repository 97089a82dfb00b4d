//! A second synthetic horse, drawn by other rules than [`crate::schooling`]'s: what the analysis
//! says must not hold for one way of drawing only.
//!
//! Here a clock runs through the strides and every limb lands where its place on the clock comes up,
//! with a scatter of its own; a stance lasts a share of the mean stride, not of this one; fores and
//! hinds stand differently long; prints follow the clock.

use rand::Rng;
use rand_chacha::ChaCha8Rng;
use umlauf_gait::base::limb::Limb;
use umlauf_gait::base::units::{FrameRate, Metres, Seconds};
use umlauf_gait::marks::footfall::GroundPoint;
use umlauf_gait::{Footfall, Options};

use crate::truth::normal;

/// A pace: how a horse goes on average.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Pace {
    /// Stride duration, s.
    pub stride_s: f64,
    /// Place of each limb's footfall in the stride ([`Limb::index`]).
    pub places: [f64; 4],
    /// Share of the mean stride that each limb stands.
    pub duty: [f64; 4],
    /// Metres a stride.
    pub length: f64,
    /// The horse is gaited.
    pub gaited: bool,
}

/// How it strays from its pace.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Straying {
    /// Spread of stride durations, share.
    pub spread: f64,
    /// Likeness of neighbouring strides.
    pub likeness: f64,
    /// Scatter of a footfall about its place, share of the stride.
    pub landing: f64,
    /// Scatter of a lift-off, share of the stride.
    pub leaving: f64,
    /// Share by which the tempo rises evenly over the ride.
    pub drift: f64,
}

/// The camera, and how marks are made.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Seen {
    /// Frames a second.
    pub rate: f64,
    /// Scatter of a mark before it falls on a frame, s.
    pub scatter: f64,
}

/// The gaits that are drawn.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Kind {
    /// Four even beats.
    Walk,
    /// Diagonals.
    Trot,
    /// Canter on the left lead.
    Canter,
    /// A gaited horse's running walk.
    Gaited,
    /// A gaited horse's flat walk.
    FlatWalk,
}

impl Kind {
    /// Those that intervals are judged in.
    pub const ALL: [Self; 4] = [Self::Walk, Self::Trot, Self::Canter, Self::Gaited];

    /// Name for tables.
    pub const fn name(self) -> &'static str {
        match self {
            Self::Walk => "walk",
            Self::Trot => "trot",
            Self::Canter => "canter",
            Self::Gaited => "gaited",
            Self::FlatWalk => "flat walk",
        }
    }
}

/// A horse's pace in a gait: no two alike.
pub fn pace(kind: Kind, rng: &mut ChaCha8Rng) -> Pace {
    // LF RF LH RH.
    let (stride, places, fore, hind, length) = match kind {
        Kind::Walk => (1.12, [0.245, 0.745, 0.0, 0.5], 0.64, 0.62, 1.75),
        Kind::Trot => (0.74, [0.505, 0.005, 0.0, 0.5], 0.41, 0.39, 2.6),
        Kind::Canter => (0.61, [0.52, 0.29, 0.26, 0.0], 0.42, 0.40, 2.7),
        Kind::Gaited => (0.72, [0.235, 0.735, 0.0, 0.5], 0.54, 0.56, 2.2),
        Kind::FlatWalk => (0.98, [0.23, 0.73, 0.0, 0.5], 0.60, 0.59, 1.85),
    };
    let stride_s = stride * rng.random_range(0.93..1.07);
    let about = |v: f64, by: f64, rng: &mut ChaCha8Rng| v + rng.random_range(-by..by);
    let mut places = places.map(|p| about(p, 0.015, rng));
    let first = if kind == Kind::Canter { Limb::RH } else { Limb::LH };
    places[first.index()] = 0.0;
    let (fore, hind) = (about(fore, 0.015, rng), about(hind, 0.015, rng));
    let duty = [fore, fore, hind, hind].map(|d| about(d, 0.006, rng));
    Pace {
        stride_s,
        places,
        duty,
        length: length * stride_s / stride,
        gaited: matches!(kind, Kind::Gaited | Kind::FlatWalk),
    }
}

impl Straying {
    /// Spread of the durations between two values, likeness 0 to 0.6, the limbs' own scatter 0.2 to
    /// 0.9 % of a stride.
    pub fn drawn(spread: (f64, f64), rng: &mut ChaCha8Rng) -> Self {
        Self {
            spread: rng.random_range(spread.0..=spread.1),
            likeness: rng.random_range(0.0..0.6),
            landing: rng.random_range(0.002..0.009),
            leaving: rng.random_range(0.003..0.010),
            drift: 0.0,
        }
    }
}

impl Seen {
    /// What the analysis is told.
    pub fn options(&self, pace: &Pace) -> Options {
        let frame = 1.0 / (self.rate * 12f64.sqrt());
        Options {
            frame_rate: FrameRate::new(self.rate).ok(),
            timing_sd: (self.scatter > 0.0).then(|| Seconds(self.scatter.hypot(frame))),
            gaited: pace.gaited,
            ..Options::default()
        }
    }
}

/// Marks of `strides` whole strides.
pub fn marks(
    pace: &Pace,
    straying: &Straying,
    strides: u32,
    seen: &Seen,
    rng: &mut ChaCha8Rng,
) -> Vec<Footfall> {
    let fresh = (1.0 - straying.likeness * straying.likeness).sqrt();
    let mut away = normal(rng);
    // Clock and way at the start of every stride, one more than there are.
    let (mut clock, mut way) = (vec![rng.random_range(0.3..1.3)], vec![0.0]);
    for k in 0..=strides {
        away = straying.likeness * away + fresh * normal(rng);
        let along = (f64::from(k) + 0.5) / f64::from(strides) - 0.5;
        let t = pace.stride_s * (1.0 + straying.spread * away) / (1.0 + straying.drift * along);
        clock.push(clock[clock.len() - 1] + t);
        let longer = 0.7 * straying.spread * away + 0.5 * straying.spread * normal(rng);
        way.push(way[way.len() - 1] + pace.length * (1.0 + longer));
    }
    let mut out = Vec::with_capacity(4 * clock.len());
    for k in 0..clock.len() - 1 {
        for limb in Limb::ALL {
            let place = pace.places[limb.index()];
            // The ride ends with the footfall that ends its last stride.
            if k + 2 == clock.len() && place != 0.0 {
                continue;
            }
            let between = |v: &[f64]| v[k] + place * (v[k + 1] - v[k]);
            let t = pace.stride_s;
            let on = between(&clock) + straying.landing * t * normal(rng);
            let off = on + pace.duty[limb.index()] * t + straying.leaving * t * normal(rng);
            let mark = |s: f64, rng: &mut ChaCha8Rng| {
                let read = s + seen.scatter * normal(rng);
                (read * seen.rate).ceil() / seen.rate
            };
            let (on, off) = (mark(on, rng), mark(off, rng));
            let ahead = if limb.is_hind() { 0.0 } else { 0.45 };
            let at = GroundPoint { x: Metres(0.0), y: Metres(between(&way) + ahead) };
            out.push(Footfall {
                off: Some(Seconds(off.max(on))),
                at: Some(at),
                ..Footfall::new(limb, Seconds(on))
            });
        }
    }
    out
}

/// Stances of whole strides from a moment on, in order of limbs, and when the last stride ends.
pub fn stances(
    pace: &Pace,
    straying: &Straying,
    strides: u32,
    from_s: f64,
    rng: &mut ChaCha8Rng,
) -> (Vec<(Limb, f64, f64)>, f64) {
    stances_of((0..strides).map(|_| pace), straying, from_s, rng)
}

/// The same of strides that have a pace each.
pub fn stances_of<'a>(
    paces: impl Iterator<Item = &'a Pace>,
    straying: &Straying,
    from_s: f64,
    rng: &mut ChaCha8Rng,
) -> (Vec<(Limb, f64, f64)>, f64) {
    let fresh = (1.0 - straying.likeness * straying.likeness).sqrt();
    let (mut away, mut now, mut out) = (normal(rng), from_s, Vec::new());
    for pace in paces {
        let t = pace.stride_s;
        away = straying.likeness * away + fresh * normal(rng);
        let stride = t * (1.0 + straying.spread * away);
        for limb in Limb::ALL {
            let k = limb.index();
            let on = now + pace.places[k] * stride + straying.landing * t * normal(rng);
            let off = on + pace.duty[k] * t + straying.leaving * t * normal(rng);
            out.push((limb, on, off));
        }
        now += stride;
    }
    (out, now)
}

impl Pace {
    /// The mirror image.
    #[must_use]
    pub fn mirrored(mut self) -> Self {
        let swap = |v: [f64; 4]| [v[1], v[0], v[3], v[2]];
        self.places = swap(self.places);
        self.duty = swap(self.duty);
        self
    }

    /// Time in the air, s, the mean over the moments a stride has; negative is an overlap.
    pub fn suspension(&self, kind: Kind) -> Option<f64> {
        let on = |l: Limb| self.places[l.index()];
        let off = |l: Limb| self.places[l.index()] + self.duty[l.index()];
        let share = match kind {
            Kind::Trot => {
                let first = on(Limb::RH).min(on(Limb::LF)) - off(Limb::LH).max(off(Limb::RF));
                let second =
                    1.0 + on(Limb::LH).min(on(Limb::RF)) - off(Limb::RH).max(off(Limb::LF));
                f64::midpoint(first, second)
            }
            Kind::Canter => {
                let last = Limb::ALL.map(off).into_iter().fold(f64::MIN, f64::max);
                let first = Limb::ALL.map(on).into_iter().fold(f64::MAX, f64::min);
                1.0 + first - last
            }
            Kind::Walk | Kind::Gaited | Kind::FlatWalk => return None,
        };
        Some(share * self.stride_s)
    }

    /// Root mean square distance of the four gaps from a quarter, per cent.
    pub fn beat_rms_pct(&self) -> f64 {
        let mut places = self.places;
        places.sort_by(f64::total_cmp);
        let gap =
            |k: usize| if k < 3 { places[k + 1] - places[k] } else { 1.0 + places[0] - places[3] };
        100.0 * ((0..4).map(|k| (gap(k) - 0.25).powi(2)).sum::<f64>() / 4.0).sqrt()
    }
}
