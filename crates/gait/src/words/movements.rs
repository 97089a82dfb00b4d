//! Movements in words.

use crate::base::gait::Gait;
use crate::marks::movement::MovementKind;
use crate::words::numbers::counted;

/// A movement in words.
///
/// ```
/// use umlauf_gait::marks::movement::MovementKind;
/// use umlauf_gait::words::movements::movement_words;
/// let says = |name| movement_words(&MovementKind::named(name));
/// assert_eq!(says("tempi-4x5"), "changes every 4 strides, 5 of them");
/// assert_eq!(says("tempi-1"), "changes every stride");
/// assert_eq!(says("drill-2x3"), "drill 2 and 3 strides");
/// assert_eq!(says("circle-20"), "circle of 20 m");
/// assert_eq!(says("spiral"), "spiral");
/// ```
pub fn movement_words(movement: &MovementKind) -> String {
    match movement {
        MovementKind::Circle(m) => format!("circle of {m} m"),
        MovementKind::Tempi { every, count } => {
            let every = if *every == 1 { "stride".to_owned() } else { counted(*every, "stride") };
            let count = count.map_or(String::new(), |n| format!(", {n} of them"));
            format!("changes every {every}{count}")
        }
        MovementKind::Drill(a, b) => format!("drill {a} and {b} strides"),
        MovementKind::ForwardBack => "forward and back".into(),
        MovementKind::HalfPirouette => "half pirouette".into(),
        MovementKind::FullPirouette => "full pirouette".into(),
        other => other.name(),
    }
}

/// A gait as the coach chooses it of a list; `None` for what nobody rides.
pub const fn gait_choice(gait: Gait) -> Option<&'static str> {
    Some(match gait {
        Gait::Walk => "walk",
        Gait::Trot => "trot",
        Gait::Passage => "passage",
        Gait::Piaffe => "piaffe",
        Gait::Canter => "canter",
        Gait::Gallop => "gallop",
        Gait::ReinBack => "rein-back",
        Gait::FlatWalk => "flat walk (gaited)",
        Gait::RunningWalk => "running walk (gaited)",
        Gait::FoxTrot => "fox-trot (gaited)",
        Gait::Rack => "rack, tölt (gaited)",
        Gait::SteppingPace => "stepping pace (gaited)",
        Gait::Pace => "pace (gaited)",
        Gait::Halt | Gait::Unclear => return None,
    })
}

#[cfg(test)]
mod tests {
    use super::movement_words;
    use crate::marks::movement::MovementKind;

    #[test]
    fn every_movement_offered_keeps_its_name_and_has_words_of_its_own() {
        let offered = MovementKind::offered();
        let mut words: Vec<String> = offered.iter().map(movement_words).collect();
        for kind in &offered {
            assert_eq!(&MovementKind::named(&kind.name()), kind);
        }
        words.sort();
        words.dedup();
        assert_eq!(words.len(), offered.len());
        assert!(words.iter().all(|w| !w.is_empty()));
    }
}
