//! `umlauf export` and `umlauf restore`: the yard as a ZIP and back.

use std::path::PathBuf;

use anyhow::{Context as _, Result};
use clap::Args;
use umlauf_store::Store;

use crate::archive;
use crate::cli::input::data_folder;

/// Options of an archive.
#[derive(Args)]
pub struct Archive {
    /// The ZIP.
    file: PathBuf,
    /// Folder of the yard (default: `umlauf` in your data folder).
    #[arg(long)]
    data: Option<PathBuf>,
}

fn open_yard(args: &Archive) -> Result<Store> {
    let data = args.data.clone().map_or_else(|| data_folder("umlauf"), Ok)?;
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
    if let Err(e) = archive::export(&store, file) {
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
    let archive::Restored { horses, clips, films } =
        archive::restore(&open_yard(args)?, &args.file)
            .with_context(|| format!("{} is not put back", args.file.display()))?;
    println!(
        "the yard is back: {horses} horses, {clips} clips, {films} films; copies for stepping are made when it is opened"
    );
    Ok(())
}
