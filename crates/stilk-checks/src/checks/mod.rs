//! The checks, by group: a file each, with its function and its explanation.

pub mod cascade;
pub mod contrast;
pub mod font;
pub mod geometry;
pub mod markup;
pub mod page;
pub mod reset;
pub mod state;
pub mod token;
