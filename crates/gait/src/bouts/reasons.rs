//! The reason of every figure of a bout that is not there.

use crate::base::gait::Gait;
use crate::bouts::bout_figures::BoutFigures;
use crate::bouts::missing::Missing;
use crate::strides::stride::Stride;

/// Reasons for what is missing among a bout's figures, by the key of the figure. `timed`: the error
/// of a mark is known.
pub(crate) fn reasons(
    b: &BoutFigures,
    strides: &[Stride],
    timed: bool,
) -> Vec<(&'static str, Missing)> {
    let mut why = Vec::new();
    let mut say = |missing: bool, key, reason| {
        if missing {
            why.push((key, reason));
        }
    };
    let asymmetrical = b.label.gait.is_asymmetrical();
    let symmetrical = !asymmetrical && b.label.gait != Gait::Unclear;
    let has_offs = strides.iter().any(|s| s.off.iter().any(Option::is_some));
    let offs = if has_offs { Missing::LimbMissing } else { Missing::NoOffs };
    let pattern = |fits: bool| if fits { Missing::LimbMissing } else { Missing::NotInThisGait };

    say(b.strides < 4, "strides", Missing::ShortBout);
    say(!timed, "intervals", Missing::NoTimingError);
    say(
        b.regularity.is_none(),
        "regularity_cv_pct",
        if timed { Missing::TooFewStrides } else { Missing::NoTimingError },
    );
    say(b.movement.is_none(), "movement", Missing::NotMarked);
    say(b.drift.is_none(), "drift_per_min", Missing::TooFewStrides);
    say(
        b.lead_verdict.is_none(),
        "lead_verdict",
        if asymmetrical { Missing::NoRein } else { Missing::NotInThisGait },
    );
    say(b.lap.is_none(), "lateral_advanced_placement", pattern(symmetrical));
    say(b.step_asymmetry.is_none(), "step_asymmetry_pct", pattern(symmetrical));
    say(
        b.beat_evenness_pct.is_none(),
        "beat_evenness_rms_pct",
        pattern(symmetrical && b.label.gait.beats() == Some(4.0)),
    );
    say(
        b.dissociation.iter().all(Option::is_none),
        "diagonal_dissociation_s",
        pattern(b.label.gait.beats() == Some(2.0)),
    );
    say(
        b.canter.is_none_or(|c| c.beats.is_none()),
        "canter_beats",
        if !asymmetrical {
            Missing::NotInThisGait
        } else if timed {
            Missing::LimbMissing
        } else {
            Missing::NoTimingError
        },
    );
    let air = b.label.gait.aerial_phases() == Some(0);
    say(b.suspension.is_none(), "suspension_s", if air { Missing::NotInThisGait } else { offs });
    say(
        b.suspension.is_none_or(|s| s.phases.is_none()) && !air,
        "aerial_phases_per_stride",
        if b.suspension.is_some() { Missing::CannotTell } else { offs },
    );
    say(b.duty.iter().any(Option::is_none), "duty_factor", offs);
    say(b.stance_symmetry.iter().any(Option::is_none), "stance_symmetry_pct", offs);
    for key in ["speed", "stride_length_m", "stride_length_source"] {
        say(b.travel.is_none(), key, Missing::NoPositions);
    }
    let size = if b.travel.is_none() { Missing::NoPositions } else { Missing::NoWithers };
    say(b.froude.is_none(), "froude", size);
    say(b.relative_stride_length.is_none(), "relative_stride_length", size);
    let prints = &b.prints;
    let placed = strides.iter().any(|s| s.at.iter().any(Option::is_some));
    let print = if placed { Missing::LimbMissing } else { Missing::NoPositions };
    say(prints.overtrack_m.is_none(), "overtrack_m", print);
    say(prints.tracks.is_none(), "tracks", print);
    say(prints.body_angle_deg.is_none(), "body_angle_deg", print);
    let shoulder = if placed && asymmetrical { Missing::NotInThisGait } else { print };
    say(prints.shoulder_angle_deg.is_none(), "shoulder_angle_deg", shoulder);
    let runs = match b.label.gait {
        Gait::Unclear => Missing::NotInThisGait,
        _ if timed => Missing::TooFewStrides,
        _ => Missing::NoTimingError,
    };
    say(b.good_runs.is_none(), "good_stride_runs", runs);
    why
}
