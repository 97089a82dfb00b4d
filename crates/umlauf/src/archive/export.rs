//! The whole yard as one ZIP that another Umlauf, or a person with a spreadsheet, can read.

use std::fs::File;
use std::io::{BufWriter, Seek, Write};

use serde::Serialize;
use umlauf_gait::marks::footfall_csv::{self, FootfallTable, Header};
use umlauf_store::Store;
use umlauf_store::archive::{Table, VERSION};
use zip::write::SimpleFileOptions;
use zip::{CompressionMethod, ZipWriter};

use crate::archive_error::{ArchiveError, SCHEMA};
use crate::clip::{clock, reading};

type Result<T> = std::result::Result<T, ArchiveError>;

#[derive(Serialize)]
struct Yard {
    schema: &'static str,
    /// Version of the store that wrote the tables.
    version: usize,
    tables: Vec<Table>,
}

const README: &str = "A yard of Umlauf.

yard.json          everything the coach has said and marked, table by table; what Umlauf reads back
tables/*.csv       the same tables for a spreadsheet (blobs as hexadecimal)
clips/*.csv        footfalls of each clip: limb, on_s, off_s in true seconds, x_m, y_m where known
footage/HASH/...   the footage as it came, named by its BLAKE3 hash (column content of the table clip)

Times in yard.json are microseconds of each file's own clock. Figures are not in here: they are
worked out from the marks. Put it back into an empty folder with `umlauf restore yard.zip --data FOLDER`, or on
the page Setup of an empty yard.
";

/// Writes the yard to a ZIP.
///
/// # Errors
/// When the store or a file cannot be read, or the ZIP not written.
pub fn export(store: &Store, out: impl Write + Seek) -> Result<()> {
    let mut zip = ZipWriter::new(BufWriter::new(out));
    let packed = SimpleFileOptions::default().compression_method(CompressionMethod::Deflated);
    // Footage is packed already.
    let plain =
        SimpleFileOptions::default().compression_method(CompressionMethod::Stored).large_file(true);
    zip.start_file("README.txt", packed)?;
    zip.write_all(README.as_bytes())?;
    let tables = store.tables()?;
    for table in &tables {
        zip.start_file(format!("tables/{}.csv", table.name), packed)?;
        zip.write_all(&csv_of(table)?)?;
    }
    zip.start_file("yard.json", packed.large_file(true))?;
    serde_json::to_writer(&mut zip, &Yard { schema: SCHEMA, version: VERSION, tables })?;
    let mut written = Vec::new();
    for clip in store.all_clips()? {
        let horse = reading::horse_of(store, &clip)?;
        let marks = store.marks(clip.id)?;
        let (mut footfalls, mut options) = reading::on_true_clock(&clip, horse.as_ref(), &marks);
        crate::clip::calibration::apply(&clip, &marks, &mut footfalls, &mut options);
        let header = Header {
            frame_rate: clock::capture_rate(&clip),
            withers: options.withers,
            rein: options.rein,
            ..Header::default()
        };
        zip.start_file(format!("clips/{}.footfalls.csv", clip.id), packed)?;
        zip.write_all(
            footfall_csv::write(&FootfallTable { footfalls, header, without_limb: Vec::new() })
                .as_bytes(),
        )?;
        let content = &clip.footage.content;
        let path = store.footage_folder(content).join(&clip.footage.file);
        if !clip.footage.file.is_empty() && !written.contains(content) && path.is_file() {
            zip.start_file(format!("footage/{content}/{}", clip.footage.file), plain)?;
            File::open(&path)
                .and_then(|mut film| std::io::copy(&mut film, &mut zip))
                .map_err(|cause| ArchiveError::Pack { path, cause })?;
            written.push(content.clone());
        }
    }
    zip.finish()?.flush()?;
    Ok(())
}

fn csv_of(table: &Table) -> Result<Vec<u8>> {
    let mut out = csv::Writer::from_writer(Vec::new());
    out.write_record(&table.columns)?;
    for row in &table.rows {
        out.write_record(row.iter().map(|cell| match cell {
            serde_json::Value::Null => String::new(),
            serde_json::Value::String(s) => s.clone(),
            serde_json::Value::Object(o) => {
                o.get("hex").and_then(|h| h.as_str()).unwrap_or_default().to_owned()
            }
            other => other.to_string(),
        }))?;
    }
    out.into_inner().map_err(|e| e.into_error().into())
}
