//! What there is on pages and in stylesheets that nobody wrote for Stilk.
//!
//! It promises that what it says of a look is what the engine computes on that very page, in its surroundings, and that what
//! cannot be known is said to be unknown. It reads no files, knows no network, and changes nothing.
//!
//! Data flows one way:
//!
//! 1. [`site`]: pages and their stylesheets with the places of both. [`rules`]: those stylesheets' rules, taken apart; [`state_class`]:
//!    classes that say a state.
//! 2. [`control`]: which elements of a page are controls, of which kind, with which parts.
//! 3. [`theme`]: what changes many colours at once. [`family`]: which controls share their base rules, by which classes,
//!    attributes and places they vary, and which states are written for them.
//! 4. [`place`]: a control where it stands: its looks in states, themes and surroundings. [`look`] tells looks apart.
//! 5. [`judge`] asks the checks of looks there, and what only foreign stylesheets do wrong: [`fault`], a file each.
//! 6. [`value`]: the values in rules of controls, with near twins. [`unused`]: what no page uses and what browsers drop.
//! 7. [`survey`] does all of it and gives a [`report::Survey`].

pub mod control;
pub mod family;
pub mod fault;
pub mod judge;
pub mod look;
pub mod place;
pub mod report;
pub mod rules;
pub mod site;
pub mod state_class;
pub mod survey;
pub mod theme;
pub mod unused;
pub mod value;
