//! Trends and a horse's record in words.

use crate::season::again::Again;
use crate::season::card_row::Row;
use crate::season::metric::Metric;
use crate::season::movement_holds::{Held, MovementHolds};
use crate::season::progress::{Course, Trend};
use crate::season::verdict::{Compared, Verdict};
use crate::stats::estimate::Estimate;
use crate::words::comparison::plain;
use crate::words::numbers::{listed, lower, number};

/// A trend in a sentence.
pub fn trend(row: Row, t: &Trend) -> String {
    let digits = row.digits() + 1;
    let unit = row.unit();
    let figures = format!(
        "{:+.digits$} {unit} a month ({:+.digits$} to {:+.digits$})",
        shown(t.per_month.value, digits),
        shown(t.per_month.lo, digits),
        shown(t.per_month.hi, digits)
    );
    let word = match t.course {
        Course::Better => "getting better",
        Course::Worse => "getting worse",
        Course::Changes => "changing",
        Course::Steady => "steady",
        Course::CannotTell if t.per_month.lo > 0.0 || t.per_month.hi < 0.0 => {
            "moves by less than is worth speaking of"
        }
        Course::CannotTell => "no trend that could be told",
    };
    format!("{word}: {figures}")
}

/// The trend's own values at the first session and at the last, with their 95 % errors.
pub fn trend_ends(row: Row, t: &Trend) -> String {
    let digits = row.digits() + 1;
    let [(first, off), (last, off_last)] = t.ends.map(|(v, off)| (shown(v, digits), off));
    format!("from {first:.digits$} ± {off:.digits$} to {last:.digits$} ± {off_last:.digits$}")
}

/// A number as it is shown: a minus before nothing says nothing.
fn shown(v: f64, digits: usize) -> f64 {
    #[expect(
        clippy::cast_possible_truncation,
        clippy::cast_possible_wrap,
        reason = "a digit or two"
    )]
    let least = 0.5 * 10f64.powi(-(digits as i32));
    if v.abs() < least { 0.0 } else { v }
}

/// The short word for a course.
pub const fn course(c: Course) -> &'static str {
    match c {
        Course::Better => "better",
        Course::Worse => "worse",
        Course::Changes => "changes",
        Course::Steady => "steady",
        Course::CannotTell => "cannot tell",
    }
}

/// The first line of a horse's record: what gets better, what worse, and which rein is weaker.
pub fn headline(
    gait: &str,
    trends: &[(Row, Trend)],
    sides: &[Compared],
    sessions: usize,
) -> String {
    let of = |c: Course| {
        let own: Vec<String> = trends
            .iter()
            .filter(|(_, t)| t.course == c)
            .map(|(r, _)| lower(r.name().split(':').next().unwrap_or("")))
            .collect();
        (own.len(), listed(&own))
    };
    let ((n_better, better), (n_worse, worse)) = (of(Course::Better), of(Course::Worse));
    let get = |n: usize| if n == 1 { "gets" } else { "get" };
    let of_sides = |v: Verdict| {
        let own: Vec<String> = sides
            .iter()
            .filter(|c| c.verdict == v && c.headline)
            .map(|c| lower(c.metric.name().split(':').next().unwrap_or("")))
            .collect();
        own.join(", ")
    };
    // Sides are the left against the right: worse means that the right is weaker.
    let (left, right) = (of_sides(Verdict::Better), of_sides(Verdict::Worse));
    let rein = match (left.is_empty(), right.is_empty()) {
        (false, true) => format!("; the left rein is the weaker one ({left})"),
        (true, false) => format!("; the right rein is the weaker one ({right})"),
        (false, false) => format!("; the left rein is weaker in {left}, the right in {right}"),
        (true, true) => String::new(),
    };
    let gait = lower(gait);
    let what = match (better.is_empty(), worse.is_empty()) {
        (false, true) => {
            format!("In {gait} {better} {} better over {sessions} sessions", get(n_better))
        }
        (true, false) => {
            format!("In {gait} {worse} {} worse over {sessions} sessions", get(n_worse))
        }
        (false, false) => format!(
            "In {gait} {better} {} better, {worse} {} worse over {sessions} sessions",
            get(n_better),
            get(n_worse)
        ),
        (true, true) if sessions >= crate::season::progress::FEWEST => {
            format!("In {gait} no trend can be told over {sessions} sessions")
        }
        (true, true) => format!(
            "{sessions} {} of {gait}: a trend needs {}",
            if sessions == 1 { "session" } else { "sessions" },
            crate::season::progress::FEWEST
        ),
    };
    format!("{what}{rein}.")
}

/// The first line of a record without a stride.
pub fn nothing_timed(horse: &str) -> String {
    format!("Nothing of {horse} is timed yet: a session, a clip and ten strides begin the record.")
}

