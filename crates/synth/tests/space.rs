//! Points, cameras, meshes and pixels of the synthetic horse against geometry.
#![allow(clippy::unwrap_used, reason = "a test that cannot go on has failed")]

use std::collections::HashMap;
use std::f64::consts::PI;

use proptest::prelude::*;
use umlauf_gait::ground::ground_plane::GroundPlane;
use umlauf_gait::ground::plane_checks::{Clicks, Known};
use umlauf_synth::camera::Camera;
use umlauf_synth::mesh::{Colour, Mesh, ring};
use umlauf_synth::raster::{Canvas, Light};
use umlauf_synth::vec3::{V3, v3};

fn any_point() -> impl Strategy<Value = V3> {
    prop::array::uniform3(-50.0..50.0f64).prop_map(|[x, y, z]| v3(x, y, z))
}

fn camera(yaw: f64, pitch: f64) -> Camera {
    Camera { at: v3(6.0, 30.0, 2.0), yaw, pitch, focal_px: 1000.0, size: (1280, 720) }
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 200, failure_persistence: None, ..ProptestConfig::default() })]

    #[test]
    fn directions_keep_their_laws(a in any_point(), b in any_point(), t in 0.0..1.0f64) {
        let cross = a.cross(b);
        prop_assert!(cross.dot(a).abs() < 1e-6 && cross.dot(b).abs() < 1e-6);
        // Lagrange: |a×b|² + (a·b)² = |a|²|b|².
        let (ab, of_lengths) = (a.dot(b), a.dot(a) * b.dot(b));
        prop_assert!((cross.dot(cross) + ab * ab - of_lengths).abs() <= 1e-9 * of_lengths.max(1.0));
        prop_assert!((a + -a).length() == 0.0);
        prop_assert!((a.unit().length() - 1.0).abs() < 1e-9 || a.length() == 0.0);
        let way = a.lerp(b, t) - a;
        prop_assert!((way.length() - t * (b - a).length()).abs() < 1e-9);
    }

    #[test]
    fn a_pixel_and_its_line_of_sight_are_each_others_way_back(
        yaw in -3.0..3.0f64, pitch in -0.6..0.6f64, x in 0.0..1280.0f64, y in 0.0..720.0f64,
        away in 1.0..80.0f64,
    ) {
        let camera = camera(yaw, pitch);
        let (right, up, ahead) = camera.axes();
        for (a, b) in [(right, up), (up, ahead), (ahead, right)] {
            prop_assert!(a.dot(b).abs() < 1e-12 && (a.length() - 1.0).abs() < 1e-12);
        }
        // Right, up and towards the eye make a right hand.
        prop_assert!((right.cross(up) + ahead).length() < 1e-12);
        let seen = camera.see(camera.at + camera.ray(x, y).unit() * away);
        let depth = away * camera.ray(x, y).unit().dot(ahead);
        if depth > 0.51 {
            let seen = seen.unwrap();
            prop_assert!((seen.x - x).abs() < 1e-6 && (seen.y - y).abs() < 1e-6);
            prop_assert!((seen.depth - depth).abs() < 1e-9);
        }
        prop_assert!(camera.see(camera.at - camera.ray(x, y).unit() * away).is_none());
    }

    #[test]
    fn the_ground_that_it_shows_is_the_ground_that_is_read_from_it(
        yaw in -0.3..0.3f64, pitch in -0.25..-0.05f64, x in 12.0..19.0f64, y in 27.0..33.0f64,
    ) {
        // The camera of the drawing and the map of the analysis know nothing of one another.
        let camera = camera(yaw, pitch);
        let see = |x: f64, y: f64| camera.see(v3(x, y, 0.0)).map(|s| (s.x, s.y)).unwrap();
        let cones = [(20.0, 26.0), (20.0, 34.0), (13.0, 27.5), (13.0, 32.0)];
        let known: Vec<Known> = cones
            .iter()
            .map(|&(x, y)| Known { name: format!("{x} {y}"), place: (x, y), seen: see(x, y) })
            .collect();
        let clicks = Clicks { sd_px: 0.5, place_sd_m: 0.0, size: (1280.0, 720.0) };
        let plane = GroundPlane::new(&known, clicks).unwrap();
        let (a, b) = plane.place(see(x, y)).unwrap();
        prop_assert!((a - x).abs() < 1e-6 && (b - y).abs() < 1e-6);
        let found = plane.camera.unwrap();
        prop_assert!((found.height_m - 2.0).abs() < 1e-5 && (found.focal_px - 1000.0).abs() < 0.1);
        prop_assert!((found.at.0 - 6.0).abs() < 1e-4 && (found.at.1 - 30.0).abs() < 1e-4);
    }
}

