//! What every handler shares: the store, the running jobs and the uploads being written.

use std::collections::{BTreeMap, HashMap, HashSet};
use std::sync::{Arc, Mutex, MutexGuard, PoisonError};

use tokio::sync::{Notify, Semaphore, watch};
use tokio::task::JoinError;
use umlauf_store::job::Queue;
use umlauf_store::{Store, StoreError};

use crate::at_length::AtLength;
use crate::check::finding::Finding;
use crate::people::network::Network;
use crate::people::tries::Tries;
use crate::refused::Refused;
use crate::room::with_room;

/// The server's shared state.
pub struct App {
    /// The yard on disk.
    pub store: Store,
    /// The yard's own name among yards.
    pub identity: String,
    /// What takes long is done there.
    at_length: AtLength,
    /// Wakes the worker of each queue when a job was added.
    work: [Notify; 2],
    /// Wakes the watcher of the folder.
    pub watch: Notify,
    /// Running jobs; sending stops one.
    running: Mutex<HashMap<i64, watch::Sender<bool>>>,
    /// Uploads with a request writing to them.
    writing: Mutex<HashSet<String>>,
    /// Held by each yard that goes out, and by one that comes in.
    pub along: [Arc<Semaphore>; 2],
    /// What was last found wrong with the yard, by what was looked at.
    found: Mutex<BTreeMap<Looked, Vec<Finding>>>,
    /// Held while a backup is made; why the latest one could not be.
    pub backing_up: tokio::sync::Mutex<Option<String>>,
    /// Held while a link's report is made: one after the other.
    pub one_report: Semaphore,
    /// Held while a film is made for a link; why some could not be, by their links.
    pub sharing: tokio::sync::Mutex<BTreeMap<i64, String>>,
    /// Wrong passwords.
    tries: Mutex<Tries>,
    /// Passwords are looked at one after the other: each takes memory and time.
    pub one_password: Semaphore,
    /// How the machine is reached; the server keeps it true.
    pub network: watch::Sender<Network>,
    /// Wakes whoever keeps that true.
    pub network_asked: Notify,
}

/// What is looked at, in the order in which it is told of.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord)]
pub enum Looked {
    /// The yard's file.
    Tables,
    /// The film of a clip.
    Film(i64),
    /// Folders of no clip.
    Folders,
    /// The backups: whether there are late ones.
    Backups,
    /// Whether what they hold is sound.
    Kept,
}

/// An upload that this request alone may write to, until dropped.
pub struct Writing {
    app: Arc<App>,
    id: String,
}

impl App {
    /// State over a store.
    ///
    /// # Errors
    /// When the yard cannot be read.
    pub fn new(store: Store) -> Result<Arc<Self>, StoreError> {
        Ok(Arc::new(Self {
            identity: store.identity()?,
            store,
            at_length: AtLength::new(),
            work: [Notify::new(), Notify::new()],
            watch: Notify::new(),
            running: Mutex::default(),
            writing: Mutex::default(),
            along: [2, 1].map(|most| Arc::new(Semaphore::new(most))),
            found: Mutex::default(),
            backing_up: tokio::sync::Mutex::default(),
            one_report: Semaphore::new(1),
            sharing: tokio::sync::Mutex::default(),
            tries: Mutex::default(),
            one_password: Semaphore::new(1),
            network: watch::Sender::new(Network::default()),
            network_asked: Notify::new(),
        }))
    }

    /// Runs store calls on a blocking thread.
    ///
    /// # Errors
    /// What the calls meet.
    pub async fn with<T, F>(self: &Arc<Self>, calls: F) -> Result<T, Refused>
    where
        F: FnOnce(&Store) -> Result<T, StoreError> + Send + 'static,
        T: Send + 'static,
    {
        let app = Arc::clone(self);
        Ok(tokio::task::spawn_blocking(move || calls(&app.store)).await??)
    }

    /// As [`App::with`], for calls that take something away: they have room also on a full disk.
    ///
    /// # Errors
    /// What the calls meet.
    pub async fn take_away<T, F>(self: &Arc<Self>, calls: F) -> Result<T, Refused>
    where
        F: Fn(&Store) -> Result<T, StoreError> + Send + 'static,
        T: Send + 'static,
    {
        self.with(move |s| with_room(s, calls)).await
    }

