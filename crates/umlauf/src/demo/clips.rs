//! The demo's clips, marked and clicked from the synthetic horse's own truth.

use std::sync::Arc;

use anyhow::{Context as _, Result, ensure};
use rust_embed::RustEmbed;
use umlauf_gait::marks::footfall_csv;
use umlauf_store::clip::Settings;
use umlauf_store::marks::{Change, Mark};
use umlauf_store::origin::Origin;
use umlauf_store::person::Person;
use umlauf_store::tag::TagChange;
use umlauf_store::yard::About;
use umlauf_synth::camera::Seen;
use umlauf_synth::clips::{CONES, DEMO};
use umlauf_synth::film::Film;
use umlauf_synth::vec3::v3;

use crate::app::App;
use crate::clip::calibration::{Calibration, GroundPointClick};
use crate::clip::picture::Pixel;
use crate::clip::tag::{Ridden, Tag, TagEdit, What};
use crate::intake::take;

#[derive(RustEmbed)]
#[folder = "../../demo"]
struct Files;

pub(super) struct DemoClip {
    horse: &'static str,
    withers_m: f64,
    date: &'static str,
    note: &'static str,
    pub(crate) file: &'static str,
    rein: &'static str,
    asked_lead: Option<&'static str>,
    /// Whether it is shown timed, from its truth table read off frame by frame.
    timed: bool,
    /// Whether its cones and hooves are shown clicked.
    clicked: bool,
}

pub(super) const CLIPS: &[DemoClip] = &[
    DemoClip {
        horse: "Kiebitz",
        withers_m: 1.66,
        date: "2026-11-12",
        note: "Medium walk, right rein, long side.",
        file: "kiebitz-walk",
        rein: "right",
        asked_lead: None,
        timed: true,
        clicked: false,
    },
    DemoClip {
        horse: "Distel",
        withers_m: 1.62,
        date: "2026-11-14",
        note: "Working trot, left rein.",
        file: "distel-trot",
        rein: "left",
        asked_lead: None,
        timed: false,
        clicked: false,
    },
    DemoClip {
        horse: "Priel",
        withers_m: 1.68,
        date: "2026-11-14",
        note: "Collected canter, left rein. Is the diagonal still together?",
        file: "priel-canter",
        rein: "left",
        asked_lead: Some("left"),
        timed: false,
        clicked: false,
    },
    DemoClip {
        horse: "Bernsteen",
        withers_m: 1.70,
        date: "2026-11-16",
        note: "Flying changes on the long side, every four strides. Is the second one late?",
        file: "bernsteen-changes",
        rein: "left",
        asked_lead: None,
        timed: false,
        clicked: false,
    },
    DemoClip {
        horse: "Tinne",
        withers_m: 1.64,
        date: "2026-11-18",
        note: "Working trot, then lengthened past the cones. Longer, or only quicker?",
        file: "tinne-lengthening",
        rein: "left",
        asked_lead: None,
        timed: true,
        clicked: true,
    },
];

pub(super) async fn add(app: &Arc<App>, demo: &DemoClip) -> Result<()> {
    let store = &app.store;
    let horse = store.add_horse(demo.horse, Some(demo.withers_m), false)?;
    let about = About {
        note: demo.note.to_owned(),
        rider: "Wiebke".to_owned(),
        arena: "outdoor 20×60".to_owned(),
        surface: "dry sand".to_owned(),
        ..About::default()
    };
    let session = store.add_session(horse.id, demo.date, &about)?;
    let name = format!("{}.mp4", demo.file);
    let video = Files::get(&name).context("the clip was not built into this program")?;
    let incoming = store.incoming_folder().join(&name);
    tokio::fs::write(&incoming, &video.data).await?;
    let id = take::take_in(app, Some(session.id), &name, &incoming).await?.clip();
    let settings = Settings {
        rein: Some(demo.rein.to_owned()),
        asked_lead: demo.asked_lead.map(str::to_owned),
        ..Settings::default()
    };
    store.set_settings(id, &settings)?;
    if demo.timed {
        let table = Files::get(&format!("{}.footfalls.csv", demo.file))
            .context("the clip's footfalls were not built into this program")?;
        let frames = store.frame_times(id)?;
        let mut changes = marks(&table.data, &frames)?;
        if demo.clicked {
            let settings = Settings { calibration: Some(cones(demo.file)?), ..settings };
            store.set_settings(id, &settings)?;
            click(demo.file, &mut changes)?;
        }
        store.edit_all(id, "demo", &Person::coach(), &changes, &ridden(demo.file)?)?;
    }
    Ok(())
}

