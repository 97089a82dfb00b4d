//! What is told of a ride from footfalls that were found, nobody looking, against what the true ones tell.

use umlauf_gait::analysis::analyse::Analysis;
use umlauf_gait::base::gait::Gait;
use umlauf_gait::base::limb::Limb;
use umlauf_gait::base::units::{FrameRate, Seconds};
use umlauf_gait::bouts::bout_figures::BoutFigures;
use umlauf_gait::events::flying_change::{FlyingChange, Verdict};
use umlauf_gait::{Footfall, Options, analyse};
use umlauf_signals::picture::seen::Seen;

use crate::accuracy::intervals::{Interval, steady};
use crate::accuracy::row::longest;
use crate::flat::film::{FlatFilm, MARGIN_S};
use crate::watching::asked::Asked;

/// What was told of a ride; `None` where it does not have what is asked.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub struct Told {
    /// The gait is right.
    pub gait: bool,
    /// The canter lead is right.
    pub lead: Option<bool>,
    /// Tempo by what it truly was, less one.
    pub tempo: Option<f64>,
    /// A late change was found with the pair that was late, where the true footfalls of the same stretch tell it.
    pub late_found: Option<bool>,
    /// Whether the 95 % intervals of [`INTERVALS`] hold the truth, where they are given.
    pub held: [Option<bool>; 3],
    /// A clean change, or none at all, was called late.
    pub late_made_up: bool,
}

/// Intervals that are judged.
pub const INTERVALS: [Interval; 3] =
    [Interval::Tempo, Interval::Dissociation, Interval::Suspension];

/// What was told of a ride from the footfalls `seen`.
pub fn told(asked: &Asked, film: &FlatFilm, seen: &[Seen]) -> Told {
    let rate = film.made.rate;
    let options = Options {
        frame_rate: FrameRate::new(rate).ok(),
        gaited: matches!(asked.ridden.template, "flat-walk" | "stepping-pace"),
        ..Options::default()
    };
    let marks: Vec<Footfall> = seen
        .iter()
        .map(|s| Footfall {
            off: s.off.filter(|off| *off > s.on).map(|off| Seconds(off / rate)),
            sd: Some(Seconds(s.on_sd / rate)),
            ..Footfall::new(s.limb, Seconds(s.on / rate))
        })
        .collect();
    // Of the same stretch, which may begin before the ride's first stride and end after its last, limb by limb: one may
    // come into the picture, or leave it, a stride before another.
    let stretch = |limb: Limb| {
        let own = || marks.iter().filter(|m| m.limb == limb);
        let (Some(first), Some(last)) = (own().next(), own().next_back()) else {
            return (marks.first().map_or(0.0, |m| m.on.0), marks.last().map_or(0.0, |m| m.on.0));
        };
        (first.on.0, last.on.0)
    };
    let in_film = |s: f64| Seconds(s + MARGIN_S);
    let mut true_marks: Vec<Footfall> = Limb::ALL
        .into_iter()
        .flat_map(|limb| film.truth.stances[limb.index()].iter().map(move |s| (limb, s)))
        .map(|(limb, s)| Footfall {
            off: Some(in_film(s.off)),
            ..Footfall::new(limb, in_film(s.on))
        })
        .filter(|f| {
            let (first, last) = stretch(f.limb);
            f.on.0 > first - WITHIN_S && f.on.0 < last + WITHIN_S
        })
        .collect();
    true_marks.sort_by(|a, b| a.on.0.total_cmp(&b.on.0));
    let (found, truth) = (analyse(&marks, &options), analyse(&true_marks, &options));
    let own = longest(&found.bouts);
    // Before and after a change two bouts may be as long: what was ridden then is meant.
    let shared = |b: &BoutFigures| own.map_or(0.0, |own| shared(own, b));
    let then = truth.bouts.iter().max_by(|a, b| shared(a).total_cmp(&shared(b)));
    let meant = then.filter(|b| shared(b) > 0.0).or_else(|| longest(&truth.bouts));
    let gait = |b: Option<&BoutFigures>| b.map(|b| b.label.gait);
    let leads = |b: &BoutFigures| (b.label.hind_lead, b.label.fore_lead);
    let canters = meant.is_some_and(|b| b.label.gait == Gait::Canter);
    let lead = canters.then(|| own.map(leads) == meant.map(leads));
    let tempo = |b: Option<&BoutFigures>| b.and_then(|b| b.tempo.as_ref()).map(|t| t.tempo.value);
    let template = &film.truth.ride.template;
    let held = INTERVALS.map(|of| {
        // Diagonals are together, or nearly, in a trot.
        let asked_for = of == Interval::Tempo || asked.ridden.template == "trot";
        let (_, (low, high), truth) = steady(of, own.filter(|_| asked_for)?, template)?;
        Some((low..=high).contains(&truth))
    });
    let late = asked.late_by();
    let told_late = |c: &FlyingChange| match c.verdict {
        Verdict::LateBehind => Some(1),
        Verdict::LateInFront => Some(-1),
        _ => None,
    };
    let lates = |of: &Analysis| -> Vec<i64> {
        of.events.changes.iter().filter_map(|(c, _)| told_late(c)).collect()
    };
    let own_lates = lates(&found);
    let truly_late = late.filter(|l| *l != 0);
    // A horse that leaves the picture in its change shows nobody how late it was.
    let shown = truly_late.filter(|l| lates(&truth) == [*l]);
    Told {
        gait: gait(own) == gait(meant),
        // In a ride with a change the longer canter is on one lead in one, on the other in the other.
        lead: lead.filter(|_| late.is_none()),
        tempo: tempo(own).zip(tempo(meant)).map(|(own, meant)| own / meant - 1.0),
        held,
        late_found: shown.map(|l| own_lates == [l]),
        late_made_up: truly_late.is_none() && !own_lates.is_empty(),
    }
}

/// Seconds that two bouts share.
fn shared(one: &BoutFigures, other: &BoutFigures) -> f64 {
    (one.end_s.min(other.end_s) - one.start_s.max(other.start_s)).max(0.0)
}

/// Marks this near are of one stretch, s.
const WITHIN_S: f64 = 0.03;
