//! What the Timing desk shows of one clip: marks, their analysis and wheels.

use serde::{Deserialize, Serialize};
use umlauf_gait::analysis::about_change;
use umlauf_gait::base::thresholds::Thresholds;
use umlauf_gait::base::units::{FileMicros, Metres, Seconds, SlowFactor, Tapper};
use umlauf_gait::figures::wheel::{self, Spoke};
use umlauf_gait::marking::doubtful_marks::{Doubt, DoubtfulMark};
use umlauf_gait::{Analysis, Footfall, Limb, Options, Side, words};
use umlauf_store::clip::{Clip, Settings};
use umlauf_store::horse::Horse;
use umlauf_store::marks::{self, Change};
use umlauf_store::{Store, StoreError};
use utoipa::ToSchema;

use crate::calibration;
use crate::document::{Document, document};
use crate::slow::{self, SlowQuestion};
use crate::tags::{self, Tag};

/// One stance of one limb on the file's clock.
#[derive(Clone, Debug, Deserialize, Serialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Mark {
    /// Name, unique in the clip.
    pub id: String,
    /// `LF`, `RF`, `LH` or `RH`.
    pub limb: LimbCode,
    /// First frame of contact, µs.
    pub on_us: i64,
    /// First frame clear, µs.
    pub off_us: Option<i64>,
    /// Playback rate at which it was tapped; `null` for a mark stepped or dragged to its frame.
    pub tap_rate: Option<f64>,
    /// Where the hoof stands in the picture, when it was clicked.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub hoof: Option<Pixel>,
}

/// A point of the picture as shown, before any mirroring.
#[derive(Clone, Copy, Debug, Deserialize, PartialEq, Serialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Pixel {
    /// From the left edge, px.
    pub x_px: f64,
    /// From the upper edge, px.
    pub y_px: f64,
}

/// A limb.
#[derive(Clone, Copy, Debug, Deserialize, Serialize, ToSchema)]
#[serde(rename_all = "UPPERCASE")]
pub enum LimbCode {
    /// Left fore.
    Lf,
    /// Right fore.
    Rf,
    /// Left hind.
    Lh,
    /// Right hind.
    Rh,
}

/// One change of one mark: from `before` (`null`: it is new) to `after` (`null`: it goes).
#[derive(Clone, Debug, Deserialize, Serialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct MarkChange {
    /// What must stand there now.
    pub before: Option<Mark>,
    /// What is to stand there.
    pub after: Option<Mark>,
}

/// A stride on the wheel: phases by limb in the order LF, RF, LH, RH.
#[derive(Clone, Debug, Deserialize, Serialize, ToSchema)]
pub struct WheelStride {
    /// From and to in true seconds; the mean stride has none.
    pub at_s: Option<[f64; 2]>,
    /// Footfalls.
    pub on: [Option<f64>; 4],
    /// Ends of stances.
    pub off: [Option<f64>; 4],
}

/// The wheel of one bout.
#[derive(Clone, Debug, Deserialize, Serialize, ToSchema)]
pub struct Wheel {
    /// Every stride.
    pub strides: Vec<WheelStride>,
    /// The mean stride.
    pub mean: WheelStride,
    /// Sectors with no hoof on the ground, from and to.
    pub air: Vec<[f64; 2]>,
    /// Beats of an ideal stride of this gait.
    pub ideal: Vec<f64>,
    /// When the leg for each hind can act.
    pub leg_windows: Vec<LegWindow>,
}

/// When the leg for a hind can act, phases from and to.
#[derive(Clone, Debug, Deserialize, Serialize, ToSchema)]
pub struct LegWindow {
    /// The hind.
    pub limb: LimbCode,
    /// From.
    pub from: f64,
    /// To.
    pub to: f64,
}

/// What the coach says of a clip.
#[derive(Clone, Debug, Deserialize, Serialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct ClipSettings {
    /// How many times slower the file runs than the world.
    pub slow_factor: f64,
    /// Whether the coach has said so.
    #[serde(default)]
    pub slow_confirmed: bool,
    /// The picture is a mirror image: left is right.
    #[serde(default)]
    pub mirrored: bool,
    /// `left` or `right`.
    pub rein: Option<String>,
    /// `left` or `right`.
    pub asked_lead: Option<String>,
    /// The clip begins here, µs of the file; marks before do not count.
    pub trim_from_us: Option<i64>,
    /// The clip ends here; marks after do not count.
    pub trim_to_us: Option<i64>,
    /// The coach's words.
    #[serde(default)]
    pub note: String,
}

