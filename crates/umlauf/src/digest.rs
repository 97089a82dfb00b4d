//! Bouts of clips reduced to what comparisons need, kept between requests under everything they
//! rest on: marks and settings (the revision), the horse, the coach's scatter, and this program.

use std::sync::OnceLock;

use serde::{Deserialize, Serialize};
use umlauf_gait::base::gait::{Gait, Label};
use umlauf_gait::base::limb::Side;
use umlauf_gait::findings::certainty;
use umlauf_gait::season::bout_summary::BoutSummary;
use umlauf_gait::season::metric::Metric;
use umlauf_gait::season::tally::{self, Counted, Tally};
use umlauf_gait::stats::estimate::Estimate;
use umlauf_gait::{Analysis, words};
use umlauf_store::clip::Clip;
use umlauf_store::hand::HandScatter;
use umlauf_store::horse::Horse;
use umlauf_store::person::Person;
use umlauf_store::yard::Session;
use umlauf_store::{Store, StoreError};

use crate::clip::{reading, tag};
use crate::document::finding;
use crate::document::wheel::{self, Wheel};

/// A bout with what the coach said of it.
#[derive(Clone, Debug)]
pub struct RiddenBout {
    /// Clip.
    pub clip: i64,
    /// Session.
    pub session: i64,
    /// Place in the clip's analysis.
    pub place: usize,
    /// Figures.
    pub digest: BoutSummary,
    /// Variant.
    pub variant: Option<String>,
    /// Movement.
    pub movement: Option<String>,
    /// Number of the attempt.
    pub attempt: Option<u32>,
    /// Where the stretch of that movement begins, µs: bouts of one stretch share it.
    pub stretch: Option<i64>,
    /// Frames per second of the footage.
    pub frame_rate: Option<f64>,
    /// Findings in it that ask for attention, by code.
    pub faults: Vec<String>,
}

/// Something counted and where it is.
#[derive(Clone, Copy, Debug)]
pub struct CountedIn {
    /// Session.
    pub session: i64,
    /// Clip.
    pub clip: i64,
    /// What.
    pub done: Counted,
}

/// Something to ride, and why.
#[derive(Clone, Debug, Deserialize, Serialize)]
pub struct ToTry {
    /// What was found.
    pub title: String,
    /// What to ride.
    pub tries: Vec<String>,
}

/// A horse's bouts, and what it did once.
#[derive(Clone, Debug, Default)]
pub struct HorseDigest {
    /// Bouts in order of session and clip.
    pub bouts: Vec<RiddenBout>,
    /// Counted in order of session and clip.
    pub counted: Vec<CountedIn>,
    /// What to ride after the findings of a session, by session.
    pub tries: Vec<(i64, ToTry)>,
}

/// What a list says of a clip.
#[derive(Clone, Debug, Default, Deserialize, Serialize)]
pub struct Line {
    /// Marks made.
    pub footfalls: usize,
    /// What was found, in one sentence.
    pub headline: String,
    /// Gait and lead of the longest bout.
    pub label: Option<String>,
    /// Its tempo, strides/min, and half its 95 % interval.
    pub tempo: Option<[f64; 2]>,
    /// Its mean stride, for a small wheel.
    pub wheel: Option<Wheel>,
    /// Findings that ask for attention.
    pub faults: usize,
}

/// A clip as it is kept.
#[derive(Default, Deserialize, Serialize)]
struct KeptClip {
    line: Line,
    bouts: Vec<Kept>,
    #[serde(rename = "deeds")]
    counted: Vec<KeptTally>,
    tries: Vec<ToTry>,
}

/// A tally's name, gait, time and value.
type KeptTally = (String, String, f64, f64);

/// A bout as it is kept.
#[derive(Deserialize, Serialize)]
struct Kept {
    start_s: f64,
    end_s: f64,
    strides: usize,
    place: usize,
    gait: String,
    hind: Option<String>,
    fore: Option<String>,
    rein: Option<String>,
    speed: Option<f64>,
    values: Vec<KeptValue>,
    variant: Option<String>,
    movement: Option<String>,
    attempt: Option<u32>,
    stretch: Option<i64>,
    faults: Vec<String>,
}

/// A figure's name, value, interval and strides.
type KeptValue = (String, f64, Option<(f64, f64)>, usize);

