//! Passwords: what is one, how it is kept, whether it is right.
//!
//! Kept as Argon2id with 19 MiB, two passes, one lane: the least that the OWASP Password Storage Cheat Sheet asks for
//! (value from memory), about 30 ms here.

use std::sync::OnceLock;

use argon2::password_hash::rand_core::OsRng;
use argon2::password_hash::{PasswordHash, PasswordHasher as _, PasswordVerifier as _, SaltString};
use argon2::{Algorithm, Argon2, Params, Version};

use crate::refused::Refused;

/// Letters of a password at least: without a machine's help a sentence of four words is easier to keep than eight signs.
pub const LEAST: usize = 10;

/// Letters at most.
pub const MOST: usize = 200;

/// Refuses what is no good password for somebody of this name.
///
/// # Errors
/// With what to do.
pub fn good(password: &str, name: &str) -> Result<(), Refused> {
    let letters = password.chars().count();
    if !(LEAST..=MOST).contains(&letters) {
        return Err(Refused::invalid(format!(
            "a password has {LEAST} to {MOST} letters: four words that do not belong together are easy to keep"
        )));
    }
    let mut different: Vec<char> = password.chars().collect();
    different.sort_unstable();
    different.dedup();
    let (low, name) = (password.to_lowercase(), name.to_lowercase());
    let obvious = different.len() < 5
        || low.trim() == name
        || ["0123456789", "1234567890", "abcdefghij", "qwertyuiop", "passwort", "password"]
            .iter()
            .any(|easy| low.starts_with(easy));
    if obvious {
        return Err(Refused::invalid(
            "this password is among the first that anybody tries: take four words that do not belong together",
        ));
    }
    Ok(())
}

fn argon2() -> Argon2<'static> {
    Argon2::new(Algorithm::Argon2id, Version::V0x13, Params::default())
}

/// How a password is kept, with a salt of its own. Takes some 30 ms.
///
/// # Errors
/// [`Refused::Failed`] when it cannot be hashed.
pub fn kept(password: &str) -> Result<String, Refused> {
    let salt = SaltString::generate(&mut OsRng);
    let hash = argon2().hash_password(password.as_bytes(), &salt);
    Ok(hash.map_err(|e| Refused::Failed(e.to_string()))?.to_string())
}

/// Whether a password is the one that is kept; for `None`, nobody's, it takes as long to say no.
pub fn is_right(password: &str, kept: Option<&str>) -> bool {
    static NOBODYS: OnceLock<String> = OnceLock::new();
    let nobodys = || self::kept("nobody has this password").unwrap_or_default();
    let hash = kept.unwrap_or_else(|| NOBODYS.get_or_init(nobodys));
    let right = PasswordHash::new(hash)
        .is_ok_and(|hash| argon2().verify_password(password.as_bytes(), &hash).is_ok());
    right && kept.is_some()
}

#[cfg(test)]
mod tests {
    use super::{good, is_right, kept};

    #[test]
    fn a_password_is_kept_as_argon2id_with_a_salt_and_known_again() {
        let (a, b) = (kept("four words that rhyme"), kept("four words that rhyme"));
        let (a, b) = (a.expect("kept"), b.expect("kept"));
        assert!(a.starts_with("$argon2id$v=19$m=19456,t=2,p=1$") && a != b);
        assert!(is_right("four words that rhyme", Some(&a)));
        assert!(!is_right("four words that rhymes", Some(&a)));
        assert!(!is_right("nobody has this password", None));
    }

    #[test]
    fn what_anybody_tries_first_is_no_password() {
        for bad in ["", "short", "password2026", "1234567890", "aaaaaaaaaaaa", "Henrike Tamsen"] {
            assert!(good(bad, "henrike tamsen").is_err(), "{bad}");
        }
        assert!(good("salt marsh lantern nine", "henrike").is_ok());
    }
}
