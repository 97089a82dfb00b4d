//! A canter of a horse that wears four wraps, drawn in colour and encoded.
#![allow(clippy::unwrap_used, reason = "a test that cannot go on has failed")]

use std::io::Write as _;
use std::path::Path;
use std::process::{Command, Stdio};

use umlauf_gait::base::limb::Limb;
use umlauf_synth::flat::conditions::Handling;
use umlauf_synth::flat::film::{FlatFilm, MARGIN_S};
use umlauf_synth::watching::asked::{Asked, RIDDEN, Ridden};

pub const RATE: f64 = 60.0;

/// The film, of a seed that belongs to tests.
pub fn film() -> FlatFilm {
    let ridden = Ridden { strides: 5, ..*RIDDEN.iter().find(|r| r.name == "canter").unwrap() };
    let seed = 1_300_003;
    Asked { ridden, rate: RATE, handling: Handling::Panning, seed, hard: None, wraps: 4 }.film()
}

/// A moment in which a limb stands, s of the film, and where its wrap is then, pixels.
pub fn click(film: &FlatFilm, limb: Limb) -> (f64, f64, f64) {
    let stance = film.truth.stances[limb.index()][2];
    let at = f64::midpoint(stance.on, stance.off) + MARGIN_S;
    #[expect(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "a frame")]
    let (x, y) = film.wrap((at * RATE) as usize, limb).unwrap();
    (at, x, y)
}

/// The same of its hoof.
pub fn hoof(film: &FlatFilm, limb: Limb) -> (f64, f64, f64) {
    let stance = film.truth.stances[limb.index()][2];
    let at = f64::midpoint(stance.on, stance.off) + MARGIN_S;
    #[expect(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "a frame")]
    let (x, y) = film.stands((at * RATE) as usize, limb, stance.along);
    (at, x, y)
}

/// Writes it as a phone does.
pub fn encode(film: &FlatFilm, into: &Path) {
    let (w, h) = film.made.size;
    let mut ffmpeg = Command::new("ffmpeg")
        .args(["-v", "error", "-y", "-f", "rawvideo", "-pix_fmt", "yuvj420p"])
        .args(["-s", &format!("{w}x{h}"), "-r", "60", "-i", "-"])
        .args(["-vf", "scale=out_range=tv,format=yuv420p", "-c:v", "libx264", "-crf", "23"])
        .arg(into)
        .stdin(Stdio::piped())
        .spawn()
        .unwrap();
    let mut to = ffmpeg.stdin.take().unwrap();
    let all: Vec<usize> = (0..film.frames()).collect();
    for pair in all.chunks(2) {
        let drawn: Vec<_> = std::thread::scope(|scope| {
            let own: Vec<_> =
                pair.iter().map(|f| scope.spawn(move || film.draw_coloured(*f))).collect();
            own.into_iter().map(|own| own.join().unwrap()).collect()
        });
        for (grey, blue, red) in drawn {
            [grey, blue, red].iter().for_each(|plane| to.write_all(plane).unwrap());
        }
    }
    drop(to);
    assert!(ffmpeg.wait().unwrap().success());
}
