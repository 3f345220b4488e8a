//! Texts and the places in them.
//!
//! It promises that a value which came from a file can always say where it stood, and that what is wrong with a file is
//! told with that place, all of it in one run. It knows nothing of what the texts mean, and it opens no file: it asks the
//! trait [`source::Files`].
//!
//! - [`source`]: files by id, [`source::Span`], lines and columns.
//! - [`diagnostic`]: one type for mistakes and findings, with what to write instead.
//! - [`loader`]: reads each file once; what cannot be read is a diagnostic.
//! - [`moved`]: where a place is after an edit.
//! - [`json`]: JSON in which every key and value has its place.

pub mod diagnostic;
pub mod json;
pub mod loader;
pub mod moved;
pub mod source;
