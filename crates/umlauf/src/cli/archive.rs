//! `umlauf export` and `umlauf restore`: the yard as a ZIP and back.

use std::io::BufWriter;
use std::path::{Path, PathBuf};

use anyhow::{Context as _, Result};
use clap::Args;
use jiff::Zoned;
use tempfile::NamedTempFile;
use umlauf_store::Store;
use zip::ZipWriter;

use crate::archive::export::{self, Films};
use crate::archive::one_horse::{self, Which};
use crate::archive::restore::{self, Restored};
use crate::backup::daily;
use crate::backup::put_back;
use crate::cli::input::data_folder;
use crate::held::Held;
use crate::leftovers::swept;

/// Options of an archive.
#[derive(Args)]
pub struct Archive {
    /// The ZIP; for `backup` and `restore` it may be a folder of backups.
    file: PathBuf,
    /// Folder of the yard (default: `umlauf` in your data folder).
    #[arg(long)]
    data: Option<PathBuf>,
}

fn folder(args: &Archive) -> Result<PathBuf> {
    args.data.clone().map_or_else(|| data_folder("umlauf"), Ok)
}

/// The yard that is there: none is made.
fn open_yard(args: &Archive) -> Result<Store> {
    let data = folder(args)?;
    anyhow::ensure!(
        data.join(Store::FILE).is_file(),
        "there is no yard in {}; give its folder with --data",
        data.display()
    );
    opened(&data)
}

fn opened(data: &Path) -> Result<Store> {
    Store::open(data, None)
        .with_context(|| format!("the yard in {} cannot be opened", data.display()))
}

/// Options of a restore.
#[derive(Args)]
pub struct Restore {
    #[command(flatten)]
    from: Archive,
    /// Only this horse, beside what is in the yard.
    #[arg(long)]
    horse: Option<String>,
}

/// Writes the yard to a ZIP.
///
/// # Errors
/// When the yard cannot be read or the ZIP not written; and when a film is missing in it or damaged, after the rest is
/// written.
pub fn export(args: &Archive) -> Result<()> {
    let store = open_yard(args)?;
    let cannot = || format!("{} cannot be written", args.file.display());
    // Half a ZIP must not take the place of a whole one, nor anything else.
    let beside = args.file.parent().filter(|p| !p.as_os_str().is_empty());
    let part =
        NamedTempFile::new_in(beside.unwrap_or_else(|| Path::new("."))).with_context(cannot)?;
    let out = BufWriter::with_capacity(1 << 18, part.reopen().with_context(cannot)?);
    let wrong = export::export(&store, ZipWriter::new(out), Films::Inside)?;
    part.as_file().sync_all().with_context(cannot)?;
    part.persist(&args.file).with_context(cannot)?;
    println!("the yard is in {}", args.file.display());
    anyhow::ensure!(wrong.is_empty(), "not all of it: {}", wrong.join("; "));
    Ok(())
}

/// Brings the yard's backup of today into a folder, and writes a ZIP where a file is named.
///
/// # Errors
/// As [`export`]; when the backup cannot be written or not be read back.
pub fn back_up(args: &Archive) -> Result<()> {
    if !args.file.is_dir() {
        return export(args);
    }
    let store = open_yard(args)?;
    let last = daily::back_up(&store, &args.file, Zoned::now().date())
        .with_context(|| format!("no backup in {}", args.file.display()))?;
    println!("the backup of {} is in {}, and was read back", last.day, args.file.display());
    anyhow::ensure!(last.lacks.is_empty(), "not all of it: {}", last.lacks.join("; "));
    Ok(())
}

/// Puts a yard back, or one horse of it, from a ZIP, or from the latest sound backup in a folder.
///
/// # Errors
/// When the ZIP is damaged or the yard is not empty.
pub fn restore(args: &Restore) -> Result<()> {
    let Restore { from: args, horse } = args;
    let data = folder(args)?;
    let _held = Held::hold(&data, "a restore")?;
    let store = opened(&data)?;
    swept(&store)?;
    if let Some(name) = horse {
        return restore_horse(&store, &args.file, name);
    }
    let (restored, passed_over) = if args.file.is_dir() {
        put_back::put_back(&store, &args.file)
    } else {
        restore::restore(&store, &args.file).map(|restored| (restored, vec![]))
    }
    .with_context(|| format!("{} is not put back", args.file.display()))?;
    let lacks: String =
        passed_over.into_iter().chain(restored.lacks()).map(|lacks| format!("; {lacks}")).collect();
    let Restored { horses, clips, films, .. } = restored;
    println!(
        "the yard is back: {horses} horses, {clips} clips, {films} films{lacks}; copies for stepping are made when it is opened"
    );
    Ok(())
}

fn restore_horse(store: &Store, from: &Path, name: &str) -> Result<()> {
    let which = Which::Name(name);
    let (came, passed_over) = if from.is_dir() {
        put_back::one_horse(store, from, which)
    } else {
        one_horse::restore(store, from, which, None).map(|came| (came, vec![]))
    }
    .with_context(|| format!("{name} does not come back from {}", from.display()))?;
    let lacks: String = passed_over
        .into_iter()
        .chain(came.with.lacks())
        .map(|lacks| format!("; {lacks}"))
        .collect();
    let Restored { clips, films, .. } = came.with;
    println!(
        "{} is back: {clips} clips, {films} films that were not here{lacks}; copies for stepping are made when the yard is opened",
        came.name
    );
    Ok(())
}
