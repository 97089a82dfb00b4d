//! Footage is taken in, and what is made of it in the background.

use std::path::Path;
use std::sync::Arc;

use umlauf_footage::proxy::Shown;
use umlauf_footage::{filmstrip, probe, proxy, sound};
use umlauf_signals::envelope::envelope;
use umlauf_store::clip::{Footage, ProxyState};
use umlauf_store::job::{Job, JobKind};

use crate::app::App;
use crate::problem::Problem;

/// One point of the sound's envelope covers this much of the file, µs.
pub const SOUND_STEP_US: i64 = 5_000;
/// How long the worker sleeps at most when there is nothing to do.
const IDLE: std::time::Duration = std::time::Duration::from_secs(5);

/// What became of a file that was to be taken in.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Taken {
    /// A new clip.
    New(i64),
    /// The same file is in the yard already (in this session, when one was named).
    Known(i64),
}

impl Taken {
    /// The clip's number.
    pub const fn clip(self) -> i64 {
        match self {
            Self::New(id) | Self::Known(id) => id,
        }
    }
}

/// Takes a file into the yard: probes it, moves it to its content's folder and queues the work
/// on it. The same file added to the same session again is the clip that is there.
///
/// # Errors
/// A [`Problem`] for a file that is not footage; the file is left where it was.
pub async fn intake(
    app: &Arc<App>,
    session: Option<i64>,
    name: &str,
    file: &Path,
) -> Result<Taken, Problem> {
    let probed = probe::probe(file).await?;
    let (path, bytes) = (file.to_owned(), tokio::fs::metadata(file).await?.len());
    let content = tokio::task::spawn_blocking(move || hash(&path))
        .await
        .map_err(|e| Problem::internal(&e))??;
    let wanted = content.clone();
    let known = app.with(move |s| s.clips_of_content(&wanted)).await?;
    let same = known.iter().find(|c| !c.removed && (session.is_none() || c.session == session));
    if let Some(clip) = same {
        return Ok(Taken::Known(clip.id));
    }
    let stored = match known.first() {
        Some(clip) => clip.footage.file.clone(),
        None => {
            let stored = format!("original.{}", ending(name));
            let folder = app.store.footage_folder(&content);
            tokio::fs::create_dir_all(&folder).await?;
            tokio::fs::rename(file, folder.join(&stored)).await?;
            stored
        }
    };
    let footage = Footage {
        content,
        file: stored,
        bytes,
        frame_rate: probed.frame_rate(),
        codec: probed.codec,
        width: probed.width,
        height: probed.height,
        rotation: probed.rotation,
        tagged_rate: probed.tagged_rate,
        recorded: probed.recorded,
    };
    let name = clip_name(name);
    let id = app
        .with(move |s| {
            let id = s.add_clip(session, &name, &footage, &probed.frame_times)?;
            if probed.has_sound {
                s.add_job(id, JobKind::Sound)?;
            }
            s.add_job(id, JobKind::Proxy)?;
            s.add_job(id, JobKind::Filmstrip)?;
            Ok(id)
        })
        .await?;
    app.work.notify_one();
    Ok(Taken::New(id))
}

/// BLAKE3 of a file, hexadecimal.
fn hash(path: &Path) -> std::io::Result<String> {
    let mut hasher = blake3::Hasher::new();
    hasher.update_reader(std::fs::File::open(path)?)?;
    Ok(hasher.finalize().to_hex().to_string())
}

/// The file's ending, if it is a plain one.
fn ending(name: &str) -> String {
    let plain =
        |e: &&str| (1..=5).contains(&e.len()) && e.bytes().all(|b| b.is_ascii_alphanumeric());
    name.rsplit_once('.').map(|(_, e)| e).filter(plain).unwrap_or("video").to_ascii_lowercase()
}

/// A clip's name: the file's without its ending.
fn clip_name(name: &str) -> String {
    let base = name.rsplit(['/', '\\']).next().unwrap_or(name);
    let stem = base.rsplit_once('.').map_or(base, |(stem, _)| stem).trim();
    if stem.is_empty() { "clip".into() } else { stem.into() }
}

