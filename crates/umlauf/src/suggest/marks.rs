//! Suggestions as marks that wait for an answer.

use umlauf_gait::base::limb::Limb;
use umlauf_signals::picture::stance::Stance;
use umlauf_store::marks::Mark;
use umlauf_store::origin::{Answer, Origin};
use umlauf_store::person::Person;

use crate::suggest::found::{Kept, ToldFrom};
use crate::suggest::suggestion::Suggested;

/// The clock of a film on which suggestions become marks.
#[derive(Clone, Copy, Debug)]
pub struct FilmClock {
    /// Time of its first frame, µs.
    pub first_us: i64,
    /// How many times slower it runs than the world.
    pub slow: f64,
    /// A frame's length, µs of the file.
    pub frame_us: f64,
}

impl FilmClock {
    /// A true second since the first frame, µs of the file.
    pub fn micros(self, s: f64) -> i64 {
        #[expect(clippy::cast_possible_truncation, reason = "a time within 12 days")]
        let us = (s * self.slow * 1e6).round() as i64;
        self.first_us + us
    }

    /// True seconds since the first frame of a time of the file.
    pub fn seconds(self, us: i64) -> f64 {
        #[expect(clippy::cast_precision_loss, reason = "µs of a file, far below 2^52")]
        let s = (us - self.first_us) as f64 / 1e6;
        s / self.slow
    }

    /// As a hand marks it: the first frame that shows it comes half a frame later on average, and marks of
    /// both kinds stand side by side.
    fn as_by_hand(self, s: f64) -> i64 {
        self.micros(s + self.frame_us / 2e6 / self.slow)
    }
}

/// Marks nearer than this to one that stands are not suggested, s: the coach has been there.
const BEEN_THERE_S: f64 = 0.5;

/// Beyond this share of a film in which the coach has been, it is not looked at unasked.
const BEEN_THROUGH: f64 = 0.6;

/// Whether the coach has timed a film of `length_s` seconds of its own clock already.
pub fn been_through(standing: &[Mark], length_s: f64, slow: f64) -> bool {
    let reach = 2.0 * BEEN_THERE_S * slow;
    #[expect(clippy::cast_precision_loss, reason = "µs of a file, far below 2^52")]
    let gap = |w: &[Mark]| (w[1].on_us - w[0].on_us) as f64 / 1e6;
    let covered: f64 = standing.windows(2).map(|w| gap(w).min(reach)).sum();
    covered > BEEN_THROUGH * length_s
}

/// What was found as marks with names that begin with `name`, and what is kept beside them. Nothing is
/// suggested where `standing` marks are.
pub fn marks(
    found: &Suggested,
    name: &str,
    clock: FilmClock,
    standing: &[Mark],
) -> (Vec<Mark>, Kept) {
    let mut kept = Kept::of(found, |s| clock.micros(s));
    let mut out = Vec::new();
    #[expect(clippy::cast_possible_truncation, reason = "half a second")]
    let reach = (BEEN_THERE_S * clock.slow * 1e6) as i64;
    for (k, f) in found.footfalls.iter().enumerate() {
        let Some(limb) = f.limb.as_deref().and_then(|l| l.parse::<Limb>().ok()) else { continue };
        let on_us = clock.as_by_hand(f.on_s);
        let at = standing.partition_point(|m| m.on_us < on_us - reach);
        if standing.get(at).is_some_and(|m| m.on_us <= on_us + reach) {
            continue;
        }
        let id = format!("{name}-{k}");
        if let Some((part, s)) = f.told_from {
            let id = id.clone();
            let Stance { on, ahead, x, row, row_sd, nearer, lit, may, is_one } = s;
            let may = may.bits();
            let told = ToldFrom { id, part, on, ahead, x, row, row_sd, nearer, lit, may, is_one };
            kept.told_from.push(told);
        }
        out.push(Mark {
            id,
            limb,
            on_us,
            off_us: f.off_s.map(|s| clock.as_by_hand(s)).filter(|off| *off > on_us),
            origin: Origin::Suggested {
                detector: f.source.to_owned(),
                sd_s: f.sd_on_s.min(1.0),
                sure: Some(f.confidence.clamp(0.0, 1.0)),
                why: f.why.chars().take(300).collect(),
                answer: Answer::Open,
            },
            author: Person::coach(),
            hoof: f.at_on,
        });
    }
    (out, kept)
}
