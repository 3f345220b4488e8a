//! Values as CSS, the way browsers' `getComputedStyle` writes them (CSSOM, CSS Color 4 section 16).

use super::color::{Absolute, Color};
use super::value::{LengthPercentage, Value};
use ::color::ColorSpaceTag as Space;

/// A value as CSS.
pub fn to_css(value: &Value) -> String {
    match value {
        Value::Keyword(word) => (*word).to_owned(),
        Value::Ident(name) => ident(name),
        Value::String(text) => string(text),
        Value::Number(n) => number(*n),
        Value::Dimension(n, unit) => format!("{}{}", number(*n), unit.name),
        Value::Calc(_) => "calc()".into(),
        Value::Length(length) => length_css(*length),
        Value::Seconds(n) => format!("{}s", number(*n)),
        Value::Degrees(n) => format!("{}deg", number(*n)),
        Value::Color(color) => color_css(color),
        // A flexible track is a dimension to those who write it.
        Value::Function("fr", items) => format!("{}fr", join(items, "")),
        Value::Function(name, items) => format!("{name}({})", join(items, ", ")),
        Value::List(items) => join(items, ", "),
        Value::Words(items) => join(items, " "),
        Value::Unmodelled => String::new(),
    }
}

fn join(items: &[Value], separator: &str) -> String {
    items.iter().map(to_css).collect::<Vec<_>>().join(separator)
}

fn ident(name: &str) -> String {
    // Family names of several words are kept as they were written.
    if name.contains(' ') {
        return name.to_owned();
    }
    let mut text = String::new();
    // Writing to a String does not fail.
    let _ = cssparser::serialize_identifier(name, &mut text);
    text
}

fn string(text: &str) -> String {
    let mut css = String::new();
    let _ = cssparser::serialize_string(text, &mut css);
    css
}

/// A number with six significant digits, as browsers write them.
pub fn number(value: f64) -> String {
    if value == 0.0 || !value.is_finite() {
        return "0".into();
    }
    let digits = 5 - value.abs().log10().floor() as i32;
    if digits < 0 {
        // Six digits and an exponent: 3.35544e+07.
        let exponent = value.abs().log10().floor() as i32;
        let mantissa = value / 10f64.powi(exponent);
        return format!("{}e+{exponent:02}", trim(format!("{mantissa:.5}")));
    }
    trim(format!("{value:.*}", digits as usize))
}

fn trim(text: String) -> String {
    if !text.contains('.') {
        return text;
    }
    let text = text.trim_end_matches('0').trim_end_matches('.');
    if text == "-0" { "0".into() } else { text.to_owned() }
}

fn length_css(length: LengthPercentage) -> String {
    let LengthPercentage { px, percent, has_percent } = length;
    if !has_percent {
        return format!("{}px", number(px));
    }
    if px == 0.0 {
        return format!("{}%", number(percent));
    }
    let sign = if px < 0.0 { '-' } else { '+' };
    format!("calc({}% {sign} {}px)", number(percent), number(px.abs()))
}

fn color_css(color: &Color) -> String {
    match color {
        Color::Absolute(absolute) => absolute_css(absolute),
        Color::Current => "currentcolor".into(),
        Color::System(name) => (*name).to_owned(),
        Color::Mix(_) | Color::LightDark(_) | Color::Relative(_) | Color::Contrast(_) | Color::Unmodelled => {
            String::new()
        }
    }
}

/// A colour as CSS.
pub fn absolute_css(color: &Absolute) -> String {
    if color.legacy {
        let [r, g, b] = color.to(Space::Srgb).components.map(|c| channel(c.unwrap_or(0.0)));
        return if color.alpha == 1.0 {
            format!("rgb({r}, {g}, {b})")
        } else {
            format!("rgba({r}, {g}, {b}, {})", alpha(color.alpha))
        };
    }
    let color = color.computed();
    let list = color.components.map(|c| c.map_or_else(|| "none".into(), number)).join(" ");
    let alpha = match color.alpha {
        _ if color.alpha_is_missing => " / none".into(),
        1.0 => String::new(),
        alpha => format!(" / {}", number(alpha)),
    };
    match color.space {
        Space::Lab => format!("lab({list}{alpha})"),
        Space::Lch => format!("lch({list}{alpha})"),
        Space::Oklab => format!("oklab({list}{alpha})"),
        Space::Oklch => format!("oklch({list}{alpha})"),
        space => format!("color({} {list}{alpha})", space_name(space)),
    }
}

/// A channel as a byte. What was meant to be a half goes up, whatever the last bits say.
fn channel(value: f64) -> f64 {
    (value * 255.0 + 1e-9).round().clamp(0.0, 255.0)
}

fn space_name(space: Space) -> &'static str {
    match space {
        Space::LinearSrgb => "srgb-linear",
        Space::DisplayP3 => "display-p3",
        Space::A98Rgb => "a98-rgb",
        Space::ProphotoRgb => "prophoto-rgb",
        Space::Rec2020 => "rec2020",
        Space::XyzD50 => "xyz-d50",
        Space::XyzD65 => "xyz-d65",
        _ => "srgb",
    }
}

/// Alpha of a legacy colour: two decimals where they say the same 8-bit value, else three (CSSOM, section 6.7.2).
fn alpha(value: f64) -> String {
    let byte = (value * 255.0).round();
    let two = (byte / 255.0 * 100.0).round() / 100.0;
    if (two * 255.0).round() == byte { number(two) } else { number((byte / 255.0 * 1000.0).round() / 1000.0) }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn numbers_have_six_significant_digits() {
        for (value, css) in [
            (0.1 + 0.2, "0.3"),
            (13.333_333_3, "13.3333"),
            (100.0, "100"),
            (-0.000_012_345_678, "-0.0000123457"),
            (33_554_428.0, "3.35544e+07"),
            (1_234_567.0, "1.23457e+06"),
        ] {
            assert_eq!(number(value), css);
        }
    }

    #[test]
    fn alpha_takes_as_few_digits_as_say_the_same_byte() {
        assert_eq!(alpha(0.5), "0.5");
        assert_eq!(alpha(0.18), "0.18");
        assert_eq!(alpha(1.0 / 255.0), "0.004");
    }
}
