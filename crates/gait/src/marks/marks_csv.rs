//! The marks table: `time_s,kind,detail`, UTF-8, lines starting with `#` are comments.

use crate::marks::aid::Aid;
use crate::marks::movement::Movement;
use crate::marks::ride_mark::{MarkKind, RideMark};
use crate::marks::table::{LONGEST_S, TableError};

const COLUMNS: [&str; 3] = ["time_s", "kind", "detail"];

/// Reads a marks table.
///
/// ```
/// use umlauf_gait::marks::marks_csv::read;
/// let marks = read(b"time_s,kind,detail\n3.5,aid,canter-left\n8,letter,K\n").expect("a table");
/// assert_eq!(marks.len(), 2);
/// ```
///
/// # Errors
/// [`TableError`] with the line number for anything that is not a table of the documented form.
pub fn read(bytes: &[u8]) -> Result<Vec<RideMark>, TableError> {
    let text = crate::marks::table::text(bytes)?;
    let mut reader = crate::marks::table::reader(text);
    let mut record = csv::StringRecord::new();
    let mut columns: Option<[Option<usize>; 3]> = None;
    let mut out = Vec::new();
    while crate::marks::table::read_record(&mut reader, &mut record)? {
        let line = record.position().map_or(0, |p| crate::marks::table::line_of(text, p));
        let Some(at) = columns else {
            let mut at = [None; 3];
            for (k, name) in COLUMNS.iter().enumerate() {
                at[k] = record.iter().position(|cell| cell == *name);
            }
            for k in [0, 1] {
                if at[k].is_none() {
                    return Err(TableError::MissingMarkColumn { line, column: COLUMNS[k] });
                }
            }
            columns = Some(at);
            continue;
        };
        let cell = |k: usize| at[k].and_then(|place| record.get(place)).unwrap_or("");
        out.push(row(cell(0), cell(1), cell(2), line)?);
    }
    if columns.is_none() {
        return Err(TableError::EmptyMarks);
    }
    Ok(out)
}

fn row(time: &str, kind: &str, detail: &str, line: usize) -> Result<RideMark, TableError> {
    let bad = |what, text: &str| crate::marks::table::bad(line, what, text);
    let time = crate::marks::table::bounded(time, LONGEST_S)
        .ok_or_else(|| bad("a time must be a number of seconds within 7 days of zero", time))?;
    let needed = |what| if detail.is_empty() { Err(bad(what, "")) } else { Ok(detail) };
    let short: String = detail.chars().take(200).collect();
    let kind = match kind {
        "aid" => MarkKind::Aid(Aid::named(needed("an aid needs a detail: what was asked for")?)),
        "letter" => MarkKind::Letter(needed("a letter needs its name")?.chars().take(8).collect()),
        "start" => MarkKind::Start(Movement::named(needed("a start needs its movement")?)),
        "end" => MarkKind::End(Movement::named(needed("an end needs its movement")?)),
        "unseen-start" => MarkKind::UnseenStart,
        "unseen-end" => MarkKind::UnseenEnd,
        "note" => MarkKind::Note(short),
        other => {
            return Err(bad(
                "`kind` must be aid, letter, start, end, unseen-start, unseen-end or note",
                other,
            ));
        }
    };
    Ok(RideMark { time, kind })
}
