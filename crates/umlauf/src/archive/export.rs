//! The whole yard as one ZIP that another Umlauf, or a person with a spreadsheet, can read.

use std::fs::File;
use std::io::{Seek, Write};
use std::path::Path;

use umlauf_gait::marks::footfall_csv::{self, FootfallTable, Header};
use umlauf_store::Store;
use umlauf_store::archive::{VERSION, table_names};
use umlauf_store::clip::Clip;
use zip::write::SimpleFileOptions;
use zip::{CompressionMethod, ZipWriter};

use crate::archive_error::{ArchiveError, SCHEMA};
use crate::clip::{clock, reading};
use crate::copied::copied;

type Result<T> = std::result::Result<T, ArchiveError>;

/// The document that a yard is put back from, and its copy, for when the first one is damaged.
pub const DOCUMENTS: [&str; 2] = ["yard.json", "copy/yard.json"];

const README: &str = "A yard of Umlauf.

yard.json          everything the coach has said and marked, table by table; what Umlauf reads back
copy/yard.json     the same once more, read where the first one is damaged
tables/*.csv       the same tables for a spreadsheet (blobs as hexadecimal)
clips/*.csv        footfalls of each clip: limb, on_s, off_s in true seconds, x_m, y_m where known
footage/HASH/...   the footage as it came, named by its BLAKE3 hash (column content of the table clip)
not-whole.txt      only there when films were missing or damaged as this was packed: which

Times in yard.json are microseconds of each file's own clock. Figures are not in here: they are
worked out from the marks. Put it back into an empty folder with `umlauf restore yard.zip --data FOLDER`, or on
the page Setup of an empty yard.
";

/// Where the films are of a yard that is packed.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Films {
    /// In the ZIP.
    Inside,
    /// Somewhere else.
    Beside,
}

/// Packs the yard into a ZIP, row by row and block by block: it may be larger than memory. Gives the films that are not
/// in it as they should be, each with why.
///
/// # Errors
/// When the store or a film cannot be read, or the ZIP not written.
pub fn export<W: Write + Seek>(
    store: &Store,
    mut zip: ZipWriter<W>,
    films: Films,
) -> Result<Vec<String>> {
    let packed = SimpleFileOptions::default()
        .compression_method(CompressionMethod::Deflated)
        .large_file(true);
    // Footage is packed already.
    let plain = packed.compression_method(CompressionMethod::Stored);
    // One moment of the yard, whatever is marked meanwhile.
    let store = store.snapshot()?;
    zip.start_file("README.txt", packed)?;
    zip.write_all(README.as_bytes())?;
    for table in table_names() {
        zip.start_file(format!("tables/{table}.csv"), packed)?;
        csv_of(&store, table, &mut zip)?;
    }
    for document in DOCUMENTS {
        zip.start_file(document, packed)?;
        write_document(&store, &mut zip)?;
    }
    let (mut written, mut wrong) = (Vec::new(), Vec::new());
    for clip in store.all_clips()? {
        zip.start_file(format!("clips/{}.footfalls.csv", clip.id), packed)?;
        zip.write_all(footfalls(&store, &clip)?.as_bytes())?;
        let content = &clip.footage.content;
        if films == Films::Beside || clip.footage.file.is_empty() || written.contains(content) {
            continue;
        }
        written.push(content.clone());
        let path = store.footage_folder(content).join(&clip.footage.file);
        if !path.is_file() {
            wrong.push(format!("the film of clip {}, {}, is missing", clip.id, clip.name));
            continue;
        }
        zip.start_file(format!("footage/{content}/{}", clip.footage.file), plain)?;
        if film(&path, &mut zip)? != *content {
            wrong.push(format!("the film of clip {}, {}, is damaged", clip.id, clip.name));
        }
    }
    if !wrong.is_empty() {
        zip.start_file("not-whole.txt", packed)?;
        zip.write_all(wrong.join("\n").as_bytes())?;
    }
    zip.finish()?.flush()?;
    Ok(wrong)
}

/// Words that a spreadsheet would take for a formula are words.
fn harmless(text: &str) -> String {
    let formula = text.starts_with(['=', '+', '-', '@', '\t', '\r']);
    if formula { format!("'{text}") } else { text.to_owned() }
}

/// Packs a film and gives the hash of what was packed.
fn film(path: &Path, zip: &mut impl Write) -> Result<String> {
    let cannot = |cause| ArchiveError::Pack { path: path.to_owned(), cause };
    copied(File::open(path).map_err(cannot)?, zip).map_err(|e| cannot(e.into()))
}

/// Footfalls of a clip in true seconds.
fn footfalls(store: &Store, clip: &Clip) -> Result<String> {
    let horse = reading::horse_of(store, clip)?;
    let marks = store.marks(clip.id)?;
    let (mut footfalls, mut options) = reading::on_true_clock(clip, horse.as_ref(), &marks);
    crate::clip::calibration::apply(clip, &marks, &mut footfalls, &mut options);
    let header = Header {
        frame_rate: clock::capture_rate(clip),
        withers: options.withers,
        rein: options.rein,
        ..Header::default()
    };
    Ok(footfall_csv::write(&FootfallTable { footfalls, header, without_limb: Vec::new() }))
}

/// The tables as one JSON document.
fn write_document(store: &Store, out: &mut impl Write) -> Result<()> {
    write!(out, "{{\"schema\":\"{SCHEMA}\",\"version\":{VERSION},\"tables\":[")?;
    for (k, table) in table_names().enumerate() {
        let comma = if k == 0 { "" } else { "," };
        write!(out, "{comma}{{\"name\":\"{table}\",\"columns\":")?;
        serde_json::to_writer(&mut *out, &store.columns(table)?)?;
        write!(out, ",\"rows\":[")?;
        let mut first = true;
        store.rows(table, |row| {
            if !std::mem::take(&mut first) {
                out.write_all(b",")?;
            }
            Ok::<_, ArchiveError>(serde_json::to_writer(&mut *out, row)?)
        })?;
        write!(out, "]}}")?;
    }
    Ok(write!(out, "]}}")?)
}

fn csv_of(store: &Store, table: &str, out: &mut impl Write) -> Result<()> {
    let mut out = csv::Writer::from_writer(out);
    out.write_record(store.columns(table)?)?;
    store.rows(table, |row| {
        Ok::<_, ArchiveError>(out.write_record(row.iter().map(|cell| match cell {
            serde_json::Value::Null => String::new(),
            serde_json::Value::String(s) => harmless(s),
            serde_json::Value::Object(o) => {
                o.get("hex").and_then(|h| h.as_str()).unwrap_or_default().to_owned()
            }
            other => other.to_string(),
        }))?)
    })?;
    Ok(out.flush()?)
}

#[cfg(test)]
mod tests {
    use super::harmless;

    #[test]
    fn words_are_never_formulas() {
        for bad in ["=1+1", "+49 30", "-5", "@here", "\t=1", "\r=1"] {
            assert_eq!(harmless(bad), format!("'{bad}"));
        }
        for word in ["Priel", "", "a=b", "'quoted"] {
            assert_eq!(harmless(word), word);
        }
    }
}
