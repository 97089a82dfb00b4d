//! The yard's own certificate, so that nobody in the network can listen: an authority that a tablet is told to trust once,
//! and under it a certificate of the machine's present addresses, made anew whenever they change.
//!
//! The authority is bound to private addresses (RFC 1918, RFC 4193) and local names by its name constraints (RFC 5280,
//! 4.2.1.10): whoever steals its key cannot pass for any other site on a tablet that trusts it.

use std::fs::OpenOptions;
use std::io::Write as _;
use std::net::IpAddr;
use std::os::unix::fs::OpenOptionsExt as _;
use std::path::{Path, PathBuf};
use std::sync::Arc;

use rcgen::{
    BasicConstraints, CertificateParams, CidrSubnet, DistinguishedName, DnType,
    ExtendedKeyUsagePurpose, GeneralSubtree, IsCa, Issuer, KeyPair, KeyUsagePurpose,
    NameConstraints,
};
use thiserror::Error;
use time::{Duration, OffsetDateTime};
use tokio_rustls::rustls::pki_types::pem::PemObject as _;
use tokio_rustls::rustls::pki_types::{CertificateDer, PrivateKeyDer};
use tokio_rustls::rustls::{ServerConfig, crypto, version};

/// Folder of keys and certificates in a yard's.
pub const FOLDER: &str = "tls";

/// Years of the authority.
const AUTHORITY: i64 = 10;

/// Days of a certificate under it: the longest that tablets take (398, common practice of browsers since 2020).
const DAYS: i64 = 397;

