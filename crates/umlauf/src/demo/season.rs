//! A season at Watthof, invented: twelve sessions of five horses, each with a story of its own,
//! ridden by the synthetic horse and kept as tables without footage.
//!
//! - **Priel**, young: finds its balance; the trot's rhythm steadies from session to session, and it
//!   answers the aid to trot sooner.
//! - **Bernsteen**, schoolmaster: the third of five four-tempi comes late behind in autumn, then all
//!   five are clean.
//! - **Distel** comes back from a lay-off of seven weeks: shorter strides and a slower canter after
//!   it, and back by the end.
//! - **Queller**, a gaited mare: slips from flat walk to stepping pace, more often as weeks go by.
//! - **Tinne**: the left rein lags; its strides are shorter and less regular than on the right, and
//!   in the last four sessions it loses the tempo in shoulder-in.

use crate::demo::cards;
use crate::demo::stories::{self, REINS, STORIES, StoryBout};
use anyhow::Result;
use rand::{Rng as _, SeedableRng as _};
use rand_chacha::ChaCha8Rng;
use umlauf_gait::Footfall;
use umlauf_gait::base::limb::{Limb, Side};
use umlauf_store::Store;
use umlauf_store::clip::Settings;
use umlauf_store::marks::Mark;
use umlauf_store::origin::Origin;
use umlauf_store::person::Person;
use umlauf_store::ride::TableRide;
use umlauf_store::tag::Tag;
use umlauf_store::yard::About;
use umlauf_synth::marking::Marking;
use umlauf_synth::schooling;
use umlauf_synth::template::Template;
use umlauf_synth::truth::{Ride, Then, Truth};

use crate::clip::calibration::{BarClick, Calibration};
use crate::clip::picture::Pixel;
use crate::clip::tag::{Ridden, What};

/// Frames per second of the season's films.
const RATE: f64 = 120.0;

/// Pixels of a metre along the track.
const PX_PER_M: f64 = 100.0;

/// The last session of the season.
const LAST: &str = "2026-11-21";

/// How the season is told.
#[derive(Clone, Copy, Debug)]
pub struct Telling {
    /// Strength of every story: 1 as told, 0 for horses of which there is nothing to tell.
    pub strength: f64,
    /// Seed of what differs from bout to bout.
    pub seed: u64,
}

/// The season of the demo.
pub const DEMO: Telling = Telling { strength: 1.0, seed: 2600 };

/// Puts the season into the yard; horses that are there already keep their numbers.
///
/// # Errors
/// What the store meets.
pub fn fill(store: &Store, telling: Telling) -> Result<()> {
    let last: jiff::civil::Date = LAST.parse()?;
    let mut rides = Vec::new();
    for (n, story) in STORIES.iter().enumerate() {
        let known = store.horses()?.into_iter().find(|h| h.card.name == story.horse);
        let horse = match known {
            Some(horse) => horse,
            None => store.add_horse(story.horse, Some(story.withers_m), story.gaited)?,
        };
        for k in 0..stories::SESSIONS {
            let mut rng = ChaCha8Rng::seed_from_u64(telling.seed + 100 * n as u64 + u64::from(k));
            let date =
                last.saturating_sub(jiff::Span::new().days((story.days)(k, telling.strength)));
            let about = About {
                note: story.note.to_owned(),
                rider: "Wiebke".to_owned(),
                arena: "outdoor 20×60".to_owned(),
                surface: if k % 3 == 2 { "damp sand" } else { "dry sand" }.to_owned(),
                ..About::default()
            };
            let session = store.add_session(horse.id, &date.to_string(), &about)?;
            let bouts = (story.bouts)(k, telling.strength, &mut rng);
            for rein in REINS {
                let own: Vec<&StoryBout> = bouts.iter().filter(|b| b.rein == rein).collect();
                if !own.is_empty() {
                    rides.push(ride(session.id, rein, &own, &mut rng)?);
                }
            }
        }
        store.change_horse(horse.id, &cards::of(horse.card))?;
    }
    store.add_table_rides(&rides)?;
    cards::coach_marks(store)?;
    Ok(())
}

/// The bouts of one rein in a row, a few seconds apart.
fn ride(session: i64, rein: Side, bouts: &[&StoryBout], rng: &mut ChaCha8Rng) -> Result<TableRide> {
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
                    then: b.asked.as_ref().map(|a| Then { stride: a.stride, template: a.template }),
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
        if let Some(a) = &b.asked {
            // The first diagonal that lands as one.
            let on = |limb| footfalls.iter().filter(move |f| f.limb == limb).map(|f| f.on.0);
            let together = |hind: &f64| on(Limb::RF).any(|fore| (fore - hind).abs() < 0.06);
            let begins = on(Limb::LH).find(together).unwrap_or(from);
            let at = begins - a.answer * b.template.stride_s;
            tags.push(Tag {
                id: format!("aid{k}"),
                from_us: micros(at),
                to_us: None,
                what: serde_json::to_string(&What::Aid { asked: a.gait.to_owned() })?,
            });
        }
        for f in footfalls {
            let hoof = f.at.map(|at| (at.y.0 * PX_PER_M, 5.0));
            let id = format!("m{}", marks.len());
            let (on_us, off_us) = (micros(f.on.0), f.off.map(|o| micros(o.0)));
            marks.push(Mark {
                id,
                limb: f.limb,
                on_us,
                off_us,
                origin: Origin::Stepped,
                author: Person::coach(),
                hoof,
            });
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
fn on_lead(b: &StoryBout) -> Template {
    let mut t = b.template;
    if b.gait == "canter" && b.rein == Side::Right {
        t.phases = Limb::ALL.map(|l| b.template.phases[l.opposite().index()]);
    }
    t
}

fn moved(f: Footfall, by: f64) -> Footfall {
    use umlauf_gait::base::units::Seconds;
    Footfall { on: Seconds(f.on.0 + by), off: f.off.map(|o| Seconds(o.0 + by)), ..f }
}

fn micros(s: f64) -> i64 {
    #[expect(clippy::cast_possible_truncation, reason = "a few minutes")]
    let us = (s * 1e6).round() as i64;
    us
}
