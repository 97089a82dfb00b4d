//! Metres: the arena, scales from clicks, and what the places of hooves tell.
//!
//! Reading order: [`arena`], [`school_figure`], [`homography`], [`camera`], [`place_error`], [`source`], [`plane_checks`], [`ground_plane`], [`side_scale`], [`scale`], [`track_line`], [`travel`], [`expected_strides`], [`letters_and_rounds`], [`hoof_prints`], [`plausibility`], [`lateral_seen`].

pub mod arena;
pub mod camera;
pub mod expected_strides;
pub mod ground_plane;
pub mod homography;
pub mod hoof_prints;
pub mod lateral_seen;
pub mod letters_and_rounds;
pub mod place_error;
pub mod plane_checks;
pub mod plausibility;
pub mod scale;
pub mod school_figure;
pub mod side_scale;
pub mod source;
pub mod track_line;
pub mod travel;
