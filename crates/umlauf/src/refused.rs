//! Why something that was asked of the program is not done: one type for all of it, with a sentence
//! for people. What it becomes over HTTP stands in [`crate::problem`] alone.

use axum::extract::rejection::{JsonRejection, PathRejection, QueryRejection};
use thiserror::Error;
use umlauf_footage::FootageError;
use umlauf_gait::marks::table::TableError;
use umlauf_store::StoreError;

use crate::archive_error::ArchiveError;

/// A refusal, or a failure of the program itself.
#[derive(Debug, Error)]
pub enum Refused {
    /// What was sent can be read and cannot be: a sentence says what to change.
    #[error("{0}")]
    Invalid(String),
    /// What was sent cannot be read.
    #[error("{0}")]
    Unreadable(String),
    /// There is no such thing.
    #[error("{0}")]
    Missing(&'static str),
    /// The address takes other methods.
    #[error("this address does not take that method; see /api/openapi.json")]
    WrongMethod,
    /// The request came to a name that is not this machine's.
    #[error("open Umlauf by this machine's own name or address")]
    ForeignName,
    /// The page that asks was made of another yard.
    #[error(
        "another yard is open at this address now; load this page again to see it. What is not saved waits in this browser for its own yard"
    )]
    OtherYard,
    /// Whoever asks has to sign in.
    #[error("sign in first: this yard is shown to its own people")]
    SignIn,
    /// Name and password do not go together.
    #[error("this name and this password do not belong together")]
    WrongPassword,
    /// Too many wrong passwords.
    #[error(
        "too many wrong passwords: try again {in_words}, or sit down at the machine that Umlauf runs on: nothing is asked for there"
    )]
    Wait {
        /// Seconds to wait.
        seconds: u64,
        /// The same in words.
        in_words: String,
    },
    /// Somebody under age would be shown to others.
    #[error(
        "{0} is under age: a link shows them to whoever has it. Make it only if their parents have agreed"
    )]
    UnderAge(String),
    /// Whoever asks may not.
    #[error("{0}")]
    NotYours(&'static str),
    /// Something else is at it.
    #[error("{0}")]
    Busy(&'static str),
    /// Too many ask for what takes long.
    #[error("many others ask for this at the moment; try again in a minute")]
    TooMany,
    /// The connection broke off.
    #[error("{0}")]
    BrokenOff(&'static str),
    /// More came than was said, or than is taken.
    #[error("{says}")]
    TooMuch {
        /// Name for programs.
        code: &'static str,
        /// The sentence.
        says: &'static str,
    },
    /// A piece of an upload begins elsewhere than where the file ends.
    #[error("{received} bytes have arrived; go on from there")]
    WrongPlace {
        /// Bytes that have arrived.
        received: u64,
    },
    /// An upload is not whole yet.
    #[error("{received} of {bytes} bytes have arrived; send the rest")]
    NotWhole {
        /// Bytes that have arrived.
        received: u64,
        /// Bytes of the whole.
        bytes: u64,
    },
    /// A request that axum could not take apart, with the status it gives it.
    #[error("{says}")]
    BadRequest {
        /// HTTP status.
        status: u16,
        /// The sentence.
        says: String,
    },
    /// The store refused or failed.
    #[error(transparent)]
    Store(#[from] StoreError),
    /// The footage could not be read or made.
    #[error(transparent)]
    Footage(#[from] FootageError),
    /// A table was refused.
    #[error(transparent)]
    Table(#[from] TableError),
    /// A yard's ZIP was refused.
    #[error(transparent)]
    Archive(#[from] ArchiveError),
    /// A file could not be read or written.
    #[error(transparent)]
    Io(#[from] std::io::Error),
    /// The program itself failed; the cause is logged, not shown.
    #[error("{0}")]
    Failed(String),
}

impl Refused {
    /// A refusal of something that can be read and cannot be.
    pub fn invalid(says: impl Into<String>) -> Self {
        Self::Invalid(says.into())
    }

    /// Whether a file is no footage, and will not be when it is looked at again.
    pub const fn is_not_footage(&self) -> bool {
        matches!(self, Self::Footage(FootageError::NotVideo(_) | FootageError::NoFrames))
    }
}

impl From<tokio::task::JoinError> for Refused {
    fn from(e: tokio::task::JoinError) -> Self {
        Self::Failed(e.to_string())
    }
}

macro_rules! from_rejection {
    ($($rejection:ty => $what:literal),+) => {$(
        impl From<$rejection> for Refused {
            fn from(e: $rejection) -> Self {
                let says = format!(concat!($what, ": {}"), e.body_text());
                Self::BadRequest { status: e.status().as_u16(), says }
            }
        }
    )+};
}

from_rejection!(
    JsonRejection => "the request's JSON cannot be used",
    PathRejection => "the address cannot be used",
    QueryRejection => "the address's options cannot be used"
);
