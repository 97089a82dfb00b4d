//! A session in one sentence.

use crate::analysis::analyse::Analysis;
use crate::events::flying_change::FlyingChange;
use crate::findings::kind::Kind;
use crate::season::session::{Matter, RiddenLine};
use crate::words::finding::say;
use crate::words::names::{change_word, label_name};
use crate::words::numbers::{lower, ordinal};

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
    let next = match matters.first() {
        Some(m) => format!("; what matters most: {}", phrase(&clips[m.analysis], m.finding)),
        None => "; nothing asks for attention".into(),
    };
    let waiting = match untimed {
        0 => String::new(),
        1 => " One clip waits to be timed.".into(),
        n => format!(" {n} clips wait to be timed."),
    };
    format!("{what}{next}.{waiting}")
}

/// A fault of a clip as part of a sentence, with its place: which change of a line, which rein.
fn phrase(clip: &Analysis, finding: usize) -> String {
    let of = &clip.findings[finding];
    let title = match of.kind {
        Kind::Change { verdict, late_by_strides, offered: false, .. } => {
            let here =
                |c: &FlyingChange| c.time_s >= of.start_s - 1e-9 && c.time_s <= of.end_s + 1e-9;
            let changes = &clip.events.changes;
            let place = changes.iter().position(|(c, _)| here(c));
            match place.filter(|_| changes.len() > 1) {
                Some(k) => format!(
                    "the {} of {} changes {}",
                    ordinal(k + 1),
                    changes.len(),
                    change_word(verdict, late_by_strides)
                ),
                None => format!("a change {}", change_word(verdict, late_by_strides)),
            }
        }
        _ => lower(&say(of, &clip.schools).title),
    };
    let rein = clip.bouts.get(of.bout).and_then(|b| b.rein);
    match rein.filter(|_| !title.contains(" left") && !title.contains(" right")) {
        Some(rein) => format!("{title}, on the {} rein", rein.word()),
        None => title,
    }
}
