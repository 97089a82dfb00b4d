//! A clip as the core reads it: its marks in true seconds on the horse's own sides, and their analysis.

use umlauf_gait::base::units::{FileMicros, FrameRate, Metres, Seconds, SlowFactor, Tapper};
use umlauf_gait::marks::origin::Origin;
use umlauf_gait::{Analysis, Footfall, Options, Side};
use umlauf_store::clip::Clip;
use umlauf_store::hand::{self, HandScatter};
use umlauf_store::horse::Horse;
use umlauf_store::origin::{Answer, Origin as Kept};
use umlauf_store::person::Person;
use umlauf_store::{Store, StoreError, marks};

use crate::clip::mark::seen;
use crate::clip::tag::{self, Tag};
use crate::clip::{calibration, clock};

/// The horse of a clip, when it is sorted into a session.
///
/// # Errors
/// What the store meets.
pub fn horse_of(store: &Store, clip: &Clip) -> Result<Option<Horse>, StoreError> {
    clip.session.map(|session| store.horse(store.session(session)?.horse)).transpose()
}

/// Standard deviation of the coach's hand on stepped marks of a clip, s, when it was measured.
///
/// # Errors
/// When the file cannot be read.
pub fn scatter(store: &Store, clip: &Clip) -> Result<Option<f64>, StoreError> {
    Ok(scatter_of(&store.hand_scatters(&Person::coach())?, clip))
}

/// As [`scatter`], of all that was measured of a hand.
pub fn scatter_of(hand: &[HandScatter], clip: &Clip) -> Option<f64> {
    hand::nearest(hand, clock::capture_rate(clip).map(FrameRate::per_second)).map(|h| h.scatter_s)
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
    let (marks, own) = (store.marks(clip.id)?, tag::shown(store.tags(clip.id)?));
    Ok(analyse(clip, horse, &marks, &own, scatter(store, clip)?))
}

/// What was measured of the clips that are being marked: one moved mark costs its own bout.
static KEPT: umlauf_gait::Kept = umlauf_gait::Kept::new();

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
        tag::for_the_core(tags, |us| slow.true_seconds(FileMicros(us)).0);
    options.timing_sd = scatter.map(|own| {
        // Both times were stepped on the same frames, so their rounding is not in the scatter.
        let frame = options.frame_rate.map_or(0.0, |f| f.mark_sd().0);
        Seconds(own.hypot(frame))
    });
    KEPT.analyse(&footfalls, &options)
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
        frame_rate: clock::capture_rate(clip),
        withers: horse.and_then(|h| h.card.withers_m).map(Metres),
        gaited: horse.is_some_and(|h| h.card.gaited),
        degree: horse.and_then(|h| h.card.degree),
        ..Options::default()
    };
    (footfalls, options)
}

/// A mark as a footfall in true seconds.
pub fn footfall(clip: &Clip, mark: &marks::Mark, line: usize) -> Footfall {
    let slow = SlowFactor::new(clip.settings.slow_factor).unwrap_or(SlowFactor::NORMAL);
    let frames = clock::capture_rate(clip);
    let time = |us| slow.true_seconds(FileMicros(us));
    let (origin, sd) = match &mark.origin {
        Kept::Stepped => (Origin::Stepped, None),
        Kept::Tapped { rate } => {
            (Origin::Tapped, Some(Tapper::default().mark_sd(rate / slow.get(), frames)))
        }
        Kept::Suggested { sd_s, answer: Answer::Looked, .. } => {
            (Origin::Confirmed, Some(Seconds(*sd_s)))
        }
        Kept::Suggested { sd_s, .. } => (Origin::Suggested, Some(Seconds(*sd_s))),
        Kept::Sensor { sd_s, .. } => (Origin::Sensor, Some(Seconds(*sd_s))),
    };
    Footfall {
        off: mark.off_us.map(time),
        sd,
        origin,
        line,
        ..Footfall::new(seen(mark.limb, clip.settings.mirrored), time(mark.on_us))
    }
}