/// Places of a mesh that several vertices share count once: how often each edge is walked, by its
/// ends.
fn edges(mesh: &Mesh) -> HashMap<(u64, u64), usize> {
    let mut places: HashMap<[i64; 3], u64> = HashMap::new();
    let mut number = |p: V3| {
        let key = [p.x, p.y, p.z].map(|v| (v * 1e7).round() as i64);
        let next = places.len() as u64;
        *places.entry(key).or_insert(next)
    };
    let mut out = HashMap::new();
    for t in &mesh.triangles {
        let k = t.map(|i| number(mesh.vertices[i as usize].at));
        for (a, b) in [(k[0], k[1]), (k[1], k[2]), (k[2], k[0])] {
            *out.entry((a.min(b), a.max(b))).or_insert(0) += 1;
        }
    }
    out
}

const RED: Colour = [1.0, 0.0, 0.0];
const GREEN: Colour = [0.0, 1.0, 0.0];

#[test]
fn a_tube_is_closed_and_its_normals_look_outwards() {
    let mut mesh = Mesh::default();
    let rings = [
        ring(v3(0.0, 0.0, 1.0), 0.10, 0.12, RED),
        ring(v3(0.4, 0.0, 0.9), 0.15, 0.10, RED),
        ring(v3(0.8, 0.05, 1.1), 0.08, 0.08, GREEN),
    ];
    mesh.tube(&rings);
    // Every edge belongs to two triangles: no hole through which the sky would show.
    for (edge, count) in edges(&mesh) {
        assert_eq!(count, 2, "{edge:?}");
    }
    let middle = v3(0.4, 0.0, 0.97);
    let outward = mesh.vertices.iter().filter(|v| {
        // Against the nearest point of the line through the rings.
        let along = rings.windows(2).map(|w| {
            let way = w[1].at - w[0].at;
            let t = ((v.at - w[0].at).dot(way) / way.dot(way)).clamp(0.0, 1.0);
            w[0].at.lerp(w[1].at, t)
        });
        let near = along.min_by(|a, b| (*a - v.at).length().total_cmp(&(*b - v.at).length()));
        let from = v.at - near.unwrap_or(middle);
        from.length() < 1e-6 || v.normal.dot(from) > 0.0
    });
    assert_eq!(outward.count(), mesh.vertices.len());
    assert!(mesh.vertices.iter().all(|v| (v.normal.length() - 1.0).abs() < 1e-9));
    // It passes through its rings: vertices as far from them as they are wide.
    let wide = mesh.vertices.iter().map(|v| (v.at.y - 0.0).abs()).fold(0.0, f64::max);
    assert!((wide - 0.15).abs() < 0.01, "{wide}");
}

#[test]
fn a_ball_has_the_surface_of_a_ball_and_a_block_that_of_a_block() {
    let area = |mesh: &Mesh| -> f64 {
        let at = |i: u32| mesh.vertices[i as usize].at;
        mesh.triangles
            .iter()
            .map(|[a, b, c]| (at(*b) - at(*a)).cross(at(*c) - at(*a)).length() / 2.0)
            .sum()
    };
    let mut ball = Mesh::default();
    ball.ball(v3(1.0, 2.0, 3.0), 0.5, RED);
    let share = area(&ball) / (4.0 * PI * 0.25);
    assert!((0.9..1.02).contains(&share), "{share}");
    for v in &ball.vertices {
        assert!((v.at - v3(1.0, 2.0, 3.0)).length() < 0.53, "{v:?}");
    }
    let mut block = Mesh::default();
    block.block(v3(0.0, 0.0, 0.0), v3(1.0, 2.0, 3.0), GREEN);
    assert!((area(&block) - 22.0).abs() < 1e-9);
    assert!(edges(&block).values().filter(|n| **n == 2).count() >= 12);
}

const LIGHT: Light = Light { sun: v3(0.0, 0.0, 1.0), ambient: 1.0 };

/// A picture of quads that face the camera at distances, over a black background.
fn painted(quads: &[(f64, f64, f64, f64, Colour)]) -> Vec<u8> {
    let camera =
        Camera { at: v3(0.0, 0.0, 0.0), yaw: 0.0, pitch: 0.0, focal_px: 100.0, size: (200, 100) };
    let mut canvas = Canvas::new(camera);
    for &(depth, left, wide, high, colour) in quads {
        let mut mesh = Mesh::default();
        let at = |l: f64, z: f64| v3(depth, l, z);
        let (l, r, t) = (-left, -left - wide, high);
        mesh.quad([at(l, -t), at(r, -t), at(r, t), at(l, t)], colour);
        canvas.draw(&mesh, &LIGHT, |p| p, |n| n);
    }
    canvas.over(&vec![[0.0; 3]; 200 * 100])
}

