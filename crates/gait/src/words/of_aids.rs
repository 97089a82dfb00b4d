//! Aids, answers, transitions and halts in words.

use crate::base::gait::Gait;
use crate::base::limb::{Limb, Side};
use crate::base::schools::{AidTiming, CounterCanter, FirstFromHalt, Schools};
use crate::findings::kind::Asked;
use crate::words::advice;
use crate::words::names::{asked_name, gait_name};
use crate::words::numbers::counted;
use crate::words::sentence::Sentence;

pub(crate) fn posting(diagonal: Option<Side>, scatter: f64, lag: Option<usize>) -> Sentence {
    let on = diagonal.map_or("On no diagonal for long.".to_owned(), |side| {
        format!("The rider sits with the {} diagonal.", side.word())
    });
    let follows = match lag {
        Some(0) => " The horse follows the rider's tempo at once.".to_owned(),
        Some(1) => " The horse follows the rider's tempo a stride later.".to_owned(),
        Some(n) => format!(" The horse follows the rider's tempo {n} strides later."),
        None => String::new(),
    };
    let figure = format!("± {:.0} % of the stride", 100.0 * scatter);
    Sentence::new("posting", "Rising trot", format!("{on}{follows}"), figure)
}

pub(crate) fn aids(
    asked: Asked,
    (inside, of): (usize, usize),
    mean_phase: f64,
    scatter: f64,
    schools: &Schools,
) -> Sentence {
    let when = match asked {
        Asked::Leg(limb) if limb.is_hind() => match schools.aid_timing {
            AidTiming::HindLeaving => "as that hind is about to leave the ground",
            AidTiming::OutsideFore => "as the outside fore is about to break over",
        },
        Asked::Leg(_) | Asked::Turn(_) => "as the fore is about to break over",
        Asked::Canter(_) => "as the outside hind takes the ground",
        Asked::Change => "between the leading fore's footfall and the end of the air",
        Asked::HalfHalt => "while the outside hind stands",
    };
    let says = format!(
        "{inside} of {of} {when}; a hand at the keys lags by a fifth to a third of a second."
    );
    let figure = format!("{mean_phase:.2} ± {scatter:.2} of the stride");
    Sentence::new("aid-timing", format!("When {} falls", asked_name(asked)), says, figure)
}

pub(crate) fn answer(from: Gait, to: Gait, strides: f64, score: f64, steps: usize) -> Sentence {
    let slow = score < 5.0;
    let through = match steps {
        0 => String::new(),
        n => format!(", {} in between", counted(n, "step")),
    };
    let title = format!("{} to {}", gait_name(from), gait_name(to).to_lowercase());
    let says = format!(
        "The answer comes {strides:.1} strides after the aid{through}; suggested score {score:.1}."
    );
    let code = if slow { "slow-answer" } else { "answer" };
    let out = Sentence::new(code, title, says, format!("{strides:.1} strides"));
    if slow { out.advising(&[advice::TROT_WALK_TROT, advice::INSIST_ONCE]) } else { out }
}

pub(crate) fn unasked(from: Gait, to: Gait, counter: bool, schools: &Schools) -> Sentence {
    let to_word = gait_name(to).to_lowercase();
    let says = if counter && to == Gait::Trot {
        "Out of counter canter into trot: a step of learning, no crime.".to_owned()
    } else {
        format!("From {} to {to_word} without an aid for it.", gait_name(from).to_lowercase())
    };
    let out = Sentence::new("unasked-gait", format!("To {to_word}, unasked"), says, "–");
    match schools.counter_canter {
        _ if !counter => out,
        CounterCanter::Even => out.advising(&[advice::COUNTER_CANTER_EVEN]),
        CounterCanter::ForwardBack => out.advising(&[advice::COUNTER_CANTER_ALIVE]),
    }
}

pub(crate) fn not_square(trailing: Limb, offset: f64) -> Sentence {
    let says = format!("{trailing} stands behind its partner.");
    let figure = format!("{:.0} cm", offset * 100.0);
    Sentence::new("halt-not-square", "The halt is not square", says, figure)
        .advising(&[advice::HALT_FROM_BEHIND])
}

pub(crate) fn halt_left(first: Limb, trailing: Option<Limb>, schools: &Schools) -> Sentence {
    let school = match (schools.first_from_halt, first.is_hind()) {
        (FirstFromHalt::Hind, true) => "From behind, as is the aim.",
        (FirstFromHalt::Hind, false) => "A fore first; the aim is a hind.",
        (FirstFromHalt::Fore, false) => "A fore first is what horses do; ask for the hind next.",
        (FirstFromHalt::Fore, true) => "A hind first.",
    };
    let trailed = trailing.filter(|l| l.is_hind()).map_or(String::new(), |l| {
        format!(" {l} stood behind: then its diagonal fore tends to go first, and {l} next.")
    });
    let title = format!("{first} leaves the halt first");
    let out = Sentence::new("halt-left", title, format!("{school}{trailed}"), first.code());
    if first.is_hind() { out } else { out.advising(&[advice::HALT_FROM_BEHIND]) }
}

/// A halt; `least_s` is how long tests ask for.
pub(crate) fn halt_held(seconds: f64, square: Option<bool>, least_s: f64) -> Sentence {
    let title = if square == Some(true) { "A square halt" } else { "A halt" };
    let least = crate::words::numbers::number_of(least_s);
    let says = if seconds < least_s {
        format!("Shorter than the {least} seconds that tests ask for.")
    } else {
        format!("Held for {least} seconds and more.")
    };
    Sentence::new("halt", title, says, format!("{seconds:.1} s"))
}
