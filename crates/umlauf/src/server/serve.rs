//! The server: bound, announced, stopped cleanly.

use std::io::Write as _;
use std::net::SocketAddr;
use std::path::Path;
use std::sync::Arc;

use anyhow::{Context as _, Result, bail};
use tokio::net::TcpListener;
use tokio::sync::watch::channel;
use umlauf_store::Store;
use umlauf_store::job::Queue;

use crate::app::App;
use crate::choices::FINDS_NOTHING;
use crate::held::Held;
use crate::intake::watch;
use crate::leftovers::swept;
use crate::people::network::{self, Asked};
use crate::server::listen::{Listening, stopped};
use crate::server::reached::Reached;
use crate::server::router;
use crate::{digest, jobs, room, watchman};

/// Where to listen and which yard to open.
#[derive(Clone, Debug)]
pub struct Serving<'a> {
    /// The yard's folder.
    pub data: &'a Path,
    /// Who besides this machine may reach it.
    pub network: Asked,
    /// Port; 0 takes a free one.
    pub port: u16,
    /// Largest size of the yard's file, KiB.
    pub limit_kib: Option<u64>,
    /// Footfalls are not looked for in new footage by itself.
    pub by_hand: bool,
}

/// Opens the yard, lets `before` see it, and serves until interrupted.
///
/// # Errors
/// When the yard cannot be opened or the port is taken.
pub async fn serve(
    serving: &Serving<'_>,
    before: impl AsyncFnOnce(&Arc<App>) -> Result<()>,
) -> Result<()> {
    let _held = Held::hold(serving.data, "a server")?;
    let store = Store::open(serving.data, serving.limit_kib)
        .with_context(|| format!("the yard in {} cannot be opened", serving.data.display()))?;
    swept(&store)?;
    room::keep(serving.data);
    store.requeue_jobs()?;
    if serving.by_hand {
        store.set_choice(FINDS_NOTHING, Some("yes"))?;
    }
    nobody_unasked(&store, serving)?;
    let app = App::new(store)?;
    before(&app).await?;
    let wanted = SocketAddr::new(network::here(&serving.network), serving.port);
    let listener = TcpListener::bind(wanted).await.with_context(|| {
        format!("{wanted} cannot be listened on; is Umlauf running already? Give another --port")
    })?;
    let at = listener.local_addr()?;
    let (certificate, served_with) = channel(None);
    let listening = Listening::new(router::router(Arc::clone(&app)), served_with);
    let mut reached =
        Reached::new(Arc::clone(&app), serving.network.clone(), certificate, &listening, at);
    reached.look().await?;
    for queue in [Queue::Shown, Queue::Looked] {
        tokio::spawn(jobs::work(Arc::clone(&app), queue));
    }
    tokio::spawn(watch::watch(Arc::clone(&app)));
    tokio::spawn(watchman::hourly(Arc::clone(&app)));
    tokio::spawn(watchman::films(Arc::clone(&app)));
    let refreshed = Arc::clone(&app);
    // A thread of its own: the server must not wait for it when it stops.
    std::thread::spawn(move || {
        if let Err(e) = digest::refresh(&refreshed.store) {
            tracing::warn!("digests are not made ahead: {e}");
        }
    });
    say(&format!("Umlauf is at http://{at}/  (yard in {})", serving.data.display()));
    for host in app.network.borrow().hosts() {
        say(&format!(
            "In the yard’s network it is at https://{host}/ (a tablet begins at http://{host}/tablet)"
        ));
    }
    tokio::spawn(Arc::clone(&listening).listen(listener));
    tokio::spawn(reached.keep());
    stopped().await;
    listening.finish().await;
    Ok(())
}

/// Where others can reach the yard, a coach has a password.
fn nobody_unasked(store: &Store, serving: &Serving<'_>) -> Result<()> {
    let Some(address) = serving.network.address.filter(|a| !a.is_loopback()) else { return Ok(()) };
    if !store.has_coach()? {
        bail!(
            "--address {address} lets others in, and nobody has a password yet: set one with \
             `umlauf password --data {}`, or start without --address and set it in Setup",
            serving.data.display()
        );
    }
    Ok(())
}

/// Says something to whoever started the program; that nobody listens any more is no reason to end.
fn say(line: &str) {
    let mut out = std::io::stdout().lock();
    let _ = writeln!(out, "{line}").and_then(|()| out.flush());
}
