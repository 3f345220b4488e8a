//! `page/transition`: a page's own rules name what they animate.

use crate::check::{Check, Scope};
use crate::checks::page::foreign::rules;
use crate::example::Example;
use crate::visit::{PageSink, VisitedPage};
use stilk_engine::css::property::Longhand as L;
use stilk_engine::css::serialize::to_css;
use stilk_text::diagnostic::{Diagnostic, Level};

/// The check.
pub const CHECK: Check = Check {
    id: "page/transition",
    summary: "no rule of a page animates all properties",
    why: "`transition: all` animates what nobody thought of: the focus ring flies in, the layout crawls, and people who asked for \
          less motion get it all.",
    source: "CSS Transitions 1, transition-property; WCAG 2.2, 2.3.3",
    level: Level::Warning,
    mend: "Name the properties: `transition: background-color 120ms`.",
    fails: Example::page("<style>.card { transition: all 200ms }</style><p class=\"card\">Deck 2</p>"),
    passes: Example::page("<style>.card { transition: background-color 200ms }</style><p class=\"card\">Deck 2</p>"),
    scope: Scope::Page(run),
};

fn run(visit: &VisitedPage, sink: &mut PageSink) {
    for rule in rules(visit) {
        let Some((declaration, Some(value))) = rule.sets(L::TransitionProperty) else { continue };
        sink.decided(CHECK.id, 1);
        let is_all = to_css(value).split(", ").any(|name| name == "all");
        // Without a duration nothing moves.
        let moves = rule
            .sets(L::TransitionDuration)
            .and_then(|(_, value)| value)
            .is_none_or(|value| to_css(value).split(", ").any(|time| !["0s", "0ms"].contains(&time)));
        if is_all && moves {
            let message = format!("`{}` animates all properties", rule.selector);
            let diagnostic = Diagnostic::new(CHECK.level, CHECK.id, rule.span(visit, declaration), message)
                .label("whatever changes moves");
            sink.find(rule.cause(visit), diagnostic);
        }
    }
}
