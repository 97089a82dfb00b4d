//! Limbs by rows that hardly differ, picture and sound on one clock, and a camera's speed steadied:
//! each against what it was drawn from.
#![allow(clippy::unwrap_used, reason = "a test that cannot go on has failed")]

use rand::{Rng, SeedableRng};
use rand_chacha::ChaCha8Rng;
use umlauf_gait::base::limb::{Limb, Side};
use umlauf_signals::fusion::{Disagree, Moment, Told, joined, lined};
use umlauf_signals::picture::candidate::{Candidate, whole};
use umlauf_signals::picture::contact::Contact;
use umlauf_signals::picture::may::May;
use umlauf_signals::picture::settle::Usual;
use umlauf_signals::picture::sides::{limbs, limbs_about};
use umlauf_signals::picture::stance::Stance;
use umlauf_signals::picture::steady::steadied;
use umlauf_signals::picture::strokes::Stroke;

fn noise(rng: &mut ChaCha8Rng) -> f64 {
    // Twelve uniform numbers are a bell, nearly.
    (0..12).map(|_| rng.random_range(-0.5..0.5)).sum()
}

#[test]
fn near_and_far_are_told_by_a_pixel_and_a_change_of_lead_goes_through() {
    let mut rng = ChaCha8Rng::seed_from_u64(31);
    let (mut right, mut all, mut sure_and_wrong) = (0, 0, 0);
    for _ in 0..40 {
        let changes_at = rng.random_range(6..10);
        let (slope, bend) = (0.02 * noise(&mut rng), 1e-5 * noise(&mut rng));
        let mut stances = vec![];
        for stride in 0..16 {
            // Hinds and fores change sides together; a girdle then stands on one side twice.
            let first = if stride < changes_at { Side::Left } else { Side::Right };
            for (place, fore, side) in [
                (0.0, false, first.opposite()),
                (0.3, false, first),
                (0.35, true, first.opposite()),
                (0.65, true, first),
            ] {
                let limb = match (fore, side) {
                    (true, Side::Left) => Limb::LF,
                    (true, Side::Right) => Limb::RF,
                    (false, Side::Left) => Limb::LH,
                    (false, Side::Right) => Limb::RH,
                };
                let on = 36.0 * (f64::from(stride) + place);
                let x = 4.0 * on;
                let near = if side == Side::Left { 0.9 } else { -0.9 };
                let row = 300.0 + slope * x + bend * x * x + near + 0.4 * noise(&mut rng);
                let ahead = if fore { 0.33 } else { -0.36 } + 0.05 * noise(&mut rng);
                stances.push((
                    limb,
                    Stance {
                        on,
                        ahead,
                        x,
                        row,
                        row_sd: 0.0,
                        lit: 0.0,
                        nearer: 0.0,
                        may: May::ANY,
                        is_one: 1.0,
                    },
                ));
            }
        }
        let named = limbs(&stances.iter().map(|s| s.1).collect::<Vec<_>>(), Side::Left);
        for ((truth, _), named) in stances.iter().zip(&named) {
            all += 1;
            right += usize::from(*truth == named.limb);
            sure_and_wrong += usize::from(*truth != named.limb && named.sure > 0.95);
        }
    }
    assert!(right * 100 >= all * 98, "{right} of {all}");
    assert!(sure_and_wrong * 100 <= all, "{sure_and_wrong} of {all} are wrong and sure");
}

