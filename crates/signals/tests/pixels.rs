//! What is computed many pixels at a time is what its definition says, pixel by pixel.
#![allow(clippy::unwrap_used, reason = "a test that cannot go on has failed")]
#![allow(clippy::cast_precision_loss, reason = "pixels")]

use umlauf_signals::picture::background::Background;
use umlauf_signals::picture::grey::Grey;
use umlauf_signals::picture::motion::Layers;
use umlauf_signals::picture::shadow::Shadow;
use umlauf_signals::picture::turn::Turn;
use umlauf_signals::picture::unrolled::Unrolled;

/// Bytes that look like nothing (a linear congruence, Knuth's MMIX constants; values from memory).
fn noise(n: usize, mut state: u64) -> Vec<u8> {
    let mut next = || {
        state =
            state.wrapping_mul(6_364_136_223_846_793_005).wrapping_add(1_442_695_040_888_963_407);
        (state >> 56) as u8
    };
    (0..n).map(|_| next()).collect()
}

fn grey(width: usize, height: usize, state: u64) -> Grey {
    Grey::new(width, height, noise(width * height, state)).unwrap()
}

/// A picture that is smooth enough to be laid over itself.
fn waves(width: usize, height: usize, turn: Turn) -> Grey {
    let value = |k: usize| {
        let (x, y) = turn.of((k % width) as f64, (k / width) as f64);
        let wave = |a: f64, b: f64, c: f64| (a * x + b * y + c).sin();
        128.0 + 35.0 * (wave(0.11, 0.03, 0.0) + wave(-0.04, 0.13, 1.0) + wave(0.19, 0.17, 2.0))
    };
    Grey::new(width, height, (0..width * height).map(|k| value(k).round() as u8).collect()).unwrap()
}

#[test]
fn a_background_is_the_median_of_what_the_looks_show() {
    let (width, height, rate) = (70, 9, 20.0);
    let pictures: Vec<Grey> = (0..200).map(|k| grey(width, height, k)).collect();
    // A camera that goes 0.31 pixels to the right and 0.04 down every frame.
    let to_first: Vec<Turn> = (0..200)
        .map(|k| Turn { dx: 0.31 * f64::from(k), dy: 0.04 * f64::from(k), ..Turn::NONE })
        .collect();
    let (frame, room) = (97, (20, 3));
    let made = Background::about(frame, room, 0..height, rate, &to_first, |k| &pictures[k]);
    assert_eq!((made.width, made.height), (width + 40, height + 6));
    let (mut known, mut unknown) = (0, 0);
    for (k, value) in made.values.iter().enumerate() {
        let (x, y) = (k % made.width, k / made.width);
        let (x, y) = (x as f64 - 20.0, y as f64 - 3.0);
        // Every 0.15 s for 2.5 s to either side.
        let mut seen: Vec<u8> = (-17..=17)
            .filter_map(|look: i32| {
                let at = usize::try_from(97 + look * 3).ok()?;
                let turn = to_first[frame].then(&to_first[at].back());
                let (sx, sy) = turn.of(x, y);
                let (sx, sy) = (sx.round(), sy.round());
                let inside = sx >= 0.0 && sy >= 0.0 && sx < width as f64 && sy < height as f64;
                inside.then(|| pictures[at].row(sy as usize)[sx as usize])
            })
            .collect();
        seen.sort_unstable();
        if seen.len() >= 5 {
            known += 1;
            assert!((value - f32::from(seen[seen.len() / 2])).abs() < 1e-3, "{x} {y}: {value}");
        } else {
            unknown += 1;
            assert!(value.is_nan(), "{x} {y}: {value} of {}", seen.len());
        }
    }
    assert!(known > 700 && unknown > 100, "{known} {unknown}");
}

