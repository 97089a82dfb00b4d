//! What the coach at Watthof says of the season's horses, and her own marks.

use anyhow::Result;
use umlauf_store::Store;
use umlauf_store::horse::HorseCard;

/// The card of a horse of the season, filled in.
pub fn of(card: HorseCard) -> HorseCard {
    let text = str::to_owned;
    match card.name.as_str() {
        "Priel" => HorseCard {
            born: Some(2021),
            degree: Some(1),
            history: text(
                "Backed last autumn, one winter on the beach, in regular work since July.",
            ),
            goals: text("An even trot on both reins; canter on the circle by spring."),
            cautions: text("Young: twenty minutes, walk breaks, nothing drilled."),
            ..card
        },
        "Bernsteen" => HorseCard {
            born: Some(2009),
            degree: Some(3),
            leads: text("The third of five four-tempi came late behind all summer."),
            goals: text("Five clean four-tempi at every try, then threes."),
            ..card
        },
        "Distel" => HorseCard {
            born: Some(2015),
            degree: Some(2),
            history: text("Seven weeks of rest in late summer; the vet let her go back to work."),
            goals: text("Back to the length of stride from before the pause."),
            cautions: text("Coming back: grow by a tenth a week, stop at any uneven step."),
            ..card
        },
        "Queller" => HorseCard {
            born: Some(2016),
            degree: Some(1),
            intended_gait: text("flat-walk"),
            goals: text("A flat walk that holds out of the corners."),
            ..card
        },
        "Tinne" => HorseCard {
            born: Some(2014),
            degree: Some(2),
            weak_side: Some(text("left")),
            goals: text("The left rein as long and as even as the right."),
            ..card
        },
        _ => card,
    }
}

/// The coach's marks for Priel's rhythm, session by session.
const RHYTHM: [f64; 12] = [4.0, 4.5, 4.5, 5.0, 5.0, 5.5, 6.0, 6.0, 6.5, 7.0, 7.0, 7.5];

/// The coach's own marks beside the measured ones.
///
/// # Errors
/// What the store meets.
pub fn coach_marks(store: &Store) -> Result<()> {
    for horse in store.horses()? {
        if horse.card.name != "Priel" {
            continue;
        }
        let sessions = store.sessions_of(horse.id)?;
        let season = &sessions[sessions.len().saturating_sub(RHYTHM.len())..];
        for (session, mark) in season.iter().zip(RHYTHM) {
            store.set_coach_mark(session.id, "trot", "regularity", Some(mark))?;
        }
    }
    Ok(())
}
