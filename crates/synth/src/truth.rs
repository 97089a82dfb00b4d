//! The truth of a synthetic ride: when and where each hoof stands, from one seed.

use rand::{Rng, SeedableRng};
use rand_chacha::ChaCha8Rng;
use umlauf_gait::base::limb::{Limb, Side};
use umlauf_gait::base::units::{Metres, Seconds};
use umlauf_gait::marks::footfall::{Footfall, GroundPoint};

use crate::template::Template;

/// What to ride, and how steadily.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Ride {
    /// The gait.
    pub template: Template,
    /// Whole strides.
    pub strides: usize,
    /// Seed of the horse's own unsteadiness.
    pub seed: u64,
    /// Spread of stride durations as a share of the mean.
    pub stride_cv: f64,
    /// Correlation of one stride's duration with the next's.
    pub serial: f64,
    /// Spread of phases, share of the stride.
    pub phase_sd: f64,
    /// Spread of stances, share of the stride.
    pub duty_sd: f64,
    /// Height at the withers, m.
    pub withers: f64,
    /// Towards the C end on the left rein, towards A on the right.
    pub rein: Side,
    /// Metres from the A end at which the body is at time 0.
    pub from_y: f64,
    /// Line ridden: metres from K's side.
    pub line_x: f64,
    /// Flying changes, in order of their strides; the ride begins on the template's lead.
    pub changes: &'static [Change],
    /// Another template from a stride on: forward, or back.
    pub then: Option<Then>,
}

/// Another way of going from a stride on.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Then {
    /// First stride in it, from 0.
    pub stride: usize,
    /// How.
    pub template: Template,
}

/// A pair of limbs changes its lead.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct Change {
    /// First stride on the new lead, from 0.
    pub stride: usize,
    /// The hinds change.
    pub hinds: bool,
    /// The fores change.
    pub fores: bool,
}

/// One stance.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Stance {
    /// Hoof takes the ground, s.
    pub on: f64,
    /// Hoof leaves it, s.
    pub off: f64,
    /// Toe on the ground, metres along the line ridden (forward positive), from time 0's body.
    pub along: f64,
}

/// A ride with every stance known.
#[derive(Clone, Debug, PartialEq)]
pub struct Truth {
    /// What was asked.
    pub ride: Ride,
    /// Starts of the strides (phase 0), s, one more than there are strides.
    pub starts: Vec<f64>,
    /// Stances by limb ([`Limb::index`]), in order of time. One stride before and after the ride
    /// is included so that the limbs have somewhere to come from and go to.
    pub stances: [Vec<Stance>; 4],
}

impl Truth {
    /// Draws a ride. The same ride gives the same truth.
    pub fn new(ride: Ride) -> Self {
        let mut rng = ChaCha8Rng::seed_from_u64(ride.seed);
        let mut starts = vec![-ride.template.stride_s];
        let mut deviation = 0.0;
        let fresh = (1.0 - ride.serial * ride.serial).sqrt();
        for k in 0..ride.strides + 2 {
            // The first drawn stride lies before the ride.
            let t = ride.template_of(k.saturating_sub(1));
            deviation = ride.serial * deviation + fresh * ride.stride_cv * normal(&mut rng);
            let last = starts[starts.len() - 1];
            starts.push(last + t.stride_s * (1.0 + deviation));
        }
        // The ride begins at time 0 with its second drawn stride.
        let shift = starts[1];
        for s in &mut starts {
            *s -= shift;
        }
        let stances = Limb::ALL.map(|limb| {
            starts
                .windows(2)
                .enumerate()
                .map(|(k, w)| {
                    let stride = w[1] - w[0];
                    // The drawn stride before the ride is number 0.
                    let as_limb = ride.in_the_role_of(limb, k.saturating_sub(1));
                    let t = ride.template_of(k.saturating_sub(1));
                    let phase = t.phases[as_limb.index()] + ride.phase_sd * normal(&mut rng);
                    let duty = t.duty + ride.duty_sd * normal(&mut rng);
                    let on = w[0] + phase * stride;
                    let off = on + duty * stride;
                    let middle = f64::midpoint(on, off);
                    Stance { on, off, along: ride.body_at(middle) + ride.rest(limb) }
                })
                .collect()
        });
        Self { ride, starts, stances }
    }

