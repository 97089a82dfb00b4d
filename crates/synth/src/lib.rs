//! The synthetic horse: footfalls, pictures and sound from one seed and one truth.
//!
//! A [`template`] says how a gait goes; a [`truth`] draws a ride from it, with every stance known
//! in time and place; a [`pose`] is the body at an instant, [`film`] a picture of it, [`sound`]
//! its hoofbeats. Everything is a pure function of its input.

pub mod accuracy;
pub mod camera;
pub mod clips;
pub mod coat;
pub mod figure;
pub mod film;
pub mod flat;
pub mod furniture;
pub mod ground;
pub mod marking;
pub mod mesh;
pub mod pairs;
pub mod pose;
pub mod raster;
mod rider;
pub mod scene;
pub mod schooling;
pub mod second_horse;
pub mod sensors;
pub mod session_rides;
pub mod sound;
pub mod template;
pub mod truth;
pub mod vec3;
pub mod watching;
