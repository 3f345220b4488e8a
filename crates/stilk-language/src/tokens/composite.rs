//! Composite types of the Design Tokens Format 2025.10, section 9: strokeStyle, border, transition, shadow, gradient,
//! typography.

use super::value::{Member, TokenType, TokenValue, wrong};
use super::{Piece, TokenId};
use stilk_text::diagnostic::{Diagnostic, unknown_name};
use stilk_text::json::{Json, Node};
use stilk_text::source::Name;

/// Name and type of a member, and whether it may be missing.
type MemberRow = (&'static str, TokenType, bool);

const BORDER: &[MemberRow] = &[
    ("width", TokenType::Dimension, false),
    ("style", TokenType::StrokeStyle, false),
    ("color", TokenType::Color, false),
];
const TRANSITION: &[MemberRow] = &[
    ("duration", TokenType::Duration, false),
    ("timingFunction", TokenType::CubicBezier, false),
    ("delay", TokenType::Duration, false),
];
const SHADOW: &[MemberRow] = &[
    ("offsetX", TokenType::Dimension, false),
    ("offsetY", TokenType::Dimension, false),
    ("blur", TokenType::Dimension, false),
    ("spread", TokenType::Dimension, false),
    ("color", TokenType::Color, false),
];
const STOP: &[MemberRow] = &[("color", TokenType::Color, false), ("position", TokenType::Number, false)];
const TYPOGRAPHY: &[MemberRow] = &[
    ("fontWeight", TokenType::FontWeight, false),
    ("fontSize", TokenType::Dimension, false),
    ("lineHeight", TokenType::Number, false),
    ("fontFamily", TokenType::FontFamily, false),
    ("letterSpacing", TokenType::Dimension, true),
];

/// The members of a type, in the order in which CSS writes them.
pub fn members(kind: TokenType) -> &'static [MemberRow] {
    match kind {
        TokenType::Border => BORDER,
        TokenType::Transition => TRANSITION,
        TokenType::Shadow => SHADOW,
        TokenType::Gradient => STOP,
        TokenType::Typography => TYPOGRAPHY,
        _ => &[],
    }
}

fn example(kind: TokenType) -> &'static str {
    match kind {
        TokenType::Border => r#"{ "color": "{ink}", "width": { "value": 1, "unit": "px" }, "style": "solid" }"#,
        TokenType::Transition => {
            r#"{ "duration": { "value": 120, "unit": "ms" }, "delay": { "value": 0, "unit": "ms" }, "timingFunction": [0.2, 0, 0, 1] }"#
        }
        TokenType::Shadow => r#"{ "color": "{ink}", "offsetX": …, "offsetY": …, "blur": …, "spread": … }"#,
        TokenType::Gradient => r#"[{ "color": "{ink}", "position": 0 }, { "color": "{sea}", "position": 1 }]"#,
        _ => r#"{ "fontFamily": …, "fontSize": …, "fontWeight": …, "letterSpacing": …, "lineHeight": 1.25 }"#,
    }
}

/// Reads an object with the members of a type.
pub fn read(kind: TokenType, node: &Node) -> Result<TokenValue, Diagnostic> {
    let Json::Object(entries) = &node.json else {
        return Err(wrong(node, format!("a {} is an object, not {}", kind.name(), node.kind()), example(kind)));
    };
    let rows = members(kind);
    for (name, _) in entries {
        let known = rows.iter().map(|row| row.0).chain(if kind == TokenType::Shadow { Some("inset") } else { None });
        if !known.clone().any(|known| known == name.value) {
            return Err(unknown_name("token/value", &format!("member {{}} of a {}", kind.name()), name, known));
        }
    }
    let mut list = Vec::new();
    for (name, member, optional) in rows {
        match node.get(name) {
            Some(inner) => {
                let value = match (kind, *name, inner.as_number()) {
                    // Older files give the letter spacing of nothing as 0.
                    (TokenType::Typography, "letterSpacing", Some(0.0)) => TokenValue::Dimension(0.0, "px"),
                    _ => TokenValue::read(*member, inner)?,
                };
                list.push(Member { name, kind: *member, value });
            }
            None if *optional => {}
            None => return Err(wrong(node, format!("the {} has no `{name}`", kind.name()), example(kind))),
        }
    }
    match node.get("inset").map(|inset| &inset.json) {
        None | Some(Json::Bool(false)) => {}
        Some(Json::Bool(true)) => {
            list.push(Member { name: "inset", kind: TokenType::StrokeStyle, value: TokenValue::Word("inset") });
        }
        Some(_) => return Err(wrong(node, "`inset` is true or false".into(), example(kind))),
    }
    Ok(TokenValue::Composite(kind, list))
}

