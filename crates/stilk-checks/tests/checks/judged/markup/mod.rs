//! Checks of the group `markup`: a file each.

mod class;
mod form;
mod group;
mod id;
mod label;
mod nesting;
