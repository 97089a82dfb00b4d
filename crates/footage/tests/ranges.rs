//! Frames and sound in pieces stand where the file's own clock puts them.
#![allow(clippy::unwrap_used, reason = "a test that cannot go on has failed")]
#![allow(clippy::cast_precision_loss, reason = "small counts")]

use std::ops::Range;
use std::path::{Path, PathBuf};
use std::process::Command;
use std::time::Duration;

use umlauf_footage::FootageError;
use umlauf_footage::frames::{GreySize, Pictures, Tones};
use umlauf_footage::probe::probe;
use umlauf_footage::sound;

fn ffmpeg(args: &str, into: &Path) {
    let args = args.split_whitespace();
    let made = Command::new("ffmpeg").args(["-v", "error", "-y"]).args(args).arg(into).status();
    assert!(made.expect("ffmpeg runs").success());
}

/// Six seconds at 60 frames/s whose brightness counts the frames, with a click at every whole
/// second of a sound that begins half a second late.
fn counting(folder: &Path, codec: &str, name: &str) -> PathBuf {
    let file = folder.join(name);
    let picture = "-f lavfi -i color=black:s=64x48:r=60:d=6,format=gray,geq=lum='mod(N*5,251)'";
    let sound = "-itsoffset 0.5 -f lavfi -i aevalsrc='lt(mod(t+0.5,1),0.0005)':s=48000:d=5.5";
    ffmpeg(&format!("{picture} {sound} {codec}"), &file);
    file
}

const LOSSLESS: &str = "-c:v libx264 -qp 0 -bf 2 -g 50 -pix_fmt yuv420p -c:a flac -strict -2";

fn grey_of(frame: usize) -> f64 {
    f64::from(u32::try_from(frame * 5 % 251).unwrap())
}

/// Grey frames of a range, in order: place and pixels.
async fn grey(
    file: &Path,
    times: &[i64],
    range: Range<usize>,
    size: GreySize,
) -> Result<Vec<(usize, Vec<u8>)>, FootageError> {
    let mut pictures = Pictures::open(file, times, range, size, Tones::Grey)?;
    let mut out = Vec::new();
    while let Some(planes) = pictures.next().await? {
        assert!(planes.hues.is_none());
        out.push((planes.frame, planes.grey.to_vec()));
    }
    Ok(out)
}

#[tokio::test]
async fn a_range_gives_its_own_frames_in_order_and_no_others() {
    let folder = tempfile::tempdir().unwrap();
    let file = counting(folder.path(), LOSSLESS, "count.mkv");
    let times = probe(&file).await.unwrap().frame_times;
    assert_eq!(times.len(), 360);
    let size = GreySize::new(16, 12).unwrap();
    for range in [0..1, 0..7, 173..188, 299..301, 355..360] {
        let seen = grey(&file, &times, range.clone(), size).await.unwrap();
        let frames: Vec<usize> = seen.iter().map(|(k, _)| *k).collect();
        assert_eq!(frames, range.collect::<Vec<_>>());
        for (frame, pixels) in seen {
            assert_eq!(pixels.len(), size.pixels());
            let mean = pixels.iter().map(|p| f64::from(*p)).sum::<f64>() / pixels.len() as f64;
            // Through the limited range of video a grey comes back to about one step.
            assert!((mean - grey_of(frame)).abs() < 2.5, "frame {frame}: {mean}");
        }
    }
}

#[tokio::test]
async fn a_file_whose_clock_begins_late_gives_the_same_frames() {
    let folder = tempfile::tempdir().unwrap();
    let plain = counting(folder.path(), LOSSLESS, "plain.mkv");
    let late = folder.path().join("late.mkv");
    let from = plain.to_str().unwrap();
    ffmpeg(&format!("-i {from} -c copy -output_ts_offset 3.4"), &late);
    let times = probe(&late).await.unwrap().frame_times;
    assert!(times[0] > 3_000_000, "{}", times[0]);
    let size = GreySize::new(8, 8).unwrap();
    let seen = grey(&late, &times, 100..103, size).await.unwrap();
    for (frame, pixels) in &seen {
        assert!((f64::from(pixels[0]) - grey_of(*frame)).abs() < 2.5, "{frame}: {pixels:?}");
    }
    assert_eq!(seen.len(), 3);
}

