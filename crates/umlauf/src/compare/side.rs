//! How a side is asked for.

use umlauf_gait::base::gait::Gait;
use umlauf_gait::base::limb::Side;

use crate::digest::RiddenBout;
use crate::refused::Refused;

/// What a side asks for.
#[derive(Clone, Debug)]
pub(crate) enum Asked {
    Bout(i64, usize),
    Clip(i64, Gait),
    Session(i64, Gait, Which),
}

/// Which bouts of a session.
#[derive(Clone, Debug, Default)]
pub(crate) struct Which {
    pub(super) rein: Option<Side>,
    /// In, before or after a movement.
    pub(crate) movement: Option<(When, String)>,
}

/// Where bouts lie about a movement.
#[derive(Clone, Copy, Debug, Eq, PartialEq)]
pub(crate) enum When {
    In,
    Before,
    After,
}

impl Which {
    fn read(parts: &[&str]) -> Option<Self> {
        let mut out = Self::default();
        for part in parts {
            if let Ok(rein) = part.parse::<Side>() {
                out.rein = Some(rein);
                continue;
            }
            let (when, movement) = part.split_once('=')?;
            let when = match when {
                "in" => When::In,
                "before" => When::Before,
                "after" => When::After,
                _ => return None,
            };
            if movement.is_empty() {
                return None;
            }
            out.movement = Some((when, movement.to_owned()));
        }
        Some(out)
    }

    /// Bouts, in order of clip and time, that are meant.
    pub(crate) fn choose(&self, mut bouts: Vec<RiddenBout>, gait: Gait) -> Vec<RiddenBout> {
        let named = |b: &RiddenBout, m: &str| match b.movement.as_deref() {
            None => m == "straight",
            Some(own) => own == m,
        };
        if let Some((when, movement)) = &self.movement {
            let inside = |b: &RiddenBout| named(b, movement);
            // Within a clip that has the movement its own place counts: reins are often filmed
            // clip by clip. Other clips lie before or after as a whole.
            let all = bouts.clone();
            let ends = |clip: i64| {
                let has = |b: &RiddenBout| b.clip == clip && inside(b);
                if all.iter().any(has) {
                    (all.iter().position(has), all.iter().rposition(has))
                } else {
                    (all.iter().position(inside), all.iter().rposition(inside))
                }
            };
            let mut place = 0;
            bouts.retain(|b| {
                let at = place;
                place += 1;
                let (first, last) = ends(b.clip);
                match when {
                    When::In => inside(b),
                    When::Before => first.is_some_and(|f| at < f) && !inside(b),
                    When::After => last.is_some_and(|l| at > l) && !inside(b),
                }
            });
        }
        bouts.retain(|b| {
            b.digest.label.gait == gait && self.rein.is_none_or(|r| b.digest.rein == Some(r))
        });
        bouts
    }
}

impl Asked {
    /// A side as it is written: `bout:CLIP:PLACE`, `clip:CLIP:GAIT` or `session:SESSION:GAIT` with
    /// what may stand behind it.
    ///
    /// # Errors
    /// [`Refused::Invalid`] for anything else.
    pub(crate) fn read(text: &str) -> Result<Self, Refused> {
        Self::parse(text).ok_or_else(|| {
            Refused::invalid("a side is bout:CLIP:PLACE, clip:CLIP:GAIT or session:SESSION:GAIT, with :left, :right, :in=MOVEMENT, :before=MOVEMENT or :after=MOVEMENT behind it")
        })
    }

    fn parse(text: &str) -> Option<Self> {
        let parts: Vec<&str> = text.split(':').collect();
        let number = |k: usize| parts.get(k).and_then(|p| p.parse::<i64>().ok());
        match *parts.first()? {
            "bout" => Some(Self::Bout(number(1)?, usize::try_from(number(2)?).ok()?)),
            "clip" => Some(Self::Clip(number(1)?, Gait::named(parts.get(2)?)?)),
            "session" => {
                let which = Which::read(parts.get(3..).unwrap_or_default())?;
                Some(Self::Session(number(1)?, Gait::named(parts.get(2)?)?, which))
            }
            _ => None,
        }
    }
}
