//! `umlauf check`: whether a yard is whole.

use std::path::PathBuf;

use anyhow::{Context as _, Result};
use clap::Args;
use umlauf_store::Store;

use crate::backup::{daily, sound};
use crate::check::finding::{Finding, PUT_BACK};
use crate::check::{films, tables};
use crate::cli::input::data_folder;
use crate::held::Held;

/// Options of a check.
#[derive(Args)]
pub struct Check {
    /// Folder of the yard (default: `umlauf` in your data folder).
    #[arg(long)]
    data: Option<PathBuf>,
    /// Mend what can be mended; Umlauf must not be running on the yard.
    #[arg(long)]
    mend: bool,
}

/// Looks at every table, every film, every copy and every backup that is at hand, and says what is wrong.
///
/// # Errors
/// When something is wrong that was not mended, or the yard cannot be opened.
pub fn run(args: &Check) -> Result<()> {
    let data = args.data.clone().map_or_else(|| data_folder("umlauf"), Ok)?;
    let at = data.display();
    anyhow::ensure!(data.is_dir(), "there is no yard in {at}; give its folder with --data");
    let _held = if args.mend { Some(Held::hold(&data, "a check")?) } else { None };
    anyhow::ensure!(
        data.join(Store::FILE).exists() || data.join("footage").is_dir(),
        "there is no yard in {at}; give its folder with --data"
    );
    let store = Store::open(&data, None)
        .with_context(|| format!("the yard in {at} cannot be opened. {PUT_BACK}"))?;
    let found = look(&store, args.mend)?;
    let clips = store.all_clips().map_or(0, |c| c.len());
    if found.is_empty() {
        println!(
            "the yard in {at} is whole: {clips} clips, every table, film, copy and backup looked at"
        );
        return Ok(());
    }
    for finding in &found {
        println!("{finding}");
    }
    let left = found.iter().filter(|f| !f.mended).count();
    anyhow::ensure!(left == 0, "{left} of {} findings are not mended", found.len());
    Ok(())
}

fn look(store: &Store, mend: bool) -> Result<Vec<Finding>> {
    let mut found = tables::tables(store, false, mend)?;
    // A file that cannot be read tells of no films.
    let Ok(clips) = store.all_clips() else { return Ok(found) };
    let runtime = tokio::runtime::Runtime::new()?;
    for clip in clips.iter().filter(|c| !c.footage.file.is_empty()) {
        found.extend(films::film(store, clip));
        found.extend(runtime.block_on(films::copy(store, clip, mend))?);
    }
    found.extend(films::of_no_clip(store)?);
    if let Some(chosen) = daily::folder(store)? {
        found.extend(sound::days(store, &chosen)?);
        found.extend(sound::films(store, &chosen, mend)?);
    }
    Ok(found)
}
