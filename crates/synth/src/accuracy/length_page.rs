//! Intervals and drift by length, as a section of the page and as a heat map.

use std::fmt::Write as _;

use crate::accuracy::by_length::{Cell, Figure, Found, Held, LENGTHS};
use crate::accuracy::row::RATES;
use crate::second_horse::Kind;

/// Coverage that is aimed at.
const AIM: (f64, f64) = (0.93, 0.97);

/// Drifts told where there are none, share that is aimed at.
const MOST_DRIFTS: f64 = 0.02;

/// Fewer intervals than this say nothing of a cell.
const FEW: u64 = 100;

/// By how much a cell misses its aim, beyond twice its own scatter; `None` when it does not.
fn misses(cell: &Cell, held: &Held) -> Option<f64> {
    if held.cases < FEW {
        return None;
    }
    #[expect(clippy::cast_precision_loss, reason = "counts")]
    let scatter = 2.0 * (0.95f64 * 0.05 / held.cases as f64).sqrt();
    let share = held.share();
    let low = AIM.0 - share - scatter;
    let high = if cell.bare { 0.0 } else { share - AIM.1 - scatter };
    let most = low.max(high);
    (most > 0.0).then_some(most)
}

/// The section: cells that miss first, then the table by length.
pub fn section(cells: &[(Cell, Found)], sessions: (u64, u64)) -> String {
    let mut out = String::from(INTRODUCTION);
    let mut missed: Vec<(f64, &Cell, Figure, &Held)> = Vec::new();
    let mut judged = 0;
    for (cell, found) in cells {
        for (figure, held) in Figure::ALL.into_iter().zip(&found.figures) {
            judged += usize::from(held.cases >= FEW);
            missed.extend(misses(cell, held).map(|by| (by, cell, figure, held)));
        }
    }
    missed.sort_by(|a, b| b.0.total_cmp(&a.0));
    let _ = writeln!(
        out,
        "**Missed**: {} of {judged} cells lie outside their aim by more than twice their own scatter; the worst:\n",
        missed.len()
    );
    out.push_str("| figure | gait | frames/s | marks | strides | intervals | hold the truth | width |\n|---|---|---:|---|---:|---:|---:|---:|\n");
    for (_, cell, figure, held) in missed.iter().take(12) {
        let _ = writeln!(
            out,
            "| {} | {} | {} | {} | {} | {} | {:.1} % | {:.2} |",
            figure.name(),
            cell.kind.name(),
            cell.rate,
            if cell.bare { "grid" } else { "scattered" },
            cell.strides,
            held.cases,
            100.0 * held.share(),
            held.beside_ideal
        );
    }
    for (bare, title) in [(false, "Scattered marks"), (true, "Bare frame grid")] {
        let _ = writeln!(
            out,
            "\n**{title}**, all gaits and frame rates together, by strides of a bout:\n"
        );
        out.push_str("| figure |");
        for n in LENGTHS {
            let _ = write!(out, " {n} |");
        }
        out.push_str("\n|---|");
        out.push_str(&"---:|".repeat(LENGTHS.len()));
        out.push('\n');
        for (k, figure) in Figure::ALL.into_iter().enumerate() {
            let _ = write!(out, "| {} |", figure.name());
            for n in LENGTHS {
                let own = cells.iter().filter(|(c, _)| c.bare == bare && c.strides == n);
                let (mut held, mut cases, mut wide) = (0, 0, Vec::new());
                for (_, found) in own {
                    let h = &found.figures[k];
                    held += h.held;
                    cases += h.cases;
                    wide.extend((h.cases >= FEW).then_some(h.beside_ideal));
                }
                wide.sort_by(f64::total_cmp);
                let width = wide.get(wide.len() / 2).copied().unwrap_or(f64::NAN);
                let share = percent(held, cases);
                let _ = if cases < FEW {
                    write!(out, " – |")
                } else if width.is_nan() {
                    write!(out, " {share:.1} % |")
                } else {
                    write!(out, " {share:.1} % ({width:.2}) |")
                };
            }
            out.push('\n');
        }
        let _ = write!(out, "| a drift told where there is none (aim ≤ 2 %) |");
        for n in LENGTHS {
            let own = cells.iter().filter(|(c, _)| c.bare == bare && c.strides == n);
            let (told, bouts) = own.fold((0, 0), |(t, b), (_, f)| (t + f.drifting, b + f.bouts));
            let _ = write!(out, " {:.1} % |", percent(told, bouts));
        }
        out.push('\n');
    }
    let _ = writeln!(out, "\n{}", drifting_cells(cells));
    let _ = writeln!(
        out,
        "\nSessions of ten bouts without any drift in which one is told: {:.1} % of {} (aim ≤ 5 %).",
        percent(sessions.0, sessions.1),
        sessions.1
    );
    out
}

