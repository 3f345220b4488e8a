//! Who is connected: so many and no more. Where one more comes, the one that has waited longest for nothing goes.

use std::cell::{Cell, RefCell};
use std::collections::VecDeque;
use std::rc::Rc;
use std::time::Duration;
use tokio::task::AbortHandle;

/// Connections at once; a browser has six for one address.
pub const MOST: usize = 64;

/// Of these, so many may follow changes.
const FOLLOWING: usize = 32;

/// How long a connection lives that follows no changes: browsers open another one.
const LIFE: Duration = Duration::from_secs(60);

/// Connections, the oldest first.
#[derive(Default, Clone)]
pub struct Connections(Rc<RefCell<VecDeque<Entry>>>);

struct Entry {
    connection: Connection,
    task: AbortHandle,
}

/// What is known of a connection.
#[derive(Default, Clone)]
pub struct Connection(Rc<Cell<bool>>);

impl Connection {
    /// Says that it follows changes, as long as what comes back lives.
    pub fn follow(&self) -> Following {
        self.0.set(true);
        Following(self.clone())
    }

    fn follows(&self) -> bool {
        self.0.get()
    }

    /// Waits until its time is over.
    pub async fn end(&self) {
        loop {
            tokio::time::sleep(LIFE).await;
            if !self.follows() {
                return;
            }
        }
    }
}

/// A connection follows changes.
pub struct Following(Connection);

impl Drop for Following {
    fn drop(&mut self) {
        self.0.0.set(false);
    }
}

impl Connections {
    /// Takes in one more.
    pub fn add(&self, connection: Connection, task: AbortHandle) {
        let mut all = self.0.borrow_mut();
        all.retain(|entry| !entry.task.is_finished());
        all.push_back(Entry { connection, task });
        let following = all.iter().filter(|entry| entry.connection.follows()).count();
        drop(all);
        if following > FOLLOWING {
            self.end(|entry| entry.connection.follows());
        }
        self.make_room(MOST);
    }

    /// Ends one, so that what it holds is free.
    pub fn make_room_for_one(&self) {
        let count = self.0.borrow().len();
        self.make_room(count.saturating_sub(1));
    }

    fn make_room(&self, most: usize) {
        while self.0.borrow().len() > most {
            if !self.end(|entry| !entry.connection.follows()) && !self.end(|_| true) {
                return;
            }
        }
    }

    /// Ends the oldest of some.
    fn end(&self, which: impl Fn(&Entry) -> bool) -> bool {
        let mut all = self.0.borrow_mut();
        let Some(entry) = all.iter().position(which).and_then(|at| all.remove(at)) else { return false };
        entry.task.abort();
        true
    }
}