/// Where all hooves stand on one row, nothing tells near from far: one word of a person's does, for the
/// whole trot.
#[test]
fn one_limb_that_is_said_tells_the_others_where_rows_do_not() {
    let mut rng = ChaCha8Rng::seed_from_u64(77);
    let (mut alone, mut about, mut all) = (0, 0, 0);
    for _ in 0..40 {
        let mut trot = vec![];
        for stride in 0..10 {
            for (place, limb) in
                [(0.0, Limb::LH), (0.02, Limb::RF), (0.5, Limb::RH), (0.52, Limb::LF)]
            {
                let on = 45.0 * (f64::from(stride) + place);
                let ahead = if limb.is_hind() { -0.35 } else { 0.3 } + 0.05 * noise(&mut rng);
                let row = 300.0 + 0.3 * noise(&mut rng);
                let stance = Stance {
                    on,
                    ahead,
                    x: 4.0 * on,
                    row,
                    row_sd: 0.0,
                    lit: 0.0,
                    nearer: 0.0,
                    may: May::ANY,
                    is_one: 1.0,
                };
                trot.push((limb, stance));
            }
        }
        let stances: Vec<Stance> = trot.iter().map(|s| s.1).collect();
        let said = rng.random_range(0..trot.len());
        let count = |named: &[umlauf_signals::picture::sides::Named]| {
            trot.iter().zip(named).filter(|((limb, _), n)| *limb == n.limb).count()
        };
        all += trot.len();
        alone += count(&limbs(&stances, Side::Left));
        about += count(&limbs_about(&stances, Side::Left, &[(said, trot[said].0)]));
    }
    assert!(alone * 100 < all * 80, "{alone} of {all} without a word");
    assert!(about * 100 >= all * 95, "{about} of {all} about one word");
}

#[test]
fn sound_lies_over_the_picture_by_one_offset_and_leaves_what_it_cannot_tell() {
    let mut rng = ChaCha8Rng::seed_from_u64(32);
    let mut at = 0.4;
    let (mut seen, mut beats) = (vec![], vec![]);
    for k in 0..60 {
        at += rng.random_range(0.10..0.20);
        if k % 11 != 3 {
            seen.push(Moment { at: at + 0.006 * noise(&mut rng), sd: 0.006 });
        }
        if k % 7 != 5 {
            beats.push(Moment { at: at + 0.047 + 0.002 * noise(&mut rng), sd: 0.002 });
        }
        if k % 10 == 4 {
            // A whip, a gate.
            beats.push(Moment { at: at + 0.1, sd: 0.002 });
        }
    }
    let found = lined(&seen, &beats).unwrap();
    assert!((found.offset - 0.047).abs() < 0.0025, "{}", found.offset);
    let wrong = seen
        .iter()
        .zip(&found.beat_of)
        .filter(|(s, b)| b.is_some_and(|b| (beats[b].at - found.offset - s.at).abs() > 0.02));
    assert_eq!(wrong.count(), 0);
    assert!(found.beat_of.iter().flatten().count() > 35);
    // Beats that have nothing to do with what is seen are not forced upon it.
    let other: Vec<Moment> =
        (0..20).map(|k| Moment { at: 0.37 * f64::from(k * k % 23), sd: 0.002 }).collect();
    let mut other = other;
    other.sort_by(|a, b| a.at.total_cmp(&b.at));
    assert_eq!(lined(&seen, &other), None);
}

/// How late the sound comes is read from the same few footfalls: its error is every beat's, and so is what all that is
/// seen of a clip is early or late by. Over many short clips the errors keep to what is said of them.
#[test]
fn what_picture_and_sound_say_together_is_as_sure_as_it_says() {
    let mut rng = ChaCha8Rng::seed_from_u64(36);
    for picture_sd in [0.003, 0.008] {
        let mut within = [0; 3];
        let mut all = 0;
        for _ in 0..400 {
            let mut at = 0.4;
            let (mut truth, mut seen, mut beats) = (vec![], vec![], vec![]);
            let of_clip = 0.6 * picture_sd * noise(&mut rng);
            for _ in 0..12 {
                at += rng.random_range(0.12..0.25);
                let own = 0.8 * picture_sd * noise(&mut rng);
                let told = |at, sd| Told { limb: None, on: Moment { at, sd }, confidence: 0.95 };
                truth.push(at);
                seen.push(told(at + of_clip + own, picture_sd));
                beats.push(told(at + 0.03 + 0.001 * noise(&mut rng), 0.001));
            }
            let (both, _) = joined(&seen, &beats).unwrap();
            for f in both.iter().filter(|f| f.beat.is_some() && f.seen.is_some()) {
                let off = (f.told.on.at - truth[f.seen.unwrap()]).abs() / f.told.on.sd;
                all += 1;
                (1..=3).for_each(|k| within[k - 1] += usize::from(off < k as f64));
            }
        }
        let share = within.map(|n| f64::from(u32::try_from(n).unwrap()) / f64::from(all));
        let around = [0.64..=0.75, 0.93..=0.975, 0.985..=1.0];
        for (share, around) in share.iter().zip(around) {
            assert!(around.contains(share), "{picture_sd} s: {share} is not in {around:?}");
        }
    }
}