/// A drift told where there is none, cell by cell: a share of at most 2 % may seem larger in a few
/// hundred rides.
fn drifting_cells(cells: &[(Cell, Found)]) -> String {
    let share = |f: &Found| percent(f.drifting, f.bouts);
    let scatter = |f: &Found| {
        percent(1, f.bouts) * (count_of(f.bouts) * MOST_DRIFTS * (1.0 - MOST_DRIFTS)).sqrt()
    };
    let above =
        cells.iter().filter(|(_, f)| share(f) > 100.0 * MOST_DRIFTS + 2.0 * scatter(f)).count();
    let worst = cells.iter().max_by(|a, b| share(&a.1).total_cmp(&share(&b.1)));
    let worst = worst.map_or(String::new(), |(c, f)| {
        format!(
            "; the most is {:.1} % of {} bouts ({}, {} frames/s, {}, {} strides)",
            share(f),
            f.bouts,
            c.kind.name(),
            c.rate,
            if c.bare { "grid" } else { "scattered" },
            c.strides
        )
    });
    format!(
        "Drifts told where there are none, cell by cell: {above} of {} lie above 2 % by more than twice their own scatter{worst}.",
        cells.len()
    )
}

fn percent(n: u64, of: u64) -> f64 {
    100.0 * count_of(n) / count_of(of.max(1))
}

fn count_of(n: u64) -> f64 {
    #[expect(clippy::cast_precision_loss, reason = "counts")]
    let n = n as f64;
    n
}

/// A cell's size and the room about the panels, in the drawing's units.
const SIZE: (f64, f64) = (26.0, 12.0);
const ROOM: (f64, f64) = (92.0, 46.0);

