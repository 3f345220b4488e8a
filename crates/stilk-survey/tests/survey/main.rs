//! What a survey finds on pages that a test writes: nothing is read from disk.

mod controls;
mod families;
mod faults;
mod sites;
mod support;
mod themes;
mod values;
