//! Why a yard is not packed into a ZIP, or not put back from one.

use std::path::PathBuf;

use thiserror::Error;
use umlauf_store::StoreError;
use zip::result::ZipError;

/// Name and version of the document inside.
pub(crate) const SCHEMA: &str = "umlauf.yard/1";

/// Why a yard is not packed, or not put back.
#[derive(Debug, Error)]
pub enum ArchiveError {
    /// The file cannot be opened.
    #[error("{} cannot be opened: {cause}", path.display())]
    Open {
        /// Which.
        path: PathBuf,
        /// Why.
        cause: std::io::Error,
    },
    /// The file is no ZIP.
    #[error("this is no ZIP: {0}")]
    NoZip(ZipError),
    /// A folder without a backup that can be put back.
    #[error("there is no backup in {} that can be put back{}", folder.display(), tried.iter().map(|t| format!("; {t}")).collect::<String>())]
    NoBackup {
        /// The folder.
        folder: PathBuf,
        /// What was tried, each with why not.
        tried: Vec<String>,
    },
    /// The ZIP has no yard in it.
    #[error("this ZIP holds no yard.json")]
    NoYard,
    /// The document inside grows by more than tables do.
    #[error("the yard.json inside is far larger than it is packed, as no table of a yard is")]
    TooLarge,
    /// The document inside is none.
    #[error("the yard.json inside cannot be read: {0}")]
    Unreadable(serde_json::Error),
    /// The document is of another version.
    #[error("the yard.json inside is {0}; this version reads {SCHEMA}")]
    OtherVersion(String),
    /// A horse that is not in there.
    #[error("there is no horse of that name in it")]
    NoHorse,
    /// A name of more than one horse in there.
    #[error("more than one horse in it has that name: choose on the Setup page which")]
    TwoHorses,
    /// Another yard is on its way.
    #[error("another yard is being put back here; wait until it is done")]
    Busy,
    /// A page that cannot be made of the tables.
    #[error("the ZIP is damaged, nothing was put back: {name} cannot be read: {cause}")]
    Page {
        /// Which page.
        name: String,
        /// Why.
        cause: StoreError,
    },
    /// A film that cannot be written.
    #[error("the film {name} cannot be written: {cause}")]
    FilmWrite {
        /// Which.
        name: String,
        /// Why.
        cause: std::io::Error,
    },
    /// A film that cannot be packed.
    #[error("{} cannot be packed: {cause}", path.display())]
    Pack {
        /// Which.
        path: PathBuf,
        /// Why.
        cause: std::io::Error,
    },
    /// The ZIP cannot be written.
    #[error("the ZIP cannot be written: {0}")]
    Write(#[from] ZipError),
    /// A table cannot be written.
    #[error("a table cannot be written: {0}")]
    Table(#[from] csv::Error),
    /// The document cannot be written.
    #[error("the yard.json cannot be written: {0}")]
    Document(#[from] serde_json::Error),
    /// A file cannot be read or written.
    #[error(transparent)]
    Io(#[from] std::io::Error),
    /// The store refused or failed.
    #[error(transparent)]
    Store(#[from] StoreError),
}
