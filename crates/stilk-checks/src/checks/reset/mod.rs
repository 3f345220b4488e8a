//! What browsers bring along, and what must stay of it.

pub mod forced_colors;
pub mod parity;
pub mod unreachable;
pub mod unset;
