//! What is suggested: footfalls that were seen, heard, or both, with their errors.

use serde::Serialize;
use umlauf_gait::base::gait::Gait;
use umlauf_gait::base::limb::{Limb, Side};
use umlauf_gait::base::units::{FrameRate, Seconds};
use umlauf_gait::{Footfall, Options, analyse};
use umlauf_signals::fusion::{Disagree, Moment, Told, joined};
use umlauf_signals::picture::seen::{Doubt, Seen};
use umlauf_signals::picture::stance::Stance;
use umlauf_signals::sensor::trunk::Rhythm;
use umlauf_signals::sound::beats::Beat;

use crate::suggest::heard::why as why_heard;

/// Schema of the document.
pub const SCHEMA: &str = "umlauf.suggest/1";

/// What was found in a film.
#[derive(Debug, Serialize)]
pub struct Suggested {
    /// Schema of the document.
    pub schema: &'static str,
    /// Why nothing is suggested.
    pub refused: Option<String>,
    /// How the camera moved: fixed, panning, handheld.
    pub camera: Option<&'static str>,
    /// The side of the horse that is seen.
    pub near: Option<&'static str>,
    /// The gait of the longest bout.
    pub gait: Option<&'static str>,
    /// The sound comes so much later than the picture, s.
    pub sound_late_s: Option<f64>,
    /// The sensors' clock shows so much more than the film's, s.
    pub sensor_late_s: Option<f64>,
    /// What sensors could not tell, and why.
    pub sensors: Vec<String>,
    /// What a sensor on the trunk tells.
    pub trunk: Option<Trunk>,
    /// Parts of the film in which nothing is seen, and why.
    pub unseen: Vec<Unseen>,
    /// Footfalls in order of time.
    pub footfalls: Vec<Suggestion>,
}

/// The rhythm that a sensor on the trunk felt.
#[derive(Clone, Copy, Debug, Serialize)]
pub struct Trunk {
    /// Strides a minute.
    pub tempo: f64,
    /// Its standard deviation.
    pub tempo_sd: f64,
    /// Scatter of single strides, % of the stride.
    pub regularity_cv_pct: f64,
    /// Strides that were felt.
    pub strides: usize,
}

impl Trunk {
    /// As strides a minute.
    #[must_use]
    pub fn of(rhythm: Rhythm) -> Self {
        let tempo = 60.0 / rhythm.stride_s;
        Self {
            tempo,
            tempo_sd: tempo * rhythm.stride_sd_s / rhythm.stride_s,
            regularity_cv_pct: rhythm.cv_pct,
            strides: rhythm.strides,
        }
    }
}

/// A part of the film in which nothing is seen.
#[derive(Debug, Serialize)]
pub struct Unseen {
    /// From, true seconds from the first frame.
    pub from_s: f64,
    /// To.
    pub to_s: f64,
    /// Why.
    pub why: String,
}

/// A footfall, or a beat.
#[derive(Clone, Debug, Serialize)]
pub struct Suggestion {
    /// Not known of a beat that only sounds.
    pub limb: Option<String>,
    /// True seconds from the first frame.
    pub on_s: f64,
    /// When the toe left.
    pub off_s: Option<f64>,
    /// When the heel left, when that is told apart.
    pub heel_off_s: Option<f64>,
    /// Where the hoof stood, pixels of the frame in the middle of its stance.
    pub x_px: Option<f64>,
    /// From the top.
    pub y_px: Option<f64>,
    /// Standard deviation of the on.
    pub sd_on_s: f64,
    /// Standard deviation of the off.
    pub sd_off_s: Option<f64>,
    /// Chance that it is right.
    pub confidence: f64,
    /// picture, sound, sensor, joined by +.
    pub source: &'static str,
    /// Why it is less than sure.
    pub why: String,
    /// Where the hoof stood in the frame in which it took the ground.
    #[serde(skip)]
    pub at_on: Option<(f64, f64)>,
    /// What its limb was told from, and in which part of the film: for telling it anew.
    #[serde(skip)]
    pub told_from: Option<(usize, Stance)>,
}

impl Suggested {
    /// Nothing, and why.
    pub fn refused(why: String) -> Self {
        Self { refused: Some(why), ..Self::new() }
    }

    /// Nothing yet.
    pub const fn new() -> Self {
        Self {
            schema: SCHEMA,
            refused: None,
            camera: None,
            near: None,
            gait: None,
            sound_late_s: None,
            sensor_late_s: None,
            sensors: Vec::new(),
            trunk: None,
            unseen: Vec::new(),
            footfalls: Vec::new(),
        }
    }
}

impl Default for Suggested {
    fn default() -> Self {
        Self::new()
    }
}

/// Why a footfall has no off.
pub const OFF_UNSEEN: &str = "when it left is not seen";

