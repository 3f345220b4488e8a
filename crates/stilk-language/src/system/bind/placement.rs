//! Controls placed in other controls' templates: which host, which variant, and what the outer one may say of them.

use super::super::{Control, Placement, RuleTarget, Variant};
use crate::markup::native_of_placed;
use crate::sheet::Declaration;
use stilk_engine::dom::{Element, NodeId};
use stilk_text::diagnostic::{Diagnostic, Diagnostics, unknown_name};
use stilk_text::source::Name;

/// Binds the placements of a control's template. `bound` holds every control that may stand in it.
pub fn bind(control: &mut Control, bound: &[Control], diagnostics: &mut Diagnostics) {
    let mut placements = Vec::new();
    for placed in control.template.hosts.iter().flat_map(|host| &host.placed) {
        let Some(inner) = bound.iter().find(|c| c.name.value == placed.control.value) else {
            let known = bound.iter().map(|c| c.name.as_str());
            diagnostics.push(unknown_name("template/control", "control", &placed.control, known));
            continue;
        };
        let Some(element) = control.template.document.element(placed.node) else { continue };
        let Some(host) = host_of(inner, element) else {
            let hosts: Vec<&str> = inner.template.hosts.iter().map(|h| h.name.as_str()).collect();
            let message = format!("`{}` has no host `<{}>`", inner.name.value, element.local());
            diagnostics.push(
                Diagnostic::error("template/control", placed.control.span, message)
                    .label("placed here")
                    .mend(format!("write one of its hosts: {}", hosts.join(", "))),
            );
            continue;
        };
        if let Some(second) = second_field(control, placed.node, inner, host) {
            let document = &control.template.document;
            let local = document.element(second).map(Element::local).unwrap_or_default();
            let message = format!("`{}` has a field of its own, and `<{local}>` in it is another", inner.name.value);
            diagnostics.push(
                Diagnostic::error("template/control", placed.control.span, message)
                    .label("placed here")
                    .mend("take the field away, or write it as the control's template has it"),
            );
            continue;
        }
        let mut variant = Variant { choices: inner.axes.iter().map(|axis| axis.default).collect() };
        for option in &placed.options {
            match inner.find_option(&option.value) {
                Some(id) => variant.choices[id.axis] = Some(id.option),
                None => {
                    let known = inner.axes.iter().flat_map(|axis| &axis.options).map(|o| o.as_str());
                    let what = format!("option {{}} of `{}`", inner.name.value);
                    diagnostics.push(unknown_name("template/control", &what, option, known));
                }
            }
        }
        control.depth = control.depth.max(inner.depth + 1);
        placements.push(Placement { node: placed.node, control: inner.name.value.clone(), host, variant });
    }
    control.placements = placements;
}

/// What stands only inside of others is placed in them, and in no other.
pub fn check_inside(controls: &[Control], diagnostics: &mut Diagnostics) {
    for control in controls.iter().filter(|control| !control.inside.is_empty()) {
        let places = |outer: &&Control| outer.placements.iter().any(|placed| placed.control == control.name.value);
        let is_named = |outer: &Control| control.inside.iter().any(|known| known.value == outer.name.value);
        // A misspelt name has a sentence of its own.
        let is_known = |outer: &Name| controls.iter().any(|known| known.name.value == outer.value);
        let all_known = control.inside.iter().all(is_known);
        for outer in controls.iter().filter(places).filter(|outer| all_known && !is_named(outer)) {
            let names: Vec<&str> = control.inside.iter().map(Name::as_str).collect();
            let message = format!(
                "`{}` places `{}`, which stands only inside of {}",
                outer.name.value,
                control.name.value,
                names.join(", ")
            );
            diagnostics.push(
                Diagnostic::error("sheet/inside", outer.name.span, message)
                    .label("is none of these")
                    .related(control.name.span, "says so")
                    .mend(format!(
                        "write `@control {} inside {} {}`",
                        control.name.value,
                        names.join(" "),
                        outer.name.value
                    )),
            );
        }
        for outer in &control.inside {
            let Some(found) = controls.iter().find(|known| known.name.value == outer.value) else {
                let known = controls.iter().map(|known| known.name.as_str());
                diagnostics.push(unknown_name("sheet/inside", "control", outer, known));
                continue;
            };
            if found.placements.iter().all(|placement| placement.control != control.name.value) {
                let message = format!("`{}` places no `{}`", outer.value, control.name.value);
                diagnostics.push(
                    Diagnostic::error("sheet/inside", outer.span, message)
                        .label("here it would stand nowhere")
                        .mend(format!("write `data-control=\"{}\"` in its template", control.name.value)),
                );
            }
        }
    }
}

/// A field in an element that places a control with a native control, beside this one.
fn second_field(control: &Control, placed: NodeId, inner: &Control, host: usize) -> Option<NodeId> {
    const FIELDS: [&str; 3] = ["input", "select", "textarea"];
    let document = &control.template.document;
    let is_field = |node: &NodeId| document.element(*node).is_some_and(|e| FIELDS.contains(&e.local()));
    let bearer = inner.template.hosts[host].bearer;
    let has_own = inner.template.document.element(bearer).is_some_and(|own| FIELDS.contains(&own.local()));
    let native = native_of_placed(document, placed, inner, host);
    let mut inside = document.descendants(placed).into_iter().filter(|node| *node != placed && Some(*node) != native);
    inside.find(|node| has_own && is_field(node))
}

/// The host that an element is: of the same name, and for inputs of the same type.
fn host_of(inner: &Control, element: &Element) -> Option<usize> {
    inner.template.hosts.iter().position(|host| {
        inner.template.document.element(host.node).is_some_and(|own| {
            let kind = |e: &Element| e.attribute("type").unwrap_or("text").to_owned();
            own.local() == element.local() && (own.local() != "input" || kind(own) == kind(element))
        })
    })
}

/// An outer control may only position a placed one and set its locals.
pub fn check_property(
    control: &Control,
    target: &RuleTarget,
    declaration: &Declaration,
    sets_its_local: bool,
) -> Option<Diagnostic> {
    const POSITION: [&str; 16] = [
        "anchor",
        "margin",
        "position",
        "inset",
        "top",
        "right",
        "bottom",
        "left",
        "align-self",
        "justify-self",
        "place-self",
        "order",
        "flex",
        "grid-area",
        "grid-column",
        "grid-row",
    ];
    let placement = control.placement_of_part(target.part.as_deref()?)?;
    let name = &declaration.name.value;
    let positions = POSITION.iter().any(|p| name.strip_prefix(p).is_some_and(|r| r.is_empty() || r.starts_with('-')));
    if sets_its_local || positions || name == "z-index" {
        return None;
    }
    let inner = &placement.control;
    let message = match name.starts_with("--") {
        true => format!("`{inner}` has no local property `{name}`"),
        false => format!("`{name}` of a placed `{inner}` is for `{inner}` itself to say"),
    };
    Some(
        Diagnostic::error("sheet/placed", declaration.name.span, message)
            .label("an outer control may only position a placed one and set its locals")
            .mend(format!("set a local that `{inner}` declares, or give it an option")),
    )
}
