//! What sensors that the horse wore tell: a table of acceleration read, and the footfalls in it.

use std::collections::BTreeMap;

use anyhow::{Context as _, Result, bail, ensure};
use umlauf_gait::base::limb::Limb;
use umlauf_signals::sensor::clocks::Told;
use umlauf_signals::sensor::hoof::{Felt, stances};
use umlauf_signals::sensor::trace::{Sample, Trace};
use umlauf_signals::sensor::trunk::{Rhythm, rhythm};

/// What sensors tell.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct Sensed {
    /// Stances of each limb that wore one, in order of time, by the sensors' clock.
    pub hooves: BTreeMap<Limb, Vec<Felt>>,
    /// The rhythm of the trunk, where that wore one.
    pub trunk: Option<Rhythm>,
    /// First and last sample, s of the sensors' clock.
    pub span: (f64, f64),
    /// Sensors that tell nothing, and why.
    pub silent: Vec<String>,
}

impl Sensed {
    /// Every landing with its limb.
    pub fn told(&self) -> Vec<Told> {
        let own = |(limb, felt): (&Limb, &Vec<Felt>)| {
            felt.iter().map(|f| Told { limb: *limb, on: f.on }).collect::<Vec<_>>()
        };
        self.hooves.iter().flat_map(own).collect()
    }
}

/// Most samples of a table: five sensors for an hour at 800 a second.
const MOST: usize = 15_000_000;

/// Farthest a sensor's acceleration goes, m/s²: 400 times the gravity is a fault.
const FARTHEST: f64 = 4_000.0;

/// Reads a table `time_s,limb,ax,ay,az`, m/s², and times the hooves in it. `limb` is LF, RF, LH or RH, and `trunk` or
/// nothing of a sensor on the trunk.
///
/// # Errors
/// When it is no such table: which line, and what is wrong with it.
pub fn sensed(bytes: &[u8]) -> Result<Sensed> {
    let mut reader = csv::ReaderBuilder::new()
        .comment(Some(b'#'))
        .trim(csv::Trim::All)
        .from_reader(bytes.strip_prefix(b"\xef\xbb\xbf").unwrap_or(bytes));
    let header = reader.headers().context("the table cannot be read")?.clone();
    let place = |name: &str| header.iter().position(|h| h == name);
    let columns = ["time_s", "ax", "ay", "az"].map(|name| (name, place(name)));
    if let Some((name, _)) = columns.iter().find(|c| c.1.is_none()) {
        bail!("line 1: no column `{name}`; a sensor's table has time_s,limb,ax,ay,az (m/s²)");
    }
    let columns = columns.map(|(name, at)| (name, at.unwrap_or_default()));
    let limb_at = place("limb");
    let mut of: BTreeMap<Option<Limb>, Vec<Sample>> = BTreeMap::new();
    let mut read = 0;
    for record in reader.records() {
        let record = record.context("the table cannot be read")?;
        let line = record.position().map_or(0, csv::Position::line);
        read += 1;
        ensure!(read <= MOST, "line {line}: more than {MOST} samples; cut the table into rides");
        let text = limb_at.and_then(|at| record.get(at)).unwrap_or_default();
        let limb = match text {
            "" | "trunk" => None,
            text => Some(text.parse::<Limb>().map_err(|_| {
                anyhow::anyhow!("line {line}: `{text}` is no limb; LF, RF, LH, RH or trunk")
            })?),
        };
        let mut values = [0.0; 4];
        for (value, (name, at)) in values.iter_mut().zip(columns) {
            let text = record.get(at).unwrap_or_default();
            *value = text
                .parse::<f64>()
                .ok()
                .filter(|v| v.is_finite())
                .with_context(|| format!("line {line}: {name} `{text}` is no number"))?;
        }
        let [at, a @ ..] = values;
        ensure!(
            a.iter().all(|a| a.abs() < FARTHEST),
            "line {line}: an acceleration beyond {FARTHEST} m/s²; is the table in m/s²?"
        );
        of.entry(limb).or_default().push(Sample { at, a });
    }
    ensure!(!of.is_empty(), "the table has no samples");
    Ok(told(of))
}

fn told(of: BTreeMap<Option<Limb>, Vec<Sample>>) -> Sensed {
    let mut out = Sensed { span: (f64::INFINITY, f64::NEG_INFINITY), ..Sensed::default() };
    for (limb, samples) in of {
        let name = limb.map_or_else(|| "trunk".to_owned(), |l| l.to_string());
        let trace = match Trace::of(samples) {
            Ok(trace) => trace,
            Err(why) => {
                out.silent.push(format!("{name}: {why}"));
                continue;
            }
        };
        let ends = (trace.samples[0].at, trace.samples[trace.samples.len() - 1].at);
        out.span = (out.span.0.min(ends.0), out.span.1.max(ends.1));
        match limb {
            None => {
                out.trunk = rhythm(&trace);
                if out.trunk.is_none() {
                    out.silent.push("trunk: no rhythm is felt".to_owned());
                }
            }
            Some(limb) => {
                let felt = stances(&trace);
                if felt.is_empty() {
                    out.silent.push(format!("{name}: no landing is felt"));
                } else {
                    out.hooves.insert(limb, felt);
                }
            }
        }
    }
    out
}
