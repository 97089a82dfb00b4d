//! What was looked for in a session, and how large a fault would have been told.

use crate::analysis::analyse::Analysis;
use crate::bouts::lead_verdict::LeadVerdict;
use crate::season::looked_for::{Look, looked_for};
use crate::season::sought::Sought;
use crate::words::numbers::counted;

/// One thing that was looked for.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct LookedFor {
    /// What.
    pub what: &'static str,
    /// In how much: "6 bouts", "5 changes".
    pub places: String,
    /// The size from which it would have been told; `None` for what is seen as such.
    pub told_from: Option<String>,
}

/// Everything that was looked for in a session's clips, each thing once.
pub fn of_session(clips: &[Analysis]) -> Vec<LookedFor> {
    let looks = looked_for(clips);
    let mut out = seen(clips);
    for (kind, what) in WHATS.iter().enumerate() {
        let own: Vec<&Look> = looks.iter().filter(|l| l.sought.kind() == kind).collect();
        let mut places: Vec<_> = own.iter().flat_map(|l| l.places.iter().copied()).collect();
        places.sort_unstable();
        places.dedup();
        let Some(first) = own.first() else { continue };
        let mut sizes: Vec<f64> =
            own.iter().map(|l| l.shown_from).filter(|s| s.is_finite()).collect();
        sizes.sort_by(f64::total_cmp);
        let told_from = sizes.first().zip(sizes.last()).map(|(least, most)| {
            // What belongs to the horse shows best over all bouts; what happens in one stretch must
            // show there, and stretches differ.
            let most = if Sought::OF_A_HORSE.contains(&first.sought) { least } else { most };
            told(first.sought, *least, *most)
        });
        out.push(LookedFor { what, places: counted(places.len(), "bout"), told_from });
    }
    out
}

/// What is seen as such, without a figure.
fn seen(clips: &[Analysis]) -> Vec<LookedFor> {
    let sum = |of: &dyn Fn(&Analysis) -> usize| clips.iter().map(of).sum::<usize>();
    let leads = sum(&|a| {
        let told = |v: &Option<LeadVerdict>| v.is_some();
        a.bouts.iter().filter(|b| told(&b.lead_verdict)).count()
    });
    let changes = sum(&|a| a.events.changes.len());
    let answers = sum(&|a| a.events.transitions.iter().filter(|(_, a)| a.is_some()).count());
    let halts = sum(&|a| a.events.halts.iter().filter(|h| h.square.is_some()).count());
    let all = [
        (leads, "a wrong lead or none", "canter bout"),
        (changes, "a change that is not clean", "change"),
        (answers, "a slow answer", "answer"),
        (halts, "a halt that is not square", "halt"),
    ];
    let met = all.into_iter().filter(|(n, ..)| *n > 0);
    met.map(|(n, what, one)| LookedFor { what, places: counted(n, one), told_from: None }).collect()
}

/// By [`Sought::kind`].
const WHATS: &[&str] = &[
    "unlike stances left and right",
    "unlike steps left and right",
    "four beats in canter",
    "a walk that leaves its four beats",
    "tempo lost on two tracks",
    "hurrying instead of lengthening",
    "a tempo that does not hold",
    "an unsettled rhythm",
    "quarters beside the forehand",
];

/// A size, or from one to another, in the figure's own unit.
fn told(of: Sought, least: f64, most: f64) -> String {
    let (scale, digits, unit) = match of {
        Sought::HindStance | Sought::ForeStance | Sought::Steps => (1.0, 0, "%"),
        Sought::FourBeats => (1000.0, 0, "ms"),
        Sought::WalkBeats => (100.0, 0, "% of the stride off"),
        Sought::LateralLoss(..) | Sought::WeakerSide(..) => (1.0, 0, "% of the tempo"),
        Sought::ByTempo => (100.0, 0, "% too quick for the speed"),
        Sought::Drift => (100.0, 0, "% over a bout"),
        Sought::Rhythm => (1.0, 1, "% from stride to stride"),
        Sought::Crooked => (100.0, 0, "cm"),
    };
    let number = |size: f64| {
        let size = if of == Sought::Rhythm { size.exp() } else { size };
        format!("{:.digits$}", scale * size)
    };
    match (number(least), number(most)) {
        (a, b) if a == b => format!("{a} {unit}"),
        (a, b) => format!("{a} to {b} {unit}"),
    }
}