    /// Length of the ride, s.
    pub fn duration(&self) -> f64 {
        self.starts[self.starts.len() - 2]
    }

    /// Footfalls within the ride (on from 0 to the end), in order of time, with places.
    pub fn footfalls(&self) -> Vec<Footfall> {
        let end = self.duration();
        let mut out: Vec<Footfall> = Limb::ALL
            .into_iter()
            .flat_map(|limb| self.stances[limb.index()].iter().map(move |s| (limb, *s)))
            .filter(|(_, s)| s.on >= 0.0 && s.on <= end)
            .map(|(limb, s)| Footfall {
                off: Some(Seconds(s.off)),
                at: Some(self.ride.ground(limb, s.along)),
                ..Footfall::new(limb, Seconds(s.on))
            })
            .collect();
        out.sort_by(|a, b| a.on.0.total_cmp(&b.on.0));
        out
    }

    /// Footfalls as a person reads them off frame by frame: the first frame of contact, and the
    /// first frame clear. Frame k shows time k/f + `first_frame_s`.
    pub fn read_off(&self, frames_per_s: f64, first_frame_s: f64) -> Vec<Footfall> {
        let frame = |t: f64| ((t - first_frame_s) * frames_per_s - 1e-9).ceil();
        self.footfalls()
            .into_iter()
            .map(|mut f| {
                f.on = Seconds(frame(f.on.0) / frames_per_s + first_frame_s);
                f.off = f.off.map(|o| Seconds(frame(o.0) / frames_per_s + first_frame_s));
                f
            })
            .collect()
    }
}

impl Ride {
    /// Metres the body has come at time `t`.
    pub fn body_at(&self, t: f64) -> f64 {
        let Some(then) = self.then else { return self.template.speed * t };
        let turn =
            f64::from(u32::try_from(then.stride).unwrap_or(u32::MAX)) * self.template.stride_s;
        self.template.speed * t.min(turn) + then.template.speed * (t - turn).max(0.0)
    }

    /// The template of a stride, from 0.
    pub fn template_of(&self, stride: usize) -> Template {
        match self.then {
            Some(then) if stride >= then.stride => then.template,
            _ => self.template,
        }
    }

    /// The limb of the template whose part a limb plays in a stride: its own, or the other side's
    /// after a change.
    fn in_the_role_of(&self, limb: Limb, stride: usize) -> Limb {
        let own =
            |c: &&Change| c.stride <= stride && if limb.is_hind() { c.hinds } else { c.fores };
        if self.changes.iter().filter(own).count() % 2 == 1 { limb.opposite() } else { limb }
    }

    /// Where under the body a limb's stance is centred, m forward of the body's middle: the hind
    /// under the hip, the fore under the shoulder, a little ahead.
    pub fn rest(&self, limb: Limb) -> f64 {
        self.withers * if limb.is_hind() { -0.345 } else { 0.345 }
    }

    /// Half the distance between left and right hooves, m; narrower at speed.
    pub fn half_width(&self) -> f64 {
        self.withers * (0.075 - 0.006 * self.template.speed).max(0.025)
    }

    /// Arena coordinates of a point `along` the line ridden and `left` metres to the left of it.
    pub fn arena(&self, along: f64, left: f64) -> (f64, f64) {
        match self.rein {
            Side::Left => (self.line_x - left, self.from_y + along),
            Side::Right => (self.line_x + left, self.from_y - along),
        }
    }

    fn ground(&self, limb: Limb, along: f64) -> GroundPoint {
        let left = match limb.side() {
            Side::Left => self.half_width(),
            Side::Right => -self.half_width(),
        };
        let (x, y) = self.arena(along, left);
        GroundPoint { x: Metres(x), y: Metres(y) }
    }
}

/// A standard normal number (Box and Muller 1958).
pub fn normal(rng: &mut ChaCha8Rng) -> f64 {
    let u: f64 = 1.0 - rng.random::<f64>();
    let v: f64 = rng.random();
    (-2.0 * u.ln()).sqrt() * (std::f64::consts::TAU * v).cos()
}
