//! What is said of one finding.

use crate::words::advice::Advice;

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
    pub advice: Vec<Advice>,
    /// Where harm is possible.
    pub caution: Option<&'static str>,
}

impl Sentence {
    /// A sentence with its heading and figure, without advice or caution.
    pub(crate) fn new(
        code: &'static str,
        title: impl Into<String>,
        says: impl Into<String>,
        figure: impl Into<String>,
    ) -> Self {
        Self {
            code,
            title: title.into(),
            says: says.into(),
            figure: figure.into(),
            advice: Vec::new(),
            caution: None,
        }
    }

    /// With what to ride.
    pub(crate) fn advising(mut self, advice: &[Advice]) -> Self {
        self.advice.extend(advice);
        self
    }

    /// With a caution.
    pub(crate) fn cautioning(mut self, caution: &'static str) -> Self {
        self.caution = Some(caution);
        self
    }
}
