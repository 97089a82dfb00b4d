//! Two sides compared, in words.

use crate::season::metric::Metric;
use crate::season::verdict::{Compared, Overall, Speed, Verdict};
use crate::words::numbers::lower;

/// A verdict in a word or two.
pub const fn verdict(v: Verdict) -> &'static str {
    match v {
        Verdict::Better => "better",
        Verdict::Worse => "worse",
        Verdict::Differs => "differs",
        Verdict::NoRealDifference => "no real difference",
        Verdict::CannotTell => "cannot tell",
    }
}

/// What was done about speed.
pub fn speed(s: Speed) -> Option<String> {
    Some(match s {
        Speed::NoMatter => return None,
        Speed::Matched(_) => "at one speed".into(),
        Speed::TakenOut(d) => {
            format!("speed taken out ({:+.0} %)", 100.0 * d)
        }
        Speed::Differs(d) => {
            format!("speeds differ by {:+.0} %, too few bouts to take it out", 100.0 * d)
        }
        Speed::AsRidden(d) => format!("as ridden, speed {:+.0} %", 100.0 * d),
        Speed::Unknown => "speed not known".into(),
    })
}

/// What a pair that tells nothing would have shown, of the figures a coach asks for first.
fn would_have_shown(rows: &[Compared]) -> String {
    let asked = [Metric::Tempo, Metric::StrideLength];
    let own: Vec<String> = rows
        .iter()
        .filter(|c| asked.contains(&c.metric) && c.smallest.is_finite())
        .map(|c| {
            let digits = c.metric.digits();
            format!("{:.digits$} {} of {}", c.smallest, c.metric.unit(), plain(c.metric))
        })
        .collect();
    if own.is_empty() {
        String::new()
    } else {
        format!("; they would have shown {}", own.join(" or "))
    }
}

/// A figure of two sides in a sentence: `Tempo 4 % higher (2.4 to 5.1): better.`
pub fn compared(c: &Compared) -> String {
    let digits = c.metric.digits();
    let (lo, hi) = c.difference.ci95;
    let unit = c.metric.unit();
    let change =
        format!("{:+.digits$} {unit} ({lo:+.digits$} to {hi:+.digits$})", c.difference.value);
    let told = match c.verdict {
        Verdict::CannotTell => {
            format!("cannot tell; this pair would have shown {:.digits$} {unit}", c.smallest)
        }
        v => verdict(v).to_owned(),
    };
    let provisional = if c.provisional { ", provisional" } else { "" };
    format!("{}: {change}: {told}{provisional}.", c.metric.name())
}

/// The verdict on a pair in one sentence.
pub fn overall(rows: &[Compared], whole: Overall, first: &str, second: &str) -> String {
    let names = |v: Verdict| {
        let own: Vec<String> = rows
            .iter()
            .filter(|c| c.verdict == v && c.headline)
            .map(|c| {
                let more = if c.difference.value > 0.0 { "more" } else { "less" };
                let digits = c.metric.digits();
                format!(
                    "{} ({:.digits$} {} {more})",
                    plain(c.metric),
                    c.difference.value.abs(),
                    c.metric.unit()
                )
            })
            .collect();
        own.join(", ")
    };
    let provisional = rows.iter().any(|c| c.provisional);
    let lead = if provisional { "Provisionally, " } else { "" };
    let sentence = match whole {
        Overall::Better => {
            format!("{second} is better than {first} in {}", names(Verdict::Better))
        }
        Overall::Worse => {
            format!("{second} is worse than {first} in {}", names(Verdict::Worse))
        }
        Overall::Mixed => format!(
            "{second} is better than {first} in {}, worse in {}",
            names(Verdict::Better),
            names(Verdict::Worse)
        ),
        Overall::Differs => {
            format!("{second} differs from {first} in {}", names(Verdict::Differs))
        }
        Overall::Alike => format!("No real difference between {first} and {second}"),
        Overall::CannotTell if rows.is_empty() => {
            return format!("{first} and {second} have no figure in common.");
        }
        Overall::CannotTell => {
            let shown = would_have_shown(rows);
            return format!(
                "Whether {second} differs from {first} cannot be told from these bouts{shown}."
            );
        }
    };
    format!("{lead}{sentence}.")
}

pub(crate) fn plain(metric: Metric) -> String {
    lower(metric.name().split(':').next().unwrap_or(""))
}
