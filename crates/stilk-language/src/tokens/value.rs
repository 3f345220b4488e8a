//! Token types and values of the Design Tokens Format 2025.10, section 8, and how they are written in CSS.

use super::color::{self, ColorSpace};
use super::{Expression, Piece, TokenId, composite};
use stilk_text::diagnostic::Diagnostic;
use stilk_text::json::{Json, Node};
use stilk_text::source::Name;

/// The types of the standard.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum TokenType {
    /// Section 8.1.
    Color,
    /// Section 8.2.
    Dimension,
    /// Section 8.3.
    FontFamily,
    /// Section 8.4.
    FontWeight,
    /// Section 8.5.
    Duration,
    /// Section 8.6.
    CubicBezier,
    /// Section 8.7.
    Number,
    /// Section 9.2.
    StrokeStyle,
    /// Section 9.3.
    Border,
    /// Section 9.4.
    Transition,
    /// Section 9.5.
    Shadow,
    /// Section 9.6.
    Gradient,
    /// Section 9.7.
    Typography,
}

const TYPES: [(&str, TokenType); 13] = [
    ("color", TokenType::Color),
    ("dimension", TokenType::Dimension),
    ("fontFamily", TokenType::FontFamily),
    ("fontWeight", TokenType::FontWeight),
    ("duration", TokenType::Duration),
    ("cubicBezier", TokenType::CubicBezier),
    ("number", TokenType::Number),
    ("strokeStyle", TokenType::StrokeStyle),
    ("border", TokenType::Border),
    ("transition", TokenType::Transition),
    ("shadow", TokenType::Shadow),
    ("gradient", TokenType::Gradient),
    ("typography", TokenType::Typography),
];

/// A value of each type but gradients, to find out what fits a property.
pub const SAMPLES: [(TokenType, &str); 12] = [
    (TokenType::Color, "red"),
    (TokenType::Dimension, "1px"),
    (TokenType::Duration, "1s"),
    (TokenType::Number, "1"),
    (TokenType::FontFamily, "serif"),
    (TokenType::FontWeight, "600"),
    (TokenType::CubicBezier, "ease"),
    (TokenType::StrokeStyle, "solid"),
    (TokenType::Border, "1px solid red"),
    (TokenType::Shadow, "0 0 1px 0 red"),
    (TokenType::Transition, "1s ease 0s"),
    (TokenType::Typography, "600 1rem/1 serif"),
];

impl TokenType {
    /// The type of a name.
    pub fn named(name: &str) -> Option<TokenType> {
        TYPES.iter().find(|(known, _)| *known == name).map(|(_, kind)| *kind)
    }

    /// The names of all types.
    pub fn names() -> impl Iterator<Item = &'static str> {
        TYPES.iter().map(|(name, _)| *name)
    }

    /// The type's name in the standard.
    pub fn name(self) -> &'static str {
        TYPES.iter().find(|(_, t)| *t == self).map_or("", |(name, _)| name)
    }

    /// Reads a `$type`.
    pub fn read(name: &Name) -> Result<TokenType, Diagnostic> {
        match TYPES.iter().find(|(known, _)| *known == name.value) {
            Some((_, kind)) => Ok(*kind),
            None => {
                Err(stilk_text::diagnostic::unknown_name("token/type", "token type", name, TYPES.iter().map(|t| t.0)))
            }
        }
    }
}

