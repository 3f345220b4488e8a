//! `page/outline`: no rule of a page takes the focus away.

use crate::check::{Check, Scope};
use crate::checks::page::foreign::{Foreign, rules};
use crate::example::Example;
use crate::visit::{PageSink, VisitedPage};
use stilk_engine::css::property::Longhand as L;
use stilk_engine::css::serialize::to_css;
use stilk_text::diagnostic::{Diagnostic, Level};

/// The check.
pub const CHECK: Check = Check {
    id: "page/outline",
    summary: "where a page takes the outline away, it shows the focus in another way",
    why: "Without a ring, people who use the keyboard do not know where they are.",
    source: "WCAG 2.2, 2.4.7 Focus Visible",
    level: Level::Error,
    mend: "Take `outline: none` out, or write a ring of your own for `:focus-visible`.",
    fails: Example::page("<style>a:focus { outline: none }</style><p><a href=\"/\">Ferries</a></p>"),
    passes: Example::page(
        "<style>a:focus { outline: none } a:focus-visible { outline: 2px solid }</style><p><a href=\"/\">Ferries</a></p>",
    ),
    scope: Scope::Page(run),
};

/// Pseudo-classes of the focus.
const FOCUS: [&str; 3] = [":focus-visible", ":focus-within", ":focus"];

fn run(visit: &VisitedPage, sink: &mut PageSink) {
    let all = rules(visit);
    let removes = |rule: &Foreign| {
        let none = |longhand| {
            rule.sets(longhand).is_some_and(|(_, value)| {
                value.is_some_and(|value| ["none", "0px", "0"].contains(&to_css(value).as_str()))
            })
        };
        none(L::OutlineStyle) || none(L::OutlineWidth)
    };
    for rule in &all {
        let Some((declaration, _)) = rule.sets(L::OutlineStyle).or_else(|| rule.sets(L::OutlineWidth)) else {
            continue;
        };
        sink.decided(CHECK.id, 1);
        // Elements that get the focus by a script alone need no ring.
        if !removes(rule) || rule.has(":not(:focus-visible)") || rule.selector.contains("tabindex=\"-1\"") {
            continue;
        }
        // A ring for the same elements, somewhere on the page.
        let subject = rule.without(&FOCUS);
        let shows = |other: &&Foreign| {
            let is_of_focus = FOCUS.iter().any(|pseudo| other.has(pseudo));
            let same = other.without(&FOCUS);
            let shown = [L::OutlineStyle, L::BoxShadow, L::BorderTopColor, L::BackgroundColor, L::TextDecorationLine];
            is_of_focus
                && (same == subject || same.is_empty() || same == "*")
                && shown.iter().any(|longhand| other.sets(*longhand).is_some())
                && !removes(other)
        };
        let own = [L::BoxShadow, L::BorderTopColor].iter().any(|longhand| rule.sets(*longhand).is_some());
        let is_rest = !FOCUS.iter().any(|pseudo| rule.has(pseudo));
        if own && !is_rest || all.iter().any(|other| shows(&other)) {
            continue;
        }
        let message = format!("`{}` takes the outline away and shows the focus in no other way", rule.selector);
        let diagnostic = Diagnostic::new(CHECK.level, CHECK.id, rule.span(visit, declaration), message)
            .label("the keyboard leaves no trace");
        sink.find(rule.cause(visit), diagnostic);
    }
}
