//! Under what a flat film is made: the horse, the ground, the light, the camera. Those that the search was
//! tuned on and those it is tested on are drawn from seeds that are kept apart.

use rand::{Rng as _, SeedableRng as _};
use rand_chacha::ChaCha8Rng;
use umlauf_gait::base::limb::Limb;

use crate::flat::limb::Action;

/// How the camera is handled.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Handling {
    /// On a tripod, still.
    Fixed,
    /// On a tripod, turned after the horse.
    Panning,
    /// In the hand, turned after the horse.
    Handheld,
}

/// What moves through the picture.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Shown {
    /// A ridden horse.
    Horse,
    /// A car that drives by.
    Car,
    /// A dog that trots by.
    Dog,
    /// Someone on foot.
    Walker,
    /// A flag on a pole.
    Flag,
    /// Nothing.
    Nothing,
}

/// All that a film is made under. Tones are grey values, lengths metres.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Conditions {
    /// Seed of everything drawn.
    pub seed: u64,
    /// Frames a second.
    pub rate: f64,
    /// Picture, pixels.
    pub size: (usize, usize),
    /// Height at the withers in the picture, pixels.
    pub withers_px: f64,
    /// Distance of the camera.
    pub distance: f64,
    /// Its height.
    pub lens_height: f64,
    /// How it is handled.
    pub handling: Handling,
    /// Tremble of a hand, radians (standard deviation).
    pub shake: f64,
    /// Zoom from the first frame to the last, as a factor.
    pub zoom: f64,
    /// The horse goes to the right.
    pub rightward: bool,
    /// Coat.
    pub coat: f64,
    /// Lower legs.
    pub points: f64,
    /// Hooves.
    pub hooves: f64,
    /// Lower legs with a white sock, by limb.
    pub socks: [bool; 4],
    /// Sand.
    pub sand: f64,
    /// Deviation of its grain.
    pub grain: f64,
    /// How strong shadows are, 0 to 1.
    pub shadow: f64,
    /// Which way they fall, m along the track per m of height.
    pub sun: f64,
    /// Noise of a pixel.
    pub noise: f64,
    /// Width of an edge, pixels.
    pub soft: f64,
    /// Part of a frame's time that the shutter is open.
    pub shutter: f64,
    /// Light: 1 as usual.
    pub light: f64,
    /// Dust about hooves that leave, 0 to 1.
    pub dust: f64,
    /// Another horse walks behind the rail.
    pub company: bool,
    /// Half the distance between left and right hooves, by the height at the withers.
    pub track: f64,
    /// How limbs are carried.
    pub action: Action,
    /// What moves through the picture.
    pub shown: Shown,
    /// Wraps about the lower legs, by limb.
    pub wraps: [Option<Tone>; 4],
}

/// A colour: grey value, and how much bluer and redder than grey.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Tone {
    /// Grey value.
    pub grey: f64,
    /// How blue.
    pub blue: f64,
    /// How red.
    pub red: f64,
}

impl Tone {
    /// From red, green and blue, 0 to 255 (ITU-R BT.601-7, §2.5).
    pub const fn of_rgb([r, g, b]: [f64; 3]) -> Self {
        let grey = 0.299 * r + 0.587 * g + 0.114 * b;
        Self { grey, blue: (b - grey) / 1.772, red: (r - grey) / 1.402 }
    }
}

/// Colours of wraps that can be told apart.
const WRAPS: [[f64; 3]; 8] = [
    [190.0, 35.0, 40.0],
    [40.0, 70.0, 180.0],
    [225.0, 200.0, 45.0],
    [45.0, 140.0, 65.0],
    [235.0, 130.0, 30.0],
    [120.0, 50.0, 140.0],
    [70.0, 190.0, 210.0],
    [235.0, 110.0, 160.0],
];

/// Seeds of the films that the search was tuned on lie below this, those it is tested on from here.
pub const TESTED_FROM: u64 = 1_000_000;

impl Conditions {
    /// Usual conditions, all drawn from a seed: a horse of 150 to 230 px in a picture of 640 × 360,
    /// or of 150 to 190 px in the 1280 × 360 of a camera that stands still.
    pub fn drawn(seed: u64, rate: f64, handling: Handling) -> Self {
        let mut rng = ChaCha8Rng::seed_from_u64(seed ^ 0x5eed);
        let mut within = |from: f64, to: f64| rng.random_range(from..to);
        let sand = within(120.0, 200.0);
        let coat = within(35.0, 215.0);
        let points = if within(0.0, 1.0) < 0.6 { within(28.0, 60.0) } else { coat };
        let withers_px = match handling {
            Handling::Fixed => within(150.0, 190.0),
            _ => within(150.0, 230.0),
        };
        Self {
            seed,
            rate,
            size: if handling == Handling::Fixed { (1280, 360) } else { (640, 360) },
            withers_px,
            distance: within(9.0, 18.0),
            lens_height: within(1.2, 2.0),
            handling,
            shake: if handling == Handling::Handheld { within(0.0006, 0.0016) } else { 0.0 },
            zoom: if handling == Handling::Handheld { within(0.97, 1.03) } else { 1.0 },
            rightward: within(0.0, 1.0) < 0.5,
            coat,
            points,
            hooves: within(35.0, 105.0),
            socks: [(); 4].map(|()| within(0.0, 1.0) < 0.2),
            sand,
            grain: within(5.0, 14.0),
            shadow: within(0.0, 0.5),
            sun: within(-0.8, 0.8),
            noise: within(1.0, 4.0),
            soft: within(1.2, 2.0),
            shutter: within(0.1, 0.4),
            light: within(0.75, 1.1),
            dust: within(0.0, 0.3),
            company: within(0.0, 1.0) < 0.3,
            track: within(0.045, 0.075),
            action: Action {
                lift: within(0.055, 0.10),
                hoof: within(0.075, 0.095),
                leggy: within(0.98, 1.05),
            },
            shown: Shown::Horse,
            wraps: [None; 4],
        }
    }

    /// The same with wraps on some limbs, each of another colour, drawn from the seed.
    #[must_use]
    pub fn wrapped(self, limbs: &[Limb]) -> Self {
        let mut rng = ChaCha8Rng::seed_from_u64(self.seed ^ 0x3aa5);
        let mut left: Vec<Tone> = WRAPS.map(Tone::of_rgb).to_vec();
        let mut wraps = [None; 4];
        for limb in limbs {
            wraps[limb.index()] = Some(left.swap_remove(rng.random_range(0..left.len())));
        }
        Self { wraps, ..self }
    }
}
