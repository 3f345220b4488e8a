//! What can be proved about a system and about the pages that use it, and what mends what is wrong.
//!
//! It promises a verdict for every case, or *unknown* with its reason, counted: silence never means that something was
//! not looked at. It never parses a sheet or a value of its own, and never asks a sheet what a look can say.
//!
//! Data flows one way:
//!
//! 1. [`check`]: what a check is. [`checks`] holds them, a file each; [`registry`] lists them.
//! 2. [`relevance`] finds out which axes, states, hosts and themes a check can tell apart, [`sample`] which variants are
//!    computed for it, [`surroundings`] what may be around it: each side of the conditions in sheets.
//! 3. [`inspection`] is what a check looks at, one unit in all its states; [`survey`] the whole system; [`visit`] a page.
//! 4. [`painted`] says what is seen there: pixels behind a text, gradients, boxes, what changes; [`trace`] leads a value
//!    back to its token, [`choice`] to the declaration that chose it.
//! 5. [`sink`] takes what checks say: one cause, one finding; [`gather`] the colours that are adjacent. [`run`] asks all of them and gives a [`report::Report`].
//! 6. [`mend`] computes what to write instead, [`trial`] tries it; [`fingerprint`] says which finding is which in another run.
//! 7. [`scan`] walks over pages and gathers what [`checks`] say of each; [`in_place`] asks the same checks of controls that
//!    nobody wrote for a system.

pub mod check;
mod checks;
mod choice;
pub mod example;
pub mod fingerprint;
pub mod gather;
pub mod in_place;
pub mod inspection;
pub mod mend;
pub mod painted;
pub mod registry;
mod relevance;
pub mod report;
pub mod run;
mod sample;
pub mod scan;
pub mod settings;
pub mod sink;
mod surroundings;
mod survey;
pub mod trace;
pub mod trial;
pub mod visit;
