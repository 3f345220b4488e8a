//! The language of Stilk: what a maintainer writes, checked and bound; the stylesheet and the markup that come of it; the
//! cases that there are.
//!
//! It promises that what it hands on is right: names known, types right, no cycles; later stages never validate again. It
//! judges no looks: whether a system is any good is not asked here.
//!
//! Data flows one way:
//!
//! 0. [`mark`]: by what an element of a page is told to be something of the system.
//! 1. [`manifest`], [`tokens`], [`template`] and [`sheet`] read what people write: [`manifest::Manifest`],
//!    [`tokens::Tokens`] with their themes, [`template::Template`], and [`sheet::Sheet`], which may be senseless.
//! 2. [`system`] binds them to a checked [`system::System`]; [`system::notation`] reads the notation of cases.
//! 3. [`mod@stylesheet`] writes the system's CSS: [`stylesheet::Written`], which remembers where each declaration came
//!    from; [`markup`] expands controls into documents.
//! 4. [`case`] spans control × host × variant × state × theme and draws each; [`reach`] follows a token to the cases that
//!    depend on it.
//! 5. [`describe`] tells programs about the system: `system.json`, types, resolved tokens.
//!
//! [`plain_layout`] writes a sheet as all are written. [`unfinished`] says how a case that is being written may go on.
//!
//! [`project::load`] runs the first two stages.

pub mod case;
pub mod dependents;
pub mod describe;
pub mod ids;
pub mod limits;
pub mod manifest;
pub mod mark;
pub mod markup;
pub mod plain_layout;
pub mod project;
pub mod sheet;
pub mod stylesheet;
pub mod system;
pub mod template;
pub mod tokens;
pub mod unfinished;
