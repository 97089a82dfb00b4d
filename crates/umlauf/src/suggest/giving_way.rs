//! Long work that gives way: whoever marks a clip meanwhile waits no longer than without it.

use anyhow::{Context as _, Result};
use rustix::process::nice;
use tokio::sync::oneshot;

/// What takes the cores that are left has this niceness, as Linux counts it: a tenth of the weight of what answers a
/// person.
const NICENESS: i32 = 10;

/// Does work on a thread of its own, which gives way as do the threads that it starts.
///
/// # Errors
/// When the thread cannot be started, or the work breaks off.
pub async fn giving_way<T: Send + 'static>(work: impl FnOnce() -> T + Send + 'static) -> Result<T> {
    let (tell, told) = oneshot::channel();
    let worker = std::thread::Builder::new().name("gives way".to_owned());
    worker
        .spawn(move || {
            // A system that knows no niceness lets it run beside the rest.
            let _ = nice(NICENESS);
            // Whoever asked may be gone.
            let _ = tell.send(work());
        })
        .context("no thread could be started to look for footfalls")?;
    told.await.context("the look for footfalls broke off")
}

#[cfg(test)]
#[allow(clippy::unwrap_used, reason = "a test that cannot go on has failed")]
mod tests {
    use rustix::process::getpriority_process;

    use super::*;

    /// Linux keeps the niceness of each thread, and a thread hands it on.
    #[tokio::test]
    async fn the_work_gives_way_with_the_threads_it_starts_and_nothing_else_does() {
        let own = || getpriority_process(None).unwrap();
        let before = own();
        let (work, started) =
            giving_way(move || (own(), std::thread::spawn(own).join().unwrap())).await.unwrap();
        assert_eq!((work, started), (before + NICENESS, before + NICENESS));
        assert_eq!(own(), before);
        assert!(giving_way(|| panic!("on purpose")).await.is_err());
    }
}
