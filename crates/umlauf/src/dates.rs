//! Days: from a camera's stamp, as numbers, and in words.

/// The day of a camera's time stamp: the day where it was filmed when the stamp says how far from
/// universal time that is, else the day in universal time.
pub fn of_stamp(stamp: &str) -> Option<String> {
    let date: jiff::civil::Date = stamp.get(..10)?.parse().ok()?;
    // Cameras whose clock was never set write such dates.
    (date.year() >= 2000).then(|| date.to_string())
}

/// Days from a fixed one.
pub fn day_number(date: &str) -> i64 {
    let epoch = jiff::civil::Date::constant(2000, 1, 1);
    date.parse::<jiff::civil::Date>()
        .ok()
        .and_then(|d| d.since((jiff::Unit::Day, epoch)).ok())
        .map_or(0, |s| i64::from(s.get_days()))
}

/// A day in words, `14 November 2026`; what is no day stays as it is.
pub fn in_words(iso: &str) -> String {
    const MONTHS: [&str; 12] = [
        "January",
        "February",
        "March",
        "April",
        "May",
        "June",
        "July",
        "August",
        "September",
        "October",
        "November",
        "December",
    ];
    iso.parse::<jiff::civil::Date>().map_or_else(
        |_| iso.to_owned(),
        |d| {
            let month = usize::try_from(d.month()).unwrap_or(1) - 1;
            format!("{} {} {}", d.day(), MONTHS[month], d.year())
        },
    )
}

/// This moment, ms of Unix time.
pub fn now_ms() -> i64 {
    jiff::Timestamp::now().as_millisecond()
}

/// The day of a moment, ms of Unix time, in words; universal time.
pub fn of_ms(ms: i64) -> String {
    let day = jiff::Timestamp::from_millisecond(ms);
    day.map_or_else(|_| "–".to_owned(), |t| in_words(&t.strftime("%Y-%m-%d").to_string()))
}
