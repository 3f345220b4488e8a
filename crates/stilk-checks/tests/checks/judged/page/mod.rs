//! Checks of the group `page`: a file each.

mod bypass;
mod collision;
mod contrast;
mod forced_colors;
mod hover_only;
mod lasting_focus;
mod outline;
mod r#override;
mod target;
mod transition;
mod unreachable;
