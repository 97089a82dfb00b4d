//! Names of what lies in the footage's folder. They may come from outside: none of them leads anywhere else.

/// Whether this is the BLAKE3 hash of a content, as a folder is named by it.
///
/// ```
/// use umlauf_store::content::is_content;
/// assert!(is_content(&"0a".repeat(32)));
/// assert!(!is_content("../../x") && !is_content("") && !is_content(&"0A".repeat(32)));
/// ```
pub fn is_content(name: &str) -> bool {
    name.len() == 64 && name.bytes().all(|b| matches!(b, b'0'..=b'9' | b'a'..=b'f'))
}

/// Whether this is the name of one file in a folder, and no way out of it.
///
/// ```
/// use umlauf_store::content::is_file_name;
/// assert!(is_file_name("Möwe 3.mp4"));
/// assert!(!is_file_name("..") && !is_file_name("a/b") && !is_file_name("C:b") && !is_file_name(""));
/// ```
pub fn is_file_name(name: &str) -> bool {
    !name.is_empty()
        && name.len() <= 255
        && !name.starts_with('.')
        && !name.contains(|c: char| matches!(c, '/' | '\\' | ':') || c.is_control())
}
