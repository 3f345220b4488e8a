//! What came of it: files, families that became controls, families that stay, the proof.

use crate::proof::{Difference, Proof};
use crate::themes::ModifierDraft;
use std::collections::BTreeMap;

/// A family that stays as it was.
#[derive(Debug, Clone)]
pub struct Left {
    /// Its selectors.
    pub family: String,
    /// How many controls it has.
    pub controls: usize,
    /// Why.
    pub why: String,
    /// What would look different.
    pub differences: Vec<Difference>,
}

/// A family that became a control.
#[derive(Debug, Clone)]
pub struct Became {
    /// Its selectors.
    pub family: String,
    /// The control.
    pub control: String,
    /// How many controls on pages.
    pub controls: usize,
    /// How many declarations its sheet has.
    pub declarations: usize,
    /// How many of these write out where two rules meet.
    pub meetings: usize,
    /// Options and parts by name, with what they are on pages.
    pub names: Vec<(String, String)>,
    /// Declarations that never won, with their rules.
    pub lost: Vec<(String, String)>,
    /// Rules that stay, because a sheet cannot say them.
    pub unreadable: Vec<(String, &'static str)>,
}

/// What came of it.
pub struct Adopted {
    /// The files of the project: paths in it, and texts.
    pub files: BTreeMap<String, String>,
    /// What stays of each old stylesheet: its path, the file, and its text before addresses are written anew.
    pub kept: Vec<KeptFile>,
    /// By page: for each of its stylesheets, in order, which of these stands for it.
    pub pages: BTreeMap<String, Vec<Option<usize>>>,
    /// The name of the system's stylesheet.
    pub stylesheet: String,
    /// Families that became controls.
    pub became: Vec<Became>,
    /// Families that stay.
    pub left: Vec<Left>,
    /// The tokens.
    pub tokens: usize,
    /// Literal colours in sheets, and how many of them are tokens.
    pub literals: (usize, usize),
    /// Colours that became one with another: the colour, the token, and how far apart they were.
    pub merged: Vec<(String, String, f64)>,
    /// The modifiers.
    pub modifiers: Vec<ModifierDraft>,
    /// The proof.
    pub proof: Proof,
    /// Sides of media queries that were too many to be looked at.
    pub unseen: usize,
}

/// What stays of a stylesheet.
pub struct KeptFile {
    /// The path of the old one, or of the page that it stood in.
    pub old: String,
    /// Whether it stood in a page.
    pub is_inline: bool,
    /// Its path in the project.
    pub path: String,
    /// Its text, with addresses as they were.
    pub text: String,
}
