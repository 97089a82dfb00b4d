//! Films for others, against what the synthetic horse knows of its rider.
#![allow(clippy::unwrap_used, reason = "a test that cannot go on has failed")]
#![allow(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "pixels of a picture")]

mod common;

use std::path::{Path, PathBuf};
use std::process::Command;
use std::sync::Arc;

use common::{footage, root};
use umlauf::app::App;
use umlauf::people::secret::secret;
use umlauf::share::film;
use umlauf_footage::frames::{GreySize, Pictures, Tones};
use umlauf_footage::probe::probe;
use umlauf_store::Store;
use umlauf_store::link::{Link, Shows};
use umlauf_store::person::Person;
use umlauf_store::yard::About;
use umlauf_synth::clips::DEMO;

const NAME: &str = "distel-trot";

/// A yard with one film of a rider.
async fn yard(folder: &Path) -> Arc<App> {
    let store = Store::open(folder, None).unwrap();
    let from = root().join(format!("demo/{NAME}.mp4"));
    let footage = footage('a');
    let at = store.footage_folder(&footage.content);
    std::fs::create_dir_all(&at).unwrap();
    // Two seconds of it are enough.
    let cut = Command::new("ffmpeg")
        .args(["-v", "error", "-i"])
        .arg(&from)
        .args(["-t", "2", "-c", "copy"])
        .arg(at.join("original.mp4"))
        .status();
    assert!(cut.unwrap().success());
    let probe = probe(&at.join("original.mp4")).await.unwrap();
    let horse = store.add_horse("Distel", None, false).unwrap().id;
    let session = store.add_session(horse, "2026-11-14", &About::default()).unwrap().id;
    store.add_clip(Some(session), NAME, &footage, &probe.frame_times).unwrap();
    App::new(store).unwrap()
}

fn link(app: &App, silent: bool, blurred: bool) -> Link {
    let (shows, ends_ms, author) =
        (Shows::Film { clip: 1, silent, blurred }, i64::MAX, Person::coach());
    let token = secret();
    let id = app.store.add_link(&token, shows, ends_ms, &author).unwrap();
    Link { id, shows, ends_ms, author }
}

/// Kinds of what is in a file, and all that is noted beside it.
fn holds(file: &Path) -> String {
    let args = ["-v", "error", "-show_entries", "stream=codec_type:format_tags:stream_tags", "-of"];
    let told = Command::new("ffprobe").args(args).arg("csv").arg(file).output().unwrap();
    String::from_utf8(told.stdout).unwrap()
}

/// All pictures in grey.
async fn pictures(file: &Path) -> (Vec<Vec<u8>>, usize) {
    let probe = probe(file).await.unwrap();
    let size = GreySize::new(probe.width, probe.height).unwrap();
    let all = 0..probe.frame_times.len();
    let mut read = Pictures::open(file, &probe.frame_times, all, size, Tones::Grey).unwrap();
    let mut out = vec![];
    while let Some(planes) = read.next().await.unwrap() {
        out.push(planes.grey.to_vec());
    }
    (out, probe.width as usize)
}

/// How much detail a square about a place has: mean size of the step from each pixel to the next.
fn detail(picture: &[u8], wide: usize, (x, y): (f64, f64), half: usize) -> f64 {
    let (x, y) = (x.round() as usize, y.round() as usize);
    let rows = y.saturating_sub(half)..(y + half).min(picture.len() / wide);
    let (from, to) = (x.saturating_sub(half), (x + half).min(wide));
    let steps = rows.flat_map(|r| {
        picture[r * wide + from..r * wide + to].windows(2).map(|p| f64::from(p[0].abs_diff(p[1])))
    });
    let (sum, n) = steps.fold((0.0, 0.0), |(sum, n), step| (sum + step, n + 1.0));
    sum / n
}

#[tokio::test]
async fn a_film_for_others_has_no_sound_and_no_face_where_that_was_asked_for() {
    let folder = tempfile::tempdir().unwrap();
    let app = yard(folder.path()).await;
    let original = app.store.footage_folder(&"a".repeat(64)).join("original.mp4");
    assert!(holds(&original).contains("audio"));
    let silent = film::film(&app, &link(&app, true, false)).await.unwrap();
    let hidden = film::film(&app, &link(&app, true, true)).await.unwrap();
    let with_sound = film::film(&app, &link(&app, false, true)).await.unwrap();
    for (file, sound) in [(&silent, false), (&hidden, false), (&with_sound, true)] {
        let told = holds(file);
        assert!(told.contains("video") && told.contains("audio") == sound, "{told}");
        assert!(!told.contains("creation_time") && !told.contains("location"), "{told}");
    }
    let truth = DEMO.iter().find(|c| c.name == NAME).unwrap().film();
    let ((before, wide), (after, _)) = (pictures(&original).await, pictures(&hidden).await);
    assert_eq!(before.len(), after.len());
    let high = before[0].len() / wide;
    let (mut heads, mut ground) = (vec![], vec![]);
    for (k, (a, b)) in before.iter().zip(&after).enumerate() {
        let Some(face) = truth.face(k).filter(|f| {
            let inside = |v: f64, most: usize| v > 20.0 && v + 20.0 < most as f64;
            inside(f.0, wide) && inside(f.1, high)
        }) else {
            continue;
        };
        let share = |at: (f64, f64), half: usize| {
            detail(b, wide, at, half) / detail(a, wide, at, half).max(0.1)
        };
        heads.push((k, share(face, 14)));
        ground.push(share((face.0, 0.72 * high as f64), 60));
    }
    let seen: Vec<&(usize, f64)> = heads.iter().filter(|(_, share)| *share > 0.4).collect();
    assert!(heads.len() > 150 && seen.is_empty(), "{} of {}: {seen:?}", seen.len(), heads.len());
    // The legs stay to be seen.
    ground.sort_by(f64::total_cmp);
    assert!(ground[ground.len() / 2] > 0.6, "{}", ground[ground.len() / 2]);
    // What a link had made for it goes with it.
    let left = |all: &[&PathBuf]| all.iter().filter(|f| f.exists()).count();
    let all = [&silent, &hidden, &with_sound];
    assert_eq!(left(&all), 3);
    app.store.end_link(2).unwrap();
    film::swept(&app.store, 0, false).unwrap();
    assert!(left(&all) == 2 && !hidden.exists());
    // What is half made is left to whoever makes it, until nobody does.
    let half = with_sound.with_file_name("3.part.mp4");
    std::fs::write(&half, "half").unwrap();
    film::swept(&app.store, 0, false).unwrap();
    assert!(half.exists());
    film::swept(&app.store, 0, true).unwrap();
    assert!(!half.exists() && left(&all) == 2);
    // What cannot be made says so, to whoever has the link, and nothing of this machine.
    let broken = link(&app, true, false);
    std::fs::write(&original, "no film").unwrap();
    assert!(film::film(&app, &broken).await.is_err());
    let film::State::Failed(why) = film::state(&app, &broken).await else { panic!("not failed") };
    assert!(!why.is_empty() && !why.contains(&*folder.path().to_string_lossy()), "{why}");
    // With the clip all of it goes.
    app.store.remove_clip(1, true).unwrap();
    app.store.purge_removed().unwrap();
    film::swept(&app.store, 0, false).unwrap();
    assert_eq!(left(&all), 0);
}
