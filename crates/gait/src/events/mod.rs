//! What happens between and inside bouts: one file an event or kind of work.
//!
//! Reading order: [`verdict`], [`withheld`], [`flying_change`], [`tempi`], [`transition`], [`answer`], [`aid_phase`], [`posting`], [`drill`], [`pirouette`], [`rein_back`], [`lateral_tempo`], [`speed_change`], [`forward_back`], [`measured`].

pub mod aid_phase;
pub mod answer;
pub mod drill;
pub mod flying_change;
pub mod forward_back;
pub mod lateral_tempo;
pub mod measured;
pub mod pirouette;
pub mod posting;
pub mod rein_back;
pub mod speed_change;
pub mod tempi;
pub mod transition;
pub mod verdict;
pub mod withheld;
