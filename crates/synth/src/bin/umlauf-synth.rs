//! Draws the demo clips, single pictures and truth tables of the synthetic horse.

use std::fs;
use std::io::Write as _;
use std::path::{Path, PathBuf};
use std::process::{Command, Stdio};

use anyhow::{Context as _, Result, bail, ensure};
use clap::{Parser, Subcommand};
use umlauf_gait::Footfall;
use umlauf_gait::base::limb::Limb;
use umlauf_gait::base::units::{FrameRate, Metres, Seconds};
use umlauf_gait::marks::footfall_csv::{self, FootfallTable, Header};
use umlauf_synth::accuracy;
use umlauf_synth::clips::{DEMO, DemoClip};
use umlauf_synth::film::Film;
use umlauf_synth::flat::conditions::TESTED_FROM;
use umlauf_synth::sensors::{self, Sensor};
use umlauf_synth::sound;
use umlauf_synth::watching::asked::Asked;
use umlauf_synth::watching::{page, table};

/// The synthetic horse. Example: `umlauf-synth clips --into demo`
#[derive(Parser)]
struct Cli {
    #[command(subcommand)]
    command: Task,
}

#[derive(Subcommand)]
enum Task {
    /// Make the demo clips and their truth tables with ffmpeg.
    Clips {
        /// Folder to write into.
        #[arg(long, default_value = "demo")]
        into: PathBuf,
        /// Only this clip.
        #[arg(long)]
        only: Option<String>,
    },
    /// Measure how often the analysis is right, as a page of Markdown.
    Accuracy {
        /// Rides a row.
        #[arg(long, default_value_t = 2000)]
        runs: u64,
        /// File to write.
        #[arg(long, default_value = "docs/accuracy.md")]
        into: PathBuf,
    },
    /// Draw films, watch them, and tell how many hooves are found, as a page of Markdown.
    Films {
        /// Films a row; there are 28 rows.
        #[arg(long, default_value_t = 20)]
        films: u64,
        /// First seed. From 1000000 on nothing is tuned.
        #[arg(long, default_value_t = TESTED_FROM)]
        from: u64,
        /// Only some of them.
        #[arg(long)]
        only: Option<Only>,
        /// File to write.
        #[arg(long, default_value = "docs/accuracy-films.md")]
        into: PathBuf,
    },
    /// Write what sensors on the horse of a demo clip feel: a table, or a live stream to a local socket.
    /// Example: `umlauf-synth sensors distel-trot > trot.sensor.csv`
    Sensors {
        /// Clip name.
        clip: String,
        /// On the trunk as well as on the hooves.
        #[arg(long)]
        trunk: bool,
        /// Their clock shows so much more than the clip's, s.
        #[arg(long, default_value_t = 0.0, allow_negative_numbers = true)]
        late: f64,
        /// Samples a second.
        #[arg(long, default_value_t = 200.0)]
        rate: f64,
        /// Stream to this address as time goes on, instead of printing. Example: 127.0.0.1:4790
        #[arg(long)]
        to: Option<String>,
    },
    /// Draw single pictures of a demo clip as PNG.
    Still {
        /// Clip name.
        clip: String,
        /// Frames to draw.
        #[arg(required = true)]
        frames: Vec<usize>,
        /// Folder to write into.
        #[arg(long, default_value = ".")]
        into: PathBuf,
    },
}

/// Some of the films.
#[derive(Clone, Copy, Debug, PartialEq, Eq, clap::ValueEnum)]
enum Only {
    /// Unmarked legs.
    Bare,
    /// Films of which nothing should be told, or little.
    Hard,
    /// Legs with wraps.
    Wraps,
}

/// Seeds of films with wraps lie so far above the others'.
const WRAPS_FROM: u64 = 200_000;

/// Seeds of films that are hard lie so far above the others'.
const HARD_FROM: u64 = 100_000;

