//! What browsers bring along, and what forced colours take away.

mod forced_colors;
mod parity;
mod unreachable;
mod unset;
