//! Every limit that the analysis uses, with its source. A coach may change each of them; none
//! of them changes a measured number.

/// Limits of labels and verdicts. Times s, phases 0–1, shares in per cent where the name says so.
#[derive(Clone, Debug, PartialEq)]
pub struct Thresholds {
    /// Asymmetrical: the couplet's phase difference lies between this …
    pub couplet_min: f64,
    /// … and this (or the same distances on the other side of the circle). Project default.
    pub couplet_max: f64,
    /// Lateral advanced placement from which a symmetrical gait is two-beat (project default
    /// about Hildebrand's diagonal band, Science 150:701, 1965).
    pub two_beat_min: f64,
    /// … and up to which.
    pub two_beat_max: f64,
    /// Upper edge of Hildebrand's pace band (half of 12.5 %).
    pub pace_max: f64,
    /// Hildebrand: lateral couplets end and single-foot begins.
    pub single_foot_min: f64,
    /// Hildebrand: single-foot ends and diagonal couplets begin.
    pub single_foot_max: f64,
    /// Two-beat strides this long or longer are passage or piaffe (project default).
    pub passage_stride_s: f64,
    /// Without off times, a four-beat stride this long or longer is a walk (project default).
    pub walk_stride_s: f64,
    /// Without off times, a gaited four-beat stride shorter than this is a rack (project default).
    pub rack_stride_s: f64,
    /// A gaited walk from this stride duration on is a flat walk, below a running walk
    /// (project default).
    pub flat_walk_stride_s: f64,
    /// Gallop: the diagonal is split by at least this share of the stride … (project default)
    pub gallop_split: f64,
    /// … and the stride is no longer than this.
    pub gallop_stride_s: f64,
    /// Canter: up to this split the diagonal is one beat (project default).
    pub three_beat_split_s: f64,
    /// Canter: above this split the beats are four (project default).
    pub four_beat_split_s: f64,
    /// Regularity bands in per cent of the stride: very regular below the first, regular below
    /// the second, unsettled below the third, irregular above (project default).
    pub regularity_bands_pct: [f64; 3],
    /// Walk: below this lateral advanced placement the walk drifts towards lateral (project default).
    pub walk_lateral: f64,
    /// Walk: above this it drifts towards diagonal (project default).
    pub walk_diagonal: f64,
    /// Marks of one limb closer than this are one mark (project default) …
    pub duplicate_s: f64,
    /// … or closer than this share of the stride, whichever is less.
    pub duplicate_share: f64,
    /// A stretch without strides this many strides long cuts a bout (project default).
    pub gap_strides: f64,
    /// All four limbs standing longer than this is a halt, s: a halt of half a second is told whatever
    /// the marks' error, and no gait has four limbs down for so long (project default) …
    pub halt_s: f64,
    /// … and longer than this many strides.
    pub halt_strides: f64,
    /// A halt is square when left and right of each pair stand within this, m (project default).
    pub square_m: f64,
    /// Walk or trot of at most this many strides between two other gaits is passed through
    /// (project default).
    pub passing_strides: usize,
    /// Drift of tempo over a bout, share of its mean, from which it is flagged when its interval
    /// excludes 0 (project default).
    pub drift_share: f64,
    /// Chance of so steep a slope without any drift, up to which it is flagged in a bout long and steady
    /// enough to tell a drift worth speaking of; less where it is not, so that over all bouts without
    /// drift fewer than 2 % are called drifting (project default).
    pub drift_chance: f64,
    /// Chance that anything at all is found by chance in a ride without it, when it was looked for in
    /// several bouts (project default, the usual 5 %).
    pub chance_in_a_ride: f64,
    /// A stride whose duration is within this share of the bout's median is steady (project
    /// default).
    pub good_stride_share: f64,
    /// Tempo share of a change of speed in trot and canter: up to the first by the stride, above
    /// the second by tempo (project default).
    pub tempo_share: [f64; 2],
    /// The same in walk (project default).
    pub tempo_share_walk: [f64; 2],
    /// Loss of tempo in lateral work from which the screen speaks of it, per cent (project default).
    pub lateral_loss_pct: f64,
    /// A leg aid acts in this last share of a stance (common practice) …
    pub aid_stance_share: f64,
    /// … and for this share of it after the hoof has left.
    pub aid_after_share: f64,
    /// An aid to canter on acts within this share of the stride about the outside hind's footfall
    /// (project default).
    pub aid_depart_share: f64,
    /// Four beats in a canter quicker than this are hurried, strides/min (project default).
    pub hurried_canter: f64,
    /// A halt shorter than this is not held, s (FEI Dressage Rules; value from memory).
    pub halt_held_s: f64,
    /// Left–right stance difference in per cent from which the screen speaks of it, when its
    /// interval excludes 0 (project default).
    pub stance_asymmetry_pct: f64,
    /// The same of the hinds' step times: a hind that lands 2 % of the stride off the middle makes
    /// 8 % (project default).
    pub step_asymmetry_pct: f64,
    /// Quarters this far beside the forehand are crooked, m (project default).
    pub crooked_m: f64,
}

impl Default for Thresholds {
    fn default() -> Self {
        Self {
            couplet_min: 0.06,
            couplet_max: 0.44,
            two_beat_min: 0.40,
            two_beat_max: 0.60,
            pace_max: 0.0625,
            single_foot_min: 0.1875,
            single_foot_max: 0.3125,
            passage_stride_s: 0.95,
            walk_stride_s: 0.75,
            rack_stride_s: 0.65,
            flat_walk_stride_s: 0.88,
            gallop_split: 0.15,
            gallop_stride_s: 0.53,
            three_beat_split_s: 0.020,
            four_beat_split_s: 0.040,
            regularity_bands_pct: [2.0, 4.0, 7.0],
            walk_lateral: 0.19,
            walk_diagonal: 0.31,
            duplicate_s: 0.25,
            duplicate_share: 0.35,
            gap_strides: 2.5,
            halt_s: 0.4,
            halt_strides: 0.35,
            square_m: 0.10,
            passing_strides: 8,
            drift_share: 0.03,
            drift_chance: 0.05,
            chance_in_a_ride: 0.05,
            good_stride_share: 0.06,
            tempo_share: [0.25, 0.35],
            tempo_share_walk: [0.40, 0.50],
            lateral_loss_pct: 3.0,
            aid_stance_share: 0.15,
            aid_after_share: 0.05,
            aid_depart_share: 0.10,
            hurried_canter: 106.0,
            halt_held_s: 3.0,
            stance_asymmetry_pct: 6.0,
            step_asymmetry_pct: 8.0,
            crooked_m: 0.08,
        }
    }
}
