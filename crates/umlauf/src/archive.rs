//! The whole yard as one ZIP that another Umlauf, or a person with a spreadsheet, can read.

use std::fs::File;
use std::io::{BufReader, BufWriter, Read as _, Seek, Write};
use std::path::{Path, PathBuf};

use serde::{Deserialize, Serialize};
use umlauf_gait::marks::footfall_csv::{self, FootfallTable, Header};
use umlauf_store::Store;
use umlauf_store::archive::{Table, UNNUMBERED, VERSION};
use umlauf_store::clip::ProxyState;
use umlauf_store::job::JobKind;
use zip::write::SimpleFileOptions;
use zip::{CompressionMethod, ZipArchive, ZipWriter};

use crate::archive_error::{ArchiveError, SCHEMA};
use crate::clip::{clock, reading};

type Result<T> = std::result::Result<T, ArchiveError>;

/// Largest table document that is read back.
const MOST_BYTES: u64 = 1 << 30;

#[derive(Deserialize, Serialize)]
struct Yard {
    schema: String,
    /// Version of the store that wrote the tables.
    #[serde(default = "unnumbered")]
    version: usize,
    tables: Vec<Table>,
}

const fn unnumbered() -> usize {
    UNNUMBERED
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
    serde_json::to_writer(&mut zip, &Yard { schema: SCHEMA.to_owned(), version: VERSION, tables })?;
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

/// What came back.
#[derive(Clone, Copy, Debug)]
pub struct Restored {
    /// Horses.
    pub horses: usize,
    /// Clips.
    pub clips: usize,
    /// Films.
    pub films: usize,
}

/// Puts a yard from a ZIP into an empty one, all or nothing; copies for stepping are made when it
/// is opened.
///
/// # Errors
/// When the ZIP is none of a yard or is damaged, or the yard is not empty.
pub fn restore(store: &Store, path: &Path) -> Result<Restored> {
    let file =
        File::open(path).map_err(|cause| ArchiveError::Open { path: path.to_owned(), cause })?;
    let mut zip = ZipArchive::new(BufReader::new(file)).map_err(ArchiveError::NoZip)?;
    let document = zip.by_name("yard.json").map_err(|_| ArchiveError::NoYard)?;
    if document.size() > MOST_BYTES {
        return Err(ArchiveError::TooLarge);
    }
    let yard: Yard = serde_json::from_reader(BufReader::new(document.take(MOST_BYTES)))
        .map_err(ArchiveError::Unreadable)?;
    if yard.schema != SCHEMA {
        return Err(ArchiveError::OtherVersion(short(&yard.schema)));
    }
    let mut written = Vec::new();
    let done = films(store, &mut zip, &yard, &mut written)
        .and_then(|()| Ok(store.put_tables(&yard.tables, yard.version)?));
    if let Err(e) = done {
        // Nothing of it stays.
        for path in &written {
            if let Err(e) = std::fs::remove_file(path) {
                tracing::warn!("{} stays behind: {e}", path.display());
            }
        }
        return Err(e);
    }
    let clips = store.all_clips()?;
    for clip in clips.iter().filter(|c| !c.footage.file.is_empty()) {
        store.set_proxy(clip.id, ProxyState::Pending, 0)?;
        store.add_job(clip.id, JobKind::Proxy)?;
        store.add_job(clip.id, JobKind::Filmstrip)?;
    }
    let horses = store.horses()?.len();
    Ok(Restored { horses, clips: clips.len(), films: written.len() })
}

/// Unpacks the films that clips name, each checked against its hash.
fn films(
    store: &Store,
    zip: &mut ZipArchive<BufReader<File>>,
    yard: &Yard,
    written: &mut Vec<PathBuf>,
) -> Result<()> {
    let Some(clips) = yard.tables.iter().find(|t| t.name == "clip") else { return Ok(()) };
    let column = |name: &str| clips.columns.iter().position(|c| c == name);
    let (Some(content), Some(file), Some(bytes)) =
        (column("content"), column("file"), column("bytes"))
    else {
        return Err(ArchiveError::NoColumn);
    };
    for row in &clips.rows {
        let text = |k: usize| row.get(k).and_then(|v| v.as_str()).unwrap_or("");
        let (content, name) = (text(content), text(file));
        if name.is_empty() {
            continue;
        }
        // Names come from outside: nothing may lead out of the yard's folder.
        let safe = content.len() == 64
            && content.bytes().all(|b| b.is_ascii_hexdigit())
            && !name.contains(['/', '\\'])
            && !name.starts_with('.');
        if !safe {
            return Err(ArchiveError::FilmName);
        }
        let folder = store.footage_folder(content);
        let to = folder.join(name);
        let Ok(packed) = zip.by_name(&format!("footage/{content}/{name}")) else { continue };
        if to.exists() {
            continue;
        }
        std::fs::create_dir_all(&folder)?;
        written.push(to.clone());
        let most = row.get(bytes).and_then(serde_json::Value::as_u64).unwrap_or(0);
        let hash = unpack(packed.take(most.saturating_add(1)), &to)
            .map_err(|cause| ArchiveError::FilmWrite { name: short(name), cause })?;
        if hash != content {
            return Err(ArchiveError::FilmDamaged(short(name)));
        }
    }
    Ok(())
}

fn short(name: &str) -> String {
    name.chars().take(40).collect()
}

/// Writes what is read, and its BLAKE3 hash in hexadecimal.
fn unpack(mut from: impl std::io::Read, to: &Path) -> std::io::Result<String> {
    let mut out = File::create(to)?;
    let mut hash = blake3::Hasher::new();
    let mut block = vec![0; 1 << 16];
    loop {
        let n = from.read(&mut block)?;
        if n == 0 {
            break;
        }
        hash.update(&block[..n]);
        out.write_all(&block[..n])?;
    }
    out.sync_all()?;
    Ok(hash.finalize().to_hex().to_string())
}
