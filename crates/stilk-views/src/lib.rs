//! What people look at.
//!
//! It promises pages that stand alone, and that they are the same for the same source. Everything in them was computed
//! below: a view never judges and never guesses.
//!
//! - [`specimen`]: the system's style guide, every control in every variant, state and theme, with its figures.
//! - [`compare`]: two versions of a system held against each other: names, looks, contrast, and the version step.
//! - [`inventory`]: what a survey found on pages, each look drawn by the page's own stylesheets.
//! - [`contrast`]: the pairs of colours that meet, as a page and as a picture.

pub mod compare;
pub mod contrast;
pub mod inventory;
mod script;
pub mod specimen;
