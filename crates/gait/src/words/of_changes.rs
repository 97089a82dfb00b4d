//! Flying changes, tempi and changes through walk in words.

use crate::base::limb::Side;
use crate::base::schools::{PreparingChange, Schools};
use crate::events::flying_change::Verdict;
use crate::events::tempi::Fault;
use crate::events::withheld::{Needs, Withheld};
use crate::words::advice;
use crate::words::names::{change_word, end_word};
use crate::words::numbers::{counted, ordinal};
use crate::words::sentence::Sentence;

/// A change that was not clean, or that was offered.
pub(crate) struct Unclean {
    pub verdict: Verdict,
    pub late_by_strides: usize,
    pub late_by_s: Option<f64>,
    pub steps: usize,
    pub offered: bool,
}

pub(crate) fn change(c: &Unclean, schools: &Schools) -> Sentence {
    let late = counted(c.late_by_strides, "stride");
    let (code, title, says) = match c.verdict {
        Verdict::Clean => (
            "change-offered",
            "A change was offered",
            "It came before the aid, and clean: that is no fault of his.".to_owned(),
        ),
        Verdict::LateBehind => {
            ("late-behind", "A change late behind", format!("In front first, behind {late} later."))
        }
        Verdict::LateInFront => (
            "late-in-front",
            "A change late in front",
            format!("Behind first, in front {late} later."),
        ),
        Verdict::HindsTogether => (
            "hinds-together",
            "A change with the hinds together",
            "The hinds land at the same time in the changing stride.".to_owned(),
        ),
        Verdict::ThroughTrot => (
            "change-through-trot",
            "A change through trot",
            format!("{} of trot between the leads.", counted(c.steps, "step")),
        ),
        Verdict::Missed => (
            "change-missed",
            "A change was missed",
            "Asked for, and not given within three strides.".to_owned(),
        ),
        Verdict::NotCompleted => (
            "change-not-completed",
            "A change was not completed",
            "One pair changed and changed back.".to_owned(),
        ),
        Verdict::ChangedBack => (
            "changed-back",
            "He changed and changed back",
            "All four were back on the old lead within two strides.".to_owned(),
        ),
        Verdict::Withheld => ("change-withheld", WITHHELD, LEFT_OPEN.to_owned()),
    };
    let figure = match c.late_by_s {
        Some(s) => format!("{:+.0} ms", s * 1000.0),
        None if c.steps > 0 => counted(c.steps, "step"),
        None => "–".to_owned(),
    };
    let first = match schools.preparing_change {
        PreparingChange::Forward => advice::FRESHEN_CANTER,
        PreparingChange::Collect => advice::COLLECT_FIRST,
    };
    let out = Sentence::new(code, title, says, figure);
    match c.verdict {
        _ if c.offered => out.advising(&[advice::KEEP_THE_LEAD]),
        Verdict::Clean => out,
        _ => out.advising(&[first, advice::CANTER_TROT_CIRCLE]),
    }
}

const WITHHELD: &str = "A change that cannot be told yet";
const LEFT_OPEN: &str = "The marks about the changing stride leave it open.";

/// A change whose verdict hangs on a mark: what it may be, and which mark would tell.
pub(crate) fn withheld(open: &Withheld) -> Sentence {
    let word = |(verdict, late): (Verdict, usize)| change_word(verdict, late);
    let what = match open.instead {
        Some(other) => format!("It is {} or {}", word(open.likely), word(other)),
        None => format!("It is {}, but in which stride is open", word(open.likely)),
    };
    let why = match open.needs {
        Some(Needs { limb, stride, made, .. }) => format!(
            "the {} {}’s footfall of stride {} {}",
            limb.side().word(),
            end_word(limb.is_hind()),
            stride + 1,
            if made { "seems to be marked as another limb’s" } else { "is missing" }
        ),
        None => "a mark about it contradicts the others".to_owned(),
    };
    let figure = open.needs.map_or("–".to_owned(), |n| format!("stride {}", n.stride + 1));
    Sentence::new("change-withheld", WITHHELD, format!("{what}: {why}."), figure)
}

pub(crate) fn clean_change(suspension_before: Option<f64>, to: Side) -> Sentence {
    let says = format!("All four limbs go on the {} lead in one stride.", to.word());
    let figure =
        suspension_before.map_or("–".to_owned(), |s| format!("{:.0} ms air before", s * 1e3));
    Sentence::new("clean-change", "A clean change", says, figure)
}

/// A line of tempi: every how many strides, planned and ridden changes, clean ones, first fault.
pub(crate) fn tempi(
    every: usize,
    planned: Option<usize>,
    changes: usize,
    clean: usize,
    fault: Option<(usize, Fault)>,
) -> Sentence {
    let often = match every {
        1 => "every stride".to_owned(),
        n => format!("every {n} strides"),
    };
    let title = match fault {
        None => format!("Changes {often}"),
        Some(_) => format!("{clean} of {changes} changes {often} clean"),
    };
    let of = planned.map_or(String::new(), |p| format!(" of {p} planned"));
    let fault = fault.map_or(String::new(), |(k, fault)| match fault {
        Fault::NotClean { verdict, late_by_strides } => {
            format!(" The {} is {}.", ordinal(k), change_word(verdict, late_by_strides))
        }
        Fault::OutOfCount { gap } => {
            format!(" The {} comes after {}.", ordinal(k), counted(gap, "stride"))
        }
    });
    let says = format!("{}{of}, {clean} of them clean.{fault}", counted(changes, "change"));
    Sentence::new("tempi", title, says, format!("{clean} of {changes}"))
}

/// Three to five steps of walk are as they should be (published rule; value from memory).
pub(crate) fn simple_change(steps: usize) -> Sentence {
    let says = match steps {
        ..3 => "Fewer than three steps of walk: he is being rushed.",
        3..=5 => "Three to five steps of walk, as it should be.",
        _ => "More than five steps of walk: he did not wait, or did not answer.",
    };
    let out = Sentence::new(
        "simple-change",
        "A change of lead through walk",
        says,
        counted(steps, "step"),
    );
    if (3..=5).contains(&steps) { out } else { out.advising(&[advice::COUNT_WALK_STEPS]) }
}
