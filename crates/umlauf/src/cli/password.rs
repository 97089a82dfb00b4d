//! `umlauf password`: gives somebody a password, the coach unless another name is given.

use std::io::{BufRead as _, IsTerminal as _};
use std::path::PathBuf;

use anyhow::{Context as _, Result, bail};
use clap::Args;
use umlauf_store::Store;
use umlauf_store::account::AccountForm;
use umlauf_store::person::Person;
use umlauf_store::role::Role;

use crate::cli::input::data_folder;
use crate::held::Held;
use crate::people::password;

/// Options.
#[derive(Args)]
pub struct Password {
    /// Whose; somebody new becomes a coach.
    #[arg(default_value = "coach")]
    name: String,
    /// Folder of the yard (default: `umlauf` in your data folder).
    #[arg(long)]
    data: Option<PathBuf>,
}

/// Asks for a password and keeps its hash.
///
/// # Errors
/// When it is no good one, or the yard cannot be opened.
pub fn run(args: &Password) -> Result<()> {
    let data = match &args.data {
        Some(folder) => folder.clone(),
        None => data_folder("umlauf")?,
    };
    let _held = Held::hold(&data, "a change of password")
        .context("where Umlauf runs, Setup gives people their passwords")?;
    let store = Store::open(&data, None)
        .with_context(|| format!("the yard in {} cannot be opened", data.display()))?;
    let typed = typed(&args.name)?;
    password::good(&typed, &args.name)?;
    let kept = password::kept(&typed)?;
    let who = match store.account_named(&args.name)? {
        Some((account, _)) => {
            store.set_password(account.id, &kept)?;
            format!("{} has a new password and is signed out everywhere", account.person.id())
        }
        None => {
            let person = Person::named(&args.name)?;
            let form = AccountForm { person, role: Role::Coach, under_age: false, horses: vec![] };
            store.add_account(&form, &kept)?;
            format!("{} can sign in as a coach", args.name)
        }
    };
    println!("{who}");
    Ok(())
}

/// What is typed, unseen and twice; what is handed over by another program, once.
fn typed(name: &str) -> Result<String> {
    let stdin = std::io::stdin();
    if !stdin.is_terminal() {
        let mut line = String::new();
        stdin.lock().read_line(&mut line).context("no password could be read")?;
        return Ok(line.trim_end_matches(['\n', '\r']).to_owned());
    }
    let once = rpassword::prompt_password(format!("Password for {name}: "))?;
    if rpassword::prompt_password("The same again: ")? != once {
        bail!("the two are not the same; nothing was changed");
    }
    Ok(once)
}