/// When this program was built: another one may see the same marks in another way.
fn program() -> u64 {
    static BUILT: OnceLock<u64> = OnceLock::new();
    *BUILT.get_or_init(|| {
        let built = std::env::current_exe().and_then(|p| p.metadata()).and_then(|m| m.modified());
        let since = built.ok().and_then(|t| t.duration_since(std::time::UNIX_EPOCH).ok());
        since.map_or(0, |d| d.as_secs())
    })
}

/// Bouts and changes of all clips of a horse, in order of session and clip.
///
/// # Errors
/// What the store meets.
pub fn of_horse(
    store: &Store,
    horse: &Horse,
    sessions: &[Session],
) -> Result<HorseDigest, StoreError> {
    let mut shelf = Shelf::open(store)?;
    let mut out = HorseDigest::default();
    for session in sessions {
        for clip in store.clips_of_session(session.id)? {
            let kept = shelf.take(&clip, Some(horse))?;
            let rate = crate::clip::clock::capture_rate(&clip).map(|r| r.per_second());
            let (session, clip_id) = (session.id, clip.id);
            out.counted.extend(kept.counted.iter().filter_map(|(tally, gait, time_s, value)| {
                let (tally, gait) = (Tally::named(tally)?, Gait::named(gait)?);
                let done = Counted { tally, gait, time_s: *time_s, value: *value };
                Some(CountedIn { session, clip: clip_id, done })
            }));
            out.tries.extend(kept.tries.into_iter().map(|t| (session, t)));
            out.bouts.extend(kept.bouts.into_iter().filter_map(|k| bout(k, &clip, session, rate)));
        }
    }
    shelf.close();
    Ok(out)
}

/// Makes the digests that are missing or out of date, the latest sessions first: after a new
/// version of the program the first page would wait for all of them.
///
/// # Errors
/// What the store meets.
pub fn refresh(store: &Store) -> Result<(), StoreError> {
    const AT_ONCE: usize = 16;
    let horses = store.horses()?;
    let sessions = store.sessions()?;
    for some in sessions.chunks(AT_ONCE) {
        let mut shelf = Shelf::open(store)?;
        for session in some {
            let horse = horses.iter().find(|h| h.id == session.horse);
            for clip in store.clips_of_session(session.id)? {
                shelf.line(&clip, horse)?;
            }
        }
        shelf.close();
    }
    Ok(())
}

/// Digests taken from the store, made where there is none, and kept together at the end.
pub struct Shelf<'a> {
    store: &'a Store,
    hand: Vec<HandScatter>,
    fresh: Vec<(i64, String, String)>,
}

impl<'a> Shelf<'a> {
    /// Begins to take digests.
    ///
    /// # Errors
    /// What the store meets.
    pub fn open(store: &'a Store) -> Result<Self, StoreError> {
        Ok(Self { store, hand: store.hand_scatters(&Person::coach())?, fresh: Vec::new() })
    }

    /// What a list says of a clip.
    ///
    /// # Errors
    /// What the store meets.
    pub fn line(&mut self, clip: &Clip, horse: Option<&Horse>) -> Result<Line, StoreError> {
        Ok(self.take(clip, horse)?.line)
    }

    fn take(&mut self, clip: &Clip, horse: Option<&Horse>) -> Result<KeptClip, StoreError> {
        let key = format!(
            "{}.{}.{:?}.{:?}",
            program(),
            clip.revision,
            horse.map(|h| (h.card.withers_m, h.card.gaited, h.card.degree)),
            reading::scatter_of(&self.hand, clip)
        );
        let found = self.store.digest(clip.id, &key)?;
        if let Some(kept) = found.and_then(|body| serde_json::from_str(&body).ok()) {
            return Ok(kept);
        }
        let kept = digest(self.store, clip, horse)?;
        let body = serde_json::to_string(&kept).map_err(|e| StoreError::Invalid(e.to_string()))?;
        self.fresh.push((clip.id, key, body));
        Ok(kept)
    }

    /// Keeps what was made. A full disk must not keep the coach from reading: it is made again
    /// next time.
    pub fn close(self) {
        if !self.fresh.is_empty()
            && let Err(e) = self.store.keep_digests(&self.fresh)
        {
            tracing::warn!("digests are not kept: {e}");
        }
    }
}