impl From<Settings> for ClipSettings {
    fn from(s: Settings) -> Self {
        let Settings { slow_factor, slow_confirmed, mirrored, rein, asked_lead, .. } = s;
        let Settings { trim_from_us, trim_to_us, note, .. } = s;
        Self {
            slow_factor,
            slow_confirmed,
            mirrored,
            rein,
            asked_lead,
            trim_from_us,
            trim_to_us,
            note,
        }
    }
}

impl From<ClipSettings> for Settings {
    fn from(s: ClipSettings) -> Self {
        let ClipSettings { slow_factor, slow_confirmed, mirrored, rein, asked_lead, .. } = s;
        let ClipSettings { trim_from_us, trim_to_us, note, .. } = s;
        Self {
            slow_factor,
            slow_confirmed,
            mirrored,
            rein,
            asked_lead,
            trim_from_us,
            trim_to_us,
            note,
            calibration: None,
        }
    }
}

/// Marks and what follows from them.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct Desk {
    /// Counts the changes of this clip.
    pub revision: i64,
    /// Marks in order of time; left out in answers to edits, which the page has applied itself.
    #[serde(skip_serializing_if = "Option::is_none")]
    #[schema(nullable = false)]
    pub marks: Option<Vec<Mark>>,
    /// Aids, letters, notes and what was ridden, in order of time.
    pub tags: Vec<Tag>,
    /// What the coach says of the clip.
    pub settings: ClipSettings,
    /// Whether this was filmed in slow motion, when there is reason to ask.
    pub slow_question: Option<SlowQuestion>,
    /// What a footfall of this clip is worth, in words.
    pub timing_says: String,
    /// The analysis.
    pub analysis: Document,
    /// Wheels, one a bout.
    pub wheels: Vec<Wheel>,
    /// The strides about each flying change, in the order of their events.
    pub around_changes: Vec<Vec<NearChange>>,
    /// Places where the marks look wrong.
    pub checks: Vec<CheckSaid>,
    /// Edits that can be undone.
    pub can_undo: i64,
    /// Edits that can be done again.
    pub can_redo: i64,
}

/// A stride near a flying change.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct NearChange {
    /// Strides from the one in which the change begins: −1 is the one before.
    pub place: i32,
    /// Its start, true seconds.
    pub start_s: f64,
    /// Its end.
    pub end_s: f64,
    /// Lead of the hinds.
    pub hind: Option<String>,
    /// Lead of the fores.
    pub fore: Option<String>,
    /// Moment of air at its end, s, an overlap negative.
    pub air_s: Option<f64>,
    /// Strides/min.
    pub tempo: f64,
}

/// A place where the marks look wrong.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct CheckSaid {
    /// From, true seconds.
    pub from_s: f64,
    /// To.
    pub to_s: f64,
    /// Whose lane.
    pub limb: LimbCode,
    /// In words.
    pub says: String,
}

impl From<LimbCode> for Limb {
    fn from(code: LimbCode) -> Self {
        match code {
            LimbCode::Lf => Self::LF,
            LimbCode::Rf => Self::RF,
            LimbCode::Lh => Self::LH,
            LimbCode::Rh => Self::RH,
        }
    }
}

impl From<Limb> for LimbCode {
    fn from(limb: Limb) -> Self {
        match limb {
            Limb::LF => Self::Lf,
            Limb::RF => Self::Rf,
            Limb::LH => Self::Lh,
            Limb::RH => Self::Rh,
        }
    }
}

impl Mark {
    /// As the file shows it, in which a mirror image has left and right changed.
    pub fn in_file(self, mirrored: bool) -> marks::Mark {
        let limb = seen(self.limb.into(), mirrored);
        let Self { id, on_us, off_us, tap_rate, hoof, .. } = self;
        let hoof = hoof.map(|h| (h.x_px, h.y_px));
        marks::Mark { id, limb, on_us, off_us, tap_rate, hoof }
    }

