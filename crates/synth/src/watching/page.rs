//! The tables as a page of Markdown.

use std::fmt::Write as _;

use crate::flat::canvas::count;
use crate::flat::conditions::TESTED_FROM;
use crate::watching::asked::{Asked, HARD, RIDDEN};
use crate::watching::compared::Compared;
use crate::watching::table::{HANDLINGS, Outcome, RATES, Row};
use crate::watching::verdict::Told;

fn percent(part: usize, of: usize) -> f64 {
    100.0 * count(part) / count(of.max(1))
}

fn rms(errors: &[f64]) -> f64 {
    (errors.iter().map(|e| e * e).sum::<f64>() / count(errors.len().max(1))).sqrt()
}

fn mean(errors: &[f64]) -> f64 {
    errors.iter().sum::<f64>() / count(errors.len().max(1))
}

/// One line of the first table.
fn cells(what: &str, rate: &str, row: &Row) -> String {
    let c = &row.compared;
    format!(
        "| {what} | {rate} | {} | {} | {} | {:.1} % | {:.1} % | {:.1} % | {:.2} ({:+.2}) | {} |",
        row.films,
        row.refused,
        c.in_view,
        percent(c.found, c.in_view),
        percent(c.made_up, c.found + c.made_up),
        percent(c.limb, c.found),
        rms(&c.on),
        mean(&c.on),
        if c.off.is_empty() { "–".to_owned() } else { format!("{:.1}", rms(&c.off)) },
    )
}

/// Where hooves were told to stand.
fn places(c: &Compared) -> String {
    let scatter = |of: &dyn Fn(&(f64, f64)) -> f64| {
        let all: Vec<f64> = c.places.iter().map(of).collect();
        let mean = all.iter().sum::<f64>() / count(all.len()).max(1.0);
        let squares = all.iter().map(|v| (v - mean).powi(2)).sum::<f64>();
        (100.0 * mean, 100.0 * (squares / count(all.len()).max(1.0)).sqrt())
    };
    let (ahead, up) = (scatter(&|p| p.0), scatter(&|p| p.1));
    format!(
        "Places of hooves, from the toe, in heights at the withers: {:+.1} % ahead, scattered by {:.1} %; {:+.1} % above, by \
         {:.1} %.\n\n",
        ahead.0, ahead.1, up.0, up.1
    )
}

/// Share of ons whose error is below so many standard deviations.
fn below(c: &Compared, sds: f64) -> f64 {
    percent(c.on_sds.iter().filter(|z| z.abs() < sds).count(), c.on_sds.len())
}

/// Steps of being sure.
const STEPS: [(f64, f64); 4] = [(0.0, 0.5), (0.5, 0.8), (0.8, 0.95), (0.95, 1.01)];

/// A film in one line.
pub fn line(asked: &Asked, own: &Outcome) -> String {
    let c = &own.compared;
    let mut hard = asked.hard.map_or(String::new(), |hard| format!("{hard:?} "));
    if asked.wraps > 0 {
        let _ = write!(hard, "{} wraps ", asked.wraps);
    }
    let film = format!(
        "{hard}{} {:.0}/s {:?} seed {}: ",
        asked.ridden.name, asked.rate, asked.handling, asked.seed
    );
    match &own.refused {
        Some(why) => format!("{film}refused: {why}"),
        None => format!(
            "{film}{} of {}, limb {}, made up {}, on {:.2} frames",
            c.found,
            c.in_view,
            c.limb,
            c.made_up,
            rms(&c.on)
        ),
    }
}

