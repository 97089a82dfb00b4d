//! Pauses and the way back from them, in words.

use crate::season::returning::{BEGIN_SHARE, Returning};

/// How many days ago, in words.
pub fn days_ago(days: i64) -> String {
    match days {
        ..=0 => "today".to_owned(),
        1 => "yesterday".to_owned(),
        d => format!("{d} days ago"),
    }
}

/// What to ride after a pause.
pub fn returning(r: &Returning) -> String {
    let when = if r.days_back == 0 {
        format!("{} days off", r.days_off)
    } else {
        format!("Back for {} days after {} days off", r.days_back, r.days_off)
    };
    format!(
        "{when}: ride about {:.0} % of the former minutes and strides this week, from {:.0} % on 10 \
         to 15 % more each week (common practice), the whole of it in about {} weeks. Expect less of \
         every figure until then. After injury the vet decides first",
        100.0 * r.share,
        100.0 * BEGIN_SHARE,
        (r.days_to_go + 6) / 7
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
