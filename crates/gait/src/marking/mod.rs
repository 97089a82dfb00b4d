//! Help with marking: the next stride, the hand's scatter, doubtful marks.
//!
//! Reading order: [`next_stride`], [`scatter`], [`doubtful_marks`].

pub mod doubtful_marks;
pub mod next_stride;
pub mod scatter;
