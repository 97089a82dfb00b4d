//! What the coach says, what looks wrong in the marks, and a session as a whole.
#![allow(clippy::unwrap_used, reason = "a test that cannot go on has failed")]

mod common;

use common::{CANTER, Ride, TROT};
use umlauf_gait::analysis::about_change::about_change;
use umlauf_gait::analysis::analyse::Analysis;
use umlauf_gait::base::gait::Gait;
use umlauf_gait::base::units::FrameRate;
use umlauf_gait::bouts::lead_verdict::LeadVerdict;
use umlauf_gait::marking::doubtful_marks::Doubt;
use umlauf_gait::marks::coach_word::CoachWord;
use umlauf_gait::season::session::{matters, ridden};
use umlauf_gait::{Limb, Options, Side, analyse};

use Side::{Left, Right};

fn with(ride: &Ride, said: Vec<CoachWord>) -> Analysis {
    let frame_rate = Some(FrameRate::new(120.0).unwrap());
    analyse(&ride.marks, &Options { frame_rate, said, rein: Some(Left), ..Options::default() })
}

const NOTHING: CoachWord = CoachWord { from_s: 0.0, to_s: 1e9, gait: None, rein: None, lead: None };

#[test]
fn the_coachs_word_on_the_gait_stands_and_changes_no_number() {
    let ride = Ride::default().trot(14);
    let (plain, said) = (
        with(&ride, vec![]),
        with(&ride, vec![CoachWord { gait: Some(Gait::Passage), ..NOTHING }]),
    );
    assert_eq!(plain.bouts[0].label.gait, Gait::Trot);
    assert_eq!(said.bouts[0].label.gait, Gait::Passage);
    assert_eq!(plain.bouts[0].tempo, said.bouts[0].tempo);
    assert_eq!(plain.bouts[0].regularity, said.bouts[0].regularity);
    assert_eq!(plain.bouts[0].duty, said.bouts[0].duty);

    // CoachWord of a part, the rest keeps its own; the later word on a moment counts.
    let part = CoachWord { to_s: 7.0 * TROT, gait: Some(Gait::Piaffe), ..NOTHING };
    let later = CoachWord { to_s: 3.0 * TROT, gait: Some(Gait::Passage), ..NOTHING };
    let parts = with(&ride, vec![part, later]);
    let gaits: Vec<Gait> = parts.bouts.iter().map(|b| b.label.gait).collect();
    assert_eq!(gaits, [Gait::Passage, Gait::Piaffe, Gait::Trot]);
    assert_eq!(parts.bouts.iter().map(|b| b.strides).sum::<usize>(), plain.bouts[0].strides);
}

#[test]
fn rein_and_lead_said_of_a_stretch_decide_its_verdict() {
    let ride = Ride::default().canter(Right, 8);
    let verdict = |said| with(&ride, vec![said]).bouts[0].lead_verdict;
    assert_eq!(verdict(NOTHING), Some(LeadVerdict::Wrong));
    assert_eq!(verdict(CoachWord { rein: Some(Right), ..NOTHING }), Some(LeadVerdict::True));
    assert_eq!(verdict(CoachWord { lead: Some(Right), ..NOTHING }), Some(LeadVerdict::Counter));
    // A canter said of a canter keeps its leads.
    let canter = with(&ride, vec![CoachWord { gait: Some(Gait::Canter), ..NOTHING }]);
    assert_eq!(canter.bouts[0].label.hind_lead, Some(Right));
}

#[test]
fn missing_footfalls_and_impossible_orders_are_shown_where_they_are() {
    let whole = Ride::default().trot(12);
    assert!(with(&whole, vec![]).doubtful.is_empty());
    let k = whole.marks.iter().position(|m| m.limb == Limb::RF && m.on.0 > 4.0 * TROT).unwrap();
    let due = whole.marks[k].on.0;
    let mut lacking = Ride { marks: whole.marks.clone(), now: whole.now };
    lacking.marks.remove(k);
    let checks = with(&lacking, vec![]).doubtful;
    assert_eq!(checks.len(), 1);
    assert_eq!(checks[0].what, Doubt::Missing(Limb::RF));
    assert!((checks[0].from_s - due).abs() < 0.02);

    // A footfall a third of a stride early is no trot's.
    let k = whole.marks.iter().position(|m| m.limb == Limb::LF && m.on.0 > 4.0 * TROT).unwrap();
    let due = whole.marks[k].on.0;
    let mut early = Ride { marks: whole.marks.clone(), now: whole.now };
    early.marks[k].on.0 -= 0.33 * TROT;
    let checks = with(&early, vec![]).doubtful;
    assert_eq!(checks.len(), 1, "{checks:?}");
    assert_eq!(checks[0].what, Doubt::OutOfPlace(Limb::LF));
    assert!((checks[0].from_s - (due - 0.33 * TROT)).abs() < 1e-9);
}

#[test]
fn the_strides_about_a_late_change_show_the_one_between() {
    let ride = Ride::default().canter(Left, 5).disunited(Left, 1).canter(Right, 5);
    let analysis = with(&ride, vec![]);
    let (change, _) = &analysis.events.changes[0];
    let rows = about_change(&analysis, change);
    let leads: Vec<_> = rows.iter().map(|r| (r.place, r.hind.unwrap(), r.fore.unwrap())).collect();
    assert_eq!(
        leads,
        [
            (-2, Left, Left),
            (-1, Left, Left),
            (0, Left, Right),
            (1, Right, Right),
            (2, Right, Right),
            (3, Right, Right)
        ]
    );
    for row in &rows {
        assert!((row.tempo - 60.0 / CANTER).abs() < 1e-6);
    }
    // Canter of these phases: the leading fore leaves at 0.90 of the stride.
    assert!((rows[0].suspension_s.unwrap() - 0.10 * CANTER).abs() < 1e-6);
}

#[test]
fn a_session_adds_up_and_puts_faults_first() {
    let clips = [
        with(&Ride::default().trot(20), vec![]),
        with(&Ride::default().canter(Left, 10), vec![]),
        with(
            &Ride::default()
                .even(0.74, 0.42, [0.51, 0.01, 0.0, 0.5], 8)
                .canter(Left, 5)
                .disunited(Left, 1)
                .canter(Right, 6),
            vec![],
        ),
    ];
    let lines = ridden(&clips);
    let strides: usize = lines.iter().map(|r| r.strides).sum();
    assert_eq!(strides, clips.iter().flat_map(|a| &a.bouts).map(|b| b.strides).sum::<usize>());
    assert_eq!((lines[0].label.gait, lines[0].bouts, lines[0].rein), (Gait::Trot, 2, Some(Left)));
    let tempo = lines[0].tempo.unwrap();
    assert!((tempo.value - (60.0 / TROT + 60.0 / 0.74) / 2.0).abs() < 0.3 && tempo.n == 2);
    // Student's 12.706 for one degree of freedom times half the distance of the two.
    let half = 12.706 * (60.0 / 0.74 - 60.0 / TROT) / 2.0;
    assert!((tempo.ci95.unwrap().1 - tempo.value - half).abs() < 0.05 * half);

    let first = matters(&clips);
    assert!(first.len() <= 3 && !first.is_empty());
    let fault = |m: &umlauf_gait::season::session::Matter| {
        clips[m.analysis].findings[m.finding].kind.is_fault()
    };
    assert!(fault(&first[0]));
    assert_eq!(first[0].analysis, 2);
    assert!(first.windows(2).all(|w| fault(&w[0]) || !fault(&w[1])));
    assert!(matters(&[]).is_empty() && ridden(&[]).is_empty());
}
