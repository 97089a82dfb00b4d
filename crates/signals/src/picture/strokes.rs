//! Strokes in the picture of place against time: one for every stance.

use crate::number::{count, place, small};
use crate::picture::still::Still;

/// A hoof that stood: frames and columns of the ground picture.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Stroke {
    /// First frame.
    pub from: usize,
    /// Last frame.
    pub to: usize,
    /// Column.
    pub x: f64,
    /// Lowest row of the band at which it stood.
    pub row: f64,
    /// Mean stillness.
    pub strength: f64,
}

/// Sizes by the height at the withers.
const HOOF: f64 = 0.125;
/// A stroke stays within this.
const STRAYS: f64 = 0.05;
/// Gaps of this many seconds are bridged.
const GAP: f64 = 0.035;
/// Shortest stroke, s.
const SHORTEST: f64 = 0.06;
/// Weaker than this share of the usual strength is no stroke.
const WEAK: f32 = 0.22;

/// The strokes of a picture of place against time, `rate` frames a second, of a horse of `height` pixels
/// at the withers, the middle of which is in a column of the ground picture every frame, `body`.
pub fn strokes(still: &Still, rate: f64, height: f64, body: &[f64]) -> Vec<Stroke> {
    let w = still.width;
    if w == 0 {
        return vec![];
    }
    let frames = still.values.len() / w;
    let half = place((0.5 * HOOF * height).round()).max(1);
    // A hoof has two edges: what lies within its width belongs together.
    let peaks: Vec<Vec<Peak>> = (0..frames).map(|f| peaks(still, f, half)).collect();
    let mut heights: Vec<f32> = peaks.iter().flatten().map(|p| p.value).collect();
    if heights.is_empty() {
        return vec![];
    }
    heights.sort_by(f32::total_cmp);
    let limit = WEAK * heights[heights.len() * 3 / 4];
    let gap = place((GAP * rate).ceil());
    let mut open: Vec<Open> = vec![];
    let mut done: Vec<Open> = vec![];
    for (f, peaks) in peaks.iter().enumerate() {
        let (ended, going): (Vec<_>, Vec<_>) = open.into_iter().partition(|o| f > o.last + gap + 1);
        done.extend(ended);
        open = going;
        for peak in peaks.iter().filter(|p| p.value > limit) {
            let near = open
                .iter_mut()
                .filter(|o| o.last < f && (o.x() - peak.x).abs() < STRAYS * height)
                .min_by(|a, b| (a.x() - peak.x).abs().total_cmp(&(b.x() - peak.x).abs()));
            match near {
                Some(o) => o.take(f, peak),
                None => {
                    let mut o = Open { first: f, last: f, seen: vec![] };
                    o.take(f, peak);
                    open.push(o);
                }
            }
        }
    }
    done.extend(open);
    let shortest = place((SHORTEST * rate).max(2.0));
    let done = parted(done, shortest, height, body);
    let mut out: Vec<Stroke> = done
        .iter()
        .filter(|o| o.last + 1 - o.first >= shortest && 2 * o.seen.len() > o.last + 1 - o.first)
        .map(Open::stroke)
        .collect();
    out.sort_by(|a, b| {
        (a.from, a.x).partial_cmp(&(b.from, b.x)).unwrap_or(std::cmp::Ordering::Equal)
    });
    out
}

/// A hind that lands in the print of the fore goes on with its stroke: one that is much longer than usual is
/// parted where it is least still, when it is clearly less so there, or when the horse went on farther over it
/// than over any hoof.
fn parted(strokes: Vec<Open>, shortest: usize, height: f64, body: &[f64]) -> Vec<Open> {
    let long = |o: &Open| o.last + 1 - o.first;
    let mut lengths: Vec<usize> = strokes.iter().map(long).filter(|l| *l >= shortest).collect();
    lengths.sort_unstable();
    let Some(usual) = lengths.get(lengths.len() / 2).copied() else { return strokes };
    let part = |o: Open| -> Vec<Open> {
        let n = o.seen.len();
        let at_frame = |f: usize| body.get(f).copied().unwrap_or(0.0);
        let over = (at_frame(o.last) - at_frame(o.first)).abs() > FARTHEST * height;
        if (!over && count(long(&o)) < LONGER * count(usual)) || n < 12 {
            return vec![o];
        }
        let smooth = |k: usize| {
            let near = &o.seen[k - 2..=k + 2];
            near.iter().map(|s| s.value).sum::<f32>() / 5.0
        };
        let mut values: Vec<f32> = o.seen.iter().map(|s| s.value).collect();
        values.sort_by(f32::total_cmp);
        let least = (n / 4).max(2)..(3 * n / 4).min(n - 3);
        let Some(at) = least.min_by(|a, b| smooth(*a).total_cmp(&smooth(*b))) else {
            return vec![o];
        };
        if !over && smooth(at) > DIP * values[n / 2] {
            return vec![o];
        }
        let (before, after) = o.seen.split_at(at);
        [before, &after[1..]]
            .into_iter()
            .filter_map(|seen| {
                let (first, last) = (seen.first()?.frame, seen.last()?.frame);
                Some(Open { first, last, seen: seen.to_vec() })
            })
            .collect()
    };
    strokes.into_iter().flat_map(part).collect()
}

