//! The flat film, frame by frame.

use std::sync::OnceLock;

use rand::{Rng as _, SeedableRng as _};
use rand_chacha::ChaCha8Rng;
use umlauf_gait::base::limb::{Limb, Side};

use crate::flat::body::{HEAD, Painter};
use crate::flat::canvas::{Canvas, Paint, count};
use crate::flat::conditions::{Conditions, Handling, Shown};
use crate::flat::grain::Grain;
use crate::flat::lens::Lens;
use crate::flat::limb::limb as joints;
use crate::flat::stranger;
use crate::truth::{Truth, normal};

/// A ride filmed flat.
#[derive(Clone, Debug)]
pub struct FlatFilm {
    /// The ride.
    pub truth: Truth,
    /// Under what it is filmed.
    pub made: Conditions,
    grain: Grain,
    tremble: Vec<(f64, f64, f64)>,
    stays: OnceLock<Canvas>,
}

/// Filmed before the first and after the last stride, s.
pub const MARGIN_S: f64 = 0.3;

/// The rail's distance behind the track, m.
const RAIL: f64 = 3.0;

/// The hedge's distance behind the track, m.
const HEDGE: f64 = 14.0;

impl FlatFilm {
    /// Prepares a film.
    pub fn new(truth: Truth, made: Conditions) -> Self {
        let grain = Grain::new(made.seed, 0.8);
        let mut film = Self { truth, made, grain, tremble: vec![], stays: OnceLock::new() };
        film.tremble = tremble(made.seed, film.frames(), made.rate, made.shake);
        film
    }

    /// Number of frames.
    pub fn frames(&self) -> usize {
        let length = (self.truth.duration() + 2.0 * MARGIN_S) * self.made.rate;
        #[expect(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "a short clip")]
        let n = length.floor() as usize;
        n
    }

    /// Time of a frame on the ride's clock, s.
    pub fn time(&self, frame: f64) -> f64 {
        frame / self.made.rate - MARGIN_S
    }

    fn lens(&self, frame: f64) -> Lens {
        let made = &self.made;
        let t = self.time(frame);
        let share = frame / count(self.frames());
        // The height of a horse seen so far away.
        let focal = made.withers_px * made.distance / self.truth.ride.withers;
        let way = if made.rightward { 1.0 } else { -1.0 };
        let body = self.origin() + way * self.truth.ride.body_at(t);
        let yaw = match made.handling {
            Handling::Fixed => 0.0,
            // A hand lags and swings a little.
            Handling::Panning => body.atan2(made.distance) + 0.004 * (1.9 * t).sin(),
            Handling::Handheld => body.atan2(made.distance) + 0.012 * (1.9 * t).sin(),
        };
        let at = |k: usize| self.tremble.get(k).copied().unwrap_or_default();
        #[expect(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "a frame")]
        let k = frame.max(0.0) as usize;
        let part = frame - count(k);
        let (a, b) = (at(k), at(k + 1));
        let mix = |a: f64, b: f64| a + part * (b - a);
        let zoom = 1.0 + (made.zoom - 1.0) * share;
        let level = 0.55 * self.truth.ride.withers;
        Lens {
            height: made.lens_height,
            yaw: yaw + mix(a.0, b.0),
            down: (made.lens_height - level).atan2(made.distance) + mix(a.1, b.1),
            roll: mix(a.2, b.2),
            focal: focal * zoom,
            size: made.size,
        }
    }

    /// Where a point of the ground that one frame shows at `x`, `y` appears in another.
    pub fn moved(&self, from: usize, to: usize, x: f64, y: f64) -> (f64, f64) {
        let lens = self.lens(count(from));
        let (rx, ry, rz) = lens.ray(x, y);
        let far = lens.height / -ry;
        let spot = self.lens(count(to)).see(far * rx, 0.0, far * rz);
        (spot.x, spot.y)
    }

