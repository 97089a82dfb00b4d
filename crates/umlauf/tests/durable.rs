//! A killed server loses nothing that it acknowledged.
#![allow(clippy::unwrap_used, reason = "a test that cannot go on has failed")]

mod common;

use common::{Program, http};

#[test]
fn kill_during_fast_marking_keeps_every_acknowledged_mark() {
    let folder = tempfile::tempdir().unwrap();
    let data = folder.path().join("yard");
    let program = Program::start(&["demo"], &data);
    let mut acknowledged = 0;
    for k in 0..60 {
        let edit = serde_json::json!({"edit_id": format!("e{k}"), "changes": [
            {"before": null, "after": {"id": format!("m{k}"), "limb": "LH", "on_us": k * 700_000,
                                       "off_us": null}}]});
        let answer = http::post(&format!("{}/api/clips/2/edits", program.url), &edit);
        assert_eq!(answer.status, 200, "{}", answer.text);
        acknowledged += 1;
    }
    program.kill();
    let program = Program::start(&["demo"], &data);
    let desk = http::get(&format!("{}/api/clips/2/desk", program.url)).json();
    assert_eq!(desk["marks"].as_array().unwrap().len(), acknowledged);
    assert_eq!(desk["can_undo"], acknowledged);
    // The demo was not filled a second time.
    let yard = http::get(&format!("{}/api/yard", program.url)).json();
    assert_eq!(yard["horses"].as_array().unwrap().len(), 6);
}

#[test]
fn an_upload_goes_on_where_a_kill_broke_it_off() {
    let folder = tempfile::tempdir().unwrap();
    let data = folder.path().join("yard");
    let video = std::fs::read(common::root().join("demo/priel-canter.mp4")).unwrap();
    let program = Program::start(&["demo"], &data);
    let begin = serde_json::json!({"id": "abcdef0123", "session": 3, "name": "again.mp4",
                                   "bytes": video.len()});
    let begun = http::post(&format!("{}/api/uploads", program.url), &begin);
    assert_eq!(begun.json()["received"], 0);
    let half = video.len() / 2;
    let sent = http::put(&format!("{}/api/uploads/abcdef0123?from=0", program.url), &video[..half]);
    assert_eq!(sent.json()["received"], half);
    let early = http::post(
        &format!("{}/api/uploads/abcdef0123/finish", program.url),
        &serde_json::json!(null),
    );
    assert_eq!((early.status, &early.json()["code"]), (409, &"not-whole".into()));
    program.kill();

    let program = Program::start(&["demo"], &data);
    let begun = http::post(&format!("{}/api/uploads", program.url), &begin).json();
    assert_eq!(begun["received"], half);
    let wrong = http::put(&format!("{}/api/uploads/abcdef0123?from=7", program.url), b"xxx");
    assert_eq!((wrong.status, &wrong.json()["received"]), (409, &half.into()));
    let url = format!("{}/api/uploads/abcdef0123?from={half}", program.url);
    assert_eq!(http::put(&url, &video[half..]).json()["received"], video.len());
    let clip = http::post(
        &format!("{}/api/uploads/abcdef0123/finish", program.url),
        &serde_json::json!(null),
    );
    // The same file stands in this session already: it is recognised by its content.
    assert_eq!(clip.json()["id"], 3);
    assert_eq!(http::get(&format!("{}/api/uploads", program.url)).json(), serde_json::json!([]));
    let media = http::get(&format!("{}/api/clips/3", program.url)).json()["media"].clone();
    let content = media.as_str().unwrap().split('/').nth(2).unwrap().to_owned();
    let stored = http::get(&format!("{}/media/{content}/original", program.url));
    assert!(stored.body == video, "the original is kept byte for byte");
}
