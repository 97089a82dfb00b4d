//! The horse over a clip: one of several, followed where it is hidden, seen as one with another, or half out of the
//! picture.
#![allow(clippy::unwrap_used, reason = "a test that cannot go on has failed")]
#![allow(clippy::cast_precision_loss, reason = "frames of a short clip")]

use umlauf_signals::picture::area::Area;
use umlauf_signals::picture::going::Going;
use umlauf_signals::picture::horse::Horse;
use umlauf_signals::picture::one_horse::one_horse;
use umlauf_signals::picture::path::Path;
use umlauf_signals::picture::turn::Turn;

/// A horse of a length in columns from the left, in a picture that stands still.
fn horse(x: f32, length: f32) -> Horse {
    let area = Area { left: x - 0.5 * length, right: x + 0.5 * length, top: 50.0, bottom: 200.0 };
    Horse { area, middle: (x, 120.0), length }
}

#[test]
fn one_horse_is_followed_through_another() {
    let frames = 180;
    // It goes to the right, the smaller one to the left; they are seen as one for a third of a second, and
    // when it has left the other is all there is.
    let place = |f: usize| 100.0 + 5.0 * f as f32;
    let other = |f: usize| 900.0 - 4.0 * f as f32;
    let mut found: Vec<Option<Horse>> = (0..frames)
        .map(|f| {
            let (a, b) = (place(f), other(f));
            let both = (a - b).abs() < 90.0;
            match f {
                150.. => Some(horse(b, 120.0)),
                60..70 => None,
                _ if both => Some(Horse { length: 280.0, ..horse(0.5 * (a + b), 280.0) }),
                _ => Some(horse(a, 200.0)),
            }
        })
        .collect();
    one_horse(&mut found, 60.0, &vec![Turn::NONE; frames]);
    for (f, h) in found.iter().enumerate() {
        match f {
            150.. => assert_eq!(*h, None, "frame {f}"),
            _ => assert!((h.unwrap().middle.0 - place(f)).abs() < 50.0, "frame {f}"),
        }
    }
    // Hidden for a moment it went on evenly.
    assert!((found[65].unwrap().middle.0 - place(65)).abs() < 1.0);
}

/// A camera turns after a horse that comes nearer; for a second it passes one that stands, and both are one: larger, for
/// so long, than the horse is before or after.
#[test]
fn what_two_are_as_one_is_not_followed_instead_of_either() {
    let frames = 300;
    let length =
        |f: usize| if f < 150 { 90.0 + f as f32 } else { 240.0 - 0.8 * (f as f32 - 150.0) };
    let place = |f: usize| 4.0 * f as f32;
    let one = |f: usize| horse(320.0, length(f));
    let both = |f: usize| horse(320.0 + 1.2 * (150.0 - f as f32), 560.0);
    let mut found: Vec<Option<Horse>> =
        (0..frames).map(|f| Some(if (110..190).contains(&f) { both(f) } else { one(f) })).collect();
    let turns: Vec<Turn> =
        (0..frames).map(|f| Turn { dx: f64::from(place(f)) - 320.0, ..Turn::NONE }).collect();
    one_horse(&mut found, 60.0, &turns);
    for (f, h) in found.iter().enumerate() {
        let own = h.unwrap();
        assert!((own.middle.0 - 320.0).abs() < 5.0, "frame {f}: {}", own.middle.0);
        assert!(own.length < 250.0, "frame {f}: {}", own.length);
    }
}

/// A still camera: of a horse that comes in and leaves the middle of what is seen lags and stays behind; its own goes on
/// as fast as before.
#[test]
fn a_horse_half_out_of_the_picture_goes_on() {
    let (wide, long, frames) = (1280.0f32, 240.0f32, 330usize);
    let place = |f: usize| -100.0 + 4.5 * f as f32;
    let found: Vec<Option<Horse>> = (0..frames)
        .map(|f| {
            let (left, right) = (place(f) - 0.5 * long, place(f) + 0.5 * long);
            let (left, right) = (left.max(2.0), right.min(wide - 2.0));
            (right - left > 20.0).then(|| horse(0.5 * (left + right), right - left))
        })
        .collect();
    let way =
        Path { to_first: vec![Turn::NONE; frames], sd: vec![0.0; frames], rate: 60.0, step: 3 };
    let going = Going::of(&found, &way, (f64::from(wide), 360.0)).unwrap();
    for (f, body) in going.body.iter().enumerate() {
        assert!((body - f64::from(place(f))).abs() < 3.0, "frame {f}: {body} for {}", place(f));
    }
}