/// The heat map of coverage: a panel a figure, rows gaits and frame rates, columns strides; scattered
/// marks.
pub fn heat_map(cells: &[(Cell, Found)]) -> String {
    let rows = count(Kind::ALL.len() * RATES.len());
    let panel = (ROOM.0 + count(LENGTHS.len()) * SIZE.0, ROOM.1 + rows * SIZE.1);
    let (wide, high) = (3.0 * panel.0 + 24.0, 3.0 * panel.1 + 76.0);
    let mut out = format!(
        "<svg xmlns=\"http://www.w3.org/2000/svg\" viewBox=\"0 0 {wide} {high}\" font-family=\"sans-serif\" font-size=\"10\" fill=\"#2b2f33\">\n<rect width=\"{wide}\" height=\"{high}\" fill=\"#fbfaf7\"/>\n<text x=\"16\" y=\"22\" font-size=\"14\">How often 95 % intervals hold the truth, by strides of a bout (across) and gait at 30, 60, 120, 240 frames/s (down)</text>\n"
    );
    for (k, figure) in Figure::ALL.into_iter().enumerate() {
        let (left, top) = (count(k % 3) * panel.0 + 12.0, count(k / 3) * panel.1 + 36.0);
        let _ = writeln!(
            out,
            "<text x=\"{}\" y=\"{}\" font-size=\"12\">{}</text>",
            left + ROOM.0 - 24.0,
            top + 14.0,
            figure.name()
        );
        for (j, n) in LENGTHS.into_iter().enumerate() {
            let x = left + ROOM.0 - 24.0 + (count(j) + 0.5) * SIZE.0;
            let _ = writeln!(
                out,
                "<text x=\"{x}\" y=\"{}\" text-anchor=\"middle\">{n}</text>",
                top + 28.0
            );
        }
        for (g, kind) in Kind::ALL.into_iter().enumerate() {
            for (r, rate) in RATES.into_iter().enumerate() {
                let y = top + 32.0 + count(g * RATES.len() + r) * SIZE.1;
                if r == 0 {
                    let _ = writeln!(
                        out,
                        "<text x=\"{}\" y=\"{}\">{}</text>",
                        left + 10.0,
                        y + 10.0,
                        kind.name()
                    );
                }
                for (j, n) in LENGTHS.into_iter().enumerate() {
                    let own = cells.iter().find(|(c, _)| {
                        !c.bare
                            && c.kind == kind
                            && c.strides == n
                            && c.rate.total_cmp(&rate).is_eq()
                    });
                    let Some((_, found)) = own else { continue };
                    let held = &found.figures[k];
                    let x = left + ROOM.0 - 24.0 + count(j) * SIZE.0;
                    let (fill, ink, text) = if held.cases < FEW {
                        ("#eceae4".to_owned(), "#8a8880", String::new())
                    } else {
                        let share = 100.0 * held.share();
                        let dark = (share - 95.0).abs() > 7.0;
                        (
                            colour(share),
                            if dark { "#fbfaf7" } else { "#2b2f33" },
                            format!("{share:.0}"),
                        )
                    };
                    let _ = writeln!(
                        out,
                        "<rect x=\"{x}\" y=\"{y}\" width=\"{}\" height=\"{}\" fill=\"{fill}\"/><text x=\"{}\" y=\"{}\" text-anchor=\"middle\" font-size=\"8\" fill=\"{ink}\">{text}</text>",
                        SIZE.0 - 1.0,
                        SIZE.1 - 1.0,
                        x + SIZE.0 / 2.0,
                        y + 8.5
                    );
                }
            }
        }
    }
    let _ = writeln!(
        out,
        "<text x=\"16\" y=\"{}\">Too narrow: rust. As promised, 93 to 97: pale. Too wide: blue. Grey: fewer than {FEW} intervals (the gait has no such figure, or the clip cannot resolve it).</text>\n</svg>",
        high - 14.0
    );
    out
}

/// From rust over pale to blue: coverage in per cent below, at and above what is promised.
fn colour(share: f64) -> String {
    let away = if share < AIM.0 * 100.0 {
        (share - AIM.0 * 100.0) / 12.0
    } else if share > AIM.1 * 100.0 {
        (share - AIM.1 * 100.0) / 5.0
    } else {
        0.0
    };
    let end = if away < 0.0 { (166.0, 62.0, 26.0) } else { (70.0, 120.0, 168.0) };
    let t = away.abs().min(1.0);
    let mix = |pale: f64, end: f64| (pale + t * (end - pale)).round();
    format!("rgb({},{},{})", mix(236.0, end.0), mix(230.0, end.1), mix(208.0, end.2))
}

fn count(n: usize) -> f64 {
    f64::from(u32::try_from(n).unwrap_or(u32::MAX))
}

const INTRODUCTION: &str = "
## Intervals by length

How often the 95 % interval holds the truth, and in brackets its median width beside that of an ideal one, for
bouts of 5 to 40 strides: a second synthetic horse drawn by other rules (own clock, own scatter of every
hoof, stances that do not follow the stride). Spread of stride durations 1 to 5 %, likeness of neighbours 0 to
0.6, both drawn anew for every bout; marks scattered by 0.4 to 0.9 frames, or on the bare frame grid. Aim 93 to
97 % (grid: 93 % or more).

![Coverage by figure, gait, frame rate and length](accuracy.svg)

";
