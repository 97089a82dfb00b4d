//! The table as a page.

use crate::accuracy::length_page;
use crate::accuracy::one_more;
use crate::accuracy::records::Told;
use crate::accuracy::row::{RATES, Row};
use crate::accuracy::sessions::Headed;
use crate::accuracy::table::Table;
use crate::accuracy::table::grouped;
use crate::ground;
use crate::pairs;
use crate::session_rides::fault::Fault;

fn cells(row: &Row) -> String {
    let sign = if row.aim.1 { "≤" } else { "≥" };
    format!(
        "| {} | {} | {} | {:.1} % | {sign} {:.1} % |",
        row.what,
        row.rate,
        row.runs,
        100.0 * row.share(),
        100.0 * row.aim.0
    )
}

/// The table as a page of Markdown.
pub fn page(table: &Table, runs: u64) -> String {
    use std::fmt::Write as _;
    let mut out = String::from(INTRODUCTION);
    // Writing to a string cannot fail.
    let _ = writeln!(
        out,
        "{runs} rides a row. Rows with fewer leave out rides that do not have what is asked; a ride may have\nseveral changes.\n"
    );
    out.push_str("| what | frames/s | cases | reached | aim |\n|---|---:|---:|---:|---:|\n");
    for row in grouped(&table.rows, |r| &r.what) {
        let _ = writeln!(out, "{}", cells(row));
    }
    out.push_str(&sessions(&table.sessions));
    out.push_str(&records(&table.records));
    out.push_str(&again(&table.again));
    out.push_str(&two_sessions(&table.two_sessions));
    out.push_str(&transitions(&table.transitions));
    out.push_str(&length_page::section(&table.by_length, table.drifting_sessions));
    out.push_str(&one_more::section(&table.one_more));
    out.push_str(INTERVALS);
    for c in grouped(&table.coverage, |c| &c.row.what) {
        let _ = writeln!(out, "{} {:.2} |", cells(&c.row), c.width);
    }
    out.push_str(&ground::section(u32::try_from(runs.min(1000)).unwrap_or(1000)));
    out.push_str(&pairs::section(runs.min(1000)));
    out.push_str(CONFIDENCE);
    for c in &table.calibration {
        let (from, to) = (100.0 * c.from, 100.0 * c.to.min(1.0));
        let _ = writeln!(
            out,
            "| {from:.0}–{to:.0} % | {} | {:.1} % | {:.1} % |",
            c.bouts,
            100.0 * c.claimed,
            100.0 * c.right
        );
    }
    out.push_str(REMARKS);
    out
}

/// What heads a session: those without a fault, then those with each.
fn sessions(all: &[Headed]) -> String {
    use std::fmt::Write as _;
    let mut out = String::from(SESSIONS);
    for of in all {
        let share = 100.0 * of.share();
        let _ = match of.fault {
            None => writeln!(out, "| nothing | {} | {share:.1} % | | ≤ 5 % |", of.sessions),
            Some(fault) => writeln!(
                out,
                "| {} | {} | {share:.1} % | {} | ≥ 95 % |",
                fault.name(),
                of.sessions,
                of.otherwise
            ),
        };
    }
    out
}

/// What heads a record: seasons without a change, then those with each.
fn records(all: &[Told]) -> String {
    use std::fmt::Write as _;
    let mut out = String::from(RECORDS);
    for of in all {
        let (what, aim) = of.change.map_or(("nothing", "≤ 5 %"), |c| (c.name(), "≥ 95 %"));
        let share = 100.0 * of.share();
        let _ = writeln!(out, "| {what} | {} | {share:.1} % | {aim} |", of.seasons);
    }
    out
}

/// Records of twelve sessions with the same fault.
fn again(all: &[(Option<Fault>, u64, u64)]) -> String {
    use std::fmt::Write as _;
    let mut out = String::from(AGAIN);
    for (fault, seasons, told) in all {
        let (what, aim) = fault.map_or(("nothing", "≤ 5 %"), |f| (f.name(), "≥ 95 %"));
        #[expect(clippy::cast_precision_loss, reason = "counts")]
        let share = 100.0 * *told as f64 / (*seasons).max(1) as f64;
        let _ = writeln!(out, "| {what} | {seasons} | {share:.1} % | {aim} |");
    }
    out
}

fn two_sessions(all: &[Row]) -> String {
    use std::fmt::Write as _;
    let mut out = String::from(TWO_SESSIONS);
    for row in all {
        let sign = if row.aim.1 { "≤" } else { "≥" };
        let (share, aim) = (100.0 * row.share(), 100.0 * row.aim.0);
        let _ = writeln!(out, "| {} | {} | {share:.1} % | {sign} {aim:.0} % |", row.what, row.runs);
    }
    out
}

/// Transitions of every pair: a row a pair, a column a frame rate.
fn transitions(all: &[Vec<Row>; 2]) -> String {
    use std::fmt::Write as _;
    let mut out = String::from(TRANSITIONS);
    for (made, hard) in all[0].chunks(RATES.len()).zip(all[1].chunks(RATES.len())) {
        let _ = write!(out, "| {} |", made[0].what);
        for row in made.iter().chain(hard) {
            let _ = write!(out, " {:.1} % |", 100.0 * row.share());
        }
        out.push('\n');
    }
    out
}

