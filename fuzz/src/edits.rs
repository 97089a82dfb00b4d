//! Any bytes as edits of marks, taken back and made again: made or refused in words, never a panic or a failure.

#![no_main]

mod yard;

use libfuzzer_sys::fuzz_target;

const ADDRESSES: [(&str, &str); 5] = [
    ("POST", "/api/clips/1/edits"),
    ("POST", "/api/clips/1/undo"),
    ("POST", "/api/clips/1/redo"),
    ("POST", "/api/clips/1/again"),
    ("POST", "/api/analyse"),
];

fuzz_target!(|bytes: &[u8]| yard::ask_one(&ADDRESSES, bytes));
