//! Coming back after a pause: how much of the former work to ride, week by week.

/// A pause in the work.
#[derive(Clone, Copy, Debug, Eq, PartialEq)]
pub struct LayOff {
    /// Last day before it.
    pub from: i64,
    /// First day after it.
    pub to: i64,
}

/// Pauses of at least this many days are lay-offs (project default).
pub const LAY_OFF_DAYS: i64 = 28;

/// Lay-offs between days in order of time.
///
/// ```
/// use umlauf_gait::season::returning::lay_offs;
/// // Days since any day; five weeks without a session are a lay-off.
/// let offs = lay_offs(&[0, 7, 14, 49]);
/// assert_eq!(offs.len(), 1);
/// ```
pub fn lay_offs(days: &[i64]) -> Vec<LayOff> {
    let long = |w: &&[i64]| w[1] - w[0] >= LAY_OFF_DAYS;
    days.windows(2).filter(long).map(|w| LayOff { from: w[0], to: w[1] }).collect()
}

/// Share of the former work to begin with (project default; the coach decides, a vet first after
/// injury).
pub const BEGIN_SHARE: f64 = 0.5;

/// Growth a week, middle of the 10 to 15 % that are common practice.
pub const GROWTH_A_WEEK: f64 = 0.125;

/// Where a horse stands after a pause.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Returning {
    /// Days without work.
    pub days_off: i64,
    /// Days since the first session after it; 0 when there was none yet.
    pub days_back: i64,
    /// Share of the former work to ride now, under 1.
    pub share: f64,
    /// Days from now until the whole of it.
    pub days_to_go: i64,
}

/// Where a horse stands on `today`; days of its sessions in order, counted as `today` is. `None`
/// without a pause, or once the former work is reached again.
pub fn returning(days: &[i64], today: i64) -> Option<Returning> {
    let last = *days.last()?;
    let pause = if today - last >= LAY_OFF_DAYS {
        LayOff { from: last, to: today }
    } else {
        *crate::season::returning::lay_offs(days).last()?
    };
    let days_back = (today - pause.to).max(0);
    #[expect(clippy::cast_precision_loss, reason = "days")]
    let weeks = (days_back / 7) as f64;
    let share = BEGIN_SHARE * (1.0 + GROWTH_A_WEEK).powf(weeks);
    if share >= 1.0 {
        return None;
    }
    let all = ((1.0 / BEGIN_SHARE).ln() / (1.0 + GROWTH_A_WEEK).ln()).ceil();
    #[expect(clippy::cast_possible_truncation, reason = "weeks")]
    let days_to_go = 7 * all as i64 - days_back;
    Some(Returning { days_off: pause.to - pause.from, days_back, share, days_to_go })
}
