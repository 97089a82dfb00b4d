//! The HTTP interface: handlers extract, call and answer.
//!
//! Reading order: [`extract`], [`folder`], [`yard`], [`horse`], [`session`], [`clip`], [`edit`], [`found`], [`ground`], [`arena`], [`compare`], [`record`], [`report`], [`analyse`], [`setup`], [`bin`], [`upload`], [`job`], [`archive`], [`trust`], [`one_horse`], [`me`], [`people`], [`act`], [`network`], [`own`], [`media`], [`link`], [`shown`], [`tablet`], [`routes`].

pub mod act;
pub mod analyse;
pub mod archive;
pub mod arena;
pub mod bin;
pub mod clip;
pub mod compare;
pub mod edit;
pub mod extract;
mod folder;
pub mod found;
pub mod ground;
pub mod horse;
pub mod job;
pub mod link;
pub mod me;
pub mod media;
pub mod network;
pub mod one_horse;
pub mod own;
pub mod people;
pub mod record;
pub mod report;
pub mod routes;
pub mod session;
pub mod setup;
pub mod shown;
pub mod tablet;
pub mod trust;
pub mod upload;
pub mod vocabulary;
pub mod yard;

pub use routes::openapi;
