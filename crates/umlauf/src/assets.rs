//! The page and its fonts, built into the program.

use rust_embed::RustEmbed;

#[derive(RustEmbed)]
#[folder = "../../web/dist"]
#[allow_missing = true]
pub(crate) struct Dist;

/// A font of the page by the beginning of its file's name, for documents that stand alone.
pub fn font(name: &str) -> Option<Vec<u8>> {
    let fits = |path: &str| {
        path.strip_prefix("assets/").is_some_and(|f| f.starts_with(name) && f.ends_with(".woff2"))
    };
    let path = Dist::iter().find(|p| fits(p))?;
    Some(Dist::get(&path)?.data.into_owned())
}