/// Works through the queue until the program ends.
pub async fn work(app: Arc<App>) {
    loop {
        match app.with(|s| s.take_job()).await {
            Ok(Some(job)) => run(&app, &job).await,
            // Another program may have added work to the same yard: look now and then.
            Ok(None) => {
                let _ = tokio::time::timeout(IDLE, app.work.notified()).await;
            }
            Err(e) => {
                tracing::error!("the queue cannot be read: {}", e.detail);
                tokio::time::sleep(std::time::Duration::from_secs(5)).await;
            }
        }
    }
}

async fn run(app: &Arc<App>, job: &Job) {
    let mut stop = app.job_begins(job.id);
    let done = tokio::select! {
        done = make(app, job) => done.err().map(|p| p.detail),
        _ = stop.wait_for(|stop| *stop) => Some("cancelled".to_owned()),
    };
    app.job_ended(job.id);
    let (id, clip, kind) = (job.id, job.clip, job.kind);
    let ended = app
        .with(move |s| {
            if done.is_some() && kind == JobKind::Proxy {
                s.set_proxy(clip, ProxyState::Failed, 0)?;
            }
            s.end_job(id, done.as_deref())
        })
        .await;
    if let Err(e) = ended {
        tracing::error!("the end of job {id} cannot be kept: {}", e.detail);
    }
}

async fn make(app: &Arc<App>, job: &Job) -> Result<(), Problem> {
    let id = job.clip;
    let clip = app.with(move |s| s.clip(id)).await?;
    let folder = app.store.footage_folder(&clip.footage.content);
    let original = folder.join(&clip.footage.file);
    match job.kind {
        JobKind::Proxy => make_proxy(app, job, &original, &folder).await,
        JobKind::Sound => {
            let samples = sound::samples(&original).await?;
            let window = sound::RATE * usize::try_from(SOUND_STEP_US).unwrap_or(0) / 1_000_000;
            #[expect(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "0 to 255")]
            let points: Vec<u8> =
                envelope(&samples, window).into_iter().map(|v| (v * 255.0) as u8).collect();
            app.with(move |s| s.set_sound(id, &points)).await
        }
        JobKind::Filmstrip => {
            let made = folder.join("filmstrip.jpg");
            if !tokio::fs::try_exists(&made).await? {
                let half = folder.join("filmstrip.part.jpg");
                filmstrip::make(&folder.join("proxy.mp4"), clip.length_s, &half).await?;
                tokio::fs::rename(&half, &made).await?;
            }
            Ok(())
        }
    }
}

async fn make_proxy(
    app: &Arc<App>,
    job: &Job,
    original: &Path,
    folder: &Path,
) -> Result<(), Problem> {
    let id = job.clip;
    let ready = folder.join("proxy.mp4");
    let times = app.with(move |s| s.frame_times(id)).await?;
    // Another clip of the same content may have made it.
    if tokio::fs::try_exists(&ready).await? {
        let shown = proxy::check(&ready, &times).await?;
        return keep_proxy(app, id, times, shown).await;
    }
    let half = folder.join("proxy.part.mp4");
    let (send, mut receive) = tokio::sync::mpsc::unbounded_channel();
    let shown = {
        let making = proxy::make(original, &times, &half, move |share| {
            // The receiver lives as long as the making.
            let _ = send.send(share);
        });
        tokio::pin!(making);
        loop {
            tokio::select! {
                made = &mut making => break made?,
                Some(share) = receive.recv() => {
                    let job = job.id;
                    app.with(move |s| s.job_progress(job, share)).await?;
                }
            }
        }
    };
    tokio::fs::rename(&half, &ready).await?;
    keep_proxy(app, id, times, shown).await
}

async fn keep_proxy(app: &Arc<App>, id: i64, times: Vec<i64>, shown: Shown) -> Result<(), Problem> {
    app.with(move |s| {
        if shown.frames < times.len() {
            let lost = times.len() - shown.frames;
            let remark = format!(
                "The file breaks off: its last {lost} frames cannot be shown. Copy it from the camera once more if they matter."
            );
            s.set_frame_times(id, &times[..shown.frames], &remark)?;
        }
        s.set_proxy(id, ProxyState::Ready, shown.shift_us)
    })
    .await
}
