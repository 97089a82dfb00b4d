//! Every kind of finding in words. Each kind is named here, so that none can be silent.

use crate::base::schools::Schools;
use crate::findings::finding::Finding;
use crate::findings::kind::Kind;
use crate::words::of_changes::Unclean;
use crate::words::of_work::Pirouette;
use crate::words::sentence::Sentence;
use crate::words::{of_aids, of_bouts, of_changes, of_ground, of_work};

/// A finding in words, in the schools in force.
pub fn say(finding: &Finding, schools: &Schools) -> Sentence {
    match finding.kind {
        Kind::SlowMotion { tempo, factor } => of_bouts::slow_motion(tempo, factor),
        Kind::Disunited { strides } => of_bouts::disunited(strides),
        Kind::WrongLead { got } => of_bouts::wrong_lead(got),
        Kind::FourBeats { dissociation, no_air, manner } => {
            of_bouts::four_beats(dissociation, no_air, manner)
        }
        Kind::SplitBeats { dissociation } => of_bouts::split_beats(dissociation),
        Kind::ThreeBeats { dissociation } => of_bouts::three_beats(dissociation),
        Kind::BeatsUntold { dissociation } => of_bouts::beats_untold(dissociation),
        Kind::LateralWalk { lap } => of_bouts::lateral_walk(lap),
        Kind::DiagonalWalk { lap } => of_bouts::diagonal_walk(lap),
        Kind::EvenWalk { rms_pct } => of_bouts::even_walk(rms_pct, schools),
        Kind::Drift { drift } => of_bouts::drift(drift),
        Kind::TempoChange { drift } => of_bouts::tempo_change(drift),
        Kind::Diagonals { hind_first } => of_bouts::diagonals(hind_first),
        Kind::Steadiness { regularity, band } => of_bouts::steadiness(regularity, band),
        Kind::UnevenStance { hind, index } => of_bouts::uneven_stance(hind, index),
        Kind::UnevenSteps { index } => of_bouts::uneven_steps(index),
        Kind::Suspension { each, phases } => of_bouts::suspension(each, phases),
        Kind::Stepping { strides, lap } => of_bouts::stepping(strides, lap),
        Kind::Change { verdict, late_by_strides, late_by_s, steps, offered } => {
            let change = Unclean { verdict, late_by_strides, late_by_s, steps, offered };
            of_changes::change(&change, schools)
        }
        Kind::ChangeWithheld { withheld } => of_changes::withheld(&withheld),
        Kind::CleanChange { suspension_before, to } => {
            of_changes::clean_change(suspension_before, to)
        }
        Kind::Tempi { every, planned, changes, clean, fault } => {
            of_changes::tempi(every, planned, changes, clean, fault)
        }
        Kind::SimpleChange { steps } => of_changes::simple_change(steps),
        Kind::Pirouette { strides, expected, lost, best_run, tempo_ratio } => {
            let ridden = Pirouette { strides, expected, lost, best_run, tempo_ratio };
            of_work::pirouette(&ridden, schools)
        }
        Kind::ReinBack { steps, diagonal } => of_work::rein_back(steps, diagonal),
        Kind::Lateral { movement, side, tempo_change, loses, limit_pct } => {
            of_work::lateral(movement, side, tempo_change, loses, limit_pct)
        }
        Kind::BothSides { movement, difference, weaker } => {
            of_work::both_sides(movement, difference, weaker)
        }
        Kind::Speed { ref change, walk } => of_work::speed(change, walk),
        Kind::ForwardBack { stride_ratio, held_pct, breaks, strides_to_change } => {
            of_work::forward_back(stride_ratio, held_pct, breaks, strides_to_change)
        }
        Kind::Drill { planned, kept, trend_s } => of_work::drill(planned, kept, trend_s),
        Kind::Tracks { tracks, wanted, shoulder } => of_work::tracks(tracks, wanted, shoulder),
        Kind::Posting { diagonal, scatter, lag } => of_aids::posting(diagonal, scatter, lag),
        Kind::Aids { asked, inside, mean_phase, scatter } => {
            of_aids::aids(asked, inside, mean_phase, scatter, schools)
        }
        Kind::Answer { from, to, strides, score, steps } => {
            of_aids::answer(from, to, strides, score, steps)
        }
        Kind::Unasked { from, to, counter } => of_aids::unasked(from, to, counter, schools),
        Kind::NotSquare { trailing, offset } => of_aids::not_square(trailing, offset),
        Kind::HaltLeft { first, trailing } => of_aids::halt_left(first, trailing, schools),
        Kind::HaltHeld { seconds, square, least_s } => of_aids::halt_held(seconds, square, least_s),
        Kind::Ground(ref ground) => of_ground::say(ground),
    }
}
