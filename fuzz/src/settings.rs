//! Any bytes as what a coach says of clips, horses, sessions and the yard: taken or refused in words, never a panic or a
//! failure.

#![no_main]

mod yard;

use libfuzzer_sys::fuzz_target;

const ADDRESSES: [(&str, &str); 9] = [
    ("PUT", "/api/clips/1/settings"),
    ("PUT", "/api/clips/1/calibration"),
    ("PUT", "/api/horses/1"),
    ("PUT", "/api/horses/1/target"),
    ("PUT", "/api/sessions/1"),
    ("PUT", "/api/sessions/1/mark"),
    ("PUT", "/api/keys"),
    ("POST", "/api/arena/figure"),
    ("POST", "/api/horses/1/sessions"),
];

fuzz_target!(|bytes: &[u8]| yard::ask_one(&ADDRESSES, bytes));
