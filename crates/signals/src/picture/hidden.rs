//! Landings that another hoof hides.
//!
//! In the gaits between walk and pace a hind lands beside the fore of the other side while that still stands: in the
//! picture at one place with it. The hind is seen there only once the fore has left. Its own side's fore lands
//! after it as long as this horse's fores do after hinds that are seen to land; how well that is known is said by
//! how they scatter. So it is with fores whose landing is not seen.

use crate::picture::seen::{Doubt, Seen};
use crate::picture::stance::fores;

/// A hoof that leaves so much before another is seen at its place, or after, s, may have hidden it.
const HIDES_S: (f64, f64) = (-0.03, 0.08);

/// Few frames a second tell either moment worse: by so many frames together.
const FRAMES: f64 = 1.5;

/// Hooves are at one place when they are this near along the ground, heights at the withers.
const AT_ONE_PLACE: f64 = 0.12;

/// What is seen later than it is due by so many strides was hidden, …
const LATE: f64 = 0.05;

/// … a hind by less than this, for no more of a stance is shared; a fore that is timed by its stroke alone by
/// less than this.
const HIDDEN: f64 = 0.22;
const ASTRAY: f64 = 0.3;

/// One hoof of a girdle lands within so many strides.
const TAKEN: f64 = 0.12;

/// A fore follows a hind within this share of a stride, where it goes with it.
const FOLLOWS: f64 = 0.45;

/// Fores follow alike when they do so within this share of a stride; not in canter, where each hind has its own.
const ALIKE: f64 = 0.03;

/// Least standard deviation of a landing told from the fore's, as a share of a stride.
const LEAST_SD: f64 = 0.015;

/// Fewer hinds that are seen to land tell nothing.
const FEWEST: usize = 4;

/// Times hinds whose landing was hidden by the fores that follow them. `seen` is without its limbs; `height` is that at
/// the withers, pixels.
pub fn hidden(seen: &mut [Seen], height: f64, rate: f64) {
    let girdles = fores(&seen.iter().map(|s| s.stance).collect::<Vec<_>>());
    let (fores, hinds): (Vec<usize>, Vec<usize>) = (0..seen.len()).partition(|k| girdles[*k].0);
    let length = middle(fores.iter().filter_map(|k| Some(seen[*k].off? - seen[*k].on)).collect());
    let strides = hinds.windows(3).map(|w| seen[w[2]].on - seen[w[0]].on).collect();
    let Some(stride) = middle(strides) else { return };
    let covered = |hind: &Seen| {
        fores.iter().map(|k| &seen[*k]).any(|fore| {
            let off = fore.off.or_else(|| Some(fore.on + length?));
            let gap = off.map(|off| (hind.on - off) / rate);
            (fore.stance.x - hind.stance.x).abs() < AT_ONE_PLACE * height
                && gap.is_some_and(|gap| HIDES_S.0.min(-FRAMES / rate) <= gap && gap <= HIDES_S.1)
        })
    };
    let (late, clear): (Vec<usize>, Vec<usize>) = hinds.iter().partition(|k| covered(&seen[**k]));
    let on = |k: &usize| seen[*k].on;
    let late: Vec<(usize, f64)> = late.iter().map(|k| (*k, on(k))).collect();
    let by_stroke = |k: &&usize| seen[**k].why.contains(&Doubt::NotSeenWell);
    let unclear: Vec<(usize, f64)> = fores.iter().filter(by_stroke).map(|k| (*k, on(k))).collect();
    let mut hind_ons: Vec<f64> = clear.iter().map(on).collect();
    let ons: Vec<f64> = fores.iter().map(on).collect();
    let lag = |k: &usize| {
        let lags = ons.iter().map(|on| (on - seen[*k].on) / stride);
        lags.filter(|lag| (0.0..FOLLOWS).contains(lag)).min_by(f64::total_cmp)
    };
    let lags: Vec<f64> = clear.iter().filter_map(lag).collect();
    if lags.len() < FEWEST {
        return;
    }
    let Some(usual) = middle(lags.clone()) else { return };
    let Some(scatter) = middle(lags.iter().map(|lag| (lag - usual).abs()).collect()) else {
        return;
    };
    if scatter > ALIKE {
        return;
    }
    let sd = (1.48 * scatter).max(LEAST_SD) * stride;
    let lag = usual * stride;
    let mut told = |k: usize, due: f64| {
        let own = &mut seen[k];
        (own.on, own.stance.on, own.on_sd) = (due, due, sd);
        own.why.push(Doubt::LandingHidden);
    };
    // The last moment at which it was due, where no other landed then.
    let due = |on: f64, by: f64, of: &[f64], own: &[f64], latest: f64| {
        let late = |due: &f64| (LATE..latest).contains(&((on - due) / stride));
        let free = |due: &f64| own.iter().all(|o| (o - due).abs() > TAKEN * stride);
        let in_film = |due: &f64| *due > 0.0;
        let all = of.iter().map(|other| other + by);
        all.filter(|d| in_film(d) && late(d) && free(d)).fold(None, latest_of)
    };
    for (k, on) in late {
        let hidden = due(on, -lag, &ons, &hind_ons, HIDDEN);
        hidden.into_iter().for_each(|due| told(k, due));
        hind_ons.push(hidden.unwrap_or(on));
    }
    for (k, on) in unclear {
        due(on, lag, &hind_ons, &ons, ASTRAY).into_iter().for_each(|due| told(k, due));
    }
}

fn latest_of(one: Option<f64>, other: f64) -> Option<f64> {
    Some(one.map_or(other, |one| one.max(other)))
}

fn middle(mut values: Vec<f64>) -> Option<f64> {
    values.sort_by(f64::total_cmp);
    values.get(values.len() / 2).copied()
}
