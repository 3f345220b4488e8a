//! Markup that cannot be changed and gets a control's look all the same (`@attach`).

use super::Variant;
use stilk_text::source::Span;

/// Existing markup with a control's look.
#[derive(Debug)]
pub struct Attachment {
    /// What it is attached to: selectors of the hosts, one each.
    pub selectors: Vec<String>,
    /// The control.
    pub control: String,
    /// Its variant.
    pub variant: Variant,
    /// Parts, and what they are inside those elements.
    pub parts: Vec<(String, String)>,
    /// Where it stands.
    pub span: Span,
}

impl Attachment {
    /// What stands for a part, if anything does.
    pub fn part(&self, name: &str) -> Option<&str> {
        self.parts.iter().find(|(part, _)| part == name).map(|(_, selector)| selector.as_str())
    }
}
