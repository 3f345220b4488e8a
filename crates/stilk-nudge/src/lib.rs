//! Values set by hand: what paints a place and where each value may be put ([`painting`]), the edits of the sources that put one there
//! ([`change`], with the notation of token files in [`notation`]), and what comes of it ([`outcome`]).
//!
//! It promises that whatever it gives out as an edit is in the format, notation and unit of the file, leaves every other byte as it is,
//! and makes a project that loads. It never writes, and never says that something holds that it has not tried.

pub mod change;
mod insert;
pub mod notation;
pub mod outcome;
pub mod painting;
