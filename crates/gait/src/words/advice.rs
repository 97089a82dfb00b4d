//! What to ride after a finding, each piece of advice under a name of its own, so that a finding,
//! a plan and an exercise book can speak of the same one (common practice).

/// A piece of advice.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash)]
pub struct Advice {
    /// Its name for programs.
    pub id: &'static str,
    /// The sentence for a coach.
    pub says: &'static str,
}

macro_rules! advice {
    ($($name:ident = $id:literal: $says:literal;)+) => {
        $(
            #[doc = $says]
            pub const $name: Advice = Advice { id: $id, says: $says };
        )+

        /// All advice there is.
        pub const ALL: &[Advice] = &[$($name),+];
    };
}

advice! {
    STRIKE_OFF_AGAIN = "strike-off-again": "Back to a quiet trot, then strike off on a circle, the same aid every time.";
    STRIKE_OFF_ON_CIRCLE = "strike-off-on-circle": "Strike off on a circle from a quiet trot, few sitting strides first.";
    QUIET_CLICK = "quiet-click": "A 20 m circle at a quiet click, until he waits; then bigger strides.";
    THREE_BIGGER = "three-bigger": "Three strides bigger, then back, repeated on a circle.";
    MEDIUM_CANTER = "medium-canter": "Medium canter on the long side.";
    THINK_OF_EACH_STEP = "think-of-each-step": "Slow him until he thinks about each step, then let him grow.";
    COUNT_WALK_STEPS = "count-walk-steps": "Canter to walk from a small circle, then count the steps aloud.";
    HALT_FROM_BEHIND = "halt-from-behind": "Ride the last steps of the halt from behind, and reward a square one.";
    RIDE_TO_A_CLICK = "ride-to-a-click": "Ride to a click at the target tempo, both reins, straight and corners.";
    WORKING_PIROUETTE = "working-pirouette": "A bigger working pirouette; haunches-in on the circle first.";
    OUT_AFTER_GOOD_STRIDES = "out-after-good-strides": "Out after two or three good strides.";
    HALF_PASS_FROM_DIAGONAL = "half-pass-from-diagonal": "Start from the diagonal line, sideways only for the last few metres.";
    LATERAL_THEN_MEDIUM = "lateral-then-medium": "Half a long side lateral, then medium trot on the diagonal.";
    INNER_TRACK = "inner-track": "Short doses off the track, a few steps on an inner track.";
    MORE_ON_THAT_REIN = "more-on-that-rein": "More but shorter bouts on that rein; start and end on the better one.";
    SPIRAL = "spiral": "Same tempo, smaller steps: spiral from 20 m to 10 m and out again.";
    SPIRAL_NO_SMALLER = "spiral-no-smaller": "Same tempo, smaller steps: spiral from 20 m to 10 m (8 m at the least) and out again.";
    CANTER_WALK_SMALL_CIRCLE = "canter-walk-small-circle": "Canter–walk from the small circle.";
    SCORE_EACH_ANSWER = "score-each-answer": "Light aid, insist once, and score each answer.";
    TROT_WALK_TROT = "trot-walk-trot": "Two strides trot, walk, trot.";
    INSIST_ONCE = "insist-once": "A light aid, insist once, score each answer.";
    COUNTER_CANTER_EVEN = "counter-canter-even": "Shorter counter canter at an even pace, then home.";
    COUNTER_CANTER_ALIVE = "counter-canter-alive": "A few strides forward and back keep the counter canter alive.";
    OUT_OF_CORNER_SLOWER = "out-of-corner-slower": "Slower, straighter, and out of the corner with less speed.";
    SHOULDER_IN_FIRST = "shoulder-in-first": "Shoulder-in first, fewer strides, and back before he runs.";
    KEEP_THE_LEAD = "keep-the-lead": "Keep the lead across the diagonal into counter canter, change only on the aid.";
    FRESHEN_CANTER = "freshen-canter": "Freshen the canter before the diagonal.";
    COLLECT_FIRST = "collect-first": "Collect over a few strides first, and ask while the canter still has air.";
    CANTER_TROT_CIRCLE = "canter-trot-circle": "Canter, trot, a 10 m circle, then the other canter.";
    FOREHAND_IN_FRONT = "forehand-in-front": "Bring the forehand in front of the quarters: a hint of shoulder-in on the straight.";
    CHECK_PLANE_POINTS = "check-plane-points": "Look at the points of the ground plane: is each name at its place?";
    CHECK_BAR = "check-bar": "Measure the bar again, and click its ends where they touch the ground.";
    CHECK_LETTERS = "check-letters": "Check which letters were passed, and the two distances of the camera.";
    CHECK_ROUNDS = "check-rounds": "Check the diameter really ridden, and that the stretch is whole rounds.";
    CHECK_HEIGHT = "check-height": "Check the horse's height, and that it stands square to the camera.";
}

/// The advice of a name; `None` when there is none of it.
///
/// ```
/// use umlauf_gait::words::advice;
/// assert_eq!(advice::named("spiral"), Some(advice::SPIRAL));
/// assert_eq!(advice::named("whip"), None);
/// ```
pub fn named(id: &str) -> Option<Advice> {
    ALL.iter().copied().find(|a| a.id == id)
}

#[cfg(test)]
mod tests {
    use std::collections::HashSet;

    use super::ALL;

    #[test]
    fn every_advice_has_a_name_and_a_sentence_of_its_own() {
        assert_eq!(ALL.iter().map(|a| a.id).collect::<HashSet<_>>().len(), ALL.len());
        assert_eq!(ALL.iter().map(|a| a.says).collect::<HashSet<_>>().len(), ALL.len());
        assert!(ALL.iter().all(|a| a.says.ends_with(['.', '?'])));
    }
}
