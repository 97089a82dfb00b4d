//! How a clip's hooves usually land and leave beside their strokes, and what that says of those that were
//! not seen well.
//!
//! A stroke begins when an edge has stayed long enough, which is a little after the hoof landed: by how
//! much is read from the clip's own hooves that were seen well. Others are timed by their stroke, and one
//! that lands far from where the others do beside theirs was taken in by a shadow or another limb.

use crate::number::count;
use crate::picture::contact::Contact;
use crate::picture::strokes::Stroke;

/// Hooves that were seen well, of a girdle, fewer of which tell nothing.
const FEWEST: usize = 5;

/// A landing this many usual scatters away, and this long, s, and so many frames, is not this hoof's.
const FAR: f64 = 4.0;
const FAR_S: f64 = 0.04;
const FAR_FRAMES: f64 = 3.0;

/// A landing is sure that is known better than this, frames and s.
const SURE: f64 = 0.75;
const SURE_S: f64 = 0.008;

/// A stance that is shorter than this share of the usual one, or longer by as much, is not a whole one (project default).
const WHOLE: f64 = 0.7;

/// A shadow or dust hides when a hoof left by so much, s (project default).
const DUST: f64 = 0.025;

/// Usual distances of on and off from a stroke's ends, frames, with their scatter.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Usual {
    on: (f64, f64),
    off: Option<(f64, f64)>,
    /// From on to off.
    length: Option<f64>,
    rate: f64,
}

impl Usual {
    /// What is usual of a girdle's hooves that were seen well; `None` of too few.
    pub fn of(seen: &[(&Stroke, Contact)], rate: f64) -> Option<Self> {
        // Where two looks agree it is seen best.
        let ons = |sure: bool| {
            let of = seen.iter().filter(|(_, c)| !sure || c.or_on.is_none());
            usual(of.map(|(s, c)| c.on - count(s.from)).collect())
        };
        let on = ons(true).or_else(|| ons(false))?;
        let ends = |end: &dyn Fn(&Contact) -> Option<f64>| {
            usual(seen.iter().filter_map(|(s, c)| Some(end(c)? - count(s.to))).collect())
        };
        // Few frames a second show no toe leave, only that it is gone: later, and less surely.
        let gone = || ends(&|c| c.gone).map(|(late, sd)| (late, sd.max(DUST * rate)));
        let length = usual(seen.iter().filter_map(|(_, c)| Some(c.off? - c.on)).collect());
        Some(Self { on, off: ends(&|c| c.off).or_else(gone), length: length.map(|l| l.0), rate })
    }

    /// A contact as it is, or as the stroke tells it where that is likelier, and whether it is the latter.
    pub fn settled(&self, stroke: &Stroke, contact: Option<Contact>) -> (Contact, bool) {
        let on = count(stroke.from) + self.on.0;
        let off = self.off.map(|o| (count(stroke.to) + o.0, o.1));
        // A scatter is not what one case is off by in a bad view.
        let coarse = |sd: f64| (1.5 * sd).max(1.0).max(0.008 * self.rate);
        let far = |from: f64, to: f64, sd: f64| {
            (from - to).abs() > (FAR * sd).max(FAR_S * self.rate).max(FAR_FRAMES)
        };
        let by_stroke = Contact {
            on,
            on_sd: coarse(self.on.1),
            or_on: None,
            heel_off: None,
            off: off.map(|o| o.0),
            off_sd: off.map_or(f64::INFINITY, |o| coarse(o.1)),
            gone: None,
        };
        let Some(seen) = contact else { return (by_stroke, true) };
        let mut out = seen;
        if let Some(or) = seen.or_on
            && (or - on).abs() < (seen.on - on).abs()
        {
            out.on = or;
        }
        // A stroke may begin with what passed there before: where two looks at the hoof agree, they are right.
        // Not so where little is left of its stance then, while from its stroke on it is a whole one: that was another's.
        let end = seen.off.or(by_stroke.off);
        let whole = |from: f64| {
            let long = end.zip(self.length).map(|(end, usual)| (end - from) / usual);
            long.is_none_or(|long| (WHOLE..1.0 / WHOLE).contains(&long))
        };
        let sure = seen.or_on.is_none()
            && seen.on_sd < SURE.max(SURE_S * self.rate)
            && (whole(out.on) || !whole(on));
        let wrong = !sure && far(out.on, on, self.on.1);
        if wrong {
            (out.on, out.on_sd) = (by_stroke.on, by_stroke.on_sd);
        }
        if let Some((usual, sd)) = off
            && seen.off.is_none_or(|off| far(off, usual, sd))
        {
            (out.off, out.off_sd) = (by_stroke.off, by_stroke.off_sd);
            out.heel_off = seen.heel_off.filter(|h| *h < usual);
        }
        (out, wrong)
    }
}

/// Median and scatter by the median distance from it.
fn usual(mut values: Vec<f64>) -> Option<(f64, f64)> {
    if values.len() < FEWEST {
        return None;
    }
    values.sort_by(f64::total_cmp);
    let middle = values[values.len() / 2];
    let mut away: Vec<f64> = values.iter().map(|v| (v - middle).abs()).collect();
    away.sort_by(f64::total_cmp);
    Some((middle, 1.48 * away[away.len() / 2]))
}
