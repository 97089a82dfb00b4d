//! `umlauf listen`: what sensors send over a local socket, kept as a table.
//!
//! One stream of lines `time_s,limb,ax,ay,az` is taken until it ends or falls silent. Only this machine is
//! listened to: nothing else can send.

use std::fs::{File, OpenOptions};
use std::io::{BufRead, BufReader, BufWriter, ErrorKind, Read as _, Write as _};
use std::net::{SocketAddr, TcpListener};
use std::path::PathBuf;
use std::time::Duration;

use anyhow::{Context as _, Result, bail, ensure};
use clap::Args;
use umlauf_gait::base::limb::Limb;

use crate::document::table::MOST_BYTES;
use crate::suggest::felt::{Sensed, sensed};

/// Options of a listener.
#[derive(Args)]
pub struct Listen {
    /// File to write, which must not be there yet.
    #[arg(long)]
    into: PathBuf,
    /// Address on this machine; port 0 takes a free one.
    #[arg(long, default_value = "127.0.0.1:4790")]
    at: SocketAddr,
}

/// A stream that is silent for so long has ended.
const SILENT: Duration = Duration::from_secs(20);

/// No line of a sensor is longer, bytes.
const LONGEST: u64 = 200;

/// Listens to one stream, keeps it, and says what was felt.
///
/// # Errors
/// When nobody can be listened to, the file is there already, or what comes is no stream of samples. What came before is
/// kept.
pub fn run(args: &Listen) -> Result<()> {
    ensure!(
        args.at.ip().is_loopback(),
        "--at {}: sensors are listened to on this machine only (127.0.0.1)",
        args.at
    );
    let listener = TcpListener::bind(args.at)
        .with_context(|| format!("{} cannot be listened on; give another --at", args.at))?;
    let file =
        OpenOptions::new().write(true).create_new(true).open(&args.into).with_context(|| {
            format!("{} cannot be made (is it there already?)", args.into.display())
        })?;
    println!("listening at {}", listener.local_addr()?);
    let (stream, _) = listener.accept().context("no sensor could be listened to")?;
    stream.set_read_timeout(Some(SILENT))?;
    let taken = take(BufReader::new(stream), file);
    let kept = format!("{} keeps what came", args.into.display());
    let taken = taken.with_context(|| kept.clone())?;
    let bytes = std::fs::read(&args.into).with_context(|| kept.clone())?;
    let felt = sensed(&bytes).with_context(|| kept.clone())?;
    println!("{}: {}", args.into.display(), in_words(&taken, &felt));
    Ok(())
}

/// What came of a stream.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
struct Taken {
    samples: usize,
    /// Lines that were no samples.
    other: usize,
}

/// Writes the header and every sample of a stream; what is none is left out.
fn take(mut stream: impl BufRead, file: File) -> Result<Taken> {
    let mut out = BufWriter::new(file);
    let (mut taken, mut bytes, mut line) = (Taken::default(), 0, Vec::new());
    let mut header: Option<Vec<String>> = None;
    loop {
        line.clear();
        match stream.by_ref().take(LONGEST).read_until(b'\n', &mut line) {
            Ok(0) => break,
            Ok(_) => {}
            Err(e) if matches!(e.kind(), ErrorKind::WouldBlock | ErrorKind::TimedOut) => break,
            Err(e) => return Err(e).context("the stream broke off"),
        }
        if line.last() != Some(&b'\n') {
            // Cut off at the end, or no line at all.
            if line.len() as u64 == LONGEST {
                bail!("line {} is no sample: longer than {LONGEST} bytes", lines(&taken) + 1);
            }
            taken.other += 1;
            continue;
        }
        let text = String::from_utf8_lossy(&line);
        match &header {
            None => {
                let names: Vec<String> = text.trim().split(',').map(|n| n.trim().into()).collect();
                ensure!(
                    names.iter().any(|n| n == "time_s"),
                    "the stream does not begin with its columns time_s,limb,ax,ay,az"
                );
                header = Some(names);
            }
            Some(header) if is_sample(header, text.trim()) => taken.samples += 1,
            Some(_) => {
                taken.other += 1;
                continue;
            }
        }
        bytes += line.len();
        ensure!(bytes <= MOST_BYTES, "more than 256 MiB came; end a stream after each ride");
        out.write_all(&line).context("the samples cannot be written")?;
    }
    out.flush().context("the samples cannot be written")?;
    Ok(taken)
}

const fn lines(taken: &Taken) -> usize {
    1 + taken.samples + taken.other
}

/// Whether a line has a limb and numbers, as the header names them.
fn is_sample(header: &[String], line: &str) -> bool {
    let cells: Vec<&str> = line.split(',').map(str::trim).collect();
    let fits = |(name, cell): (&String, &&str)| match name.as_str() {
        "limb" => matches!(*cell, "" | "trunk") || cell.parse::<Limb>().is_ok(),
        "time_s" | "ax" | "ay" | "az" => cell.parse::<f64>().is_ok_and(f64::is_finite),
        _ => true,
    };
    cells.len() == header.len() && header.iter().zip(&cells).all(fits)
}

fn in_words(taken: &Taken, felt: &Sensed) -> String {
    let mut parts = vec![format!("{} samples", taken.samples)];
    if taken.other > 0 {
        parts.push(format!("{} lines that were none left out", taken.other));
    }
    parts.extend(felt.hooves.iter().map(|(l, felt)| format!("{} landings of {l}", felt.len())));
    parts.extend(felt.trunk.map(|r| format!("trunk at {:.1} strides/min", 60.0 / r.stride_s)));
    parts.extend(felt.silent.iter().cloned());
    parts.join(", ")
}
