//! Colours in values: where they stand, and how the Design Tokens Format says them.

use serde_json::{Value as Json, json};
use std::ops::Range;
use stilk_engine::css::Value;
use stilk_engine::css::color::{Absolute, Color, Space};
use stilk_engine::css::parse::Declared;
use stilk_engine::css::parse_declaration;
use stilk_engine::css::serialize::number;

/// The colour that a text is, where it is one in itself.
pub fn color(text: &str) -> Option<Absolute> {
    match parse_declaration("color", text).ok()?.declared {
        Declared::Values(values) => values.into_iter().find_map(|(_, value)| match value {
            Value::Color(Color::Absolute(absolute)) => Some(absolute),
            _ => None,
        }),
        _ => None,
    }
}

/// How far apart two colours are in OKLab (CSS Color 4, section 17), alpha counted as much.
pub fn distance(one: &Absolute, other: &Absolute) -> f64 {
    let (a, b) = (one.to(Space::Oklab).components, other.to(Space::Oklab).components);
    let squares = a.iter().zip(&b).map(|(a, b)| (a.unwrap_or(0.0) - b.unwrap_or(0.0)).powi(2)).sum::<f64>();
    squares.sqrt().max((one.alpha - other.alpha).abs())
}

/// Where colours stand in a value, in order. What is see-through by name is none, and nothing in strings and addresses is.
pub fn colors_in(value: &str) -> Vec<Range<usize>> {
    let bytes = value.as_bytes();
    let is_name = |byte: u8| byte.is_ascii_alphanumeric() || byte == b'-' || byte == b'_' || byte >= 0x80;
    let (mut found, mut at) = (Vec::new(), 0);
    while at < bytes.len() {
        let start = at;
        match bytes[at] {
            quote @ (b'"' | b'\'') => {
                at += 1;
                while at < bytes.len() && bytes[at] != quote {
                    at += if bytes[at] == b'\\' { 2 } else { 1 };
                }
                at += 1;
            }
            b'#' => {
                at += 1;
                while at < bytes.len() && is_name(bytes[at]) {
                    at += 1;
                }
                if color(&value[start..at]).is_some() {
                    found.push(start..at);
                }
            }
            byte if byte.is_ascii_alphabetic() || byte == b'-' || byte == b'_' => {
                while at < bytes.len() && is_name(bytes[at]) {
                    at += 1;
                }
                let word = &value[start..at];
                if bytes.get(at) != Some(&b'(') {
                    if !word.eq_ignore_ascii_case("transparent") && color(word).is_some() {
                        found.push(start..at);
                    }
                    continue;
                }
                let end = closing(bytes, at);
                let whole = value.get(start..end).unwrap_or_default();
                if word.eq_ignore_ascii_case("url") {
                    at = end;
                } else if color(whole).is_some() && !whole.contains("var(") {
                    found.push(start..end);
                    at = end;
                } else {
                    at += 1;
                }
            }
            byte if byte.is_ascii_digit() || byte == b'.' => {
                // A number and its unit.
                while at < bytes.len() && (is_name(bytes[at]) || matches!(bytes[at], b'.' | b'%')) {
                    at += 1;
                }
            }
            _ => at += 1,
        }
    }
    found
}

/// The end of what a bracket opens.
fn closing(bytes: &[u8], open: usize) -> usize {
    let mut depth = 0_usize;
    for (at, byte) in bytes.iter().enumerate().skip(open) {
        match byte {
            b'(' => depth += 1,
            b')' => {
                depth -= 1;
                if depth == 0 {
                    return at + 1;
                }
            }
            _ => {}
        }
    }
    bytes.len()
}

/// A value with its colours left out: two that differ in these alone have the same.
pub fn skeleton(value: &str) -> String {
    let (mut text, mut at) = (String::new(), 0);
    for range in colors_in(value) {
        text.push_str(&value[at..range.start]);
        text.push('\u{1}');
        at = range.end;
    }
    text.push_str(&value[at..]);
    text
}

/// A colour in the Design Tokens Format (Color module 2025.10); nothing for one that it cannot say, or that browsers would
/// compute with in another way once it was said so.
pub fn design_token(text: &str) -> Option<Json> {
    let color = color(text)?;
    if color.alpha_is_missing {
        return None;
    }
    let (space, digits) = match color.space {
        Space::Srgb if color.legacy => ("srgb", 4),
        Space::Srgb => return None,
        Space::Hsl => ("hsl", 6),
        Space::Hwb => ("hwb", 6),
        Space::Lab => ("lab", 6),
        Space::Lch => ("lch", 6),
        Space::Oklab => ("oklab", 6),
        Space::Oklch => ("oklch", 6),
        Space::DisplayP3 => ("display-p3", 6),
        _ => return None,
    };
    let component = |component: Option<f64>| match component {
        None => json!("none"),
        Some(value) => {
            let scale = 10_f64.powi(digits);
            json!((value * scale).round() / scale)
        }
    };
    let mut said = json!({ "colorSpace": space, "components": color.components.map(component) });
    if color.alpha != 1.0 {
        said["alpha"] = json!(number(color.alpha).parse::<f64>().ok()?);
    }
    if space == "srgb" {
        let bytes = color.components.map(|value| value.map(|value| value * 255.0));
        let is_byte = |value: &Option<f64>| value.is_some_and(|value| (value - value.round()).abs() < 1e-3);
        if !bytes.iter().all(is_byte) {
            return None;
        }
        let hex: String = bytes.iter().flatten().map(|value| format!("{:02x}", value.round() as u8)).collect();
        said["hex"] = json!(format!("#{hex}"));
    }
    Some(said)
}

#[cfg(test)]
mod tests {
    use super::*;

    fn found(value: &str) -> Vec<&str> {
        colors_in(value).into_iter().map(|range| &value[range]).collect()
    }

    #[test]
    fn colours_are_found_where_they_are_colours() {
        assert_eq!(found("1px solid #14536b"), ["#14536b"]);
        assert_eq!(found("#fff url(red.png#abc) no-repeat"), ["#fff"]);
        assert_eq!(found("linear-gradient(rgb(1 2 3 / .5), white 20%, transparent)"), ["rgb(1 2 3 / .5)", "white"]);
        assert_eq!(found("color-mix(in oklab, var(--a), Red 10%)"), ["Red"]);
        for none in ["currentColor", "\"red\"", "rgb(from var(--a) r g b)", "1.5red", "redder", "var(--red)"] {
            assert_eq!(found(none), [""; 0], "{none}");
        }
        assert_eq!(skeleton("1px solid #abc"), skeleton("1px solid rgb(0, 0, 0)"));
        assert_ne!(skeleton("1px solid #abc"), skeleton("2px solid #abc"));
    }

    #[test]
    fn colours_are_said_so_that_browsers_compute_the_same() {
        assert_eq!(
            design_token("#1a6a8a"),
            Some(json!({ "colorSpace": "srgb", "components": [0.102, 0.4157, 0.5412], "hex": "#1a6a8a" }))
        );
        assert_eq!(design_token("rgb(0 0 0 / .2)").map(|token| token["alpha"].clone()), Some(json!(0.2)));
        assert_eq!(
            design_token("oklch(62% 0.13 230)").map(|t| t["components"].clone()),
            Some(json!([0.62, 0.13, 230.0]))
        );
        assert_eq!(design_token("rgb(1.5 2 3)"), None, "a byte cannot say it");
    }
}
