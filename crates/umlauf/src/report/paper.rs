//! Reports on paper: one page a session or a period, self-contained HTML that prints in black and
//! white on A4. The rider's version leaves out the coach's own notes.

use std::sync::OnceLock;

use base64::Engine as _;
use maud::{DOCTYPE, Markup, PreEscaped, html};
use umlauf_gait::base::schools::Schools;

use crate::assets;

/// Who it is for.
#[derive(Clone, Copy, Debug, Eq, PartialEq)]
pub enum Reader {
    /// The coach: everything.
    Coach,
    /// The rider: without the coach's notes.
    Rider,
}

const STYLE: &str = "
@page { size: A4; margin: 13mm }
body { font: 10.2pt/1.28 'Alegreya Sans', 'Gill Sans', sans-serif; color: #000; background: #fff; font-variant-numeric: lining-nums; max-width: 184mm; margin: 0 auto }
h1 { font-size: 17pt; line-height: 1.12; margin: 0 0 2mm } h2 { font-size: 12pt; margin: 2.6mm 0 0.6mm; border-bottom: 0.6pt solid #000; break-after: avoid }
p { margin: 0 0 1.2mm } table { border-collapse: collapse; width: 100% } th, td { text-align: left; vertical-align: middle; padding: 0.2mm 2.5mm 0.2mm 0; border-bottom: 0.3pt solid #999; font-weight: normal }
td.n, th.n { text-align: right; font-variant-numeric: lining-nums tabular-nums; white-space: nowrap } td.course { font-size: 9.5pt; line-height: 1.15; width: 47mm } .soft { color: #444 } h2 small { font-size: 9.5pt; font-weight: 400 } .caution { border-left: 2pt solid #000; padding-left: 2.5mm; margin: 1.5mm 0 }
ol, ul { margin: 0; padding-left: 5mm } li { margin-bottom: 0.6mm; break-inside: avoid } tr, svg { break-inside: avoid }
.wheels { display: flex; gap: 12mm } .wheels span { display: flex; align-items: center; gap: 3mm; font-size: 9.5pt; color: #444 }
@media screen { body { padding: 12mm } }
";

/// The page's own font, written into the document so that it stands alone.
fn fonts() -> &'static str {
    static FONTS: OnceLock<String> = OnceLock::new();
    FONTS.get_or_init(|| {
        let face = |weight: u32| {
            let data = assets::font(&format!("alegreya-sans-latin-{weight}-normal"))?;
            let text = base64::engine::general_purpose::STANDARD.encode(data);
            Some(format!(
                "@font-face {{ font-family: 'Alegreya Sans'; font-weight: {weight}; src: url(data:font/woff2;base64,{text}) format('woff2') }}\n"
            ))
        };
        [400, 700].into_iter().filter_map(face).collect()
    })
}

/// A whole document.
pub(crate) fn page(title: &str, body: &Markup) -> String {
    html! {
        (DOCTYPE)
        html lang="en" {
            head {
                meta charset="utf-8";
                title { (title) }
                link rel="icon" href="data:,";
                style { (PreEscaped(fonts())) (PreEscaped(STYLE)) }
            }
            body { (body) }
        }
    }
    .into_string()
}

/// What every report ends with.
pub(crate) fn cautions() -> Markup {
    html! {
        p class="caution" {
            "Uneven steps, a new difference between left and right, a head nod or reluctance: stop, \
             and have a vet look. Umlauf times footfalls; it does not diagnose lameness. Young, \
             unfit and returning horses: short doses, walk breaks. Local rules and licensed \
             professionals decide."
        }
    }
}

/// Which schools the words follow, and what an interval means.
pub(crate) fn schools(schools: &Schools) -> Markup {
    let words = if *schools == Schools::default() {
        "The default schools are in force."
    } else {
        "Other schools than the default are in force."
    };
    html! {
        p class="soft" {
            "Intervals hold the truth in 95 of 100 cases. " (words) " Made by Umlauf."
        }
    }
}

pub(crate) fn plus_minus(value: f64, ci95: Option<(f64, f64)>, digits: usize) -> String {
    let shown = format!("{value:.digits$}");
    // A minus before nothing says nothing.
    let nothing = shown.chars().all(|c| matches!(c, '-' | '0' | '.'));
    let shown = if nothing { shown.trim_start_matches('-') } else { &shown };
    match ci95 {
        Some((lo, hi)) => format!("{shown} ± {:.digits$}", (hi - lo) / 2.0),
        None => shown.to_owned(),
    }
}
