//! Footage is taken in, and what is made of it in the background.

use std::path::Path;
use std::sync::Arc;

use umlauf_footage::{probe, proxy, sound};
use umlauf_signals::envelope::envelope;
use umlauf_store::clip::{Clip, Footage, ProxyState};
use umlauf_store::job::{Job, JobKind};

use crate::app::App;
use crate::problem::Problem;

/// One point of the sound's envelope covers this much of the file, µs.
pub const SOUND_STEP_US: i64 = 5_000;

/// Takes a file into the yard: probes it, moves it to its content's folder and queues the work
/// on it. The same file added to the same session again is the clip that is there.
///
/// # Errors
/// A [`Problem`] for a file that is not footage; the file is left where it was.
pub async fn intake(app: &Arc<App>, session: i64, name: &str, file: &Path) -> Result<i64, Problem> {
    let probed = probe::probe(file).await?;
    let (path, bytes) = (file.to_owned(), tokio::fs::metadata(file).await?.len());
    let content = tokio::task::spawn_blocking(move || hash(&path))
        .await
        .map_err(|e| Problem::internal(&e))??;
    let wanted = content.clone();
    let known = app.with(|s| s.clips()).await?.into_iter();
    let mut known = known.filter(|c| c.footage.content == wanted).peekable();
    let already: Option<Clip> = known.peek().cloned();
    if let Some(clip) = known.find(|c| c.session == session) {
        return Ok(clip.id);
    }
    let stored = match &already {
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
    };
    let name = clip_name(name);
    let id = app
        .with(move |s| {
            let id = s.add_clip(session, &name, &footage, &probed.frame_times)?;
            if probed.has_sound {
                s.add_job(id, JobKind::Sound)?;
            }
            s.add_job(id, JobKind::Proxy)?;
            Ok(id)
        })
        .await?;
    app.work.notify_one();
    Ok(id)
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
            Ok(None) => app.work.notified().await,
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
                s.set_proxy(clip, ProxyState::Failed)?;
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
        JobKind::Proxy => {
            let ready = folder.join("proxy.mp4");
            if !tokio::fs::try_exists(&ready).await? {
                let times = app.with(move |s| s.frame_times(id)).await?;
                let half = folder.join("proxy.part.mp4");
                let (send, mut receive) = tokio::sync::mpsc::unbounded_channel();
                let making = proxy::make(&original, &times, &half, move |share| {
                    // The receiver lives as long as the making.
                    let _ = send.send(share);
                });
                tokio::pin!(making);
                loop {
                    tokio::select! {
                        made = &mut making => { made?; break; }
                        Some(share) = receive.recv() => {
                            let job = job.id;
                            app.with(move |s| s.job_progress(job, share)).await?;
                        }
                    }
                }
                tokio::fs::rename(&half, &ready).await?;
            }
            app.with(move |s| s.set_proxy(id, ProxyState::Ready)).await
        }
        JobKind::Sound => {
            let samples = sound::samples(&original).await?;
            let window = sound::RATE * usize::try_from(SOUND_STEP_US).unwrap_or(0) / 1_000_000;
            #[expect(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "0 to 255")]
            let points: Vec<u8> =
                envelope(&samples, window).into_iter().map(|v| (v * 255.0) as u8).collect();
            app.with(move |s| s.set_sound(id, &points)).await
        }
    }
}
