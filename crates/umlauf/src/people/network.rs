//! The yard's network: by which addresses tablets reach this machine, and what they are told to trust.

use std::net::{IpAddr, Ipv4Addr};

use crate::people::certificate::{Local, OwnFiles};

/// What was asked for on the command line.
#[derive(Clone, Debug, Default)]
pub struct Asked {
    /// An address of the machine, or all of them (0.0.0.0, ::); `None`: Setup decides.
    pub address: Option<IpAddr>,
    /// Names that the machine has in the network.
    pub names: Vec<String>,
    /// A certificate of one's own.
    pub own: Option<OwnFiles>,
}

/// How the machine is reached now.
#[derive(Clone, Debug, Default, PartialEq, Eq)]
pub struct Network {
    /// Where it is reached from itself.
    pub here: Option<(IpAddr, u16)>,
    /// Addresses that are listened to for others.
    pub addresses: Vec<IpAddr>,
    /// Names besides.
    pub names: Vec<String>,
    /// What a tablet is given to trust, PEM; `None` with a certificate of one's own.
    pub certificate: Option<String>,
    /// Its fingerprint.
    pub fingerprint: Option<String>,
    /// Whether the command line has decided it, and Setup cannot.
    pub fixed: bool,
    /// What is in the way.
    pub trouble: Option<String>,
}

impl Network {
    /// Addresses to type, the likeliest first: plain ones of IPv4 before IPv6.
    pub fn hosts(&self) -> Vec<String> {
        let mut sorted = self.addresses.clone();
        sorted.sort_by_key(|a| (a.is_ipv6(), *a));
        let port = self.here.map_or(0, |(_, port)| port);
        let names = self.names.iter().map(|n| format!("{n}:{port}"));
        let addresses = sorted.into_iter().map(|a| std::net::SocketAddr::new(a, port).to_string());
        names.chain(addresses).collect()
    }
}

/// Addresses of this machine that tablets in its own network may use: private ones, never one that the whole internet
/// reaches.
pub fn private_addresses() -> Vec<IpAddr> {
    let all = if_addrs::get_if_addrs().unwrap_or_default();
    let mut private: Vec<IpAddr> =
        all.iter().map(if_addrs::Interface::ip).filter(is_private).collect();
    private.sort();
    private.dedup();
    private
}

/// Of IPv4 what RFC 1918, 3927, 5737 and 6598 keep off the internet, of IPv6 what RFC 4193 does.
fn is_private(address: &IpAddr) -> bool {
    match address {
        IpAddr::V4(v4) => {
            let shared = v4.octets()[0] == 100 && v4.octets()[1] & 0xc0 == 64;
            v4.is_private() || v4.is_link_local() || v4.is_documentation() || shared
        }
        IpAddr::V6(v6) => v6.is_unique_local(),
    }
}

/// The addresses that are wanted: those asked for, or where Setup lets others in, the private ones.
pub fn wanted(asked: &Asked, open: bool) -> Vec<IpAddr> {
    match asked.address {
        Some(one) if one.is_loopback() => vec![],
        Some(one) if one.is_unspecified() => every_address(),
        Some(one) => vec![one],
        None if open => private_addresses(),
        None => vec![],
    }
}

fn every_address() -> Vec<IpAddr> {
    let all = if_addrs::get_if_addrs().unwrap_or_default();
    let reached = |a: &IpAddr| match a {
        IpAddr::V6(v6) => !v6.is_unicast_link_local(),
        IpAddr::V4(_) => true,
    };
    let mut all: Vec<IpAddr> = all
        .iter()
        .map(if_addrs::Interface::ip)
        .filter(|a| !a.is_loopback() && reached(a))
        .collect();
    all.sort();
    all.dedup();
    all
}

/// Where the machine itself finds the server: the address asked for when it is its own, else 127.0.0.1.
pub fn here(asked: &Asked) -> IpAddr {
    asked.address.filter(IpAddr::is_loopback).unwrap_or(IpAddr::V4(Ipv4Addr::LOCALHOST))
}

/// What the machine is reached by: its own name in the network besides those given.
pub fn local(asked: &Asked, addresses: &[IpAddr]) -> Local {
    let mut names = asked.names.clone();
    let own = std::fs::read_to_string("/proc/sys/kernel/hostname").unwrap_or_default();
    let own = own.trim();
    let plain = own.bytes().all(|b| b.is_ascii_alphanumeric() || b == b'-');
    if !own.is_empty() && plain {
        names.extend([own.to_owned(), format!("{own}.local")]);
    }
    names.dedup();
    Local { names, addresses: addresses.to_vec() }
}

#[cfg(test)]
mod tests {
    use std::net::IpAddr;

    use super::{Asked, Network, here, is_private, wanted};

    #[test]
    fn only_addresses_that_the_internet_does_not_reach_are_private() {
        let private = |text: &str| is_private(&text.parse().expect("an address"));
        for own in
            ["192.168.178.20", "10.0.0.7", "172.31.0.1", "169.254.3.3", "100.64.0.1", "fd00::2"]
        {
            assert!(private(own), "{own}");
        }
        for open in
            ["127.0.0.1", "8.8.8.8", "172.32.0.1", "100.128.0.1", "2001:db9::1", "fe80::1", "::1"]
        {
            assert!(!private(open), "{open}");
        }
    }

    #[test]
    fn what_is_asked_for_decides_and_the_machine_always_reaches_itself() {
        let asked = |text: &str| Asked { address: text.parse().ok(), ..Asked::default() };
        let loopback: IpAddr = [127, 0, 0, 1].into();
        assert_eq!(wanted(&asked("127.0.0.2"), true), [] as [IpAddr; 0]);
        assert_eq!(here(&asked("127.0.0.2")), IpAddr::from([127, 0, 0, 2]));
        assert_eq!(wanted(&asked("192.168.7.4"), false), [IpAddr::from([192, 168, 7, 4])]);
        assert_eq!(here(&asked("192.168.7.4")), loopback);
        assert_eq!(wanted(&Asked::default(), false), [] as [IpAddr; 0]);
    }

    #[test]
    fn addresses_to_type_come_with_the_plain_ones_first() {
        let addresses = ["fd00::2", "192.168.7.4"].map(|a| a.parse().expect("an address")).to_vec();
        let here = Some((IpAddr::from([127, 0, 0, 1]), 4747));
        let network = Network { here, addresses, ..Network::default() };
        assert_eq!(network.hosts(), ["192.168.7.4:4747", "[fd00::2]:4747"]);
    }
}
