//! What may head a horse's record: trends, sides and stories that stand when all of them are counted.

use crate::base::thresholds::Thresholds;
use crate::season::card_row::Row;
use crate::season::metric::Direction;
use crate::season::progress::{Course, Trend};
use crate::season::verdict::Compared;
use crate::stats::families::{Counted, among_all};

/// What stands, in the order given.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Standing {
    /// Of the trends.
    pub trends: Vec<bool>,
    /// Of the figures of left against right.
    pub sides: Vec<bool>,
    /// Of the stories.
    pub stories: Vec<bool>,
}

/// What stands of trends, of left against right, and of stories (each a kind of its own, with the
/// chance of as much without it; `None` for what was seen and not measured, which stands by itself).
pub fn standing(trends: &[(Row, Trend)], sides: &[Compared], stories: &[Option<f64>]) -> Standing {
    // A figure without a better way heads nothing, and is not counted.
    let ranked = |d: Direction| d != Direction::None;
    let look = |kind: usize, chance: f64| Counted { kind, chance, weight: 1.0 };
    let mut looks = Vec::new();
    looks.extend(
        trends.iter().filter(|(r, _)| ranked(r.direction())).map(|(_, t)| look(0, t.per_month.p)),
    );
    looks.extend(
        sides.iter().filter(|c| ranked(c.metric.direction())).map(|c| look(1, c.difference.p)),
    );
    looks.extend(stories.iter().enumerate().filter_map(|(k, p)| Some(look(2 + k, (*p)?))));
    let limit = Thresholds::default().chance_in_a_ride;
    let mut stand = among_all(&looks).into_iter().map(|p| p <= limit);
    let mut next = || stand.next().unwrap_or(false);
    Standing {
        trends: trends
            .iter()
            .map(|(r, t)| {
                ranked(r.direction())
                    && next()
                    && matches!(t.course, Course::Better | Course::Worse)
            })
            .collect(),
        sides: sides.iter().map(|c| ranked(c.metric.direction()) && next()).collect(),
        stories: stories.iter().map(|p| p.is_none() || next()).collect(),
    }
}
