//! What stands on a page beside the system: rules that beat it or reach into it, controls that go by it.

pub mod bypass;
pub mod collision;
pub mod contrast;
pub mod forced_colors;
mod foreign;
pub mod hover_only;
pub mod lasting_focus;
pub mod outline;
pub mod r#override;
mod place;
pub mod target;
pub mod transition;
pub mod unreachable;
