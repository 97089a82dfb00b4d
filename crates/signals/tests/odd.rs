//! Footfalls and offs that do not go with the others of their limb.

use umlauf_gait::base::limb::Limb;
use umlauf_signals::picture::alike::forget_odd_offs;
use umlauf_signals::picture::by_others::by_others;
use umlauf_signals::picture::footfalls::doubt_unlike_others;
use umlauf_signals::picture::may::May;
use umlauf_signals::picture::seen::{Doubt, Seen};
use umlauf_signals::picture::stance::Stance;

fn stands(limb: Limb, on: f64, long: f64) -> Seen {
    Seen {
        limb,
        on,
        on_sd: 0.3,
        heel_off: None,
        off: Some(on + long),
        off_sd: 0.4,
        at: (0.0, 0.0),
        frame: 0,
        at_on: (0.0, 0.0),
        confidence: 0.97,
        why: vec![],
        stance: Stance {
            on,
            ahead: 0.0,
            x: 0.0,
            row: 0.0,
            row_sd: 0.0,
            lit: 0.0,
            nearer: 0.0,
            may: May::ANY,
            is_one: 1.0,
        },
    }
}

/// A trot of strides of 44 frames in which a limb stands for 18 of them.
fn trot() -> Vec<Seen> {
    let all = (0..8).flat_map(|k| {
        let at = 44.0 * f64::from(k);
        [(Limb::LH, 0.0), (Limb::RF, 0.5), (Limb::RH, 22.0), (Limb::LF, 22.5)]
            .map(|(limb, late)| stands(limb, at + late, 18.0))
    });
    all.collect()
}

fn faint(seen: &mut Seen, on: f64) {
    seen.on = on;
    seen.why = vec![Doubt::NotSeenWell];
}

#[test]
fn what_is_not_seen_well_is_timed_by_its_limb_where_it_lies_astray() {
    let mut seen = trot();
    // A left hind in the middle six frames late, the last right fore too, the first right hind early.
    faint(&mut seen[12], 44.0 * 3.0 + 6.0);
    faint(&mut seen[29], 44.0 * 7.0 + 6.5);
    faint(&mut seen[2], 22.0 - 5.0);
    by_others(&mut seen);
    let mut ons: Vec<(Limb, f64)> = seen.iter().map(|s| (s.limb, s.on)).collect();
    let mut ridden: Vec<(Limb, f64)> = trot().iter().map(|s| (s.limb, s.on)).collect();
    for all in [&mut ons, &mut ridden] {
        all.sort_by(|a, b| a.1.total_cmp(&b.1));
    }
    assert_eq!(ons, ridden);
    // One that lies where it should is left there, and so is one that was seen well.
    let mut seen = trot();
    faint(&mut seen[12], 44.0 * 3.0 + 1.5);
    seen[16].on += 6.0;
    let mut before = seen.clone();
    before.sort_by(|a, b| a.on.total_cmp(&b.on));
    by_others(&mut seen);
    assert!(seen == before);
}

#[test]
fn a_limb_that_has_just_landed_does_not_land_again() {
    let mut seen = trot();
    let mut again = stands(Limb::LH, 44.0 * 3.0 + 7.0, 10.0);
    again.why = vec![Doubt::NotSeenWell];
    seen.insert(14, again);
    by_others(&mut seen);
    assert!(seen == trot());
}

#[test]
fn an_off_that_makes_a_stance_unlike_those_about_it_is_forgotten() {
    let mut seen = trot();
    seen[13].off = Some(seen[13].on + 25.0);
    // From the fifth stride on it stands for half as long, as after a transition: that is no slip.
    seen[16..].iter_mut().for_each(|s| s.off = Some(s.on + 9.0));
    forget_odd_offs(&mut seen);
    for (k, s) in seen.iter().enumerate() {
        assert_eq!(s.off.is_none(), k == 13, "{k}");
        assert_eq!(s.why.contains(&Doubt::OffUnseen), k == 13);
    }
    // Fores that seem to stand for half as long as the hinds are not seen to leave.
    let mut seen = trot();
    seen.iter_mut().filter(|s| !s.limb.is_hind()).for_each(|s| s.off = Some(s.on + 9.0));
    forget_odd_offs(&mut seen);
    assert!(seen.iter().all(|s| s.off.is_some() == s.limb.is_hind()));
}

/// A limb's offs that are all another's are alike among themselves; beside the other limbs' they are not. A walk before and
/// a canter after are.
#[test]
fn a_stance_unlike_those_about_it_has_no_off_and_is_a_footfall() {
    let mut seen = trot();
    seen[..12].iter_mut().for_each(|s| s.off = Some(s.on + 40.0));
    for k in [17, 21, 25] {
        seen[k].off = Some(seen[k].on + 10.0);
    }
    doubt_unlike_others(&mut seen);
    for (k, s) in seen.iter().enumerate() {
        let odd = [17, 21, 25].contains(&k);
        assert_eq!((s.off.is_none(), s.why.contains(&Doubt::UnlikeOthers)), (odd, odd), "{k}");
        assert!(if odd { (0.8..0.95).contains(&s.confidence) } else { s.confidence > 0.95 });
    }
}
