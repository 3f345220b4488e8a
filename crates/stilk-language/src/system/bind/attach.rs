//! `@attach`: names bound, selectors checked.

use super::super::{Attachment, Control, Variant};
use crate::sheet::AttachNode;
use stilk_engine::cascade::selector;
use stilk_text::diagnostic::{Diagnostic, Diagnostics, unknown_name};
use stilk_text::source::Name;

/// Binds one `@attach`; `None` when something in it is wrong, which is reported.
pub fn bind(node: &AttachNode, controls: &[Control], diagnostics: &mut Diagnostics) -> Option<Attachment> {
    let selectors = check_selector(&node.selector, diagnostics);
    let Some(control) = controls.iter().find(|control| control.name.value == node.control.value) else {
        let known = controls.iter().map(|control| control.name.as_str());
        diagnostics.push(unknown_name("sheet/attach", "control", &node.control, known));
        return None;
    };
    let variant = variant(node, control, diagnostics)?;
    let mut parts = Vec::new();
    for (part, selector) in &node.parts {
        let known = control.template.part_names();
        if !known.contains(&part.as_str()) {
            let what = format!("part {{}} in the template of `{}`", control.name.value);
            diagnostics.push(unknown_name("sheet/part", &what, part, known.iter().copied()));
        } else if check_selector(selector, diagnostics).is_some() {
            parts.push((part.value.clone(), selector.value.clone()));
        }
    }
    if control.template.bearer_is_host() == Some(false) && !parts.iter().any(|(part, _)| part == "native") {
        diagnostics.push(
            Diagnostic::error(
                "sheet/attach",
                node.span,
                format!("nothing stands for the native part of `{}`", control.name.value),
            )
            .label("its states are read from there")
            .mend("say what it is: `{ native: input; }`"),
        );
        return None;
    }
    Some(Attachment { selectors: selectors?, control: control.name.value.clone(), variant, parts, span: node.span })
}

/// The selectors of a list; pseudo-elements match nothing where these are written.
fn check_selector(name: &Name, diagnostics: &mut Diagnostics) -> Option<Vec<String>> {
    let error =
        |message: String, mend: &str| Diagnostic::error("sheet/attach", name.span, message).label("here").mend(mend);
    if name.value.contains("::") {
        diagnostics.push(error(
            format!("`{}` is a pseudo-element: no control's look fits on one", name.value),
            "name the element itself",
        ));
        return None;
    }
    if !selector::is_valid(&name.value) {
        diagnostics.push(error(format!("`{}` is no selector", name.value), "write a selector such as `.list > a`"));
        return None;
    }
    Some(selector::split_list(&name.value).into_iter().map(str::to_owned).collect())
}

fn variant(node: &AttachNode, control: &Control, diagnostics: &mut Diagnostics) -> Option<Variant> {
    let mut variant = control.default_variant();
    let mut complete = true;
    for name in &node.options {
        match control.find_option(&name.value) {
            Some(id) => variant.choices[id.axis] = Some(id.option),
            None => {
                let known: Vec<&str> = control.axes.iter().flat_map(|a| &a.options).map(Name::as_str).collect();
                diagnostics.push(unknown_name("sheet/option", "option", name, known));
                complete = false;
            }
        }
    }
    let hosts = 0..control.template.hosts.len();
    if complete && hosts.into_iter().all(|host| control.excludes.iter().any(|e| e.covers(&variant, host))) {
        let message = format!("`{}` does not exist: the sheet excludes it", control.variant_name(0, &variant));
        diagnostics
            .push(Diagnostic::error("sheet/attach", node.span, message).label("here").mend("choose other options"));
        return None;
    }
    complete.then_some(variant)
}
