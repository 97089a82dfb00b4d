//! Rides that the tests of the synthetic horse share.
#![allow(clippy::unwrap_used, reason = "a test that cannot go on has failed")]
#![allow(dead_code, reason = "each test file uses its own part")]

use umlauf_gait::Side;
use umlauf_synth::coat::BAY;
use umlauf_synth::film::{Film, Shot};
use umlauf_synth::template::Template;
use umlauf_synth::truth::{Ride, Truth};
use umlauf_synth::vec3::v3;

/// A ride of a template towards C, its own unsteadiness as small as asked for.
pub fn asked(name: &str, strides: usize, seed: u64) -> Ride {
    Ride {
        template: *Template::named(name).unwrap(),
        strides,
        seed,
        stride_cv: 0.0,
        serial: 0.0,
        phase_sd: 0.0,
        duty_sd: 0.0,
        withers: 1.62,
        rein: Side::Left,
        from_y: 12.0,
        line_x: 18.0,
        changes: &[],
        then: None,
    }
}

/// A small picture of a ride, taken across the arena.
pub fn film(ride: Ride, panning: bool) -> Film {
    let shot = Shot {
        size: (320, 180),
        rate: 60.0,
        tripod: v3(4.0, 18.0, 1.6),
        focal_px: 900.0,
        panning,
        margin_s: 0.25,
        cones: &[],
    };
    Film::new(Truth::new(ride), shot, BAY)
}