fn digest(store: &Store, clip: &Clip, horse: Option<&Horse>) -> Result<KeptClip, StoreError> {
    let tags = tag::shown(store.tags(clip.id)?);
    let analysis = reading::analysis_of(store, clip, horse)?;
    let side = |s: Option<Side>| s.map(|s| s.word().to_owned());
    let out = analysis.bouts.iter().enumerate().filter(|(_, b)| b.strides > 0).map(|(place, b)| {
        let d = BoutSummary::of(b);
        let middle = f64::midpoint(b.start_s, b.end_s) * clip.settings.slow_factor * 1e6;
        #[expect(clippy::cast_possible_truncation, reason = "a time within the clip")]
        let tag = tag::ridden_at(&tags, middle as i64);
        let ridden = tag.map(|(_, r)| r);
        let faults = analysis
            .findings
            .iter()
            .filter(|f| f.bout == place && f.kind.is_fault())
            .map(|f| finding::finding(f, &analysis.schools).code)
            .collect();
        Kept {
            start_s: d.start_s,
            end_s: d.end_s,
            strides: d.strides,
            place,
            gait: d.label.gait.code().to_owned(),
            hind: side(d.label.hind_lead),
            fore: side(d.label.fore_lead),
            rein: side(d.rein),
            speed: d.speed,
            values: d
                .values
                .iter()
                .map(|(m, e)| (m.word().to_owned(), e.value, e.ci95, e.n))
                .collect(),
            variant: ridden.and_then(|r| r.variant.clone()),
            movement: ridden.and_then(|r| r.movement.clone()),
            attempt: ridden.and_then(|r| r.attempt),
            stretch: tag.map(|(from, _)| from),
            faults,
        }
    });
    let counted = tally::counted(&analysis)
        .into_iter()
        .map(|d| (d.tally.word().to_owned(), d.gait.code().to_owned(), d.time_s, d.value));
    Ok(KeptClip {
        line: line(&analysis),
        bouts: out.collect(),
        counted: counted.collect(),
        tries: tries(&analysis),
    })
}

/// What to ride after a clip's findings, each finding once.
fn tries(analysis: &Analysis) -> Vec<ToTry> {
    let mut out: Vec<ToTry> = Vec::new();
    for f in &analysis.findings {
        if !f.kind.is_fault() || f.sure == certainty::Certainty::CannotTell {
            continue;
        }
        let said = words::finding::say(f, &analysis.schools);
        if said.advice.is_empty() || out.iter().any(|t| t.title == said.title) {
            continue;
        }
        let tries = said.advice.iter().map(|a| a.says.to_owned()).collect();
        out.push(ToTry { title: said.title, tries });
    }
    out
}

fn line(analysis: &Analysis) -> Line {
    let longest = (0..analysis.bouts.len()).max_by_key(|k| analysis.bouts[*k].strides);
    let bout = longest.map(|k| &analysis.bouts[k]);
    let mut wheels = wheel::wheels(analysis);
    Line {
        footfalls: analysis.footfalls,
        headline: words::headline::of_clip(analysis),
        label: bout.map(|b| words::names::label_name(b.label)),
        tempo: bout.and_then(|b| b.tempo).and_then(|t| {
            let half = t.tempo.half_width()?;
            Some([t.tempo.value, half])
        }),
        // A small wheel shows the mean stride only.
        wheel: longest.map(|k| Wheel { strides: Vec::new(), ..wheels.swap_remove(k) }),
        faults: analysis.findings.iter().filter(|f| f.kind.is_fault()).count(),
    }
}

fn bout(k: Kept, clip: &Clip, session: i64, frame_rate: Option<f64>) -> Option<RiddenBout> {
    let side = |word: &Option<String>| word.as_deref().and_then(|w| w.parse::<Side>().ok());
    let label =
        Label { gait: Gait::named(&k.gait)?, hind_lead: side(&k.hind), fore_lead: side(&k.fore) };
    let values = k
        .values
        .into_iter()
        .filter_map(|(m, value, ci95, n)| {
            Some((Metric::named(&m)?, Estimate { value, sd: None, ci95, n }))
        })
        .collect();
    Some(RiddenBout {
        clip: clip.id,
        session,
        place: k.place,
        digest: BoutSummary {
            start_s: k.start_s,
            end_s: k.end_s,
            strides: k.strides,
            label,
            rein: side(&k.rein),
            speed: k.speed,
            session: Some(session),
            values,
        },
        variant: k.variant,
        movement: k.movement,
        attempt: k.attempt,
        stretch: k.stretch,
        frame_rate,
        faults: k.faults,
    })
}
