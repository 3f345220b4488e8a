//! Tokens as one theme resolves them, in the Design Tokens Format 2025.10: aliases replaced by what they lead to,
//! derived tokens computed.

use crate::system::System;
use crate::tokens::value::Member;
use crate::tokens::{Definition, Theme, Token, TokenType, TokenValue, Tokens};
use serde_json::{Map, Value, json};
use stilk_engine::css::color::{Absolute, Color, Space, Surroundings};

/// Every token of a system in one theme, as a document of the standard.
pub fn resolved(system: &System, theme: &Theme) -> Value {
    let mut root = Map::new();
    let name = format!("{}: {}", system.manifest.name.value, system.tokens.theme_name(theme));
    root.insert("$description".into(), name.into());
    for token in system.tokens.list.iter().filter(|token| !token.is_member) {
        let Some(definition) = token.in_theme(theme) else { continue };
        let Some(entry) = entry(&system.tokens, token, definition, theme) else { continue };
        insert(&mut root, &token.path, entry);
    }
    Value::Object(root)
}

fn insert(root: &mut Map<String, Value>, path: &str, entry: Value) {
    let (groups, name) = path.rsplit_once('.').unwrap_or(("", path));
    let mut group = root;
    for step in groups.split('.').filter(|step| !step.is_empty()) {
        let inner = group.entry(step).or_insert_with(|| Value::Object(Map::new()));
        match inner {
            Value::Object(inner) => group = inner,
            // A token and a group of one name were refused before.
            _ => return,
        }
    }
    group.insert(name.to_owned(), entry);
}

fn entry(tokens: &Tokens, token: &Token, definition: &Definition, theme: &Theme) -> Option<Value> {
    let value = value(tokens, &definition.value, theme, 0);
    let derived = match definition.value {
        TokenValue::Derived => tokens.literal_expression(&definition.expression, theme),
        _ => None,
    };
    let (kind, value) = match (&derived, token.kind) {
        (Some(css), _) => (TokenType::Color, computed_color(css)?),
        (None, kind) => (kind?, value?),
    };
    let mut entry = Map::new();
    entry.insert("$type".into(), kind.name().into());
    entry.insert("$value".into(), value);
    if let Some(description) = &token.description {
        entry.insert("$description".into(), description.as_str().into());
    }
    match token.deprecated.as_deref() {
        Some("") => entry.insert("$deprecated".into(), true.into()),
        Some(reason) => entry.insert("$deprecated".into(), reason.into()),
        None => None,
    };
    if let Some(extensions) = &token.extensions {
        entry.insert("$extensions".into(), extensions.to_value());
    }
    Some(Value::Object(entry))
}

fn value(tokens: &Tokens, of: &TokenValue, theme: &Theme, depth: usize) -> Option<Value> {
    if depth > crate::tokens::MAX_ALIAS_DEPTH {
        return None;
    }
    let inner = |of: &TokenValue| value(tokens, of, theme, depth + 1);
    Some(match of {
        TokenValue::Alias(name) => {
            let token = tokens.get(tokens.find_path(&name.value)?);
            let definition = token.in_theme(theme)?;
            match definition.value {
                TokenValue::Derived => computed_color(&tokens.literal_expression(&definition.expression, theme)?)?,
                ref other => inner(other)?,
            }
        }
        TokenValue::Color { space, components, alpha, .. } => color_value(space.name, components, *alpha),
        TokenValue::Dimension(value, unit) | TokenValue::Duration(value, unit) => {
            json!({ "value": number(*value), "unit": unit })
        }
        TokenValue::FontFamily(names) => match names.as_slice() {
            [one] => one.as_str().into(),
            many => many.iter().map(String::as_str).collect::<Vec<_>>().into(),
        },
        TokenValue::FontWeight(value) | TokenValue::Number(value) => number(*value),
        TokenValue::CubicBezier(points) => points.iter().map(|p| number(*p)).collect::<Vec<_>>().into(),
        TokenValue::StrokeStyle(word) => (*word).into(),
        TokenValue::Word(_) => Value::Bool(true),
        TokenValue::Composite(_, members) => {
            let mut object = Map::new();
            for Member { name, value, .. } in members {
                object.insert((*name).to_owned(), inner(value)?);
            }
            Value::Object(object)
        }
        TokenValue::List(items) => items.iter().map(inner).collect::<Option<Vec<_>>>()?.into(),
        TokenValue::Derived => return None,
    })
}

/// Whole numbers without a decimal point.
fn number(value: f64) -> Value {
    if value.fract() == 0.0 && value.abs() < 1e15 { json!(value as i64) } else { json!(value) }
}

fn color_value(space: &str, components: &[Option<f64>; 3], alpha: f64) -> Value {
    let components: Vec<Value> = components.iter().map(|c| c.map_or_else(|| "none".into(), number)).collect();
    match alpha {
        1.0 => json!({ "colorSpace": space, "components": components }),
        alpha => json!({ "colorSpace": space, "components": components, "alpha": number(alpha) }),
    }
}

/// What a derived colour comes to, in OKLCH.
fn computed_color(css: &str) -> Option<Value> {
    let parsed = stilk_engine::css::color::whole(css)?;
    let absolute: Absolute = match parsed {
        Color::Absolute(absolute) => absolute,
        other => other.resolve(Surroundings::default())?,
    };
    let oklch = absolute.to(Space::Oklch);
    let round = |value: f64| (value * 1e5).round() / 1e5;
    Some(color_value("oklch", &oklch.components.map(|c| c.map(round)), round(oklch.alpha)))
}