fn main() -> Result<()> {
    match Cli::parse().command {
        Task::Clips { into, only } => {
            fs::create_dir_all(&into)?;
            for clip in DEMO.iter().filter(|c| only.as_deref().is_none_or(|o| o == c.name)) {
                make(clip, &into)?;
            }
            Ok(())
        }
        Task::Accuracy { runs, into } => {
            let table = accuracy::table::table(runs);
            let map = into.with_extension("svg");
            fs::write(&map, accuracy::length_page::heat_map(&table.by_length))
                .with_context(|| format!("cannot write {}", map.display()))?;
            fs::write(&into, accuracy::page::page(&table, runs))
                .with_context(|| format!("cannot write {}", into.display()))
        }
        Task::Films { films, from, only, into } => {
            let watched = |asked: &[Asked]| {
                table::outcomes(asked, |asked, own| println!("{}", page::line(asked, own)))
            };
            let wanted = |one: Only, all: Vec<Asked>| {
                if only.is_none_or(|only| only == one) { all } else { vec![] }
            };
            let bare = wanted(Only::Bare, table::asked(films, from));
            let hard = wanted(Only::Hard, table::hard(films, from + HARD_FROM));
            let wraps = wanted(Only::Wraps, table::wrapped(films, from + WRAPS_FROM));
            let [found, refused, worn] = [&bare, &hard, &wraps].map(|asked| watched(asked));
            let page = page::page((&bare, &found), (&hard, &refused), (&wraps, &worn), films, from);
            fs::write(&into, page).with_context(|| format!("cannot write {}", into.display()))
        }
        Task::Sensors { clip, trunk, late, rate, to } => {
            ensure!((50.0..=2000.0).contains(&rate), "--rate {rate}: 50 to 2000 samples a second");
            sensors(&clip, trunk, late, rate, to.as_deref())
        }
        Task::Still { clip, frames, into } => still(&clip, &frames, &into),
    }
}

fn demo(name: &str) -> Result<&'static DemoClip> {
    DEMO.iter().find(|c| c.name == name).with_context(|| {
        let known: Vec<&str> = DEMO.iter().map(|c| c.name).collect();
        format!("no clip `{name}`; there are {}", known.join(", "))
    })
}

fn make(clip: &DemoClip, into: &Path) -> Result<()> {
    let film = clip.film();
    let wav = into.join(format!("{}.wav.tmp", clip.name));
    write_wav(&wav, &sound::hoofbeats(&film))?;
    let mp4 = into.join(format!("{}.mp4", clip.name));
    let rate = film.shot.rate.to_string();
    let (w, h) = film.shot.size;
    let mut ffmpeg = Command::new("ffmpeg")
        .args(["-v", "error", "-y", "-f", "rawvideo", "-pix_fmt", "rgb24"])
        .args(["-s", &format!("{w}x{h}"), "-framerate", &rate, "-i", "-"])
        .args(["-f", "wav", "-i"])
        .arg(&wav)
        .args(["-vf", "scale=out_color_matrix=bt709:out_range=tv,format=yuv420p"])
        .args(["-colorspace", "bt709", "-color_primaries", "bt709", "-color_trc", "bt709"])
        .args(["-c:v", "libx264", "-preset", "medium", "-crf", "25", "-g", "60", "-threads", "2"])
        .args(["-video_track_timescale", "120000"])
        .args(["-c:a", "aac", "-b:a", "64k", "-movflags", "+faststart"])
        .args(["-fflags", "+bitexact", "-flags:v", "+bitexact", "-flags:a", "+bitexact"])
        .args(["-map_metadata", "-1"])
        .arg(&mp4)
        .stdin(Stdio::piped())
        .spawn()
        .context("ffmpeg could not be started; install it (apt-get install ffmpeg)")?;
    let pipe = ffmpeg.stdin.take().context("ffmpeg takes no pictures")?;
    let drawn = draw_all(&film, pipe);
    let status = ffmpeg.wait()?;
    fs::remove_file(&wav)?;
    drawn?;
    ensure!(status.success(), "ffmpeg could not write {}", mp4.display());
    let table = into.join(format!("{}.footfalls.csv", clip.name));
    fs::write(&table, footfall_csv::write(&truth_table(&film)?))?;
    println!("{}: {} frames, {} kB", clip.name, film.frames(), fs::metadata(&mp4)?.len() / 1000);
    Ok(())
}

/// Draws on two threads, writes in order.
fn draw_all(film: &Film, mut pipe: std::process::ChildStdin) -> Result<()> {
    let n = film.frames();
    for first in (0..n).step_by(2) {
        let (a, b) = std::thread::scope(|s| {
            let second = s.spawn(|| (first + 1 < n).then(|| film.draw(first + 1)));
            (film.draw(first), second.join())
        });
        pipe.write_all(&a)?;
        match b {
            Ok(Some(b)) => pipe.write_all(&b)?,
            Ok(None) => {}
            Err(_) => bail!("frame {} could not be drawn", first + 1),
        }
    }
    Ok(())
}

