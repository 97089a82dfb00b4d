//! The row on which each hoof stands: where what is seen of it ends, and whether that is the hoof.

use crate::picture::candidate::Candidate;
use crate::picture::contact::Contact;
use crate::picture::hoof::Looks;
use crate::picture::level::halves;
use crate::picture::shadow::Shadow;
use crate::picture::stance::Stance;

/// Stands each hoof on the row where it ends, in pictures with their shadows. Where a hoof has the tone of the ground or of
/// its shadow, what is clear of it ends above: half of a girdle stands higher than the other by more than its depth, or
/// goes on below much farther. Where the horse has a `shadow`, its share of the light tells each sole from it first.
pub fn stand(found: &mut [Candidate], looks: &Looks, shadow: Option<Shadow>) {
    let height = looks.height;
    if let Some(shadow) = shadow {
        for f in found.iter_mut() {
            let Some(hoof) = &f.hoof else { continue };
            let sole = looks.sole(hoof, &f.stroke, shadow.usual);
            if (sole - f.row).abs() > MOVED * height {
                let again = looks.hoof(&f.stroke, sole);
                let contact = again.as_ref().and_then(|h| looks.contact(h, &f.stroke));
                f.contact = better(f.contact, contact);
            }
            f.row = sole;
        }
        vanish(found, looks, shadow.usual);
    }
    let stances: Vec<Stance> = found.iter().map(Candidate::stance).collect();
    let halves = halves(&stances);
    let lows: Vec<(f64, f64)> = found
        .iter()
        .map(|f| f.hoof.as_ref().map_or((f.row, 0.0), |h| looks.low(h, &f.stroke)))
        .collect();
    let mut below: [[Vec<f64>; 2]; 2] = Default::default();
    for ((f, half), low) in found.iter().zip(&halves).zip(&lows) {
        if let Some((high, _)) = half {
            below[usize::from(f.ahead > 0.0)][usize::from(*high)].push(low.0 - f.row);
        }
    }
    let goes_on = below.map(|halves| {
        let [low, high] = halves.map(middle);
        high - low > GOES_ON * height
    });
    for ((f, half), (low, beside)) in found.iter_mut().zip(halves).zip(lows) {
        let Some((high, apart)) = half else { continue };
        let fore = usize::from(f.ahead > 0.0);
        if high && low > f.row && (apart > DEEPEST * height || goes_on[fore]) {
            let again = looks.hoof(&f.stroke, low);
            let contact = again.as_ref().and_then(|h| looks.contact(h, &f.stroke));
            f.row = low;
            // A shadow goes on below a hoof by right, and beside it.
            f.row_sd = if beside > WIDE { DEEPEST * height } else { 0.0 };
            f.contact = better(f.contact, contact);
        }
    }
    let stances: Vec<Stance> = found.iter().map(Candidate::stance).collect();
    for (f, half) in found.iter_mut().zip(self::halves(&stances)) {
        if half.is_some_and(|(_, apart)| apart > DEEPEST * height) {
            f.row_sd = DEEPEST * height;
        }
    }
}

/// A sole that lies farther off than this, heights at the withers, is looked at again.
const MOVED: f64 = 0.01;

/// A hoof is so high, heights at the withers, or a little more.
const GOES_ON: f64 = 0.03;

fn middle(mut values: Vec<f64>) -> f64 {
    values.sort_by(f64::total_cmp);
    values.get(values.len() / 2).copied().unwrap_or(0.0)
}

/// Near and far hooves do not stand farther apart in the picture than this, heights at the withers: a track of 0.15
/// heights seen from a lens as high as twice the withers, four heights away.
const DEEPEST: f64 = 0.04;

/// Hooves of the tone of their shadow vanish in it: what is seen of such a limb ends above its hoof, in another tone than
/// the limbs of its girdle whose hooves are seen. Its row says nothing then.
fn vanish(found: &mut [Candidate], looks: &Looks, shade: f32) {
    let tones: Vec<Option<f32>> =
        found.iter().map(|f| Some(looks.above_sole(f.hoof.as_ref()?, &f.stroke, f.row))).collect();
    for fore in [false, true] {
        let own = || {
            let all = found.iter().zip(&tones).enumerate();
            all.filter(|(_, (f, _))| (f.ahead > 0.0) == fore)
                .filter_map(|(k, (_, tone))| Some((k, (*tone)?)))
        };
        let mut above: Vec<f32> = own().map(|(_, above)| above).collect();
        above.sort_by(f32::total_cmp);
        if above.len() < FEWEST {
            continue;
        }
        let (dark, light) = (above[above.len() / 5], above[4 * above.len() / 5]);
        if light - dark < TWO_TONES {
            continue;
        }
        // The hoof that is seen is nearer to the tone of that which is not.
        let seen = if (dark - shade).abs() < (light - shade).abs() { dark } else { light };
        let other = dark + light - seen;
        let gone: Vec<usize> = own()
            .filter(|(_, above)| (above - seen).abs() > (above - other).abs())
            .map(|(k, _)| k)
            .collect();
        for k in gone {
            found[k].row_sd = DEEPEST * looks.height;
        }
    }
}

/// Fewer of a girdle tell no tones apart.
const FEWEST: usize = 5;

/// Limb and hoof differ by this share of the ground's light.
const TWO_TONES: f32 = 0.15;

/// What lies below a limb is its shadow where it goes on beside it.
const WIDE: f64 = 0.75;

/// The contact as it was seen first, or again on another row: that whose two looks agree, and agree better.
fn better(first: Option<Contact>, again: Option<Contact>) -> Option<Contact> {
    let worse = |c: &Contact| first.is_some_and(|f| f.or_on.is_none() && f.on_sd < c.on_sd);
    again.filter(|c| c.or_on.is_none() && !worse(c)).or(first)
}