/// Why there is no certificate.
#[derive(Debug, Error)]
pub enum CertificateError {
    /// A file cannot be used.
    #[error("{}: {cause}", file.display())]
    Io {
        /// The file.
        file: PathBuf,
        /// Why.
        cause: std::io::Error,
    },
    /// One cannot be made.
    #[error("no certificate can be made: {0}")]
    Make(#[from] rcgen::Error),
    /// A file of one's own is none.
    #[error("{} holds no {what}", file.display())]
    NotPem {
        /// The file.
        file: PathBuf,
        /// What was expected.
        what: &'static str,
    },
    /// The two do not go together.
    #[error("the certificate cannot be used: {0}")]
    Unusable(#[from] tokio_rustls::rustls::Error),
}

/// A certificate of one's own instead of the yard's.
#[derive(Clone, Debug)]
pub struct OwnFiles {
    /// The certificate and those above it, PEM.
    pub certificate: PathBuf,
    /// Its key, PEM.
    pub key: PathBuf,
}

/// The yard's authority.
pub struct Authority {
    issuer: Issuer<'static, KeyPair>,
    pem: String,
    der: CertificateDer<'static>,
}

impl Authority {
    /// The authority of a yard's folder, made the first time. `name` tells yards apart, `local` is what the machine is
    /// reached by now.
    ///
    /// # Errors
    /// When its files cannot be read or written.
    pub fn of(yard: &Path, name: &str, local: &Local) -> Result<Self, CertificateError> {
        let folder = yard.join(FOLDER);
        let (certificate, key) = (folder.join("yard.crt"), folder.join("yard.key"));
        let io = |file: &Path| {
            let file = file.to_owned();
            move |cause| CertificateError::Io { file, cause }
        };
        let params = params(name, local)?;
        if certificate.exists() && key.exists() {
            let pem = std::fs::read_to_string(&certificate).map_err(io(&certificate))?;
            let pair = std::fs::read_to_string(&key).map_err(io(&key))?;
            let der = first(&certificate, pem.as_bytes())?;
            // What it signs with is its name and its key; the rest stands in its own certificate.
            return Ok(Self { issuer: Issuer::new(params, KeyPair::from_pem(&pair)?), pem, der });
        }
        std::fs::create_dir_all(&folder).map_err(io(&folder))?;
        let pair = KeyPair::generate()?;
        let made = params.self_signed(&pair)?;
        // The key first, and for nobody else's eyes; a certificate without its key is made anew.
        let mut options = OpenOptions::new();
        options.write(true).create(true).truncate(true).mode(0o600);
        let mut file = options.open(&key).map_err(io(&key))?;
        file.write_all(pair.serialize_pem().as_bytes()).map_err(io(&key))?;
        file.sync_all().map_err(io(&key))?;
        std::fs::write(&certificate, made.pem()).map_err(io(&certificate))?;
        let (pem, der) = (made.pem(), made.der().clone());
        Ok(Self { issuer: Issuer::new(params, pair), pem, der })
    }

    /// What a tablet is given to trust, PEM.
    pub fn pem(&self) -> &str {
        &self.pem
    }

    /// SHA-256 of it, in pairs of digits as tablets show it.
    pub fn fingerprint(&self) -> String {
        let digest = ring::digest::digest(&ring::digest::SHA256, &self.der);
        let pairs: Vec<String> = digest.as_ref().iter().map(|b| format!("{b:02X}")).collect();
        pairs.join(" ")
    }

    /// A certificate of what the machine is reached by now, to serve with.
    ///
    /// # Errors
    /// When none can be made.
    pub fn serving(&self, local: &Local) -> Result<Arc<ServerConfig>, CertificateError> {
        let names = local.names.iter().cloned();
        let names = names.chain(local.addresses.iter().map(IpAddr::to_string));
        let mut params = CertificateParams::new(names.collect::<Vec<String>>())?;
        params.distinguished_name = named("Umlauf in this yard");
        (params.not_before, params.not_after) = from_yesterday(DAYS);
        params.key_usages = vec![KeyUsagePurpose::DigitalSignature];
        params.extended_key_usages = vec![ExtendedKeyUsagePurpose::ServerAuth];
        params.use_authority_key_identifier_extension = true;
        let pair = KeyPair::generate()?;
        let made = params.signed_by(&pair, &self.issuer)?;
        let key = PrivateKeyDer::Pkcs8(pair.serialize_der().into());
        config(vec![made.der().clone(), self.der.clone()], key)
    }
}

/// What the machine is reached by.
#[derive(Clone, Debug, Default, PartialEq, Eq)]
pub struct Local {
    /// Names.
    pub names: Vec<String>,
    /// Addresses.
    pub addresses: Vec<IpAddr>,
}

/// To serve with files of one's own.
///
/// # Errors
/// When they cannot be read or do not go together.
pub fn own(files: &OwnFiles) -> Result<Arc<ServerConfig>, CertificateError> {
    let read = |file: &Path| {
        std::fs::read(file).map_err(|cause| CertificateError::Io { file: file.to_owned(), cause })
    };
    let (chain, key) = (read(&files.certificate)?, read(&files.key)?);
    let not_pem = |file: &Path, what| CertificateError::NotPem { file: file.to_owned(), what };
    let chain: Vec<CertificateDer<'static>> = CertificateDer::pem_slice_iter(&chain)
        .collect::<Result<_, _>>()
        .map_err(|_| not_pem(&files.certificate, "certificate"))?;
    let key = PrivateKeyDer::from_pem_slice(&key).map_err(|_| not_pem(&files.key, "key"))?;
    config(chain, key)
}

fn config(
    chain: Vec<CertificateDer<'static>>,
    key: PrivateKeyDer<'static>,
) -> Result<Arc<ServerConfig>, CertificateError> {
    let provider = Arc::new(crypto::ring::default_provider());
    let mut config = ServerConfig::builder_with_provider(provider)
        .with_protocol_versions(&[&version::TLS13, &version::TLS12])?
        .with_no_client_auth()
        .with_single_cert(chain, key)?;
    config.alpn_protocols = vec![b"http/1.1".to_vec()];
    Ok(Arc::new(config))
}

fn first(file: &Path, pem: &[u8]) -> Result<CertificateDer<'static>, CertificateError> {
    let what = "certificate";
    let none = |_| CertificateError::NotPem { file: file.to_owned(), what };
    CertificateDer::from_pem_slice(pem).map_err(none)
}

fn named(name: &str) -> DistinguishedName {
    let mut whole = DistinguishedName::new();
    whole.push(DnType::CommonName, name);
    whole
}

/// From two days ago: a tablet's clock may be behind.
fn from_yesterday(days: i64) -> (OffsetDateTime, OffsetDateTime) {
    let now = OffsetDateTime::now_utc();
    (now - Duration::days(2), now + Duration::days(days - 2))
}

/// What the authority is, and may vouch for.
fn params(name: &str, local: &Local) -> Result<CertificateParams, CertificateError> {
    let mut params = CertificateParams::new(Vec::new())?;
    params.distinguished_name = named(&format!("Umlauf yard {name}"));
    params.is_ca = IsCa::Ca(BasicConstraints::Constrained(0));
    params.key_usages = vec![KeyUsagePurpose::KeyCertSign, KeyUsagePurpose::CrlSign];
    (params.not_before, params.not_after) = from_yesterday(365 * AUTHORITY);
    let v4 = |octets, prefix| CidrSubnet::from_v4_prefix(octets, prefix);
    let mut nets = vec![
        v4([10, 0, 0, 0], 8),
        v4([127, 0, 0, 0], 8),
        v4([169, 254, 0, 0], 16),
        v4([172, 16, 0, 0], 12),
        v4([192, 168, 0, 0], 16),
        CidrSubnet::from_addr_prefix(IpAddr::from([0xfc00_u16, 0, 0, 0, 0, 0, 0, 0]), 7),
    ];
    nets.extend(local.addresses.iter().map(|a| match a {
        IpAddr::V4(v4) => CidrSubnet::from_v4_prefix(v4.octets(), 32),
        // All of an address of IPv6: the crate's mask ends before 128.
        IpAddr::V6(v6) => CidrSubnet::V6(v6.octets(), [0xff; 16]),
    }));
    let names = ["local", "lan", "localhost"].map(str::to_owned).into_iter();
    let names = names.chain(local.names.iter().cloned()).map(GeneralSubtree::DnsName);
    let permitted = names.chain(nets.into_iter().map(GeneralSubtree::IpAddress)).collect();
    params.name_constraints =
        Some(NameConstraints { permitted_subtrees: permitted, excluded_subtrees: vec![] });
    Ok(params)
}
