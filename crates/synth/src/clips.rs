//! The demo clips: which rides they show and how they were filmed.

use umlauf_gait::base::limb::Side;

use crate::coat::{BAY, CHESTNUT, Coat, GREY};
use crate::film::{Film, Shot};
use crate::template::{TEMPLATES, Template};
use crate::truth::{Change, Ride, Then, Truth};
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
    /// First stride of another template, and which.
    pub then: Option<(usize, &'static str)>,
    /// Filmed by a camera that stands still, past [`CONES`].
    pub still: bool,
}

/// Where the cones of the still camera's clips stand, arena coordinates.
pub const CONES: &[(f64, f64)] =
    &[(19.4, 19.0), (19.4, 41.0), (13.0, 15.0), (13.0, 45.0), (6.0, 30.0)];

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
        then: None,
        still: false,
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
        then: None,
        still: false,
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
        then: None,
        still: false,
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
        then: None,
        still: false,
    },
    // Seven strides of working trot, then lengthened, past cones from a tripod that stands still.
    DemoClip {
        name: "tinne-lengthening",
        gait: "trot",
        strides: 15,
        seed: 71,
        rein: Side::Left,
        coat: CHESTNUT,
        withers: 1.64,
        changes: &[],
        then: Some((7, "trot-extended")),
        still: true,
    },
];

impl DemoClip {
    /// The ride of this clip: strides differ by 1.2 %, each a little like the one before.
    pub fn ride(&self) -> Ride {
        let named = |name| Template::named(name).copied().unwrap_or(TEMPLATES[0]);
        let template = named(self.gait);
        let then = self.then.map(|(stride, name)| Then { stride, template: named(name) });
        let strides = |n: usize| f64::from(u32::try_from(n).unwrap_or(0));
        let first = then.map_or(self.strides, |t| t.stride.min(self.strides));
        let second = then.map_or(0.0, |t| t.template.stride_length());
        let length =
            template.stride_length() * strides(first) + second * strides(self.strides - first);
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
            then,
        }
    }

    /// The film of this clip: 120 frames/s, from a tripod beyond the other long side, panning; or
    /// 60 frames/s from further back and higher, standing still.
    pub fn film(&self) -> Film {
        if self.still {
            let shot = Shot {
                size: (1920, 800),
                rate: 60.0,
                tripod: v3(-11.4, 30.0, 3.2),
                focal_px: 760.0,
                panning: false,
                margin_s: 0.2,
                cones: CONES,
            };
            return Film::new(Truth::new(self.ride()), shot, self.coat);
        }
        let shot = Shot {
            size: (1280, 720),
            rate: 120.0,
            tripod: v3(-3.0, 30.0, 1.9),
            focal_px: 4700.0,
            panning: true,
            margin_s: 0.25,
            cones: &[],
        };
        Film::new(Truth::new(self.ride()), shot, self.coat)
    }
}
