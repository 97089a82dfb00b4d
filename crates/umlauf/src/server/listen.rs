//! Connections: who says nothing for long is let go, and on a stop what was begun is finished.

use std::time::Duration;

use axum::Router;
use hyper::server::conn::http1;
use hyper_util::rt::{TokioIo, TokioTimer};
use hyper_util::server::graceful::GracefulShutdown;
use hyper_util::service::TowerToHyperService;
use tokio::net::TcpListener;
use tokio::signal::unix::{SignalKind, signal};

/// A request's head has come within this time, and the next one on its connection.
const HEAD: Duration = Duration::from_secs(20);

/// Connections at once.
const MOST: usize = 512;

/// On a stop what was begun is waited for.
const LAST: Duration = Duration::from_secs(5);

/// Serves until somebody stops the program.
pub(crate) async fn listen(listener: TcpListener, router: Router) {
    let graceful = GracefulShutdown::new();
    let stop = stopped();
    tokio::pin!(stop);
    loop {
        let stream = tokio::select! {
            accepted = listener.accept() => accepted,
            () = &mut stop => break,
        };
        // One that is gone before it is taken, or too many files: the next may do.
        let Ok((stream, _)) = stream else {
            tokio::time::sleep(Duration::from_millis(50)).await;
            continue;
        };
        if graceful.count() >= MOST {
            continue;
        }
        // Answers are small: each goes out at once.
        let _ = stream.set_nodelay(true);
        let connection = http1::Builder::new()
            .timer(TokioTimer::new())
            .header_read_timeout(HEAD)
            .serve_connection(TokioIo::new(stream), TowerToHyperService::new(router.clone()));
        let connection = graceful.watch(connection);
        tokio::spawn(async move {
            // Whoever has gone away hears nothing of it.
            let _ = connection.await;
        });
    }
    let _ = tokio::time::timeout(LAST, graceful.shutdown()).await;
}

/// Somebody stops the program, from its keyboard or otherwise.
async fn stopped() {
    let other = async {
        match signal(SignalKind::terminate()) {
            Ok(mut signal) => drop(signal.recv().await),
            Err(_) => std::future::pending().await,
        }
    };
    let keyboard = async {
        // Without signals the server simply runs on.
        if tokio::signal::ctrl_c().await.is_err() {
            std::future::pending::<()>().await;
        }
    };
    tokio::select! {
        () = other => {}
        () = keyboard => {}
    }
}