    /// Where in a frame a limb's toe stands that stands `along` the ride, pixels.
    pub fn stands(&self, frame: usize, limb: Limb, along: f64) -> (f64, f64) {
        self.shows(frame, limb, (along, 0.0))
    }

    /// Where in a frame the middle of a limb's wrap is while it stands, pixels.
    pub fn wrap(&self, frame: usize, limb: Limb) -> Option<(f64, f64)> {
        let joints = joints(&self.truth, limb, self.time(count(frame)), self.made.action);
        let (knee, fetlock) = (joints.middle, joints.fetlock);
        let middle = (f64::midpoint(knee.0, fetlock.0), f64::midpoint(knee.1, fetlock.1));
        joints.stands.then(|| self.shows(frame, limb, middle))
    }

    /// Where a frame shows the middle of the rider's head, pixels.
    pub fn head(&self, frame: usize) -> (f64, f64) {
        let (made, h, t) = (&self.made, self.truth.ride.withers, self.time(count(frame)));
        let (along, up) = HEAD;
        let along = self.truth.ride.body_at(t) + along * h;
        let x = self.origin() + if made.rightward { along } else { -along };
        let spot = self.lens(count(frame)).see(x, up * h, made.distance);
        (spot.x, spot.y)
    }

    /// Where a frame shows a place of a limb, m along the ride and above the ground.
    fn shows(&self, frame: usize, limb: Limb, (along, up): (f64, f64)) -> (f64, f64) {
        let made = &self.made;
        let near = (limb.side() == Side::Right) == made.rightward;
        let half = made.track * self.truth.ride.withers;
        let z = made.distance + if near { -half } else { half };
        let x = self.origin() + if made.rightward { along } else { -along };
        let spot = self.lens(count(frame)).see(x, up, z);
        (spot.x, spot.y)
    }

    /// The way of a ride lies about the camera: its middle before it.
    fn origin(&self) -> f64 {
        let half = 0.5 * self.truth.ride.body_at(self.truth.duration());
        if self.made.rightward { -half } else { half }
    }

    /// Draws a frame in grey.
    pub fn draw(&self, frame: usize) -> Vec<u8> {
        self.exposed(frame, false).0
    }

    /// Draws a frame in colour: grey, and at half the size how blue and how red (128 for neither).
    pub fn draw_coloured(&self, frame: usize) -> (Vec<u8>, Vec<u8>, Vec<u8>) {
        let (grey, hues) = self.exposed(frame, true);
        let (width, height) = self.made.size;
        let halves: Vec<(f32, f32)> = (0..height.div_ceil(2))
            .flat_map(|y| (0..width.div_ceil(2)).map(move |x| (x, y)))
            .map(|(x, y)| {
                let each = [(0, 0), (1, 0), (0, 1), (1, 1)].map(|(dx, dy)| {
                    hues[(2 * y + dy).min(height - 1) * width + (2 * x + dx).min(width - 1)]
                });
                each.iter().fold((0.0, 0.0), |sum, h| (sum.0 + h.0 / 4.0, sum.1 + h.1 / 4.0))
            })
            .collect();
        #[expect(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "clamped")]
        let byte = |v: f32| (f64::from(v) * self.made.light + 128.5).clamp(0.0, 255.0) as u8;
        (
            grey,
            halves.iter().map(|h| byte(h.0)).collect(),
            halves.iter().map(|h| byte(h.1)).collect(),
        )
    }