const SESSIONS: &str = "
## What heads a session

Sessions of the second horse as they are filmed: a clip on each rein with five to ten bouts of 8 to 20
strides (spread 1–4 %, tempo and length 1 % apart from bout to bout), shoulder-in, lengthenings, answers to
aids and lines of changes now and then; marks scatter by 4–10 ms on top of frames of 30 to 240 a second.
Without a fault: how many were headed by one. With a fault: how many were headed by it, with its place and
side.

| what is wrong | sessions | headed by it | by another | aim |
|---|---:|---:|---:|---:|
";

const RECORDS: &str = "
## What heads a record

Seasons of the second horse in trot: twelve sessions a week apart, three bouts of 10 to 18 strides a rein, half
of them at 30 and half at 60 frames a second; a day has a shift of tempo (1.2 %) and stance in common, a bout
one of its own. Without a change: how many records were headed by a trend or a weaker rein. With one: how many
told it, among all that could have headed.

| what changes | seasons | told | aim |
|---|---:|---:|---:|
";

const AGAIN: &str = "
Twelve sessions of the kind above with the same fault in each, or with none: how many records say that it was
found again and again.

| what is wrong in each session | seasons | told | aim |
|---|---:|---:|---:|
";

const TWO_SESSIONS: &str = "
## Two sessions compared

Sessions of the second horse in walk, trot, canter and a gaited horse's running walk, four to seven bouts of
8 to 20 strides each, at 30 or 60 frames a second; bouts 0.4–2 % apart in tempo, ridden at speeds that differ
by 3 % from bout to bout and by 4 % from day to day. Nothing about the horse changes but his day's form, which
shifts tempo and length by as much as is named, and his stances by two fifths of that. \"No real difference\"
counts every figure that it is said of, in horses that change by up to 3 % in tempo and 6 % in length.

| what | of | reached | aim |
|---|---:|---:|---:|
";

const TRANSITIONS: &str = "
## Transitions

Rides of the second horse from one gait into another, either hind first: right is a transition of the right
kind with its first footfall within a quarter stride, its first limb (or its partner of a pair that lands
together), the answer to the aid within a tenth of a second, and a bout that begins with its gait. Halts last 0.5
to 3 s between the gait named and walk; a rein-back is one because the coach said so, and its answer is not judged. Aim 99 % at 60 frames/s and
more with every mark made, 97 % under hard marks.

| | every mark: 30 | 60 | 120 | 240 | hard marks: 30 | 60 | 120 | 240 |
|---|---:|---:|---:|---:|---:|---:|---:|---:|
";

const INTERVALS: &str = "
## Intervals of the first horse

How often the 95 % interval holds the truth, and its median width beside that of an ideal one (2·1.96 times
the scatter of the estimates' errors over all rides): about 1 is neither boastful nor idle. On the bare frame
grid marks have no error but the frame's.

| what | frames/s | cases | reached | aim | width |
|---|---:|---:|---:|---:|---:|
";

const CONFIDENCE: &str = "
## Confidence

Of bouts labelled with a confidence in each range, how many are right. The rides are hard to label: horses of
all gaits and anywhere between two of them, 2 to 13 strides, all four frame rates, hard marks. Right is the
label that the rules give the horse's own numbers.

| confidence | bouts | claimed on average | right |
|---|---:|---:|---:|
";

const INTRODUCTION: &str = "\
# How often the analysis is right

Measured on synthetic rides whose truth is known, made by `make accuracy` (this page is written by the
program). Every ride is drawn anew: stride duration ±8 %, phases ±0.02, duty factor ±0.03, stride CV 1–3 %
with serial correlation 0–0.4, random start. Horses whose own numbers lie within 1 % of a border between
two gaits are left out of the row of gaited gaits and judged by the confidence table.

For gaits, leads, changes and drift the marks are hard: 4–10 ms of scatter on top of the frame grid, 0–10 %
of them missing and in half of the rides one given to a wrong limb (drift, disunited strides and the row
that says so: none missing, none wrong). For intervals they scatter by half a frame to a frame.

";

const REMARKS: &str = "
## What is not reached, and why

- **Flying changes under hard marks**: a verdict is withheld where a mark that was not made, or was given to
  another limb, leaves it open. When one mark of a pair is missing and the other given to its limb, the two are
  those of the other lead, and are told so.
- **Halts and rein-back under hard marks**: where two of the four marks at a halt are missing, or one was given to
  a wrong limb, the halt may be told late or not at all.
- **Intervals at 5 and 6 strides** are a little wide for figures made of two limbs' places: three or four
  strides cannot tell how a hoof scatters, and what is usual stands in. For the same reason the air of a horse
  that is much steadier than usual, as the first horse is, has intervals that hold the truth too often.
- **One stride more**: on the bare frame grid the air's interval over five strides is wider still, when the
  strides happen to be a whole number of frames long.
";
