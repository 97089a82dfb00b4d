//! Geometry of the arena against figures worked out by hand.
#![allow(clippy::unwrap_used, reason = "a test that cannot go on has failed")]

use umlauf_gait::Side::{Left, Right};
use umlauf_gait::ground::arena::{Arena, circumference, distance};

#[test]
fn circles_and_diagonals_have_their_lengths() {
    assert!((circumference(10.0) - 31.42).abs() < 0.005);
    assert!((circumference(20.0) - 62.83).abs() < 0.005);
    let large = |name| Arena::LARGE.letter(name).unwrap();
    let small = |name| Arena::SMALL.letter(name).unwrap();
    // √(20² + 48²) and √(20² + 28²).
    assert!((distance(large("F"), large("H")) - 52.0).abs() < 1e-12);
    assert!((distance(small("k"), small("M")) - 34.409_301).abs() < 1e-6);
    assert_eq!((large("X"), small("X")), ((10.0, 30.0), (10.0, 20.0)));
    // Seen from A the K side is on the left.
    assert!(large("K").0 < large("F").0 && large("S").1 > large("V").1);
}

#[test]
fn ten_metre_circles_fit_beside_diagonals_where_they_do() {
    // Metres before X negative, past it positive; by hand from the circle's centre 5 m beside the
    // line, which must keep 5 m from every side.
    let cases = [
        (Arena::LARGE, "F", "H", Right, -1.0, 25.0),
        (Arena::LARGE, "F", "H", Left, -25.0, 1.0),
        (Arena::SMALL, "K", "M", Left, -1.6, 14.9),
        (Arena::SMALL, "K", "M", Right, -14.9, 1.6),
    ];
    for (arena, from, to, side, lo, hi) in cases {
        let (from, to) = (arena.letter(from).unwrap(), arena.letter(to).unwrap());
        let half = distance(from, to) / 2.0;
        let (a, b) = arena.room_for_circle(from, to, side, 10.0).unwrap();
        assert!((a - half - lo).abs() < 0.05 && (b - half - hi).abs() < 0.05, "{a} {b}");
    }
    // Along the long side: inside, not outside; and never a circle wider than the arena.
    let (k, h) = (Arena::LARGE.letter("K").unwrap(), Arena::LARGE.letter("H").unwrap());
    assert_eq!(Arena::LARGE.room_for_circle(k, h, Right, 20.0), Some((4.0, 44.0)));
    assert_eq!(Arena::LARGE.room_for_circle(k, h, Left, 10.0), None);
    assert_eq!(Arena::LARGE.room_for_circle(k, h, Right, 21.0), None);
}
