//! Wrong passwords: after a few the next try has to wait, the longer the more there were.
//!
//! Two things are counted: tries from one address, and tries for one name from anywhere. Whoever sits at the machine needs
//! no password, so nobody is ever locked out there.

use std::collections::HashMap;
use std::net::IpAddr;
use std::time::{Duration, Instant};

/// Wrong ones without a wait, from one address and for one name.
const FREE: [u32; 2] = [5, 20];

/// The first wait; each further wrong one doubles it.
const FIRST: Duration = Duration::from_secs(10);

/// The longest wait.
const LONGEST: Duration = Duration::from_secs(15 * 60);

/// After so long without a wrong one all is forgotten.
const FORGOTTEN: Duration = Duration::from_secs(60 * 60);

/// What is counted at most.
const MOST: usize = 10_000;

/// What is counted.
#[derive(Clone, Debug, PartialEq, Eq, Hash)]
enum Of {
    /// An address; of IPv6 the network that one household has.
    Address(IpAddr),
    /// A name as it was typed.
    Name(String),
}

#[derive(Clone, Copy, Debug)]
struct Wrong {
    times: u32,
    last: Instant,
}

/// Wrong passwords so far.
#[derive(Debug, Default)]
pub struct Tries(HashMap<Of, Wrong>);

fn counted(from: IpAddr, name: &str) -> [Of; 2] {
    let from = match from {
        IpAddr::V6(v6) => {
            let [a, b, c, d, ..] = v6.segments();
            IpAddr::from([a, b, c, d, 0, 0, 0, 0])
        }
        v4 => v4,
    };
    [Of::Address(from), Of::Name(name.trim().to_lowercase().chars().take(64).collect())]
}

impl Tries {
    /// How long the next try has to wait; `None`: it need not.
    pub fn wait(&self, from: IpAddr, name: &str, now: Instant) -> Option<Duration> {
        let waits = counted(from, name).into_iter().zip(FREE).filter_map(|(of, free)| {
            let wrong = self.0.get(&of)?;
            let over = wrong.times.checked_sub(free)?;
            let wait = FIRST.saturating_mul(1 << over.min(16)).min(LONGEST);
            let waited = now.saturating_duration_since(wrong.last);
            wait.checked_sub(waited).filter(|left| !left.is_zero())
        });
        waits.max()
    }

    /// Notes a wrong one.
    pub fn wrong(&mut self, from: IpAddr, name: &str, now: Instant) {
        if self.0.len() > MOST {
            self.0.retain(|_, w| now.saturating_duration_since(w.last) < FORGOTTEN);
        }
        // A flood of names makes the yard forget, not its memory grow.
        if self.0.len() > MOST {
            self.0.clear();
        }
        for of in counted(from, name) {
            let wrong = self.0.entry(of).or_insert(Wrong { times: 0, last: now });
            if now.saturating_duration_since(wrong.last) > FORGOTTEN {
                wrong.times = 0;
            }
            *wrong = Wrong { times: wrong.times.saturating_add(1), last: now };
        }
    }

    /// Notes a right one: its address has no wait any more.
    pub fn right(&mut self, from: IpAddr, name: &str) {
        for of in counted(from, name) {
            self.0.remove(&of);
        }
    }
}

#[cfg(test)]
mod tests {
    use std::net::IpAddr;
    use std::time::{Duration, Instant};

    use super::Tries;

    #[test]
    fn waits_grow_by_address_and_by_name_and_pass() {
        let [one, two]: [IpAddr; 2] = [[192, 168, 7, 4].into(), [192, 168, 7, 5].into()];
        let (mut tries, now) = (Tries::default(), Instant::now());
        for _ in 0..5 {
            assert_eq!(tries.wait(one, "coach", now), None);
            tries.wrong(one, "coach", now);
        }
        assert_eq!(tries.wait(one, "coach", now), Some(Duration::from_secs(10)));
        // Another name from there waits too; the same name from elsewhere does not yet.
        assert_eq!(tries.wait(one, "henrike", now), Some(Duration::from_secs(10)));
        assert_eq!(tries.wait(two, "Coach ", now), None);
        assert_eq!(tries.wait(one, "coach", now + Duration::from_secs(10)), None);
        tries.wrong(one, "coach", now + Duration::from_secs(10));
        let later = now + Duration::from_secs(10);
        assert_eq!(tries.wait(one, "coach", later), Some(Duration::from_secs(20)));
        // From ever new addresses the name waits.
        for k in 0..30_u8 {
            tries.wrong([10, 0, 0, k].into(), "COACH", later);
        }
        assert_eq!(tries.wait(two, "coach", later), Some(Duration::from_secs(900)));
        tries.right(one, "coach");
        assert_eq!(tries.wait(one, "coach", later), None);
    }

    #[test]
    fn one_network_of_ipv6_is_one_address_and_memory_is_bounded() {
        let (mut tries, now) = (Tries::default(), Instant::now());
        for k in 0..6 {
            tries.wrong(IpAddr::from([0xfd00, 0, 0, 7, 0, 0, 0, k]), "coach", now);
        }
        assert!(tries.wait(IpAddr::from([0xfd00, 0, 0, 7, 9, 9, 9, 9]), "x", now).is_some());
        for k in 0..30_000_u32 {
            tries.wrong(IpAddr::from(k.to_be_bytes()), &k.to_string(), now);
        }
        assert!(tries.0.len() <= super::MOST + 2);
    }
}
