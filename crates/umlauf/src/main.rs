//! The `umlauf` program: one binary for the command line and the server.

use std::process::ExitCode;

use tracing_subscriber::filter::{LevelFilter, Targets};
use tracing_subscriber::layer::SubscriberExt;
use tracing_subscriber::util::SubscriberInitExt;

/// Gives memory back that a long evening no longer needs, which the system's own keeps for each of many threads.
#[global_allocator]
static MEMORY: mimalloc::MiMalloc = mimalloc::MiMalloc;

fn main() -> ExitCode {
    let wanted = std::env::var("RUST_LOG")
        .ok()
        .and_then(|said| said.parse::<Targets>().ok())
        .unwrap_or_else(|| Targets::new().with_default(LevelFilter::WARN));
    tracing_subscriber::registry()
        .with(wanted)
        .with(tracing_subscriber::fmt::layer().with_writer(std::io::stderr))
        .init();
    umlauf::cli::run()
}