/// The return from a lay-off: what was different at first, and what still is.
pub fn after_lay_off(days: i64, then: &[Compared], now: &[Compared]) -> String {
    let told = |rows: &[Compared]| {
        let own: Vec<String> = rows
            .iter()
            .filter(|c| {
                c.headline && !matches!(c.verdict, Verdict::CannotTell | Verdict::NoRealDifference)
            })
            .map(|c| {
                let digits = c.metric.digits();
                let more = if c.difference.value > 0.0 { "more" } else { "less" };
                format!(
                    "{} {:.digits$} {} {more}",
                    lower(c.metric.name()),
                    c.difference.value.abs(),
                    c.metric.unit()
                )
            })
            .collect();
        own.join(", ")
    };
    let (first, last) = (told(then), told(now));
    match (first.is_empty(), last.is_empty()) {
        (true, _) => format!("After {days} days off nothing was clearly different"),
        (false, true) => format!("After {days} days off: {first}; now as before"),
        (false, false) => format!("After {days} days off: {first}; now still {last}"),
    }
}

/// A fault found in session after session, by its title.
pub fn again<K>(title: &str, a: &Again<K>) -> String {
    let rein = a.rein.map_or(String::new(), |r| format!(", on the {} rein", r.word()));
    match a.of - a.sessions {
        0 => format!("{title}: in each of {} sessions{rein}", a.of),
        _ => format!("{title}: in {} of {} sessions{rein}", a.sessions, a.of),
    }
}

/// Which share of bouts slipped out of the intended gait, first and last, and whether it grows.
pub fn slips(
    gait: &str,
    first: (usize, usize),
    last: (usize, usize),
    grows: Option<bool>,
) -> String {
    let course = match grows {
        Some(true) => "more often as time goes by",
        Some(false) => "less often as time goes by",
        None => "no trend that could be told",
    };
    format!(
        "Slips to {}: {} of {} bouts in the earlier sessions, {} of {} in the later, {course}",
        gait.to_lowercase(),
        first.0,
        first.1,
        last.0,
        last.1
    )
}

/// Clean flying changes, earlier and later.
pub fn clean_changes(first: (usize, usize), last: (usize, usize)) -> String {
    format!(
        "Clean flying changes: {} of {} in the earlier sessions, {} of {} in the later",
        first.0, first.1, last.0, last.1
    )
}

/// The gap between left and right over sessions, and whether it closes.
pub fn gap(row: Row, over: Estimate, t: Option<&Trend>) -> String {
    let digits = row.digits();
    let told = over.ci95.filter(|(lo, hi)| *lo > 0.0 || *hi < 0.0);
    let Some((lo, hi)) = told else { return "no gap beyond the error".to_owned() };
    let side = if over.value < 0.0 { "less" } else { "more" };
    let course = match t.map(|t| t.course) {
        Some(Course::Better) => "; it closes",
        Some(Course::Worse) => "; it grows",
        Some(Course::Steady) => "; it stays",
        _ => "",
    };
    let sessions =
        if over.n == 1 { "in one session".to_owned() } else { format!("over {} sessions", over.n) };
    format!(
        "right {:.digits$} {} {side} than left ({:.digits$} to {:.digits$}) {sessions}{course}",
        over.value.abs(),
        row.unit(),
        lo.abs().min(hi.abs()),
        lo.abs().max(hi.abs())
    )
}

/// Whether a movement is enough, in a sentence without its full stop.
pub fn movement_holds(against: &MovementHolds) -> String {
    let of = |m: Metric| against.rows.iter().find(|c| c.metric == m);
    match against.held {
        Held::Holds => "tempo, rhythm and air hold: enough for it".to_owned(),
        Held::CannotTell => "cannot tell yet whether the gait holds".to_owned(),
        Held::GivesWay(m) => {
            let Some(c) = of(m) else { return "the gait gives way".to_owned() };
            let digits = m.digits();
            let more = if c.difference.value > 0.0 { "more" } else { "less" };
            let amount = match m {
                Metric::Tempo => {
                    format!("{:.1} %", 100.0 * c.difference.value.abs() / c.first.value)
                }
                _ => format!("{:.digits$} {}", c.difference.value.abs(), m.unit()),
            };
            format!("{} {amount} {more} than straight: not enough for it yet", plain(m))
        }
    }
}

/// A movement that loses tempo on a rein, sessions running.
pub fn loses_tempo(side: &str, movement: &str, sessions: usize) -> String {
    let times = match sessions {
        1 => "in the last session".to_owned(),
        n => format!("{} sessions running", number(n)),
    };
    format!("The {side} rein loses the tempo in {movement}, {times}")
}

/// The coach's marks against the curves' in a sentence.
pub fn agreement(apart: Estimate) -> String {
    let way = if apart.value < 0.0 { "lower" } else { "higher" };
    let (lo, hi) = apart.ci95.unwrap_or((apart.value, apart.value));
    if lo <= 0.0 && hi >= 0.0 {
        return format!(
            "Your marks and the curves’ agree within {:.1} on average, over {} marks",
            lo.abs().max(hi.abs()),
            apart.n
        );
    }
    format!(
        "You mark {:.1} {way} than the curves ({:.1} to {:.1}), over {} marks",
        apart.value.abs(),
        lo.abs().min(hi.abs()),
        lo.abs().max(hi.abs()),
        apart.n
    )
}
