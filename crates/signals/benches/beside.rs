//! Beats and the camera's way beside general libraries, on the same files in the same run: how exact, how fast on a
//! core. Prints what is measured; `scripts/beside.py` measures the libraries.
//!
//! `make bench` installs the libraries into `target/beside` and starts this on one core.
#![allow(clippy::unwrap_used, reason = "a measurement that cannot go on has failed")]
#![allow(
    clippy::cast_precision_loss,
    clippy::cast_possible_truncation,
    clippy::cast_sign_loss,
    reason = "samples and frames of short clips"
)]

#[path = "../tests/common/mod.rs"]
#[allow(dead_code, reason = "the tests need more of it")]
mod common;

use std::fs;
use std::path::{Path, PathBuf};
use std::process::Command;
use std::time::Instant;

use common::{Going, Noise, RATE, scene};
use umlauf_signals::picture::grey::Grey;
use umlauf_signals::picture::horse::horses;
use umlauf_signals::picture::motion::Layers;
use umlauf_signals::picture::path::{self, Keys, path};
use umlauf_signals::picture::unrolled::{Unrolled, focal};
use umlauf_signals::sound::beats::beats;
use umlauf_synth::flat::conditions::Handling;
use umlauf_synth::flat::film::FlatFilm;
use umlauf_synth::watching::asked::{Asked, RIDDEN};

/// Frames a second of the films.
const FPS: f64 = 60.0;

/// Frames between those whose places are compared: 50 ms.
const STEP: usize = 3;

/// Best of so many runs, after one that is not counted.
const RUNS: usize = 3;

/// A beat is found within this, s.
const NEAR_S: f64 = 0.05;

fn best<T>(mut run: impl FnMut() -> T) -> (T, f64) {
    let mut out = run();
    let mut least = f64::INFINITY;
    for _ in 0..RUNS {
        let began = Instant::now();
        out = run();
        least = least.min(began.elapsed().as_secs_f64());
    }
    (out, least)
}

fn rms(errors: &[f64]) -> f64 {
    (errors.iter().map(|e| e * e).sum::<f64>() / errors.len().max(1) as f64).sqrt()
}

/// Twice what is found by all that are true and all that were told, and the errors of those found.
fn agreed(truth: &[f64], told: &[f64]) -> (f64, Vec<f64>) {
    let mut left = told.to_vec();
    let mut errors = vec![];
    for on in truth {
        let near = (0..left.len()).filter(|k| (left[*k] - on).abs() < NEAR_S);
        let apart = |k: &usize| (left[*k] - on).abs();
        if let Some(k) = near.min_by(|a, b| apart(a).total_cmp(&apart(b))) {
            errors.push(left.remove(k) - on);
        }
    }
    (2.0 * errors.len() as f64 / (truth.len() + told.len()) as f64, errors)
}

fn numbers(text: &str) -> Vec<f64> {
    text.split_whitespace().map(|n| n.parse().unwrap()).collect()
}

/// What the libraries make of a file: seconds on a core, then numbers.
fn library(python: &Path, what: &str, file: &Path, more: &[String]) -> (f64, Vec<f64>) {
    let script = Path::new(env!("CARGO_MANIFEST_DIR")).join("../../scripts/beside.py");
    let out = Command::new(python).arg(script).arg(what).arg(file).args(more).output().unwrap();
    assert!(out.status.success(), "{}", String::from_utf8_lossy(&out.stderr));
    let all = numbers(&String::from_utf8(out.stdout).unwrap());
    (all[0], all[1..].to_vec())
}

/// What was told of beats: F1 of each sound, seconds on a core, errors.
#[derive(Default)]
struct Told {
    f1: Vec<f64>,
    took: f64,
    errors: Vec<f64>,
}

impl Told {
    fn add(&mut self, truth: &[f64], told: &[f64], took: f64) {
        let (f1, errors) = agreed(truth, told);
        self.f1.push(f1);
        self.took += took;
        self.errors.extend(errors);
    }

    fn line(&self) -> String {
        let n = self.f1.len() as f64;
        let bias = self.errors.iter().sum::<f64>() / self.errors.len().max(1) as f64;
        format!(
            "{:6.3}  {:6.1}  {:+7.1}  {:11.4}",
            self.f1.iter().sum::<f64>() / n,
            1000.0 * rms(&self.errors),
            1000.0 * bias,
            self.took / n,
        )
    }
}

/// Samples from one look of librosa's to the next: its own choice, and a quarter of it.
const HOPS: [usize; 2] = [512, 128];

fn sounds(python: &Path, folder: &Path) {
    println!(
        "beats of 14 s of sound               F1  RMS ms  bias ms  s on a core   times as fast"
    );
    let heard = [Noise::Hiss, Noise::Wind, Noise::Notes, Noise::Speech].map(|noise| (noise, 10.0));
    for (noise, snr) in [(Noise::Hiss, 20.0)].into_iter().chain(heard) {
        let mut own = Told::default();
        let mut theirs = HOPS.map(|hop| (hop, Told::default()));
        for (k, going) in [Going::Walk, Going::Trot, Going::Canter].into_iter().enumerate() {
            let scene = scene(going, noise, snr, 9500 + k as u64);
            let file = folder.join("scene.f32");
            let bytes: Vec<u8> = scene.samples.iter().flat_map(|v| v.to_le_bytes()).collect();
            fs::write(&file, bytes).unwrap();
            let (heard, took) = best(|| beats(&scene.samples, RATE));
            let told: Vec<f64> = heard.beats.iter().map(|b| b.at_s).collect();
            own.add(&scene.beats, &told, took);
            for (hop, all) in &mut theirs {
                let more = [RATE.to_string(), hop.to_string()];
                let (took, told) = library(python, "beats", &file, &more);
                all.add(&scene.beats, &told, took);
            }
        }
        println!("{:<30} {}", format!("{noise:?}, {snr} dB"), own.line());
        for (hop, all) in theirs {
            let name = format!("  librosa, hop {hop}");
            println!("{name:<30} {}   {:13.1}", all.line(), all.took / own.took);
        }
    }
}

