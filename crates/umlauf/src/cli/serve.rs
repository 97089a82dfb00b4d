//! `umlauf serve` and `umlauf demo`.

use std::net::IpAddr;
use std::path::{Path, PathBuf};

use anyhow::Result;
use clap::Args;

use crate::cli::input::data_folder;
use crate::demo::fill::fill;
use crate::people::certificate::OwnFiles;
use crate::people::network::Asked;
use crate::server::serve::{Serving, serve};

/// Options of a server.
#[derive(Args)]
pub struct Server {
    /// Folder of the yard (default: `umlauf` or `umlauf-demo` in your data folder).
    #[arg(long)]
    data: Option<PathBuf>,
    /// Let others reach Umlauf at this address of the machine, or at all of them (0.0.0.0), over https and with a
    /// password (see `umlauf password`). Left out, Setup decides it; the machine itself always reaches Umlauf.
    #[arg(long)]
    address: Option<IpAddr>,
    /// A name that the machine has in the network; may be given several times.
    #[arg(long)]
    name: Vec<String>,
    /// A certificate of your own (PEM, with those above it) instead of the yard’s.
    #[arg(long, requires = "key")]
    certificate: Option<PathBuf>,
    /// The key of that certificate (PEM).
    #[arg(long, requires = "certificate")]
    key: Option<PathBuf>,
    /// Port to listen on; 0 takes a free one.
    #[arg(long, default_value_t = 4747)]
    port: u16,
    /// Largest size of the yard's file, KiB.
    #[arg(long)]
    limit_kib: Option<u64>,
    /// From now on do not look for footfalls in new footage by itself (the same switch is in Setup).
    #[arg(long)]
    by_hand: bool,
}

/// Serves the yard of a name, filled with the demo first when `demo`.
///
/// # Errors
/// When the yard cannot be opened or the port is taken.
pub fn run(server: &Server, name: &str, demo: bool) -> Result<()> {
    let data = match &server.data {
        Some(folder) => folder.clone(),
        None => data_folder(name)?,
    };
    let serving = Serving {
        data: Path::new(&data),
        network: Asked {
            address: server.address,
            names: server.name.clone(),
            own: server
                .certificate
                .clone()
                .zip(server.key.clone())
                .map(|(certificate, key)| OwnFiles { certificate, key }),
        },
        port: server.port,
        limit_kib: server.limit_kib,
        by_hand: server.by_hand,
    };
    tokio::runtime::Runtime::new()?
        .block_on(serve(&serving, async |app| if demo { fill(app).await } else { Ok(()) }))
}