    /// As [`App::with`], for calls that refuse for reasons of their own.
    ///
    /// # Errors
    /// What the calls meet.
    pub async fn ask<T, F>(self: &Arc<Self>, calls: F) -> Result<T, Refused>
    where
        F: FnOnce(&Store) -> Result<T, Refused> + Send + 'static,
        T: Send + 'static,
    {
        let app = Arc::clone(self);
        tokio::task::spawn_blocking(move || calls(&app.store)).await?
    }

    /// As [`App::with`], for an answer that must all be of one moment of the yard, whatever is
    /// written meanwhile.
    ///
    /// # Errors
    /// What the calls meet.
    pub async fn read<T, F>(self: &Arc<Self>, calls: F) -> Result<T, Refused>
    where
        F: FnOnce(&Store) -> Result<T, StoreError> + Send + 'static,
        T: Send + 'static,
    {
        self.with(move |s| calls(&s.snapshot()?)).await
    }

    /// As [`App::read`], for what takes long: it gives way to marking.
    ///
    /// # Errors
    /// What the calls meet.
    pub async fn read_at_length<T, F, E>(self: &Arc<Self>, calls: F) -> Result<T, Refused>
    where
        F: FnOnce(&Store) -> Result<T, E> + Send + 'static,
        T: Send + 'static,
        E: Into<Refused>,
    {
        let app = Arc::clone(self);
        let read = move || calls(&app.store.snapshot().map_err(Refused::from)?).map_err(E::into);
        self.at_length(read).await?
    }

    /// Does what takes long where it gives way to marking.
    ///
    /// # Errors
    /// When it breaks off.
    pub async fn at_length<T, F>(self: &Arc<Self>, work: F) -> Result<T, JoinError>
    where
        F: FnOnce() -> T + Send + 'static,
        T: Send + 'static,
    {
        let app = Arc::clone(self);
        tokio::task::spawn_blocking(move || app.at_length.work(work)).await
    }

    /// Claims an upload for one request; `None` when another one writes to it.
    pub fn claim(self: &Arc<Self>, id: &str) -> Option<Writing> {
        locked(&self.writing)
            .insert(id.to_owned())
            .then(|| Writing { app: Arc::clone(self), id: id.to_owned() })
    }

    /// Wakes the workers: a job was added.
    pub fn wake(&self) {
        self.work.iter().for_each(Notify::notify_one);
    }

    /// Waits until a job was added that may be of this queue.
    pub async fn job_added(&self, queue: Queue) {
        self.work[usize::from(queue == Queue::Looked)].notified().await;
    }

    /// Keeps what was found wrong with something that was looked at.
    pub fn has_looked(&self, at: Looked, found: Vec<Finding>) {
        locked(&self.found).insert(at, found);
    }

    /// All that was found wrong.
    pub fn findings(&self) -> Vec<Finding> {
        locked(&self.found).values().flatten().cloned().collect()
    }

    /// Wrong passwords so far, for one look or change.
    pub fn tries(&self) -> MutexGuard<'_, Tries> {
        locked(&self.tries)
    }

    /// Notes that a job runs; what it returns turns true when the job shall stop.
    pub fn job_begins(&self, id: i64) -> watch::Receiver<bool> {
        let (stop, stopped) = watch::channel(false);
        locked(&self.running).insert(id, stop);
        stopped
    }

    /// Notes that a job has ended.
    pub fn job_ended(&self, id: i64) {
        locked(&self.running).remove(&id);
    }

    /// Stops a job if it runs.
    pub fn stop_job(&self, id: i64) {
        if let Some(stop) = locked(&self.running).get(&id) {
            stop.send_replace(true);
        }
    }
}

impl Drop for Writing {
    fn drop(&mut self) {
        locked(&self.app.writing).remove(&self.id);
    }
}

fn locked<T>(mutex: &Mutex<T>) -> MutexGuard<'_, T> {
    // The maps hold no half-done change across a panic.
    mutex.lock().unwrap_or_else(PoisonError::into_inner)
}
