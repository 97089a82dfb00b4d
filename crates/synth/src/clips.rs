//! The demo clips: which rides they show and how they were filmed.

use umlauf_gait::limb::Side;

use crate::coat::{BAY, CHESTNUT, Coat, GREY};
use crate::film::{Film, Shot};
use crate::template::{TEMPLATES, Template};
use crate::truth::{Change, Ride, Truth};
use crate::vec3::v3;

/// One demo clip.
#[derive(Clone, Copy, Debug)]
pub struct DemoClip {
    /// File name without ending.
    pub name: &'static str,
    /// Template of the gait.
    pub gait: &'static str,
    /// Strides.
    pub strides: usize,
    /// Seed.
    pub seed: u64,
    /// Rein ridden.
    pub rein: Side,
    /// Colours.
    pub coat: Coat,
    /// Height at the withers, m.
    pub withers: f64,
    /// Flying changes.
    pub changes: &'static [Change],
}

/// The clips that are kept in `demo/`.
pub const DEMO: &[DemoClip] = &[
    DemoClip {
        name: "kiebitz-walk",
        gait: "walk",
        strides: 8,
        seed: 11,
        rein: Side::Right,
        coat: BAY,
        withers: 1.66,
        changes: &[],
    },
    DemoClip {
        name: "distel-trot",
        gait: "trot",
        strides: 11,
        seed: 23,
        rein: Side::Left,
        coat: GREY,
        withers: 1.62,
        changes: &[],
    },
    DemoClip {
        name: "priel-canter",
        gait: "canter-collected",
        strides: 13,
        seed: 37,
        rein: Side::Left,
        coat: CHESTNUT,
        withers: 1.68,
        changes: &[],
    },
    // Four strides to a clean change, four more to one that comes a stride late behind.
    DemoClip {
        name: "bernsteen-changes",
        gait: "canter-collected",
        strides: 15,
        seed: 53,
        rein: Side::Left,
        coat: BAY,
        withers: 1.70,
        changes: &[
            Change { stride: 4, hinds: true, fores: true },
            Change { stride: 8, hinds: false, fores: true },
            Change { stride: 9, hinds: true, fores: false },
        ],
    },
];

impl DemoClip {
    /// The ride of this clip: strides differ by 1.2 %, each a little like the one before.
    pub fn ride(&self) -> Ride {
        let template = Template::named(self.gait).copied().unwrap_or(TEMPLATES[0]);
        let length = template.stride_length() * f64::from(u32::try_from(self.strides).unwrap_or(0));
        let from_y = match self.rein {
            Side::Left => 30.0 - length / 2.0,
            Side::Right => 30.0 + length / 2.0,
        };
        Ride {
            template,
            strides: self.strides,
            seed: self.seed,
            stride_cv: 0.012,
            serial: 0.3,
            phase_sd: 0.004,
            duty_sd: 0.005,
            withers: self.withers,
            rein: self.rein,
            from_y,
            line_x: 18.6,
            changes: self.changes,
        }
    }

    /// The film of this clip: 120 frames/s, from a tripod beyond the other long side, panning.
    pub fn film(&self) -> Film {
        let shot = Shot {
            size: (1280, 720),
            rate: 120.0,
            tripod: v3(-3.0, 30.0, 1.9),
            focal_px: 4700.0,
            panning: true,
            margin_s: 0.25,
        };
        Film::new(Truth::new(self.ride()), shot, self.coat)
    }
}
