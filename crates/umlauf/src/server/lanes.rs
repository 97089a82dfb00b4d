//! What takes long waits for its turn, so that marking never does: a hundred tables to analyse are analysed one after the
//! other, and beyond those that wait the next is told to come again.

use std::sync::Arc;
use std::sync::atomic::{AtomicUsize, Ordering};

use axum::extract::{Request, State};
use axum::middleware::Next;
use axum::response::{IntoResponse as _, Response};
use tokio::sync::Semaphore;

use crate::refused::Refused;

/// How many may wait.
const WAIT: usize = 48;

/// The lane of what takes long.
pub(crate) struct Slow {
    turns: Semaphore,
    waiting: AtomicUsize,
}

impl Slow {
    /// One turn fewer than there are cores, one at the least.
    pub(crate) fn new() -> Arc<Self> {
        let cores = std::thread::available_parallelism().map_or(1, std::num::NonZero::get);
        let turns = Semaphore::new(cores.saturating_sub(1).max(1));
        Arc::new(Self { turns, waiting: AtomicUsize::new(0) })
    }
}

/// Whether an address is of what takes long.
fn is_slow(path: &str) -> bool {
    ["/api/analyse", "/api/compare", "/api/reports"].iter().any(|p| path.starts_with(p))
        || path.ends_with("/record")
        || path.ends_with("/report")
}

/// Lets what takes long through when its turn comes; its body is not read before that.
pub(crate) async fn in_turn(
    State(slow): State<Arc<Slow>>,
    request: Request,
    next: Next,
) -> Response {
    if !is_slow(request.uri().path()) {
        return next.run(request).await;
    }
    let waits = Waits::one_more(&slow);
    if waits.before > WAIT {
        return Refused::TooMany.into_response();
    }
    // The lane is never closed.
    let turn = slow.turns.acquire().await;
    drop(waits);
    let answer = next.run(request).await;
    drop(turn);
    answer
}

/// One that waits, until it is dropped: also when whoever asked has gone.
struct Waits {
    of: Arc<Slow>,
    before: usize,
}

impl Waits {
    fn one_more(of: &Arc<Slow>) -> Self {
        Self { before: of.waiting.fetch_add(1, Ordering::Relaxed), of: Arc::clone(of) }
    }
}

impl Drop for Waits {
    fn drop(&mut self) {
        self.of.waiting.fetch_sub(1, Ordering::Relaxed);
    }
}
