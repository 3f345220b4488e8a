//! `page/override`: the page leaves the system's declarations alone.

use crate::check::{Check, Scope};
use crate::checks::page::collision::classes_in;
use crate::example::Example;
use crate::painted::paint;
use crate::visit::{PageSink, VisitedPage};
use std::collections::BTreeMap;
use stilk_engine::cascade::explain::{Fate, Reason};
use stilk_engine::cascade::order::{DeclarationId, Origin};
use stilk_engine::cascade::resolved::resolved;
use stilk_engine::cascade::{Style, selector};
use stilk_engine::css::Unknown;
use stilk_engine::css::property::Longhand;
use stilk_engine::dom::NodeId;
use stilk_language::system::StateId;
use stilk_text::diagnostic::{Diagnostic, Level};

/// The check.
pub const CHECK: Check = Check {
    id: "page/override",
    summary: "no rule or `style` of a page changes what the system declares for a control",
    why: "A stray `a { color }`, a reset or an id wins over every layer of the system, in every state: the look is no longer the \
          one that was checked.",
    source: "CSS Cascade 5, 6.1 (cascade sorting order): what is in no layer wins",
    level: Level::Warning,
    mend: "Load the page's stylesheet into a layer before the system's (`@import url(old.css) layer(page)`), narrow its selector, \
           or set `layers = false` in the manifest.",
    fails: Example::page(
        "<style>* { padding: 0 }</style><button type=\"button\" class=\"ex-button\"><span class=\"ex-button_label\">Book</span></button>",
    ),
    passes: Example::page(
        "<style>main p { padding: 0 }</style><button type=\"button\" class=\"ex-button\"><span class=\"ex-button_label\">Book</span></button>",
    ),
    scope: Scope::Page(run),
};

/// What one rule or style attribute changes.
#[derive(Default)]
struct Change {
    /// Longhands with the system's value and the page's, of the first control that it reaches.
    values: BTreeMap<&'static str, (String, String)>,
    controls: Vec<String>,
    count: u64,
    by: Option<Reason>,
    id: Option<(DeclarationId, NodeId)>,
    important: bool,
}

fn run(visit: &VisitedPage, sink: &mut PageSink) {
    let mut changes: BTreeMap<(u16, u32, Option<NodeId>), Change> = BTreeMap::new();
    for instance in visit.instances {
        sink.decided(CHECK.id, 1);
        let mut counted: Vec<(u16, u32, Option<NodeId>)> = Vec::new();
        for (_, node) in instance.elements() {
            let (Some(style), Some(alone)) = (visit.styles.element(node), visit.by_system.element(node)) else {
                continue;
            };
            for (longhand, id, reason, important) in beaten(visit, style) {
                // Equal values are no change, and what is not known is not claimed.
                let values = shown(alone, longhand).and_then(|ours| Ok((ours, shown(style, longhand)?)));
                let Some((ours, theirs)) = values.ok().filter(|(ours, theirs)| ours != theirs) else { continue };
                let key = (id.sheet, id.rule, id.is_of_attributes().then_some(node));
                let change = changes.entry(key).or_default();
                change.values.entry(longhand.name()).or_insert((ours, theirs));
                change.by.get_or_insert(reason);
                change.id.get_or_insert((id, node));
                change.important |= important;
                let control = &visit.system.controls[instance.control].name.value;
                if !change.controls.contains(control) {
                    change.controls.push(control.clone());
                }
                if !counted.contains(&key) {
                    counted.push(key);
                    change.count += 1;
                }
            }
        }
    }
    for change in changes.into_values() {
        report(visit, change, sink);
    }
}

/// A value as people write it: opaque colours as hex.
fn shown(style: &Style, longhand: Longhand) -> Result<String, Unknown> {
    if let Ok(color) = style.used_color(longhand)
        && color.alpha == 1.0
    {
        return Ok(paint::hex(paint::over(&color, [1.0; 3])));
    }
    resolved(style, longhand)
}

