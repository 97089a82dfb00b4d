//! Hooves in pictures: where the camera looks, what moves before it, and what stands still while the
//! horse goes on.
//!
//! Reading order: [`grey`], [`turn`], [`area`]; the camera: [`votes`], `points`, `between`, `overlay`, [`motion`],
//! [`steady`], [`path`], [`unrolled`]; the horse: [`background`], [`horse`], [`one_horse`], [`rider`]; its hooves: [`going`],
//! [`shadow`], [`lit`], [`still`], [`strokes`], [`hoof`], [`knee`], [`contact`], [`may`], [`stance`], [`turns`], [`level`],
//! [`sides`], [`candidate`], [`follow`], [`stand`], [`shade`]; all of a clip: [`refused`], [`laid`]; what it says: [`seen`],
//! [`alike`], [`by_others`], [`settle`], [`footfalls`], [`hidden`], [`steps`], colours [`tint`], [`wraps`]; [`watch`].

pub mod alike;
pub mod area;
pub mod background;
mod between;
pub mod by_others;
pub mod candidate;
pub mod contact;
pub mod follow;
pub mod footfalls;
pub mod going;
pub mod grey;
pub mod hidden;
pub mod hoof;
pub mod horse;
pub mod knee;
pub mod laid;
pub mod level;
pub mod lit;
pub mod may;
pub mod motion;
pub mod one_horse;
mod overlay;
pub mod path;
pub mod points;
pub mod refused;
pub mod rider;
pub mod seen;
pub mod settle;
pub mod shade;
pub mod shadow;
pub mod sides;
pub mod stance;
pub mod stand;
pub mod steady;
pub mod steps;
pub mod still;
pub mod strokes;
pub mod tint;
pub mod turn;
pub mod turns;
pub mod unrolled;
pub mod votes;
pub mod watch;
pub mod wraps;