/// One shadow, or a list of them; a list may hold aliases.
pub fn read_list(kind: TokenType, node: &Node) -> Result<TokenValue, Diagnostic> {
    let Json::Array(items) = &node.json else { return read(kind, node) };
    let items: Result<Vec<TokenValue>, Diagnostic> = items
        .iter()
        .map(|item| match TokenValue::read_alias(item) {
            Some(alias) => Ok(TokenValue::Alias(alias)),
            None => read(kind, item),
        })
        .collect();
    Ok(TokenValue::List(items?))
}

/// The stops of a gradient. Positions run from 0 to 1; what is beyond is clamped, as the standard says.
pub fn read_gradient(node: &Node) -> Result<TokenValue, Diagnostic> {
    if !matches!(node.json, Json::Array(_)) {
        let message = format!("a gradient is a list of stops, not {}", node.kind());
        return Err(wrong(node, message, example(TokenType::Gradient)));
    }
    let TokenValue::List(mut stops) = read_list(TokenType::Gradient, node)? else {
        return Err(wrong(node, "a gradient is a list of stops".into(), example(TokenType::Gradient)));
    };
    for stop in &mut stops {
        if let TokenValue::Composite(_, members) = stop
            && let Some(Member { value: TokenValue::Number(position), .. }) = members.last_mut()
        {
            *position = position.clamp(0.0, 1.0);
        }
    }
    Ok(TokenValue::List(stops))
}

/// The words of section 9.2.
pub const STROKE_STYLES: [&str; 8] = ["solid", "dashed", "dotted", "double", "groove", "ridge", "outset", "inset"];

/// A line style. Dashes of one's own have no property in CSS: they are written `dashed`.
pub fn read_stroke_style(node: &Node) -> Result<TokenValue, Diagnostic> {
    match (&node.json, node.as_str()) {
        (_, Some(word)) => match STROKE_STYLES.iter().find(|known| **known == word) {
            Some(word) => Ok(TokenValue::StrokeStyle(word)),
            None => {
                let name = Name { value: word.to_owned(), span: node.span };
                Err(unknown_name("token/value", "stroke style", &name, STROKE_STYLES))
            }
        },
        (Json::Object(_), _) if node.get("dashArray").is_some() && node.get("lineCap").is_some() => {
            Ok(TokenValue::StrokeStyle("dashed"))
        }
        _ => Err(wrong(
            node,
            "a stroke style is a word, or an object with `dashArray` and `lineCap`".into(),
            "\"solid\"",
        )),
    }
}

/// Writes members in CSS's order. Returns whether every alias was found.
pub fn write(
    kind: TokenType,
    members: &[Member],
    pieces: &mut Vec<Piece>,
    find: &mut dyn FnMut(&Name) -> Option<TokenId>,
) -> bool {
    let mut complete = true;
    let mut first = true;
    for member in members {
        // `font` has no letter spacing; the sheet's `font` declaration brings it along.
        if member.name == "letterSpacing" {
            continue;
        }
        if !first {
            let separator = if member.name == "lineHeight" { "/" } else { " " };
            pieces.push(Piece::Text(separator.into()));
        }
        first = false;
        let value = match member.value.expression(find) {
            Some(value) => value,
            None => {
                complete = false;
                continue;
            }
        };
        if kind == TokenType::Gradient && member.name == "position" {
            match &member.value {
                TokenValue::Number(n) => pieces.push(Piece::Text(format!("{}%", n * 100.0))),
                _ => {
                    pieces.push(Piece::Text("calc(".into()));
                    pieces.extend(value.pieces);
                    pieces.push(Piece::Text(" * 100%)".into()));
                }
            }
        } else {
            pieces.extend(value.pieces);
        }
    }
    complete
}
