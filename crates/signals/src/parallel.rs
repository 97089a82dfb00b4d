//! One thing after another on all cores.

use std::num::NonZero;
use std::thread::{available_parallelism, scope};

/// What a function makes of every item, in order: each core takes a stretch of them.
pub(crate) fn mapped<T: Send, R: Send>(items: Vec<T>, make: impl Fn(T) -> R + Sync) -> Vec<R> {
    let cores = available_parallelism().map_or(1, NonZero::get);
    let long = items.len().div_ceil(cores).max(1);
    let mut stretches: Vec<Vec<T>> = Vec::with_capacity(cores);
    let mut items = items.into_iter();
    loop {
        let stretch: Vec<T> = items.by_ref().take(long).collect();
        if stretch.is_empty() {
            break;
        }
        stretches.push(stretch);
    }
    let make = &make;
    scope(|scope| {
        let running: Vec<_> = stretches
            .into_iter()
            .map(|own| scope.spawn(move || own.into_iter().map(make).collect::<Vec<R>>()))
            .collect();
        let done = running.into_iter().flat_map(|r| match r.join() {
            Ok(done) => done,
            // What went wrong there goes wrong here.
            Err(panic) => std::panic::resume_unwind(panic),
        });
        done.collect()
    })
}
