//! A session: a clip on each rein, with one fault or none.

use rand::Rng;
use rand_chacha::ChaCha8Rng;
use umlauf_gait::base::limb::{Limb, Side};
use umlauf_gait::marks::movement::{LateralMovement, MovementKind};
use umlauf_gait::{Footfall, Options};

use crate::second_horse::{Pace, Seen};
use crate::session_rides::clip::Clip;
use crate::session_rides::fault::{Fault, Planted};
use crate::session_rides::horse::{Horse, on_lead, split};

/// A session as it is filmed: a clip a rein.
#[derive(Clone, Debug, Default)]
pub struct SessionRide {
    /// Marks and what is known beside them.
    pub clips: Vec<(Vec<Footfall>, Options)>,
    /// Where the fault is.
    pub planted: Option<Planted>,
}

/// Frame rates that are drawn.
const RATES: [f64; 4] = [30.0, 60.0, 120.0, 240.0];

/// A session with one fault or none.
pub fn session(fault: Option<Fault>, rng: &mut ChaCha8Rng) -> SessionRide {
    let gaited = match fault {
        Some(Fault::Stepping) => true,
        None => rng.random_bool(0.2),
        _ => false,
    };
    let rate = RATES[rng.random_range(0..RATES.len())];
    let seen = Seen { rate, scatter: rng.random_range(0.004..0.010) };
    let side = if rng.random_bool(0.5) { Side::Left } else { Side::Right };
    let horse = Horse::drawn(gaited, fault, side, rng);
    let mut out = SessionRide::default();
    for rein in [Side::Left, Side::Right] {
        let here = fault.filter(|_| rein == side);
        let mut clip = Clip::of(&seen, gaited, rein, out.clips.len());
        if gaited {
            clip.gaited_work(&horse, here, rng);
        } else {
            clip.work(&horse, (here, fault), rng);
        }
        out.planted = out.planted.or(clip.planted);
        out.clips.push((clip.marks, clip.options));
    }
    if let Some(planted) = &mut out.planted {
        planted.side = side;
        planted.both = fault == Some(Fault::UnevenSteps);
    }
    out
}

impl Clip {
    /// Four stretches of the horse's own gait; one of them may slip.
    fn gaited_work(&mut self, horse: &Horse, fault: Option<Fault>, rng: &mut ChaCha8Rng) {
        let slips = fault.map(|_| rng.random_range(0..4));
        for k in 0..4 {
            let mut pace = horse.gaited;
            if slips == Some(k) {
                let lap = rng.random_range(0.11..0.15);
                pace.places[Limb::LF.index()] = lap;
                pace.places[Limb::RF.index()] = 0.5 + lap;
            }
            self.planting(slips == Some(k), |c| c.bout(&pace, rng));
        }
    }

    /// Walk, trot with shoulder-in and a lengthening, a transition, canter, now and then a line of
    /// changes. `fault` is on this rein, and anywhere.
    fn work(&mut self, horse: &Horse, fault: (Option<Fault>, Option<Fault>), rng: &mut ChaCha8Rng) {
        let (here, anywhere) = fault;
        let is = |f: Fault| here == Some(f);
        let often = |f: Fault, share: f64, rng: &mut ChaCha8Rng| {
            anywhere == Some(f) || rng.random_bool(share)
        };
        let mut walk = horse.walk;
        if is(Fault::IrregularWalk) {
            let lap = rng.random_range(0.13..0.165);
            walk.places[Limb::LF.index()] = lap;
            walk.places[Limb::RF.index()] = 0.5 + lap;
        }
        self.planting(is(Fault::IrregularWalk), |c| c.bout(&walk, rng));
        self.planting(is(Fault::UnevenSteps), |c| {
            c.bout(&horse.trot, rng);
            c.bout(&horse.trot, rng);
        });
        if often(Fault::ShoulderIn, 0.5, rng) {
            let loses = is(Fault::ShoulderIn);
            let slower = if loses { rng.random_range(0.06..0.09) } else { 0.0 };
            for _ in 0..2 {
                let from = self.now - 0.2;
                let pace = Pace { stride_s: horse.trot.stride_s / (1.0 - slower), ..horse.trot };
                self.planting(loses, |c| c.bout(&pace, rng));
                let kind = MovementKind::Lateral(LateralMovement::ShoulderIn);
                self.movement(from, kind);
            }
            self.bout(&horse.trot, rng);
        }
        if often(Fault::Hurried, 0.4, rng) {
            self.bout(&horse.trot, rng);
            let (quicker, longer) = if is(Fault::Hurried) {
                (rng.random_range(1.11..1.16), rng.random_range(1.0..1.03))
            } else {
                (rng.random_range(1.0..1.02), rng.random_range(1.15..1.25))
            };
            let pace = Pace {
                stride_s: horse.trot.stride_s / quicker,
                length: horse.trot.length * longer,
                ..horse.trot
            };
            self.planting(is(Fault::Hurried), |c| c.bout(&pace, rng));
        }
        if often(Fault::SlowAnswer, 0.4, rng) {
            let strides = if is(Fault::SlowAnswer) {
                rng.random_range(4.0..6.0)
            } else {
                rng.random_range(0.6..1.6)
            };
            self.planting(is(Fault::SlowAnswer), |c| c.transition(horse, strides, rng));
        }
        let mut canter = horse.canter;
        if is(Fault::FourBeats) {
            split(&mut canter, rng.random_range(0.055..0.080));
        }
        let lead = if is(Fault::WrongLead) { self.rein.opposite() } else { self.rein };
        self.planting(is(Fault::WrongLead) || is(Fault::FourBeats), |c| {
            c.bout(&on_lead(canter, lead), rng);
        });
        let late = if is(Fault::DisunitedStrikeOff) { rng.random_range(3..7) } else { 0 };
        self.planting(late > 0, |c| c.strike_off(canter, late, rng));
        if often(Fault::LateChange, 0.2, rng) {
            self.line(horse, is(Fault::LateChange), rng);
        }
    }
}
