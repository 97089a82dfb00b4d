//! The rules of timing a horse: from the marks of footfalls to strides, gaits and figures with
//! their errors.
//!
//! The crate is pure: no files, no clock, no randomness. Times are true seconds
//! ([`units::Seconds`]), phases lie on a circle ([`phase`]), and every figure carries its
//! uncertainty or says why it has none ([`uncertainty`]).
//!
//! Read it from the bottom up: [`limb`], [`footfall`], [`tidy`], [`stride`], [`classify`],
//! [`bout`], then one module a figure, and [`analysis`], which puts them together.

pub mod agreement;
pub mod aid;
pub mod aid_phase;
pub mod analysis;
pub mod arena;
pub mod around;
pub mod body_size;
pub mod bout;
pub mod camera;
pub mod canter;
pub mod captions;
pub mod card;
pub mod carry;
pub mod check;
pub mod classify;
pub mod collection;
pub mod compare;
pub mod confidence;
pub mod deed;
pub mod drift;
pub mod drill;
pub mod enough;
pub mod evenness;
pub mod figure;
pub mod finding;
pub mod finding_ground;
pub mod finding_work;
pub mod flying_change;
pub mod footfall;
pub mod footfall_csv;
pub mod frame;
pub mod good_strides;
pub mod ground;
pub mod ground_plane;
pub mod halt;
pub mod homography;
pub mod idle;
pub mod infer;
pub mod lateral;
pub mod lateral_seen;
pub mod leads;
pub mod limb;
pub mod local;
pub mod marks_csv;
pub mod metric;
pub mod passes;
pub mod phase;
pub mod pirouette;
pub mod plausible;
pub mod posting;
pub mod prints;
pub mod progress;
pub mod regularity;
pub mod rein_back;
pub mod relabel;
pub mod returning;
pub mod ride_mark;
pub mod said;
pub mod scale;
pub mod schools;
pub mod session;
pub mod smooth;
pub mod stance;
pub mod stride;
pub mod suspension;
pub mod tempi;
pub mod tempo;
pub mod thresholds;
pub mod tidy;
pub mod track_line;
pub mod transition;
pub mod trend;
pub mod uncertainty;
pub mod units;
pub mod verdict;
pub mod wheel;
pub mod wording;
pub mod wording_frame;
pub mod wording_ground;
pub mod wording_record;
pub mod workload;

pub use analysis::{Analysis, Options, analyse};
pub use footfall::Footfall;
pub use limb::{Limb, Side};
