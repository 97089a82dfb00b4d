//! What stands about the arena at Watthof: kickboards and rail along the long side, letters, cones.

use crate::mesh::{Colour, Mesh, Ring, ring};
use crate::vec3::{V3, v3};

/// Letters of the long side opposite the camera, 20×60 arena: metres from the A end.
const LETTERS: [(char, f64); 5] = [('F', 6.0), ('P', 18.0), ('B', 30.0), ('R', 42.0), ('M', 54.0)];
/// The long side stands here.
pub(crate) const SIDE_X: f64 = 20.0;

/// Fence and letters.
pub fn furniture() -> Mesh {
    let mut mesh = Mesh::default();
    let rail: Colour = [0.70, 0.68, 0.63];
    let board: Colour = [0.23, 0.16, 0.10];
    let dark: Colour = [0.045, 0.055, 0.05];
    let plate: Colour = [0.80, 0.79, 0.75];
    let x = SIDE_X + 0.25;
    for k in 0..=20 {
        let y = 3.0 * f64::from(k);
        mesh.block(v3(x, y - 0.05, 0.0), v3(x + 0.1, y + 0.05, 1.28), rail);
    }
    for k in 0..20 {
        let (a, b) = (3.0 * f64::from(k), 3.0 * f64::from(k + 1));
        mesh.block(v3(x - 0.03, a, 1.14), v3(x, b, 1.26), rail);
        mesh.block(v3(x - 0.03, a, 0.66), v3(x, b, 0.76), rail);
        mesh.block(v3(x - 0.04, a, 0.0), v3(x, b, 0.30), board);
    }
    for (letter, y) in LETTERS {
        let at = SIDE_X + 0.5;
        mesh.block(v3(at, y - 0.04, 0.0), v3(at + 0.06, y + 0.04, 1.4), rail);
        mesh.block(v3(at, y - 0.34, 1.34), v3(at + 0.04, y + 0.34, 2.16), plate);
        for stroke in strokes(letter) {
            // Seen from inside the arena, +y is to the left.
            let on_plate = |(u, v): (f64, f64)| v3(at - 0.02, y + 0.20 - 0.40 * u, 1.47 + 0.56 * v);
            for pair in stroke.windows(2) {
                bar(&mut mesh, on_plate(pair[0]), on_plate(pair[1]), dark);
            }
        }
    }
    mesh
}

/// Cones for measuring by, 0.4 m high.
pub fn cones(mesh: &mut Mesh, places: &[(f64, f64)]) {
    const CLAY: Colour = [0.62, 0.16, 0.06];
    for &(x, y) in places {
        mesh.block(v3(x - 0.17, y - 0.17, 0.0), v3(x + 0.17, y + 0.17, 0.03), CLAY);
        // From the tip down and back up the axis, so that the flanks look outwards.
        let rings: Vec<Ring> = [(0.42, 0.02), (0.30, 0.055), (0.16, 0.10), (0.03, 0.14)]
            .iter()
            .enumerate()
            .map(|(k, (z, r))| {
                let colour = if k == 1 { [0.80, 0.79, 0.75] } else { CLAY };
                ring(v3(x, y, *z), *r, *r, colour)
            })
            .collect();
        mesh.tube(&rings);
    }
}

/// A pen stroke on a plate that stands across x.
fn bar(mesh: &mut Mesh, a: V3, b: V3, colour: Colour) {
    const HALF: f64 = 0.045;
    let along = (b - a).unit() * HALF;
    let wide = v3(0.0, -along.z, along.y);
    let (a, b) = (a - along * 0.9, b + along * 0.9);
    mesh.quad([a - wide, b - wide, b + wide, a + wide], colour);
}

/// Letters as pen strokes in a unit square, left to right, bottom to top.
fn strokes(letter: char) -> Vec<Vec<(f64, f64)>> {
    let bowl = |top: f64, bottom: f64| {
        vec![
            (0.0, top),
            (0.6, top),
            (0.95, top - 0.25 * (top - bottom)),
            (0.95, bottom + 0.25 * (top - bottom)),
            (0.6, bottom),
            (0.0, bottom),
        ]
    };
    let stem = vec![(0.0, 0.0), (0.0, 1.0)];
    match letter {
        'F' => vec![stem, vec![(0.0, 1.0), (0.9, 1.0)], vec![(0.0, 0.52), (0.7, 0.52)]],
        'P' => vec![stem, bowl(1.0, 0.45)],
        'B' => vec![stem, bowl(1.0, 0.53), bowl(0.53, 0.0)],
        'R' => vec![stem, bowl(1.0, 0.48), vec![(0.45, 0.48), (0.95, 0.0)]],
        _ => vec![vec![(0.0, 0.0), (0.0, 1.0), (0.5, 0.35), (1.0, 1.0), (1.0, 0.0)]],
    }
}
