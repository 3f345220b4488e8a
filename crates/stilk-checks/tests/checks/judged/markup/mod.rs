//! Checks of the group `markup`: a file each.

mod class;
mod context;
mod count;
mod form;
mod group;
mod id;
mod inside;
mod label;
mod nesting;
mod part;
mod role;
mod stylesheet;
mod r#type;
