//! What is made of footage in the background.

use std::path::Path;
use std::sync::Arc;

use umlauf_footage::proxy;
use umlauf_footage::{filmstrip, probe, sound};
use umlauf_gait::base::limb::Limb;
use umlauf_signals::envelope::envelope;
use umlauf_store::clip::{Clip, ProxyState};
use umlauf_store::job::{Job, JobKind, JobState, Queue};

use crate::app::App;
use crate::clip::clock::likely_slow_factor;
use crate::problem::Problem;
use crate::refused::Refused;
use crate::suggest::found::{Kept, LimbClick};
use crate::suggest::marks::{self, FilmClock};
use crate::suggest::search::{Ask, Given, search};
use crate::suggest::worn::{Click, Shown};

/// One point of the sound's envelope covers this much of the file, µs.
pub const SOUND_STEP_US: i64 = 5_000;

/// What the name of a file that is being made has before its ending: each job writes a file of its own.
pub const UNFINISHED: &str = ".part";

/// How long the worker sleeps at most when there is nothing to do.
const IDLE: std::time::Duration = std::time::Duration::from_secs(5);

/// Works through a queue until the program ends.
pub async fn work(app: Arc<App>, queue: Queue) {
    loop {
        match app.with(move |s| s.take_job(queue)).await {
            Ok(Some(job)) => run(&app, &job).await,
            // Another program may have added work to the same yard: look now and then.
            Ok(None) => {
                let _ = tokio::time::timeout(IDLE, app.job_added(queue)).await;
            }
            Err(e) => {
                tracing::error!("the queue cannot be read: {}", e);
                tokio::time::sleep(std::time::Duration::from_secs(5)).await;
            }
        }
    }
}

async fn run(app: &Arc<App>, job: &Job) {
    let mut stop = app.job_begins(job.id);
    let done = tokio::select! {
        done = make(app, job) => done.err().map(|e| Problem::from(e).detail),
        _ = stop.wait_for(|stop| *stop) => Some("cancelled".to_owned()),
    };
    app.job_ended(job.id);
    // A disk that is full, or a yard that is out of reach, for now does not leave a job that seems to run for ever.
    while let Err(e) = keep_end(app, job, done.clone()).await {
        tracing::error!("the end of job {} cannot be kept yet: {}", job.id, e);
        tokio::time::sleep(IDLE).await;
    }
}

async fn keep_end(app: &Arc<App>, job: &Job, failed: Option<String>) -> Result<(), Refused> {
    let (id, clip, kind) = (job.id, job.clip, job.kind);
    app.with(move |s| {
        // One that was put back into the queue has not failed; one whose clip has gone is gone too.
        let has_failed = failed.is_some() && s.job(id).is_ok_and(|j| j.state != JobState::Waiting);
        if has_failed && kind == JobKind::Proxy {
            s.set_proxy(clip, ProxyState::Failed, 0)?;
        }
        s.end_job(id, failed.as_deref())
    })
    .await
}

async fn make(app: &Arc<App>, job: &Job) -> Result<(), Refused> {
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
                let half = folder.join(format!("filmstrip.{}{UNFINISHED}.jpg", job.id));
                filmstrip::make(&folder.join("proxy.mp4"), clip.length_s, &half).await?;
                tokio::fs::rename(&half, &made).await?;
            }
            Ok(())
        }
        JobKind::Footfalls => find_footfalls(app, job, &clip, &original).await,
    }
}

/// Looks for footfalls; what is found waits on the clip's desk.
async fn find_footfalls(
    app: &Arc<App>,
    job: &Job,
    clip: &Clip,
    original: &Path,
) -> Result<(), Refused> {
    let slow = likely_slow_factor(clip);
    let (id, length_s) = (clip.id, clip.length_s);
    if app.with(move |s| Ok(marks::been_through(&s.marks(id)?, length_s, slow))).await? {
        return Ok(());
    }
    let probe = probe::probe(original).await?;
    let ask = Ask { picture: true, sound: probe.has_sound, near: None, distance_m: None, slow };
    let film = FilmClock {
        first_us: probe.frame_times.first().copied().unwrap_or(0),
        slow,
        frame_us: 1e6 / probe.frame_rate().unwrap_or(30.0),
    };
    let kept = app.with(move |s| Kept::in_clip(s, id)).await?;
    let (wraps, hooves) = kept.map_or_else(Default::default, |kept| (kept.wraps, kept.hooves));
    let (send, mut receive) = tokio::sync::mpsc::unbounded_channel();
    let done = move |share| {
        // The receiver lives as long as the search.
        let _ = send.send(share);
    };
    let found = {
        let given = Given {
            wraps: clicks(&wraps, film).map(|(limb, click)| (limb, Shown::Click(click))).collect(),
            hooves: clicks(&hooves, film).collect(),
            ..Given::default()
        };
        let searching = search(original, &probe, ask, &given, &done);
        tokio::pin!(searching);
        loop {
            tokio::select! {
                found = &mut searching => break found.map_err(|e| Refused::Failed(format!("{e:#}")))?,
                Some(share) = receive.recv() => {
                    let job = job.id;
                    app.with(move |s| s.job_progress(job, share)).await?;
                }
            }
        }
    };
    let name = format!("found{}", job.id);
    app.ask(move |s| {
        let standing = s.marks_and_suggestions(id)?;
        let (suggested, mut kept) = marks::marks(&found, &name, film, &standing);
        (kept.wraps, kept.hooves) = (wraps, hooves);
        let body = serde_json::to_string(&kept).map_err(|e| Refused::Failed(e.to_string()))?;
        s.suggest(id, suggested, &body)?;
        Ok(())
    })
    .await
}

/// Clicks as a search reads them.
fn clicks(kept: &[LimbClick], film: FilmClock) -> impl Iterator<Item = (Limb, Click)> {
    kept.iter().map(move |c| {
        let click = Click { at_s: film.seconds(c.at_us), x: c.x_px, y: c.y_px };
        (c.limb.into(), click)
    })
}

async fn make_proxy(
    app: &Arc<App>,
    job: &Job,
    original: &Path,
    folder: &Path,
) -> Result<(), Refused> {
    let id = job.clip;
    let ready = folder.join("proxy.mp4");
    let times = app.with(move |s| s.frame_times(id)).await?;
    // Another clip of the same content may have made it.
    if tokio::fs::try_exists(&ready).await? {
        let shown = proxy::check(&ready, &times, |_| ()).await?;
        return keep_proxy(app, id, times, shown).await;
    }
    let half = folder.join(format!("proxy.{}{UNFINISHED}.mp4", job.id));
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

async fn keep_proxy(
    app: &Arc<App>,
    id: i64,
    times: Vec<i64>,
    shown: proxy::Shown,
) -> Result<(), Refused> {
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
