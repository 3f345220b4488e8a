//! The files of the project, as text.

pub mod kept;
pub mod manifest;
pub mod pages;
pub mod report;
pub mod sheet;
pub mod template;
pub mod tokens;
