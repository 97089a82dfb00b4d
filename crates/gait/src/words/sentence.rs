//! A finding in words.

/// A finding in words.
#[derive(Clone, Debug, PartialEq)]
pub struct Sentence {
    /// Short name for programs.
    pub code: &'static str,
    /// A few words, as a heading.
    pub title: String,
    /// One plain sentence.
    pub says: String,
    /// The figure with unit and error.
    pub figure: String,
    /// What to ride.
    pub try_next: Vec<&'static str>,
    /// Where harm is possible.
    pub caution: Option<&'static str>,
}
