//! Fonts.

pub mod fallback;
pub mod line;
