//! The `umlauf` program: one binary for the command line and the server.

use std::net::{IpAddr, Ipv4Addr};
use std::path::{Path, PathBuf};
use std::process::ExitCode;

use anyhow::{Context as _, Result};
use clap::{Args, Parser, Subcommand};
use umlauf::analyse::{self, Given};
use umlauf::app::App;
use umlauf::archive;
use umlauf::click;
use umlauf::document::document;
use umlauf::jobs::Taken;
use umlauf::serve::{Serving, serve};
use umlauf::summary::summary;
use umlauf::watch;
use umlauf_gait::Side;
use umlauf_gait::base::schools::Schools;
use umlauf_gait::base::units::{FrameRate, Metres, Seconds};
use umlauf_gait::marks::{captions, marks_csv};
use umlauf_store::Store;

/// Times a horse's footfalls and says what they mean.
#[derive(Parser)]
#[command(version)]
struct Cli {
    #[command(subcommand)]
    command: Task,
}

#[derive(Subcommand)]
enum Task {
    /// Start the demo yard. Example: `umlauf demo`
    Demo(Server),
    /// Start with your own yard. Example: `umlauf serve --data ~/Umlauf`
    Serve(Server),
    /// Take the footage of a folder into a yard. Example: `umlauf import ~/Videos --horse Priel`
    Import(Import),
    /// Write the whole yard to a ZIP of JSON, CSV and footage. Example: `umlauf export yard.zip`
    Export(Archive),
    /// Put a yard from such a ZIP into an empty folder. Example: `umlauf restore yard.zip --data ~/Yard2`
    Restore(Archive),
    /// Analyse a footfalls table. Example: `umlauf analyse ride.footfalls.csv --rein left --json`
    Analyse(Analyse),
    /// Print the OpenAPI document of the server.
    #[command(hide = true)]
    Openapi,
}

#[derive(Args)]
struct Server {
    /// Folder of the yard (default: `umlauf` or `umlauf-demo` in your data folder).
    #[arg(long)]
    data: Option<PathBuf>,
    /// Address to listen on.
    #[arg(long, default_value_t = IpAddr::V4(Ipv4Addr::LOCALHOST))]
    address: IpAddr,
    /// Port to listen on; 0 takes a free one.
    #[arg(long, default_value_t = 4747)]
    port: u16,
    /// Largest size of the yard's file, KiB.
    #[arg(long)]
    limit_kib: Option<u64>,
}

#[derive(Args)]
struct Import {
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

#[derive(Args)]
struct Archive {
    /// The ZIP.
    file: PathBuf,
    /// Folder of the yard (default: `umlauf` in your data folder).
    #[arg(long)]
    data: Option<PathBuf>,
}

#[derive(Args)]
struct Analyse {
    /// The table, or - for standard input.
    footfalls: PathBuf,
    /// Marks beside the footfalls: aids, movements, letters.
    #[arg(long)]
    marks: Option<PathBuf>,
    /// Rein ridden: left or right.
    #[arg(long, value_parser = side)]
    rein: Option<Side>,
    /// Canter lead asked for: left or right.
    #[arg(long, value_parser = side)]
    asked_lead: Option<Side>,
    /// Capture rate, frames/s.
    #[arg(long, value_parser = frame_rate)]
    frame_rate: Option<FrameRate>,
    /// Standard deviation of a mark's time, s.
    #[arg(long, value_parser = positive)]
    timing_sd: Option<f64>,
    /// Height at the withers, m.
    #[arg(long, value_parser = positive)]
    withers: Option<f64>,
    /// The intended gait may be a four-beat gait other than walk.
    #[arg(long)]
    gaited: bool,
    /// A school, as matter=school; may be given several times. Example: `--school counting=beats`
    #[arg(long)]
    school: Vec<String>,
    /// The horse's degree of collection, 1 to 4: from 2 on direct transitions are expected.
    #[arg(long, value_parser = clap::value_parser!(u8).range(1..=4))]
    degree: Option<u8>,
    /// Write footfall captions (WebVTT) to this file.
    #[arg(long)]
    captions: Option<PathBuf>,
    /// Write a click track (WAV) to this file, at the tempo measured or at --click-tempo.
    #[arg(long)]
    clicks: Option<PathBuf>,
    /// Tempo of the click track, strides/min.
    #[arg(long, value_parser = positive, requires = "clicks")]
    click_tempo: Option<f64>,
    /// Print one JSON document instead of text.
    #[arg(long)]
    json: bool,
}

fn side(text: &str) -> Result<Side, &'static str> {
    text.parse().map_err(|()| "must be left or right")
}

fn frame_rate(text: &str) -> Result<FrameRate, String> {
    let rate = text.parse().map_err(|_| "must be a number of frames/s".to_owned())?;
    FrameRate::new(rate).map_err(|e| e.to_string())
}

fn positive(text: &str) -> Result<f64, &'static str> {
    text.parse::<f64>().ok().filter(|v| v.is_finite() && *v > 0.0).ok_or("must be a number above 0")
}

