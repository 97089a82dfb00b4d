//! Numbers in words: with their errors, in the units people think in.

use crate::base::gait::Gait;
use crate::base::schools::{Counting, Schools};
use crate::stats::estimate::Estimate;

/// A tempo in the unit of the school in force.
pub(crate) fn tempo_words(tempo: Estimate, gait: Gait, schools: &Schools) -> String {
    match (schools.counting, gait.beats()) {
        (Counting::Beats, Some(beats)) => {
            format!("{} beats/min", plus_minus(tempo.scaled(beats), 1.0, 0))
        }
        _ => format!("{} strides/min", plus_minus(tempo, 1.0, 1)),
    }
}

pub(crate) fn signed(e: Estimate, scale: f64, digits: usize) -> String {
    let half = e.half_width().map_or(String::new(), |h| format!(" ± {:.digits$}", h * scale));
    format!("{:+.digits$}{half}", e.value * scale)
}

pub(crate) fn signed_millis(e: Estimate) -> String {
    let half = e.half_width().map_or(String::new(), |h| format!(" ± {:.0}", h * 1000.0));
    format!("{:+.0}{half}", e.value * 1000.0)
}

pub(crate) fn millis(e: Estimate) -> String {
    format!("{} ms", plus_minus(e, 1000.0, 0))
}

pub(crate) fn percent(e: Estimate) -> String {
    format!("{} %", plus_minus(e, 100.0, 1))
}

pub(crate) fn plus_minus(e: Estimate, scale: f64, digits: usize) -> String {
    match e.half_width() {
        Some(half) => format!("{:.digits$} ± {:.digits$}", e.value * scale, half * scale),
        None => format!("{:.digits$}", e.value * scale),
    }
}

/// `2.73 ± 0.04 m`.
pub fn metres(e: Estimate) -> String {
    match e.half_width() {
        Some(half) => format!("{:.2} ± {:.2} m", e.value, half),
        None => format!("{:.2} m", e.value),
    }
}

pub(crate) fn degrees(e: Estimate) -> String {
    match e.half_width() {
        Some(half) => format!("{:.0} ± {:.0}°", e.value.abs(), half),
        None => format!("{:.0}°", e.value.abs()),
    }
}

pub(crate) fn metres_a_second(speed: Estimate) -> String {
    match speed.half_width() {
        Some(half) => format!("{:.2} ± {half:.2} m/s", speed.value),
        None => format!("{:.2} m/s", speed.value),
    }
}

/// Names in a row, `a, b and c`.
pub(crate) fn listed(names: &[String]) -> String {
    match names {
        [] => String::new(),
        [one] => one.clone(),
        [most @ .., last] => format!("{} and {last}", most.join(", ")),
    }
}

pub(crate) fn lower(name: &str) -> String {
    let mut letters = name.chars();
    letters
        .next()
        .map_or_else(String::new, |c| c.to_lowercase().collect::<String>() + letters.as_str())
}

/// A count in words up to twelve.
///
/// ```
/// use umlauf_gait::words::numbers::number;
/// assert_eq!(number(3), "three");
/// assert_eq!(number(31), "31");
/// ```
pub fn number(n: usize) -> String {
    const WORDS: [&str; 13] = [
        "no", "one", "two", "three", "four", "five", "six", "seven", "eight", "nine", "ten",
        "eleven", "twelve",
    ];
    WORDS.get(n).map_or_else(|| n.to_string(), |w| (*w).to_owned())
}

/// A place in a row in words, `eighth`.
///
/// ```
/// use umlauf_gait::words::numbers::ordinal;
/// assert_eq!(ordinal(2), "second");
/// assert_eq!(ordinal(21), "21st");
/// assert_eq!(ordinal(112), "112th");
/// ```
pub fn ordinal(n: usize) -> String {
    const WORDS: [&str; 13] = [
        "", "first", "second", "third", "fourth", "fifth", "sixth", "seventh", "eighth", "ninth",
        "tenth", "eleventh", "twelfth",
    ];
    match WORDS.get(n) {
        Some(w) if n > 0 => (*w).to_owned(),
        _ => {
            let end = match (n % 10, n % 100) {
                (1, t) if t != 11 => "st",
                (2, t) if t != 12 => "nd",
                (3, t) if t != 13 => "rd",
                _ => "th",
            };
            format!("{n}{end}")
        }
    }
}

/// A count with its noun, `1 stride`, `2 strides`.
pub(crate) fn counted(n: usize, noun: &str) -> String {
    if n == 1 { format!("1 {noun}") } else { format!("{n} {noun}s") }
}

/// A quantity in words when it is a small whole number, `three`, else with one digit, `2.5`.
pub(crate) fn number_of(value: f64) -> String {
    #[expect(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "0 to 12")]
    let whole = value.clamp(0.0, 12.0) as usize;
    if (crate::base::number::count(whole) - value).abs() < 1e-9 {
        number(whole)
    } else {
        format!("{value:.1}")
    }
}
