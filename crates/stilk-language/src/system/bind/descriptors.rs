//! `@font-face` and `@property`: plain CSS, with references written out.

use super::super::{FontFace, Registered};
use super::bind_value;
use crate::sheet::{Declaration, DescriptorsNode, Value};
use crate::tokens::Tokens;
use stilk_text::diagnostic::{Diagnostic, Diagnostics, unknown_name};
use stilk_text::source::Name;

/// A value with its references written out; they must be the same in every theme, because no custom property can be
/// read where it stands.
pub fn literal(value: &Value, tokens: &Tokens, diagnostics: &mut Diagnostics) -> Option<String> {
    let expression = bind_value(value, tokens, diagnostics)?;
    let mut texts = tokens.themes().into_iter().filter_map(|theme| tokens.literal_expression(&expression, &theme));
    let first = texts.next()?;
    if texts.any(|text| text != first) {
        diagnostics.push(
            Diagnostic::error("sheet/prelude", value.span, "this differs between themes")
                .label("here")
                .mend("use a token that is the same in every theme: no custom property can be read here"),
        );
        return None;
    }
    Some(first)
}

/// Binds `@font-face`.
pub fn font_face(node: &DescriptorsNode, tokens: &Tokens, diagnostics: &mut Diagnostics) -> FontFace {
    const KNOWN: [&str; 14] = [
        "font-family",
        "src",
        "font-style",
        "font-weight",
        "font-stretch",
        "font-width",
        "font-display",
        "unicode-range",
        "font-feature-settings",
        "font-variation-settings",
        "font-language-override",
        "ascent-override",
        "descent-override",
        "line-gap-override",
    ];
    let descriptors = bind(node, tokens, &[&KNOWN[..], &["size-adjust"]].concat(), diagnostics);
    for needed in ["font-family", "src"] {
        if !node.descriptors.iter().any(|d| d.name.value == needed) {
            let mend = match needed {
                "src" => "write `src: url(\"fonts/NAME.woff2\") format(\"woff2\");`",
                _ => "write `font-family: \"NAME\";`",
            };
            let message = format!("`@font-face` has no `{needed}`: browsers drop it");
            diagnostics.push(Diagnostic::error("sheet/descriptor", node.name.span, message).label("here").mend(mend));
        }
    }
    FontFace { descriptors, span: node.name.span }
}

/// Binds `@property`; `None` when it lacks what browsers ask for, which is reported.
pub fn registered(node: &DescriptorsNode, tokens: &Tokens, diagnostics: &mut Diagnostics) -> Option<Registered> {
    let descriptors = bind(node, tokens, &["syntax", "inherits", "initial-value"], diagnostics);
    let find = |name: &str| descriptors.iter().find(|(known, _)| known == name).map(|(_, value)| value.clone());
    let mut missing = |name: &str, mend: &str| {
        let message = format!("`@property {}` has no `{name}`: browsers drop it", node.name.value);
        diagnostics.push(Diagnostic::error("sheet/descriptor", node.name.span, message).label("here").mend(mend));
    };
    let syntax = find("syntax");
    let inherits = find("inherits");
    let initial = find("initial-value");
    if syntax.is_none() {
        missing("syntax", "write `syntax: \"<number>\";`, or `\"*\"` for anything");
    }
    if inherits.is_none() {
        missing("inherits", "write `inherits: true;`: parts read what the host sets");
    }
    if initial.is_none() && syntax.as_deref().is_some_and(|s| s.trim_matches(['"', '\'']) != "*") {
        missing("initial-value", "write `initial-value: …;` of that syntax, without `var()`");
        return None;
    }
    Some(Registered {
        name: node.name.clone(),
        syntax: syntax?,
        inherits: inherits? == "true",
        initial,
        span: node.name.span,
    })
}

fn bind(
    node: &DescriptorsNode,
    tokens: &Tokens,
    known: &[&str],
    diagnostics: &mut Diagnostics,
) -> Vec<(String, String)> {
    let mut bound = Vec::new();
    for Declaration { name, value, .. } in &node.descriptors {
        if !known.contains(&name.as_str()) {
            let known = known.iter().copied();
            diagnostics.push(unknown_name("sheet/descriptor", "descriptor", &Name { ..name.clone() }, known));
        } else if let Some(text) = literal(value, tokens, diagnostics) {
            bound.push((name.value.clone(), text));
        }
    }
    bound
}