fn count(picture: &[u8], of: impl Fn(&[u8]) -> bool) -> usize {
    picture.chunks(3).filter(|p| of(p)).count()
}

#[test]
fn what_is_drawn_covers_the_pixels_that_geometry_gives_it() {
    // 2 m wide and 1 m high (±0.5) at 5 m with a focal length of 100 px: 40 by 20 pixels.
    let picture = painted(&[(5.0, -1.0, 2.0, 0.5, RED)]);
    let red = count(&picture, |p| p[0] > 60 && p[1] < 60);
    assert!((760..=840).contains(&red), "{red}");
    // Twice as far away: a quarter.
    let far = painted(&[(10.0, -1.0, 2.0, 0.5, RED)]);
    let red = count(&far, |p| p[0] > 60 && p[1] < 60);
    assert!((180..=220).contains(&red), "{red}");
    // What lies behind the camera or beside the picture is not drawn, and harms nothing.
    assert_eq!(count(&painted(&[(-5.0, -1.0, 2.0, 0.5, RED)]), |p| p[0] > 0), 0);
    assert_eq!(count(&painted(&[(5.0, 900.0, 2.0, 0.5, RED)]), |p| p[0] > 0), 0);
    // Larger than the picture: all of it.
    assert_eq!(count(&painted(&[(5.0, -50.0, 100.0, 50.0, RED)]), |p| p[0] > 60), 200 * 100);
}

#[test]
fn the_nearer_thing_hides_the_farther_in_whatever_order_they_are_drawn() {
    let (near, far) = ((5.0, -0.5, 1.0, 0.5, RED), (8.0, -1.6, 3.2, 0.8, GREEN));
    let (a, b) = (painted(&[near, far]), painted(&[far, near]));
    assert!(a == b);
    let middle = &a[(50 * 200 + 100) * 3..][..3];
    assert!(middle[0] > 60 && middle[1] < 60, "{middle:?}");
    assert!(count(&a, |p| p[1] > 60) > 100);
}

#[test]
fn light_is_written_as_srgb() {
    // IEC 61966-2-1: linear 0.2140 is 0.5 of the scale, 0.0031308 · 12.92 the end of its straight
    // part; both ends are ends.
    let camera =
        Camera { at: v3(0.0, 0.0, 1.0), yaw: 0.0, pitch: 0.0, focal_px: 10.0, size: (1, 1) };
    let of = |v: f32| Canvas::new(camera).over(&[[v; 3]])[0];
    for (linear, byte) in [(0.0, 0), (0.003_130_8, 10), (0.214_04, 127), (0.5, 188), (1.0, 255)] {
        let found = i32::from(of(linear));
        assert!((found - byte).abs() <= 1, "{linear}: {found} {byte}");
    }
    assert_eq!((of(-1.0), of(7.0)), (0, 255));
}

#[test]
fn a_shadow_falls_away_from_the_sun() {
    // A board 1 m above the ground, sun at 45° from behind the camera: the shadow lies 1 m further.
    let camera =
        Camera { at: v3(-6.0, 0.0, 3.0), yaw: 0.0, pitch: -0.4, focal_px: 150.0, size: (200, 150) };
    let light = Light { sun: v3(-1.0, 0.0, 1.0).unit(), ambient: 0.5 };
    let mut board = Mesh::default();
    board.quad(
        [v3(-0.5, -0.5, 1.0), v3(0.5, -0.5, 1.0), v3(0.5, 0.5, 1.0), v3(-0.5, 0.5, 1.0)],
        RED,
    );
    let mut canvas = Canvas::new(camera);
    canvas.cast(&board, &light, |p| p);
    let picture = canvas.over(&vec![[0.5; 3]; 200 * 150]);
    let dark = |p: V3| {
        let s = camera.see(p).unwrap();
        picture[(s.y as usize * 200 + s.x as usize) * 3] < 160
    };
    assert!(dark(v3(1.0, 0.0, 0.0)) && dark(v3(1.35, 0.35, 0.0)));
    assert!(!dark(v3(0.0, 0.0, 0.0)) && !dark(v3(2.0, 0.0, 0.0)) && !dark(v3(1.0, 0.8, 0.0)));
}
