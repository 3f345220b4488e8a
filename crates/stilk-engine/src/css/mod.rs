//! CSS properties and values: a table of longhands, a small set of grammars, and how values are parsed, computed and
//! written. The sheet checker and the engine both rest on it.
//!
//! What is not modelled is accepted and comes out as [`Value::Unmodelled`]: the engine then says *unknown*, never a
//! guess.

mod border_image;
pub mod calc;
mod chromium;
pub mod color;
mod color_function;
mod color_space;
pub mod compute;
pub mod contained;
pub mod context;
mod describe;
mod easing;
mod filter;
pub mod font;
mod generated;
pub(crate) mod grammar;
mod grid;
mod image;
mod known_names;
mod mask;
pub(crate) mod number;
pub mod parse;
mod position;
mod primitive;
pub mod property;
pub mod quirks;
pub mod serialize;
mod shadow;
mod shape;
mod shorthand;
pub mod substitute;
pub mod syntax;
mod tracks;
pub mod transform;
pub mod value;
pub mod vision;
mod words;

pub use context::Unknown;
pub use parse::{Declared, ParsedDeclaration, parse_declaration};
pub use property::{Flow, Longhand, PropertyName};
pub use value::Value;
