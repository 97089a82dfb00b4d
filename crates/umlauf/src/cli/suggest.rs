//! `umlauf suggest`: footfalls that a film tells of by itself, as a table to begin with.
//!
//! What is seen or felt has a limb. A beat that only sounds has none: the table's `limb` stays empty until
//! someone says whose it was. A folder is gone through film by film, as many at once as there are cores.

use std::path::{Path, PathBuf};

use anyhow::{Context as _, Result, ensure};
use clap::{Args, ValueEnum};
use tokio::task::JoinSet;
use umlauf_footage::probe;
use umlauf_gait::base::limb::Side;
use umlauf_gait::marks::footfall_csv;

use crate::cli::input::{positive, read};
use crate::intake::watch;
use crate::suggest::felt::sensed;
use crate::suggest::search::{Ask, Given, search};
use crate::suggest::suggestion::Suggested;
use crate::suggest::table::table;
use crate::suggest::worn::{hooves, wraps};

/// Options of a search.
#[derive(Args)]
pub struct Suggest {
    /// The film, or a folder of films.
    footage: PathBuf,
    /// Folder to write into, a table a film; a folder of films needs it.
    #[arg(long)]
    into: Option<PathBuf>,
    /// What is looked at: picture, sound, sensor, or some of them.
    #[arg(long = "use", value_delimiter = ',', default_value = "picture,sound,sensor")]
    sources: Vec<Source>,
    /// A table of what sensors felt meanwhile: time_s,limb,ax,ay,az (m/s²).
    #[arg(long)]
    sensor: Option<PathBuf>,
    /// A table of footfalls that are labelled already; the others are told about them.
    #[arg(long)]
    known: Option<PathBuf>,
    /// A table of the wraps that limbs wear: limb,time_s,x_px,y_px (one click on each in the film), or
    /// limb,colour (#rrggbb).
    #[arg(long)]
    wraps: Option<PathBuf>,
    /// A table of hooves as they stand: limb,time_s,x_px,y_px (one click on each limb's in the film); they are
    /// followed where they are not found by themselves.
    #[arg(long)]
    hooves: Option<PathBuf>,
    /// Height of the horse at the withers, m; goes into the table.
    #[arg(long, value_parser = positive)]
    withers: Option<f64>,
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
    /// Sensors that the horse wore.
    Sensor,
}

fn side(text: &str) -> Result<Side, String> {
    match text {
        "left" => Ok(Side::Left),
        "right" => Ok(Side::Right),
        _ => Err("left or right".to_owned()),
    }
}

/// Looks at a film, listens to it, and prints what was found; or goes through a folder of films.
///
/// # Errors
/// When the film, or a table given with it, cannot be read; for a folder, when any of its films cannot.
pub fn run(args: &Suggest) -> Result<()> {
    let slow = args.slow_factor.unwrap_or(1.0);
    ensure!(slow < 1e3, "--slow-factor {slow}: more than 1000 is no film");
    ensure!(
        args.sensor.is_some() || args.sources != [Source::Sensor],
        "--use sensor needs --sensor TRACE.csv"
    );
    let ask = Ask {
        picture: args.sources.contains(&Source::Picture),
        sound: args.sources.contains(&Source::Sound),
        near: args.near,
        distance_m: args.distance,
        slow,
    };
    let runtime = tokio::runtime::Runtime::new()?;
    if args.footage.is_dir() {
        ensure!(
            [&args.sensor, &args.known, &args.wraps, &args.hooves].iter().all(|a| a.is_none()),
            "--sensor, --known, --wraps and --hooves belong to one film, not to a folder"
        );
        let into = args.into.as_deref().context("a folder of films needs --into FOLDER")?;
        return runtime.block_on(all(args, ask, into));
    }
    let found = runtime.block_on(searched(args.footage.clone(), ask, given(args)?))?;
    let text = document(&found, args)?;
    match &args.into {
        Some(into) => write(into, &args.footage, args.json, &text),
        None => {
            print!("{text}");
            Ok(())
        }
    }
}

