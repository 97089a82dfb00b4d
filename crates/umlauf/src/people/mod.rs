//! Who may do what: roles, passwords, devices, links, and the yard's network.
//!
//! Reading order: [`secret`], [`password`], [`tries`], [`who`], [`rights`], [`certificate`], [`network`].

pub mod certificate;
pub mod network;
pub mod password;
pub mod rights;
pub mod secret;
pub mod tries;
pub mod who;
