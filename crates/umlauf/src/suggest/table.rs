//! Suggestions as a table that `analyse` reads.

use std::fmt::Write as _;

use crate::suggest::suggestion::Suggested;

/// The table: comments first, then a row a footfall.
pub fn table(found: &Suggested) -> String {
    let mut out = String::new();
    let said = [
        ("camera", found.camera),
        ("near", found.near),
        ("gait", found.gait),
        ("refused", found.refused.as_deref()),
    ];
    for (key, value) in said {
        if let Some(value) = value {
            let _ = writeln!(out, "# {key}: {value}");
        }
    }
    if let Some(late) = found.sound_late_s {
        let _ = writeln!(out, "# sound_late_s: {late:.4}");
    }
    if let Some(late) = found.sensor_late_s {
        let _ = writeln!(out, "# sensor_late_s: {late:.4}");
    }
    for says in &found.sensors {
        let _ = writeln!(out, "# sensor: {says}");
    }
    if let Some(t) = found.trunk {
        let _ = writeln!(
            out,
            "# trunk: {:.2} ± {:.2} strides/min, strides scatter by {:.1} %, {} strides",
            t.tempo, t.tempo_sd, t.regularity_cv_pct, t.strides
        );
    }
    for part in &found.unseen {
        let _ = writeln!(out, "# unseen: {:.1} to {:.1} s: {}", part.from_s, part.to_s, part.why);
    }
    out.push_str(
        "limb,on_s,off_s,heel_off_s,x_m,y_m,x_px,y_px,sd_on_s,sd_off_s,confidence,source,why\n",
    );
    let number = |value: Option<f64>, digits: usize| {
        value.map_or(String::new(), |v| format!("{v:.digits$}"))
    };
    for f in &found.footfalls {
        let _ = writeln!(
            out,
            "{},{:.6},{},{},,,{},{},{:.6},{},{:.3},{},\"{}\"",
            f.limb.as_deref().unwrap_or_default(),
            f.on_s,
            number(f.off_s, 6),
            number(f.heel_off_s, 6),
            number(f.x_px, 1),
            number(f.y_px, 1),
            f.sd_on_s,
            number(f.sd_off_s, 6),
            f.confidence,
            f.source,
            f.why
        );
    }
    out
}