fn given(args: &Suggest) -> Result<Given> {
    let mut out = Given::default();
    if let Some(path) = args.sensor.as_ref().filter(|_| args.sources.contains(&Source::Sensor)) {
        out.sensed = Some(sensed(&read(path)?).with_context(|| path.display().to_string())?);
    }
    if let Some(path) = &args.known {
        let table = footfall_csv::read(&read(path)?).with_context(|| path.display().to_string())?;
        out.known = table.footfalls;
    }
    if let Some(path) = &args.wraps {
        out.wraps = wraps(&read(path)?).with_context(|| path.display().to_string())?;
    }
    if let Some(path) = &args.hooves {
        out.hooves = hooves(&read(path)?).with_context(|| path.display().to_string())?;
    }
    Ok(out)
}

fn document(found: &Suggested, args: &Suggest) -> Result<String> {
    if args.json {
        return Ok(serde_json::to_string_pretty(found)? + "\n");
    }
    let withers = args.withers.map_or(String::new(), |m| format!("# withers_m: {m}\n"));
    Ok(withers + &table(found))
}

fn write(into: &Path, film: &Path, json: bool, text: &str) -> Result<()> {
    std::fs::create_dir_all(into).with_context(|| format!("{} cannot be made", into.display()))?;
    let name = film.file_stem().unwrap_or_default().to_string_lossy().into_owned();
    let ending = if json { "suggest.json" } else { "footfalls.csv" };
    let path = into.join(format!("{name}.{ending}"));
    std::fs::write(&path, text).with_context(|| format!("{} cannot be written", path.display()))
}

/// Goes through the films of a folder, as many at once as there are cores, and says a line of each. A film that
/// cannot be read does not keep the others from being gone through.
async fn all(args: &Suggest, ask: Ask, into: &Path) -> Result<()> {
    let films = watch::look(&args.footage)
        .with_context(|| format!("{} cannot be read", args.footage.display()))?;
    ensure!(!films.is_empty(), "{}: no films in it", args.footage.display());
    let (mut waiting, all) = (films.iter().map(|f| f.path.clone()), films.len());
    let at_once = std::thread::available_parallelism().map_or(1, std::num::NonZero::get);
    let mut running = JoinSet::new();
    let mut begin = |running: &mut JoinSet<(PathBuf, Result<Suggested>)>| {
        if let Some(film) = waiting.next() {
            running.spawn(async move {
                let found = searched(film.clone(), ask, Given::default()).await;
                (film, found)
            });
        }
    };
    for _ in 0..at_once {
        begin(&mut running);
    }
    let mut failed = 0;
    while let Some(done) = running.join_next().await {
        let (film, found) = done?;
        let name = film.file_name().unwrap_or_default().to_string_lossy().into_owned();
        let written = found.and_then(|found| {
            write(into, &film, args.json, &document(&found, args)?)?;
            Ok(found)
        });
        match written {
            Ok(found) => println!("{name}: {}", in_words(&found)),
            Err(e) => {
                failed += 1;
                println!("{name}: {e:#}");
            }
        }
        begin(&mut running);
    }
    ensure!(failed == 0, "{failed} of {all} films could not be gone through");
    Ok(())
}

fn in_words(found: &Suggested) -> String {
    if let Some(why) = &found.refused {
        return format!("nothing: {why}");
    }
    let limbs = found.footfalls.iter().filter(|f| f.limb.is_some()).count();
    let gait = found.gait.map_or(String::new(), |gait| format!(", {gait}"));
    let beats = found.footfalls.len() - limbs;
    let beats = if beats > 0 { format!(", {beats} beats of no limb") } else { String::new() };
    format!("{limbs} footfalls{gait}{beats}")
}

async fn searched(path: PathBuf, ask: Ask, given: Given) -> Result<Suggested> {
    let probe =
        probe::probe(&path).await.with_context(|| format!("{} cannot be read", path.display()))?;
    search(&path, &probe, ask, &given, &|_| ()).await
}
