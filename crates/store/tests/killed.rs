//! A program that writes hard is killed again and again, most often while its log is moved into the yard's file: what it
//! had acknowledged is there, and no page is taken for another hand's.
#![allow(clippy::unwrap_used, reason = "a test that cannot go on has failed")]

mod common;

use std::io::{BufRead as _, BufReader};
use std::process::{Command, Stdio};
use std::time::{Duration, Instant};

use common::{footage, new_mark};
use umlauf_store::Store;
use umlauf_store::marks::Change;

/// The folder that the child writes to.
const FOLDER: &str = "UMLAUF_TEST_FOLDER";

#[test]
#[ignore = "the child of the test below"]
fn writes_until_it_is_killed() {
    let folder = std::env::var(FOLDER).unwrap();
    let store = Store::open(folder.as_ref(), None).unwrap();
    let clip = store.all_clips().unwrap()[0].id;
    let from = store.marks(clip).unwrap().len() as i64;
    let mut reading = None;
    for k in 0.. {
        let changes: Vec<Change> = (0..60).map(|j| new_mark(from + 60 * k + j)).collect();
        store.edit(clip, &format!("{from}-{k}"), &changes).unwrap();
        println!("saved {}", from + 60 * (k + 1));
        // Now and then somebody reads for long, and the log cannot be let go.
        reading = if k % 16 < 8 { reading.or_else(|| store.snapshot().ok()) } else { None };
        if k % 5 == 4 {
            store.scrub().unwrap();
        }
    }
}

#[test]
fn a_kill_at_any_moment_of_writing_loses_nothing_and_raises_no_alarm() {
    let folder = tempfile::tempdir().unwrap();
    let clip = {
        let store = Store::open(folder.path(), None).unwrap();
        store.add_clip(None, "tinne", &footage(), &[0, 16_667]).unwrap()
    };
    let begun = Instant::now();
    let mut saved = 0;
    let mut grown = 0;
    for kill in 0..60u64 {
        let mut child = Command::new(std::env::current_exe().unwrap())
            .args(["--exact", "writes_until_it_is_killed", "--ignored", "--nocapture"])
            .env(FOLDER, folder.path())
            .stdout(Stdio::piped())
            .spawn()
            .unwrap();
        let says = BufReader::new(child.stdout.take().unwrap());
        std::thread::scope(|s| {
            let acknowledged = s.spawn(|| {
                let lines = says.lines().map_while(Result::ok);
                let all = lines.filter_map(|l| l.split_once("saved ")?.1.parse::<usize>().ok());
                all.last()
            });
            // Of 60 moments spread over 200 ms none is like another.
            std::thread::sleep(Duration::from_micros(20_000 + kill * 3_371));
            child.kill().unwrap();
            child.wait().unwrap();
            if let Some(last) = acknowledged.join().unwrap() {
                grown += 1;
                saved = last;
            }
        });
        let store = Store::open(folder.path(), None).unwrap();
        let there = store.marks(clip).unwrap().len();
        assert!(there >= saved && there.is_multiple_of(60), "kill {kill}: {there} of {saved}");
        assert_eq!(store.lost_changes().unwrap(), 0, "kill {kill}");
        let (broken, pages) = store.broken_pages(0..usize::MAX).unwrap().unwrap();
        assert!(broken.is_empty() && pages > 0, "kill {kill}: {broken:?} of {pages}");
        assert_eq!(store.integrity(false).unwrap(), [] as [String; 0]);
    }
    println!("{grown} of 60 had written, {saved} marks, {:?}", begun.elapsed());
    assert!(grown > 20, "{grown}");
}
