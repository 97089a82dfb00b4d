//! Where child processes are born: on one thread that lives as long as the program. The kernel ends a child when the
//! thread that it was born of ends, so that a program which is killed leaves nothing behind that goes on writing; and
//! threads of a runtime end when they are idle.

use std::io;
use std::sync::mpsc::{Receiver, Sender, SyncSender, channel, sync_channel};
use std::sync::{Mutex, OnceLock, PoisonError};

use tokio::process::{Child, Command};
use tokio::runtime::Handle;

/// A child that is wanted.
struct Wanted {
    command: Command,
    runtime: Handle,
    born: SyncSender<io::Result<Child>>,
}

/// Starts a program on the thread that all are born of; within a Tokio runtime.
///
/// # Errors
/// When it cannot be started.
pub fn born(command: Command) -> io::Result<Child> {
    static CRADLE: OnceLock<Mutex<Sender<Wanted>>> = OnceLock::new();
    let cradle = CRADLE.get_or_init(|| {
        let (wanted, asked) = channel();
        // Without its thread nothing is ever born, and every answer is an error.
        let _ = std::thread::Builder::new().name("cradle".into()).spawn(move || keep(&asked));
        Mutex::new(wanted)
    });
    let runtime = Handle::try_current().map_err(io::Error::other)?;
    let (born, answer) = sync_channel(1);
    let gone = |_| io::Error::other("no program can be started any more");
    cradle
        .lock()
        .unwrap_or_else(PoisonError::into_inner)
        .send(Wanted { command, runtime, born })
        .map_err(|_| gone(()))?;
    answer.recv().map_err(|_| gone(()))?
}

fn keep(asked: &Receiver<Wanted>) {
    while let Ok(Wanted { mut command, runtime, born }) = asked.recv() {
        let _within = runtime.enter();
        // Whoever asked may have given up: the child is dropped, and ends.
        let _ = born.send(command.spawn());
    }
}