/// A token's value.
#[derive(Debug, Clone, PartialEq)]
pub enum TokenValue {
    /// `{path}` or a `$ref` to a whole token.
    Alias(Name),
    /// A colour.
    Color {
        /// CSS name of the space.
        space: &'static ColorSpace,
        /// Components, `None` for `none`.
        components: [Option<f64>; 3],
        /// 0 to 1.
        alpha: f64,
        /// The same as `#rrggbb`, where the file says so and it is the very same.
        hex: Option<String>,
    },
    /// A number and `px` or `rem`.
    Dimension(f64, &'static str),
    /// Font names, most wanted first.
    FontFamily(Vec<String>),
    /// 1 to 1000.
    FontWeight(f64),
    /// A number and `ms` or `s`.
    Duration(f64, &'static str),
    /// Two control points, abscissas 0 to 1.
    CubicBezier([f64; 4]),
    /// A number.
    Number(f64),
    /// A line style.
    StrokeStyle(&'static str),
    /// A word of a composite value, such as `inset`.
    Word(&'static str),
    /// Members in the order of the type's table.
    Composite(TokenType, Vec<Member>),
    /// Shadows, or stops of a gradient.
    List(Vec<TokenValue>),
    /// Computed by CSS from other tokens.
    Derived,
}

/// A member of a composite value.
#[derive(Debug, Clone, PartialEq)]
pub struct Member {
    /// Its name in the standard.
    pub name: &'static str,
    /// Its type.
    pub kind: TokenType,
    /// Its value.
    pub value: TokenValue,
}

/// Named weights of section 8.4.
pub const FONT_WEIGHTS: [(&str, f64); 18] = [
    ("thin", 100.0),
    ("hairline", 100.0),
    ("extra-light", 200.0),
    ("ultra-light", 200.0),
    ("light", 300.0),
    ("normal", 400.0),
    ("regular", 400.0),
    ("book", 400.0),
    ("medium", 500.0),
    ("semi-bold", 600.0),
    ("demi-bold", 600.0),
    ("bold", 700.0),
    ("extra-bold", 800.0),
    ("ultra-bold", 800.0),
    ("black", 900.0),
    ("heavy", 900.0),
    ("extra-black", 950.0),
    ("ultra-black", 950.0),
];

impl TokenValue {
    /// Whether the value is an alias: `{path}` alone, or `{"$ref": "#/path/$value"}`.
    pub fn read_alias(node: &Node) -> Option<Name> {
        if let Some(text) = node.as_str() {
            let path = text.strip_prefix('{')?.strip_suffix('}')?;
            return Some(Name { value: path.trim().to_owned(), span: node.span });
        }
        let pointer = node.get("$ref")?.as_str()?.strip_prefix("#/")?.strip_suffix("/$value")?;
        let path = pointer.split('/').map(|s| s.replace("~1", "/").replace("~0", "~")).collect::<Vec<_>>().join(".");
        Some(Name { value: path, span: node.span })
    }

    /// Reads a `$value` of a known type.
    ///
    /// # Errors
    /// A diagnostic that names the shape the standard wants.
    pub fn read(kind: TokenType, node: &Node) -> Result<TokenValue, Diagnostic> {
        if let Some(alias) = Self::read_alias(node) {
            return Ok(TokenValue::Alias(alias));
        }
        match kind {
            TokenType::Color => color::read(node),
            TokenType::Dimension => {
                read_measure(node, &["px", "rem"], "16px").map(|(n, unit)| TokenValue::Dimension(n, unit))
            }
            TokenType::Duration => {
                read_measure(node, &["ms", "s"], "120ms").map(|(n, unit)| TokenValue::Duration(n, unit))
            }
            TokenType::FontFamily => read_family(node),
            TokenType::FontWeight => read_weight(node),
            TokenType::CubicBezier => read_bezier(node),
            TokenType::StrokeStyle => composite::read_stroke_style(node),
            TokenType::Border | TokenType::Transition | TokenType::Typography => composite::read(kind, node),
            TokenType::Shadow => composite::read_list(kind, node),
            TokenType::Gradient => composite::read_gradient(node),
            TokenType::Number => match node.as_number() {
                Some(number) => Ok(TokenValue::Number(number)),
                None => Err(wrong(node, format!("a number token is a JSON number, not {}", node.kind()), "1.5")),
            },
        }
    }

    /// The value as CSS with references in it. `None` when an alias names no token, which `find` reports.
    pub fn expression(&self, find: &mut dyn FnMut(&Name) -> Option<TokenId>) -> Option<Expression> {
        let mut expression = Expression::default();
        self.write(&mut expression.pieces, find).then_some(expression)
    }

    /// Returns whether every alias was found; goes on after one that was not.
    fn write(&self, pieces: &mut Vec<Piece>, find: &mut dyn FnMut(&Name) -> Option<TokenId>) -> bool {
        match self {
            TokenValue::Alias(name) => match find(name) {
                Some(id) => pieces.push(Piece::Token(id, name.span)),
                None => return false,
            },
            TokenValue::Composite(kind, members) => return composite::write(*kind, members, pieces, find),
            TokenValue::List(items) => {
                let mut complete = true;
                for (i, item) in items.iter().enumerate() {
                    if i > 0 {
                        pieces.push(Piece::Text(", ".into()));
                    }
                    complete &= item.write(pieces, find);
                }
                return complete;
            }
            plain => pieces.push(Piece::Text(plain.to_css())),
        }
        true
    }

    /// The value and every value in it, with the type that its place asks for.
    pub fn walk(&self, kind: TokenType, visit: &mut dyn FnMut(TokenType, &TokenValue)) {
        visit(kind, self);
        match self {
            TokenValue::Composite(_, members) => members.iter().for_each(|m| m.value.walk(m.kind, visit)),
            TokenValue::List(items) => items.iter().for_each(|item| item.walk(kind, visit)),
            _ => {}
        }
    }

    /// A value without references in CSS; what holds any has no text of its own.
    fn to_css(&self) -> String {
        match self {
            TokenValue::Alias(_) | TokenValue::Derived | TokenValue::Composite(..) | TokenValue::List(_) => {
                String::new()
            }
            TokenValue::StrokeStyle(word) | TokenValue::Word(word) => (*word).to_owned(),
            TokenValue::Color { hex: Some(hex), alpha, .. } => color::hex_to_css(hex, *alpha),
            TokenValue::Color { space, components, alpha, .. } => color::to_css(space, components, *alpha),
            TokenValue::Dimension(0.0, _) => "0px".into(),
            TokenValue::Dimension(n, unit) | TokenValue::Duration(n, unit) => format!("{n}{unit}"),
            TokenValue::FontFamily(names) => names.iter().map(|n| family_css(n)).collect::<Vec<_>>().join(", "),
            TokenValue::FontWeight(n) | TokenValue::Number(n) => n.to_string(),
            TokenValue::CubicBezier([a, b, c, d]) => format!("cubic-bezier({a}, {b}, {c}, {d})"),
        }
    }
}

pub(super) fn wrong(node: &Node, message: String, example: &str) -> Diagnostic {
    Diagnostic::error("token/value", node.span, message).label("here").mend(format!("write `\"$value\": {example}`"))
}

fn read_measure(node: &Node, units: &[&'static str], example: &str) -> Result<(f64, &'static str), Diagnostic> {
    let split = example.find(|c: char| c.is_ascii_alphabetic()).unwrap_or(0);
    let written = format!("{{ \"value\": {}, \"unit\": \"{}\" }}", &example[..split], &example[split..]);
    let what = if units[0] == "px" { "a dimension" } else { "a duration" };
    if let Some((number, unit)) = node.as_str().and_then(|text| old_measure(text, units)) {
        return Ok((number, unit));
    }
    if let Some(number) = node.as_number() {
        let mend = format!("{{ \"value\": {number}, \"unit\": \"{}\" }}", units[0]);
        return Err(wrong(node, format!("{what} has a unit: `{number}` has none"), &mend));
    }
    let (Some(value), Some(unit)) = (node.get("value"), node.get("unit")) else {
        return Err(wrong(node, format!("{what} is an object with `value` and `unit`, not {}", node.kind()), &written));
    };
    let Some(number) = value.as_number() else {
        return Err(wrong(value, format!("`value` is a number, not {}", value.kind()), &written));
    };
    let word = unit.as_str().unwrap_or_default();
    match units.iter().find(|u| **u == word) {
        Some(unit) => Ok((number, unit)),
        None => {
            let message = format!("the unit of {what} is {}, not `{word}`", units.join(" or "));
            Err(Diagnostic::error("token/value", unit.span, message)
                .mend(format!("write `\"unit\": \"{}\"`", units[0])))
        }
    }
}

/// `16px` and `120ms`, as older files have them.
fn old_measure(text: &str, units: &[&'static str]) -> Option<(f64, &'static str)> {
    // `ms` ends in `s`: the longer unit is tried first.
    let unit = units.iter().filter(|unit| text.ends_with(**unit)).max_by_key(|unit| unit.len())?;
    let number = text[..text.len() - unit.len()].trim().parse().ok()?;
    Some((number, unit))
}

/// Whether a value is written as older drafts of the standard had it: colours and measures as strings.
pub fn is_old_form(value: &TokenValue, node: &Node) -> bool {
    let measured = matches!(value, TokenValue::Color { .. } | TokenValue::Dimension(..) | TokenValue::Duration(..));
    measured && node.as_str().is_some()
}

fn read_family(node: &Node) -> Result<TokenValue, Diagnostic> {
    const EXAMPLE: &str = r#"["Name", "sans-serif"]"#;
    let names: Option<Vec<String>> = match &node.json {
        Json::String(one) => Some(vec![one.clone()]),
        Json::Array(items) => items.iter().map(|item| item.as_str().map(str::to_owned)).collect(),
        _ => None,
    };
    match names.filter(|names| !names.is_empty()) {
        Some(names) => Ok(TokenValue::FontFamily(names)),
        None => Err(wrong(node, "a font family is a name or a list of names".into(), EXAMPLE)),
    }
}

fn read_weight(node: &Node) -> Result<TokenValue, Diagnostic> {
    if let Some(number) = node.as_number().filter(|n| (1.0..=1000.0).contains(n)) {
        return Ok(TokenValue::FontWeight(number));
    }
    if let Some(word) = node.as_str() {
        if let Some((_, number)) = FONT_WEIGHTS.iter().find(|(name, _)| *name == word) {
            return Ok(TokenValue::FontWeight(*number));
        }
        let name = Name { value: word.to_owned(), span: node.span };
        return Err(stilk_text::diagnostic::unknown_name(
            "token/value",
            "font weight",
            &name,
            FONT_WEIGHTS.map(|w| w.0),
        ));
    }
    Err(wrong(node, "a font weight is a number from 1 to 1000, or a name".into(), "600"))
}

fn read_bezier(node: &Node) -> Result<TokenValue, Diagnostic> {
    let numbers: Vec<f64> = node.items().iter().filter_map(Node::as_number).collect();
    match <[f64; 4]>::try_from(numbers) {
        Ok(points) if (0.0..=1.0).contains(&points[0]) && (0.0..=1.0).contains(&points[2]) => {
            Ok(TokenValue::CubicBezier(points))
        }
        _ => {
            let message = "a cubic Bézier is four numbers, the first and the third from 0 to 1";
            Err(wrong(node, message.into(), "[0.2, 0, 0, 1]"))
        }
    }
}

/// Font names that are CSS keywords stay bare; all others are quoted (CSS Fonts 4, section 2.1).
fn family_css(name: &str) -> String {
    if stilk_engine::css::font::GENERIC_FAMILIES.contains(&name) {
        return name.to_owned();
    }
    let mut text = String::new();
    // Writing to a String does not fail.
    let _ = cssparser::serialize_string(name, &mut text);
    text
}

#[cfg(test)]
mod tests {
    use super::*;
    use stilk_text::diagnostic::Diagnostics;
    use stilk_text::source::Sources;

    fn read(kind: TokenType, text: &str) -> Result<String, String> {
        let mut sources = Sources::default();
        let file = sources.add("t", text);
        let node = stilk_text::json::parse(file, &sources, &mut Diagnostics::default()).unwrap();
        TokenValue::read(kind, &node).map(|v| v.to_css()).map_err(|d| format!("{} -> {}", d.message, d.mend.unwrap()))
    }

    #[test]
    fn colours_are_written_in_the_notation_of_their_space() {
        let cases = [
            (r#"{"colorSpace":"oklch","components":[0.62,0.13,230]}"#, "oklch(0.62 0.13 230)"),
            (r#"{"colorSpace":"hsl","components":[210,"none",40],"alpha":0.5}"#, "hsl(210 none 40% / 0.5)"),
            (r#"{"colorSpace":"display-p3","components":[1,0,0.25]}"#, "color(display-p3 1 0 0.25)"),
        ];
        for (json, css) in cases {
            assert_eq!(read(TokenType::Color, json).unwrap(), css);
        }
    }

    #[test]
    fn a_lightness_in_percent_is_mended() {
        let error = read(TokenType::Color, r#"{"colorSpace":"oklch","components":[62,0.13,230]}"#).unwrap_err();
        assert_eq!(error, "the lightness of `oklch` is from 0 to 1, not 62 -> write 0.62");
    }

    #[test]
    fn a_bare_number_is_no_dimension() {
        let error = read(TokenType::Dimension, "8").unwrap_err();
        assert_eq!(
            error,
            "a dimension has a unit: `8` has none -> write `\"$value\": { \"value\": 8, \"unit\": \"px\" }`"
        );
    }

    #[test]
    fn families_are_quoted_unless_generic() {
        assert_eq!(
            read(TokenType::FontFamily, r#"["DejaVu Sans", "sans-serif"]"#).unwrap(),
            r#""DejaVu Sans", sans-serif"#
        );
        assert_eq!(read(TokenType::FontWeight, "\"semi-bold\"").unwrap(), "600");
    }
}
