//! Any bytes as a table of what sensors felt: read, its hooves timed, or refused; never a panic.

#![no_main]

use libfuzzer_sys::fuzz_target;
use umlauf::suggest::felt::sensed;

fuzz_target!(|bytes: &[u8]| {
    if let Ok(sensed) = sensed(bytes) {
        assert!(sensed.told().iter().all(|told| told.on.is_finite()));
    }
});
