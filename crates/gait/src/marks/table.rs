//! What both tables of marks have in common: text, cells, line numbers, and why one is refused.
//!
//! Everything read here is hostile until parsed: a refusal names the line and shows at most forty
//! characters of the offending text.

use std::str::FromStr;

use thiserror::Error;

/// No time in a file lies further from zero than seven days.
pub const LONGEST_S: f64 = 7.0 * 86_400.0;

/// Why a table was refused.
#[derive(Clone, Debug, Error, PartialEq)]
pub enum TableError {
    /// Nothing in it.
    #[error("the table is empty; its first line must be `limb,on_s,off_s,x_m,y_m`")]
    Empty,
    /// No column by this name.
    #[error("line {line}: no column `{column}`; the header must name at least `limb` and `on_s`")]
    MissingColumn {
        /// Line of the header.
        line: usize,
        /// The column looked for.
        column: &'static str,
    },
    /// Nothing in a marks table.
    #[error("the marks table is empty; its first line must be `time_s,kind,detail`")]
    EmptyMarks,
    /// No column by this name in a marks table.
    #[error("line {line}: no column `{column}`; the header must name `time_s` and `kind`")]
    MissingMarkColumn {
        /// Line of the header.
        line: usize,
        /// The column looked for.
        column: &'static str,
    },
    /// A column twice.
    #[error("line {line}: the column `{column}` stands twice")]
    DoubleColumn {
        /// Line of the header.
        line: usize,
        /// The column.
        column: &'static str,
    },
    /// A header and no rows.
    #[error("the table has a header and no footfall below it")]
    NoFootfalls,
    /// Beats were suggested, and not whose they are.
    #[error("none of its {beats} beats has a limb: write LF, RF, LH or RH into the column `limb`")]
    NoLimbs {
        /// Beats.
        beats: usize,
    },
    /// A cell or comment that cannot be read.
    #[error("line {line}: {what}, found `{text}`")]
    Bad {
        /// Line, counted from 1.
        line: usize,
        /// What was expected.
        what: &'static str,
        /// At most forty characters of what stood there.
        text: String,
    },
    /// Stance of negative length.
    #[error("line {line}: the stance ends before it begins (off_s {off} before on_s {on})")]
    NegativeStance {
        /// Line.
        line: usize,
        /// On, s.
        on: f64,
        /// Off, s.
        off: f64,
    },
    /// Bytes that are not text.
    #[error("line {line}: not UTF-8 text; save the table as UTF-8")]
    NotText {
        /// Line.
        line: usize,
    },
    /// More cells than the header has columns.
    #[error(
        "line {line}: {found} cells under a header of {expected}; numbers take a point, not a comma"
    )]
    TooManyCells {
        /// Line.
        line: usize,
        /// Cells of the row.
        found: usize,
        /// Columns of the header.
        expected: usize,
    },
}

/// Bytes as text without a byte order mark.
pub(crate) fn text(bytes: &[u8]) -> Result<&str, TableError> {
    let text = std::str::from_utf8(bytes).map_err(|e| TableError::NotText {
        line: 1 + bytes[..e.valid_up_to()].iter().filter(|b| **b == b'\n').count(),
    })?;
    Ok(text.strip_prefix('\u{feff}').unwrap_or(text))
}

pub(crate) fn reader(text: &str) -> csv::Reader<&[u8]> {
    csv::ReaderBuilder::new()
        .has_headers(false)
        .flexible(true)
        .comment(Some(b'#'))
        .trim(csv::Trim::All)
        .from_reader(text.as_bytes())
}

pub(crate) fn read_record(
    reader: &mut csv::Reader<&[u8]>,
    record: &mut csv::StringRecord,
) -> Result<bool, TableError> {
    reader.read_record(record).map_err(|e| {
        let line = e.position().map_or(0, |p| usize::try_from(p.line()).unwrap_or(0));
        bad(line, "this row cannot be read as comma-separated cells", "")
    })
}

/// Line on which a record stands: its position is where the reader began to look for it, before
/// empty lines and comments.
pub(crate) fn line_of(text: &str, position: &csv::Position) -> usize {
    let start = usize::try_from(position.byte()).unwrap_or(usize::MAX);
    let rest = text.as_bytes().get(start..).unwrap_or_default();
    let skipped = rest
        .split(|b| *b == b'\n')
        .take_while(|l| l.is_empty() || *l == b"\r" || l.starts_with(b"#"))
        .count();
    usize::try_from(position.line()).unwrap_or(0) + skipped
}

pub(crate) fn bounded(text: &str, largest: f64) -> Option<f64> {
    f64::from_str(text).ok().filter(|v| v.is_finite() && v.abs() <= largest)
}

pub(crate) fn bad(line: usize, what: &'static str, text: &str) -> TableError {
    TableError::Bad { line, what, text: text.chars().take(40).collect() }
}
