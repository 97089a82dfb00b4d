//! Which days' backups are kept: those of the last seven days, and the last one of each of four weeks and twelve months.

use jiff::civil::Date;

const DAYS: usize = 7;
const WEEKS: usize = 4;
const MONTHS: usize = 12;

/// Of days, the latest first, those whose backups are kept.
///
/// ```
/// use umlauf::backup::kept::kept;
/// let days: Vec<jiff::civil::Date> = ["2026-12-01", "2026-11-30", "2026-11-02", "2026-11-01", "2025-01-05"]
///     .map(|d| d.parse().unwrap())
///     .into();
/// // Days that were not backed up push nothing out.
/// assert_eq!(kept(&days), days);
/// ```
pub fn kept(days: &[Date]) -> Vec<Date> {
    let week = |d: &Date| {
        let w = d.iso_week_date();
        (i64::from(w.year()), i64::from(w.week()))
    };
    let month = |d: &Date| (i64::from(d.year()), i64::from(d.month()));
    let own = |d: &Date| (i64::from(d.year()), i64::from(d.day_of_year()));
    let mut keep: Vec<Date> =
        [last_of(days, own, DAYS), last_of(days, week, WEEKS), last_of(days, month, MONTHS)]
            .concat();
    keep.sort_unstable();
    keep.dedup();
    keep.reverse();
    keep
}

/// The last day of each of the latest spans.
fn last_of(days: &[Date], span: impl Fn(&Date) -> (i64, i64), most: usize) -> Vec<Date> {
    let mut out: Vec<Date> = Vec::new();
    for day in days {
        if out.len() == most {
            break;
        }
        if out.last().is_none_or(|last| span(last) != span(day)) {
            out.push(*day);
        }
    }
    out
}

#[cfg(test)]
mod tests {
    use jiff::ToSpan as _;
    use jiff::civil::date;

    use super::kept;

    #[test]
    fn two_years_of_days_leave_a_week_four_weeks_and_a_year() {
        // Backed up every evening: what is there on the next one is what was kept before, and the new day.
        let mut there = Vec::new();
        let mut day = date(2024, 12, 1);
        while day <= date(2026, 12, 1) {
            there.insert(0, day);
            there = kept(&there);
            day = day.tomorrow().unwrap();
        }
        let last = date(2026, 12, 1);
        for back in 0..7 {
            assert!(there.contains(&last.checked_sub(back.days()).unwrap()));
        }
        // Sundays end weeks.
        for sunday in [date(2026, 11, 29), date(2026, 11, 22), date(2026, 11, 15)] {
            assert!(there.contains(&sunday), "{sunday}: {there:?}");
        }
        for end in [date(2026, 10, 31), date(2026, 6, 30), date(2026, 1, 31)] {
            assert!(there.contains(&end), "{end}: {there:?}");
        }
        assert!(
            there.len() <= 7 + 4 + 12 && there.iter().all(|d| *d >= date(2025, 12, 31)),
            "{there:?}"
        );
    }
}
