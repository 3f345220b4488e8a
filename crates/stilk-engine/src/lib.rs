//! HTML and CSS in, computed styles and boxes out.
//!
//! It promises the value that a browser computes, or *unknown* with the reason; never a guess. It is held against real
//! browsers on every longhand that it knows. It knows nothing of tokens, controls or checks, so that it serves pages that
//! anybody wrote as well.
//!
//! Data flows one way:
//!
//! 1. [`html`] reads a text into a [`dom::Document`] by the parser of the HTML Standard; [`page`] finds its stylesheets.
//! 2. [`css`]: a table of longhands, the grammars of their values, and how values are parsed, computed and written.
//! 3. [`cascade`]: [`cascade::Stylesheet`] parses, [`cascade::Engine`] matches, sorts and computes: a
//!    [`cascade::Style`] for each element and pseudo-element.
//! 4. [`layout`] places the boxes of a document with its styles.
//! 5. [`inspect`] says of one value why it is what it is.

pub mod cascade;
pub mod css;
pub mod dom;
pub mod html;
pub mod inspect;
pub mod layout;
pub mod page;
