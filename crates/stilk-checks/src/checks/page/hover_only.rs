//! `page/hover-only`: what a page reveals on hover, it reveals on focus too.

use crate::check::{Check, Scope};
use crate::checks::page::foreign::{Foreign, rules};
use crate::example::Example;
use crate::visit::{PageSink, VisitedPage};
use stilk_engine::css::property::Longhand as L;
use stilk_engine::css::serialize::to_css;
use stilk_text::diagnostic::{Diagnostic, Level};

/// The check.
pub const CHECK: Check = Check {
    id: "page/hover-only",
    summary: "what a rule of the page reveals under the pointer, the focus reveals too",
    why: "A menu that opens on hover alone is closed to the keyboard, and to every finger.",
    source: "WCAG 2.2, 2.1.1 Keyboard and 1.4.13 Content on Hover or Focus",
    level: Level::Error,
    mend: "Write `:focus-within` beside `:hover`, or open it with a button and `aria-expanded`.",
    fails: Example::page(
        "<style>.more ul { display: none } .more:hover ul { display: block }</style><div class=\"more\"><a href=\"/\">Lines</a><ul><li>North</ul></div>",
    ),
    passes: Example::page(
        "<style>.more ul { display: none } .more:is(:hover, :focus-within) ul { display: block }</style><div class=\"more\"><a href=\"/\">Lines</a><ul><li>North</ul></div>",
    ),
    scope: Scope::Page(run),
};

/// Ways to hide, with the values that do.
const HIDING: [(L, &[&str]); 3] = [(L::Display, &["none"]), (L::Visibility, &["hidden"]), (L::Opacity, &["0"])];

fn run(visit: &VisitedPage, sink: &mut PageSink) {
    let all = rules(visit);
    for rule in all.iter().filter(|rule| rule.has(":hover")) {
        for (longhand, hidden) in HIDING {
            let Some((declaration, Some(value))) = rule.sets(longhand) else { continue };
            if hidden.contains(&to_css(value).as_str()) {
                continue;
            }
            let target = rule.without(&[":hover"]);
            let hides = |other: &&Foreign| {
                !other.has(":hover")
                    && subject(&other.selector) == subject(&target)
                    && other
                        .sets(longhand)
                        .is_some_and(|(_, value)| value.is_some_and(|value| hidden.contains(&to_css(value).as_str())))
            };
            if !all.iter().any(|other| hides(&other)) {
                continue;
            }
            sink.decided(CHECK.id, 1);
            const FOCUS: [&str; 3] = [":focus-visible", ":focus-within", ":focus"];
            let reveals = |other: &&Foreign| {
                FOCUS.iter().any(|pseudo| other.has(pseudo))
                    && subject(&other.without(&FOCUS)) == subject(&target)
                    && other.sets(longhand).is_some()
            };
            if rule.has(":focus-within") || all.iter().any(|other| reveals(&other)) {
                continue;
            }
            let message = format!("`{}` reveals on hover what the keyboard cannot reach", rule.selector);
            let diagnostic = Diagnostic::new(CHECK.level, CHECK.id, rule.span(visit, declaration), message)
                .label("for pointers only")
                .mend(format!("write `{}` beside it", rule.selector.replacen(":hover", ":focus-within", 1)));
            sink.find(rule.cause(visit), diagnostic);
        }
    }
}

/// The last compound of a selector: what it styles.
fn subject(selector: &str) -> &str {
    selector.trim().rsplit([' ', '>', '+', '~']).next().unwrap_or(selector)
}