/// Longhands that the system declares for an element and the page's own declarations win.
fn beaten(visit: &VisitedPage, style: &Style) -> Vec<(Longhand, DeclarationId, Reason, bool)> {
    let mut found = Vec::new();
    let of_system = |sheet: u16| visit.is_of_system(sheet);
    // Most elements are the system's alone, or the page's.
    let both = style.set_in(|sheet| !of_system(sheet)).within(&style.set_in(of_system));
    for longhand in both.iter() {
        let Some(winner) = style.winner(longhand) else { continue };
        if !visit.is_foreign(winner) {
            continue;
        }
        let is_own = |id: DeclarationId| visit.sheet_of(id).is_some_and(|sheet| sheet.is_system);
        let candidates = style.candidates(longhand);
        let lost = candidates.iter().find_map(|candidate| match candidate.fate {
            Fate::Lost(reason) if candidate.origin == Origin::Author && is_own(candidate.id) => Some(reason),
            _ => None,
        });
        if let Some(reason) = lost {
            let important = candidates.iter().any(|candidate| candidate.id == winner && candidate.important);
            found.push((longhand, winner, reason, important));
        }
    }
    found
}

fn report(visit: &VisitedPage, change: Change, sink: &mut PageSink) {
    let Some((id, node)) = change.id else { return };
    let (what, span, cause) = match visit.declaration(id) {
        None => {
            let text = visit.attribute(node, "style").unwrap_or_default().to_owned();
            ("the style attribute".to_owned(), visit.span(node), format!("style {text}"))
        }
        Some((rule, _)) => {
            let text = selector::to_text(&rule.selector);
            // That it names the system's classes is said already.
            if classes_in(&text).any(|class| visit.classes.by_pattern(class).is_some()) {
                return;
            }
            let file = visit.sheet_of(id).map_or("", |sheet| visit.file_of(sheet));
            (format!("`{text}`"), visit.declaration_span(id), format!("{file} {text}"))
        }
    };
    const SHOWN: usize = 3;
    let mut said: Vec<String> =
        change.values.iter().take(SHOWN).map(|(name, (ours, theirs))| format!("{name} {ours} → {theirs}")).collect();
    if change.values.len() > SHOWN {
        said.push(format!("{} more", change.values.len() - SHOWN));
    }
    let by = match change.by {
        _ if change.important => "is important",
        Some(Reason::StyleAttribute) => "stands in the style attribute",
        Some(Reason::Layer) => "is in no layer",
        Some(Reason::Specificity) => "has the more specific selector",
        Some(Reason::Order) => "comes later",
        _ => "wins",
    };
    let what_first = if what.starts_with('`') { what.clone() } else { "A style attribute".to_owned() };
    let controls: Vec<&str> = change.controls.iter().map(String::as_str).collect();
    let message = format!("{} changes {}: {}", what_first, stilk_text::diagnostic::list(&controls), said.join(", "));
    let is_own_class = visit.declaration(id).is_some_and(|(rule, _)| {
        let text = selector::to_text(&rule.selector);
        let last = text.rsplit([' ', '>', '+', '~']).next().unwrap_or(&text).to_owned();
        last.contains('.')
    });
    let mut diagnostic = Diagnostic::new(CHECK.level, CHECK.id, span, message).label(format!("wins: it {by}"));
    diagnostic = match (is_own_class, id.is_inline()) {
        (true, _) => {
            diagnostic.note("a class of the page's own: where it is meant, set a token or ask for an option instead")
        }
        (false, true) => diagnostic.mend("take it out, or set the token that the control reads"),
        (false, false) => diagnostic,
    };
    let names = names_states(visit, &change);
    if !names.is_empty() {
        diagnostic = diagnostic
            .note(format!("it wins in every state: what {} would change no longer shows", names.join(" or ")));
    }
    for _ in 1..change.count {
        sink.find(cause.clone(), diagnostic.clone());
    }
    sink.find(cause, diagnostic);
}

/// States of the controls in which the same longhands change, and no longer do.
fn names_states(visit: &VisitedPage, change: &Change) -> Vec<&'static str> {
    let touches = |state: &StateId| {
        change.controls.iter().filter_map(|control| visit.system.control(control)).any(|control| {
            let of_state = control.rules.iter().filter(|rule| rule.states.has(*state));
            of_state.into_iter().flat_map(|rule| &rule.declarations).any(|declaration| {
                let is_local = declaration.is_local();
                change.values.contains_key(declaration.name.value.as_str())
                    || is_local && change.values.keys().any(|longhand| longhand.contains("color"))
            })
        })
    };
    let shown = [StateId::Hover, StateId::Focus, StateId::Active].into_iter().filter(touches);
    shown.map(StateId::name).collect()
}
