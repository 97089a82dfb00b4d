//! Good files keep their frame times, bad files are refused in words.
#![allow(clippy::unwrap_used, reason = "a test that cannot go on has failed")]

use std::path::Path;
use std::process::Command;

use umlauf_footage::FootageError;
use umlauf_footage::probe::probe;
use umlauf_footage::proxy;

fn ffmpeg(args: &[&str], into: &Path) {
    let made = Command::new("ffmpeg")
        .args(["-v", "error", "-y"])
        .args(args)
        .arg(into)
        .status()
        .expect("ffmpeg runs");
    assert!(made.success());
}

#[tokio::test]
async fn a_proxy_shows_the_same_frames_at_the_same_times() {
    let folder = tempfile::tempdir().unwrap();
    let (original, made) = (folder.path().join("a.mp4"), folder.path().join("proxy.mp4"));
    // B-frames, an odd rate and sound.
    ffmpeg(
        &[
            "-f",
            "lavfi",
            "-i",
            "testsrc2=size=320x180:rate=30000/1001:duration=3",
            "-f",
            "lavfi",
            "-i",
            "sine=440:duration=3",
            "-c:v",
            "libx264",
            "-bf",
            "2",
            "-pix_fmt",
            "yuv420p",
            "-c:a",
            "aac",
        ],
        &original,
    );
    let probed = probe(&original).await.unwrap();
    assert_eq!(probed.frame_times.len(), 90);
    assert_eq!(&probed.frame_times[..3], &[0, 33367, 66733]);
    assert!(probed.has_sound);
    assert!((probed.frame_rate().unwrap() - 30000.0 / 1001.0).abs() < 1e-3);
    let mut shares = Vec::new();
    proxy::make(&original, &probed.frame_times, &made, |s| shares.push(s)).await.unwrap();
    assert!(shares.last().is_some_and(|s| *s > 0.99));
    let of_proxy = probe(&made).await.unwrap();
    for (a, b) in of_proxy.frame_times.iter().zip(&probed.frame_times) {
        assert!((a - b).abs() <= 1);
    }
    let shown = proxy::check(&made, &probed.frame_times, |_| ()).await.unwrap();
    assert_eq!((shown.frames, shown.shift_us), (90, 0));

    // Its table of frames is whole, and pictures behind it are not: times alone do not show that.
    let mut bytes = std::fs::read(&made).unwrap();
    let middle = bytes.len() * 2 / 3;
    bytes[middle..middle + 6000].fill(0xa5);
    std::fs::write(&made, bytes).unwrap();
    assert_eq!(probe(&made).await.unwrap().frame_times.len(), 90);
    let broken = proxy::check(&made, &probed.frame_times, |_| ()).await;
    assert!(matches!(broken, Err(FootageError::Broken { asked: 90, .. })), "{broken:?}");
}

#[tokio::test]
async fn bad_files_are_refused_in_words() {
    let folder = tempfile::tempdir().unwrap();
    let at = |name: &str| folder.path().join(name);
    std::fs::write(at("letter.mp4"), "Dear coach, this is not a video.").unwrap();
    std::fs::write(at("empty.mp4"), "").unwrap();
    ffmpeg(&["-f", "lavfi", "-i", "sine=440:duration=1", "-c:a", "aac"], &at("sound.m4a"));
    let junk = std::fs::File::create(at("sparse.mp4")).unwrap();
    junk.set_len(2 << 30).unwrap();
    std::fs::write(at("list.mp4"), "#EXTM3U\n#EXTINF:5,\n/etc/hostname\n").unwrap();
    for (name, wanted) in [
        ("sparse.mp4", "not a video that can be read"),
        ("list.mp4", "not a video that can be read"),
        ("letter.mp4", "not a video that can be read"),
        ("empty.mp4", "not a video that can be read"),
        ("sound.m4a", "holds no frames"),
        ("missing.mp4", "not a video that can be read"),
    ] {
        let refused = probe(&at(name)).await.expect_err(name);
        assert!(refused.to_string().contains(wanted), "{name}: {refused}");
        assert!(matches!(refused, FootageError::NotVideo(_) | FootageError::NoFrames));
    }
}
