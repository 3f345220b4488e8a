//! What stands beside the text: the value of a token, the worst contrast beside a colour.

use super::{FileKind, Subject, told};
use crate::context::sheet::at;
use crate::names::{Role, Symbol};
use crate::work::Figures;
use lsp_types::{
    InlayHint, InlayHintKind, InlayHintLabel, InlayHintTooltip, MarkupContent, MarkupKind, Position, Range,
};

/// The hints of a range of a file.
pub fn hints(subject: &Subject, range: Range, figures: Option<&Figures>) -> Vec<InlayHint> {
    let (start, end) = (subject.offset(range.start), subject.offset(range.end));
    let (Some(file), Some(tokens)) = (subject.file, subject.snapshot.tokens()) else { return Vec::new() };
    if !matches!(subject.kind(), FileKind::Sheet | FileKind::Tokens | FileKind::Manifest) {
        return Vec::new();
    }
    let theme = tokens.default_theme();
    let lines = subject.lines();
    let mut found = Vec::new();
    let here = subject.snapshot.names.of_file(file).iter();
    for one in
        here.filter(|one| one.role == Role::Read && start <= one.span.start as usize && one.span.end as usize <= end)
    {
        let Symbol::Token(path) = &one.symbol else { continue };
        let Some(id) = tokens.find_path(path) else { continue };
        let value = told::short_value(tokens, id, &theme);
        // What is long says nothing at a glance.
        if value.chars().count() > 24 {
            continue;
        }
        // Behind the brace.
        let behind = one.span.end as usize;
        let behind = behind + usize::from(subject.text[behind..].starts_with('}'));
        let words = told::token(tokens, subject.snapshot.any_system(), id);
        found.push(hint(lines.position(behind), value, words));
        if subject.kind() == FileKind::Sheet
            && let Some(contrast) = figures.and_then(|figures| contrast_beside(subject, behind, path, figures))
        {
            found.push(hint(lines.position(behind), contrast.0, contrast.1));
        }
    }
    found
}

/// The worst contrast of a text whose colour is a token, beside `color: {token}`.
fn contrast_beside(subject: &Subject, offset: usize, path: &str, figures: &Figures) -> Option<(String, String)> {
    // The brace of the reference itself is passed over.
    let before = subject.text[..offset].trim_end_matches('}');
    let open = before.rfind('{')?;
    let statement = subject.text[..open].trim_end();
    let is_color = statement.ends_with("color:") && !statement.trim_end_matches("color:").ends_with('-');
    let control = at(subject.text, open).owner()?;
    let worst = figures.controls.get(&control)?.texts.get(path).filter(|_| is_color)?;
    Some((format!("{:.2}:1", worst.ratio), format!("the worst is {}, it needs {}:1", worst.case, worst.needed)))
}

fn hint(position: Position, label: String, words: String) -> InlayHint {
    InlayHint {
        position,
        label: InlayHintLabel::String(label),
        kind: Some(InlayHintKind::TYPE),
        text_edits: None,
        tooltip: Some(InlayHintTooltip::MarkupContent(MarkupContent { kind: MarkupKind::Markdown, value: words })),
        padding_left: Some(true),
        padding_right: None,
        data: None,
    }
}
