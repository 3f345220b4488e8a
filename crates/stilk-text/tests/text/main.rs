//! Texts and places on their own: files come from memory.

mod diagnostics;
mod json;
mod loading;
mod places;
