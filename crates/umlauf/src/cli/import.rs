//! `umlauf import`: the footage of a folder into a yard.

use std::path::PathBuf;

use anyhow::{Context as _, Result};
use clap::Args;
use umlauf_store::Store;

use crate::app::App;
use crate::cli::input::data_folder;
use crate::dates;
use crate::intake::take::Taken;
use crate::intake::watch;

/// Options of an import.
#[derive(Args)]
pub struct Import {
    /// Folder with the footage; it is copied, the folder is left as it is.
    folder: PathBuf,
    /// Horse in whose sessions the clips go, by the day they were filmed; without one they wait
    /// in the yard to be sorted.
    #[arg(long)]
    horse: Option<String>,
    /// Folder of the yard (default: `umlauf` in your data folder).
    #[arg(long)]
    data: Option<PathBuf>,
}

/// Takes every file of a folder that is footage.
///
/// # Errors
/// When the yard or the folder cannot be read, or no file could be used.
pub fn run(args: &Import) -> Result<()> {
    let data = args.data.clone().map_or_else(|| data_folder("umlauf"), Ok)?;
    let store = Store::open(&data, None)
        .with_context(|| format!("the yard in {} cannot be opened", data.display()))?;
    let horse = match &args.horse {
        Some(name) => {
            let all = store.horses()?;
            let horse = all.iter().find(|h| h.card.name.eq_ignore_ascii_case(name));
            Some(horse.with_context(|| format!("there is no horse {name}; add it in the yard"))?.id)
        }
        None => None,
    };
    let files = watch::look(&args.folder)
        .with_context(|| format!("{} cannot be read", args.folder.display()))?;
    let app = App::new(store)?;
    let (mut new, mut known, mut refused) = (0, 0, 0);
    for file in &files {
        let name = file.path.display();
        match tokio::runtime::Runtime::new()?.block_on(watch::take_copy(&app, file, None)) {
            Ok(Some(Taken::New(id))) => {
                new += 1;
                println!("{name}: clip {id}{}", sort(&app.store, id, horse)?);
            }
            Ok(_) => known += 1,
            Err(problem) => {
                refused += 1;
                println!("{name}: {}", problem);
            }
        }
    }
    println!("{new} new, {known} known already, {refused} refused");
    anyhow::ensure!(
        refused == 0 || new + known > 0,
        "no file of {} could be used",
        args.folder.display()
    );
    Ok(())
}

/// Puts a clip into its horse's session of the day it was filmed, when both are known.
fn sort(store: &Store, clip: i64, horse: Option<i64>) -> Result<String> {
    let recorded = store.clip(clip)?.footage.recorded;
    let day = recorded.as_deref().and_then(dates::of_stamp);
    Ok(match (horse, day) {
        (Some(horse), Some(day)) => {
            store.move_clip(clip, store.session_on(horse, &day)?.id)?;
            format!(", session of {day}")
        }
        _ => ", waits in the yard to be sorted".to_owned(),
    })
}
