//! Any bytes as a ZIP, and, packed into one, as the document of a yard: put back or refused in words, never a panic.

#![no_main]

use std::cell::RefCell;
use std::io::{Cursor, Write as _};

use libfuzzer_sys::fuzz_target;
use umlauf::archive::export::DOCUMENTS;
use umlauf::archive::restore::restore;
use umlauf_store::Store;
use zip::ZipWriter;
use zip::write::SimpleFileOptions;

thread_local! {
    static EMPTY: RefCell<Option<(tempfile::TempDir, Store)>> = const { RefCell::new(None) };
}

fn empty() -> (tempfile::TempDir, Store) {
    let folder = tempfile::tempdir_in("/dev/shm").expect("a folder in memory");
    let store = Store::open(&folder.path().join("yard"), None).expect("a yard");
    (folder, store)
}

fn packed(document: &[u8]) -> Vec<u8> {
    let mut zip = ZipWriter::new(Cursor::new(Vec::new()));
    let options = SimpleFileOptions::default().compression_method(zip::CompressionMethod::Stored);
    // The copy beside it would only be read once more.
    zip.start_file(DOCUMENTS[0], options).expect("a file in a ZIP");
    zip.write_all(document).expect("a file in a ZIP");
    zip.finish().expect("a ZIP").into_inner()
}

fuzz_target!(|bytes: &[u8]| {
    let Some((first, rest)) = bytes.split_first() else { return };
    let zip = if first.is_multiple_of(2) { rest.to_vec() } else { packed(rest) };
    EMPTY.with_borrow_mut(|kept| {
        let (folder, store) = kept.get_or_insert_with(empty);
        let path = folder.path().join("some.zip");
        std::fs::write(&path, zip).expect("a file");
        if restore(store, &path).is_ok() {
            *kept = None;
        } else {
            assert!(store.tables_are_empty().expect("a yard that can be read"));
        }
    });
});
