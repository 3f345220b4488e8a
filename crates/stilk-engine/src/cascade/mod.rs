//! Computed styles: one answer to "how does it look?"
//!
//! It computes the style of every element and pseudo-element of a document from the CSS text that is shipped, or from
//! anybody's: [`stylesheet`] parses, [`selector`] reads selectors and [`matching`] holds elements against them, [`order`]
//! sorts, [`style`] computes, [`resolved`] writes values as `getComputedStyle` does. What it cannot know is an [`Unknown`](crate::css::Unknown) with its reason.

mod adjusted;
pub mod asked;
mod attributed;
mod base_select;
mod boxed;
pub mod compound;
mod container;
mod custom;
mod declaration;
pub mod defaults;
mod difference;
mod display;
mod engine;
pub mod explain;
mod forced_colors;
mod forms;
mod hints;
mod keyframes;
mod layering;
pub mod layers;
mod longhand_set;
pub mod matching;
pub mod media;
mod nature;
pub mod order;
mod prepared;
pub mod pseudo;
pub mod ranking;
mod registered;
pub mod resolved;
pub mod scope;
pub mod selector;
pub mod style;
pub mod stylesheet;
mod supports;
pub mod surroundings;
mod used_size;
mod winner;

pub use engine::{Engine, Matches, Styles};
pub use longhand_set::LonghandSet;
pub use matching::{Forced, MatchingCaches};
pub use media::Media;
pub use order::Shared as SharedValue;
pub use pseudo::{PseudoElement, Styled};
pub use selector::PseudoClass;
pub use style::Style;
pub use stylesheet::Stylesheet;
pub use supports::SupportsTest;
pub use surroundings::Surroundings;
