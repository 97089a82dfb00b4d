//! Something that is wrong with a yard.

use std::fmt;

use serde::Serialize;
use utoipa::ToSchema;

/// Something that is wrong with a yard, in words for its coach.
#[derive(Clone, Debug, PartialEq, Eq, Serialize, ToSchema)]
pub struct Finding {
    /// What is wrong.
    pub what: String,
    /// What that means.
    pub means: &'static str,
    /// What to do.
    pub todo: String,
    /// Whether it was mended as it was found.
    pub mended: bool,
}

impl fmt::Display for Finding {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        let todo = if self.mended { "Mended." } else { self.todo.as_str() };
        write!(f, "{}\n  {}\n  {todo}", self.what, self.means)
    }
}

/// What to do where the yard's file itself is damaged.
pub const PUT_BACK: &str = "Put the yard back from its last good ZIP into an empty folder (`umlauf restore ZIP --data FOLDER`), and keep this folder until you have seen what is in there.";
