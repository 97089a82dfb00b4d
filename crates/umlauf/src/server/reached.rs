//! By which addresses others reach this machine: listened to as long as they are wanted and there, with a certificate that
//! names them.

use std::collections::BTreeMap;
use std::net::{IpAddr, SocketAddr};
use std::sync::Arc;
use std::time::{Duration, Instant};

use anyhow::{Result, bail};
use tokio::net::TcpListener;
use tokio::sync::watch;
use tokio::task::AbortHandle;
use tokio_rustls::rustls::ServerConfig;

use crate::app::App;
use crate::choices::OPEN;
use crate::people::certificate::{Authority, CertificateError, Local, own};
use crate::people::network::{Asked, Network, local, wanted};
use crate::server::listen::Listening;

/// A cable or another wireless network changes addresses: they are looked at so often.
const LOOK: Duration = Duration::from_secs(5);

/// A certificate is made anew after so long.
const CERTIFICATE: Duration = Duration::from_secs(30 * 86_400);

/// What listens for others.
pub(crate) struct Reached {
    app: Arc<App>,
    asked: Asked,
    certificate: watch::Sender<Option<Arc<ServerConfig>>>,
    listening: Arc<Listening>,
    here: SocketAddr,
    listeners: BTreeMap<IpAddr, AbortHandle>,
    served: Option<(Local, Instant)>,
}

impl Reached {
    pub(crate) fn new(
        app: Arc<App>,
        asked: Asked,
        certificate: watch::Sender<Option<Arc<ServerConfig>>>,
        listening: &Arc<Listening>,
        here: SocketAddr,
    ) -> Self {
        let (listening, listeners) = (Arc::clone(listening), BTreeMap::new());
        Self { app, asked, certificate, listening, here, listeners, served: None }
    }

    /// Keeps it true as long as the program runs.
    pub(crate) async fn keep(mut self) {
        loop {
            tokio::select! {
                () = tokio::time::sleep(LOOK) => {}
                () = self.app.network_asked.notified() => {}
            }
            if let Err(e) = self.look().await {
                tracing::warn!("{e}");
            }
        }
    }

    /// Makes it true now.
    ///
    /// # Errors
    /// When an address that the command line asks for cannot be had.
    pub(crate) async fn look(&mut self) -> Result<()> {
        let open = self.app.with(|s| Ok(s.choice(OPEN)?.is_some() && s.has_coach()?)).await?;
        let wanted = wanted(&self.asked, open);
        self.listeners.retain(|address, listener| {
            let stays = wanted.contains(address) && !listener.is_finished();
            if !stays {
                listener.abort();
            }
            stays
        });
        let mut trouble = None;
        for address in &wanted {
            if self.listeners.contains_key(address) {
                continue;
            }
            match TcpListener::bind((*address, self.here.port())).await {
                Ok(listener) => {
                    let listen = Arc::clone(&self.listening).listen(listener);
                    self.listeners.insert(*address, tokio::spawn(listen).abort_handle());
                }
                Err(e) => {
                    let port = self.here.port();
                    trouble = Some(format!("{address}:{port} cannot be listened on: {e}"));
                }
            }
        }
        if wanted.is_empty() && open {
            trouble = Some("this machine is in no network at the moment".to_owned());
        }
        let serving = self.serving();
        let (certificate, fingerprint) = match serving {
            Ok(trusted) => trusted.unzip(),
            Err(e) => {
                trouble = Some(e.to_string());
                (None, None)
            }
        };
        let fixed = self.asked.address.is_some();
        let reached = !self.listeners.is_empty() && self.served.is_some();
        if let (true, Some(why)) = (fixed && !reached, &trouble) {
            bail!("{why}");
        }
        let now = Network {
            here: Some((self.here.ip(), self.here.port())),
            addresses: self.listeners.keys().copied().collect(),
            names: self.asked.names.clone(),
            certificate,
            fingerprint,
            fixed,
            trouble,
        };
        self.app.network.send_if_modified(|was| {
            let changed = *was != now;
            *was = now;
            changed
        });
        Ok(())
    }

    /// Has a certificate of the present addresses served with; gives what a tablet is told to trust, and its fingerprint.
    fn serving(&mut self) -> Result<Option<(String, String)>, CertificateError> {
        if self.listeners.is_empty() {
            return Ok(None);
        }
        let addresses: Vec<IpAddr> = self.listeners.keys().copied().collect();
        let local = local(&self.asked, &addresses);
        let fresh = |(of, made): &(Local, Instant)| *of == local && made.elapsed() < CERTIFICATE;
        if let Some(files) = &self.asked.own {
            if !self.served.as_ref().is_some_and(fresh) {
                self.certificate.send_replace(Some(own(files)?));
                self.served = Some((local, Instant::now()));
            }
            return Ok(None);
        }
        let name = self.app.identity.get(..6).unwrap_or("here");
        let authority = Authority::of(self.app.store.folder(), name, &local)?;
        if !self.served.as_ref().is_some_and(fresh) {
            self.certificate.send_replace(Some(authority.serving(&local)?));
            self.served = Some((local, Instant::now()));
        }
        Ok(Some((authority.pem().to_owned(), authority.fingerprint())))
    }
}
