//! What browsers bring along, and what forced colours take away.

mod forced_colors;
mod parity;
mod shadow_edge;
mod unreachable;
mod unset;