    /// A frame's grey values, and its hues where they are asked for.
    fn exposed(&self, frame: usize, coloured: bool) -> (Vec<u8>, Vec<(f32, f32)>) {
        let made = &self.made;
        let (width, height) = made.size;
        let middle = count(frame);
        let lens = self.lens(middle);
        let mut behind = match made.handling {
            // What a camera that stands still sees behind the horse stays.
            Handling::Fixed => self.stays.get_or_init(|| self.behind(&lens)).clone(),
            _ => self.behind(&lens),
        };
        if made.company {
            self.company(&mut behind, &lens, self.time(middle));
        }
        if coloured {
            behind.hues = Some(self.hues_behind(&lens));
        }
        let mut sum = vec![0.0f32; width * height];
        let mut hues = vec![(0.0, 0.0); if coloured { sum.len() } else { 0 }];
        // What moves is blurred by the shutter.
        for part in [-0.5, 0.0, 0.5] {
            let at = middle + part * made.shutter;
            let mut canvas = behind.clone();
            let (distance, origin) = (made.distance, self.origin());
            let lens = self.lens(at);
            let truth = &self.truth;
            let t = self.time(at);
            if made.shown == Shown::Horse {
                Painter { canvas: &mut canvas, lens, truth, made, distance, origin }.horse(t);
            } else {
                stranger::Painter {
                    canvas: &mut canvas,
                    lens,
                    tone: made.coat,
                    shadow: made.shadow,
                    rightward: made.rightward,
                    z: distance,
                    along: truth.ride.body_at(t),
                    origin,
                    speed: truth.ride.template.speed,
                }
                .paint(made.shown, t);
            }
            sum.iter_mut().zip(&canvas.pixels).for_each(|(s, p)| *s += p / 3.0);
            for (sum, own) in hues.iter_mut().zip(canvas.hues.iter().flatten()) {
                *sum = (sum.0 + own.0 / 3.0, sum.1 + own.1 / 3.0);
            }
        }
        let mut rng = ChaCha8Rng::seed_from_u64(made.seed ^ (0xf00d + frame as u64));
        let grey = sum.into_iter().map(|v| {
            // Four uniform numbers are nearly a bell.
            let bits: u32 = rng.random();
            let bell: u32 = bits.to_be_bytes().iter().map(|b| u32::from(*b)).sum();
            let noise = made.noise * (f64::from(bell) - 510.0) / 147.8;
            let lit = f64::from(v) * made.light + noise + 0.5;
            #[expect(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "clamped")]
            let byte = lit.clamp(0.0, 255.0) as u8;
            byte
        });
        (grey.collect(), hues)
    }

    /// How blue and how red sand, grass, hedge and sky are.
    fn hues_behind(&self, lens: &Lens) -> Vec<(f32, f32)> {
        let (width, height) = self.made.size;
        let hedge = self.made.distance + HEDGE;
        (0..height)
            .flat_map(|y| (0..width).map(move |x| (count(x), count(y))))
            .map(|(x, y)| {
                let (_, ry, rz) = lens.ray(x, y);
                let to_ground = if ry < -1e-6 { lens.height / -ry } else { f64::INFINITY };
                if to_ground * rz < self.made.distance + RAIL {
                    (-9.0, 6.0)
                } else if to_ground * rz < hedge || lens.height + hedge / rz * ry < 2.2 {
                    (-16.0, -12.0)
                } else {
                    (12.0, -6.0)
                }
            })
            .collect()
    }

