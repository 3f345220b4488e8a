//! Members of composite tokens as tokens of their own: `{stroke.control.width}`.

use super::value::{Member, TokenType, TokenValue};
use super::{Definition, Expression, Override, Token, TokenId, Tokens, composite};
use std::collections::HashMap;

/// The members of a type that can be referred to. Those of gradients have no names, only positions.
pub fn of(kind: TokenType) -> &'static [(&'static str, TokenType, bool)] {
    if kind == TokenType::Gradient { &[] } else { composite::members(kind) }
}

/// Adds a token for every member of every composite token, in the order in which their ids were given out.
pub fn add(tokens: &mut Tokens, ids: &HashMap<String, TokenId>) {
    for index in 0..tokens.list.len() {
        let parent = &tokens.list[index];
        let Some(kind) = parent.kind else { continue };
        let mut added = Vec::new();
        for (name, member_kind, _) in of(kind) {
            let mut member = Token::new(format!("{}.{name}", parent.path), Some(*member_kind));
            member.is_member = true;
            let define = |definition: &Definition| member_definition(definition, name, tokens, ids);
            member.base = parent.base.as_ref().and_then(define);
            member.overrides = parent
                .overrides
                .iter()
                .map(|o| Override {
                    modifier: o.modifier,
                    contexts: o.contexts.iter().map(|d| d.as_ref().and_then(define)).collect(),
                })
                .collect();
            added.push(member);
        }
        for member in added {
            let expected = ids.get(&member.path).copied();
            let added = tokens.add(member);
            // Ids were given out in this order, before anything was typed.
            debug_assert_eq!(added.ok(), expected);
        }
    }
}

/// A member's definition within its parent's: written out, or the same member of what the parent stands for.
fn member_definition(
    parent: &Definition,
    name: &str,
    tokens: &Tokens,
    ids: &HashMap<String, TokenId>,
) -> Option<Definition> {
    let span = parent.span;
    match &parent.value {
        TokenValue::Alias(alias) => {
            let target = tokens.find_path(&alias.value).map_or(&alias.value, |id| &tokens.get(id).path);
            let id = *ids.get(&format!("{target}.{name}"))?;
            Some(Definition { value: parent.value.clone(), expression: Expression::reference(id, alias.span), span })
        }
        TokenValue::Composite(_, members) => {
            let Member { value, .. } = members.iter().find(|member| member.name == name)?;
            let expression = value
                .expression(&mut |alias| tokens.find_path(&alias.value).or_else(|| ids.get(&alias.value).copied()))?;
            Some(Definition { value: value.clone(), expression, span })
        }
        _ => None,
    }
}
