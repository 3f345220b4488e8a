//! JSON pointers into values (`{ "$ref": "#/sea/open/$value/components/0" }`): the part of the other value is put in
//! their place before anything is typed. A pointer to a whole `$value` is an alias and stays one.

use super::document::RawToken;
use std::collections::HashMap;
use stilk_text::diagnostic::{Diagnostic, Diagnostics};
use stilk_text::json::{Json, Node};

/// Pointers may lead to pointers, not without end.
const MAX_STEPS: usize = 16;

/// Replaces every pointer in the values of some tokens. `originals` has the values of tokens that are the same in every
/// theme, by path.
pub fn resolve<'t>(
    tokens: impl Iterator<Item = &'t mut RawToken>,
    originals: &HashMap<String, Node>,
    diagnostics: &mut Diagnostics,
) {
    for token in tokens {
        replace(&mut token.value, originals, 0, diagnostics);
    }
}

fn replace(node: &mut Node, originals: &HashMap<String, Node>, steps: usize, diagnostics: &mut Diagnostics) {
    if let Some(pointer) = node.get("$ref").and_then(Node::as_str).filter(|p| !p.ends_with("/$value")) {
        match target(pointer, originals).filter(|_| steps < MAX_STEPS) {
            Some(found) => {
                *node = Node { json: found.json.clone(), span: node.span };
                replace(node, originals, steps + 1, diagnostics);
            }
            None => {
                let message = format!("`{pointer}` leads to no value that is the same in every theme");
                diagnostics.push(
                    Diagnostic::error("token/reference", node.span, message)
                        .label("here")
                        .mend("write `{ \"$ref\": \"#/group/token/$value/member\" }`, or an alias to the whole token"),
                );
            }
        }
        return;
    }
    match &mut node.json {
        Json::Array(items) => items.iter_mut().for_each(|item| replace(item, originals, steps, diagnostics)),
        Json::Object(entries) => {
            entries.iter_mut().for_each(|(_, inner)| replace(inner, originals, steps, diagnostics))
        }
        _ => {}
    }
}

fn target<'n>(pointer: &str, originals: &'n HashMap<String, Node>) -> Option<&'n Node> {
    let names: Vec<String> =
        pointer.strip_prefix("#/")?.split('/').map(|s| s.replace("~1", "/").replace("~0", "~")).collect();
    let split = names.iter().position(|name| name == "$value")?;
    let value = originals.get(&names[..split].join("."))?;
    names[split + 1..].iter().try_fold(value, |node, name| match &node.json {
        Json::Array(items) => items.get(name.parse::<usize>().ok()?),
        _ => node.get(name),
    })
}
