//! One control's sheet: its label, the control itself to try, its pictures, the tokens it is painted with.

use super::SpecimenPage;
use stilk_engine::dom::NodeId;
use stilk_language::system::Control;
use stilk_language::tokens::{TokenId, TokenType};
use stilk_text::diagnostic::{Diagnostic, grouped};

impl SpecimenPage<'_> {
    pub(super) fn control(&mut self, main: NodeId, control: &Control) {
        let name = control.name.value.as_str();
        let id = format!("control-{name}");
        let section =
            self.add(main, "section", &[("class", "control"), ("aria-labelledby", &id), ("data-control", name)]);
        let label = self.add(section, "div", &[("class", "label")]);
        self.add_text(label, "h2", &[("id", &id), ("tabindex", "-1")], name);
        let hosts: Vec<&str> = (0..control.template.hosts.len()).map(|host| control.host_name(host)).collect();
        let variants = grouped(control.variant_count(0));
        let place = self.sources.place(control.name.span);
        let figures = self.add(label, "dl", &[]);
        for (term, text) in [("on", hosts.join(", ")), ("variants", variants), ("from", place)] {
            let pair = self.add(figures, "div", &[]);
            self.add_text(pair, "dt", &[], term);
            self.add_text(pair, "dd", &[], &text);
        }
        let notes = notes(self.sources.file(control.name.span.file).text.as_str(), control.name.span.start as usize);
        for paragraph in &notes {
            let node = self.add(label, "p", &[("class", "notes")]);
            self.add_prose(node, paragraph);
        }
        self.findings_of(label, name);
        self.trial(section, name);
        // Every focusable scroll area needs a name.
        let region = format!("{name}: pictures of every option and state");
        let attributes = [
            ("class", "sheet"),
            ("role", "region"),
            ("aria-label", region.as_str()),
            ("tabindex", "0"),
            ("data-sheet", name),
        ];
        self.add(section, "div", &attributes);
        self.table(section, control);
        self.tokens_used(section, control);
    }

    fn findings_of(&mut self, label: NodeId, name: &str) {
        let findings = self.findings;
        let is_of = |finding: &&Diagnostic| {
            finding.evidence.as_ref().is_some_and(|evidence| evidence.controls.iter().any(|control| control == name))
        };
        let mut own = findings.iter().filter(is_of).peekable();
        if own.peek().is_none() {
            return;
        }
        let list = self.add(label, "ul", &[("class", "findings"), ("aria-label", "To mend")]);
        for finding in own {
            self.finding(list, finding);
        }
    }

    /// Where the page's script puts the control itself, the choices of a variant, and its markup.
    fn trial(&mut self, section: NodeId, name: &str) {
        let area = self.add(section, "div", &[("class", "trial"), ("data-try", name)]);
        let label = format!("Variant of {name} to try");
        self.add(area, "form", &[("class", "choices"), ("aria-label", &label)]);
        self.add(area, "div", &[("class", "stages")]);
        let details = self.add(area, "details", &[("class", "markup")]);
        self.add_text(details, "summary", &[], "Markup");
        let name = format!("Copy the markup of {name}");
        self.add_text(details, "button", &[("type", "button"), ("class", "copy"), ("aria-label", &name)], "Copy");
        let pre = self.add(details, "pre", &[("tabindex", "0")]);
        self.add(pre, "code", &[]);
    }

    /// Tokens that the control's declarations name, with their values in every theme.
    fn tokens_used(&mut self, section: NodeId, control: &Control) {
        let declarations = control.rules.iter().flat_map(|rule| &rule.declarations);
        let mut used: Vec<TokenId> = Vec::new();
        for id in declarations.flat_map(|declaration| declaration.value.tokens()) {
            if !used.contains(&id) {
                used.push(id);
            }
        }
        if used.is_empty() {
            return;
        }
        let details = self.add(section, "details", &[("class", "used")]);
        self.add_text(details, "summary", &[], &format!("Painted with {} tokens", used.len()));
        let region = format!("Tokens of {}", control.name.value);
        let scroll = self.add(
            details,
            "div",
            &[("class", "scroll"), ("role", "region"), ("aria-label", &region), ("tabindex", "0")],
        );
        let table = self.add(scroll, "table", &[]);
        let head = self.add(table, "thead", &[]);
        let row = self.add(head, "tr", &[]);
        self.add_text(row, "th", &[("scope", "col")], "token");
        let themes = self.system.tokens.themes();
        for theme in &themes {
            let name = self.system.tokens.theme_name(theme);
            self.add_text(row, "th", &[("scope", "col")], &name);
        }
        let body = self.add(table, "tbody", &[]);
        for id in used {
            let token = self.system.tokens.get(id);
            let row = self.add(body, "tr", &[]);
            let head = self.add(row, "th", &[("scope", "row")]);
            self.add_text(head, "a", &[("href", &format!("#token-{}", token.path))], &token.path);
            let values: Vec<Option<String>> =
                themes.iter().map(|theme| self.system.tokens.literal(id, theme)).collect();
            let is_one = values.iter().all(|value| *value == values[0]);
            let shown = if is_one { &values[..1] } else { &values[..] };
            for value in shown {
                let span = themes.len().to_string();
                let attributes: &[(&str, &str)] = if is_one { &[("colspan", &span)] } else { &[] };
                let cell = self.add(row, "td", attributes);
                let value = value.clone().unwrap_or_default();
                if super::tokens::is_color(token.kind, &value) {
                    self.add(cell, "span", &[("class", "swatch"), ("style", &format!("--swatch: {value}"))]);
                }
                let text = match token.kind {
                    Some(TokenType::Color) | None => super::tokens::color_text(&value).unwrap_or(value),
                    _ => value,
                };
                self.document.append_text(cell, &text);
            }
        }
    }
}

/// The comment right before a control's rule, as paragraphs.
fn notes(text: &str, name: usize) -> Vec<String> {
    let before = text.get(..name).unwrap_or_default();
    let Some((before, _)) = before.rsplit_once("@control") else { return Vec::new() };
    let Some(open) = before.trim_end().strip_suffix("*/") else { return Vec::new() };
    let Some((_, comment)) = open.rsplit_once("/*") else { return Vec::new() };
    let lines: Vec<&str> = comment.lines().map(|line| line.trim().trim_start_matches('*').trim()).collect();
    let paragraphs = lines.split(|line| line.is_empty()).map(|lines| lines.join(" "));
    paragraphs.filter(|paragraph| !paragraph.is_empty()).collect()
}

#[cfg(test)]
mod tests {
    use super::notes;

    #[test]
    fn notes_are_the_comment_right_before_the_rule() {
        let text =
            "/* Not this. */ @trait t { }\n/* A switch:\n * on or `off`.\n *\n * At once. */\n\n@control switch { }";
        let at = text.find("switch {").unwrap();
        assert_eq!(notes(text, at), ["A switch: on or `off`.", "At once."]);
        assert_eq!(notes("@control x {}", 9), [""; 0]);
        assert_eq!(notes("/* x */ a @control x {}", 19), [""; 0]);
    }
}
