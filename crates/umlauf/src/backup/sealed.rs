//! The hash of each day's ZIP, in a file beside it: a bit that turns over on the stick is noticed, wherever it is.

use std::fs::File;
use std::io::Write as _;
use std::path::Path;

use jiff::civil::Date;

use crate::backup::place::Place;
use crate::copied::hash;

/// Notes what the ZIP of a day is about to become. Until it is there, the one that is there counts too.
///
/// # Errors
/// When it cannot be written.
pub fn taking_place(place: &Place, day: Date, new: &str) -> std::io::Result<()> {
    let mut lines = vec![new.to_owned()];
    lines.extend(noted(&place.sum_of(day)));
    write(place, day, &lines)
}

/// Notes that it is there.
///
/// # Errors
/// When it cannot be written.
pub fn in_place(place: &Place, day: Date) -> std::io::Result<()> {
    let new = noted(&place.sum_of(day)).into_iter().take(1).collect::<Vec<_>>();
    write(place, day, &new)
}

/// Forgets a day.
///
/// # Errors
/// When its file cannot be removed.
pub fn forget(place: &Place, day: Date) -> std::io::Result<()> {
    match std::fs::remove_file(place.sum_of(day)) {
        Err(e) if e.kind() != std::io::ErrorKind::NotFound => Err(e),
        _ => Ok(()),
    }
}

/// Whether the ZIP of a day is what was written, every bit of it; `None` where nobody noted what that was.
pub fn is_whole(place: &Place, day: Date) -> Option<bool> {
    let sum = place.sum_of(day);
    sum.exists().then(|| hash(&place.of_day(day)).is_ok_and(|is| noted(&sum).contains(&is)))
}

/// The hashes in a file; none of a file that says something else.
fn noted(sum: &Path) -> Vec<String> {
    let text = std::fs::read_to_string(sum).unwrap_or_default();
    text.lines().filter_map(|l| l.split_once(' ')).map(|(hash, _)| hash.to_owned()).collect()
}

fn write(place: &Place, day: Date, hashes: &[String]) -> std::io::Result<()> {
    let (ready, part) = (place.sum_of(day), place.sum_of(day).with_extension("b3.part"));
    let mut file = File::create(&part)?;
    for hash in hashes {
        // As b3sum writes them.
        writeln!(file, "{hash}  yard-{day}.zip")?;
    }
    file.sync_all()?;
    std::fs::rename(part, ready)?;
    File::open(place.folder())?.sync_all()
}
