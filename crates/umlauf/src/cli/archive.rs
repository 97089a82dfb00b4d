//! `umlauf export` and `umlauf restore`: the yard as a ZIP and back.

use std::path::PathBuf;

use anyhow::{Context as _, Result};
use clap::Args;
use umlauf_store::Store;

use crate::archive::export;
use crate::archive::restore::{self, Restored};
use crate::cli::input::data_folder;
use crate::held::Held;
use crate::leftovers::swept;

/// Options of an archive.
#[derive(Args)]
pub struct Archive {
    /// The ZIP.
    file: PathBuf,
    /// Folder of the yard (default: `umlauf` in your data folder).
    #[arg(long)]
    data: Option<PathBuf>,
}

fn folder(args: &Archive) -> Result<PathBuf> {
    args.data.clone().map_or_else(|| data_folder("umlauf"), Ok)
}

fn open_yard(args: &Archive) -> Result<Store> {
    let data = folder(args)?;
    Store::open(&data, None)
        .with_context(|| format!("the yard in {} cannot be opened", data.display()))
}

/// Writes the yard to a ZIP.
///
/// # Errors
/// When the yard cannot be read or the ZIP not written.
pub fn export(args: &Archive) -> Result<()> {
    let store = open_yard(args)?;
    let cannot = || format!("{} cannot be written", args.file.display());
    // Half a ZIP must not take the place of a whole one.
    let part = args.file.with_extension("part");
    let file = std::fs::File::create(&part).with_context(cannot)?;
    if let Err(e) = export::export(&store, file) {
        let _ = std::fs::remove_file(&part);
        return Err(e.into());
    }
    std::fs::rename(&part, &args.file).with_context(cannot)?;
    println!("the yard is in {}", args.file.display());
    Ok(())
}

/// Puts a yard back from a ZIP.
///
/// # Errors
/// When the ZIP is damaged or the yard is not empty.
pub fn restore(args: &Archive) -> Result<()> {
    let _held = Held::hold(&folder(args)?, "a restore")?;
    let store = open_yard(args)?;
    swept(&store)?;
    let Restored { horses, clips, films, missing } = restore::restore(&store, &args.file)
        .with_context(|| format!("{} is not put back", args.file.display()))?;
    let lacks = match missing {
        0 => String::new(),
        1 => "; 1 film is not in the ZIP".to_owned(),
        n => format!("; {n} films are not in the ZIP"),
    };
    println!(
        "the yard is back: {horses} horses, {clips} clips, {films} films{lacks}; copies for stepping are made when it is opened"
    );
    Ok(())
}
