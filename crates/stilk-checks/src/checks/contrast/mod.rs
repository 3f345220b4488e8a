//! Contrast of what is painted with what is behind it.

pub mod boundary;
mod caret;
pub mod focus;
pub mod indicator;
pub mod pairs;
pub mod placeholder;
pub mod text;
