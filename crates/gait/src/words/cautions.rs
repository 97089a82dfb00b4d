//! Where work can hurt horse or rider: what is said beside a finding. Umlauf times footfalls and
//! defers to vets, licensed trainers and local rules.

/// Disunited again and again.
pub(crate) const DISUNITED: &str =
    "If it comes again and again on one lead, have a vet look before drilling.";
/// A canter that is stuck.
pub(crate) const STUCK: &str =
    "Stuck, tight or hind legs far under: ride forward and stop the exercise.";
/// Too much collection.
pub(crate) const OVER_COLLECTED: &str = "Stuck, no wish to go forward, hind legs far under: ride forward and stop the exercise. Young, unfit and returning horses: short doses.";
/// Steps that stay uneven.
pub(crate) const UNEVEN_STEPS: &str = "Uneven steps that stay: stop and have a vet look. Umlauf times footfalls, it does not diagnose lameness.";
/// Left and right newly unlike.
pub(crate) const LEFT_AND_RIGHT: &str = "A new difference between left and right: stop and have a vet look. Umlauf times footfalls, it does not diagnose lameness.";
/// The reins newly unlike.
pub(crate) const SIDES: &str = "A new difference between the sides: stop and have a vet look. Umlauf times footfalls, it does not diagnose lameness.";