/// The page of outcomes.
pub fn page(
    (asked, outcomes): (&[Asked], &[Outcome]),
    hard: (&[Asked], &[Outcome]),
    wraps: (&[Asked], &[Outcome]),
    films: u64,
    from: u64,
) -> String {
    let mut out = String::from(INTRODUCTION);
    let kept = if from >= TESTED_FROM { "that nothing was tuned on" } else { "used for tuning" };
    let row = |meant: &dyn Fn(&Asked) -> bool| Row::of(asked, outcomes, meant);
    // Writing to a string cannot fail.
    let _ = writeln!(out, "{films} films a row, seeds from {from} on ({kept}).\n");
    out.push_str(MEANT);
    out.push_str(HEAD);
    for ridden in RIDDEN {
        for rate in RATES {
            let own = row(&|a| a.ridden == ridden && (a.rate - rate).abs() < 0.5);
            let _ = writeln!(out, "{}", cells(ridden.name, &format!("{rate:.0}"), &own));
        }
    }
    for ridden in RIDDEN {
        let own = row(&|a| a.ridden == ridden);
        let _ = writeln!(out, "{}", cells(&format!("all, {}", ridden.name), "all", &own));
    }
    for handling in HANDLINGS {
        let own = row(&|a| a.handling == handling);
        let name = format!("all, camera {}", format!("{handling:?}").to_lowercase());
        let _ = writeln!(out, "{}", cells(&name, "all", &own));
    }
    let all = row(&|_| true);
    let _ = writeln!(out, "{}", cells("all", "all", &all));
    out.push_str(AIM);
    verdicts(&mut out, &all, asked, outcomes);
    let c = &all.compared;
    let _ = writeln!(
        out,
        "{CERTAINTY}Errors of ons below one, two, three standard deviations: {:.1} %, {:.1} %, {:.1} %\n(aim: 65–72, 93–97, at least 98).\n",
        below(c, 1.0),
        below(c, 2.0),
        below(c, 3.0)
    );
    out.push_str(&places(c));
    out.push_str("| said to be sure | footfalls | said, mean | right |\n|---|---:|---:|---:|\n");
    for (from, to) in STEPS {
        let own: Vec<&(f64, bool)> = c.sure.iter().filter(|(s, _)| *s >= from && *s < to).collect();
        let said: Vec<f64> = own.iter().map(|(s, _)| *s).collect();
        let right = own.iter().filter(|(_, right)| *right).count();
        let _ = writeln!(
            out,
            "| {:.0}–{:.0} % | {} | {:.1} % | {:.1} % |",
            100.0 * from,
            100.0 * to.min(1.0),
            own.len(),
            100.0 * mean(&said),
            percent(right, own.len())
        );
    }
    heard(&mut out, asked, outcomes);
    worn(&mut out, wraps);
    refused(&mut out, hard);
    out
}

/// What is found of the same films with their sound.
fn heard(out: &mut String, asked: &[Asked], outcomes: &[Outcome]) {
    out.push_str(HEARD);
    out.push_str(HEAD);
    let row = |meant: &dyn Fn(&Asked) -> bool| {
        let row = Row::of(asked, outcomes, meant);
        Row { compared: row.with_sound.clone(), ..row }
    };
    for ridden in RIDDEN {
        let own = row(&|a| a.ridden == ridden);
        let _ = writeln!(out, "{}", cells(&format!("{}, with sound", ridden.name), "all", &own));
    }
    let all = row(&|_| true);
    let _ = writeln!(out, "{}", cells("all, with sound", "all", &all));
    let _ = writeln!(
        out,
        "\nErrors of ons below one, two, three standard deviations: {:.1} %, {:.1} %, {:.1} %.",
        below(&all.compared, 1.0),
        below(&all.compared, 2.0),
        below(&all.compared, 3.0)
    );
    out.push_str("\nAim: found ≥ 97 %, made up ≤ 1 %, limb ≥ 99 %, on ≤ 0.5 frames.\n");
}

/// What is found of horses whose limbs wear wraps.
fn worn(out: &mut String, (asked, outcomes): (&[Asked], &[Outcome])) {
    out.push_str(WORN);
    out.push_str(HEAD);
    for (name, wraps) in [("four wraps", 4), ("two wraps", 2)] {
        for ridden in RIDDEN {
            let own = Row::of(asked, outcomes, |a| a.wraps == wraps && a.ridden == ridden);
            let _ = writeln!(out, "{}", cells(&format!("{}, {name}", ridden.name), "60", &own));
        }
        let own = Row::of(asked, outcomes, |a| a.wraps == wraps);
        let _ = writeln!(out, "{}", cells(&format!("all, {name}"), "60", &own));
    }
    out.push_str("\nAim with four: found ≥ 97 %, limb ≥ 99.5 %.\n");
}

