//! Which bouts of a horse count. Like is compared with like: where nothing is chosen, the variant
//! and the movement ridden most.

use std::collections::BTreeMap;

use serde::{Deserialize, Serialize};
use umlauf_gait::base::gait::Gait;
use umlauf_gait::base::limb::Side;
use umlauf_gait::words;
use umlauf_store::yard::Session;
use utoipa::{IntoParams, ToSchema};

use crate::dates::day_number;
use crate::digest::{HorseDigest, RiddenBout};

/// Which bouts count.
#[derive(Clone, Debug, Default, Deserialize, IntoParams)]
#[serde(deny_unknown_fields)]
#[into_params(parameter_in = Query)]
pub struct Filter {
    /// Gait; nothing for the one ridden most.
    gait: Option<String>,
    /// Variant; nothing for the one ridden most, `any` for all.
    variant: Option<String>,
    /// Movement; nothing for the one ridden most, `any` for all, `none` for bouts without one.
    movement: Option<String>,
    /// Footing.
    surface: Option<String>,
    /// Rider.
    rider: Option<String>,
    /// `left` or `right`.
    rein: Option<String>,
    /// Frames per second, whole.
    rate: Option<u32>,
    /// First day, `YYYY-MM-DD`.
    from: Option<String>,
    /// Last day.
    to: Option<String>,
    /// The day that it is; nothing for the machine's.
    today: Option<String>,
}

/// A gait in the record.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct GaitRidden {
    /// Its name in files.
    pub gait: String,
    /// Its name.
    pub name: String,
    /// Strides.
    pub strides: usize,
    /// Sessions.
    pub sessions: usize,
}

/// What the filters can be.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct Choices {
    /// Variants.
    pub variants: Vec<String>,
    /// Movements.
    pub movements: Vec<String>,
    /// Footings.
    pub surfaces: Vec<String>,
    /// Riders.
    pub riders: Vec<String>,
    /// Frame rates, frames/s.
    pub rates: Vec<u32>,
}

/// The bouts that count, and what was chosen for them.
pub struct Chosen<'a> {
    /// Gait.
    pub gait: Gait,
    /// Variant.
    pub variant: Option<String>,
    /// Movement.
    pub movement: Option<String>,
    /// Bouts.
    pub counted: Vec<&'a RiddenBout>,
    /// Bouts of the gait that do not count.
    pub left_out: usize,
    /// Gaits ridden, most strides first.
    pub gaits: Vec<GaitRidden>,
    /// What there is to choose from.
    pub choices: Choices,
}

impl Filter {
    /// Everything of a gait.
    pub fn of_gait(gait: &str) -> Self {
        Self { gait: Some(gait.to_owned()), ..Self::default() }
    }

    /// Whether a day, `YYYY-MM-DD`, lies in the period: days as text sort as days.
    pub fn holds_day(&self, date: &str) -> bool {
        self.from.as_deref().is_none_or(|from| date >= from)
            && self.to.as_deref().is_none_or(|to| date <= to)
    }

    /// The day that it is, as [`day_of`] counts.
    pub fn today(&self) -> i64 {
        let given = self.today.clone();
        day_number(&given.unwrap_or_else(|| jiff::Zoned::now().date().to_string()))
    }

