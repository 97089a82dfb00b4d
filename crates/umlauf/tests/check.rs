//! A yard that is not whole is said not to be, in words, and mended where it can be.
#![allow(clippy::unwrap_used, reason = "a test that cannot go on has failed")]

mod common;

use std::path::{Path, PathBuf};
use std::process::Command;

use common::{Program, http, root};

fn check(data: &Path, mend: bool) -> (bool, String) {
    let out = Command::new(env!("CARGO_BIN_EXE_umlauf"))
        .args(["check", "--data"])
        .arg(data)
        .args(mend.then_some("--mend"))
        .output()
        .unwrap();
    (out.status.success(), String::from_utf8([out.stdout, out.stderr].concat()).unwrap())
}

/// The file in the folder of footage that holds these bytes.
fn stored(data: &Path, bytes: &[u8]) -> PathBuf {
    let folders = std::fs::read_dir(data.join("footage")).unwrap().flatten();
    let mut files = folders.flat_map(|f| std::fs::read_dir(f.path()).unwrap().flatten());
    files.find(|f| std::fs::read(f.path()).unwrap() == bytes).unwrap().path()
}

fn flip(file: &Path, at: usize, bytes: usize) {
    let mut all = std::fs::read(file).unwrap();
    all[at..at + bytes].iter_mut().for_each(|b| *b ^= 0x5a);
    std::fs::write(file, all).unwrap();
}

#[test]
fn what_is_wrong_with_a_yard_is_said_and_what_can_be_is_mended() {
    let folder = tempfile::tempdir().unwrap();
    let data = folder.path().join("yard");
    assert!(check(&data, false).1.contains("there is no yard in"));
    assert!(!data.exists());
    let demo = |name: &str| root().join(format!("demo/{name}.mp4"));
    let [trot, canter] = ["distel-trot", "priel-canter"].map(|n| std::fs::read(demo(n)).unwrap());
    let program = Program::start(&["serve"], &data);
    for name in ["distel-trot", "priel-canter"] {
        program.send_file(&demo(name), None).unwrap();
    }
    program.wait_for_jobs(std::time::Duration::from_secs(600));
    // Beside a running server it looks and does not touch.
    let (sound, says) = check(&data, false);
    assert!(sound && says.contains("is whole: 2 clips"), "{says}");
    let (done, says) = check(&data, true);
    assert!(!done && says.contains("is open already, by a server"), "{says}");
    program.kill();

    std::fs::remove_file(stored(&data, &trot)).unwrap();
    let film = stored(&data, &canter);
    let copy = film.parent().unwrap().join("proxy.mp4");
    flip(&film, 50_000, 1);
    flip(&copy, std::fs::metadata(&copy).unwrap().len() as usize / 2, 5000);
    std::fs::create_dir(data.join("footage").join("b".repeat(64))).unwrap();
    let (sound, says) = check(&data, false);
    assert!(!sound, "{says}");
    for finding in [
        "The film of clip 1, distel-trot, is missing.",
        "The film of clip 2, priel-canter, is damaged.",
        "The copy for stepping of clip 2, priel-canter, cannot be shown whole.",
        "A folder of footage belongs to no clip: footage/bbbb",
        "4 of 4 findings are not mended",
    ] {
        assert!(says.contains(finding), "{finding}: {says}");
    }
    let (_, says) = check(&data, true);
    assert!(says.contains("3 of 4 findings are not mended"), "{says}");
    std::fs::remove_dir(data.join("footage").join("b".repeat(64))).unwrap();

    // The copy is made anew, and films sent once more take their places.
    let program = Program::start(&["serve"], &data);
    for (clip, name) in [(1, "distel-trot"), (2, "priel-canter")] {
        assert_eq!(program.send_file(&demo(name), None), Ok(clip));
    }
    program.wait_for_jobs(std::time::Duration::from_secs(600));
    let (sound, says) = check(&data, false);
    assert!(sound, "{says}");
    assert_eq!(http::get(&format!("{}/api/clips/2", program.url)).json()["proxy"], "ready");
    program.kill();

    // One letter of one name is another one; all holds together.
    let file = data.join("yard.sqlite");
    assert!(check(&data, false).0);
    let bytes = std::fs::read(&file).unwrap();
    let name = bytes.windows(12).position(|w| w == b"priel-canter").unwrap();
    flip(&file, name, 1);
    let (sound, says) = check(&data, false);
    assert!(
        !sound && says.contains("1 page of the yard’s file is not as Umlauf wrote it"),
        "{says}"
    );
    flip(&file, name, 1);
    assert!(check(&data, false).0);
    flip(&file, name + 1, 1);
    assert!(check(&data, true).0 && check(&data, false).0);

    // A file that is no yard's any more.
    flip(&data.join("yard.sqlite"), 0, 4096);
    let (sound, says) = check(&data, false);
    assert!(
        !sound && says.contains("cannot be opened") && says.contains("umlauf restore"),
        "{says}"
    );
    let server = Command::new(env!("CARGO_BIN_EXE_umlauf"))
        .args(["serve", "--port", "0", "--data"])
        .arg(&data)
        .output()
        .unwrap();
    assert!(!server.status.success() && stored(&data, &trot).exists());
}
