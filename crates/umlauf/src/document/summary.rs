//! The analysis as a readable page of text.

use std::fmt::Write as _;

use crate::document::bout::BoutSaid;
use crate::document::estimate::Estimate;
use crate::document::whole::Document;

/// A document in words and figures, for a terminal.
pub fn summary(d: &Document) -> String {
    let mut out = format!("{}\n", d.headline);
    // Writing to a string cannot fail.
    let _ = writeln!(out, "{} footfalls; {}", d.input.footfalls, d.input.timing_says);
    for dropped in &d.input.dropped {
        let _ = writeln!(out, "  line {}: {}", dropped.line, dropped.why);
    }
    for b in &d.bouts {
        let _ = write!(out, "\n{:.3} s to {:.3} s  {}", b.start_s, b.end_s, b.label);
        let strides = if b.strides == 1 { "stride" } else { "strides" };
        let _ = writeln!(out, ", {} {strides}", b.strides);
        for line in figures(b) {
            let _ = writeln!(out, "  {line}");
        }
    }
    if !d.findings.is_empty() {
        let _ = writeln!(out, "\nFindings");
    }
    for f in &d.findings {
        let _ = writeln!(out, "  {} ({}, {})", f.title, f.figure, f.sure);
        let _ = writeln!(out, "    {}", f.says);
        for t in &f.r#try {
            let _ = writeln!(out, "    try: {t}");
        }
        if let Some(caution) = &f.caution {
            let _ = writeln!(out, "    caution: {caution}");
        }
    }
    out
}

fn figures(b: &BoutSaid) -> Vec<String> {
    let mut out = Vec::new();
    let mut add = |name: &str, e: &Option<Estimate>, scale: f64, digits: usize, unit: &str| {
        if let Some(e) = e {
            let error = e.ci95.map_or(String::new(), |[lo, hi]| {
                format!(" ± {:.digits$}", (hi - lo) / 2.0 * scale)
            });
            out.push(format!("{name:<22}{:.digits$}{error} {unit}", e.value * scale));
        }
    };
    add("tempo", &b.tempo, 1.0, 1, "strides/min");
    add("stride duration", &b.stride_duration_s, 1.0, 3, "s");
    add("air, one phase", &b.suspension_s, 1000.0, 0, "ms");
    add("split of the diagonal", &b.canter_split_s, 1000.0, 0, "ms");
    add("speed", &b.speed, 1.0, 2, "m/s");
    add("stride length", &b.stride_length_m, 1.0, 2, "m");
    for (limb, duty) in [
        ("LF", &b.duty_factor.lf),
        ("RF", &b.duty_factor.rf),
        ("LH", &b.duty_factor.lh),
        ("RH", &b.duty_factor.rh),
    ] {
        add(&format!("stance share {limb}"), duty, 100.0, 1, "%");
    }
    if let Some(r) = &b.regularity_cv_pct {
        out.push(match (r.at_most, r.ci95) {
            (Some(most), _) => format!("{:<22}at most {most:.1} %", "strides differ by"),
            (None, Some([lo, hi])) => {
                format!("{:<22}{:.1} % ({lo:.1} to {hi:.1})", "strides differ by", r.value)
            }
            (None, None) => format!("{:<22}{:.1} %", "strides differ by", r.value),
        });
    }
    if let Some(verdict) = &b.lead_verdict {
        out.push(format!("{:<22}{verdict}", "lead"));
    }
    out
}
