//! What the coach marks beside footfalls: aids, movements, letters, notes.

use crate::limb::{Limb, Side};
use crate::tempi;

/// One mark.
#[derive(Clone, Debug, PartialEq)]
pub struct RideMark {
    /// When, true seconds.
    pub time: f64,
    /// What.
    pub kind: MarkKind,
}

/// Kinds of marks.
#[derive(Clone, Debug, PartialEq)]
pub enum MarkKind {
    /// An aid is given.
    Aid(Aid),
    /// A letter is passed.
    Letter(String),
    /// A movement begins.
    Start(Movement),
    /// A movement ends.
    End(Movement),
    /// Hooves go out of view,
    UnseenStart,
    /// and come back.
    UnseenEnd,
    /// Free text.
    Note(String),
}

/// What an aid asks for.
#[derive(Clone, Debug, PartialEq, Eq)]
pub enum Aid {
    /// Walk.
    Walk,
    /// Trot.
    Trot,
    /// Canter, on a lead when it is named.
    Canter(Option<Side>),
    /// Halt.
    Halt,
    /// A flying change.
    Change,
    /// A half-halt.
    HalfHalt,
    /// The leg for one limb.
    Leg(Limb),
    /// Anything else, by its name.
    Other(String),
}

/// A movement as written: `shoulder-in`, `tempi-4x5`, …, with its side.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Movement {
    /// Name.
    pub name: String,
    /// Rein or direction.
    pub side: Option<Side>,
}

impl Aid {
    /// From its name in files.
    pub fn named(text: &str) -> Self {
        match text {
            "walk" => Self::Walk,
            "trot" => Self::Trot,
            "canter" => Self::Canter(None),
            "canter-left" => Self::Canter(Some(Side::Left)),
            "canter-right" => Self::Canter(Some(Side::Right)),
            "halt" => Self::Halt,
            "change" => Self::Change,
            "half-halt" => Self::HalfHalt,
            other => other
                .strip_prefix("leg-")
                .and_then(|limb| limb.parse().ok())
                .map_or_else(|| Self::Other(other.to_owned()), Self::Leg),
        }
    }

    /// Its name in files.
    pub fn name(&self) -> String {
        match self {
            Self::Walk => "walk".into(),
            Self::Trot => "trot".into(),
            Self::Canter(None) => "canter".into(),
            Self::Canter(Some(side)) => format!("canter-{}", side.word()),
            Self::Halt => "halt".into(),
            Self::Change => "change".into(),
            Self::HalfHalt => "half-halt".into(),
            Self::Leg(limb) => format!("leg-{limb}"),
            Self::Other(name) => name.clone(),
        }
    }
}

impl Movement {
    /// From a detail: a name, optionally followed by a space and a side.
    pub fn named(text: &str) -> Self {
        let (name, side) = match text.rsplit_once(' ') {
            Some((name, side)) => (name, side.parse().ok()),
            None => (text, None),
        };
        let name = if side.is_some() { name } else { text };
        Self { name: name.trim().to_owned(), side }
    }

    /// Every how many strides and how many changes, of `tempi-4` or `tempi-4x5`.
    pub fn tempi(&self) -> Option<(usize, Option<usize>)> {
        let plan = self.name.strip_prefix("tempi-")?;
        let (every, count) = match plan.split_once('x') {
            Some((every, count)) => (every, Some(count.parse().ok()?)),
            None => (plan, None),
        };
        let every = every.parse().ok().filter(|n| (1..=8).contains(n))?;
        Some((every, count))
    }
}

/// A movement from its start to its end, s; one without an end mark lasts to the next start, or for
/// good.
#[derive(Clone, Debug, PartialEq)]
pub struct Stretch {
    /// From.
    pub from_s: f64,
    /// To.
    pub to_s: f64,
    /// What.
    pub movement: Movement,
}

/// Movements of marks in any order.
pub fn movements(marks: &[RideMark]) -> Vec<Stretch> {
    let mut sorted: Vec<&RideMark> = marks.iter().collect();
    sorted.sort_by(|a, b| a.time.total_cmp(&b.time));
    let mut out: Vec<Stretch> = Vec::new();
    for mark in sorted {
        match &mark.kind {
            MarkKind::Start(movement) => {
                if let Some(open) = out.last_mut().filter(|s| s.to_s > mark.time) {
                    open.to_s = mark.time;
                }
                out.push(Stretch {
                    from_s: mark.time,
                    to_s: f64::INFINITY,
                    movement: movement.clone(),
                });
            }
            MarkKind::End(movement) => {
                let open = out
                    .iter_mut()
                    .rev()
                    .find(|s| s.to_s > mark.time && s.movement.name == movement.name);
                if let Some(open) = open {
                    open.to_s = mark.time;
                }
            }
            _ => {}
        }
    }
    out
}

/// Lines of tempi that the coach planned.
pub fn tempi_plans(stretches: &[Stretch]) -> Vec<tempi::Plan> {
    let plan = |s: &Stretch| {
        let (every, count) = s.movement.tempi()?;
        Some(tempi::Plan { from_s: s.from_s, to_s: s.to_s, every, count })
    };
    stretches.iter().filter_map(plan).collect()
}
