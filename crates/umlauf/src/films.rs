//! Endings of files that may be films, and what a browser is told that they are: never more than a film.

const KINDS: [(&str, &str); 14] = [
    ("mp4", "video/mp4"),
    ("mov", "video/quicktime"),
    ("m4v", "video/mp4"),
    ("mkv", "video/x-matroska"),
    ("webm", "video/webm"),
    ("avi", "video/x-msvideo"),
    ("mts", "video/mp2t"),
    ("m2ts", "video/mp2t"),
    ("ts", "video/mp2t"),
    ("3gp", "video/3gpp"),
    ("mpg", "video/mpeg"),
    ("mpeg", "video/mpeg"),
    ("wmv", "video/x-ms-wmv"),
    ("ogv", "video/ogg"),
];

/// The kind of film that an ending in small letters stands for; `None` for what is no film's.
///
/// ```
/// use umlauf::films::kind_of_film;
/// assert_eq!(kind_of_film("mov"), Some("video/quicktime"));
/// assert_eq!(kind_of_film("html"), None);
/// ```
pub fn kind_of_film(ending: &str) -> Option<&'static str> {
    KINDS.iter().find(|(e, _)| *e == ending).map(|(_, kind)| *kind)
}
