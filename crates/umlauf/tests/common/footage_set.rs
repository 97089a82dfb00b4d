//! Files as coaches bring them: good ones of every kind, and bad ones.

use std::fs::{self, File};
use std::io::Write as _;
use std::path::{Path, PathBuf};
use std::process::Command;

use super::counting_clip;

/// A file that must come in, its frames numbered in the picture.
pub struct Good {
    /// Where.
    pub path: PathBuf,
    /// Degrees by which it is shown turned clockwise.
    pub rotation: u32,
    /// Number painted in its first frame.
    pub first: u32,
}

const FRAMES: u32 = 60;

fn ffmpeg(args: &[&str], into: &Path) {
    let made = Command::new("ffmpeg").args(["-v", "error", "-y"]).args(args).arg(into).status();
    assert!(made.expect("ffmpeg runs").success(), "{}", into.display());
}

/// Makes the good files of the set in a folder.
pub fn good(folder: &Path) -> Vec<Good> {
    let base = folder.join("base.mkv");
    counting_clip(&base, 640, FRAMES, 30);
    let base = base.to_str().expect("a path");
    let x264 = ["-c:v", "libx264", "-preset", "veryfast", "-crf", "18"];
    let mut out = Vec::new();
    let mut add = |name: &str, rotation: u32, first: u32, rate: &str, args: &[&str]| {
        let path = folder.join(name);
        // Frame for frame: a guessed constant rate would double the first ones.
        let frames = &["-fps_mode", "passthrough"][..];
        let input = [&["-r", rate, "-i", base][..], args, frames].concat();
        ffmpeg(&input, &path);
        out.push(Good { path, rotation, first });
    };
    let with = |more: &[&'static str]| [&x264[..], more].concat();
    add("h264-30.mp4", 0, 0, "30", &with(&["-bf", "3"]));
    add(
        "hevc-60.mov",
        0,
        0,
        "60",
        &[
            "-c:v",
            "libx265",
            "-preset",
            "ultrafast",
            "-crf",
            "18",
            "-tag:v",
            "hvc1",
            "-x265-params",
            "log-level=error",
        ],
    );
    add(
        "vp9-2997.webm",
        0,
        0,
        "30000/1001",
        &[
            "-c:v",
            "libvpx-vp9",
            "-deadline",
            "realtime",
            "-cpu-used",
            "8",
            "-crf",
            "20",
            "-b:v",
            "0",
        ],
    );
    add("av1-24.mp4", 0, 0, "24", &["-c:v", "libsvtav1", "-preset", "12", "-crf", "20"]);
    add("h264-120.mkv", 0, 0, "120", &with(&[]));
    add("h264-240.mp4", 0, 0, "240", &with(&["-bf", "2"]));
    add(
        "variable.mp4",
        0,
        0,
        "60",
        &with(&["-vf", "setpts='(N+3*floor(N/7)+floor(N/11))/60/TB'", "-fps_mode", "passthrough"]),
    );
    add(
        "late-sound.mp4",
        0,
        0,
        "30",
        &[
            "-itsoffset",
            "0.7",
            "-f",
            "lavfi",
            "-i",
            "sine=440:duration=1.5",
            "-map",
            "0:v",
            "-map",
            "1:a",
            "-c:a",
            "aac",
            "-c:v",
            "libx264",
        ],
    );
    add(
        "early-sound.mkv",
        0,
        0,
        "30",
        &[
            "-f",
            "lavfi",
            "-i",
            "sine=440:duration=3",
            "-filter_complex",
            "[0:v]setpts=PTS+0.4/TB[v]",
            "-map",
            "[v]",
            "-map",
            "1:a",
            "-c:a",
            "aac",
            "-c:v",
            "libx264",
        ],
    );
    add(
        "slow-motion.mp4",
        0,
        0,
        "30",
        &with(&[
            "-metadata",
            "com.android.capture.fps=240",
            "-metadata",
            "creation_time=2026-11-20T10:00:00Z",
            "-movflags",
            "use_metadata_tags",
        ]),
    );
    add(
        "odd-size.webm",
        0,
        0,
        "30",
        &[
            "-vf",
            "scale=641:361",
            "-c:v",
            "libvpx-vp9",
            "-deadline",
            "realtime",
            "-cpu-used",
            "8",
            "-crf",
            "20",
            "-b:v",
            "0",
        ],
    );
    add("later-start.mp4", 0, 0, "30", &with(&["-bf", "3", "-output_ts_offset", "1.5"]));
    add("stream.ts", 0, 0, "30", &with(&["-bf", "2"]));
    let whole = folder.join("h264-30.mp4");
    let whole = whole.to_str().expect("a path");
    let mut copy = |name: &str, rotation: u32, first: u32, args: &[&str]| {
        let path = folder.join(name);
        ffmpeg(args, &path);
        out.push(Good { path, rotation, first });
    };
    let turn = |tag| ["-i", whole, "-c", "copy", "-metadata:s:v:0", tag];
    // This tag turns counter-clockwise when it is copied.
    copy("rotated-90.mov", 270, 0, &turn("rotate=90"));
    copy("rotated-180.mp4", 180, 0, &turn("rotate=180"));
    // An edit list hides the frames before the cut, which decoding still needs.
    copy("edit-list.mp4", 0, 15, &["-ss", "0.5", "-i", whole, "-c", "copy"]);
    fs::remove_file(base).expect("removed");
    out
}

/// Makes the bad files of the set in a folder, each with words that its refusal must contain.
pub fn bad(folder: &Path) -> Vec<(PathBuf, &'static str)> {
    let whole = folder.join("whole.mp4");
    counting_clip(&whole, 320, 60, 30);
    let bytes = fs::read(&whole).expect("read");
    let write = |name: &str, bytes: &[u8]| {
        let path = folder.join(name);
        fs::write(&path, bytes).expect("written");
        path
    };
    let sparse = folder.join("sparse.mp4");
    let mut file = File::create(&sparse).expect("made");
    file.write_all(b"\0\0\0\x18ftypisom").expect("written");
    file.set_len(64 << 20).expect("lengthened");
    let list = b"#EXTM3U\n#EXT-X-TARGETDURATION:5\n#EXTINF:5,\n/etc/hostname\n#EXT-X-ENDLIST\n";
    let sound = folder.join("sound.m4a");
    ffmpeg(&["-f", "lavfi", "-i", "sine=440:duration=1", "-c:a", "aac"], &sound);
    vec![
        (write("truncated.mp4", &bytes[..bytes.len() / 2]), "breaks off before its index"),
        (write("letter.mp4", b"Dear coach, this is not a video."), "not a video"),
        (write("playlist.mp4", list), "not a video"),
        (write("program.mov", b"\x7fELF\x02\x01\x01 and so on"), "not a video"),
        (sparse, "not a video"),
        (sound, "holds no frames"),
    ]
}

/// Presentation times of a file's frames by decoding it with ffprobe, µs.
pub fn times_by_ffprobe(path: &Path) -> Vec<i64> {
    let out = Command::new("ffprobe")
        .args(["-v", "error", "-select_streams", "v:0", "-show_entries"])
        .args(["frame=best_effort_timestamp", "-of", "csv=p=0"])
        .arg(path)
        .output()
        .expect("ffprobe runs");
    let base = Command::new("ffprobe")
        .args(["-v", "error", "-select_streams", "v:0", "-show_entries", "stream=time_base"])
        .args(["-of", "csv=p=0"])
        .arg(path)
        .output()
        .expect("ffprobe runs");
    let base = String::from_utf8_lossy(&base.stdout).trim().trim_matches(',').to_owned();
    let base = base.lines().next().expect("a time base").to_owned();
    let (num, den) = base.split_once('/').expect("a ratio");
    let (num, den): (f64, f64) = (num.parse().expect("a number"), den.parse().expect("a number"));
    String::from_utf8_lossy(&out.stdout)
        .lines()
        .filter_map(|l| l.trim_matches([',', ' ']).parse::<f64>().ok())
        .map(|pts| (pts * num / den * 1e6).round() as i64)
        .collect()
}
