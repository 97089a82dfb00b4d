//! The command line.
//!
//! Reading order: [`input`], [`analyse`], [`suggest`], [`listen`], [`import`], [`archive`], [`check`], [`password`], [`serve`].

pub mod analyse;
pub mod archive;
pub mod check;
pub mod import;
pub mod input;
pub mod listen;
pub mod password;
pub mod serve;
pub mod suggest;

use std::process::ExitCode;

use clap::{Parser, Subcommand};

/// Times a horse's footfalls and says what they mean.
#[derive(Parser)]
#[command(version)]
struct Cli {
    #[command(subcommand)]
    command: Task,
}

#[derive(Subcommand)]
enum Task {
    /// Start the demo yard. Example: `umlauf demo`
    Demo(serve::Server),
    /// Start with your own yard. Example: `umlauf serve --data ~/Umlauf`
    Serve(serve::Server),
    /// Take the footage of a folder into a yard. Example: `umlauf import ~/Videos --horse Priel`
    Import(import::Import),
    /// Write the whole yard to a ZIP of JSON, CSV and footage. Example: `umlauf export yard.zip`
    Export(archive::Archive),
    /// Bring the yard's backup of today into a folder, say on a stick: each film once, read back as it is written.
    /// Example: `umlauf backup /media/stick`
    Backup(archive::Archive),
    /// Put a yard from such a ZIP, or from a folder of backups, into an empty folder; or one horse of it beside what is
    /// in a yard. Example: `umlauf restore yard.zip --data ~/Yard2`
    Restore(archive::Restore),
    /// Say whether a yard is whole, and mend what can be mended. Example: `umlauf check --data ~/Umlauf`
    Check(check::Check),
    /// Give the coach, or somebody else, a password, so that tablets can sign in. Example: `umlauf password`
    Password(password::Password),
    /// Analyse a footfalls table. Example: `umlauf analyse ride.footfalls.csv --rein left --json`
    Analyse(analyse::Analyse),
    /// Look for hooves that stand and listen for hoofbeats in a film, and print a table of footfalls.
    /// Example: `umlauf suggest trot.mp4 --distance 20`
    Suggest(suggest::Suggest),
    /// Keep what sensors on a horse send over a local socket as a table for `suggest --sensor`.
    /// Example: `umlauf listen --into felt.csv`
    Listen(listen::Listen),
    /// Print the OpenAPI document of the server.
    #[command(hide = true)]
    Openapi,
}

/// Runs what the command line asks for: status 0 when it is done, 1 with one line of what went wrong
/// when it is not (clap itself ends with 2 for wrong usage).
pub fn run() -> ExitCode {
    let done = match Cli::parse().command {
        Task::Demo(server) => serve::run(&server, "umlauf-demo", true),
        Task::Serve(server) => serve::run(&server, "umlauf", false),
        Task::Import(args) => import::run(&args),
        Task::Export(args) => archive::export(&args),
        Task::Backup(args) => archive::back_up(&args),
        Task::Restore(args) => archive::restore(&args),
        Task::Check(args) => check::run(&args),
        Task::Password(args) => password::run(&args),
        Task::Analyse(args) => analyse::run(&args),
        Task::Suggest(args) => suggest::run(&args),
        Task::Listen(args) => listen::run(&args),
        Task::Openapi => {
            println!("{}", crate::api::openapi());
            Ok(())
        }
    };
    match done {
        Ok(()) => ExitCode::SUCCESS,
        Err(e) => {
            eprintln!("umlauf: {e:#}");
            ExitCode::FAILURE
        }
    }
}
