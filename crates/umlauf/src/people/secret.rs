//! What a device or a link keeps to be known again: 256 random bits. The yard keeps only their hash.

use argon2::password_hash::rand_core::{OsRng, RngCore as _};
use base64::Engine as _;
use base64::engine::general_purpose::URL_SAFE_NO_PAD;

/// A new secret, in letters that an address and a cookie take.
pub fn secret() -> String {
    let mut bytes = [0; 32];
    OsRng.fill_bytes(&mut bytes);
    URL_SAFE_NO_PAD.encode(bytes)
}

/// The hash under which the yard knows a secret. A plain hash will do: nobody guesses 256 bits.
pub fn hashed(secret: &str) -> String {
    blake3::hash(secret.as_bytes()).to_hex().to_string()
}

#[cfg(test)]
mod tests {
    use super::{hashed, secret};

    #[test]
    fn a_secret_is_long_and_never_the_same() {
        let (a, b) = (secret(), secret());
        assert!(a.len() == 43 && a != b && hashed(&a) != hashed(&b));
        assert!(!hashed(&a).contains(&a));
    }
}
