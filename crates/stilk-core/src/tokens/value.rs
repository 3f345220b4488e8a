//! Token types and values of the Design Tokens Format 2025.10, section 8, and how they are written in CSS.

use crate::diagnostic::Diagnostic;
use crate::json::{Json, Node};
use crate::source::Name;

/// The types this version reads.
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
}

/// Type names of the standard, with `None` for those this version does not read.
const TYPES: [(&str, Option<TokenType>); 13] = [
    ("color", Some(TokenType::Color)),
    ("dimension", Some(TokenType::Dimension)),
    ("fontFamily", Some(TokenType::FontFamily)),
    ("fontWeight", Some(TokenType::FontWeight)),
    ("duration", Some(TokenType::Duration)),
    ("cubicBezier", Some(TokenType::CubicBezier)),
    ("number", Some(TokenType::Number)),
    ("strokeStyle", None),
    ("border", None),
    ("transition", None),
    ("shadow", None),
    ("gradient", None),
    ("typography", None),
];

impl TokenType {
    /// The type's name in the standard.
    pub fn name(self) -> &'static str {
        TYPES.iter().find(|(_, t)| *t == Some(self)).map_or("", |(name, _)| name)
    }

    /// Reads a `$type`.
    pub fn read(name: &Name) -> Result<TokenType, Diagnostic> {
        match TYPES.iter().find(|(known, _)| *known == name.value) {
            Some((_, Some(kind))) => Ok(*kind),
            Some((_, None)) => Err(Diagnostic::error(
                "token/type",
                name.span,
                format!("tokens of type `{}` are not available in this version", name.value),
            )
            .mend("write its members as tokens of their own")),
            None => Err(crate::diagnostic::unknown_name("token/type", "token type", name, TYPES.iter().map(|t| t.0))),
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
    /// Computed by CSS from other tokens.
    Derived,
}

/// A colour space of the Color module 2025.10, section 4.2.
#[derive(Debug, PartialEq)]
pub struct ColorSpace {
    /// Name in the tokens standard.
    pub name: &'static str,
    /// How CSS writes it: a function's name, or the name inside `color()`.
    css: Notation,
    /// Lowest and highest value per component; a hue's highest value is excluded.
    ranges: [(f64, f64); 3],
    /// What the components are called, in messages.
    components: [&'static str; 3],
}

#[derive(Debug, PartialEq)]
enum Notation {
    Function(&'static str),
    Color(&'static str),
    /// A function whose last two components are percentages.
    Percent(&'static str),
}

const ANY: (f64, f64) = (f64::NEG_INFINITY, f64::INFINITY);
const UNIT: (f64, f64) = (0.0, 1.0);
const HUE: (f64, f64) = (0.0, 360.0);
const PERCENT: (f64, f64) = (0.0, 100.0);
const POSITIVE: (f64, f64) = (0.0, f64::INFINITY);
const RGB: [&str; 3] = ["red", "green", "blue"];
const LAB: [&str; 3] = ["lightness", "a", "b"];
const LCH: [&str; 3] = ["lightness", "chroma", "hue"];
const XYZ: [&str; 3] = ["X", "Y", "Z"];

const fn space(
    name: &'static str,
    css: Notation,
    ranges: [(f64, f64); 3],
    components: [&'static str; 3],
) -> ColorSpace {
    ColorSpace { name, css, ranges, components }
}

static SPACES: [ColorSpace; 14] = [
    space("srgb", Notation::Color("srgb"), [UNIT; 3], RGB),
    space("srgb-linear", Notation::Color("srgb-linear"), [UNIT; 3], RGB),
    space("hsl", Notation::Percent("hsl"), [HUE, PERCENT, PERCENT], ["hue", "saturation", "lightness"]),
    space("hwb", Notation::Percent("hwb"), [HUE, PERCENT, PERCENT], ["hue", "whiteness", "blackness"]),
    space("lab", Notation::Function("lab"), [PERCENT, ANY, ANY], LAB),
    space("lch", Notation::Function("lch"), [PERCENT, POSITIVE, HUE], LCH),
    space("oklab", Notation::Function("oklab"), [UNIT, ANY, ANY], LAB),
    space("oklch", Notation::Function("oklch"), [UNIT, POSITIVE, HUE], LCH),
    space("display-p3", Notation::Color("display-p3"), [UNIT; 3], RGB),
    space("a98-rgb", Notation::Color("a98-rgb"), [UNIT; 3], RGB),
    space("prophoto-rgb", Notation::Color("prophoto-rgb"), [UNIT; 3], RGB),
    space("rec2020", Notation::Color("rec2020"), [UNIT; 3], RGB),
    space("xyz-d65", Notation::Color("xyz-d65"), [ANY; 3], XYZ),
    space("xyz-d50", Notation::Color("xyz-d50"), [ANY; 3], XYZ),
];

/// Named weights of section 8.4.
const WEIGHTS: [(&str, f64); 18] = [
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
            TokenType::Color => read_color(node),
            TokenType::Dimension => {
                read_measure(node, &["px", "rem"], "16px").map(|(n, unit)| TokenValue::Dimension(n, unit))
            }
            TokenType::Duration => {
                read_measure(node, &["ms", "s"], "120ms").map(|(n, unit)| TokenValue::Duration(n, unit))
            }
            TokenType::FontFamily => read_family(node),
            TokenType::FontWeight => read_weight(node),
            TokenType::CubicBezier => read_bezier(node),
            TokenType::Number => match node.as_number() {
                Some(number) => Ok(TokenValue::Number(number)),
                None => Err(wrong(node, format!("a number token is a JSON number, not {}", node.kind()), "1.5")),
            },
        }
    }

    /// The value in CSS. Aliases and derived tokens have no text of their own.
    pub fn to_css(&self) -> String {
        match self {
            TokenValue::Alias(_) | TokenValue::Derived => String::new(),
            TokenValue::Color { space, components, alpha } => color_css(space, components, *alpha),
            TokenValue::Dimension(0.0, _) => "0px".into(),
            TokenValue::Dimension(n, unit) | TokenValue::Duration(n, unit) => format!("{n}{unit}"),
            TokenValue::FontFamily(names) => names.iter().map(|n| family_css(n)).collect::<Vec<_>>().join(", "),
            TokenValue::FontWeight(n) | TokenValue::Number(n) => n.to_string(),
            TokenValue::CubicBezier([a, b, c, d]) => format!("cubic-bezier({a}, {b}, {c}, {d})"),
        }
    }
}

fn wrong(node: &Node, message: String, example: &str) -> Diagnostic {
    Diagnostic::error("token/value", node.span, message).label("here").mend(format!("write `\"$value\": {example}`"))
}

fn read_color(node: &Node) -> Result<TokenValue, Diagnostic> {
    const EXAMPLE: &str = r#"{ "colorSpace": "oklch", "components": [0.62, 0.13, 230] }"#;
    let Json::Object(_) = node.json else {
        return Err(wrong(node, format!("a colour is an object, not {}", node.kind()), EXAMPLE));
    };
    let Some(space_node) = node.get("colorSpace") else {
        return Err(wrong(node, "the colour has no `colorSpace`".into(), EXAMPLE));
    };
    let name = Name { value: space_node.as_str().unwrap_or_default().to_owned(), span: space_node.span };
    let Some(space) = SPACES.iter().find(|s| s.name == name.value) else {
        let known = SPACES.iter().map(|s| s.name);
        return Err(crate::diagnostic::unknown_name("token/value", "colour space", &name, known));
    };
    let Some(list) = node.get("components").filter(|n| n.items().len() == 3) else {
        let at = node.get("components").unwrap_or(node);
        return Err(wrong(
            at,
            format!("`{}` has three components: {}", space.name, space.components.join(", ")),
            EXAMPLE,
        ));
    };
    let mut components = [None; 3];
    for (i, item) in list.items().iter().enumerate() {
        let (low, high) = space.ranges[i];
        let what = space.components[i];
        components[i] = match (&item.json, item.as_str()) {
            (_, Some("none")) => None,
            (Json::Number(n), _) if *n >= low && *n <= high && !(what == "hue" && *n == high) => Some(*n),
            (Json::Number(n), _) => {
                let range = match (low.is_finite(), high.is_finite()) {
                    (true, true) => format!("from {low} to {high}"),
                    _ => format!("{low} or more"),
                };
                let message = format!("the {what} of `{}` is {range}, not {n}", space.name);
                return Err(Diagnostic::error("token/value", item.span, message).label("out of range").mend(
                    if what == "lightness" && high == 1.0 && *n <= 100.0 {
                        format!("write {}", n / 100.0)
                    } else {
                        format!("write a {what} {range}")
                    },
                ));
            }
            _ => return Err(wrong(item, format!("the {what} is a number or \"none\""), EXAMPLE)),
        };
    }
    let alpha = match node.get("alpha") {
        None => 1.0,
        Some(item) => match item.as_number().filter(|n| (0.0..=1.0).contains(n)) {
            Some(n) => n,
            None => return Err(wrong(item, "`alpha` is a number from 0 to 1".into(), EXAMPLE)),
        },
    };
    Ok(TokenValue::Color { space, components, alpha })
}

fn read_measure(node: &Node, units: &[&'static str], example: &str) -> Result<(f64, &'static str), Diagnostic> {
    let split = example.find(|c: char| c.is_ascii_alphabetic()).unwrap_or(0);
    let written = format!("{{ \"value\": {}, \"unit\": \"{}\" }}", &example[..split], &example[split..]);
    let what = if units[0] == "px" { "a dimension" } else { "a duration" };
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
        if let Some((_, number)) = WEIGHTS.iter().find(|(name, _)| *name == word) {
            return Ok(TokenValue::FontWeight(*number));
        }
        let name = Name { value: word.to_owned(), span: node.span };
        return Err(crate::diagnostic::unknown_name("token/value", "font weight", &name, WEIGHTS.map(|w| w.0)));
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

fn color_css(space: &ColorSpace, components: &[Option<f64>; 3], alpha: f64) -> String {
    let write = |i: usize| match components[i] {
        None => "none".to_owned(),
        Some(n) if i > 0 && matches!(space.css, Notation::Percent(_)) => format!("{n}%"),
        Some(n) => n.to_string(),
    };
    let list = [write(0), write(1), write(2)].join(" ");
    let alpha = if alpha == 1.0 { String::new() } else { format!(" / {alpha}") };
    match space.css {
        Notation::Function(name) | Notation::Percent(name) => format!("{name}({list}{alpha})"),
        Notation::Color(name) => format!("color({name} {list}{alpha})"),
    }
}

/// Font names that are CSS keywords stay bare; all others are quoted (CSS Fonts 4, section 2.1).
fn family_css(name: &str) -> String {
    const GENERIC: [&str; 13] = [
        "serif",
        "sans-serif",
        "monospace",
        "cursive",
        "fantasy",
        "system-ui",
        "ui-serif",
        "ui-sans-serif",
        "ui-monospace",
        "ui-rounded",
        "math",
        "fangsong",
        "emoji",
    ];
    if GENERIC.contains(&name) {
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
    use crate::diagnostic::Diagnostics;
    use crate::source::Sources;

    fn read(kind: TokenType, text: &str) -> Result<String, String> {
        let mut sources = Sources::default();
        let file = sources.add("t", text);
        let node = crate::json::parse(file, &sources, &mut Diagnostics::default()).unwrap();
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
