//! What threads have to do: sample the controls, and inspect what was sampled. Controls differ by much in size, so each
//! thread takes whatever is there; the place of each piece is kept, so the result does not depend on threads.

use crate::report::SampledControl;
use crate::run::sides::Side;
use crate::sample::{Sample, Sampled};
use std::collections::{BTreeMap, VecDeque};
use std::sync::{Condvar, Mutex, MutexGuard, PoisonError};

/// The control of a piece, and which of its pieces it is.
pub type Place = (usize, usize);

/// Something to do.
pub enum Job<'s> {
    /// Sample the control with this index.
    Sample(usize),
    /// Inspect a piece.
    Inspect(Place, Vec<Sampled<'s>>),
    /// Look at a control from another side.
    Turn(Place, Side),
    /// Ask a check, by its index among those that are asked, of a control or of the whole system.
    Survey(Place, Option<usize>, usize),
}

/// Where what a survey tells stands: after all that is told of looks at the control; of the whole system, after everything.
fn surveyed(control: Option<usize>, check: usize) -> Place {
    (control.unwrap_or(usize::MAX), usize::MAX / 4 * 3 + check)
}

/// Small pieces keep all threads at work to the end.
const PIECE: usize = 4;

/// What is to be done.
pub struct Queue<'s> {
    state: Mutex<State<'s>>,
    more: Condvar,
    controls: usize,
}

#[derive(Default)]
struct State<'s> {
    pieces: VecDeque<(Place, Vec<Sampled<'s>>)>,
    sides: VecDeque<(Place, Side)>,
    surveys: VecDeque<(Option<usize>, usize)>,
    /// How many controls were taken, and how many of them were sampled.
    taken: usize,
    sampled: usize,
    /// By control.
    cases: BTreeMap<usize, u64>,
    left_out: BTreeMap<usize, Vec<SampledControl>>,
    /// A thread broke, or all were stopped: what was taken is never done.
    is_broken: bool,
}

/// A thread at work, the only one that is given anything. When it breaks, nobody waits for what it would have added.
pub struct Worker<'q, 's>(&'q Queue<'s>);

impl Drop for Worker<'_, '_> {
    fn drop(&mut self) {
        if std::thread::panicking() {
            self.0.lock().is_broken = true;
            self.0.more.notify_all();
        }
    }
}

impl<'s> Worker<'_, 's> {
    /// Ends the work of all threads.
    pub fn stop(&self) {
        self.0.lock().is_broken = true;
        self.0.more.notify_all();
    }

    /// The next thing to do; waits for what another thread may add. Nothing once all is done, or a thread broke.
    pub fn next(&self) -> Option<Job<'s>> {
        let queue = self.0;
        let mut state = queue.lock();
        loop {
            if state.is_broken {
                return None;
            }
            if state.taken < queue.controls {
                state.taken += 1;
                return Some(Job::Sample(state.taken - 1));
            }
            // What takes longest comes before what is in small pieces.
            if let Some((control, check)) = state.surveys.pop_front() {
                return Some(Job::Survey(surveyed(control, check), control, check));
            }
            if let Some((place, side)) = state.sides.pop_front() {
                return Some(Job::Turn(place, side));
            }
            if let Some((place, piece)) = state.pieces.pop_front() {
                return Some(Job::Inspect(place, piece));
            }
            if state.sampled == queue.controls {
                return None;
            }
            state = queue.more.wait(state).unwrap_or_else(PoisonError::into_inner);
        }
    }

    /// Adds what was sampled of a control, and its other sides.
    pub fn add(&self, control: usize, mut sample: Sample<'s>, sides: Vec<Side>) {
        self.count(control, &mut sample);
        let queue = self.0;
        let mut state = queue.lock();
        state.sampled += 1;
        // After all pieces.
        state
            .sides
            .extend(sides.into_iter().enumerate().map(|(index, side)| ((control, usize::MAX / 2 + index), side)));
        let mut units = sample.units.into_iter().peekable();
        for index in 0.. {
            if units.peek().is_none() {
                break;
            }
            state.pieces.push_back(((control, index), units.by_ref().take(PIECE).collect()));
        }
        queue.more.notify_all();
    }
}

impl<'s> Worker<'_, 's> {
    /// Counts what was sampled of a control.
    pub fn count(&self, control: usize, sample: &mut Sample<'s>) {
        let mut state = self.0.lock();
        let cases = state.cases.entry(control).or_default();
        *cases = cases.saturating_add(sample.cases);
        state.left_out.entry(control).or_default().extend(sample.left_out.take());
    }
}

impl<'s> Queue<'s> {
    /// For so many controls, and what is asked of some of them or of all together.
    pub fn new(controls: usize, surveys: impl IntoIterator<Item = (Option<usize>, usize)>) -> Queue<'s> {
        let state = State { surveys: surveys.into_iter().collect(), ..State::default() };
        Queue { state: Mutex::new(state), more: Condvar::new(), controls }
    }

    /// Whoever does what is here holds one.
    pub fn worker(&self) -> Worker<'_, 's> {
        Worker(self)
    }

    /// How many cases there are in what was sampled of a control.
    pub fn cases(&self, control: usize) -> u64 {
        self.lock().cases.get(&control).copied().unwrap_or_default()
    }

    /// A control of which some variants were left out, and how many.
    pub fn left_out(&self, control: usize) -> Vec<SampledControl> {
        self.lock().left_out.get(&control).cloned().unwrap_or_default()
    }

    fn lock(&self) -> MutexGuard<'_, State<'s>> {
        // A thread that broke is told of when it is joined.
        self.state.lock().unwrap_or_else(PoisonError::into_inner)
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn nobody_waits_for_a_thread_that_broke() {
        let queue = Queue::new(1, []);
        // It takes the only control before the other asks.
        let broken = queue.worker();
        assert!(matches!(broken.next(), Some(Job::Sample(0))));
        std::thread::scope(|scope| {
            let waiting = scope.spawn(|| queue.worker().next().is_none());
            let breaks = scope.spawn(move || {
                let _broken = broken;
                std::panic::resume_unwind(Box::new("a check broke"));
            });
            assert!(breaks.join().is_err());
            assert!(waiting.join().unwrap_or(false));
        });
    }
}
