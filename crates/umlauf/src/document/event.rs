//! What happens between or inside bouts, as the document writes it.

use serde::Serialize;
use utoipa::ToSchema;

use crate::document::estimate::Estimate;

/// A mark that would settle a verdict.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct Needs {
    /// The limb.
    pub limb: String,
    /// Place of its stride in the list of strides.
    pub stride: usize,
    /// About when its footfall is.
    pub time_s: f64,
}

/// Something that happened between or inside bouts.
#[derive(Clone, Debug, Serialize, ToSchema)]
#[serde(tag = "kind", rename_all = "snake_case")]
pub enum Event {
    /// A flying change.
    FlyingChange {
        /// The footfall that begins the first stride in which either pair has swapped.
        time_s: f64,
        /// Lead before.
        from: String,
        /// Lead after.
        to: String,
        /// `clean`, `late_behind`, `late_in_front`, `hinds_together`, `through_trot`, `missed`,
        /// `not_completed`, `changed_back` or `withheld`.
        verdict: String,
        /// The mark that would tell, when the verdict is withheld for want of it.
        needs: Option<Needs>,
        /// Strides late; of a verdict that is withheld, those of the likeliest.
        late_by_strides: usize,
        /// Seconds late.
        late_by_s: Option<f64>,
        /// Trot steps between.
        intermediate_steps: usize,
        /// Strides since the change before.
        strides_since_last: Option<usize>,
        /// Strides from the aid.
        strides_from_aid: Option<f64>,
        /// It came before the aid.
        offered_early: bool,
        /// Signed suspension of the stride before.
        suspension_before_s: Option<f64>,
        /// Tempo of the three strides before.
        tempo_before: Option<f64>,
        /// Tempo of the changing stride.
        tempo_at: Option<f64>,
        /// Tempo of the three strides after.
        tempo_after: Option<f64>,
        /// Error of a mark.
        time_sd_s: Option<f64>,
    },
    /// A transition between gaits.
    Transition {
        /// First footfall of the new gait.
        time_s: f64,
        /// Gait before.
        from: String,
        /// Gait after.
        to: String,
        /// Limb that begins it.
        first_limb: String,
        /// `none`, `walk` or `trot`.
        intermediate: String,
        /// Steps of it.
        intermediate_steps: usize,
        /// From the aid.
        answer_s: Option<f64>,
        /// The same in strides.
        answer_strides: Option<f64>,
        /// Suggested score of the answer, 0 to 10.
        answer_score: Option<f64>,
        /// Lead picked up.
        lead: Option<String>,
    },
    /// A halt.
    Halt {
        /// The last hoof takes the ground.
        time_s: f64,
        /// How long all four stand.
        duration_s: f64,
        /// Both pairs side by side.
        square: Option<bool>,
        /// Limb that stands behind.
        trailing_limb: Option<String>,
        /// By how much.
        offset_m: Option<f64>,
        /// Limb that leaves first.
        first_off: String,
    },
    /// A line of tempi.
    Tempi {
        /// First change.
        time_s: f64,
        /// Every how many strides.
        planned_every: usize,
        /// Changes planned.
        planned_count: Option<usize>,
        /// Changes ridden.
        changes: usize,
        /// Clean ones.
        clean: usize,
        /// Strides from one to the next.
        gaps: Vec<usize>,
        /// Faults.
        faults: Vec<TempiFault>,
    },
    /// A change of lead through walk.
    SimpleChange {
        /// First footfall of the new canter.
        time_s: f64,
        /// Lead before.
        from: String,
        /// Lead after.
        to: String,
        /// Steps of walk.
        walk_steps: usize,
    },
    /// A pirouette.
    Pirouette {
        /// First stride's start.
        time_s: f64,
        /// Last stride's end.
        end_s: f64,
        /// Strides.
        strides: usize,
        /// Fewest and most.
        expected: [usize; 2],
        /// Strides that lost the canter.
        lost_strides: usize,
        /// Most good strides in a row.
        best_run: usize,
        /// Tempo against the canter before.
        tempo_ratio: Option<f64>,
        /// Split of the diagonal, hind first positive.
        split_s: Option<f64>,
        /// The same in the canter before.
        split_before_s: Option<f64>,
        /// Angle turned, left positive.
        angle_deg: Option<f64>,
    },
    /// A rein-back.
    ReinBack {
        /// First footfall.
        time_s: f64,
        /// Last footfall.
        end_s: f64,
        /// Steps.
        steps: usize,
        /// Steps whose two hooves land together.
        diagonal_steps: usize,
        /// Steps with both hooves marked.
        paired_steps: usize,
        /// Spread of the time from step to step.
        step_spread_pct: Option<f64>,
        /// Largest distance of a print from its line.
        off_line_m: Option<f64>,
    },
    /// Lateral work against straight work.
    Lateral {
        /// Start of the bout.
        time_s: f64,
        /// End of the bout.
        end_s: f64,
        /// What was ridden.
        movement: String,
        /// To which side.
        side: Option<String>,
        /// `straight before`, `straight after` or `straight before and after`.
        against: String,
        /// Change of tempo, %.
        tempo_change_pct: f64,
        /// The same with its interval.
        tempo_change: Estimate,
        /// Change of stride length, %.
        stride_change: Option<Estimate>,
        /// Regularity here.
        regularity_pct: Option<f64>,
        /// Regularity of the straight work.
        regularity_straight_pct: Option<f64>,
    },
    /// Work forward and back.
    ForwardBack {
        /// From.
        time_s: f64,
        /// To.
        end_s: f64,
        /// Stride length, big by small.
        stride_ratio: Option<f64>,
        /// Tempo of the big strides against the small ones, %.
        tempo_change_pct: Option<f64>,
        /// Tempo held within, %.
        tempo_held_pct: f64,
        /// Breaks of gait.
        breaks: usize,
        /// Changes between big and small.
        changes: usize,
        /// Strides that each took.
        strides_to_change: Option<f64>,
    },
    /// A transition drill.
    Drill {
        /// First footfall.
        time_s: f64,
        /// Last footfall.
        end_s: f64,
        /// Strides planned of either gait.
        planned: [usize; 2],
        /// Gait of each stretch.
        gaits: Vec<String>,
        /// Strides ridden, pair by pair.
        ridden: Vec<Vec<f64>>,
        /// Answer of each change to its aid, s.
        answers_s: Vec<Option<f64>>,
        /// Score of each answer, 0 to 10.
        scores: Vec<Option<f64>>,
        /// Slope of the answers, s a change.
        answers_trend_s: Option<f64>,
    },
    /// Rising trot.
    Posting {
        /// First sit.
        time_s: f64,
        /// Last sit.
        end_s: f64,
        /// Sits marked.
        sits: usize,
        /// Diagonal that stands while the rider sits, by its fore.
        diagonal: Option<String>,
        /// Place of the sit after that diagonal's hind, share of the stride.
        mean_phase: f64,
        /// Its circular spread.
        scatter: f64,
        /// Strides by which the horse follows the rider.
        lag_strides: Option<usize>,
        /// Correlation at that lag.
        correlation: Option<f64>,
    },
    /// An aid in its stride.
    Aid {
        /// When.
        time_s: f64,
        /// What was asked.
        asked: String,
        /// Place in the stride, 0 to 1.
        phase: Option<f64>,
        /// Inside its window.
        in_window: Option<bool>,
    },
    /// A change of speed between two bouts of one gait.
    SpeedChange {
        /// Start of the later bout.
        time_s: f64,
        /// Place of the later bout.
        bout: usize,
        /// Speed after by before.
        speed_ratio: f64,
        /// Stride length after by before.
        length_ratio: f64,
        /// Share of the change that tempo made.
        tempo_share: Estimate,
        /// `lengthens`, `collects`, `between`, `rushes`, `slows` or `cannot tell`.
        verdict: String,
    },
}

/// A fault in a line of tempi.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct TempiFault {
    /// Number of the change, from 1.
    pub change: usize,
    /// What it was.
    pub what: String,
}
