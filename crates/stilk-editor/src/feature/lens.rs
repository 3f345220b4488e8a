//! What stands above a control: how many cases it has, its worst contrast, and what can be shown of it.

use super::{FileKind, Subject};
use crate::work::Figures;
use lsp_types::{CodeLens, Command};
use serde_json::json;
use stilk_text::diagnostic::count;

/// The command that gives the HTML of a control.
pub const MARKUP: &str = "stilk.markup";
/// The command that draws a control.
pub const SPECIMEN: &str = "stilk.specimen";
/// The command that says what a check means.
pub const EXPLAIN: &str = "stilk.explain";

/// The lenses of a sheet.
pub fn lenses(subject: &Subject, figures: Option<&Figures>) -> Vec<CodeLens> {
    let Some(file) = subject.file.filter(|_| subject.kind() == FileKind::Sheet) else { return Vec::new() };
    let sheets = subject.snapshot.trees.sheets.iter().filter(|sheet| sheet.file == file);
    let mut found = Vec::new();
    for node in sheets.flat_map(|sheet| &sheet.controls) {
        let range = subject.range(node.name.span.range());
        let name = &node.name.value;
        let title = match figures.and_then(|figures| figures.controls.get(name)) {
            Some(figures) => match figures.worst() {
                Some(worst) => format!("{}, worst contrast {:.2}:1", count(figures.cases, "case"), worst.ratio),
                None => count(figures.cases, "case"),
            },
            None => format!("`{name}`"),
        };
        let command = |title: String, command: &str| {
            Some(Command {
                title,
                command: command.to_owned(),
                arguments: Some(vec![json!(subject.snapshot.root), json!(name)]),
            })
        };
        found.push(CodeLens { range, command: command(title, SPECIMEN), data: None });
        found.push(CodeLens { range, command: command("markup".to_owned(), MARKUP), data: None });
    }
    found
}
