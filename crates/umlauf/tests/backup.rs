//! A second copy that comes back: each day's tables, every film once, read back, as much of it as is sound.
#![allow(clippy::unwrap_used, reason = "a test that cannot go on has failed")]

mod common;

use std::path::{Path, PathBuf};
use std::process::Command;

use common::{Program, http, root};
use serde_json::{Value, json};

fn umlauf(args: &[&str], data: &Path) -> (bool, String) {
    let mut command = Command::new(env!("CARGO_BIN_EXE_umlauf"));
    let out = command.args(args).arg("--data").arg(data).output().unwrap();
    (out.status.success(), String::from_utf8([out.stdout, out.stderr].concat()).unwrap())
}

fn files(folder: &Path) -> Vec<PathBuf> {
    let inside = std::fs::read_dir(folder).into_iter().flatten().flatten().map(|f| f.path());
    let mut all: Vec<PathBuf> =
        inside.flat_map(|p| if p.is_dir() { files(&p) } else { vec![p] }).collect();
    all.sort();
    all
}

fn ending(folder: &Path, with: &str) -> Vec<PathBuf> {
    files(folder).into_iter().filter(|f| f.to_string_lossy().ends_with(with)).collect()
}

fn send(program: &Program, method: &str, path: &str, body: &Value) -> (u16, Value) {
    let json = [("Content-Type", "application/json")];
    let url = format!("{}/api/{path}", program.url);
    let answer = http::send(method, &url, &json, body.to_string().as_bytes());
    (answer.status, answer.json())
}

