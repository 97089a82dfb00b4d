//! What the Timing desk shows of one clip: marks, their analysis and wheels.

use serde::{Deserialize, Serialize};
use umlauf_gait::units::{FileMicros, FrameRate, Metres, Seconds, SlowFactor, Tapper};
use umlauf_gait::wheel::{self, Spoke};
use umlauf_gait::{Analysis, Footfall, Limb, Options, Side};
use umlauf_store::clip::Clip;
use umlauf_store::marks::{self, Change};
use umlauf_store::yard::Horse;
use umlauf_store::{Store, StoreError};
use utoipa::ToSchema;

use crate::document::{Document, document};

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
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct WheelStride {
    /// From and to in true seconds; the mean stride has none.
    pub at_s: Option<[f64; 2]>,
    /// Footfalls.
    pub on: [Option<f64>; 4],
    /// Ends of stances.
    pub off: [Option<f64>; 4],
}

/// The wheel of one bout.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct Wheel {
    /// Every stride.
    pub strides: Vec<WheelStride>,
    /// The mean stride.
    pub mean: WheelStride,
    /// Sectors with no hoof on the ground, from and to.
    pub air: Vec<[f64; 2]>,
    /// Beats of an ideal stride of this gait.
    pub ideal: Vec<f64>,
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
    /// The analysis.
    pub analysis: Document,
    /// Wheels, one a bout.
    pub wheels: Vec<Wheel>,
    /// Edits that can be undone.
    pub can_undo: i64,
    /// Edits that can be done again.
    pub can_redo: i64,
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

impl From<Mark> for marks::Mark {
    fn from(m: Mark) -> Self {
        let Mark { id, limb, on_us, off_us, tap_rate } = m;
        Self { id, limb: limb.into(), on_us, off_us, tap_rate }
    }
}

impl From<marks::Mark> for Mark {
    fn from(m: marks::Mark) -> Self {
        let marks::Mark { id, limb, on_us, off_us, tap_rate } = m;
        Self { id, limb: limb.into(), on_us, off_us, tap_rate }
    }
}

impl From<MarkChange> for Change {
    fn from(c: MarkChange) -> Self {
        Self { before: c.before.map(Into::into), after: c.after.map(Into::into) }
    }
}

/// The desk of a clip; with its marks when `with_marks`.
///
/// # Errors
/// What the store meets.
pub fn desk(store: &Store, id: i64, with_marks: bool) -> Result<Desk, StoreError> {
    let clip = store.clip(id)?;
    let session = store.session(clip.session)?;
    let horse = store.horse(session.horse)?;
    let marks = store.marks(id)?;
    let analysis = analyse(&clip, &horse, &marks);
    let (can_undo, can_redo) = store.journal_depth(id)?;
    Ok(Desk {
        revision: clip.revision,
        analysis: document(&analysis),
        wheels: wheels(&analysis),
        marks: with_marks.then(|| marks.into_iter().map(Into::into).collect()),
        can_undo,
        can_redo,
    })
}

/// The analysis of a clip's marks under its settings.
pub fn analyse(clip: &Clip, horse: &Horse, marks: &[marks::Mark]) -> Analysis {
    let (footfalls, options) = on_true_clock(clip, horse, marks);
    umlauf_gait::analyse(&footfalls, &options)
}

/// A clip's marks as footfalls in true seconds, and what is known beside them.
pub fn on_true_clock(
    clip: &Clip,
    horse: &Horse,
    marks: &[marks::Mark],
) -> (Vec<Footfall>, Options) {
    let slow = SlowFactor::new(clip.settings.slow_factor).unwrap_or(SlowFactor::NORMAL);
    let frames = clip.footage.frame_rate.and_then(|rate| FrameRate::new(rate * slow.get()).ok());
    let time = |us| slow.true_seconds(FileMicros(us));
    let footfalls = marks
        .iter()
        .enumerate()
        .map(|(place, m)| Footfall {
            off: m.off_us.map(time),
            sd: m.tap_rate.map(|rate| Tapper::default().mark_sd(rate / slow.get(), frames)),
            line: place + 1,
            ..Footfall::new(m.limb, time(m.on_us))
        })
        .collect();
    let side = |word: &Option<String>| word.as_deref().and_then(|w| w.parse::<Side>().ok());
    let options = Options {
        rein: side(&clip.settings.rein),
        asked_lead: side(&clip.settings.asked_lead),
        frame_rate: frames,
        timing_sd: None::<Seconds>,
        withers: horse.withers_m.map(Metres),
        gaited: horse.gaited,
        ..Options::default()
    };
    (footfalls, options)
}

/// Wheels of all bouts.
pub fn wheels(analysis: &Analysis) -> Vec<Wheel> {
    let on_wheel = |s: &Spoke, at_s| WheelStride { at_s, on: s.on, off: s.off };
    analysis
        .bouts
        .iter()
        .zip(&analysis.bout_strides)
        .map(|(bout, range)| {
            let strides = &analysis.strides[range.clone()];
            let w = wheel::wheel(strides, bout.label.gait);
            let spokes = w.spokes.iter().zip(strides);
            Wheel {
                strides: spokes.map(|(k, s)| on_wheel(k, Some([s.start, s.end]))).collect(),
                mean: on_wheel(&w.mean, None),
                air: w.air.into_iter().map(|(a, b)| [a, b]).collect(),
                ideal: w.ideal.to_vec(),
            }
        })
        .collect()
}
