//! `reset/unset`: nothing of a drawn control is left to defaults that differ between browsers.

use crate::check::{Check, Scope};
use crate::example::Example;
use crate::painted::visible::element_name;
use crate::sink::{Cause, Fault, MendKind, Sink};
use crate::survey::Survey;
use stilk_engine::cascade::defaults::Browser;
use stilk_engine::cascade::{Style, Styled};
use stilk_engine::css::property::{Longhand, Longhand as L};
use stilk_engine::css::value::Value;
use stilk_engine::dom::NodeId;
use stilk_language::case::{Look, LookEngine, Unit};
use stilk_language::stylesheet::resets::defaults::{ElementKind, defaults, shown};
use stilk_language::system::{StateId, StateSet};
use stilk_text::diagnostic::{Diagnostic, Level};

/// The check.
pub const CHECK: Check = Check {
    id: "reset/unset",
    summary: "no property of a drawn control is left to defaults that differ between browsers",
    why: "Buttons and fields bring another padding, font and cursor along in each browser. Stilk resets what a sheet leaves \
          unset; a sheet that says `revert` asks for the difference.",
    source: "browser defaults as measured in Chromium, Firefox and WebKitGTK (docs/fidelity.md); CSS Cascade 5, revert",
    level: Level::Warning,
    mend: "Write a value instead of `revert`, or leave the property out: then it is reset.",
    fails: Example::sheet("@control button {\n  background: {sea}; color: {paper}; border: 0; padding: revert;\n}\n"),
    passes: Example::sheet("@control button {\n  background: {sea}; color: {paper}; border: 0; padding: {gap};\n}\n"),
    scope: Scope::Controls(run),
};

fn run(survey: &Survey, sink: &mut Sink) {
    let system = survey.system;
    let theme = system.tokens.default_theme();
    let browsers = survey.browsers();
    for control in survey.controls.iter().copied() {
        let sets = survey.look_engine.state_sets(control);
        let wanted = |set: &&StateSet| {
            set.is_rest() || [StateId::Focus, StateId::Disabled].iter().any(|state| **set == StateSet::of([*state]))
        };
        for host in 0..control.template.hosts.len() {
            let unit = Unit { control, host, variant: control.default_variant(), theme: theme.clone() };
            for set in sets.iter().filter(wanted) {
                let look =
                    |(browser, look_engine): &(Browser, LookEngine)| (browser.name(), look_engine.look(&unit, set));
                let looks: Vec<(&str, Look)> = browsers.iter().map(look).collect();
                let Some((_, first)) = looks.first() else { return };
                let mounted = &first.mounted;
                let placed = mounted.placed.iter().any(|(_, bearer)| *bearer == mounted.bearer);
                let mut nodes = vec![mounted.host];
                if mounted.bearer != mounted.host && !placed {
                    nodes.push(mounted.bearer);
                }
                for node in nodes {
                    differences(survey, &unit, set, &looks, node, sink);
                }
                sink.decided(CHECK.id, 1);
            }
        }
    }
}

fn differences(survey: &Survey, unit: &Unit, set: &StateSet, looks: &[(&str, Look)], node: NodeId, sink: &mut Sink) {
    let (_, first) = &looks[0];
    let Some(element) = first.document.element(node) else { return };
    // What the platform draws is the platform's.
    let kind = ElementKind::of(element);
    let is_taken = |style: &Style| {
        // Some have no appearance of their own to take away, and are the platform's all the same.
        style.is(L::Appearance, "none") && (!kind.has_a_look_to_lose() || style.set_by_author().has(L::Appearance))
    };
    let is_drawn = kind == ElementKind::OTHER
        || looks.iter().all(|(_, look)| look.styles.element(node).is_some_and(|style| is_taken(style)));
    if !is_drawn {
        return;
    }
    let styles: Vec<&Style> = looks.iter().filter_map(|(_, look)| Some(look.styles.element(node)?.as_ref())).collect();
    let mut differing: Vec<Difference> = Vec::new();
    for longhand in defaults(ElementKind::OTHER).keys() {
        // Most values are the same in all; whether they look the same is asked of others only, and of what takes on a colour.
        let is_same = styles.windows(2).all(|pair| pair[0].get(*longhand) == pair[1].get(*longhand));
        let is_resolved = || !styles.iter().any(|style| style.get(*longhand).is_ok_and(Value::has_unresolved_color));
        if is_same && is_resolved() {
            continue;
        }
        let values: Vec<(&str, String)> = looks
            .iter()
            .filter_map(|(name, look)| Some((*name, shown(look.styles.element(node)?, *longhand)?)))
            .collect();
        let Some((_, usual)) = values.first() else { continue };
        // Over a control both are the arrow.
        let is_arrow = |value: &String| *longhand == L::Cursor && matches!(value.as_str(), "auto" | "default");
        let is_alike = values.iter().all(|(_, value)| value == usual || is_arrow(value) && is_arrow(usual));
        if values.len() == looks.len() && !is_alike {
            differing.push((*longhand, values));
        }
    }
    if !differing.is_empty() {
        report(survey, unit, set, first, node, &differing, sink);
    }
}

/// A property, and what it is in each browser.
type Difference<'b> = (Longhand, Vec<(&'b str, String)>);

/// One finding for an element, with all that browsers do not agree on in it.
fn report(
    survey: &Survey,
    unit: &Unit,
    set: &StateSet,
    look: &Look,
    node: NodeId,
    differing: &[Difference],
    sink: &mut Sink,
) {
    let (Some(style), [(longhand, values), others @ ..]) = (look.styles.element(node), differing) else { return };
    let control = &unit.control.name;
    let name = element_name(look, Styled::element(node));
    let said: Vec<String> = values.iter().map(|(browser, value)| format!("{value} in {browser}")).collect();
    // What was given back to the browser was asked for by somebody.
    let place = |longhand: Longhand| {
        style.candidates(longhand).into_iter().find_map(|candidate| survey.tracer.span(candidate.id))
    };
    let place = place(*longhand).or_else(|| others.iter().find_map(|(longhand, _)| place(*longhand)));
    let properties: Vec<&str> = differing.iter().map(|(longhand, _)| longhand.name()).collect();
    let listed = match properties.as_slice() {
        [only] => format!("{only} of {name} in `{}` is left", control.value),
        [names @ .., last] => format!("{} and {last} of {name} in `{}` are left", names.join(", "), control.value),
        [] => return,
    };
    let what = if others.is_empty() { String::new() } else { format!("{} is ", longhand.name()) };
    let message = format!("{listed} to the browser: {what}{}", said.join(", "));
    let label =
        if style.set_by_author().has(*longhand) { "asks for each browser's own" } else { "browsers do not agree" };
    let mend = match others {
        [] => format!("write a value for `{}`", longhand.name()),
        // What the platform draws is drawn alike where nothing of it is left, and Stilk resets the rest.
        _ if !style.is(L::Appearance, "none") => {
            "write `appearance: none`: then what is left unset is reset".to_owned()
        }
        _ => format!(
            "write values for {}",
            properties.iter().map(|name| format!("`{name}`")).collect::<Vec<_>>().join(", ")
        ),
    };
    let diagnostic =
        Diagnostic::new(CHECK.level, CHECK.id, place.unwrap_or(control.span), message).label(label).mend(mend);
    let cause = Cause { spans: vec![place.or(Some(control.span))], words: name };
    let figures = said.join(", ");
    let fault =
        Fault { cause, score: -(differing.len() as f64), figures, diagnostic, mend: MendKind::AsSaid, choice: None };
    sink.fail_case(survey.system, unit, set, 1, fault);
}
