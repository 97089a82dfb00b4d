//! The flat horse and its rider painted: far limbs, body, near limbs, rider.

use umlauf_gait::base::limb::{Limb, Side};

use crate::flat::canvas::{Canvas, Paint};
use crate::flat::conditions::Conditions;
use crate::flat::lens::Lens;
use crate::flat::limb::{Joints, limb};
use crate::truth::Truth;

/// A painter of one frame.
pub(crate) struct Painter<'a> {
    pub canvas: &'a mut Canvas,
    pub lens: Lens,
    pub truth: &'a Truth,
    pub made: &'a Conditions,
    /// The middle of the track, m from the camera.
    pub distance: f64,
    /// Where the body's place 0 lies on the track, m to the right.
    pub origin: f64,
}

/// Middle of the rider's head: ahead of the horse's middle and above the ground, heights at the withers.
pub const HEAD: (f64, f64) = (0.07, 1.55);

/// How much bluer and redder than grey a brown coat is, and a rider's jacket.
const COAT_HUE: (f32, f32) = (-11.0, 13.0);
const JACKET_HUE: (f32, f32) = (14.0, 4.0);

impl Painter<'_> {
    fn x(&self, along: f64) -> f64 {
        self.origin + if self.made.rightward { along } else { -along }
    }

    fn spot(&self, (along, up): (f64, f64), z: f64, thick: f64) -> (f64, f64, f64) {
        let spot = self.lens.see(self.x(along), up, z);
        (spot.x, spot.y, thick * spot.scale)
    }

    fn bar(&mut self, a: ((f64, f64), f64), b: ((f64, f64), f64), z: f64, paint: Paint) {
        let (a, b) = (self.spot(a.0, z, a.1), self.spot(b.0, z, b.1));
        self.canvas.bar(a, b, paint);
    }

    fn ellipse(&mut self, at: (f64, f64), half: (f64, f64), turn: f64, z: f64, paint: Paint) {
        let (x, y, _) = self.spot(at, z, 0.0);
        let scale = self.lens.see(self.x(at.0), at.1, z).scale;
        let turn = if self.made.rightward { -turn } else { turn };
        self.canvas.ellipse((x, y), (half.0 * scale, half.1 * scale), turn, paint);
    }

    /// Which of a pair is near.
    fn is_near(&self, limb: Limb) -> bool {
        (limb.side() == Side::Right) == self.made.rightward
    }

    fn depth(&self, limb: Limb) -> f64 {
        let half = self.made.track * self.truth.ride.withers;
        self.distance + if self.is_near(limb) { -half } else { half }
    }

    /// Everything of the horse at time `t`.
    pub fn horse(&mut self, t: f64) {
        let h = self.truth.ride.withers;
        let joints = Limb::ALL.map(|l| limb(self.truth, l, t, self.made.action));
        self.shadows(&joints, t);
        let (near, far): (Vec<Limb>, Vec<Limb>) =
            Limb::ALL.into_iter().partition(|l| self.is_near(*l));
        for limb in far {
            self.leg(limb, &joints[limb.index()], 0.82);
        }
        let body = self.truth.ride.body_at(t);
        let beat = std::f64::consts::TAU * t / self.truth.ride.template.stride_s;
        let heave = 0.012 * h * (2.0 * beat).sin();
        let z = self.distance;
        self.canvas.brush = COAT_HUE;
        let at = |along: f64, up: f64| (body + along * h, up * h + heave);
        let coat = Paint { tone: self.made.coat, cover: 1.0, round: 40.0 };
        let dark = Paint::full(0.7 * self.made.points + 0.1 * self.made.coat);
        let swing = 0.06 * beat.sin();
        self.bar((at(-0.46, 0.86), 0.04 * h), (at(-0.60 - swing, 0.45), 0.05 * h), z, dark);
        self.bar((at(0.36, 0.82), 0.15 * h), (at(0.60, 1.16), 0.075 * h), z, coat);
        let nod = 0.02 * (2.0 * beat + 0.6).sin();
        self.bar((at(0.60, 1.17 + nod), 0.07 * h), (at(0.76, 0.98 + nod), 0.045 * h), z, coat);
        self.ellipse(at(-0.02, 0.75), (0.44 * h, 0.185 * h), 0.03, z, coat);
        self.ellipse(at(-0.33, 0.76), (0.16 * h, 0.20 * h), 0.0, z, coat);
        self.ellipse(at(0.31, 0.72), (0.13 * h, 0.19 * h), 0.0, z, coat);
        for limb in near {
            self.leg(limb, &joints[limb.index()], 1.0);
        }
        let jacket = Paint::full(0.35 * self.made.sand);
        self.canvas.brush = JACKET_HUE;
        self.bar((at(0.04, 0.98), 0.09 * h), (at(0.05, 1.38), 0.085 * h), z, jacket);
        self.canvas.brush = (0.0, 0.0);
        self.ellipse(at(HEAD.0, HEAD.1), (0.06 * h, 0.075 * h), 0.0, z, Paint::full(70.0));
        self.bar((at(0.06, 0.98), 0.06 * h), (at(0.16, 0.72), 0.05 * h), z, Paint::full(235.0));
        self.bar((at(0.16, 0.72), 0.045 * h), (at(0.08, 0.46), 0.035 * h), z, Paint::full(25.0));
        self.dust(t);
    }

    fn leg(&mut self, limb: Limb, j: &Joints, light: f64) {
        let h = self.truth.ride.withers;
        let z = self.depth(limb);
        let made = self.made;
        let coat = Paint::full(made.coat * light);
        let low = if made.socks[limb.index()] { 225.0 } else { made.points };
        let low = Paint { round: 10.0, ..Paint::full(low * light) };
        let thick = if limb.is_hind() { 0.095 } else { 0.075 };
        self.canvas.brush = COAT_HUE;
        self.bar((j.root, thick * h), (j.middle, 0.042 * h), z, coat);
        self.canvas.brush = (0.0, 0.0);
        self.bar((j.middle, 0.036 * h), (j.fetlock, 0.026 * h), z, low);
        let hoof = Paint { round: 6.0, ..Paint::full(made.hooves * light) };
        let crown = (
            0.45 * j.heel.0 + 0.55 * j.toe.0,
            0.5 * (j.heel.1 + j.toe.1) + 0.45 * made.action.hoof * h,
        );
        self.bar((j.fetlock, 0.028 * h), (crown, 0.027 * h), z, low);
        if let Some(wrap) = made.wraps[limb.index()] {
            #[expect(clippy::cast_possible_truncation, reason = "a colour")]
            let hue = |v: f64| (v * light) as f32;
            self.canvas.brush = (hue(wrap.blue), hue(wrap.red));
            let below = |share: f64| {
                let part = |a: f64, b: f64| a + share * (b - a);
                (part(j.middle.0, j.fetlock.0), part(j.middle.1, j.fetlock.1))
            };
            let paint = Paint { round: 16.0, ..Paint::full(wrap.grey * light) };
            self.bar((below(0.22), 0.041 * h), (below(1.0), 0.037 * h), z, paint);
            self.canvas.brush = (0.0, 0.0);
        }
        // The sole is flat: the hoof is filled from bars that lie on it.
        let thick = 0.012 * h;
        let up = |p: (f64, f64)| (p.0, p.1 + thick);
        let inward = |p: (f64, f64), q: (f64, f64)| {
            let far = (q.0 - p.0).hypot(q.1 - p.1).max(1e-9);
            let share = thick / far;
            up((p.0 + share * (q.0 - p.0), p.1 + share * (q.1 - p.1)))
        };
        let (toe, heel) = (inward(j.toe, j.heel), inward(j.heel, j.toe));
        for k in 0..4 {
            let share = 0.25 * f64::from(k);
            let toward =
                |p: (f64, f64)| (p.0 + share * (crown.0 - p.0), p.1 + share * (crown.1 - p.1));
            self.bar((toward(heel), thick), (toward(toe), thick), z, hoof);
        }
    }

    /// One shadow, however many limbs throw it.
    fn shadows(&mut self, joints: &[Joints; 4], t: f64) {
        let made = self.made;
        if made.shadow < 0.02 {
            return;
        }
        let h = self.truth.ride.withers;
        let paint = Paint { tone: 1.0, cover: 1.0, round: 0.0 };
        let body = self.truth.ride.body_at(t);
        let way = if made.rightward { 1.0 } else { -1.0 };
        let fall = |p: (f64, f64)| (p.0 + way * made.sun * p.1, 0.0);
        let mut shade = Canvas::new(self.canvas.width, self.canvas.height, self.canvas.soft);
        let mut thrown = Painter { canvas: &mut shade, ..*self };
        for limb in Limb::ALL {
            let j = &joints[limb.index()];
            let z = thrown.depth(limb) - 0.02;
            thrown.bar((fall(j.toe), 0.025 * h), (fall(j.fetlock), 0.02 * h), z, paint);
            thrown.bar((fall(j.fetlock), 0.02 * h), (fall(j.middle), 0.03 * h), z, paint);
        }
        let at = fall((body, 0.75 * h));
        thrown.ellipse(at, (0.5 * h, 0.05 * h), 0.0, self.distance, paint);
        #[expect(clippy::cast_possible_truncation, reason = "a share")]
        let dark = 0.65 * made.shadow as f32;
        let lit = self.canvas.pixels.iter_mut().zip(&shade.pixels);
        lit.for_each(|(pixel, shade)| *pixel *= 1.0 - dark * shade);
        if let Some(hues) = &mut self.canvas.hues {
            for (hue, shade) in hues.iter_mut().zip(&shade.pixels) {
                let left = 1.0 - dark * shade;
                *hue = (hue.0 * left, hue.1 * left);
            }
        }
    }

    fn dust(&mut self, t: f64) {
        let made = self.made;
        if made.dust < 0.02 {
            return;
        }
        let h = self.truth.ride.withers;
        for limb in Limb::ALL {
            for s in &self.truth.stances[limb.index()] {
                let old = t - s.off;
                if (0.0..0.5).contains(&old) {
                    let size = (0.05 + 0.25 * old) * h;
                    let cover = made.dust * (1.0 - old / 0.5);
                    let paint = Paint { tone: made.sand + 15.0, cover, round: 0.0 };
                    let at = (s.along - 0.1 * old * h, 0.3 * size);
                    self.ellipse(at, (size, 0.5 * size), 0.0, self.depth(limb), paint);
                }
            }
        }
    }
}
