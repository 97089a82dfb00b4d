//! What is wrong with a yard's films and the copies made of them.

use std::collections::HashSet;
use std::path::Path;

use umlauf_footage::FootageError;
use umlauf_footage::proxy;
use umlauf_store::clip::{Clip, ProxyState};
use umlauf_store::content::is_content;
use umlauf_store::job::JobKind;
use umlauf_store::{Store, StoreError};

use crate::check::finding::Finding;
use crate::copied::hash;

/// Looks at the film of a clip, every byte of it.
pub fn film(store: &Store, clip: &Clip) -> Option<Finding> {
    let path = store.footage_folder(&clip.footage.content).join(&clip.footage.file);
    let (what, means) = match hash(&path) {
        Ok(is) if is == clip.footage.content => return None,
        Ok(_) => {
            ("is damaged", "Its picture may stop or show nonsense somewhere; its marks are sound.")
        }
        Err(e) if e.kind() == std::io::ErrorKind::NotFound => {
            ("is missing", "It cannot be looked at; its marks are sound.")
        }
        Err(_) => ("cannot be read", "The disk may be failing; its marks are sound."),
    };
    Some(Finding {
        what: format!("The film of clip {}, {}, {what}.", clip.id, clip.name),
        means,
        todo: "Send the film once more, from the camera or a backup: it takes its place by itself."
            .into(),
        mended: false,
    })
}

/// Looks at the copy for stepping of a clip, every frame of it. A bad one is made anew when `mend`.
///
/// # Errors
/// When the yard cannot be read or written.
pub async fn copy(store: &Store, clip: &Clip, mend: bool) -> Result<Option<Finding>, StoreError> {
    if clip.proxy != ProxyState::Ready {
        return Ok(None);
    }
    let folder = store.footage_folder(&clip.footage.content);
    let made = folder.join("proxy.mp4");
    let times = store.frame_times(clip.id)?;
    match proxy::check(&made, &times, |_| ()).await {
        // Without its programs nothing can be said.
        Ok(_) | Err(FootageError::ToolMissing(_)) => return Ok(None),
        Err(_) => {}
    }
    if mend {
        remove(&made);
        remove(&folder.join("filmstrip.jpg"));
        store.set_proxy(clip.id, ProxyState::Pending, 0)?;
        store.add_job(clip.id, JobKind::Proxy)?;
        store.add_job(clip.id, JobKind::Filmstrip)?;
    }
    Ok(Some(Finding {
        what: format!(
            "The copy for stepping of clip {}, {}, cannot be shown whole.",
            clip.id, clip.name
        ),
        means: "Some frames of it stay grey on the desk.",
        todo: "`umlauf check --mend` has it made anew when Umlauf runs next.".into(),
        mended: mend,
    }))
}

fn remove(file: &Path) {
    // It may be what is missing.
    let _ = std::fs::remove_file(file);
}

/// Folders of films that no clip names.
///
/// # Errors
/// When the yard cannot be read.
pub fn of_no_clip(store: &Store) -> Result<Option<Finding>, StoreError> {
    let named: HashSet<String> =
        store.all_clips()?.into_iter().map(|c| c.footage.content).chain(store.loose()?).collect();
    let folders = std::fs::read_dir(store.folder().join("footage")).into_iter().flatten().flatten();
    let mut of_none: Vec<String> = folders
        .filter_map(|f| f.file_name().into_string().ok())
        .filter(|name| is_content(name) && !named.contains(name))
        .collect();
    of_none.sort();
    let Some(first) = of_none.first() else { return Ok(None) };
    let belong = match of_none.len() {
        1 => "A folder of footage belongs to no clip:".to_owned(),
        n => format!("{n} folders of footage belong to no clip, the first is"),
    };
    Ok(Some(Finding {
        what: format!("{belong} footage/{first}."),
        means: "They take room, and hold films whose clips are not in the yard’s file: it may be an older one.",
        todo: "Look into them; what you want to keep comes in with `umlauf import FOLDER`, the rest may be deleted.".into(),
        mended: false,
    }))
}