/// A walk of ten strides: what is heard and was not seen is of the limb that is due, a gate is nobody's, and what was
/// seen where all others are heard, and is not, goes where it was doubtful before.
#[test]
fn what_is_only_heard_is_of_the_limb_that_is_due_and_what_is_only_seen_is_doubted() {
    let mut rng = ChaCha8Rng::seed_from_u64(35);
    let walk = [(0.0, Limb::LH), (0.24, Limb::LF), (0.5, Limb::RH), (0.74, Limb::RF)];
    let told = |limb, at, sd, confidence| Told { limb, on: Moment { at, sd }, confidence };
    let (mut truth, mut seen, mut beats) = (vec![], vec![], vec![]);
    for k in 0..40 {
        let (phase, limb) = walk[k % 4];
        let at = 0.5 + 1.1 * ((k / 4) as f64 + phase) + 0.01 * noise(&mut rng);
        truth.push((limb, at));
        if k % 9 != 4 {
            seen.push(told(Some(limb), at + 0.005 * noise(&mut rng), 0.005, 0.95));
        }
        beats.push(told(None, at + 0.06 + 0.002 * noise(&mut rng), 0.002, 0.9));
    }
    // A gate a tenth of a second after a hoof; a shadow that was taken for one.
    beats.insert(20, told(None, truth[19].1 + 0.06 + 0.13, 0.002, 0.9));
    seen.insert(10, told(Some(Limb::RF), seen[9].on.at + 0.13, 0.02, 0.7));
    let (both, late) = joined(&seen, &beats).unwrap();
    assert!((late - 0.06).abs() < 0.002, "{late}");
    assert!(both.is_sorted_by(|a, b| a.told.on.at <= b.told.on.at));
    for (limb, at) in &truth {
        let own = both.iter().find(|f| (f.told.on.at - at).abs() < 0.008).unwrap();
        assert_eq!(own.told.limb, Some(*limb));
        assert_eq!(own.seen.is_none(), own.why == Some(Disagree::HeardNotSeen));
    }
    let nobodys: Vec<_> = both.iter().filter(|f| f.told.limb.is_none()).collect();
    assert!(nobodys.len() == 1 && nobodys[0].beat == Some(20), "{nobodys:?}");
    assert_eq!(both.len(), truth.len() + 1, "the shadow is not listed");
    // Were it sure, it would be: disagreements are not hidden.
    seen[10].confidence = 0.97;
    let (both, _) = joined(&seen, &beats).unwrap();
    let shadow = both.iter().find(|f| f.seen == Some(10)).unwrap();
    assert_eq!(shadow.why, Some(Disagree::SeenNotHeard));
    assert!(shadow.told.confidence < 0.6);
}

#[test]
fn a_cameras_speed_is_steadied_where_little_is_seen_and_left_where_much_is() {
    let mut rng = ChaCha8Rng::seed_from_u64(33);
    let truth: Vec<f64> = (0..120).map(|k| 14.0 + 5.0 * (f64::from(k) / 30.0).sin()).collect();
    let seen: Vec<(f64, f64)> = truth
        .iter()
        .enumerate()
        .map(|(k, t)| match k {
            // For half a second hardly anything is seen, and that is drawn towards the horse.
            40..50 => (0.7 * t, 1.5),
            77 => (-20.0, 0.06),
            _ => (t + 0.03 * noise(&mut rng), 0.06),
        })
        .collect();
    let steady = steadied(&seen);
    for (k, (s, t)) in steady.iter().zip(&truth).enumerate() {
        let most = if (36..54).contains(&k) { 1.0 } else { 0.25 };
        assert!((s - t).abs() < most, "{k}: {s} {t}");
    }
    // A hand that shakes is not smoothed away: its shifts are known well.
    let shaken: Vec<(f64, f64)> = (0..120).map(|_| (6.0 * noise(&mut rng), 0.1)).collect();
    let kept = steadied(&shaken);
    let off = kept.iter().zip(&shaken).map(|(k, s)| (k - s.0).abs()).fold(0.0, f64::max);
    assert!(off < 0.6, "{off}");
}

