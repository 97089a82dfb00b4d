//! Pauses and the way back from them, in words.

use crate::season::returning::{BEGIN_SHARE, Returning};
use crate::words::numbers::counted;

/// How many days ago, in words.
pub fn days_ago(days: i64) -> String {
    match days {
        ..0 => "on a day to come by this machine’s clock".to_owned(),
        0 => "today".to_owned(),
        1 => "yesterday".to_owned(),
        d => format!("{d} days ago"),
    }
}

fn whole(n: i64, noun: &str) -> String {
    counted(usize::try_from(n).unwrap_or(0), noun)
}

/// What to ride after a pause.
pub fn returning(r: &Returning) -> String {
    let when = if r.days_back == 0 {
        format!("{} days off", r.days_off)
    } else {
        format!("Back for {} after {} days off", whole(r.days_back, "day"), r.days_off)
    };
    format!(
        "{when}: ride about {:.0} % of the former minutes and strides this week, from {:.0} % on 10 \
         to 15 % more each week (common practice), the whole of it in about {}. Expect less of \
         every figure until then. After injury the vet decides first",
        100.0 * r.share,
        100.0 * BEGIN_SHARE,
        whole((r.days_to_go + 6) / 7, "week")
    )
}

/// A pause in a few words, for a list.
pub fn coming_back(r: &Returning) -> String {
    let share = format!("about {:.0} % of the former work", 100.0 * r.share);
    if r.days_back == 0 {
        format!("{} days off; then {share}", r.days_off)
    } else {
        format!("back after {} days off: {share} this week", r.days_off)
    }
}
