//! The core of Stilk: text in, values out. It has no files, terminal, network or clock.
//!
//! Data flows one way:
//!
//! 1. [`source`]: the text of files, behind the trait [`source::Files`]; every value keeps its place.
//! 2. [`manifest`], [`tokens`], [`template`] and [`sheet`] read what people write: [`manifest::Manifest`],
//!    [`tokens::Tokens`] with their themes, [`template::Template`], and [`sheet::Sheet`], which may be senseless.
//! 3. [`system`] binds them to a checked [`system::System`]: names known, types right, no cycles. Later stages never
//!    validate again.
//! 4. [`mod@stylesheet`] writes the system's CSS: [`stylesheet::Written`], which remembers where each declaration came
//!    from.
//! 5. [`case`] spans control × host × variant × state × theme; [`markup`] expands each into a document.
//! 6. [`engine`] computes how a document looks from the CSS text that was written; [`css`] is its table of properties
//!    and grammars.
//!    [`layout`] places its boxes.
//! 7. [`case_name`] reads the notation of cases; [`reach`] follows a token to what depends on it.
//! 8. [`check`] judges looks and gives a [`check::Report`]; [`specimen`] draws them.
//! 9. [`page`] reads pages that people wrote; [`scan`] holds them against the system; [`inspect`] says why a value in them,
//!    or in a case, is what it is.
//! 10. [`compare`] holds two versions against each other; [`describe`] tells programs about the system: `system.json`, types, resolved tokens.
//!
//! Mistakes and findings are one type, [`diagnostic::Diagnostic`]. [`project::load`] runs stages 1 to 3.

pub mod case;
pub mod case_name;
pub mod check;
pub mod compare;
pub mod css;
pub mod describe;
pub mod diagnostic;
pub mod dom;
pub mod engine;
pub mod html;
pub mod inspect;
pub mod json;
pub mod layout;
pub mod manifest;
pub mod markup;
pub mod page;
pub mod project;
pub mod reach;
pub mod scan;
pub mod sheet;
pub mod source;
pub mod specimen;
pub mod stylesheet;
pub mod system;
pub mod template;
pub mod tokens;
