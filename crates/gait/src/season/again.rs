//! What is wrong again and again: a fault found in session after session heads a record though it
//! neither gets better nor worse.

use crate::analysis::analyse::Analysis;
use crate::base::gait::Gait;
use crate::base::limb::Side;
use crate::base::number::count;
use crate::findings::finding::Finding;
use crate::season::meaning::meaning;
use crate::season::session::matters;

/// A fault of a session; `K` says which.
#[derive(Clone, Debug, PartialEq)]
pub struct Fault<K> {
    /// Which.
    pub what: K,
    /// The gait it was found in.
    pub gait: Gait,
    /// The rein.
    pub rein: Option<Side>,
    /// What it means for the horse.
    pub meaning: f64,
}

/// A session: the gaits ridden in it, and its faults.
#[derive(Clone, Debug, PartialEq)]
pub struct Session<K> {
    /// Gaits.
    pub gaits: Vec<Gait>,
    /// Faults.
    pub faults: Vec<Fault<K>>,
}

/// A fault found again and again.
#[derive(Clone, Debug, PartialEq)]
pub struct Again<K> {
    /// Which.
    pub what: K,
    /// Sessions it was found in, …
    pub sessions: usize,
    /// … of those with its gait.
    pub of: usize,
    /// The rein, when it was never found on the other.
    pub rein: Option<Side>,
}

/// Sessions that it is found in, at least, …
const FEWEST: usize = 3;

/// … and in how many of the latest four with its gait: what was mended is no fault of today. A session
/// without a fault is headed by one in twenty at most, so three and half of all are not chance.
const LATELY: (usize, usize) = (2, 4);

impl<K> Session<K> {
    /// From the analyses of a session's clips: what matters in it, when everything that was looked for is
    /// counted, each fault named by `name`. `None` leaves one out.
    pub fn of(clips: &[Analysis], name: impl Fn(&Analysis, &Finding) -> Option<K>) -> Self {
        let bouts = clips.iter().flat_map(|c| &c.bouts).filter(|b| b.strides > 0);
        let faults = matters(clips).into_iter().filter_map(|m| {
            let clip = &clips[m.analysis];
            let finding = &clip.findings[m.finding];
            let bout = clip.bouts.get(finding.bout)?;
            Some(Fault {
                what: name(clip, finding)?,
                gait: bout.label.gait,
                rein: bout.rein,
                meaning: meaning(&finding.kind),
            })
        });
        Self { gaits: bouts.map(|b| b.label.gait).collect(), faults: faults.collect() }
    }
}

/// The fault that means most, times the share of sessions it is found in, of those found in at least
/// half of the sessions with their gait and lately; sessions in order of time.
pub fn again<K: Clone + PartialEq>(sessions: &[Session<K>]) -> Option<Again<K>> {
    let mut seen: Vec<&K> = Vec::new();
    let mut best: Option<(f64, Again<K>)> = None;
    for fault in sessions.iter().flat_map(|s| &s.faults) {
        if seen.contains(&&fault.what) {
            continue;
        }
        seen.push(&fault.what);
        let same = |f: &&Fault<K>| f.what == fault.what;
        // A fault such as a slip is found in a gait of its own.
        let ridden: Vec<&Session<K>> = sessions
            .iter()
            .filter(|s| s.gaits.contains(&fault.gait) || s.faults.iter().any(|f| same(&f)))
            .collect();
        let found = |s: &&&Session<K>| s.faults.iter().any(|f| same(&f));
        let many = ridden.iter().filter(found).count();
        let lately = ridden.iter().rev().take(LATELY.1).filter(found).count();
        if many < FEWEST || 2 * many < ridden.len() || lately < LATELY.0 {
            continue;
        }
        let mut reins = sessions.iter().flat_map(|s| &s.faults).filter(same).map(|f| f.rein);
        let first = reins.next().flatten();
        let rein = first.filter(|_| reins.all(|r| r == first));
        let rank = fault.meaning * count(many) / count(ridden.len());
        if best.as_ref().is_none_or(|b| rank > b.0) {
            let what = fault.what.clone();
            best = Some((rank, Again { what, sessions: many, of: ridden.len(), rein }));
        }
    }
    best.map(|(_, again)| again)
}
