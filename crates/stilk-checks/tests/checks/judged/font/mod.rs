//! Checks of the group `font`: a file each.

mod fallback;
mod line;
