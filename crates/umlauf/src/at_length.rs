//! What takes long and is waited for: a record, a report, a comparison. Its work gives way to marking, which is answered
//! in an instant.

use rayon::{ThreadPool, ThreadPoolBuilder};
use rustix::process::nice;

/// Half the weight of what marks, as Linux counts it: somebody waits for it too.
const NICENESS: i32 = 3;

/// Threads that do what takes long, and nothing else.
pub struct AtLength(Option<ThreadPool>);

impl AtLength {
    /// One thread a core.
    pub fn new() -> Self {
        let pool = ThreadPoolBuilder::new().thread_name(|k| format!("at length {k}"));
        // A system that knows no niceness lets them run beside the rest.
        let gives_way = pool.start_handler(|_| {
            let _ = nice(NICENESS);
        });
        // Without threads of its own the work is done where it is asked for.
        Self(gives_way.build().ok())
    }

    /// Does work on these threads, and waits for it; also all that it does side by side.
    pub fn work<T: Send>(&self, work: impl FnOnce() -> T + Send) -> T {
        match &self.0 {
            Some(pool) => pool.install(work),
            None => work(),
        }
    }
}

impl Default for AtLength {
    fn default() -> Self {
        Self::new()
    }
}

#[cfg(test)]
mod tests {
    use rustix::process::getpriority_process;

    use super::*;

    /// Linux keeps the niceness of each thread.
    #[test]
    fn the_work_and_what_it_does_side_by_side_gives_way_and_nothing_else_does() {
        let own = || getpriority_process(None).ok();
        let before = own();
        let there = AtLength::new().work(|| rayon::join(own, || rayon::join(own, own)));
        let behind = before.map(|b| b + NICENESS);
        assert_eq!(there, (behind, (behind, behind)));
        assert_eq!(own(), before);
    }
}
