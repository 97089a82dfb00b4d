//! Lengths out of footage whose camera is known; the whole table is made by `make accuracy`.

use umlauf_gait::findings::ground_kind::GroundKind;
use umlauf_gait::findings::kind::Kind;
use umlauf_synth::ground::{Way, error_by_view, lengths};

#[test]
fn four_cones_across_the_track_give_the_stride() {
    let l = lengths(Way::Across, 300);
    assert!(l.runs > 290 && l.within(0.025) >= 0.95, "{}", l.within(0.025));
    // 93 to 97 of 100 over a thousand; a few hundred scatter by a point and a half.
    assert!((0.925..=0.98).contains(&l.coverage()), "{}", l.coverage());
}

#[test]
fn bars_and_letters_give_it_within_their_limits() {
    let bar = lengths(Way::Bar, 200);
    assert!(bar.within(0.03) >= 0.95 && bar.coverage() >= 0.93, "{bar:?}");
    let letters = lengths(Way::Letters, 200);
    assert!(letters.within(0.04) >= 0.95 && letters.coverage() >= 0.93, "{letters:?}");
}

#[test]
fn a_camera_along_the_track_knows_that_it_stands_badly() {
    let (across, along) = (lengths(Way::Across, 150), lengths(Way::Along, 150));
    let (half, covered) = (along.half_width, along.coverage());
    assert!(half > 1.6 * across.half_width && covered >= 0.93, "{half} {covered}");
    let (good, bad) = (error_by_view(Way::Across), error_by_view(Way::Along));
    assert!(good.is_some_and(|e| e < 0.03) && bad.is_some_and(|e| e > 0.1), "{good:?} {bad:?}");
}

#[test]
fn the_coach_is_told_to_move_it() {
    let told = |way| {
        let found = umlauf_synth::ground::analysed(way, 7).findings.into_iter();
        found.filter(|f| matches!(f.kind, Kind::Ground(GroundKind::MoveCamera { .. }))).count()
    };
    assert_eq!(told(Way::Across), 0);
    assert!(told(Way::Along) > 0);
}