    /// Sand, a rail, grass, a hedge and the sky.
    fn behind(&self, lens: &Lens) -> Canvas {
        let made = &self.made;
        let mut canvas = Canvas::new(made.size.0, made.size.1, made.soft);
        let (rail, hedge) = (made.distance + RAIL, made.distance + HEDGE);
        for y in 0..canvas.height {
            for x in 0..canvas.width {
                let (rx, ry, rz) = lens.ray(count(x), count(y));
                let to_ground = if ry < -1e-6 { lens.height / -ry } else { f64::INFINITY };
                let z = to_ground * rz;
                let value = if z < hedge {
                    let along = to_ground * rx;
                    // Seen flat, a pixel reaches far.
                    let wide = to_ground / lens.focal * (1.0 / (-ry).max(0.02)).sqrt();
                    let fine = self.grain.at(along, z, 0.006, wide);
                    let rough = self.grain.at(along + 3.1, z, 0.05, wide);
                    let (tone, grain) =
                        if z < rail { (made.sand, made.grain) } else { (0.6 * made.sand, 9.0) };
                    tone + grain * f64::from(0.6 * fine + 0.5 * rough)
                } else {
                    let far = hedge / rz;
                    let (along, up) = (far * rx, lens.height + far * ry);
                    let top = 2.2 + 0.25 * f64::from(self.grain.at(along, 0.0, 0.05, 0.1));
                    if up < top {
                        let leaf = self.grain.at(along, up, 0.02, far / lens.focal);
                        70.0 + 18.0 * f64::from(leaf)
                    } else {
                        215.0 + 3.0 * f64::from(self.grain.at(along, up, 0.3, 0.3))
                    }
                };
                #[expect(clippy::cast_possible_truncation, reason = "a grey value")]
                let value = value as f32;
                canvas.pixels[y * canvas.width + x] = value;
            }
        }
        // The rail: two boards and posts.
        let white = Paint { tone: 225.0, cover: 1.0, round: 14.0 };
        for k in -14..14 {
            let along = 2.5 * f64::from(k);
            let see = |x: f64, up: f64, thick: f64| {
                let spot = lens.see(x, up, rail);
                (spot.x, spot.y, thick * spot.scale)
            };
            for up in [0.6, 1.1] {
                canvas.bar(see(along, up, 0.05), see(along + 2.5, up, 0.05), white);
            }
            canvas.bar(see(along, 0.0, 0.05), see(along, 1.2, 0.05), white);
        }
        canvas
    }

    /// Another horse, ridden the other way behind the rail.
    fn company(&self, canvas: &mut Canvas, lens: &Lens, t: f64) {
        let z = self.made.distance + RAIL + 2.0;
        let way = if self.made.rightward { -1.0 } else { 1.0 };
        let at = way * (1.5 * t - 2.0);
        let paint = Paint::full(0.8 * self.made.coat + 30.0);
        let see = |x: f64, up: f64, thick: f64| {
            let spot = lens.see(at + way * x, up, z);
            (spot.x, spot.y, thick * spot.scale)
        };
        for (k, root) in [-0.5, -0.45, 0.45, 0.5].into_iter().enumerate() {
            let phase = std::f64::consts::TAU * (t / 1.1 + 0.25 * count(k));
            let foot = root + 0.28 * phase.sin();
            canvas.bar(
                see(root, 0.8, 0.09),
                see(foot, 0.05 + 0.04 * phase.cos().max(0.0), 0.05),
                paint,
            );
        }
        let spot = lens.see(at, 1.2, z);
        canvas.ellipse((spot.x, spot.y), (0.75 * spot.scale, 0.32 * spot.scale), 0.0, paint);
        canvas.bar(see(0.6, 1.35, 0.2), see(1.0, 1.9, 0.12), paint);
        canvas.bar(see(1.0, 1.9, 0.12), see(1.25, 1.6, 0.08), paint);
    }
}

/// How a hand trembles: yaw, down and roll of each frame, with the slowness of an arm.
fn tremble(seed: u64, frames: usize, rate: f64, sd: f64) -> Vec<(f64, f64, f64)> {
    let mut rng = ChaCha8Rng::seed_from_u64(seed ^ 0x4a4d);
    let keep = (-TREMBLES * std::f64::consts::TAU / rate).exp();
    let mut way = || {
        let (mut pull, mut hand) = (0.0, 0.0);
        let raw: Vec<f64> = (0..frames + 2)
            .map(|_| {
                pull = keep * pull + (1.0 - keep) * normal(&mut rng);
                hand = keep * hand + (1.0 - keep) * pull;
                hand
            })
            .collect();
        let own = (raw.iter().map(|v| v * v).sum::<f64>() / count(raw.len())).sqrt().max(1e-12);
        raw.into_iter().map(|v| v * sd / own).collect::<Vec<f64>>()
    };
    let (yaw, down, roll) = (way(), way(), way());
    (0..frames + 2).map(|k| (yaw[k], down[k], 0.7 * roll[k])).collect()
}

/// Trembles a second.
const TREMBLES: f64 = 3.0;
