//! A story of a season: what may head a record beside its figures.

/// A story of a season.
#[derive(Clone, Debug)]
pub struct Story {
    /// In a sentence without its full stop.
    pub says: String,
    /// Chance of as much in a season without it; `None` for what was seen as such.
    pub chance: Option<f64>,
}