#[tokio::test]
async fn a_wait_that_is_given_up_loses_no_frame() {
    let folder = tempfile::tempdir().unwrap();
    let file = counting(folder.path(), LOSSLESS, "count.mkv");
    let times = probe(&file).await.unwrap().frame_times;
    // Larger than a pipe: the program stands still while nobody reads.
    let size = GreySize::new(640, 480).unwrap();
    let mut pictures = Pictures::open(&file, &times, 0..360, size, Tones::Grey).unwrap();
    let (mut seen, mut given_up) = (Vec::new(), 0);
    loop {
        let soon = Duration::from_micros(200);
        match tokio::time::timeout(soon, pictures.next()).await {
            Err(_) => given_up += 1,
            Ok(next) => match next.unwrap() {
                Some(planes) => seen.push((planes.frame, f64::from(planes.grey[0]))),
                None => break,
            },
        }
    }
    assert!(given_up > 0 && seen.len() == 360, "{given_up} {}", seen.len());
    assert!(seen.iter().all(|(frame, grey)| (grey - grey_of(*frame)).abs() < 2.5), "{seen:?}");
}

#[tokio::test]
async fn ranges_that_are_none_are_refused_and_broken_files_say_so() {
    let folder = tempfile::tempdir().unwrap();
    let file = counting(folder.path(), LOSSLESS, "count.mkv");
    let times = probe(&file).await.unwrap().frame_times;
    let size = GreySize::new(8, 8).unwrap();
    #[expect(clippy::reversed_empty_ranges, reason = "what a careless caller may ask")]
    for range in [5..5, 350..361, 7..3] {
        let refused = grey(&file, &times, range, size).await;
        assert!(matches!(refused, Err(FootageError::NoFrames)));
    }
    // Announced, and not there.
    let more: Vec<i64> = (0..400).map(|k| k * 1_000_000 / 60).collect();
    let broken = grey(&file, &more, 350..380, size).await;
    assert!(matches!(broken, Err(FootageError::Broken { asked: 30, got: 10 })), "{broken:?}");
    let list = folder.path().join("list.mp4");
    std::fs::write(&list, "#EXTM3U\n#EXTINF:5,\n/etc/hostname\n").unwrap();
    assert!(grey(&list, &times, 0..1, size).await.is_err());
    assert!(GreySize::new(1921, 8).is_none() && GreySize::new(1, 8).is_none());
}

/// Moments at which clicks begin, s, in samples that begin at `from`.
fn clicks(samples: &[f32], from: f64) -> Vec<f64> {
    let loud = |k: usize| samples[k].abs() > 0.3;
    let begins = |k: &usize| loud(*k) && (k.saturating_sub(2000)..*k).all(|j| !loud(j));
    let rate = f64::from(sound::FINE_RATE);
    (0..samples.len()).filter(begins).map(|k| from + k as f64 / rate).collect()
}

#[tokio::test]
async fn pieces_of_sound_stand_on_the_files_clock_to_the_millisecond() {
    let folder = tempfile::tempdir().unwrap();
    for (codec, name, most) in
        [(LOSSLESS, "count.mkv", 0.0005), ("-c:v libx264 -c:a aac -b:a 192k", "count.mp4", 0.001)]
    {
        let file = counting(folder.path(), codec, name);
        for (from, length, wanted) in
            [(0.0, 2.4, vec![1.0, 2.0]), (2.3, 2.2, vec![3.0, 4.0]), (4.5, 1.0, vec![5.0])]
        {
            let (mut samples, mut pieces) = (Vec::new(), 0);
            let take = |piece: &[f32]| {
                pieces += 1;
                samples.extend_from_slice(piece);
            };
            sound::pieces(&file, from, length, take).await.unwrap();
            let n = length * f64::from(sound::FINE_RATE);
            assert!((samples.len() as f64 - n).abs() < 2.0, "{name} {from}: {}", samples.len());
            assert!(pieces > 1);
            let found = clicks(&samples, from);
            assert_eq!(found.len(), wanted.len(), "{name} {from}: {found:?}");
            for (a, b) in found.iter().zip(&wanted) {
                assert!((a - b).abs() < most, "{name} from {from}: {found:?}");
            }
        }
        // The sound begins half a second late: until then there is silence, not nothing.
        let mut early = Vec::new();
        sound::pieces(&file, 0.1, 0.3, |p| early.extend_from_slice(p)).await.unwrap();
        assert!((early.len() as f64 - 14_400.0).abs() < 2.0, "{}", early.len());
        assert!(early.iter().all(|s| s.abs() < 0.01));
    }
    let file = folder.path().join("count.mkv");
    for (from, length) in [(-1.0, 1.0), (0.0, 0.0), (0.0, f64::NAN), (f64::NAN, 1.0), (0.0, 1e5)] {
        let refused = sound::pieces(&file, from, length, |_| {}).await;
        assert!(matches!(refused, Err(FootageError::NoSound)), "{from} {length}");
    }
}
