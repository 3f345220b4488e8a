//! `page/collision`: a page's rules do not use the system's class names.

use crate::check::{Check, Scope};
use crate::checks::page::foreign::rules;
use crate::example::Example;
use crate::visit::{PageSink, VisitedPage};
use stilk_text::diagnostic::{Diagnostic, Level};

/// The check.
pub const CHECK: Check = Check {
    id: "page/collision",
    summary: "no rule of a page names a class of the system",
    why: "A rule that names the system's classes breaks with its next release, and changes every such control on every page that \
          loads it.",
    source: "CSS Cascade 5, layers: what is in no layer wins",
    level: Level::Warning,
    mend: "Give the element a class of the page's own, set a token on it, or ask for an option in the system.",
    fails: Example::page(
        "<style>.ex-button { border-radius: 0 }</style><button type=\"button\" class=\"ex-button\"><span class=\"ex-button_label\">Book</span></button>",
    ),
    passes: Example::page(
        "<style>.booking { margin-top: 1em }</style><button type=\"button\" class=\"ex-button booking\"><span class=\"ex-button_label\">Book</span></button>",
    ),
    scope: Scope::Page(run),
};

fn run(visit: &VisitedPage, sink: &mut PageSink) {
    for rule in rules(visit) {
        sink.decided(CHECK.id, 1);
        let is_ours = |class: &&str| visit.classes.by_pattern(class).is_some();
        let Some(class) = classes_in(&rule.selector).find(is_ours) else { continue };
        let Some(declaration) = rule.rule.declarations.first() else { continue };
        let message = format!("the page's rule `{}` names the system's class `{class}`", rule.selector);
        let diagnostic = Diagnostic::new(CHECK.level, CHECK.id, rule.span(visit, declaration), message)
            .label("reaches into the system");
        sink.find(rule.cause(visit), diagnostic);
    }
}

/// The class names in a selector.
pub fn classes_in(selector: &str) -> impl Iterator<Item = &str> {
    selector.split('.').skip(1).map(|rest| {
        let end = rest.find(|c: char| !c.is_alphanumeric() && c != '-' && c != '_').unwrap_or(rest.len());
        &rest[..end]
    })
}
