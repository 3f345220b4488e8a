//! Contrast of what is painted with what is behind it.

pub mod boundary;
pub(super) mod boxes;
pub mod focus;
pub mod indicator;
pub mod mend;
pub mod pairs;
pub mod placeholder;
pub mod text;
