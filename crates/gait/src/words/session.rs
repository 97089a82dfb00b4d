//! A session in one sentence.

use crate::analysis::analyse::Analysis;
use crate::base::schools::Schools;
use crate::season::session::{Matter, RiddenLine};
use crate::words::finding::say;
use crate::words::names::label_name;

/// A session in one sentence: what was ridden, and what matters most.
pub fn of_session(
    ridden: &[RiddenLine],
    matters: &[Matter],
    clips: &[Analysis],
    untimed: usize,
) -> String {
    if clips.is_empty() {
        return "No footage in this session yet.".into();
    }
    let Some(most) = ridden.first() else {
        return "Filmed, not timed yet: open a clip and mark the first footfalls.".into();
    };
    let on = most.rein.map_or(String::new(), |r| format!(" on the {} rein", r.word()));
    let what = format!("Mostly {}{on}", label_name(most.label).to_lowercase());
    let first = matters.first().map(|m| &clips[m.analysis].findings[m.finding]);
    let fault = first.filter(|f| f.kind.is_fault());
    let next = match fault {
        Some(f) => {
            let title = say(f, &Schools::default()).title;
            let mut letters = title.chars();
            let first: String = letters.next().into_iter().flat_map(char::to_lowercase).collect();
            format!("; what matters most: {first}{}", letters.as_str())
        }
        None => "; nothing asks for attention".into(),
    };
    let waiting = match untimed {
        0 => String::new(),
        1 => " One clip waits to be timed.".into(),
        n => format!(" {n} clips wait to be timed."),
    };
    format!("{what}{next}.{waiting}")
}
