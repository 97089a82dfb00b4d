//! `umlauf suggest`: footfalls that a film tells of by itself, as a table to begin with.
//!
//! What is seen has a limb. A beat that only sounds has none: the table's `limb` stays empty until
//! someone says whose it was.

use std::path::PathBuf;

use anyhow::{Context as _, Result, ensure};
use clap::{Args, ValueEnum};
use umlauf_footage::probe;
use umlauf_gait::base::limb::Side;

use crate::cli::input::positive;
use crate::suggest::search::{Ask, search};
use crate::suggest::suggestion::Suggested;
use crate::suggest::table::table;

/// Options of a search.
#[derive(Args)]
pub struct Suggest {
    /// The film.
    footage: PathBuf,
    /// What is looked at: picture, sound, or both.
    #[arg(long = "use", value_delimiter = ',', default_value = "picture,sound")]
    sources: Vec<Source>,
    /// The side of the horse that is seen, where the way it goes does not tell it (rein-back).
    #[arg(long, value_parser = side)]
    near: Option<Side>,
    /// Distance of the camera from the horse, m: sound comes later by its way.
    #[arg(long, value_parser = positive)]
    distance: Option<f64>,
    /// The film is slowed by this factor.
    #[arg(long, value_parser = positive)]
    slow_factor: Option<f64>,
    /// Print one JSON document instead of a table.
    #[arg(long)]
    json: bool,
}

/// Where footfalls are looked for.
#[derive(Clone, Copy, Debug, PartialEq, Eq, ValueEnum)]
enum Source {
    /// Hooves that stand still in the pictures.
    Picture,
    /// Hoofbeats in the sound.
    Sound,
}

fn side(text: &str) -> Result<Side, String> {
    match text {
        "left" => Ok(Side::Left),
        "right" => Ok(Side::Right),
        _ => Err("left or right".to_owned()),
    }
}

/// Looks at a film, listens to it, and prints what was found.
///
/// # Errors
/// When the film cannot be read.
pub fn run(args: &Suggest) -> Result<()> {
    let found = tokio::runtime::Runtime::new()?.block_on(searched(args))?;
    if args.json {
        println!("{}", serde_json::to_string_pretty(&found)?);
    } else {
        print!("{}", table(&found));
    }
    Ok(())
}

async fn searched(args: &Suggest) -> Result<Suggested> {
    let path = &args.footage;
    let probe =
        probe::probe(path).await.with_context(|| format!("{} cannot be read", path.display()))?;
    let slow = args.slow_factor.unwrap_or(1.0);
    ensure!(slow < 1e3, "--slow-factor {slow}: more than 1000 is no film");
    let ask = Ask {
        picture: args.sources.contains(&Source::Picture),
        sound: args.sources.contains(&Source::Sound),
        near: args.near,
        distance_m: args.distance,
        slow,
    };
    search(path, &probe, ask, &|_| ()).await
}