#[test]
fn halves_are_means_of_two_by_two() {
    for (width, height) in [(64, 48), (63, 47), (130, 1), (1, 5), (2, 2), (35, 34)] {
        let whole = grey(width, height, 5);
        let half = whole.half();
        assert_eq!((half.width, half.height), ((width / 2).max(1), (height / 2).max(1)));
        for (k, value) in half.pixels.iter().enumerate() {
            let (x, y) = (2 * (k % half.width), 2 * (k / half.width));
            let own =
                |x: usize, y: usize| u32::from(whole.row(y.min(height - 1))[x.min(width - 1)]);
            let sum = own(x, y) + own(x + 1, y) + own(x, y + 1) + own(x + 1, y + 1);
            assert_eq!(u32::from(*value), (sum + 2) / 4, "{width} x {height}: {k}");
        }
    }
}

#[test]
fn an_unrolled_picture_shows_what_the_flat_one_shows_there() {
    let (width, height) = (203, 90);
    let flat = grey(width, height, 11);
    let unrolled = Unrolled::new((width, height), 170.0);
    let round = unrolled.of(&flat);
    let mut worst = 0.0f64;
    for (k, value) in round.pixels.iter().enumerate() {
        let (x, y) = unrolled.back(((k % round.width) as f64, (k / round.width) as f64));
        let (x, y) = (x.clamp(0.0, 202.0 - 1e-9), y.clamp(0.0, 89.0 - 1e-9));
        let (ix, iy) = (x.floor(), y.floor());
        let own = |dx: usize, dy: usize| f64::from(flat.row(iy as usize + dy)[ix as usize + dx]);
        let (fx, fy) = (x - ix, y - iy);
        let above = own(0, 0) + fx * (own(1, 0) - own(0, 0));
        let below = own(0, 1) + fx * (own(1, 1) - own(0, 1));
        worst = worst.max((above + fy * (below - above) - f64::from(*value)).abs());
    }
    // Half a grey value to the nearest byte, and a little.
    assert!(worst < 0.6, "{worst}");
}

#[test]
fn a_picture_is_laid_over_another_to_hundredths_of_a_pixel() {
    let middle = (160.0, 90.0);
    for (dx, dy, grown, turned) in
        [(0.0, 0.0, 0.0, 0.0), (1.37, -0.81, 0.0, 0.0), (-2.2, 0.6, 0.004, 0.003)]
    {
        let (a, b) = (1.0 + grown, turned);
        let truth = Turn {
            a,
            b,
            dx: dx + middle.0 - (a * middle.0 - b * middle.1),
            dy: dy + middle.1 - (b * middle.0 + a * middle.1),
        };
        let (from, to) = (waves(320, 180, Turn::NONE), waves(320, 180, truth.back()));
        let found = Layers::of(from).to(&Layers::of(to), Turn::NONE, None);
        for (x, y) in [(20.0, 20.0), (300.0, 20.0), (20.0, 160.0), (300.0, 160.0), middle] {
            let ((fx, fy), (tx, ty)) = (found.turn.of(x, y), truth.of(x, y));
            assert!((fx - tx).hypot(fy - ty) < 0.02, "{truth:?}: {found:?}");
        }
        assert!(found.agreed > 0.95 && found.sd.0 < 0.02, "{found:?}");
    }
}

#[test]
fn a_shadow_is_lifted_as_each_value_is() {
    let (width, height) = (150, 6);
    let mut picture = grey(width, height, 21);
    let was = picture.clone();
    let behind = Background {
        frame: 0,
        room: (8, 4),
        width: width + 16,
        height: height + 8,
        values: noise((width + 16) * (height + 8), 4).into_iter().map(f32::from).collect(),
    };
    let shadow = Shadow { darkest: 0.55, usual: 0.6 };
    let turn = Turn { a: 1.001, b: 0.002, dx: -3.3, dy: 0.7 };
    shadow.lift(&mut picture, 1..5, &behind, &turn);
    let mut changed = 0;
    for (k, value) in picture.pixels.iter().enumerate() {
        let (x, y) = (k % width, k / width);
        let (bx, by) = turn.of(x as f64, y as f64);
        let lifted = shadow.lifted(f32::from(was.pixels[k]), behind.at(bx, by));
        let expected = if (1..5).contains(&y) { lifted } else { f32::from(was.pixels[k]) };
        assert!((expected - f32::from(*value)).abs() < 0.6, "{x} {y}: {value} for {expected}");
        changed += usize::from(*value != was.pixels[k]);
    }
    assert!(changed > 100, "{changed}");
}