fn film(handling: Handling, seed: u64) -> FlatFilm {
    let ridden = RIDDEN[1];
    Asked { ridden, rate: FPS, handling, seed, hard: None, wraps: 0 }.film()
}

/// Errors of where the ground under the horse lies in a frame 50 ms later, pixels: `place` tells it.
fn errors(film: &FlatFilm, place: impl Fn(usize, f64, f64) -> (f64, f64)) -> Vec<f64> {
    let (wide, high) = (film.made.size.0 as f64, film.made.size.1 as f64);
    let mut out = vec![];
    for from in (0..film.frames() - STEP).step_by(STEP) {
        for x in [0.25, 0.5, 0.75] {
            let at = (x * wide, 0.78 * high);
            let truth = film.moved(from, from + STEP, at.0, at.1);
            let told = place(from, at.0, at.1);
            out.push((told.0 - truth.0).hypot(told.1 - truth.1));
        }
    }
    out.sort_by(f64::total_cmp);
    out
}

/// The camera's way as a look at a film finds it: roughly, on a cylinder where it turned, and with the horse left out.
fn way(pictures: &[Vec<u8>], (wide, high): (usize, usize)) -> (path::Path, Option<Unrolled>) {
    let grey = |p: &Vec<u8>| Grey::new(wide, high, p.clone()).unwrap();
    let flat: Vec<Layers> = pictures.iter().map(|p| Layers::of(grey(p))).collect();
    let keys = Keys::of(&flat, FPS);
    let mut rough = path(&flat, FPS, &keys, None);
    let unrolled = focal(&flat, FPS, &rough.to_first).map(|f| Unrolled::new((wide, high), f));
    let mut frames = flat;
    if let Some(unrolled) = &unrolled {
        frames = frames.into_iter().map(|f| Layers::of(unrolled.of(f.picture()))).collect();
        rough = path(&frames, FPS, &keys, None);
    }
    let horses = horses(&frames, FPS, &rough.to_first);
    let areas: Vec<_> = horses.iter().map(|h| h.map(|h| h.area)).collect();
    (path(&frames, FPS, &keys, Some(&areas)), unrolled)
}

fn cameras(python: &Path, folder: &Path) {
    println!(
        "\ncamera's way, 640 x 360, 60 frames/s; error over 50 ms\n                                      median px  RMS px  ms a frame  times as fast"
    );
    for (handling, seed) in [
        (Handling::Panning, 5604),
        (Handling::Panning, 5605),
        (Handling::Handheld, 5606),
        (Handling::Handheld, 5607),
    ] {
        let film = film(handling, seed);
        let (wide, high) = film.made.size;
        let pictures: Vec<Vec<u8>> = (0..film.frames()).map(|f| film.draw(f)).collect();
        let file = folder.join("film.grey");
        fs::write(&file, pictures.concat()).unwrap();
        let ((way, unrolled), took) = best(|| way(&pictures, (wide, high)));
        let own = errors(&film, |k, x, y| {
            let at = unrolled.as_ref().map_or((x, y), |u| u.onto((x, y)));
            let ground = way.to_first[k].of(at.0, at.1);
            let at = way.to_first[k + STEP].back().of(ground.0, ground.1);
            unrolled.as_ref().map_or(at, |u| u.back(at))
        });
        let size = [wide, high].map(|n| n.to_string());
        let (theirs_took, turns) = library(python, "camera", &file, &size);
        let theirs = errors(&film, |k, x, y| {
            turns[6 * k..6 * (k + STEP)]
                .chunks(6)
                .fold((x, y), |(x, y), t| (t[0] * x + t[1] * y + t[2], t[3] * x + t[4] * y + t[5]))
        });
        let line = |errors: &[f64], took: f64| {
            let middle = errors[errors.len() / 2];
            let ms = 1000.0 * took / (pictures.len() - 1) as f64;
            format!("{middle:9.3}  {:6.3}  {ms:10.2}", rms(errors))
        };
        println!("{:<37} {}", format!("{handling:?}, seed {seed}"), line(&own, took));
        println!("{:<37} {}   {:13.1}", "  OpenCV", line(&theirs, theirs_took), theirs_took / took);
    }
}

fn main() {
    let folder = PathBuf::from(env!("CARGO_MANIFEST_DIR")).join("../../target/beside");
    let python = folder.join("venv/bin/python");
    if !python.exists() {
        println!("librosa and OpenCV are not installed: `make bench` does that");
        return;
    }
    let cores = std::thread::available_parallelism().map_or(1, std::num::NonZero::get);
    println!(
        "on {cores} core{}; libraries on one",
        if cores == 1 { "" } else { "s: start it on one" }
    );
    sounds(&python, &folder);
    cameras(&python, &folder);
}
