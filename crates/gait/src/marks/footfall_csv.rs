//! The footfalls table: `limb,on_s,off_s,x_m,y_m`, UTF-8, with `# key: value` comments.
//!
//! Everything read here is hostile until parsed: a refusal names the line and shows at most
//! forty characters of the offending text, and nothing is guessed.

use std::str::FromStr;

use crate::base::limb::{Limb, Side};
use crate::base::units::{FrameRate, Metres, Seconds};
use crate::marks::footfall::{Footfall, GroundPoint};
use crate::marks::origin::Origin;
use crate::marks::table::{
    LONGEST_S, TableError, bad, bounded, line_of, read_record, reader, text,
};

/// No hoof stands further from the origin than this, m.
const FARTHEST_M: f64 = 100_000.0;

/// A parsed table.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct FootfallTable {
    /// Rows in the order of the file, each with its line number.
    pub footfalls: Vec<Footfall>,
    /// What the comments say.
    pub header: Header,
    /// Lines of suggested beats whose limb nobody has told yet: sound hears them, and names none.
    pub without_limb: Vec<usize>,
}

/// Values of `# key: value` comments.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct Header {
    /// `timing_sd_s`.
    pub timing_sd: Option<Seconds>,
    /// `frame_rate`: capture rate.
    pub frame_rate: Option<FrameRate>,
    /// `slow_factor`: information only, times are already true.
    pub slow_factor: Option<f64>,
    /// `withers_m`.
    pub withers: Option<Metres>,
    /// `rein`.
    pub rein: Option<Side>,
    /// `asked_lead`.
    pub asked_lead: Option<Side>,
    /// `gaited`.
    pub gaited: Option<bool>,
}

/// The columns that are read. `sd_on_s` is a mark's own error; `source` says that the table was suggested.
const COLUMNS: [&str; 7] = ["limb", "on_s", "off_s", "x_m", "y_m", "sd_on_s", "source"];

/// Place of each of [`COLUMNS`] in a row.
type Places = [Option<usize>; COLUMNS.len()];

/// Reads a footfalls table.
///
/// ```
/// use umlauf_gait::marks::footfall_csv::read;
/// let table = read(b"limb,on_s,off_s\nLH,0.50,0.82\nLF,0.76,\n").expect("a table");
/// assert_eq!(table.footfalls.len(), 2);
/// let refused = read(b"limb,on_s\nLX,0.5\n").expect_err("no such limb");
/// assert!(refused.to_string().contains("line 2"));
/// ```
///
/// # Errors
/// [`TableError`] with the line number for anything that is not a table of the documented form.
pub fn read(bytes: &[u8]) -> Result<FootfallTable, TableError> {
    let text = text(bytes)?;
    let mut out = FootfallTable { header: comments(text)?, ..FootfallTable::default() };

    let mut reader = reader(text);
    let mut record = csv::StringRecord::new();
    let mut columns: Option<(Places, usize)> = None;
    while read_record(&mut reader, &mut record)? {
        let line = record.position().map_or(0, |p| line_of(text, p));
        match columns {
            None => columns = Some((header(&record, line)?, record.len())),
            Some((at, expected)) => {
                if record.len() > expected {
                    return Err(TableError::TooManyCells { line, found: record.len(), expected });
                }
                // A beat that was suggested may have no limb yet; a mark that was made has one.
                let suggested = at[6].is_some_and(|k| record.get(k).is_some_and(|s| !s.is_empty()));
                let unnamed = at[0].is_some_and(|k| record.get(k).is_none_or(str::is_empty));
                if suggested && unnamed {
                    out.without_limb.push(line);
                } else {
                    out.footfalls.push(row(&record, &at, line)?);
                }
            }
        }
    }
    match (columns, out.footfalls.is_empty()) {
        (None, _) => Err(TableError::Empty),
        (Some(_), true) if !out.without_limb.is_empty() => {
            Err(TableError::NoLimbs { beats: out.without_limb.len() })
        }
        (Some(_), true) => Err(TableError::NoFootfalls),
        _ => Ok(out),
    }
}

fn header(record: &csv::StringRecord, line: usize) -> Result<Places, TableError> {
    let mut at = [None; COLUMNS.len()];
    for (place, name) in record.iter().enumerate() {
        if let Some(k) = COLUMNS.iter().position(|c| *c == name)
            && at[k].replace(place).is_some()
        {
            return Err(TableError::DoubleColumn { line, column: COLUMNS[k] });
        }
    }
    for k in [0, 1] {
        if at[k].is_none() {
            return Err(TableError::MissingColumn { line, column: COLUMNS[k] });
        }
    }
    Ok(at)
}