    /// As the horse is.
    fn of_horse(mark: marks::Mark, mirrored: bool) -> Self {
        let limb = seen(mark.limb, mirrored).into();
        let marks::Mark { id, on_us, off_us, tap_rate, hoof, .. } = mark;
        let hoof = hoof.map(|(x_px, y_px)| Pixel { x_px, y_px });
        Self { id, limb, on_us, off_us, tap_rate, hoof }
    }
}

impl MarkChange {
    /// As the store keeps it: marks as the file shows them.
    pub fn in_file(self, mirrored: bool) -> Change {
        Change {
            before: self.before.map(|m| m.in_file(mirrored)),
            after: self.after.map(|m| m.in_file(mirrored)),
        }
    }
}

/// A limb's name in the mirror, and back.
const fn seen(limb: Limb, mirrored: bool) -> Limb {
    if mirrored { limb.opposite() } else { limb }
}

/// The desk of a clip; with its marks when `with_marks`.
///
/// # Errors
/// What the store meets.
pub fn desk(store: &Store, id: i64, with_marks: bool) -> Result<Desk, StoreError> {
    let clip = store.clip(id)?;
    let horse = horse_of(store, &clip)?;
    let (marks, own) = (store.marks(id)?, tags::shown(store.tags(id)?));
    let scatter = scatter(store)?;
    let analysis = analyse(&clip, horse.as_ref(), &marks, &own, scatter);
    let (can_undo, can_redo) = store.journal_depth(id)?;
    Ok(Desk {
        revision: clip.revision,
        analysis: document(&analysis),
        wheels: wheels(&analysis),
        marks: with_marks.then(|| {
            marks.into_iter().map(|m| Mark::of_horse(m, clip.settings.mirrored)).collect()
        }),
        slow_question: slow::question(&clip, &analysis),
        timing_says: slow::timing_says(&clip, scatter),
        tags: own,
        around_changes: around_changes(&analysis),
        checks: checks(&analysis),
        settings: clip.settings.into(),
        can_undo,
        can_redo,
    })
}

/// The horse of a clip, when it is sorted into a session.
///
/// # Errors
/// What the store meets.
pub fn horse_of(store: &Store, clip: &Clip) -> Result<Option<Horse>, StoreError> {
    clip.session.map(|session| store.horse(store.session(session)?.horse)).transpose()
}

/// Key of the choice that keeps the coach's own scatter, s.
pub const SCATTER: &str = "scatter_s";

/// Standard deviation of the coach's hand on stepped marks, s, when it was measured.
///
/// # Errors
/// When the file cannot be read.
pub fn scatter(store: &Store) -> Result<Option<f64>, StoreError> {
    Ok(store.choice(SCATTER)?.and_then(|text| text.parse().ok()).filter(|s: &f64| s.is_finite()))
}

/// The analysis of a clip as it stands.
///
/// # Errors
/// When the file cannot be read.
pub fn analysis_of(
    store: &Store,
    clip: &Clip,
    horse: Option<&Horse>,
) -> Result<Analysis, StoreError> {
    let (marks, own) = (store.marks(clip.id)?, tags::shown(store.tags(clip.id)?));
    Ok(analyse(clip, horse, &marks, &own, scatter(store)?))
}

/// The analysis of a clip's marks and tags under its settings.
pub fn analyse(
    clip: &Clip,
    horse: Option<&Horse>,
    marks: &[marks::Mark],
    tags: &[Tag],
    scatter: Option<f64>,
) -> Analysis {
    let (mut footfalls, mut options) = on_true_clock(clip, horse, marks);
    calibration::apply(clip, marks, &mut footfalls, &mut options);
    let slow = SlowFactor::new(clip.settings.slow_factor).unwrap_or(SlowFactor::NORMAL);
    (options.marks, options.said) =
        tags::for_the_core(tags, |us| slow.true_seconds(FileMicros(us)).0);
    options.timing_sd = scatter.map(|own| {
        // Both times were stepped on the same frames, so their rounding is not in the scatter.
        let frame = options.frame_rate.map_or(0.0, |f| f.mark_sd().0);
        Seconds(own.hypot(frame))
    });
    umlauf_gait::analyse(&footfalls, &options)
}

