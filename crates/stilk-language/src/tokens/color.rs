//! Colours of the Design Tokens Format: the spaces of the Color module 2025.10, and hex strings of older files.

use super::value::{TokenValue, wrong};
use stilk_text::diagnostic::Diagnostic;
use stilk_text::json::{Json, Node};
use stilk_text::source::Name;

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

/// The names of all spaces in the tokens standard.
pub fn names() -> impl Iterator<Item = &'static str> {
    SPACES.iter().map(|space| space.name)
}

/// Reads a colour: an object with `colorSpace` and `components`, or `#rrggbb` and its kin from older files.
pub fn read(node: &Node) -> Result<TokenValue, Diagnostic> {
    const EXAMPLE: &str = r#"{ "colorSpace": "oklch", "components": [0.62, 0.13, 230] }"#;
    if let Some(text) = node.as_str() {
        return read_old(text).ok_or_else(|| wrong(node, format!("`{text}` is no colour"), EXAMPLE));
    }
    let Json::Object(_) = node.json else {
        return Err(wrong(node, format!("a colour is an object, not {}", node.kind()), EXAMPLE));
    };
    let Some(space_node) = node.get("colorSpace") else {
        return Err(wrong(node, "the colour has no `colorSpace`".into(), EXAMPLE));
    };
    let name = Name { value: space_node.as_str().unwrap_or_default().to_owned(), span: space_node.span };
    let Some(space) = SPACES.iter().find(|s| s.name == name.value) else {
        let known = SPACES.iter().map(|s| s.name);
        return Err(stilk_text::diagnostic::unknown_name("token/value", "colour space", &name, known));
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
    let hex = node.get("hex").and_then(|hex| hex.as_str()).filter(|hex| says_the_same(hex, space, &components));
    Ok(TokenValue::Color { space, components, alpha, hex: hex.map(str::to_ascii_lowercase) })
}

/// Whether `hex` (Color module 2025.10, section 4.1.4) is the very colour that the components say, not one beside it.
fn says_the_same(hex: &str, space: &ColorSpace, components: &[Option<f64>; 3]) -> bool {
    // Half a step of a byte is what rounding to bytes loses.
    const ROUNDING: f64 = 1.0 / 255.0 / 16.0;
    let Some(TokenValue::Color { components: bytes, .. }) = read_old(hex).filter(|_| hex.len() == 7) else {
        return false;
    };
    let is_same = |(one, other): (&Option<f64>, &Option<f64>)| {
        one.zip(*other).is_some_and(|(one, other)| (one - other).abs() < ROUNDING)
    };
    space.name == "srgb" && components.iter().zip(&bytes).all(is_same)
}

/// `#rgb`, `#rgba`, `#rrggbb`, `#rrggbbaa`.
fn read_old(text: &str) -> Option<TokenValue> {
    let digits = text.strip_prefix('#')?;
    let wide = match digits.len() {
        3 | 4 => digits.chars().flat_map(|c| [c, c]).collect::<String>(),
        6 | 8 => digits.to_owned(),
        _ => return None,
    };
    let channel = |i: usize| {
        let byte = wide.get(2 * i..2 * i + 2).and_then(|hex| u8::from_str_radix(hex, 16).ok())?;
        // Four decimals say the byte, and stay readable.
        Some((f64::from(byte) / 255.0 * 1e4).round() / 1e4)
    };
    let alpha = if wide.len() == 8 { channel(3)? } else { 1.0 };
    Some(TokenValue::Color {
        space: &SPACES[0],
        components: [Some(channel(0)?), Some(channel(1)?), Some(channel(2)?)],
        alpha,
        hex: None,
    })
}

/// A colour of bytes in CSS, as pages write it: browsers compute with it as with any other of theirs.
pub fn hex_to_css(hex: &str, alpha: f64) -> String {
    let byte = |at: usize| hex.get(at..at + 2).and_then(|digits| u8::from_str_radix(digits, 16).ok()).unwrap_or(0);
    match alpha == 1.0 {
        true => hex.to_owned(),
        false => format!("rgb({} {} {} / {alpha})", byte(1), byte(3), byte(5)),
    }
}

/// A colour in CSS.
pub fn to_css(space: &ColorSpace, components: &[Option<f64>; 3], alpha: f64) -> String {
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
