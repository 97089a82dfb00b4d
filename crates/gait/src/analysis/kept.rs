//! Analyses of marks that change a little at a time: bouts that an edit does not touch are not
//! measured anew.

use std::sync::{Mutex, PoisonError};

use crate::analysis::analyse::{Analysis, analyse_knowing};
use crate::bouts::known::Known;
use crate::bouts::options::Options;
use crate::marks::footfall::Footfall;

/// Lists of marks that are worked on at a time: those before them are forgotten.
const SLOTS: usize = 4;

/// What earlier analyses measured. Its analysis is [`crate::analyse`]'s, sooner.
#[derive(Debug, Default)]
pub struct Kept(Mutex<Vec<(Options, Known)>>);

impl Kept {
    /// Nothing yet.
    pub const fn new() -> Self {
        Self(Mutex::new(Vec::new()))
    }

    /// Analyses marks given in any order, as [`crate::analyse`] does. Bouts measured before under the
    /// same options are taken as they are.
    pub fn analyse(&self, marks: &[Footfall], options: &Options) -> Analysis {
        let mut known = self.take(options).unwrap_or_default();
        let analysis = analyse_knowing(marks, options, Some(&mut known));
        self.put(options.clone(), known);
        analysis
    }

    fn take(&self, options: &Options) -> Option<Known> {
        // What is kept is whole at every moment: a panic elsewhere leaves nothing half done.
        let mut slots = self.0.lock().unwrap_or_else(PoisonError::into_inner);
        let own = slots.iter().position(|(o, _)| o == options)?;
        Some(slots.remove(own).1)
    }

    fn put(&self, options: Options, known: Known) {
        let mut slots = self.0.lock().unwrap_or_else(PoisonError::into_inner);
        slots.insert(0, (options, known));
        slots.truncate(SLOTS);
    }
}