/// What is told of films of which nothing should be told, or little.
fn refused(out: &mut String, (asked, outcomes): (&[Asked], &[Outcome])) {
    out.push_str(REFUSED);
    for (name, hard) in HARD {
        let row = Row::of(asked, outcomes, |a| a.hard == Some(hard));
        let c = &row.compared;
        let told = c.found + c.made_up;
        let _ = writeln!(
            out,
            "| {name} | {} | {} | {told} | {} | {} |",
            row.films,
            row.refused,
            if told == 0 { "–".to_owned() } else { format!("{:.0} %", percent(c.found, told)) },
            if c.found == 0 {
                "–".to_owned()
            } else {
                format!("{:.0} %", percent(c.limb, c.found))
            },
        );
    }
}

fn verdicts(out: &mut String, all: &Row, asked: &[Asked], outcomes: &[Outcome]) {
    out.push_str(VERDICTS);
    let mut line = |what: &str, of: Vec<bool>, aim: &str| {
        let right = of.iter().filter(|b| **b).count();
        let _ =
            writeln!(out, "| {what} | {} | {:.1} % | {aim} |", of.len(), percent(right, of.len()));
    };
    let each = |get: &dyn Fn(&Told) -> Option<bool>| -> Vec<bool> {
        all.told.iter().filter_map(get).collect()
    };
    line("gait", each(&|t| Some(t.gait)), "≥ 99 %");
    line("canter lead", each(&|t| t.lead), "≥ 98 %");
    line("tempo within 0.5 %", each(&|t| t.tempo.map(|e| e.abs() <= 0.005)), "all");
    line(
        "a late change with the pair that was late, where its strides are in the picture",
        each(&|t| t.late_found),
        "≥ 90 %",
    );
    let names = ["tempo", "a trot's dissociation", "a trot's suspension"];
    for (k, of) in names.into_iter().enumerate() {
        line(
            &format!("the 95 % interval of {of} holds the truth"),
            each(&|t| t.held[k]),
            "93–97 %",
        );
    }
    let clean = Row::of(asked, outcomes, |a| a.ridden.changes && a.late_by() == Some(0));
    line(
        "a clean change called late",
        clean.told.iter().map(|t| t.late_made_up).collect(),
        "≤ 3 %",
    );
}

const INTRODUCTION: &str = "# How often hooves are found

Films of a drawn horse, watched without sound, without wraps and without a word from anyone, against the
ride they were drawn from (this page is written by the program). The horse is drawn by another method than
the one of the demo clips, in bodies, coats (also the colour of the sand), socks, light, shadow, dust, noise
and blur that differ from film to film, 150 to 230 pixels high; a third of the films has another horse
behind the rail. The camera stands still, turns after the horse or is held in the hand, in turn.

";

const MEANT: &str = "A footfall is in view when its hoof is in the picture from taking the ground to leaving it. It is found
when its on lies within 1.5 frames; of those found the limb may be right. *Made up* is a footfall where none
was ridden, by all that were told. Errors of on and off: root mean square, in frames; in brackets the bias.

";

const HEAD: &str =
    "| ridden | frames/s | films | refused | in view | found | made up | limb right | on | off |
|---|---:|---:|---:|---:|---:|---:|---:|---:|---:|
";

const AIM: &str = "\nAim: found ≥ 95 %, made up ≤ 2 %, limb ≥ 98 %, on ≤ 0.7 frames with a bias of at most 0.15, off ≤ 1.5.\n";

const VERDICTS: &str = "\n## What is told from them, nobody looking

Against what the true footfalls of the same stretch tell.

| told | films | share | aim |
|---|---:|---:|---:|
";

const HEARD: &str = "
## With sound

The first table's films with their hoofbeats under hiss (10 dB), which come up to 80 ms late or 30 ms early. A beat
that nothing was seen of is a footfall where one limb alone is due then; others have no limb, and are not counted.

";

const WORN: &str = "
## With wraps

Each wrap of another colour, shown to the program by one click in the film. Two are on both fores or on a side.

";

const REFUSED: &str = "
## Refused rather than wrong

Of films without a horse nothing should be told; of a horse that is hardly seen nothing that is wrong.

| film of | films | refused | footfalls told | of these true | limb right |
|---|---:|---:|---:|---:|---:|
";

const CERTAINTY: &str = "\n## How sure they say they are\n\n";