#[test]
fn a_yard_comes_back_from_its_backup_as_much_of_it_as_is_sound() {
    let folder = tempfile::tempdir().unwrap();
    let [data, stick] = ["yard", "stick"].map(|n| folder.path().join(n));
    std::fs::create_dir(&stick).unwrap();
    let program = Program::start(&["serve"], &data);
    send(&program, "POST", "horses", &json!({"name": "Priel"}));
    for name in ["distel-trot", "priel-canter"] {
        program.send_file(&root().join(format!("demo/{name}.mp4")), None).unwrap();
    }
    // What befalls the yard's folder would befall it too.
    let inside = json!({"folder": data.join("footage")});
    assert_eq!(send(&program, "PUT", "backups", &inside).0, 422);
    assert_eq!(send(&program, "POST", "backups", &json!(null)).0, 422);
    let (_, chosen) = send(&program, "PUT", "backups", &json!({"folder": stick}));
    assert_eq!((&chosen["last"], chosen["folder"].as_str()), (&Value::Null, stick.to_str()));
    let (status, made) = send(&program, "POST", "backups", &json!(null));
    assert_eq!((status, made["lacks"].as_array().unwrap().len()), (200, 0), "{made}");
    let today = made["last"].as_str().unwrap().to_owned();
    let films = ending(&stick, ".mp4");
    assert_eq!(
        (films.len(), ending(&stick, ".zip").len(), ending(&stick, ".part").len()),
        (2, 1, 0)
    );

    // A film that is damaged here is put back from there, by the look at films after a start.
    let film = |data: &Path| {
        let trot = std::fs::read(root().join("demo/distel-trot.mp4")).unwrap();
        let at = ending(&data.join("footage"), "original.mp4");
        (at.iter().filter(|f| std::fs::read(f).unwrap() == trot).count(), at)
    };
    drop(program);
    let content = films
        .iter()
        .find(|f| {
            std::fs::read(f).unwrap().len()
                == std::fs::metadata(root().join("demo/distel-trot.mp4")).unwrap().len() as usize
        })
        .unwrap();
    let content = content.parent().unwrap().file_name().unwrap();
    std::fs::write(data.join("footage").join(content).join("original.mp4"), "not a film").unwrap();
    assert_eq!(film(&data).0, 0);
    let program = Program::start(&["serve"], &data);
    let begun = std::time::Instant::now();
    while film(&data).0 == 0 {
        assert!(begun.elapsed().as_secs() < 60, "it is not put back");
        std::thread::sleep(std::time::Duration::from_millis(50));
    }
    let told = || send(&program, "GET", "check", &json!(null)).1["findings"].clone();
    while told().as_array().unwrap().is_empty() {
        assert!(begun.elapsed().as_secs() < 60, "nobody is told");
        std::thread::sleep(std::time::Duration::from_millis(50));
    }
    assert_eq!(told()[0]["mended"], true, "{}", told());

    // Whatever bit turns over on the stick is noticed, and a film is brought anew.
    let looked = |mend: &[&str]| umlauf(&[&["check"], mend].concat(), &data);
    assert!(looked(&[]).0, "{}", looked(&[]).1);
    for k in 0..24u64 {
        let kept = [ending(&stick, ".zip"), ending(&stick, ".mp4")].concat();
        let file = &kept[k as usize % kept.len()];
        let sound = std::fs::read(file).unwrap();
        let mut bytes = sound.clone();
        let bit = (k.wrapping_mul(0x9e37_79b9_7f4a_7c15) >> 20) as usize % (8 * bytes.len());
        bytes[bit / 8] ^= 1 << (bit % 8);
        std::fs::write(file, bytes).unwrap();
        let (whole, says) = looked(&[]);
        let said =
            if file.ends_with("original.mp4") { "A film in the backup" } else { "The backup of" };
        assert!(!whole && says.contains(said), "bit {bit} of {}: {says}", file.display());
        std::fs::write(file, sound).unwrap();
    }
    std::fs::write(&films[0], "not a film").unwrap();
    drop(program);
    assert!(looked(&["--mend"]).0 && looked(&[]).0);
    let program = Program::start(&["serve"], &data);

    // A second one of the same day takes the place of the first; films that are there are not written again.
    let written = |f: &PathBuf| std::fs::metadata(f).unwrap().modified().unwrap();
    let before: Vec<_> = films.iter().map(written).collect();
    send(&program, "POST", "horses", &json!({"name": "Tinne"}));
    assert_eq!(send(&program, "POST", "backups", &json!(null)).0, 200);
    assert_eq!(films.iter().map(written).collect::<Vec<_>>(), before);
    assert_eq!(ending(&stick, ".zip").len(), 1);

    // A backup of an earlier day; a later one that was cut short, and a film of which one bit is wrong.
    let zip = ending(&stick, ".zip").pop().unwrap();
    let whole = std::fs::read(&zip).unwrap();
    std::fs::write(zip.with_file_name("yard-2026-01-31.zip"), &whole).unwrap();
    std::fs::write(&zip, &whole[..whole.len() / 2]).unwrap();
    let mut film = std::fs::read(&films[0]).unwrap();
    film[60_000] ^= 4;
    std::fs::write(&films[0], film).unwrap();
    let machine = folder.path().join("machine");
    let empty = Program::start(&["serve"], &machine);
    let (status, back) = send(&empty, "POST", "backups/restore", &json!({"folder": stick}));
    assert_eq!(
        (status, &back["horses"], &back["clips"], &back["films"]),
        (200, &2.into(), &2.into(), &1.into()),
        "{back}"
    );
    let lacks = back["lacks"].as_str().unwrap();
    assert!(lacks.contains(&format!("the backup of {today} was passed over")), "{lacks}");
    assert!(
        lacks.contains("the film of") && lacks.contains("is damaged and was left out"),
        "{lacks}"
    );
    assert_eq!(http::get(&format!("{}/api/clips/1/desk", empty.url)).status, 200);
    let again = send(&empty, "POST", "backups/restore", &json!({"folder": stick}));
    assert!(
        again.0 == 422 && again.1["detail"].as_str().unwrap().contains("only where there is none")
    );
    // It does not take along where the other machine keeps its backups.
    assert_eq!(send(&empty, "GET", "backups", &json!(null)).1["folder"], Value::Null);
    drop((program, empty));

    // The next backup mends the film in it, and says so when the yard's own is gone.
    std::fs::remove_file(&films[0]).unwrap();
    let (done, says) = umlauf(&["backup", stick.to_str().unwrap()], &data);
    assert!(done && says.contains("was read back"), "{says}");
    assert_eq!(ending(&stick, ".mp4"), films);
    let (done, says) = umlauf(&["restore", stick.to_str().unwrap()], &folder.path().join("third"));
    assert!(done && says.contains("2 horses, 2 clips, 2 films;"), "{says}");
    let one = films[0].file_name().unwrap();
    let content = films[0].parent().unwrap().file_name().unwrap();
    std::fs::remove_file(data.join("footage").join(content).join(one)).unwrap();
    std::fs::remove_file(&films[0]).unwrap();
    let (done, says) = umlauf(&["backup", stick.to_str().unwrap()], &data);
    assert!(
        !done && says.contains("not all of it: the film of clip") && says.contains("is missing"),
        "{says}"
    );
    let nothing = umlauf(
        &["restore", folder.path().join("machine").to_str().unwrap()],
        &folder.path().join("fourth"),
    );
    assert!(!nothing.0 && nothing.1.contains("there is no backup in"), "{}", nothing.1);
}