/// A hoof that something passed before is two strokes and one hoof, which lands once; a hind that comes down in its print is
/// another, and so is what lands elsewhere at that moment.
#[test]
fn a_hoof_in_two_strokes_is_one_and_the_next_in_its_print_another() {
    let of = |stroke: Stroke, on: f64| Candidate {
        stroke,
        middle: usize::midpoint(stroke.from, stroke.to),
        row: 300.0,
        hoof: None,
        contrast: 60.0,
        ahead: 0.3,
        hidden: None,
        row_sd: 0.0,
        nearer: 0.0,
        lit: 0.0,
        contact: Some(Contact {
            on,
            on_sd: 0.2,
            or_on: None,
            heel_off: None,
            off: None,
            off_sd: 1.0,
            gone: None,
        }),
        may: May::ANY,
    };
    let stroke = |from, to, x| Stroke { from, to, x, row: 20.0, strength: 1.0 };
    let first = stroke(100, 119, 400.0);
    let found = vec![
        of(first, 98.0),
        of(stroke(104, 150, 520.0), 98.3),
        of(stroke(121, 150, 402.0), 98.6),
        of(stroke(158, 190, 401.0), 156.2),
    ];
    let told = whole(found, 180.0, |stroke| of(stroke, 98.2));
    let strokes: Vec<(usize, usize)> = told.iter().map(|c| (c.stroke.from, c.stroke.to)).collect();
    assert_eq!(strokes, [(100, 150), (104, 150), (158, 190)]);
    // Where it stood the longer part says more of its place.
    assert!((told[0].stroke.x - 401.2).abs() < 1e-9, "{}", told[0].stroke.x);
}

#[test]
fn a_hoof_that_is_hidden_is_timed_as_the_others_are_beside_their_strokes() {
    let mut rng = ChaCha8Rng::seed_from_u64(34);
    let strokes: Vec<Stroke> = (0..24)
        .map(|k| Stroke { from: 40 * k, to: 40 * k + 22, x: 0.0, row: 0.0, strength: 1.0 })
        .collect();
    let truth: Vec<(f64, f64)> = strokes
        .iter()
        .map(|s| {
            (s.from as f64 - 2.1 + 0.4 * noise(&mut rng), s.to as f64 + 1.7 + 0.5 * noise(&mut rng))
        })
        .collect();
    let half = |k: usize| k % 12 == 5;
    let seen: Vec<Option<Contact>> = truth
        .iter()
        .enumerate()
        .map(|(k, (on, off))| {
            // Three are not seen at all, two hardly, one's leaving is hidden, and two have another's landing half-way.
            let hardly = k % 10 == 4;
            let on = if hardly { on + 9.0 } else { *on } + if half(k) { 13.0 } else { 0.0 };
            let off = (k != 7).then_some(*off);
            (k % 9 != 2).then_some(Contact {
                on,
                on_sd: if hardly { 1.6 } else { 0.4 },
                or_on: None,
                heel_off: None,
                off,
                off_sd: 0.8,
                gone: None,
            })
        })
        .collect();
    let well: Vec<(&Stroke, Contact)> =
        strokes.iter().zip(&seen).filter_map(|(s, c)| Some((s, (*c)?))).collect();
    let usual = Usual::of(&well, 60.0).unwrap();
    for (k, ((stroke, contact), (on, off))) in strokes.iter().zip(&seen).zip(&truth).enumerate() {
        let (settled, by_stroke) = usual.settled(stroke, *contact);
        assert!((settled.on - on).abs() < 2.0, "{k}: {} {on}", settled.on);
        assert!((settled.off.unwrap() - off).abs() < 2.0, "{k}: {:?} {off}", settled.off);
        assert_eq!(by_stroke, contact.is_none() || k % 10 == 4 || half(k), "{k}");
        // Timed by its stroke it is less sure, and says so.
        assert!(settled.on_sd >= if by_stroke { 1.0 } else { 0.4 });
    }
    assert_eq!(Usual::of(&well[..4], 60.0), None);
}
