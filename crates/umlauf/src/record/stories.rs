//! What a season tells beside the figures of one gait: the return from a lay-off, slips out of the
//! intended gait, flying changes, tempo lost in a movement.

use umlauf_gait::base::gait::Gait;
use umlauf_gait::season::bout_summary::BoutSummary;
use umlauf_gait::season::tally::Tally;
use umlauf_gait::season::{progress, returning, verdict};
use umlauf_gait::words;

use crate::dates::day_number;
use crate::digest::RiddenBout;
use crate::record::movements;
use crate::record::season::Season;
use crate::record::story::Story;

/// The stories of a season.
pub fn read(gaited: bool, season: &Season<'_>) -> Vec<Story> {
    let mut out = Vec::new();
    out.extend(after_lay_off(season));
    out.extend(movements::losses(season));
    if gaited {
        out.extend(slips(season));
    }
    out.extend(changes(season));
    out
}

/// What was different after the last pause, and what still is.
fn after_lay_off(season: &Season<'_>) -> Option<Story> {
    let sessions = season.sessions;
    let days: Vec<i64> = sessions.iter().map(|s| day_number(&s.date)).collect();
    let off = *returning::lay_offs(&days).last()?;
    let of = |want: &dyn Fn(i64) -> bool, last: bool, most: usize| -> Vec<&BoutSummary> {
        let mut ids: Vec<i64> =
            sessions.iter().filter(|s| want(day_number(&s.date))).map(|s| s.id).collect();
        if last {
            ids.reverse();
        }
        ids.truncate(most);
        season.counted.iter().filter(|b| ids.contains(&b.session)).map(|b| &b.digest).collect()
    };
    let before = of(&|d| d <= off.from, true, 3);
    let then = of(&|d| d >= off.to, false, 2);
    let now = of(&|d| d >= off.to, true, 2);
    if before.is_empty() || then.is_empty() {
        return None;
    }
    let later = sessions.iter().filter(|s| day_number(&s.date) >= off.to).count();
    // How fast he goes after a rest is part of how he comes back.
    let compare = |a: &[&BoutSummary]| verdict::compare_as_ridden(&before, a, |_| None);
    let first = compare(&then);
    let last = if later > 3 { compare(&now) } else { first.clone() };
    // Holm's adjustment over its figures is in each of them.
    let least = first.iter().map(|c| c.adjusted_p).fold(1.0, f64::min);
    let says = words::record::after_lay_off(off.to - off.from, &first, &last);
    Some(Story { says, chance: Some(least) })
}

/// Bouts of stepping pace among those of a four-beat gait, session by session.
fn slips(season: &Season<'_>) -> Option<Story> {
    let four = [Gait::FlatWalk, Gait::RunningWalk, Gait::Rack, Gait::Walk, Gait::SteppingPace];
    let (mut months, mut shares, mut counts) = (Vec::new(), Vec::new(), Vec::new());
    for s in season.sessions {
        let own: Vec<&RiddenBout> = season
            .ridden
            .bouts
            .iter()
            .filter(|b| b.session == s.id && four.contains(&b.digest.label.gait))
            .collect();
        if own.is_empty() {
            continue;
        }
        let slipped = own.iter().filter(|b| b.digest.label.gait == Gait::SteppingPace).count();
        #[expect(clippy::cast_precision_loss, reason = "days and bouts")]
        {
            months.push(day_number(&s.date) as f64 / 30.0);
            shares.push(slipped as f64 / own.len() as f64);
        }
        counts.push((slipped, own.len()));
    }
    if counts.iter().all(|(n, _)| *n == 0) {
        return None;
    }
    let sum = |of: &[(usize, usize)]| of.iter().fold((0, 0), |s, c| (s.0 + c.0, s.1 + c.1));
    let (a, b) = counts.split_at(counts.len() / 2);
    let slope = umlauf_gait::stats::trend::theil_sen(&months, &shares);
    let grows = slope.and_then(|t| {
        if t.lo > 0.0 {
            Some(true)
        } else if t.hi < 0.0 {
            Some(false)
        } else {
            None
        }
    });
    let pace = words::names::gait_name(Gait::SteppingPace);
    Some(Story { says: words::record::slips(pace, sum(a), sum(b), grows), chance: None })
}

/// Clean flying changes in the earlier and the later half of the sessions that have any.
fn changes(season: &Season<'_>) -> Option<Story> {
    let mut days = Vec::new();
    let counts: Vec<(usize, usize)> = season
        .sessions
        .iter()
        .filter_map(|s| {
            let own = season
                .ridden
                .counted
                .iter()
                .filter(|d| d.session == s.id && d.done.tally == Tally::Changes);
            let all: Vec<bool> = own.map(|d| d.done.value > 0.5).collect();
            (!all.is_empty()).then(|| {
                days.push(day_number(&s.date));
                (all.iter().filter(|c| **c).count(), all.len())
            })
        })
        .collect();
    if counts.len() < progress::FEWEST {
        return None;
    }
    let sum = |of: &[(usize, usize)]| of.iter().fold((0, 0), |s, c| (s.0 + c.0, s.1 + c.1));
    let (a, b) = counts.split_at(counts.len() / 2);
    #[expect(clippy::cast_precision_loss, reason = "days and changes")]
    let (days, shares): (Vec<f64>, Vec<f64>) =
        days.iter().zip(&counts).map(|(d, (k, n))| (*d as f64, *k as f64 / *n as f64)).unzip();
    // Changes are single deeds: what is left over does not wander as a figure does.
    let chance = umlauf_gait::stats::trend::sen(&days, &shares).map_or(1.0, |s| s.p);
    Some(Story { says: words::record::clean_changes(sum(a), sum(b)), chance: Some(chance) })
}
