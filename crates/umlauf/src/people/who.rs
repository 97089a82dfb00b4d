//! Who asks: whoever sits at this machine is its coach, anybody else is who they have signed in as.

use std::net::IpAddr;

use umlauf_store::account::Account;
use umlauf_store::person::Person;
use umlauf_store::role::Role;
use umlauf_store::{Store, StoreError};

/// Where a request comes from.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct Peer {
    /// Address of the other end.
    pub address: IpAddr,
    /// Nobody between can read or change what is said.
    pub secure: bool,
}

impl Peer {
    /// Whether it is this machine itself, asking for itself: what another program passes on comes from elsewhere.
    pub const fn is_at_the_machine(&self, passed_on: bool) -> bool {
        self.address.is_loopback() && !passed_on
    }
}

/// Who asks.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Who {
    /// By which name marks and changes are kept.
    pub person: Person,
    /// What they may do.
    pub role: Role,
    /// Whom they have signed in as; `None` at the machine itself.
    pub account: Option<i64>,
    /// Horses that a rider sees; empty for others, who see all.
    pub horses: Vec<i64>,
}

impl Who {
    /// Whoever sits at the machine.
    pub fn at_the_machine() -> Self {
        Self { person: Person::coach(), role: Role::Coach, account: None, horses: vec![] }
    }

    /// Whoever has signed in.
    ///
    /// # Errors
    /// When the file cannot be read.
    pub fn signed_in(store: &Store, account: Account) -> Result<Self, StoreError> {
        let horses = match account.role {
            Role::Rider => store.horses_of_account(account.id)?,
            _ => vec![],
        };
        let Account { id, person, role, .. } = account;
        Ok(Self { person, role, account: Some(id), horses })
    }

    /// Whether they may see a horse.
    pub fn sees(&self, horse: i64) -> bool {
        self.role > Role::Rider || self.horses.contains(&horse)
    }

    /// Refuses a rider who may not see a session, or one that lies in the bin, as if it were not there.
    ///
    /// # Errors
    /// [`StoreError::NotFound`].
    pub fn may_see_session(&self, store: &Store, id: i64) -> Result<(), StoreError> {
        if self.role > Role::Rider {
            return Ok(());
        }
        let horse = store.horse_of_shown_session(id)?.filter(|horse| self.sees(*horse));
        horse.map(|_| ()).ok_or(StoreError::NotFound { kind: "session", id })
    }

    /// Refuses whoever may not see a horse, as if it were not there.
    ///
    /// # Errors
    /// [`StoreError::NotFound`].
    pub fn may_see(&self, horse: i64) -> Result<(), StoreError> {
        let hidden = StoreError::NotFound { kind: "horse", id: horse };
        self.sees(horse).then_some(()).ok_or(hidden)
    }
}