/// Marks as a person steps them off: the first frame of contact and the first frame clear.
fn marks(table: &[u8], frames: &[i64]) -> Result<Vec<Change>> {
    let table = footfall_csv::read(table)?;
    let first_frame_from = |s: f64| {
        let k = frames.partition_point(|t| micros(s) > *t);
        frames.get(k).copied()
    };
    Ok(table
        .footfalls
        .iter()
        .enumerate()
        .filter_map(|(k, f)| {
            let on_us = first_frame_from(f.on.0)?;
            let off_us = f.off.and_then(|off| first_frame_from(off.0));
            let id = format!("demo{k}");
            let mark = Mark {
                id,
                limb: f.limb,
                on_us,
                off_us,
                origin: Origin::Stepped,
                author: Person::coach(),
                hoof: None,
            };
            Some(Change { before: None, after: Some(mark) })
        })
        .collect())
}

/// The clip's film: its camera stands still.
fn film(name: &str) -> Result<Film> {
    let clip = DEMO.iter().find(|c| c.name == name).context("there is no such demo clip")?;
    Ok(clip.film())
}

/// What was ridden from when to when, where a clip goes forward or back.
fn ridden(name: &str) -> Result<Vec<TagChange>> {
    let clip = DEMO.iter().find(|c| c.name == name).context("there is no such demo clip")?;
    let Some((stride, then)) = clip.then else { return Ok(Vec::new()) };
    let film = clip.film();
    let late = film.shot.margin_s;
    let turn = film.truth.starts.get(stride + 1).context("the ride is too short")? + late;
    let parts = [
        (0.0, turn, "working"),
        (turn, film.truth.duration() + 2.0 * late, then.strip_prefix("trot-").unwrap_or(then)),
    ];
    parts
        .iter()
        .map(|(from, to, variant)| {
            let what = What::Ridden(Ridden {
                gait: Some("trot".to_owned()),
                variant: Some((*variant).to_owned()),
                rein: Some(clip.rein.word().to_owned()),
                movement: Some("straight".to_owned()),
                ..Ridden::default()
            });
            let (from_us, to_us) = (micros(*from), Some(micros(*to)));
            let id = format!("ridden-{variant}");
            let edit = TagEdit { before: None, after: Some(Tag { id, from_us, to_us, what }) };
            Ok(edit.stored()?)
        })
        .collect()
}

/// A click as a careful hand makes it, to half a pixel.
fn clicked(seen: Seen) -> (f64, f64) {
    ((seen.x * 2.0).round() / 2.0, (seen.y * 2.0).round() / 2.0)
}

/// The cones of a clip, clicked.
fn cones(name: &str) -> Result<serde_json::Value> {
    let camera = film(name)?.camera(0);
    let mut points = Vec::new();
    for (k, &(x_m, y_m)) in CONES.iter().enumerate() {
        let seen = camera.see(v3(x_m, y_m, 0.0)).context("a cone stands behind the camera")?;
        let (x_px, y_px) = clicked(seen);
        let seen = Pixel { x_px, y_px };
        points.push(GroundPointClick { name: format!("cone {}", k + 1), x_m, y_m, seen });
    }
    Ok(serde_json::to_value(Calibration { points, ..Calibration::default() })?)
}

/// Clicks the hooves of marks, in the order of the clip's truth table.
fn click(name: &str, changes: &mut [Change]) -> Result<()> {
    let film = film(name)?;
    let camera = film.camera(0);
    for (change, footfall) in changes.iter_mut().zip(film.truth.footfalls()) {
        let mark = change.after.as_mut().context("a mark is missing")?;
        ensure!(mark.limb == footfall.limb, "the table is not this clip's");
        let seen = footfall.at.and_then(|at| camera.see(v3(at.x.0, at.y.0, 0.0)));
        mark.hoof = seen.map(clicked);
    }
    Ok(())
}

fn micros(s: f64) -> i64 {
    #[expect(clippy::cast_possible_truncation, reason = "a short clip")]
    let us = (s * 1e6).round() as i64;
    us
}
