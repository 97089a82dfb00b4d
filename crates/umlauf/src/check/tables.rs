//! What is wrong with a yard's file and with what it says.

use umlauf_store::{Store, StoreError};

use crate::check::finding::{Finding, PUT_BACK};

/// Looks at the tables; the quick look only at whether the file holds together. `mend`: what can be mended is.
///
/// # Errors
/// When the disk is full.
pub fn tables(store: &Store, quick: bool, mend: bool) -> Result<Vec<Finding>, StoreError> {
    let mut found = Vec::new();
    let unreadable = |cause: &dyn std::fmt::Display| Finding {
        what: format!("The yard’s file is damaged: {cause}."),
        means: "Something else than Umlauf has written to it, or the disk is failing. Pages may lack rows, or not open at all.",
        todo: PUT_BACK.into(),
        mended: false,
    };
    match store.integrity(quick) {
        Ok(lines) => found.extend(lines.first().map(|line| unreadable(line))),
        Err(e) => found.push(unreadable(&e)),
    }
    let holds_together = found.is_empty();
    match if quick { Ok(None) } else { sealed(store) } {
        Ok(None) => {}
        Ok(Some(what)) => {
            found.push(Finding {
                what,
                means: "Something else than Umlauf has written to it, or the disk is failing. A figure, a name or a note may be another one than you gave.",
                todo: format!("{PUT_BACK} `umlauf check --mend` takes the file as it is from now on."),
                mended: mend,
            });
            if mend {
                store.seal_anew()?;
            }
        }
        Err(e) => found.push(unreadable(&e)),
    }
    let lost = store.lost_changes().unwrap_or(0);
    if lost > 0 {
        let changes = if lost == 1 { "1 change".into() } else { format!("{lost} changes") };
        found.push(Finding {
            what: format!("{changes} that had been saved are gone."),
            means: "The yard’s file or its log was damaged, or is an older one than was here last.",
            todo: "Look at what you marked last; where a backup holds more, put that back. `umlauf check --mend` lets this be forgotten.".into(),
            mended: mend,
        });
        if mend {
            store.forget_lost_changes()?;
        }
    }
    // Of a file that does not hold together the rest says nothing.
    if quick || !holds_together {
        return Ok(found);
    }
    match store.dangling() {
        Ok(tables) => found.extend(tables.into_iter().map(|(table, rows)| Finding {
            what: format!("In the table {table} {rows} of the rows belong to something that is not there."),
            means: "They are shown nowhere. Something else than Umlauf has written to the yard’s file.",
            todo: "Nothing has to be done; if a clip lacks marks, put the yard back from its last good ZIP.".into(),
            mended: false,
        })),
        Err(e) => found.push(unreadable(&e)),
    }
    match store.disagreeing() {
        Ok(wrong) if wrong.is_empty() => {}
        Ok(wrong) => {
            let mut clips: Vec<String> = wrong.iter().map(|d| d.clip.to_string()).collect();
            clips.dedup();
            if mend {
                store.mend_marks(&wrong)?;
            }
            found.push(Finding {
                what: format!(
                    "{} marks of clip {} are not what their journal says.",
                    wrong.len(),
                    clips.join(", ")
                ),
                means: "Their figures are not those of what was marked.",
                todo:
                    "`umlauf check --mend` makes them what was marked, while Umlauf is not running."
                        .into(),
                mended: mend,
            });
        }
        Err(e) => found.push(unreadable(&e)),
    }
    Ok(found)
}

/// Pages that are looked at before others may write.
const PAGES: usize = 1024;

/// What is wrong by the seal over the file: pages that something else has changed.
fn sealed(store: &Store) -> Result<Option<String>, StoreError> {
    let (mut from, mut broken) = (0, 0);
    loop {
        let Some((found, all)) = store.broken_pages(from..from + PAGES)? else {
            return Ok(Some("The seal over the yard’s file is damaged: it cannot tell whether the file is whole.".into()));
        };
        broken += found.len();
        from += PAGES;
        if from >= all {
            break;
        }
    }
    Ok(match broken {
        0 => None,
        1 => Some("1 page of the yard’s file is not as Umlauf wrote it.".into()),
        _ => Some(format!("{broken} pages of the yard’s file are not as Umlauf wrote them.")),
    })
}