fn row(record: &csv::StringRecord, at: &Places, line: usize) -> Result<Footfall, TableError> {
    let cell = |k: usize| at[k].and_then(|place| record.get(place)).filter(|c| !c.is_empty());
    let number = |k: usize, largest: f64, what| {
        cell(k).map(|text| bounded(text, largest).ok_or_else(|| bad(line, what, text))).transpose()
    };
    let name = cell(0).unwrap_or("");
    let limb =
        Limb::from_str(name).map_err(|_| bad(line, "`limb` must be LF, RF, LH or RH", name))?;
    const TIME: &str = "a time must be a number of seconds within 7 days of zero";
    const PLACE: &str = "a position must be a number of metres";
    let on = number(1, LONGEST_S, TIME)?.ok_or_else(|| bad(line, "`on_s` is needed", ""))?;
    let off = number(2, LONGEST_S, TIME)?;
    if let Some(off) = off.filter(|off| *off < on) {
        return Err(TableError::NegativeStance { line, on, off });
    }
    const ERROR: &str = "an error must be seconds above 0";
    let sd = number(5, LONGEST_S, ERROR)?;
    if sd.is_some_and(|sd| sd <= 0.0) {
        return Err(bad(line, ERROR, cell(5).unwrap_or_default()));
    }
    let (x, y) = (number(3, FARTHEST_M, PLACE)?, number(4, FARTHEST_M, PLACE)?);
    let origin = match cell(6) {
        None => Origin::Stepped,
        Some("sensor") => Origin::Sensor,
        Some(_) => Origin::Suggested,
    };
    Ok(Footfall {
        origin,
        off: off.map(Seconds),
        at: x.zip(y).map(|(x, y)| GroundPoint { x: Metres(x), y: Metres(y) }),
        sd: sd.map(Seconds),
        line,
        ..Footfall::new(limb, Seconds(on))
    })
}

fn comments(text: &str) -> Result<Header, TableError> {
    let mut out = Header::default();
    for (k, line_text) in text.lines().enumerate() {
        let Some((key, value)) = line_text.strip_prefix('#').and_then(|c| c.split_once(':')) else {
            continue;
        };
        let (value, line) = (value.trim(), k + 1);
        let positive = |what| {
            bounded(value, f64::MAX).filter(|v| *v > 0.0).ok_or_else(|| bad(line, what, value))
        };
        let side = |what| Side::from_str(value).map_err(|_| bad(line, what, value));
        match key.trim() {
            "timing_sd_s" => {
                out.timing_sd = Some(Seconds(positive("`timing_sd_s` must be seconds above 0")?));
            }
            "frame_rate" => {
                const WHAT: &str = "`frame_rate` must be frames/s between 1 and 100000";
                let rate = FrameRate::new(positive(WHAT)?).map_err(|_| bad(line, WHAT, value))?;
                out.frame_rate = Some(rate);
            }
            "slow_factor" => {
                out.slow_factor = Some(positive("`slow_factor` must be a number above 0")?);
            }
            "withers_m" => {
                out.withers = Some(Metres(positive("`withers_m` must be metres above 0")?));
            }
            "rein" => out.rein = Some(side("`rein` must be left or right")?),
            "asked_lead" => out.asked_lead = Some(side("`asked_lead` must be left or right")?),
            "gaited" => {
                let gaited = bool::from_str(value)
                    .map_err(|_| bad(line, "`gaited` must be true or false", value))?;
                out.gaited = Some(gaited);
            }
            _ => {}
        }
    }
    Ok(out)
}

/// Writes a footfalls table that [`read`] reads back: comments, header, one row a footfall, times
/// to a microsecond, places to a tenth of a millimetre.
pub fn write(table: &FootfallTable) -> String {
    use std::fmt::Write as _;
    let mut out = String::with_capacity(64 + 32 * table.footfalls.len());
    let h = &table.header;
    let mut comment = |key: &str, value: Option<String>| {
        if let Some(value) = value {
            let _ = writeln!(out, "# {key}: {value}");
        }
    };
    comment("frame_rate", h.frame_rate.map(|v| v.per_second().to_string()));
    comment("timing_sd_s", h.timing_sd.map(|v| v.0.to_string()));
    comment("slow_factor", h.slow_factor.map(|v| v.to_string()));
    comment("withers_m", h.withers.map(|v| v.0.to_string()));
    comment("rein", h.rein.map(|v| v.word().to_owned()));
    comment("asked_lead", h.asked_lead.map(|v| v.word().to_owned()));
    comment("gaited", h.gaited.map(|v| v.to_string()));
    out.push_str("limb,on_s,off_s,x_m,y_m\n");
    for f in &table.footfalls {
        let off = f.off.map_or(String::new(), |o| format!("{:.6}", o.0));
        let at = f.at.map_or(",".into(), |p| format!("{:.4},{:.4}", p.x.0, p.y.0));
        let _ = writeln!(out, "{},{:.6},{off},{at}", f.limb, f.on.0);
    }
    out
}