    /// The bouts that count.
    pub fn choose<'a>(&self, ridden: &'a HorseDigest, sessions: &[Session]) -> Chosen<'a> {
        let all = &ridden.bouts;
        let gaits = gaits(all);
        let gait = self
            .gait
            .as_deref()
            .and_then(Gait::named)
            .or_else(|| gaits.first().and_then(|g| Gait::named(&g.gait)))
            .unwrap_or(Gait::Trot);
        let own: Vec<&RiddenBout> = all.iter().filter(|b| b.digest.label.gait == gait).collect();
        let like = |chosen: &Option<String>,
                    of: &dyn Fn(&RiddenBout) -> Option<String>,
                    from: &[&RiddenBout]| {
            match chosen.as_deref() {
                Some("any") => Like::Any,
                Some("none") => Like::Only(None),
                Some(v) => Like::Only(Some(v.to_owned())),
                None => Like::Only(most_ridden(from, of)),
            }
        };
        let variant = like(&self.variant, &|b| b.variant.clone(), &own);
        let of_variant: Vec<&RiddenBout> =
            own.iter().copied().filter(|b| variant.holds(b.variant.as_deref())).collect();
        let movement = like(&self.movement, &|b| b.movement.clone(), &of_variant);
        let session_of = |b: &RiddenBout| sessions.iter().find(|s| s.id == b.session);
        let same = |want: &Option<String>, has: Option<&str>| {
            want.as_deref().is_none_or(|w| has == Some(w))
        };
        let counted: Vec<&RiddenBout> = of_variant
            .iter()
            .copied()
            .filter(|b| {
                movement.holds(b.movement.as_deref())
                    && same(&self.rein, b.digest.rein.map(Side::word))
                    && self.rate.is_none_or(|r| rate(b) == Some(r))
                    && session_of(b).is_some_and(|s| {
                        same(&self.surface, Some(&s.about.surface))
                            && same(&self.rider, Some(&s.about.rider))
                    })
            })
            .collect();
        let left_out = own.len() - counted.len();
        let choices = choices(&own, sessions);
        let (variant, movement) = (variant.word(), movement.word());
        Chosen { gait, variant, movement, counted, left_out, gaits, choices }
    }
}

/// Which of a kind count.
enum Like {
    Any,
    Only(Option<String>),
}

impl Like {
    fn holds(&self, has: Option<&str>) -> bool {
        match self {
            Self::Any => true,
            Self::Only(want) => has == want.as_deref(),
        }
    }

    fn word(self) -> Option<String> {
        match self {
            Self::Any => Some("any".to_owned()),
            Self::Only(want) => want,
        }
    }
}

/// What has the most strides.
fn most_ridden(
    bouts: &[&RiddenBout],
    of: &dyn Fn(&RiddenBout) -> Option<String>,
) -> Option<String> {
    let mut counts: BTreeMap<Option<String>, usize> = BTreeMap::new();
    for b in bouts {
        *counts.entry(of(b)).or_default() += b.digest.strides;
    }
    counts.into_iter().max_by_key(|(_, n)| *n).and_then(|(v, _)| v)
}

/// Whole frames per second.
pub fn rate(b: &RiddenBout) -> Option<u32> {
    #[expect(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "a frame rate")]
    let whole = b.frame_rate.map(|r| r.round() as u32);
    whole
}

fn gaits(all: &[RiddenBout]) -> Vec<GaitRidden> {
    let mut out: Vec<GaitRidden> = Vec::new();
    for gait in Gait::ALL {
        let own: Vec<&RiddenBout> = all.iter().filter(|b| b.digest.label.gait == gait).collect();
        if own.is_empty() || matches!(gait, Gait::Unclear | Gait::Halt) {
            continue;
        }
        let mut sessions: Vec<i64> = own.iter().map(|b| b.session).collect();
        sessions.dedup();
        out.push(GaitRidden {
            gait: gait.code().to_owned(),
            name: words::names::gait_name(gait).to_owned(),
            strides: own.iter().map(|b| b.digest.strides).sum(),
            sessions: sessions.len(),
        });
    }
    out.sort_by_key(|g| std::cmp::Reverse(g.strides));
    out
}

fn choices(own: &[&RiddenBout], sessions: &[Session]) -> Choices {
    let sorted = |mut words: Vec<String>| {
        words.sort();
        words.dedup();
        words.retain(|w| !w.is_empty());
        words
    };
    let here = |of: &dyn Fn(&Session) -> String| {
        sorted(sessions.iter().filter(|s| own.iter().any(|b| b.session == s.id)).map(of).collect())
    };
    Choices {
        variants: sorted(own.iter().filter_map(|b| b.variant.clone()).collect()),
        movements: sorted(own.iter().filter_map(|b| b.movement.clone()).collect()),
        surfaces: here(&|s| s.about.surface.clone()),
        riders: here(&|s| s.about.rider.clone()),
        rates: {
            let mut rates: Vec<u32> = own.iter().filter_map(|b| rate(b)).collect();
            rates.sort_unstable();
            rates.dedup();
            rates
        },
    }
}