/// The marks of a clip that count (within its trim) as footfalls in true seconds on the horse's
/// own sides, and what is known beside them.
pub fn on_true_clock(
    clip: &Clip,
    horse: Option<&Horse>,
    marks: &[marks::Mark],
) -> (Vec<Footfall>, Options) {
    let settings = &clip.settings;
    let from = settings.trim_from_us.unwrap_or(i64::MIN);
    let to = settings.trim_to_us.unwrap_or(i64::MAX);
    let counted = marks.iter().enumerate().filter(|(_, m)| (from..=to).contains(&m.on_us));
    let footfalls = counted.map(|(place, m)| footfall(clip, m, place + 1)).collect();
    let side = |word: &Option<String>| word.as_deref().and_then(|w| w.parse::<Side>().ok());
    let options = Options {
        rein: side(&settings.rein),
        asked_lead: side(&settings.asked_lead),
        frame_rate: slow::capture_rate(clip),
        withers: horse.and_then(|h| h.card.withers_m).map(Metres),
        gaited: horse.is_some_and(|h| h.card.gaited),
        degree: horse.and_then(|h| h.card.degree),
        ..Options::default()
    };
    (footfalls, options)
}

/// The frame on the horse's own sides: a mirror image is turned back.
pub fn upright(clip: &Clip, (x, y): (f64, f64)) -> (f64, f64) {
    if clip.settings.mirrored { (f64::from(clip.footage.width) - x, y) } else { (x, y) }
}

/// A mark as a footfall in true seconds.
pub fn footfall(clip: &Clip, mark: &marks::Mark, line: usize) -> Footfall {
    let slow = SlowFactor::new(clip.settings.slow_factor).unwrap_or(SlowFactor::NORMAL);
    let frames = slow::capture_rate(clip);
    let time = |us| slow.true_seconds(FileMicros(us));
    Footfall {
        off: mark.off_us.map(time),
        sd: mark.tap_rate.map(|rate| Tapper::default().mark_sd(rate / slow.get(), frames)),
        line,
        ..Footfall::new(seen(mark.limb, clip.settings.mirrored), time(mark.on_us))
    }
}

fn around_changes(analysis: &Analysis) -> Vec<Vec<NearChange>> {
    let word = |side: Option<Side>| side.map(|s| s.word().to_owned());
    let of = |change| {
        let strides = about_change::about_change(analysis, change).into_iter();
        strides
            .map(|n| NearChange {
                place: n.place,
                start_s: n.start_s,
                end_s: n.end_s,
                hind: word(n.hind),
                fore: word(n.fore),
                air_s: n.suspension_s,
                tempo: n.tempo,
            })
            .collect()
    };
    analysis.events.changes.iter().map(|(change, _)| of(change)).collect()
}

fn checks(analysis: &Analysis) -> Vec<CheckSaid> {
    let said = |c: &DoubtfulMark| CheckSaid {
        from_s: c.from_s,
        to_s: c.to_s,
        limb: match c.what {
            Doubt::Missing(limb) | Doubt::OutOfPlace(limb) => limb.into(),
        },
        says: words::marking::doubtful(c.what),
    };
    analysis.doubtful.iter().map(said).collect()
}

/// Wheels of all bouts.
pub fn wheels(analysis: &Analysis) -> Vec<Wheel> {
    // Four digits are a tenth of a degree and half of the page's reading.
    let short = |p: Option<f64>| p.map(|p| (p * 1e4).round() / 1e4);
    let on_wheel =
        |s: &Spoke, at_s| WheelStride { at_s, on: s.on.map(short), off: s.off.map(short) };
    let limits = Thresholds::default();
    analysis
        .bouts
        .iter()
        .zip(&analysis.bout_strides)
        .map(|(bout, range)| {
            let strides = &analysis.strides[range.clone()];
            let w = wheel::wheel(strides, bout.label.gait, &limits);
            let spokes = w.spokes.iter().zip(strides);
            Wheel {
                strides: spokes.map(|(k, s)| on_wheel(k, Some([s.start, s.end]))).collect(),
                mean: on_wheel(&w.mean, None),
                air: w.air.into_iter().map(|(a, b)| [a, b]).collect(),
                ideal: w.ideal.to_vec(),
                leg_windows: w
                    .leg_windows
                    .iter()
                    .map(|(limb, from, to)| LegWindow {
                        limb: (*limb).into(),
                        from: *from,
                        to: *to,
                    })
                    .collect(),
            }
        })
        .collect()
}
