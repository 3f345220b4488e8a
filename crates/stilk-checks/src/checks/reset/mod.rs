//! What browsers bring along, and what must stay of it.

pub mod forced_colors;
pub mod parity;
pub mod shadow_edge;
pub mod unreachable;
pub mod unset;