/// The truth on the clip's own clock, in which the first frame is at 0.
fn truth_table(film: &Film) -> Result<FootfallTable> {
    let shift = film.shot.margin_s;
    let late = |t: Seconds| Seconds(t.0 + shift);
    let footfalls = film
        .truth
        .footfalls()
        .into_iter()
        .map(|f| Footfall { on: late(f.on), off: f.off.map(late), ..f })
        .collect();
    let ride = film.truth.ride;
    let header = Header {
        frame_rate: Some(FrameRate::new(film.shot.rate)?),
        withers: Some(Metres(ride.withers)),
        rein: Some(ride.rein),
        ..Header::default()
    };
    Ok(FootfallTable { footfalls, header, without_limb: Vec::new() })
}

fn write_wav(to: &Path, samples: &[f32]) -> Result<()> {
    let bytes = u32::try_from(samples.len() * 2)?;
    let mut out = Vec::with_capacity(44 + samples.len() * 2);
    out.extend(b"RIFF");
    out.extend((36 + bytes).to_le_bytes());
    out.extend(b"WAVEfmt ");
    out.extend(16u32.to_le_bytes());
    out.extend(1u16.to_le_bytes());
    out.extend(1u16.to_le_bytes());
    out.extend(sound::RATE.to_le_bytes());
    out.extend((sound::RATE * 2).to_le_bytes());
    out.extend(2u16.to_le_bytes());
    out.extend(16u16.to_le_bytes());
    out.extend(b"data");
    out.extend(bytes.to_le_bytes());
    for s in samples {
        #[expect(clippy::cast_possible_truncation, reason = "clamped to 16 bits")]
        let v = (f64::from(*s) * 32767.0).round().clamp(-32768.0, 32767.0) as i16;
        out.extend(v.to_le_bytes());
    }
    fs::write(to, out).with_context(|| format!("cannot write {}", to.display()))
}

/// Rows of all sensors in order of time; printed, or sent when their time has come.
fn sensors(name: &str, on_trunk: bool, late: f64, rate: f64, to: Option<&str>) -> Result<()> {
    let film = demo(name)?.film();
    let late = late + film.shot.margin_s;
    let sensor = Sensor { rate, late_s: late, ..Sensor::usual(film.truth.ride.seed) };
    let mut rows: Vec<(f64, &str, [f64; 3])> = Vec::new();
    for limb in Limb::ALL {
        rows.extend(
            sensors::hoof(&film.truth, limb, sensor).iter().map(|s| (s.0, limb.code(), s.1)),
        );
    }
    if on_trunk {
        rows.extend(sensors::trunk(&film.truth, sensor).iter().map(|s| (s.0, "trunk", s.1)));
    }
    rows.sort_by(|a, b| a.0.total_cmp(&b.0));
    let mut out: Box<dyn std::io::Write> = match to {
        Some(address) => Box::new(
            std::net::TcpStream::connect(address)
                .with_context(|| format!("nobody listens at {address}"))?,
        ),
        None => Box::new(std::io::BufWriter::new(std::io::stdout().lock())),
    };
    writeln!(out, "time_s,limb,ax,ay,az")?;
    let begin = std::time::Instant::now();
    for (at, of, [x, y, z]) in rows {
        if to.is_some() {
            let wait = at - late - begin.elapsed().as_secs_f64();
            std::thread::sleep(std::time::Duration::from_secs_f64(wait.max(0.0)));
        }
        writeln!(out, "{at:.4},{of},{x:.2},{y:.2},{z:.2}")?;
    }
    out.flush()?;
    Ok(())
}

fn still(name: &str, frames: &[usize], into: &Path) -> Result<()> {
    let film = demo(name)?.film();
    for &frame in frames {
        ensure!(frame < film.frames(), "frame {frame}: the clip has {}", film.frames());
        let path = into.join(format!("{name}-{frame:04}.png"));
        let file = fs::File::create(&path)?;
        let (w, h) = film.shot.size;
        let mut png = png::Encoder::new(std::io::BufWriter::new(file), w, h);
        png.set_color(png::ColorType::Rgb);
        png.set_depth(png::BitDepth::Eight);
        png.write_header()?.write_image_data(&film.draw(frame))?;
        println!("{}", path.display());
    }
    Ok(())
}
