//! The program as its users meet it.

#[path = "../shared/depth.rs"]
mod depth;

mod adopt;
mod bad_input;
mod build;
mod check;
mod compare;
mod contrast;
mod demo;
mod editor;
mod errors;
mod files;
mod format;
mod guide;
mod junit;
mod limits;
mod live;
mod marks;
mod markup;
mod mend;
mod outputs;
mod report;
mod scan;
mod schemas;
mod shells;
mod specimen;
mod stream;
mod support;
mod survey;
mod terminal;
mod tokens;
mod tough;
mod walk;
mod why;
