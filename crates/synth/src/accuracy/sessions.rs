//! What heads a session of the second horse: nothing where nothing is wrong, and the fault where there
//! is one, with its place and side.

use umlauf_gait::base::limb::Side;
use umlauf_gait::findings::finding::Finding;
use umlauf_gait::findings::kind::Kind;
use umlauf_gait::season::session::matters;
use umlauf_gait::{Analysis, analyse};

use crate::schooling::rng;
use crate::session_rides::fault::{Fault, Planted};
use crate::session_rides::session::session;

/// Sessions of a kind.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Headed {
    /// What is wrong, if anything.
    pub fault: Option<Fault>,
    /// Sessions.
    pub sessions: u64,
    /// Headed by what is wrong, with its place and side; of faultless ones, by any fault.
    pub headed: u64,
    /// Headed by something else.
    pub otherwise: u64,
}

impl Headed {
    /// Share of the sessions.
    pub fn share(&self) -> f64 {
        #[expect(clippy::cast_precision_loss, reason = "counts")]
        let share = self.headed as f64 / self.sessions.max(1) as f64;
        share
    }
}

/// What heads `runs` sessions with a fault, or without any.
pub fn headed(fault: Option<Fault>, runs: u64) -> Headed {
    let mut out = Headed { fault, sessions: runs, headed: 0, otherwise: 0 };
    for run in 0..runs {
        let mut rng = rng(4000 + fault.map_or(0, |f| 1 + f as u64), run);
        let ride = session(fault, &mut rng);
        let clips: Vec<Analysis> =
            ride.clips.iter().map(|(marks, options)| analyse(marks, options)).collect();
        let Some(first) = matters(&clips).first().copied() else { continue };
        let finding = &clips[first.analysis].findings[first.finding];
        let right = match (fault, ride.planted) {
            (Some(fault), Some(planted)) => is_it(fault, &planted, first.analysis, finding),
            _ => true,
        };
        if right {
            out.headed += 1;
        } else {
            out.otherwise += 1;
        }
    }
    out
}

pub(crate) fn is_it(fault: Fault, planted: &Planted, clip: usize, finding: &Finding) -> bool {
    let here = planted.both
        || (clip == planted.clip
            && finding.end_s > planted.from_s - 0.5
            && finding.start_s < planted.to_s + 0.5);
    let side = planted.side;
    let kind = match (fault, &finding.kind) {
        (Fault::LateChange, Kind::Change { late_by_strides, .. }) => *late_by_strides == 1,
        (Fault::WrongLead, Kind::WrongLead { got }) => *got == side.opposite(),
        (Fault::DisunitedStrikeOff, Kind::Disunited { .. })
        | (Fault::FourBeats, Kind::FourBeats { .. })
        | (Fault::Hurried, Kind::Speed { .. })
        | (Fault::Stepping, Kind::Stepping { .. })
        | (Fault::SlowAnswer, Kind::Answer { .. })
        | (Fault::IrregularWalk, Kind::LateralWalk { .. }) => true,
        (Fault::ShoulderIn, Kind::Lateral { side: of, .. }) => *of == Some(side),
        (Fault::ShoulderIn, Kind::BothSides { weaker, .. }) => *weaker == Some(side),
        (Fault::UnevenSteps, Kind::UnevenSteps { index }) => {
            (index.value > 0.0) == (side == Side::Left)
        }
        _ => false,
    };
    here && kind
}
