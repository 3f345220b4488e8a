//! Rules that are not the system's.

use crate::visit::{PageStyle, VisitedPage};
use stilk_engine::cascade::selector;
use stilk_engine::cascade::stylesheet::{Declaration, DeclarationBody, StyleRule};
use stilk_engine::css::parse::Declared;
use stilk_engine::css::property::{Flow, Longhand};
use stilk_engine::css::value::Value;
use stilk_text::source::Span;

/// A rule of a page's own stylesheet.
pub struct Foreign<'v> {
    /// The sheet.
    pub sheet: &'v PageStyle,
    /// The rule.
    pub rule: &'v StyleRule,
    /// Its selector.
    pub selector: String,
}

/// All rules of a page that are not the system's, those that are imported left out.
pub fn rules<'v>(visit: &'v VisitedPage) -> Vec<Foreign<'v>> {
    let sheets = visit.sheets.iter().filter(|sheet| !sheet.is_system);
    sheets
        .flat_map(|sheet| {
            sheet.parsed.rules.iter().filter(|rule| rule.file == 0).map(move |rule| Foreign {
                sheet,
                rule,
                selector: selector::to_text(&rule.selector),
            })
        })
        .collect()
}

impl Foreign<'_> {
    /// What makes findings about it one, on whatever page.
    pub fn cause(&self, visit: &VisitedPage) -> String {
        format!("{} {}", visit.file_of(self.sheet), self.selector)
    }

    /// Where a declaration of it stands.
    pub fn span(&self, visit: &VisitedPage, declaration: &Declaration) -> Option<Span> {
        visit.span_in(self.sheet, declaration.offset)
    }

    /// The declaration that sets a longhand, with its value where that needs no custom property.
    pub fn sets(&self, longhand: Longhand) -> Option<(&Declaration, Option<&Value>)> {
        self.rule.declarations.iter().rev().find_map(|declaration| {
            let DeclarationBody::Property(parsed) = &declaration.body else { return None };
            let targets = parsed.targets();
            let index = targets.iter().position(|target| target.physical(Flow::LTR) == longhand)?;
            let value = match &parsed.declared {
                Declared::Values(values) => values.get(index).map(|(_, value)| value),
                _ => None,
            };
            Some((declaration, value))
        })
    }

    /// Whether its selector names a pseudo-class.
    pub fn has(&self, pseudo: &str) -> bool {
        self.selector.match_indices(pseudo).any(|(at, _)| {
            let after = self.selector[at + pseudo.len()..].chars().next();
            after.is_none_or(|c| !c.is_alphanumeric() && c != '-')
        })
    }

    /// Its selector without the given pseudo-classes.
    pub fn without(&self, pseudos: &[&str]) -> String {
        pseudos.iter().fold(self.selector.clone(), |text, pseudo| text.replace(pseudo, ""))
    }
}
