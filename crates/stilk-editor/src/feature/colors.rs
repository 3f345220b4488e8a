//! Colours in texts, and the notations that they can be written in.

use super::{FileKind, Subject};
use crate::names::Symbol;
use lsp_types::{Color, ColorInformation, ColorPresentation, Range, TextEdit};
use std::ops::Range as Bytes;
use stilk_checks::mend::color::color_of;
use stilk_engine::css::color::{self, Absolute, Space};
use stilk_language::sheet::ValuePiece;
use stilk_language::tokens::{TokenValue, Tokens, color as token_color};
use stilk_text::json::{Json, Node};

/// Every colour in a file: literals, and tokens by what they are in the default theme.
pub fn colors(subject: &Subject) -> Vec<ColorInformation> {
    let mut found: Vec<(Bytes<usize>, Absolute)> = Vec::new();
    let Some(file) = subject.file else { return Vec::new() };
    let snapshot = subject.snapshot;
    match subject.kind() {
        FileKind::Sheet => {
            for sheet in snapshot.trees.sheets.iter().filter(|sheet| sheet.file == file) {
                super::semantic::values(sheet, &mut |_, value| {
                    for piece in &value.pieces {
                        if let ValuePiece::Text(_, span) = piece
                            && let Some(text) = subject.text.get(span.range())
                        {
                            let start = span.start as usize;
                            let here = literals(text).into_iter();
                            found.extend(here.map(|(range, color)| (start + range.start..start + range.end, color)));
                        }
                    }
                });
            }
            if let Some(tokens) = snapshot.tokens() {
                found.extend(references(subject, tokens));
            }
        }
        FileKind::Tokens | FileKind::Resolver => {
            let documents = snapshot.trees.documents.iter().filter(|(known, _)| *known == file);
            documents.for_each(|(_, root)| in_json(root, &mut found));
            if let Some(tokens) = snapshot.tokens() {
                found.extend(references(subject, tokens));
            }
        }
        _ => {}
    }
    found.sort_by_key(|(range, _)| range.start);
    let lines = subject.lines();
    found
        .into_iter()
        .map(|(range, color)| ColorInformation { range: lines.range(range), color: shown(&color) })
        .collect()
}

/// References of a file to tokens that are colours.
fn references(subject: &Subject, tokens: &Tokens) -> Vec<(Bytes<usize>, Absolute)> {
    let theme = tokens.default_theme();
    let Some(file) = subject.file else { return Vec::new() };
    let reads = subject.snapshot.names.of_file(file).iter().filter(|one| one.role == crate::names::Role::Read);
    let of = |one: &crate::names::Occurrence| {
        let Symbol::Token(path) = &one.symbol else { return None };
        let token = tokens.get(tokens.find_path(path)?);
        Some((one.span.range(), color_of(tokens, token, &theme)?))
    };
    reads.filter_map(of).collect()
}

/// Colours in the values of a document: objects with a colour space, and hex strings of older files.
fn in_json(node: &Node, found: &mut Vec<(Bytes<usize>, Absolute)>) {
    match &node.json {
        Json::Object(_) if node.get("colorSpace").is_some() => {
            if let Ok(value) = token_color::read(node)
                && let Some(color) = css_of(&value)
            {
                found.push((node.span.range(), color));
            }
        }
        Json::Object(entries) => entries
            .iter()
            .filter(|(name, _)| name.value != "$description" && name.value != "$extensions")
            .for_each(|(_, inner)| in_json(inner, found)),
        Json::Array(items) => items.iter().for_each(|item| in_json(item, found)),
        Json::String(text) if text.starts_with('#') => {
            if let Some(color::Color::Absolute(color)) = color::whole(text) {
                found.push((node.span.range(), color));
            }
        }
        _ => {}
    }
}

fn css_of(value: &TokenValue) -> Option<Absolute> {
    let TokenValue::Color { space, components, alpha, .. } = value else { return None };
    match color::whole(&token_color::to_css(space, components, *alpha))? {
        color::Color::Absolute(color) => Some(color),
        _ => None,
    }
}

/// Literal colours in CSS, with their places in it. Words are colours only where they stand alone as one.
pub fn literals(css: &str) -> Vec<(Bytes<usize>, Absolute)> {
    let mut found = Vec::new();
    let mut from = 0;
    let is_word = |c: char| c.is_alphanumeric() || c == '-' || c == '_';
    while let Some(start) = css[from..].find(|c: char| c == '#' || c.is_ascii_alphabetic()).map(|at| from + at) {
        let rest = &css[start..];
        let word_end = rest[1..].find(|c| !is_word(c)).map_or(rest.len(), |at| at + 1);
        let is_begun = css[..start].ends_with(|c: char| is_word(c) || c == '.' || c == '#');
        let end = match rest[word_end..].starts_with('(') {
            true => close(&rest[word_end..]).map_or(word_end, |close| word_end + close),
            false => word_end,
        };
        let color = match color::whole(&rest[..end]) {
            Some(color::Color::Absolute(color)) if !is_begun => Some(color),
            _ => None,
        };
        match color {
            // The word that means nothing to see is no colour to pick.
            Some(color) if &rest[..end] != "transparent" => {
                found.push((start..start + end, color));
                from = start + end;
            }
            _ => from = start + word_end,
        }
    }
    found
}