/// A stroke so many times as long as usual is two …
const LONGER: f64 = 1.6;

/// … when its stillness falls to this share of the usual between them.
const DIP: f32 = 0.75;

/// One over which the horse goes on so far, heights at the withers, is two however long it lasts: an extended
/// trot's stance is 0.85 of them long (Clayton 1994, Equine Vet J 26:230; values from memory).
const FARTHEST: f64 = 1.05;

struct Open {
    first: usize,
    last: usize,
    seen: Vec<Peak>,
}

impl Open {
    fn take(&mut self, f: usize, peak: &Peak) {
        self.last = f;
        self.seen.push(*peak);
    }

    /// Where it was lately.
    fn x(&self) -> f64 {
        let lately = &self.seen[self.seen.len().saturating_sub(5)..];
        lately.iter().map(|s| s.x).sum::<f64>() / count(lately.len())
    }

    fn stroke(&self) -> Stroke {
        let weight: f64 = self.seen.iter().map(|s| f64::from(s.value)).sum();
        let x = self.seen.iter().map(|s| s.x * f64::from(s.value)).sum::<f64>() / weight;
        let mut rows: Vec<f32> =
            self.seen.iter().map(|s| s.lowest).filter(|r| !r.is_nan()).collect();
        rows.sort_by(f32::total_cmp);
        let row = rows.get(rows.len() / 2).copied().unwrap_or(f32::NAN);
        Stroke {
            from: self.first,
            to: self.last,
            x,
            row: f64::from(row),
            strength: weight / count(self.seen.len()),
        }
    }
}

/// A place of a frame where it is stillest within a hoof's width.
#[derive(Clone, Copy)]
struct Peak {
    /// Column of the centre, in the ground picture.
    x: f64,
    /// Frame.
    frame: usize,
    /// Stillness.
    value: f32,
    /// Lowest row at which an edge stays.
    lowest: f32,
}

fn peaks(still: &Still, frame: usize, half: usize) -> Vec<Peak> {
    let w = still.width;
    let row = &still.values[frame * w..][..w];
    let lowest = &still.lowest[frame * w..][..w];
    let Some(from) = row.iter().position(|v| *v > 0.0) else { return vec![] };
    let to = w - row.iter().rev().position(|v| *v > 0.0).unwrap_or(0);
    let about = |x: usize| x.saturating_sub(half)..(x + half + 1).min(w);
    let mut sums = vec![0.0f32; w];
    let (first, last) = (from.saturating_sub(half), (to + half).min(w));
    for (x, sum) in sums.iter_mut().enumerate().take(last).skip(first) {
        *sum = about(x)
            .map(|k| (1.0 - 0.5 * small(count(k.abs_diff(x)) / count(half))) * row[k])
            .sum();
    }
    let mut out = vec![];
    for x in first..last {
        let (here, near) = (sums[x], about(x));
        let most = here > 0.0
            && sums[near.start..x].iter().all(|v| *v < here)
            && sums[x + 1..near.end].iter().all(|v| *v <= here);
        if most {
            let weight: f64 = near.clone().map(|k| f64::from(row[k])).sum();
            let place: f64 = near.clone().map(|k| f64::from(row[k]) * count(k)).sum();
            let strong = 0.2 * here / small(count(half));
            let lowest = near.filter(|k| row[*k] > strong).map(|k| lowest[k]);
            #[expect(clippy::cast_precision_loss, reason = "columns")]
            let left = still.left as f64;
            out.push(Peak {
                x: place / weight + left,
                frame,
                value: here,
                lowest: lowest.fold(f32::NAN, f32::max),
            });
        }
    }
    out
}
