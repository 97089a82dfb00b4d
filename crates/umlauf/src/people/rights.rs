//! Which address is whose, as one table: what is not in it is the coach's alone.

use umlauf_store::role::Role;

/// Whoever may ask for an address.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Least {
    /// Anybody, signed in or not: nothing of the yard is told.
    Anybody,
    /// Somebody who is signed in with this role at least.
    Signed(Role),
}

/// An address, who may ask for it, and what doing so is called in the account of changes; nothing for what changes nothing,
/// or for marks, whose journal tells it.
pub struct Right {
    /// Method and address as the routes write it.
    pub route: (&'static str, &'static str),
    /// Who.
    pub least: Least,
    /// What it is called after somebody's name.
    pub did: &'static str,
}

const ANYBODY: Least = Least::Anybody;
const RIDER: Least = Least::Signed(Role::Rider);
const ASSISTANT: Least = Least::Signed(Role::Assistant);
const COACH: Least = Least::Signed(Role::Coach);

const fn right(
    method: &'static str,
    address: &'static str,
    least: Least,
    did: &'static str,
) -> Right {
    Right { route: (method, address), least, did }
}

/// The table.
pub const RIGHTS: &[Right] = &[
    right("GET", "/api/openapi.json", ANYBODY, ""),
    right("GET", "/tablet", ANYBODY, ""),
    right("GET", "/tablet/yard.crt", ANYBODY, ""),
    right("GET", "/tablet/trusted.svg", ANYBODY, ""),
    // Whoever has a link's secret has been let in by it.
    right("GET", "/link/{secret}", ANYBODY, ""),
    right("GET", "/link/{secret}/film", ANYBODY, ""),
    right("GET", "/api/me", ANYBODY, ""),
    right("POST", "/api/sign-in", ANYBODY, ""),
    right("POST", "/api/sign-out", ANYBODY, ""),
    // A rider: reports and films of their own horses.
    right("PUT", "/api/me/password", RIDER, "changed their own password"),
    right("GET", "/api/own", RIDER, ""),
    right("GET", "/api/reports/session/{session}", RIDER, ""),
    right("GET", "/api/reports/horse/{horse}/{for}", RIDER, ""),
    right("GET", "/media/{content}/{which}", RIDER, ""),
    // An assistant: all that is read on a screen, marked and added.
    right("GET", "/api/yard", ASSISTANT, ""),
    right("GET", "/api/vocabulary", ASSISTANT, ""),
    right("GET", "/api/check", ASSISTANT, ""),
    right("GET", "/api/compare", ASSISTANT, ""),
    right("POST", "/api/analyse", ASSISTANT, ""),
    right("POST", "/api/arena/figure", ASSISTANT, ""),
    right("POST", "/api/horses", ASSISTANT, "added a horse"),
    right("PUT", "/api/horses/{horse}", ASSISTANT, "changed the card of"),
    right("GET", "/api/horses/{horse}/record", ASSISTANT, ""),
    right("POST", "/api/horses/{horse}/sessions", ASSISTANT, "added a session of"),
    right("PUT", "/api/sessions/{session}", ASSISTANT, "changed"),
    right("GET", "/api/sessions/{session}/glance", ASSISTANT, ""),
    right("GET", "/api/clips/{clip}", ASSISTANT, ""),
    right("GET", "/api/clips/{clip}/frames", ASSISTANT, ""),
    right("GET", "/api/clips/{clip}/sound", ASSISTANT, ""),
    right("GET", "/api/clips/{clip}/clicks.wav", ASSISTANT, ""),
    right("GET", "/api/clips/{clip}/desk", ASSISTANT, ""),
    right("GET", "/api/clips/{clip}/ground", ASSISTANT, ""),
    right("GET", "/api/clips/{clip}/next", ASSISTANT, ""),
    right("GET", "/api/clips/{clip}/revision", ASSISTANT, ""),
    right("GET", "/api/clips/{clip}/told-anew", ASSISTANT, ""),
    right("PUT", "/api/clips/{clip}/place", ASSISTANT, "said whose footage it is:"),
    right("PUT", "/api/clips/{clip}/settings", ASSISTANT, ""),
    right("PUT", "/api/clips/{clip}/calibration", ASSISTANT, ""),
    right("PUT", "/api/clips/{clip}/shown", ASSISTANT, ""),
    right("POST", "/api/clips/{clip}/again", ASSISTANT, ""),
    right("POST", "/api/clips/{clip}/edits", ASSISTANT, ""),
    right("POST", "/api/clips/{clip}/find", ASSISTANT, ""),
    right("POST", "/api/clips/{clip}/undo", ASSISTANT, ""),
    right("POST", "/api/clips/{clip}/redo", ASSISTANT, ""),
    right("GET", "/api/uploads", ASSISTANT, ""),
    right("POST", "/api/uploads", ASSISTANT, ""),
    right("PUT", "/api/uploads/{upload}", ASSISTANT, ""),
    right("DELETE", "/api/uploads/{upload}", ASSISTANT, ""),
    right("POST", "/api/uploads/{upload}/finish", ASSISTANT, "added a film"),
    right("GET", "/api/jobs", ASSISTANT, ""),
    right("POST", "/api/jobs/{job}/cancel", ASSISTANT, ""),
    right("POST", "/api/jobs/{job}/retry", ASSISTANT, ""),
    right("GET", "/api/hand", ASSISTANT, ""),
    right("DELETE", "/api/hand", ASSISTANT, ""),
    right("GET", "/api/keys", ASSISTANT, ""),
    // The coach: what takes away, takes out, or is about others and the machine.
    right("DELETE", "/api/clips/{clip}", COACH, "removed"),
    right("POST", "/api/clips/{clip}/restore", COACH, "brought back"),
    right("GET", "/api/clips/{clip}/footfalls.csv", COACH, ""),
    right("GET", "/api/clips/{clip}/footfalls.vtt", COACH, ""),
    right("DELETE", "/api/horses/{horse}", COACH, "removed"),
    right("POST", "/api/horses/{horse}/restore", COACH, "brought back"),
    right("GET", "/api/horses/{horse}/record.csv", COACH, ""),
    right("PUT", "/api/horses/{horse}/target", COACH, "set a target tempo of"),
    right("DELETE", "/api/sessions/{session}", COACH, "removed"),
    right("POST", "/api/sessions/{session}/restore", COACH, "brought back"),
    right("PUT", "/api/sessions/{session}/mark", COACH, "gave a mark in"),
    right("GET", "/api/space", COACH, ""),
    right("POST", "/api/space/empty", COACH, "emptied the bin"),
    right("GET", "/api/setup", COACH, ""),
    right("PUT", "/api/setup", COACH, "changed what is watched and looked for"),
    right("PUT", "/api/keys", COACH, "changed the keys"),
    right("GET", "/api/export", COACH, ""),
    right("POST", "/api/import", COACH, "put back a yard"),
    right("GET", "/api/backups", COACH, ""),
    right("PUT", "/api/backups", COACH, "chose the folder of the backups"),
    right("POST", "/api/backups", COACH, "made a backup"),
    right("POST", "/api/backups/restore", COACH, "put back a yard"),
    right("GET", "/api/backups/days", COACH, ""),
    right("GET", "/api/backups/days/{day}", COACH, ""),
    right("POST", "/api/backups/days/{day}/horses/{horse}", COACH, "brought a horse back"),
    right("GET", "/api/people", COACH, ""),
    right("POST", "/api/people", COACH, "let somebody in"),
    right("PUT", "/api/people/{person}", COACH, "changed what may be done by"),
    right("DELETE", "/api/people/{person}", COACH, "took away"),
    right("PUT", "/api/people/{person}/password", COACH, "gave another password to"),
    right("POST", "/api/people/{person}/sign-out", COACH, "signed out everywhere"),
    right("GET", "/api/links", COACH, ""),
    right("POST", "/api/links", COACH, "made a link"),
    right("DELETE", "/api/links/{link}", COACH, "ended"),
    right("GET", "/api/network", COACH, ""),
    right("PUT", "/api/network", COACH, "changed who in the network can reach Umlauf"),
    right("GET", "/api/acts", COACH, ""),
];

