//! A season at Watthof, invented: twelve sessions of five horses, each with a story of its own,
//! ridden by the synthetic horse and kept as tables without footage.
//!
//! - **Priel**, young: finds its balance; the trot's rhythm steadies from session to session.
//! - **Bernsteen**, schoolmaster: the third of five four-tempi comes late behind in autumn, then all
//!   five are clean.
//! - **Distel** comes back from a lay-off of seven weeks: shorter strides and a slower canter after
//!   it, and back by the end.
//! - **Queller**, a gaited mare: slips from flat walk to stepping pace, more often as weeks go by.
//! - **Tinne**: the left rein lags; its strides are shorter and less regular than on the right.

use anyhow::Result;
use rand::{Rng, SeedableRng};
use rand_chacha::ChaCha8Rng;
use umlauf_gait::Footfall;
use umlauf_gait::limb::{Limb, Side};
use umlauf_store::Store;
use umlauf_store::clip::Settings;
use umlauf_store::marks::Mark;
use umlauf_store::ride::TableRide;
use umlauf_store::tag::Tag;
use umlauf_store::yard::About;
use umlauf_synth::schooling::{self, Marking};
use umlauf_synth::template::{TEMPLATES, Template};
use umlauf_synth::truth::{Ride, Truth, normal};

use crate::calibration::{BarClick, Calibration};
use crate::desk::Pixel;
use crate::tags::{Ridden, What};

/// Frames per second of the season's films.
const RATE: f64 = 120.0;
/// Pixels of a metre along the track.
const PX_PER_M: f64 = 100.0;
/// Sessions of a horse.
const SESSIONS: u32 = 12;

/// One bout of a session.
struct Bout {
    template: Template,
    /// Gait and variant in the coach's words.
    gait: &'static str,
    variant: Option<&'static str>,
    movement: &'static str,
    strides: usize,
    stride_cv: f64,
    rein: Side,
    /// Leads stride by stride, for a canter with changes.
    leads: Option<Vec<(Side, Side)>>,
}

/// A horse's story: days of its sessions before the last, and what is ridden in each.
struct Story {
    horse: &'static str,
    withers_m: f64,
    gaited: bool,
    /// Days before the last session, first to last.
    days: fn(u32) -> i64,
    bouts: fn(u32, &mut ChaCha8Rng) -> Vec<Bout>,
    note: &'static str,
}

/// The last session of the season.
const LAST: &str = "2026-11-21";

const STORIES: &[Story] = &[
    Story {
        horse: "Priel",
        withers_m: 1.68,
        gaited: false,
        days: weekly,
        bouts: young,
        note: "Young horse: trot on both reins, straight lines.",
    },
    Story {
        horse: "Bernsteen",
        withers_m: 1.70,
        gaited: false,
        days: weekly,
        bouts: schoolmaster,
        note: "Canter, then five changes every fourth stride on the diagonal.",
    },
    Story {
        horse: "Distel",
        withers_m: 1.62,
        gaited: false,
        days: with_lay_off,
        bouts: returning,
        note: "Trot and canter, both reins.",
    },
    Story {
        horse: "Queller",
        withers_m: 1.52,
        gaited: true,
        days: weekly,
        bouts: gaited,
        note: "Flat walk on long lines.",
    },
    Story {
        horse: "Tinne",
        withers_m: 1.64,
        gaited: false,
        days: weekly,
        bouts: left_lags,
        note: "Working trot, both reins.",
    },
];

fn weekly(k: u32) -> i64 {
    7 * i64::from(SESSIONS - 1 - k)
}

/// Seven weeks without work after the fifth session.
fn with_lay_off(k: u32) -> i64 {
    weekly(k) + if k < 5 { 42 } else { 0 }
}

fn template(name: &str) -> Template {
    Template::named(name).copied().unwrap_or(TEMPLATES[0])
}

/// A template as this horse goes it today: tempo and stride length times something, with what
/// differs from bout to bout.
fn today(name: &str, tempo: f64, length: f64, rng: &mut ChaCha8Rng) -> Template {
    let t = template(name);
    let stride_s = t.stride_s / tempo / (1.0 + 0.010 * normal(rng));
    let length = t.stride_length() * length * (1.0 + 0.015 * normal(rng));
    Template { stride_s, speed: length / stride_s, ..t }
}

fn bout(template: Template, gait: &'static str, rein: Side, strides: usize, cv: f64) -> Bout {
    Bout {
        template,
        gait,
        variant: (gait == "trot" || gait == "canter").then_some("working"),
        movement: "straight",
        strides,
        stride_cv: cv,
        rein,
        leads: None,
    }
}

const REINS: [Side; 2] = [Side::Left, Side::Right];

