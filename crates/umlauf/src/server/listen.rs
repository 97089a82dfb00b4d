//! Connections: who says nothing for long is let go, and on a stop what was begun is finished. One port takes both plain
//! and safe ones: the first byte says which it is.

use std::collections::HashMap;
use std::net::IpAddr;
use std::sync::{Arc, Mutex, PoisonError};
use std::time::Duration;

use axum::Router;
use axum::extract::Request;
use hyper::body::Incoming;
use hyper::server::conn::http1;
use hyper_util::rt::{TokioIo, TokioTimer};
use hyper_util::server::graceful::{GracefulShutdown, Watcher};
use hyper_util::service::TowerToHyperService;
use tokio::io::{AsyncRead, AsyncWrite};
use tokio::net::{TcpListener, TcpStream};
use tokio::signal::unix::{SignalKind, signal};
use tokio::sync::watch;
use tokio::task::JoinSet;
use tokio_rustls::TlsAcceptor;
use tokio_rustls::rustls::ServerConfig;
use tower::util::MapRequest;

use crate::people::who::Peer;

/// A request's head has come within this time, and the next one on its connection.
const HEAD: Duration = Duration::from_secs(20);

/// Connections at once; of other machines so many fewer, that the machine itself always finds one, and of one of them.
const MOST: usize = 512;
const MOST_OF_OTHERS: usize = 384;
const MOST_OF_ONE: usize = 64;

/// On a stop what was begun is waited for.
const LAST: Duration = Duration::from_secs(5);

/// How a safe connection begins (RFC 8446, 5.1: a record of the type handshake).
const HANDSHAKE: u8 = 22;

/// The certificate that is served with now.
pub(crate) type Certificate = watch::Receiver<Option<Arc<ServerConfig>>>;

/// Whatever listens shares this.
pub(crate) struct Listening {
    router: Router,
    certificate: Certificate,
    /// Gone once the program stops.
    connections: Mutex<Option<GracefulShutdown>>,
    /// How many connections other machines have.
    others: Mutex<HashMap<IpAddr, usize>>,
}

/// There are too many.
struct TooMany;

/// A connection of another machine, counted until it is dropped.
struct Counted {
    of: Arc<Listening>,
    address: IpAddr,
}

impl Drop for Counted {
    fn drop(&mut self) {
        let mut others = self.of.others.lock().unwrap_or_else(PoisonError::into_inner);
        if let Some(n) = others.get_mut(&self.address) {
            *n -= 1;
            if *n == 0 {
                others.remove(&self.address);
            }
        }
    }
}

impl Listening {
    /// Serves `router`; safely, where there is a certificate.
    pub(crate) fn new(router: Router, certificate: Certificate) -> Arc<Self> {
        let connections = Mutex::new(Some(GracefulShutdown::new()));
        Arc::new(Self { router, certificate, connections, others: Mutex::default() })
    }

    /// Takes connections until this is dropped, which ends them too.
    pub(crate) async fn listen(self: Arc<Self>, listener: TcpListener) {
        let mut own = JoinSet::new();
        loop {
            while own.try_join_next().is_some() {}
            // One that is gone before it is taken, or too many files: the next may do.
            let Ok((stream, from)) = listener.accept().await else {
                tokio::time::sleep(Duration::from_millis(50)).await;
                continue;
            };
            let address = from.ip().to_canonical();
            let Some(watcher) = self.one_more() else { continue };
            let Ok(counted) = self.one_more_of(address) else { continue };
            // Answers are small: each goes out at once.
            let _ = stream.set_nodelay(true);
            let listening = Arc::clone(&self);
            own.spawn(async move {
                listening.take(stream, address, watcher).await;
                drop(counted);
            });
        }
    }

    /// Room for one more connection.
    fn one_more(&self) -> Option<Watcher> {
        let connections = self.connections.lock().unwrap_or_else(PoisonError::into_inner);
        connections.as_ref().filter(|c| c.count() < MOST).map(GracefulShutdown::watcher)
    }

    /// Counts one more connection of another machine, when it may have one; the machine itself is not counted.
    fn one_more_of(self: &Arc<Self>, address: IpAddr) -> Result<Option<Counted>, TooMany> {
        if address.is_loopback() {
            return Ok(None);
        }
        let mut others = self.others.lock().unwrap_or_else(PoisonError::into_inner);
        let all: usize = others.values().sum();
        let own = others.get(&address).copied().unwrap_or(0);
        if all >= MOST_OF_OTHERS || own >= MOST_OF_ONE {
            return Err(TooMany);
        }
        others.insert(address, own + 1);
        Ok(Some(Counted { of: Arc::clone(self), address }))
    }

    async fn take(&self, stream: TcpStream, address: IpAddr, watcher: Watcher) {
        let mut first = [0];
        // Who says nothing is let go, and so is who leaves.
        let said = tokio::time::timeout(HEAD, stream.peek(&mut first)).await;
        if !matches!(said, Ok(Ok(1))) {
            return;
        }
        if first[0] != HANDSHAKE {
            let peer = Peer { address, secure: address.is_loopback() };
            return self.answer(stream, peer, watcher).await;
        }
        let Some(config) = self.certificate.borrow().clone() else { return };
        let accepted = TlsAcceptor::from(config).accept(stream);
        if let Ok(Ok(stream)) = tokio::time::timeout(HEAD, accepted).await {
            self.answer(stream, Peer { address, secure: true }, watcher).await;
        }
    }

    async fn answer(
        &self,
        stream: impl AsyncRead + AsyncWrite + Unpin + 'static,
        peer: Peer,
        watcher: Watcher,
    ) {
        let service = MapRequest::new(self.router.clone(), move |mut r: Request<Incoming>| {
            r.extensions_mut().insert(peer);
            r
        });
        let connection = http1::Builder::new()
            .timer(TokioTimer::new())
            .header_read_timeout(HEAD)
            .serve_connection(TokioIo::new(stream), TowerToHyperService::new(service));
        // Whoever has gone away hears nothing of it.
        let _ = watcher.watch(connection).await;
    }

    /// Takes no more, and waits for what was begun, but not for long.
    pub(crate) async fn finish(&self) {
        let connections = self.connections.lock().unwrap_or_else(PoisonError::into_inner).take();
        if let Some(connections) = connections {
            let _ = tokio::time::timeout(LAST, connections.shutdown()).await;
        }
    }
}

/// Somebody stops the program, from its keyboard or otherwise.
pub(crate) async fn stopped() {
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