/// The right to an address as the routes write it; `None` for what is not in the table.
pub fn right_to(method: &str, address: &str) -> Option<&'static Right> {
    let method = if method == "HEAD" { "GET" } else { method };
    RIGHTS.iter().find(|r| r.route == (method, address))
}

/// What an address is about, as in `clip 7`: the first kind and number that it has. No name, so that what is deleted is
/// gone from here too.
pub fn about(template: &str, path: &str) -> String {
    let pairs = template.split('/').zip(path.split('/'));
    let named = pairs.filter_map(|(t, p)| Some((t.strip_prefix('{')?.strip_suffix('}')?, p)));
    let mut numbered = named.filter(|(_, p)| p.bytes().all(|b| b.is_ascii_digit()));
    numbered.next().map_or_else(String::new, |(kind, number)| format!("{kind} {number}"))
}

#[cfg(test)]
mod tests {
    use super::{RIGHTS, about};

    #[test]
    fn no_address_stands_in_the_table_twice() {
        for (k, r) in RIGHTS.iter().enumerate() {
            assert!(!RIGHTS[..k].iter().any(|other| other.route == r.route), "{:?}", r.route);
        }
    }

    #[test]
    fn what_an_address_is_about() {
        assert_eq!(about("/api/clips/{clip}/restore", "/api/clips/7/restore"), "clip 7");
        assert_eq!(about("/api/uploads/{upload}", "/api/uploads/x7"), "");
        assert_eq!(about("/api/horses", "/api/horses"), "");
    }
}
