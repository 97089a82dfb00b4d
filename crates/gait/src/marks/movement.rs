//! Movements: what is ridden.

use crate::base::limb::Side;

/// A movement with its side.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Movement {
    /// What is ridden.
    pub kind: MovementKind,
    /// Rein or direction.
    pub side: Option<Side>,
}

/// What is ridden.
#[derive(Clone, Debug, PartialEq, Eq)]
pub enum MovementKind {
    /// Straight on, also along the rail.
    Straight,
    /// A circle of this diameter, m.
    Circle(u8),
    /// On two tracks.
    Lateral(LateralMovement),
    /// Canter on the outside lead.
    CounterCanter,
    /// Flying changes every so many strides; how many of them, when planned.
    Tempi {
        /// Strides from change to change, 1 to 8.
        every: usize,
        /// Changes planned.
        count: Option<usize>,
    },
    /// A transition drill: strides of one gait, strides of the other, 1 to 20 each.
    Drill(usize, usize),
    /// Lengthening and coming back.
    ForwardBack,
    /// Half a pirouette.
    HalfPirouette,
    /// A whole pirouette.
    FullPirouette,
    /// Steps backwards.
    ReinBack,
    /// Transitions, one after the other.
    Transitions,
    /// Anything else, by its name.
    Other(String),
}

/// Reads `tempi-4`, `tempi-4x5` and `drill-2x3`.
fn planned(name: &str) -> Option<MovementKind> {
    let number = |text: &str, most: usize| text.parse().ok().filter(|n| (1..=most).contains(n));
    if let Some(plan) = name.strip_prefix("tempi-") {
        let (every, count) = match plan.split_once('x') {
            Some((every, count)) => (every, Some(count.parse().ok()?)),
            None => (plan, None),
        };
        return Some(MovementKind::Tempi { every: number(every, 8)?, count });
    }
    let (a, b) = name.strip_prefix("drill-")?.split_once('x')?;
    Some(MovementKind::Drill(number(a, 20)?, number(b, 20)?))
}

impl MovementKind {
    /// By its name in files; a name that is not known is kept as it is.
    ///
    /// ```
    /// use umlauf_gait::marks::movement::{LateralMovement, MovementKind};
    /// assert_eq!(
    ///     MovementKind::named("shoulder-in"),
    ///     MovementKind::Lateral(LateralMovement::ShoulderIn)
    /// );
    /// let tempi = MovementKind::named("tempi-4x5");
    /// assert_eq!(tempi, MovementKind::Tempi { every: 4, count: Some(5) });
    /// assert_eq!(tempi.name(), "tempi-4x5");
    /// assert_eq!(MovementKind::named("spiral").name(), "spiral");
    /// ```
    pub fn named(name: &str) -> Self {
        match name {
            "straight" => Self::Straight,
            "counter-canter" => Self::CounterCanter,
            "forward-back" => Self::ForwardBack,
            "pirouette-half" => Self::HalfPirouette,
            "pirouette-full" | "pirouette" => Self::FullPirouette,
            "rein-back" => Self::ReinBack,
            "transitions" => Self::Transitions,
            other => {
                let circle = other.strip_prefix("circle-").and_then(|m| m.parse().ok());
                LateralMovement::named(other)
                    .map(Self::Lateral)
                    .or_else(|| circle.filter(|m| (6..=30).contains(m)).map(Self::Circle))
                    .or_else(|| planned(other))
                    .unwrap_or_else(|| Self::Other(other.to_owned()))
            }
        }
    }

    /// Its name in files.
    pub fn name(&self) -> String {
        match self {
            Self::Straight => "straight".into(),
            Self::Circle(m) => format!("circle-{m}"),
            Self::Lateral(lateral) => lateral.name().into(),
            Self::CounterCanter => "counter-canter".into(),
            Self::Tempi { every, count: None } => format!("tempi-{every}"),
            Self::Tempi { every, count: Some(count) } => format!("tempi-{every}x{count}"),
            Self::Drill(a, b) => format!("drill-{a}x{b}"),
            Self::ForwardBack => "forward-back".into(),
            Self::HalfPirouette => "pirouette-half".into(),
            Self::FullPirouette => "pirouette-full".into(),
            Self::ReinBack => "rein-back".into(),
            Self::Transitions => "transitions".into(),
            Self::Other(name) => name.clone(),
        }
    }

    /// The movements offered to choose from; those with a plan by an example of it.
    pub fn offered() -> Vec<Self> {
        use LateralMovement::{HalfPass, LegYield, Renvers, ShoulderIn, Travers};
        let mut out = vec![Self::Straight, Self::Circle(20), Self::Circle(15), Self::Circle(10)];
        out.extend([ShoulderIn, Travers, Renvers, HalfPass, LegYield].map(Self::Lateral));
        out.extend([
            Self::CounterCanter,
            Self::Tempi { every: 4, count: Some(5) },
            Self::Drill(2, 2),
            Self::ForwardBack,
            Self::HalfPirouette,
            Self::FullPirouette,
            Self::ReinBack,
            Self::Transitions,
        ]);
        out
    }

    /// Whether it is an exercise and no steady riding: nothing is held in it.
    pub const fn is_exercise(&self) -> bool {
        matches!(
            self,
            Self::Tempi { .. }
                | Self::Drill(..)
                | Self::ForwardBack
                | Self::HalfPirouette
                | Self::FullPirouette
                | Self::ReinBack
                | Self::Transitions
        )
    }

    /// The lateral movement it is, if it is one.
    pub const fn lateral(&self) -> Option<LateralMovement> {
        match self {
            Self::Lateral(lateral) => Some(*lateral),
            _ => None,
        }
    }
}

impl Movement {
    /// From a detail: a name, optionally followed by a space and a side.
    ///
    /// ```
    /// use umlauf_gait::Side;
    /// use umlauf_gait::marks::movement::{Movement, MovementKind};
    /// let m = Movement::named("rein-back left");
    /// assert_eq!((m.kind, m.side), (MovementKind::ReinBack, Some(Side::Left)));
    /// ```
    pub fn named(text: &str) -> Self {
        let (name, side) = match text.rsplit_once(' ') {
            Some((name, side)) => (name, side.parse().ok()),
            None => (text, None),
        };
        let name = if side.is_some() { name } else { text };
        Self { kind: MovementKind::named(name.trim()), side }
    }
}

/// A lateral movement.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash)]
pub enum LateralMovement {
    /// Forehand in, bent away from the direction of travel.
    ShoulderIn,
    /// Quarters in, bent towards the direction of travel.
    Travers,
    /// Quarters on the track, forehand in, bent towards the direction of travel.
    Renvers,
    /// Sideways and forward, bent towards the direction of travel.
    HalfPass,
    /// Sideways and forward, straight.
    LegYield,
}

impl LateralMovement {
    /// All of them.
    pub const ALL: [Self; 5] =
        [Self::ShoulderIn, Self::Travers, Self::Renvers, Self::HalfPass, Self::LegYield];

    /// From its name in files.
    pub fn named(name: &str) -> Option<Self> {
        Some(match name {
            "shoulder-in" => Self::ShoulderIn,
            "travers" => Self::Travers,
            "renvers" => Self::Renvers,
            "half-pass" => Self::HalfPass,
            "leg-yield" => Self::LegYield,
            _ => return None,
        })
    }

    /// Its name in files.
    pub const fn name(self) -> &'static str {
        match self {
            Self::ShoulderIn => "shoulder-in",
            Self::Travers => "travers",
            Self::Renvers => "renvers",
            Self::HalfPass => "half-pass",
            Self::LegYield => "leg-yield",
        }
    }
}
