//! `page/lasting-focus`: a choice that lasts is not shown by the focus.

use crate::check::{Check, Scope};
use crate::checks::page::foreign::{Foreign, rules};
use crate::example::Example;
use crate::visit::{PageSink, VisitedPage};
use stilk_engine::cascade::{matching, selector};
use stilk_engine::css::property::Longhand as L;
use stilk_text::diagnostic::{Diagnostic, Level};

/// The check.
pub const CHECK: Check = Check {
    id: "page/lasting-focus",
    summary: "what stays chosen is marked by a state, not by `:focus` or `:active`",
    why: "A tab that is blue because it has the focus turns grey at the next click anywhere. And who listens hears of no choice at \
          all.",
    source: "WCAG 2.2, 4.1.2; WAI-ARIA 1.2, aria-selected, aria-pressed, aria-current",
    level: Level::Warning,
    mend: "Set `aria-selected`, `aria-pressed` or `aria-current` on what is chosen, and style that.",
    fails: Example::page(
        "<style>.day:focus { background: navy; color: white }</style><button type=\"button\" class=\"day\">Mo</button><button type=\"button\" class=\"day\">Tu</button><button type=\"button\" class=\"day\">We</button>",
    ),
    passes: Example::page(
        "<style>.day:focus { background: #eee } .day[aria-pressed=true] { background: navy; color: white }</style><button type=\"button\" class=\"day\" aria-pressed=\"true\">Mo</button><button type=\"button\" class=\"day\">Tu</button><button type=\"button\" class=\"day\">We</button>",
    ),
    scope: Scope::Page(run),
};

/// From so many alike on, one of them is chosen.
const ALIKE: usize = 3;

fn run(visit: &VisitedPage, sink: &mut PageSink) {
    let all = rules(visit);
    const PRESSED: [&str; 2] = [":focus", ":active"];
    for rule in all.iter().filter(|rule| (rule.has(":focus") || rule.has(":active")) && rule.rule.pseudo.is_none()) {
        let Some((declaration, _)) = rule.sets(L::BackgroundColor) else { continue };
        let target = rule.without(&PRESSED);
        let Some(list) = selector::parse_list(if target.is_empty() { "*" } else { &target }) else { continue };
        let document = visit.document();
        let states = ["aria-selected", "aria-pressed", "aria-current", "aria-checked"];
        let presses = |node: &stilk_engine::dom::NodeId| ["button", "a", "li", "label"].contains(&visit.local(*node));
        let matching: Vec<_> =
            visit.elements().filter(|node| presses(node) && matching::matches(&list, document, *node)).collect();
        let parent = |node: &stilk_engine::dom::NodeId| document.node(*node).parent;
        let alike = matching.iter().filter(|node| matching.first().map(parent) == Some(parent(node))).count();
        if alike < ALIKE {
            continue;
        }
        sink.decided(CHECK.id, 1);
        let is_said = matching.iter().any(|node| states.iter().any(|state| visit.attribute(*node, state).is_some()));
        // A hover that looks the same is feedback, not a choice.
        let is_feedback = |other: &&Foreign| other.has(":hover") && other.without(&[":hover"]) == target;
        if is_said || all.iter().any(|other| is_feedback(&other)) {
            continue;
        }
        let message =
            format!("`{}` marks one of {alike} by the focus: the mark goes with the next click", rule.selector);
        let diagnostic = Diagnostic::new(CHECK.level, CHECK.id, rule.span(visit, declaration), message)
            .label("lasts as long as the focus");
        sink.find(rule.cause(visit), diagnostic);
    }
}
