//! Where a rider's head is, against flat films that know it.
#![allow(clippy::unwrap_used, reason = "a test that cannot go on has failed")]
#![allow(clippy::cast_possible_truncation, reason = "pixels of a picture")]

use umlauf_signals::picture::grey::Grey;
use umlauf_signals::picture::motion::Layers;
use umlauf_signals::picture::rider::heads;
use umlauf_synth::flat::conditions::Handling;
use umlauf_synth::watching::asked::{Asked, RIDDEN};

#[test]
fn a_head_is_held_in_every_frame_in_which_it_is_in_the_picture() {
    let films = [
        ("trot", Handling::Panning, 1_600_104),
        ("canter", Handling::Handheld, 1_600_108),
        ("stepping pace", Handling::Fixed, 1_600_124),
    ];
    let (mut seen, mut missed, mut unknown, mut share) = (0.0, 0.0, 0.0, 0.0);
    for (name, handling, seed) in films {
        let ridden = *RIDDEN.iter().find(|r| r.name == name).unwrap();
        let film = Asked { ridden, rate: 30.0, handling, seed, hard: None, wraps: 0 }.film();
        let (w, h) = film.made.size;
        let drawn = |f: usize| Layers::of(Grey::new(w, h, film.draw(f)).unwrap());
        let frames: Vec<Layers> = (0..film.frames()).map(drawn).collect();
        for (f, part) in heads(&frames, film.made.rate).into_iter().enumerate() {
            let (x, y) = film.head(f);
            if x < 0.0 || y < 0.0 || x >= w as f64 || y >= h as f64 {
                continue;
            }
            seen += 1.0;
            let Some(part) = part else {
                unknown += 1.0;
                continue;
            };
            // The whole head, which is 0.15 of the withers' height.
            let r = 0.08 * film.made.withers_px;
            let corner = |dx: f64, dy: f64| part.holds((x + dx * r) as f32, (y + dy * r) as f32);
            let held = corner(-1.0, -1.0) && corner(1.0, 1.0);
            missed += f64::from(u8::from(!held));
            share +=
                f64::from((part.right - part.left) * (part.bottom - part.top)) / (w * h) as f64;
        }
    }
    let told =
        format!("{missed} missed and {unknown} unknown of {seen}, {:.3} hidden", share / seen);
    assert!(seen > 300.0 && missed <= 0.005 * seen && unknown <= 0.05 * seen, "{told}");
    // What is hidden is a part of the picture, not all of it.
    assert!(share / seen < 0.3, "{told}");
}
