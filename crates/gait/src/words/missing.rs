//! Why a figure is missing, and what was done to the marks.

use crate::bouts::missing::Missing;
use crate::strides::tidy::DropReason;

/// Why a figure is missing.
pub const fn missing(why: Missing) -> &'static str {
    match why {
        Missing::NoTimingError => {
            "no frame rate and no timing error given, so errors are not known"
        }
        Missing::NoOffs => "no off times in this bout",
        Missing::NoPositions => "no hoof positions, letter passes or figure to measure by",
        Missing::NoWithers => "no height at the withers given",
        Missing::NotInThisGait => "this gait has no such figure",
        Missing::LimbMissing => "not every limb it needs is marked",
        Missing::TooFewStrides => "needs at least four strides",
        Missing::CannotTell => "the interval reaches over the limit: this clip cannot tell",
        Missing::NoRein => "neither rein nor asked lead is given",
        Missing::ShortBout => "short bout: first and last stride are used too",
        Missing::AfterChange => {
            "the canter begins with a flying change: the lead wanted is not known"
        }
        Missing::NotMarked => "the coach marked none",
        Missing::Standing => "the horse stands: there are no strides",
        Missing::NoMarks => "no marks in this stretch",
        Missing::Unseen => "the hooves are out of view here",
    }
}

/// Why a mark was left out.
pub fn dropped(reason: &DropReason) -> String {
    match reason {
        DropReason::Double { limb, apart_s } => {
            format!("second mark of {limb} only {:.0} ms after the first", apart_s * 1000.0)
        }
        DropReason::NoLimb => "a beat whose limb is not known yet".to_owned(),
        DropReason::OffAfterNext { limb } => {
            format!("stance of {limb} outlasts its next footfall; its end is not used")
        }
    }
}

/// What the clip's marks are worth, in words; `sd_s` of one mark.
pub fn timing(sd_s: Option<f64>) -> String {
    let Some(sd) = sd_s else {
        return "timing error not known: give the frame rate".to_owned();
    };
    let ms = sd * 1000.0;
    let good = if ms <= 3.0 {
        "good enough for canter beats"
    } else if ms <= 6.0 {
        "good for tempo and lead, coarse for canter beats"
    } else {
        "tempo and lead only; film at 120 frames/s or more for beats"
    };
    format!("footfalls known to ±{ms:.1} ms: {good}")
}
