//! One horse out of what is largest frame by frame: where another passes, or is all that is left in the
//! picture, the one that is seen longest and largest is followed.

use crate::number::{count, place, small};
use crate::picture::area::Area;
use crate::picture::horse::Horse;
use crate::picture::turn::Turn;

/// From one frame that was looked at to the next a horse moves at most this share of its length, …
const JUMP: f64 = 0.3;

/// … and its length changes at most by this factor: it nods, comes in, leaves.
const GROWS: f64 = 1.4;

/// A stretch goes on from another where it lies within this share of a horse's length of where the other
/// leads to, …
const MEETS: f64 = 0.5;

/// … is at most this much longer, for it may be seen as one with another, …
const LONGER: f64 = 2.0;

/// … or shorter, for it may be half out of view, …
const SHORTER: f64 = 2.5;

/// … and begins at most so long after it, s.
const BRIDGED_S: f64 = 1.5;

/// Speed at an end of a stretch is taken over so long, s.
const OVER_S: f64 = 0.5;

/// An end of a stretch.
#[derive(Clone, Copy, Debug)]
struct End {
    frame: usize,
    /// Column of the ground picture.
    x: f64,
    /// Columns a frame; none where the stretch is too short to tell.
    speed: Option<f64>,
    /// From nose to tail, pixels.
    length: f64,
}

/// Frames through which one thing is seen.
#[derive(Clone, Copy, Debug)]
struct Stretch {
    early: End,
    late: End,
    length: f64,
    /// Sum of what it took up, pixels.
    weight: f64,
}

/// Keeps one horse of those found in frames, `rate` a second. Where it was hidden for a moment, or seen as
/// one with another, it is put where it must have been.
pub fn one_horse(found: &mut [Option<Horse>], rate: f64, to_first: &[Turn]) {
    let stretches = stretches(found, rate, to_first);
    // What two horses are as one outweighs either, but not one that is there before and after.
    let all = (0..stretches.len()).map(|k| {
        let kept = chain(&stretches, k, rate);
        (weight(&kept, stretches[k].length), kept)
    });
    let Some((_, kept)) = all.max_by(|a, b| a.0.total_cmp(&b.0)) else { return };
    let held = |f: usize| kept.iter().any(|s| (s.early.frame..=s.late.frame).contains(&f));
    for (f, horse) in found.iter_mut().enumerate() {
        *horse = horse.filter(|_| held(f));
    }
    alone(found, rate);
    let seen: Vec<usize> = (0..found.len()).filter(|f| found[*f].is_some()).collect();
    for pair in seen.windows(2) {
        bridge(found, pair[0], pair[1], to_first);
    }
}

/// A stretch with those that go on from it and those it goes on from, in order of time.
fn chain(stretches: &[Stretch], first: usize, rate: f64) -> Vec<Stretch> {
    let bridged = BRIDGED_S * rate;
    // A horse grows as it comes nearer: its length is that at the end it is followed from.
    let meets = |end: &End, other: &End| {
        let gap = count(other.frame) - count(end.frame);
        let led = end.x + end.speed.unwrap_or(0.0) * gap;
        gap.abs() < bridged
            && (led - other.x).abs() < MEETS * end.length
            && other.length < LONGER * end.length
            && other.length > end.length / SHORTER
    };
    // A short one goes on at the speed of the one before.
    let on = |end: End, next: End| End { speed: next.speed.or(end.speed), ..next };
    let mut kept = vec![stretches[first]];
    let mut end = stretches[first].late;
    for s in &stretches[first + 1..] {
        if meets(&end, &s.early) {
            end = on(end, s.late);
            kept.push(*s);
        }
    }
    let mut end = stretches[first].early;
    for s in stretches[..first].iter().rev() {
        if meets(&end, &s.late) {
            end = on(end, s.early);
            kept.insert(0, *s);
        }
    }
    kept
}

/// What stretches take up together, none of them longer than one of them that is `length`, and as much between them.
fn weight(kept: &[Stretch], length: f64) -> f64 {
    let of = |s: &Stretch| s.weight * (length / s.length).min(1.0);
    let a_frame = |s: &Stretch| of(s) / count(s.late.frame - s.early.frame + 1);
    let between = |w: &[Stretch]| {
        let gap = count(w[1].early.frame - w[0].late.frame) - 1.0;
        gap * a_frame(&w[0]).min(a_frame(&w[1]))
    };
    kept.iter().map(of).sum::<f64>() + kept.windows(2).map(between).sum::<f64>()
}