/// Three trots a rein; the spread of stride durations falls from 5.5 to 1.8 %.
fn young(k: u32, rng: &mut ChaCha8Rng) -> Vec<Bout> {
    let share = f64::from(k) / f64::from(SESSIONS - 1);
    let cv = 0.055 - 0.037 * share;
    let each = |rein: Side, rng: &mut ChaCha8Rng| {
        bout(today("trot", 1.0, 0.96, rng), "trot", rein, 16, cv)
    };
    REINS.iter().flat_map(|r| [*r; 3]).map(|r| each(r, rng)).collect()
}

/// A canter a rein, and five four-tempi; until the seventh session the third is late behind.
fn schoolmaster(k: u32, rng: &mut ChaCha8Rng) -> Vec<Bout> {
    let mut out: Vec<Bout> = REINS
        .iter()
        .flat_map(|r| [*r; 2])
        .map(|r| bout(today("canter", 1.0, 1.0, rng), "canter", r, 14, 0.014))
        .collect();
    let mut leads = Vec::new();
    for change in 0..=5u32 {
        let lead = if change % 2 == 0 { Side::Left } else { Side::Right };
        let late = change == 3 && k < 7;
        let strides = if change == 0 || change == 5 { 5 } else { 4 };
        for s in 0..strides {
            let hind = if late && s == 0 { lead.opposite() } else { lead };
            leads.push((hind, lead));
        }
    }
    out.push(Bout {
        movement: "tempi-4x5",
        variant: None,
        strides: leads.len(),
        leads: Some(leads),
        ..bout(today("canter", 1.0, 1.0, rng), "canter", Side::Left, 0, 0.010)
    });
    out
}

/// Trot and canter a rein; after the pause 9 % shorter and the canter 4 % slower, then back.
fn returning(k: u32, rng: &mut ChaCha8Rng) -> Vec<Bout> {
    let weak = if k < 5 { 0.0 } else { (1.0 - f64::from(k - 5) / 5.0).max(0.0) };
    let length = 1.0 - 0.09 * weak;
    let mut out = Vec::new();
    for rein in REINS {
        for _ in 0..2 {
            out.push(bout(today("trot", 1.0, length, rng), "trot", rein, 14, 0.016));
            let mut canter = today("canter", 1.0 - 0.04 * weak, length, rng);
            canter.duty += 0.02 * weak;
            out.push(bout(canter, "canter", rein, 14, 0.018));
        }
    }
    out
}

/// Four stretches of walk; in the later weeks some of them slip to stepping pace.
fn gaited(k: u32, rng: &mut ChaCha8Rng) -> Vec<Bout> {
    let slips = [0, 0, 0, 1, 0, 1, 1, 2, 1, 2, 2, 3][k as usize % 12];
    (0..4)
        .map(|n| {
            let name = if n < slips { "stepping-pace" } else { "flat-walk" };
            let rein = REINS[n % 2];
            Bout {
                variant: None,
                movement: "straight",
                ..bout(today(name, 1.0, 1.0, rng), "", rein, 14, 0.015)
            }
        })
        .collect()
}

/// Three trots a rein; on the left 6 % shorter and with twice the spread.
fn left_lags(_: u32, rng: &mut ChaCha8Rng) -> Vec<Bout> {
    let each = |rein: Side, rng: &mut ChaCha8Rng| {
        let (length, cv) = if rein == Side::Left { (0.95, 0.034) } else { (1.01, 0.016) };
        bout(today("trot", 1.0, length, rng), "trot", rein, 16, cv)
    };
    REINS.iter().flat_map(|r| [*r; 3]).map(|r| each(r, rng)).collect()
}

/// Puts the season into the yard; horses that are there already keep their numbers.
///
/// # Errors
/// What the store meets.
pub fn fill(store: &Store) -> Result<()> {
    let last: jiff::civil::Date = LAST.parse()?;
    let mut rides = Vec::new();
    for (n, story) in STORIES.iter().enumerate() {
        let known = store.horses()?.into_iter().find(|h| h.name == story.horse);
        let horse = match known {
            Some(horse) => horse,
            None => store.add_horse(story.horse, Some(story.withers_m), story.gaited)?,
        };
        for k in 0..SESSIONS {
            let mut rng = ChaCha8Rng::seed_from_u64(2600 + 100 * n as u64 + u64::from(k));
            let date = last.saturating_sub(jiff::Span::new().days((story.days)(k)));
            let about = About {
                note: story.note.to_owned(),
                rider: "Wiebke".to_owned(),
                arena: "outdoor 20×60".to_owned(),
                surface: if k % 3 == 2 { "damp sand" } else { "dry sand" }.to_owned(),
                ..About::default()
            };
            let session = store.add_session(horse.id, &date.to_string(), &about)?;
            let bouts = (story.bouts)(k, &mut rng);
            for rein in REINS {
                let own: Vec<&Bout> = bouts.iter().filter(|b| b.rein == rein).collect();
                if !own.is_empty() {
                    rides.push(ride(session.id, rein, &own, &mut rng)?);
                }
            }
        }
    }
    store.add_table_rides(&rides)?;
    Ok(())
}

