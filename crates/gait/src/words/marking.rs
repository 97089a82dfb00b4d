//! The coach's hand and doubtful marks in words.

use crate::marking::doubtful_marks::Doubt;
use crate::marking::scatter::{FEWEST_PAIRS, Scatter};

/// The coach's own scatter.
pub fn scatter(found: Option<Scatter>) -> String {
    let Some(found) = found else {
        return format!(
            "Mark at least {FEWEST_PAIRS} of the same footfalls again: fewer do not tell your scatter."
        );
    };
    let ms = |s: f64| format!("{:.1}", 1000.0 * s);
    format!(
        "Your hand scatters by {} ms a mark ({} to {}), from {} footfalls marked twice.",
        ms(found.sd_s),
        ms(found.ci95.0),
        ms(found.ci95.1),
        found.pairs
    )
}

/// A place where the marks look wrong.
pub fn doubtful(doubt: Doubt) -> String {
    match doubt {
        Doubt::Missing(limb) => format!("{} due here, not marked", limb.name()),
        Doubt::OutOfPlace(limb) => format!(
            "{} far from its place in the other strides: right limb, right frame?",
            limb.name()
        ),
    }
}