/// Where the bracket that a text begins with is closed, behind it.
fn close(text: &str) -> Option<usize> {
    let mut depth = 0;
    for (at, c) in text.char_indices() {
        match c {
            '(' => depth += 1,
            ')' => {
                depth -= 1;
                if depth == 0 {
                    return Some(at + 1);
                }
            }
            _ => {}
        }
    }
    None
}

fn shown(color: &Absolute) -> Color {
    let [red, green, blue] = color.srgb().map(|channel| channel.clamp(0.0, 1.0) as f32);
    Color { red, green, blue, alpha: color.alpha as f32 }
}

/// The notations of a colour that stands in a range, OKLCH first.
pub fn presentations(subject: &Subject, color: Color, range: Range) -> Vec<ColorPresentation> {
    let (start, end) = (subject.offset(range.start), subject.offset(range.end));
    let written = subject.text.get(start..end).unwrap_or_default();
    let [red, green, blue] = [color.red, color.green, color.blue].map(f64::from);
    let alpha = f64::from(color.alpha);
    let srgb = color::whole(&format!("color(srgb {red} {green} {blue} / {alpha})"));
    let Some(color::Color::Absolute(color)) = srgb else { return Vec::new() };
    let texts: Vec<String> = match subject.kind() {
        // A token is changed where it is defined.
        FileKind::Sheet if !literals(written).is_empty() => vec![oklch(&color), hex(&color), p3(&color)],
        FileKind::Tokens | FileKind::Resolver if written.starts_with(['{', '"']) => {
            [Space::Oklch, Space::Srgb, Space::DisplayP3].map(|space| value_in(&color, space)).to_vec()
        }
        _ => Vec::new(),
    };
    texts
        .into_iter()
        .map(|text| ColorPresentation {
            label: text.clone(),
            text_edit: Some(TextEdit { range, new_text: text }),
            additional_text_edits: None,
        })
        .collect()
}

fn oklch(color: &Absolute) -> String {
    let [l, c, h] = components(color, Space::Oklch);
    match color.alpha < 1.0 {
        true => format!("oklch({l} {c} {h} / {})", rounded(color.alpha, 3)),
        false => format!("oklch({l} {c} {h})"),
    }
}

fn p3(color: &Absolute) -> String {
    let [r, g, b] = components(color, Space::DisplayP3);
    match color.alpha < 1.0 {
        true => format!("color(display-p3 {r} {g} {b} / {})", rounded(color.alpha, 3)),
        false => format!("color(display-p3 {r} {g} {b})"),
    }
}

fn hex(color: &Absolute) -> String {
    let opaque = stilk_checks::painted::paint::hex(color.srgb().map(|channel| channel.clamp(0.0, 1.0)));
    match color.alpha < 1.0 {
        true => format!("{opaque}{:02x}", (color.alpha * 255.0).round() as u8),
        false => opaque,
    }
}

/// The components of a colour in a space, as short as what can be seen allows.
fn components(color: &Absolute, space: Space) -> [String; 3] {
    let found = color.to(space).components.map(|component| component.unwrap_or(0.0));
    let digits = if space == Space::Oklch { [4, 4, 2] } else { [4; 3] };
    // A grey has no hue that anybody sees.
    let is_grey = space == Space::Oklch && found[1] < 0.0005;
    std::array::from_fn(|i| match is_grey && i > 0 {
        true => "0".to_owned(),
        false => rounded(found[i], digits[i]),
    })
}

fn rounded(value: f64, digits: usize) -> String {
    let text = format!("{value:.digits$}");
    let text = text.trim_end_matches('0').trim_end_matches('.');
    if text == "-0" { "0".to_owned() } else { text.to_owned() }
}

/// A colour as the value of a token, in OKLCH.
pub fn token_value(color: &Absolute) -> String {
    value_in(color, Space::Oklch)
}

fn value_in(color: &Absolute, space: Space) -> String {
    let name = match space {
        Space::Oklch => "oklch",
        Space::DisplayP3 => "display-p3",
        _ => "srgb",
    };
    let components = components(color, space).join(", ");
    let alpha = match color.alpha < 1.0 {
        true => format!(", \"alpha\": {}", rounded(color.alpha, 3)),
        false => String::new(),
    };
    let hex = match space {
        Space::Srgb if color.alpha >= 1.0 => format!(", \"hex\": \"{}\"", hex(color)),
        _ => String::new(),
    };
    format!("{{ \"colorSpace\": \"{name}\", \"components\": [{components}]{alpha}{hex} }}")
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn colours_are_found_where_they_are_literals() {
        let css = "color-mix(in oklab, #fff, rgb(0 0 0 / .5) 10%) red-ish url(red) tan .red";
        let found: Vec<&str> = literals(css).into_iter().map(|(range, _)| &css[range]).collect();
        // What is mixed of others is each of them.
        assert_eq!(found, ["#fff", "rgb(0 0 0 / .5)", "red", "tan"]);
        assert_eq!(literals("var(--red) transparent currentcolor").len(), 0);
    }
}