fn main() -> ExitCode {
    tracing_subscriber::fmt()
        .with_env_filter(
            tracing_subscriber::EnvFilter::try_from_default_env()
                .unwrap_or_else(|_| tracing_subscriber::EnvFilter::new("warn")),
        )
        .with_writer(std::io::stderr)
        .init();
    let done = match Cli::parse().command {
        Task::Demo(server) => run_server(&server, "umlauf-demo", true),
        Task::Serve(server) => run_server(&server, "umlauf", false),
        Task::Import(args) => run_import(&args),
        Task::Export(args) => run_export(&args),
        Task::Restore(args) => run_restore(&args),
        Task::Analyse(args) => run_analysis(&args),
        Task::Openapi => {
            println!("{}", umlauf::api::openapi());
            Ok(())
        }
    };
    match done {
        Ok(()) => ExitCode::SUCCESS,
        Err(e) => {
            eprintln!("umlauf: {e:#}");
            ExitCode::FAILURE
        }
    }
}

fn run_server(server: &Server, name: &str, demo: bool) -> Result<()> {
    let data = match &server.data {
        Some(folder) => folder.clone(),
        None => data_folder(name)?,
    };
    let serving = Serving {
        data: Path::new(&data),
        address: server.address,
        port: server.port,
        limit_kib: server.limit_kib,
    };
    tokio::runtime::Runtime::new()?.block_on(serve(&serving, async |app| {
        if demo { umlauf::demo::fill(app).await } else { Ok(()) }
    }))
}

fn run_import(args: &Import) -> Result<()> {
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
    let app = App::new(store);
    let (mut new, mut known, mut refused) = (0, 0, 0);
    for file in &files {
        let name = file.path.display();
        match tokio::runtime::Runtime::new()?.block_on(watch::take(&app, file, None)) {
            Ok(Some(Taken::New(id))) => {
                new += 1;
                println!("{name}: clip {id}{}", sort(&app.store, id, horse)?);
            }
            Ok(_) => known += 1,
            Err(problem) => {
                refused += 1;
                println!("{name}: {}", problem.detail);
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

fn open_yard(args: &Archive) -> Result<Store> {
    let data = args.data.clone().map_or_else(|| data_folder("umlauf"), Ok)?;
    Store::open(&data, None)
        .with_context(|| format!("the yard in {} cannot be opened", data.display()))
}

fn run_export(args: &Archive) -> Result<()> {
    let store = open_yard(args)?;
    let cannot = || format!("{} cannot be written", args.file.display());
    // Half a ZIP must not take the place of a whole one.
    let part = args.file.with_extension("part");
    let file = std::fs::File::create(&part).with_context(cannot)?;
    if let Err(e) = archive::export(&store, file) {
        let _ = std::fs::remove_file(&part);
        return Err(e);
    }
    std::fs::rename(&part, &args.file).with_context(cannot)?;
    println!("the yard is in {}", args.file.display());
    Ok(())
}

fn run_restore(args: &Archive) -> Result<()> {
    let archive::Restored { horses, clips, films } =
        archive::restore(&open_yard(args)?, &args.file)
            .with_context(|| format!("{} is not put back", args.file.display()))?;
    println!(
        "the yard is back: {horses} horses, {clips} clips, {films} films; copies for stepping are made when it is opened"
    );
    Ok(())
}

/// Puts a clip into its horse's session of the day it was filmed, when both are known.
fn sort(store: &Store, clip: i64, horse: Option<i64>) -> Result<String> {
    let recorded = store.clip(clip)?.footage.recorded;
    let day = recorded.as_deref().and_then(umlauf::api::yard::day);
    Ok(match (horse, day) {
        (Some(horse), Some(day)) => {
            store.move_clip(clip, store.session_on(horse, &day)?.id)?;
            format!(", session of {day}")
        }
        _ => ", waits in the yard to be sorted".to_owned(),
    })
}

/// The user's data folder by the XDG rules.
fn data_folder(name: &str) -> Result<PathBuf> {
    let base = std::env::var_os("XDG_DATA_HOME").map(PathBuf::from).filter(|p| p.is_absolute());
    let base = base.or_else(|| Some(std::env::home_dir()?.join(".local/share")));
    Ok(base.context("no home folder: give the yard's folder with --data")?.join(name))
}

fn run_analysis(args: &Analyse) -> Result<()> {
    let marks = match &args.marks {
        Some(path) => marks_csv::read(&analyse::read(path)?)
            .with_context(|| format!("{} was refused", path.display()))?,
        None => Vec::new(),
    };
    let mut schools = Schools::default();
    for text in &args.school {
        analyse::choose_school(&mut schools, text)
            .map_err(|e| anyhow::anyhow!("--school {text}: {e}"))?;
    }
    let given = Given {
        marks,
        schools,
        degree: args.degree,
        rein: args.rein,
        asked_lead: args.asked_lead,
        frame_rate: args.frame_rate,
        timing_sd: args.timing_sd.map(Seconds),
        withers: args.withers.map(Metres),
        gaited: args.gaited,
    };
    let bytes = analyse::read(&args.footfalls)?;
    let (analysis, footfalls) = analyse::table(&bytes, &given)
        .with_context(|| format!("{} was refused", args.footfalls.display()))?;
    let put = |path: &Path, bytes: &[u8]| {
        std::fs::write(path, bytes).with_context(|| format!("{} cannot be written", path.display()))
    };
    if let Some(path) = &args.captions {
        put(path, captions::webvtt(&footfalls, |s| s).as_bytes())?;
    }
    if let Some(path) = &args.clicks {
        put(path, &click::wav(&analysis, args.click_tempo, |s| s)?)?;
    }
    let document = document(&analysis);
    if args.json {
        println!("{}", serde_json::to_string_pretty(&document)?);
    } else {
        print!("{}", summary(&document));
    }
    Ok(())
}
