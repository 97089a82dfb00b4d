//! Footfalls from what may be hooves: timed by what is usual in the clip, doubted where they are unlike the
//! others.

use umlauf_gait::base::limb::Limb;

use crate::number::{count, place};
use crate::picture::alike::usual_beside;
use crate::picture::candidate::Candidate;
use crate::picture::contact::Contact;
use crate::picture::path::Path;
use crate::picture::seen::{Doubt, Seen};
use crate::picture::settle::Usual;
use crate::picture::stance::Stance;
use crate::picture::strokes::Stroke;

/// An off that is known worse than this, s, is not given (project default).
const OFF_KNOWN: f64 = 0.025;

/// What stands so shortly before the film's end, s, may stand on.
const ENDS: f64 = 0.1;

/// No hoof stands farther from the body's middle than this, heights at the withers.
const FARTHEST: f64 = 0.8;

/// A stance is unlike others beyond this many times their usual length, either way.
const UNLIKE: f64 = 1.5;

/// So many before one, or as many after it, are as long: a clip may show a walk and a canter.
const ABOUT: usize = 6;

/// Doubts footfalls that stood much longer or shorter than those before and after. What took the ground there did so, but
/// when it left is not known: another hoof passed before it, or stands in its print.
pub fn doubt_unlike_others(seen: &mut [Seen]) {
    let lengths: Vec<Option<f64>> = seen.iter().map(|s| s.off.map(|off| off - s.on)).collect();
    let unlike: Vec<bool> = (0..seen.len())
        .map(|k| {
            let Some(own) = lengths[k] else { return false };
            let known = usual_beside(&lengths, k, ABOUT);
            let unlike = |usual: f64| own > UNLIKE * usual || own < usual / UNLIKE;
            !known.is_empty() && known.into_iter().all(unlike)
        })
        .collect();
    for (s, _) in seen.iter_mut().zip(unlike).filter(|(_, unlike)| *unlike) {
        s.without_off();
        s.why.push(Doubt::UnlikeOthers);
        s.confidence *= ODD;
    }
}

/// What such a stance leaves of its chance (project default).
const ODD: f64 = 0.9;

/// The row of what is timed by its stroke alone says less: pixels.
const BY_STROKE_SD: f64 = 1.0;

/// Grey values by which a hoof differs from the ground at least to be seen well.
const SEEN_WELL: f32 = 25.0;

/// Chance that a stroke in the picture of place against time is a footfall (project default).
pub const A_FOOTFALL: f64 = 0.97;

/// Footfalls without their limbs, settled by what is usual of fore and hind in this clip.
pub fn footfalls(found: &[Candidate], way: &Path, rate: f64) -> Vec<Seen> {
    let usual = [false, true].map(|fore| {
        let own = found.iter().filter(|f| (f.ahead > 0.0) == fore);
        let well: Vec<(&Stroke, Contact)> =
            own.filter_map(|f| Some((&f.stroke, f.contact?))).collect();
        Usual::of(&well, rate)
    });
    let length = |f: &Candidate| count(f.stroke.to - f.stroke.from);
    let mut lengths: Vec<f64> = found.iter().filter(|f| f.contact.is_some()).map(length).collect();
    lengths.sort_by(f64::total_cmp);
    let usual_length = lengths.get(lengths.len() / 2).copied().unwrap_or(0.0);
    // An edge that no hoof belongs to, and that stays for a moment or far from the body, is a shadow.
    let like_the_others = |f: &&Candidate| {
        let alike = (usual_length / UNLIKE..=usual_length * UNLIKE).contains(&length(f));
        f.ahead.abs() < FARTHEST && (f.contact.is_some() || alike)
    };
    found
        .iter()
        .filter(like_the_others)
        .filter_map(|f| {
            let (contact, by_stroke) = match usual[usize::from(f.ahead > 0.0)] {
                Some(usual) => usual.settled(&f.stroke, f.contact),
                None => (f.contact?, false),
            };
            let mut why = vec![];
            let mut confidence = A_FOOTFALL;
            if by_stroke {
                why.push(Doubt::NotSeenWell);
                confidence *= 0.8;
            }
            if f.contrast < SEEN_WELL {
                why.push(Doubt::LooksLikeGround);
                confidence *= 0.9;
            }
            // The film, or the horse, may be gone before; and an off that is hardly known is none.
            let last = count(way.to_first.len()) - 1.0;
            let off = contact.off.filter(|off| {
                *off < last - ENDS * rate && *off > contact.on && contact.off_sd < OFF_KNOWN * rate
            });
            let heel_off =
                contact.heel_off.filter(|h| *h > contact.on && off.is_some_and(|o| *h < o));
            if off.is_none() {
                why.push(Doubt::OffUnseen);
            }
            let seen = Seen {
                limb: Limb::LF,
                on: contact.on,
                on_sd: contact.on_sd,
                heel_off,
                off,
                off_sd: contact.off_sd,
                at: way.to_first[f.middle].back().of(f.stroke.x, f.row),
                frame: f.middle,
                at_on: way.to_first[place(contact.on).min(way.to_first.len() - 1)]
                    .back()
                    .of(f.stroke.x, f.row),
                confidence,
                why,
                stance: Stance {
                    on: contact.on,
                    ahead: f.ahead,
                    x: f.stroke.x,
                    row: f.row,
                    row_sd: f.row_sd.max(if by_stroke { BY_STROKE_SD } else { 0.0 }),
                    nearer: f.nearer,
                    lit: f.lit,
                    may: f.may,
                    is_one: 1.0,
                },
            };
            Some(seen)
        })
        .collect()
}
