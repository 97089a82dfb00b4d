//! Endings of files that may be films, and what a browser is told that they are: never more than a film.

use umlauf_store::clip::{Clip, ProxyState};

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

/// Where a browser finds the pictures of a clip whose first frame is shown at `first_us`: the copy for stepping when there
/// is one, else the original where a browser decodes it with the file's own clock; `None` for neither.
pub fn shown_at(clip: &Clip, first_us: i64) -> Option<String> {
    let content = &clip.footage.content;
    let plain =
        clip.footage.codec == "h264" && first_us == 0 && clip.footage.file.ends_with(".mp4");
    // A ride that came as a table has nothing to be shown.
    let table = clip.footage.codec == umlauf_store::ride::TABLE;
    match clip.proxy {
        ProxyState::Ready => Some(format!("/media/{content}/proxy")),
        state if !table && (plain || state == ProxyState::Failed) => {
            Some(format!("/media/{content}/original"))
        }
        _ => None,
    }
}
