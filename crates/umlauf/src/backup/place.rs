//! Where a yard's backups are, inside the folder that the coach has chosen.

use std::path::{Path, PathBuf};

use jiff::civil::Date;

use crate::archive::restore::FILMS;

/// What the name of a yard's folder of backups begins with; the yard's own name follows, so that two yards may share a
/// stick.
const FOLDER: &str = "umlauf-backup-";

/// The folder of a yard's backups.
#[derive(Clone, Debug)]
pub struct Place {
    folder: PathBuf,
}

impl Place {
    /// That of the yard of a name, in a chosen folder.
    pub fn of(chosen: &Path, identity: &str) -> Self {
        let name: String = identity.chars().take(8).collect();
        Self { folder: chosen.join(format!("{FOLDER}{name}")) }
    }

    /// A folder that is one itself.
    pub fn at(folder: &Path) -> Self {
        Self { folder: folder.to_owned() }
    }

    /// All in a chosen folder, and the folder itself.
    pub fn all(chosen: &Path) -> Vec<Self> {
        let inside = std::fs::read_dir(chosen).into_iter().flatten().flatten();
        let named = |e: &std::fs::DirEntry| e.file_name().to_string_lossy().starts_with(FOLDER);
        std::iter::once(Self::at(chosen))
            .chain(inside.filter(named).map(|e| Self::at(&e.path())))
            .collect()
    }

    /// The folder.
    pub fn folder(&self) -> &Path {
        &self.folder
    }

    /// The folder of films.
    pub fn films(&self) -> PathBuf {
        self.folder.join(FILMS)
    }

    /// The ZIP of a day.
    pub fn of_day(&self, day: Date) -> PathBuf {
        self.folder.join(format!("yard-{day}.zip"))
    }

    /// The hash of the ZIP of a day, in a file beside it that `b3sum --check` reads.
    pub fn sum_of(&self, day: Date) -> PathBuf {
        self.folder.join(format!("yard-{day}.b3"))
    }

    /// Days of which there is a ZIP, the latest first.
    pub fn days(&self) -> Vec<Date> {
        let files = std::fs::read_dir(&self.folder).into_iter().flatten().flatten();
        let mut days: Vec<Date> = files
            .filter_map(|f| {
                let name = f.file_name().into_string().ok()?;
                name.strip_prefix("yard-")?.strip_suffix(".zip")?.parse().ok()
            })
            .collect();
        days.sort_unstable();
        days.reverse();
        days
    }
}