/// The bouts of one rein in a row, a few seconds apart.
fn ride(session: i64, rein: Side, bouts: &[&Bout], rng: &mut ChaCha8Rng) -> Result<TableRide> {
    let (mut marks, mut tags) = (Vec::new(), Vec::new());
    let mut from = 1.0;
    let mut along = 0.0;
    for (k, b) in bouts.iter().enumerate() {
        let footfalls = match &b.leads {
            Some(leads) => {
                let marking = Marking {
                    rate: RATE,
                    jitter: 0.002,
                    missing: 0.0,
                    mislabel: false,
                    stride_cv: b.stride_cv,
                    serial: 0.2,
                    drift: 0.0,
                };
                let ridden = schooling::ride(b.template, leads, &marking, rng);
                let first = ridden.marks.iter().map(|m| m.on.0).fold(f64::MAX, f64::min);
                ridden.marks.into_iter().map(|m| moved(m, from - first)).collect()
            }
            None => {
                let truth = Truth::new(Ride {
                    template: on_lead(b),
                    strides: b.strides,
                    seed: rng.random(),
                    stride_cv: b.stride_cv,
                    serial: 0.2,
                    phase_sd: 0.006,
                    duty_sd: 0.006,
                    withers: 1.65,
                    rein: Side::Left,
                    from_y: along,
                    line_x: 18.6,
                    changes: &[],
                    then: None,
                });
                let read = truth.read_off(RATE, 0.0);
                read.into_iter().map(|m| moved(m, from)).collect::<Vec<Footfall>>()
            }
        };
        let end = footfalls.iter().map(|f| f.off.map_or(f.on.0, |o| o.0)).fold(from, f64::max);
        let what = What::Ridden(Ridden {
            gait: (!b.gait.is_empty()).then(|| b.gait.to_owned()),
            variant: b.variant.map(str::to_owned),
            rein: Some(rein.word().to_owned()),
            lead: (b.gait == "canter" && b.leads.is_none()).then(|| rein.word().to_owned()),
            movement: Some(b.movement.to_owned()),
            ..Ridden::default()
        });
        tags.push(Tag {
            id: format!("ridden{k}"),
            from_us: micros(from - 0.3),
            to_us: Some(micros(end + 0.3)),
            what: serde_json::to_string(&what)?,
        });
        for f in footfalls {
            let hoof = f.at.map(|at| (at.y.0 * PX_PER_M, 5.0));
            let id = format!("m{}", marks.len());
            let (on_us, off_us) = (micros(f.on.0), f.off.map(|o| micros(o.0)));
            marks.push(Mark { id, limb: f.limb, on_us, off_us, tap_rate: None, hoof });
        }
        along += 5.0;
        from = end + 4.0;
    }
    let calibration = Calibration {
        bar: [0.0, 40.0]
            .iter()
            .map(|m| BarClick { at_m: *m, seen: Pixel { x_px: m * PX_PER_M, y_px: 5.0 } })
            .collect(),
        ..Calibration::default()
    };
    let settings = Settings {
        rein: Some(rein.word().to_owned()),
        calibration: Some(serde_json::to_value(&calibration)?),
        ..Settings::default()
    };
    #[expect(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "a few minutes")]
    let frames = (from * RATE) as u32;
    let text = serde_json::to_vec(&settings)?;
    let mut hash = blake3::Hasher::new();
    hash.update(&text);
    for m in &marks {
        hash.update(&m.on_us.to_le_bytes());
    }
    Ok(TableRide {
        session,
        name: format!("{} rein", rein.word()),
        content: hash.finalize().to_hex().to_string(),
        frame_times: (0..frames).map(|k| micros(f64::from(k) / RATE)).collect(),
        frame_rate: RATE,
        settings,
        marks,
        tags,
    })
}

/// Canters are drawn on the left lead; on the right rein the sides change.
fn on_lead(b: &Bout) -> Template {
    let mut t = b.template;
    if b.gait == "canter" && b.rein == Side::Right {
        t.phases = Limb::ALL.map(|l| b.template.phases[l.opposite().index()]);
    }
    t
}

fn moved(f: Footfall, by: f64) -> Footfall {
    use umlauf_gait::units::Seconds;
    Footfall { on: Seconds(f.on.0 + by), off: f.off.map(|o| Seconds(o.0 + by)), ..f }
}

fn micros(s: f64) -> i64 {
    #[expect(clippy::cast_possible_truncation, reason = "a few minutes")]
    let us = (s * 1e6).round() as i64;
    us
}