/// A footfall that was seen: `time` leads from frames to true seconds, `frame_s` is a frame's length.
pub fn of_seen(
    (part, seen): &(usize, Seen),
    time: impl Fn(f64) -> f64,
    frame_s: f64,
) -> Suggestion {
    let said = |d: &Doubt| match d {
        Doubt::LooksLikeGround => "the hoof is hardly darker or lighter than the ground",
        Doubt::NearOrFar => "near or far limb is not sure",
        Doubt::UnlikeOthers => "it stood much longer or shorter than the others",
        Doubt::NotSeenWell => "the hoof is not seen well; timed by how long an edge stayed",
        Doubt::LandingHidden => "its landing is hidden; timed by the limb that goes with it",
        Doubt::OffUnseen => OFF_UNSEEN,
    };
    Suggestion {
        limb: Some(seen.limb.to_string()),
        on_s: time(seen.on),
        off_s: seen.off.map(&time),
        heel_off_s: seen.heel_off.map(&time),
        x_px: Some(seen.at.0),
        y_px: Some(seen.at.1),
        sd_on_s: seen.on_sd * frame_s,
        sd_off_s: seen.off.map(|_| seen.off_sd * frame_s),
        confidence: seen.confidence,
        source: "picture",
        why: seen.why.iter().map(said).collect::<Vec<_>>().join("; "),
        at_on: Some(seen.at_on),
        told_from: Some((*part, seen.stance)),
    }
}

/// A beat that was heard.
pub fn of_heard(beat: &Beat, time: impl Fn(f64) -> f64, slow: f64) -> Suggestion {
    Suggestion {
        limb: None,
        on_s: time(beat.at_s),
        off_s: None,
        heel_off_s: None,
        x_px: None,
        y_px: None,
        sd_on_s: beat.sd_s / slow,
        sd_off_s: None,
        confidence: beat.confidence,
        source: "sound",
        why: why_heard(beat),
        at_on: None,
        told_from: None,
    }
}

/// Both sources as one list, on the picture's clock, and how much later the sound comes. Without an offset that fits
/// they are not joined: what was seen stands alone.
pub fn together(seen: Vec<Suggestion>, heard: &[Suggestion]) -> (Vec<Suggestion>, Option<f64>) {
    let told = |all: &[Suggestion]| all.iter().map(Suggestion::told).collect::<Vec<_>>();
    let Some((both, offset)) = joined(&told(&seen), &told(heard)) else { return (seen, None) };
    let out = both.into_iter().filter_map(|f| {
        let own = f.seen.map(|k| &seen[k]).or_else(|| f.beat.map(|k| &heard[k]))?.clone();
        let source =
            if f.seen.is_some() && f.beat.is_some() { "picture+sound" } else { own.source };
        let why = f.why.map(|why| match why {
            Disagree::HeardNotSeen => "heard and not seen",
            Disagree::SeenNotHeard => "seen and not heard, where the others are",
        });
        let why = why.into_iter().chain(Some(own.why.as_str()).filter(|w| !w.is_empty()));
        Some(Suggestion {
            limb: f.told.limb.map(|limb| limb.to_string()),
            on_s: f.told.on.at,
            sd_on_s: f.told.on.sd,
            confidence: f.told.confidence,
            source,
            why: why.collect::<Vec<_>>().join("; "),
            ..own
        })
    });
    (out.collect(), Some(offset))
}

impl Suggestion {
    fn told(&self) -> Told {
        Told {
            limb: self.limb.as_deref().and_then(|limb| limb.parse().ok()),
            on: Moment { at: self.on_s, sd: self.sd_on_s },
            confidence: self.confidence,
        }
    }
}

/// The gait of the longest bout of what is suggested.
pub fn gait(footfalls: &[Suggestion], rate: f64) -> Option<&'static str> {
    let marks: Vec<Footfall> = footfalls
        .iter()
        .filter_map(|s| {
            let limb: Limb = s.limb.as_deref()?.parse().ok()?;
            Some(Footfall {
                off: s.off_s.filter(|off| *off > s.on_s).map(Seconds),
                sd: Some(Seconds(s.sd_on_s)),
                ..Footfall::new(limb, Seconds(s.on_s))
            })
        })
        .collect();
    let options = Options { frame_rate: FrameRate::new(rate).ok(), ..Options::default() };
    let analysis = analyse(&marks, &options);
    let longest = analysis.bouts.iter().max_by_key(|b| b.strides)?;
    (longest.label.gait != Gait::Unclear).then(|| longest.label.gait.code())
}

/// Left or right in a table.
pub const fn side_name(side: Side) -> &'static str {
    match side {
        Side::Left => "left",
        Side::Right => "right",
    }
}

/// The side that a name is of.
pub fn side_of(name: &str) -> Option<Side> {
    [Side::Left, Side::Right].into_iter().find(|s| side_name(*s) == name)
}
