//! Work and rest as they were filmed: time and strides in each gait, and the longest spell of hard
//! work without a walk.

use crate::base::gait::Gait;
use crate::season::bout_summary::BoutSummary;

/// A longest spell beyond this asks for a walk break, s (common practice: six minutes).
pub const LONGEST_SPELL_S: f64 = 360.0;

/// Nothing marked for longer than this ends a spell: nobody knows what was ridden, s (project
/// default).
const BLANK_S: f64 = 30.0;

/// Time and strides in a gait.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct InGait {
    /// Which.
    pub gait: Gait,
    /// Time, s.
    pub seconds: f64,
    /// Strides.
    pub strides: usize,
}

/// Work as it was filmed.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct Workload {
    /// Gaits in their own order.
    pub gaits: Vec<InGait>,
    /// Longest spell of anything but walk, s, pauses in it that nobody marked counted.
    pub longest_spell_s: f64,
}

/// A gait that rests: walk and what is slower.
///
/// ```
/// use umlauf_gait::base::gait::Gait;
/// use umlauf_gait::season::workload::rests;
/// assert!(rests(Gait::Walk) && !rests(Gait::Trot));
/// ```
pub const fn rests(gait: Gait) -> bool {
    matches!(gait, Gait::Walk | Gait::Halt | Gait::FlatWalk)
}

/// Adds up bouts; those of one clip stand together in order of time, clips apart.
pub fn workload<'a>(clips: impl IntoIterator<Item = Vec<&'a BoutSummary>>) -> Workload {
    let mut out = Workload::default();
    for bouts in clips {
        let mut spell: Option<(f64, f64)> = None;
        for b in bouts {
            let gait = b.label.gait;
            let seconds = b.end_s - b.start_s;
            match out.gaits.iter_mut().find(|g| g.gait == gait) {
                Some(g) => {
                    g.seconds += seconds;
                    g.strides += b.strides;
                }
                None => out.gaits.push(InGait { gait, seconds, strides: b.strides }),
            }
            spell = match spell {
                _ if rests(gait) => None,
                Some((from, to)) if b.start_s - to <= BLANK_S => Some((from, b.end_s)),
                _ => Some((b.start_s, b.end_s)),
            };
            if let Some((from, to)) = spell {
                out.longest_spell_s = out.longest_spell_s.max(to - from);
            }
        }
    }
    out.gaits.sort_by_key(|g| Gait::ALL.iter().position(|a| *a == g.gait));
    out
}
