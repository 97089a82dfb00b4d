//! What is known of bouts that were measured before: a bout with the same strides, label and movement
//! has the same figures.

use std::collections::HashMap;

use crate::base::gait::Label;
use crate::bouts::bout_figures::BoutFigures;
use crate::marks::movement::Movement;
use crate::strides::bout::Bout;
use crate::strides::stride::Stride;

/// Bouts that were measured before, under one set of options.
#[derive(Clone, Debug, Default)]
pub struct Known(HashMap<(u64, usize), Entry>);

/// All that a bout's figures rest on, and the figures.
#[derive(Clone, Debug)]
struct Entry {
    strides: Box<[Stride]>,
    label: Label,
    confidence: f64,
    movement: Option<Movement>,
    figures: BoutFigures,
}

fn key(strides: &[Stride]) -> (u64, usize) {
    (strides.first().map_or(0, |s| s.start.to_bits()), strides.len())
}

impl Known {
    /// The figures of a bout, if all that they rest on is the same.
    pub fn of(
        &self,
        strides: &[Stride],
        bout: &Bout,
        movement: Option<&Movement>,
    ) -> Option<&BoutFigures> {
        let entry = self.0.get(&key(strides))?;
        let same = *entry.strides == *strides
            && entry.label == bout.label
            && entry.confidence.to_bits() == bout.confidence.to_bits()
            && entry.movement.as_ref() == movement;
        same.then_some(&entry.figures)
    }

    /// Remembers a bout as it was measured.
    pub fn insert(
        &mut self,
        strides: &[Stride],
        bout: &Bout,
        movement: Option<Movement>,
        figures: BoutFigures,
    ) {
        let (label, confidence) = (bout.label, bout.confidence);
        self.0.insert(
            key(strides),
            Entry { strides: strides.into(), label, confidence, movement, figures },
        );
    }
}