/// Takes the horse out of frames in which it is seen as one with another: longer by far than it mostly is in the
/// seconds about them.
fn alone(found: &mut [Option<Horse>], rate: f64) {
    let reach = place(BRIDGED_S * rate);
    let lengths: Vec<Option<f32>> = found.iter().map(|h| h.map(|h| h.length)).collect();
    for (f, horse) in found.iter_mut().enumerate() {
        let about = f.saturating_sub(reach)..(f + reach + 1).min(lengths.len());
        let mut near: Vec<f32> = lengths[about].iter().copied().flatten().collect();
        near.sort_by(f32::total_cmp);
        let usual = near.get(place(MOSTLY * count(near.len()))).copied().unwrap_or(f32::INFINITY);
        *horse = horse.filter(|h| h.length < small(AS_ONE) * usual);
    }
}

/// Two are so many times as long as one, or more.
const AS_ONE: f64 = 1.8;

/// Of a horse that is alone in half of the frames about one, this share of lengths is shorter.
const MOSTLY: f64 = 0.3;

/// Stretches of frames in which what is largest moves on and keeps its size.
fn stretches(found: &[Option<Horse>], rate: f64, to_first: &[Turn]) -> Vec<Stretch> {
    let seen: Vec<(usize, f64, Horse)> = found
        .iter()
        .enumerate()
        .filter_map(|(f, h)| {
            let h = (*h)?;
            Some((f, to_first[f].of(f64::from(h.middle.0), f64::from(h.middle.1)).0, h))
        })
        .collect();
    let over = OVER_S * rate;
    let goes_on = |a: &(usize, f64, Horse), b: &(usize, f64, Horse)| {
        let (short, long) = (a.2.length.min(b.2.length), a.2.length.max(b.2.length));
        count(b.0 - a.0) < over
            && (b.1 - a.1).abs() < JUMP * f64::from(long)
            && f64::from(long) < GROWS * f64::from(short)
    };
    let speed = |part: &[(usize, f64, Horse)]| {
        let (a, b) = (part.first()?, part.last()?);
        (count(b.0 - a.0) >= 0.5 * over).then(|| (b.1 - a.1) / count(b.0 - a.0))
    };
    let length = |part: &[(usize, f64, Horse)]| {
        let mut all: Vec<f64> = part.iter().map(|s| f64::from(s.2.length)).collect();
        all.sort_by(f64::total_cmp);
        all[all.len() / 2]
    };
    let end = |at: (usize, f64, Horse), part: &[(usize, f64, Horse)]| End {
        frame: at.0,
        x: at.1,
        speed: speed(part),
        length: length(part),
    };
    seen.chunk_by(goes_on)
        .map(|own| {
            let (first, last) = (own[0], own[own.len() - 1]);
            let head = own.partition_point(|s| count(s.0 - first.0) <= over);
            let tail = own.partition_point(|s| count(last.0 - s.0) > over);
            let took = |h: &Horse| f64::from(h.length) * f64::from(h.area.bottom - h.area.top);
            Stretch {
                early: end(first, &own[..head]),
                late: end(last, &own[tail..]),
                length: length(own),
                weight: own.iter().map(|s| took(&s.2)).sum(),
            }
        })
        .collect()
}

/// Puts the horse of two frames into those between them: it went on evenly over the ground.
fn bridge(found: &mut [Option<Horse>], from: usize, to: usize, to_first: &[Turn]) {
    let (Some(a), Some(b)) = (found[from], found[to]) else { return };
    for f in from + 1..to {
        let share = count(f - from) / count(to - from);
        let back = to_first[f].back();
        let place = |get: &dyn Fn(&Horse) -> (f32, f32)| {
            let [p, q] = [(from, &a), (to, &b)].map(|(at, h)| {
                let (x, y) = get(h);
                to_first[at].of(f64::from(x), f64::from(y))
            });
            let (x, y) = back.of(p.0 + share * (q.0 - p.0), p.1 + share * (q.1 - p.1));
            (small(x), small(y))
        };
        let (left, top) = place(&|h| (h.area.left, h.area.top));
        let (right, bottom) = place(&|h| (h.area.right, h.area.bottom));
        found[f] = Some(Horse {
            area: Area { left, right, top, bottom },
            middle: place(&|h| h.middle),
            length: a.length + small(share) * (b.length - a.length),
        });
    }
}
