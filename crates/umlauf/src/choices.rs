//! Keys of the choices that a yard keeps, and which of them come along with a yard from elsewhere.

/// The keys that the coach has given limbs and steps.
pub const KEYS: &str = "keys";

/// The folder that is watched for new footage.
pub const FOLDER: &str = "watched_folder";

/// The folder that backups go into.
pub const BACKUP_FOLDER: &str = "backup_folder";

/// What the last good backup was.
pub const BACKED_UP: &str = "backed_up";

/// New footage is not looked at for footfalls.
pub const FINDS_NOTHING: &str = "finds_nothing";

/// Tablets in the yard's network are let in.
pub const OPEN: &str = "open_to_network";

/// What the targets of horses begin with.
pub const TARGET: &str = "target.";

/// Whether a choice comes along with a yard that is put back: what acts on the machine does not.
pub fn comes_along(key: &str) -> bool {
    key == KEYS || key == FINDS_NOTHING || key.starts_with(TARGET)
}
