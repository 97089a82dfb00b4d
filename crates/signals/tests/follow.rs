//! Hooves that are shown by a click, and what is found about them where nothing was found by itself.
#![allow(clippy::unwrap_used, reason = "a test that cannot go on has failed")]
#![allow(clippy::cast_precision_loss, clippy::cast_possible_truncation, clippy::cast_sign_loss)]

use umlauf_gait::base::limb::Limb;
use umlauf_signals::picture::background::Background;
use umlauf_signals::picture::candidate::Candidate;
use umlauf_signals::picture::follow::{Click, Followed};
use umlauf_signals::picture::going::Going;
use umlauf_signals::picture::grey::Grey;
use umlauf_signals::picture::hoof::Looks;
use umlauf_signals::picture::horse::horses;
use umlauf_signals::picture::lit::lift_shadows;
use umlauf_signals::picture::may::May;
use umlauf_signals::picture::motion::Layers;
use umlauf_signals::picture::path::Path;
use umlauf_signals::picture::turn::Turn;
use umlauf_signals::picture::watch::layers;
use umlauf_synth::flat::conditions::Handling;
use umlauf_synth::flat::film::{FlatFilm, MARGIN_S};
use umlauf_synth::watching::asked::{Asked, RIDDEN};

const RATE: f64 = 60.0;

/// A trot before a camera that stands still.
fn film() -> FlatFilm {
    let ridden = *RIDDEN.iter().find(|r| r.name == "trot").unwrap();
    let handling = Handling::Fixed;
    Asked { ridden, rate: RATE, handling, seed: 1_300_015, hard: None, wraps: 0 }.film()
}

/// A stance that lies whole in the picture.
struct Stance {
    limb: Limb,
    /// On and off, frames.
    times: [f64; 2],
    /// The frame in its middle, and where it stands there.
    middle: usize,
    at: (f64, f64),
}

fn stances(film: &FlatFilm) -> Vec<Stance> {
    let wide = film.made.size.0 as f64;
    let all = Limb::ALL.into_iter().flat_map(|limb| {
        film.truth.stances[limb.index()].iter().map(move |s| {
            let times = [s.on, s.off].map(|t| (t + MARGIN_S) * RATE);
            let middle = (0.5 * (times[0] + times[1])).max(0.0) as usize;
            Stance { limb, times, middle, at: film.stands(middle, limb, s.along) }
        })
    });
    let inside = |t: &[f64; 2]| t[0] > 0.4 * RATE && t[1] < film.frames() as f64 - 0.15 * RATE;
    all.filter(|s| inside(&s.times) && (30.0..wide - 30.0).contains(&s.at.0)).collect()
}

/// What is found about clicks alone.
fn followed(film: &FlatFilm, clicks: &[Click]) -> Vec<Candidate> {
    let (width, height) = film.made.size;
    let pictures = (0..film.frames()).filter_map(|f| Grey::new(width, height, film.draw(f)));
    let mut frames: Vec<Layers> = layers(pictures);
    let to_first = vec![Turn::NONE; frames.len()];
    let way = Path { to_first, sd: vec![0.0; frames.len()], rate: RATE, step: 1 };
    let found = horses(&frames, RATE, &way.to_first);
    let mut horse = Going::of(&found, &way, (width as f64, height as f64)).unwrap();
    let middle = frames.len() / 2;
    let picture = |f: usize| frames[f].picture();
    let behind = Background::about(middle, (0, 0), 0..height, RATE, &way.to_first, picture);
    let _ = lift_shadows(&mut frames, &way, &mut horse, RATE, |_| &behind);
    let picture = |f: usize| frames[f].picture();
    let looks = Looks {
        rate: RATE,
        to_first: &way.to_first,
        picture: &picture,
        behind: &|_| &behind,
        height: horse.height,
        rightward: horse.rightward,
    };
    let ground = |x: f64| horse.row(x);
    let mut out = vec![];
    Followed { looks: &looks, body: &horse.body, ground: &ground }.add(&mut out, clicks);
    out
}

#[test]
fn one_click_a_limb_finds_the_others_of_its_girdle() {
    let film = film();
    let all = stances(&film);
    // The second of each limb, and a little beside its toe.
    let clicks: Vec<Click> = Limb::ALL
        .into_iter()
        .filter_map(|limb| all.iter().filter(|s| s.limb == limb).nth(1))
        .map(|s| Click { limb: s.limb, frame: s.middle, at: (s.at.0 - 2.0, s.at.1 - 3.0) })
        .collect();
    assert_eq!(clicks.len(), 4);
    let found = followed(&film, &clicks);
    let on = |c: &Candidate| c.contact.map(|c| c.on);
    let near = |c: &Candidate, of: &[f64; 2]| on(c).is_some_and(|on| (on - of[0]).abs() < 1.5);
    let right = all.iter().filter(|s| found.iter().any(|c| near(c, &s.times))).count();
    assert!(100 * right >= 90 * all.len(), "{right} of {}", all.len());
    let ridden = film.truth.stances.iter().flatten().map(|s| (s.on + MARGIN_S) * RATE);
    let ridden: Vec<f64> = ridden.collect();
    let is_one = |at: f64| ridden.iter().any(|on| (at - on).abs() < 1.5);
    let made_up = found.iter().filter_map(on).filter(|at| !is_one(*at)).count();
    assert!(made_up <= 1, "{made_up} made up");
    // Those that were clicked are whose it was said.
    for click in &clicks {
        let own = found.iter().find(|c| c.may == May::only(click.limb)).unwrap();
        assert!((own.stroke.from..=own.stroke.to).contains(&click.frame), "{click:?}");
    }
}

#[test]
fn a_click_on_bare_ground_finds_nothing() {
    let film = film();
    let Stance { limb, middle: frame, at, .. } = stances(&film).remove(0);
    let aside = if at.0 > 320.0 { -250.0 } else { 250.0 };
    let beside = Click { limb, frame, at: (at.0 + aside, at.1) };
    assert!(followed(&film, &[beside]).is_empty());
    // Nor does one after the film's end.
    assert!(followed(&film, &[Click { limb, frame: film.frames() + 5, at }]).is_empty());
}
