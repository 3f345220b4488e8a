//! Mends of contrast: the nearest colour that passes wherever a token is used.

use crate::check::paint::{Pixel, contrast, hex};
use crate::check::sink::Seen;
use crate::css::color::Absolute;
use crate::css::serialize::number;
use crate::diagnostic::Edit;
use crate::source::Span;
use crate::system::System;
use crate::tokens::{Theme, Token, TokenValue, Tokens};
use color::ColorSpaceTag as Space;

/// The mend: another token that passes on every background this one was seen on, for an alias; for a colour of its
/// own, its hue at the nearest lightness that passes.
pub fn mend(system: &System, token: Span, seen: &[Seen]) -> Option<(String, Option<Edit>)> {
    let tokens = &system.tokens;
    let (found, definition) =
        tokens.list.iter().flat_map(|t| t.definitions().map(move |d| (t, d))).find(|(_, d)| d.span == token)?;
    let places = match seen.len() {
        1 => "the background it is used on".to_owned(),
        n => format!("all {n} backgrounds it is used on"),
    };
    let theme = theme_of(tokens, found, token);
    let color = parse(&tokens.literal_expression(&definition.expression, &theme)?)?;
    if !seen.iter().all(|s| s.opaque) {
        let words = "more contrast, or raise the alpha or opacity that it is painted with";
        return Some((format!("give `{}` {words}", found.path), None));
    }
    // A browser paints whole 8-bit channels: what is written must pass as painted.
    let ratio = |pixel: Pixel| {
        let pixel = pixel.map(|c| (c * 255.0).round() / 255.0);
        seen.iter().map(|s| contrast(pixel, s.behind) / s.needed).fold(f64::INFINITY, f64::min)
    };
    if let TokenValue::Alias(_) = definition.value {
        let others =
            tokens.list.iter().filter(|t| matches!(t.base.as_ref().map(|d| &d.value), Some(TokenValue::Color { .. })));
        let passing = others.filter_map(|t| {
            let other = parse(&t.base.as_ref()?.expression.write(&mut |_| String::new(), &mut |l| l.to_owned()))?;
            (other.alpha == 1.0 && ratio(other.srgb()) >= 1.0).then(|| (distance(&color, &other), t))
        });
        if let Some((_, near)) = passing.min_by(|a, b| a.0.total_cmp(&b.0)) {
            let words = format!("write `{{{}}}` for `{}`: it passes on {places}", near.path, found.path);
            return Some((words, Some(Edit { span: token, text: format!("\"{{{}}}\"", near.path) })));
        }
    }
    let [lightness, chroma, hue] = color.to(Space::Oklch).components.map(|c| c.unwrap_or(0.0));
    // A thousandth is finer than an 8-bit channel.
    let lightness = (0..=1000)
        .flat_map(|step| [lightness + f64::from(step) / 1000.0, lightness - f64::from(step) / 1000.0])
        .find(|l| (0.0..=1.0).contains(l) && ratio(in_gamut(*l, chroma, hue)) >= 1.0);
    Some(match lightness {
        Some(l) => {
            let pixel = in_gamut(l, chroma, hue);
            let [l, c, h] = oklch(pixel).map(|component| number((component * 10_000.0).round() / 10_000.0));
            let words = format!(
                "give `{}` a lightness of {l} (oklch({l} {c} {h}), {}): it passes on {places}",
                found.path,
                hex(pixel)
            );
            let text = format!(
                "{{ \"colorSpace\": \"oklch\", \"components\": [{l}, {c}, {h}], \"hex\": \"{}\" }}",
                hex(pixel)
            );
            (words, Some(Edit { span: token, text }))
        }
        None => {
            let passes = |l: f64, s: &Seen| contrast(in_gamut(l, chroma, hue), s.behind) >= s.needed;
            let excludes = |a: &Seen, b: &Seen| {
                !(0..=200).map(|step| f64::from(step) / 200.0).any(|l| passes(l, a) && passes(l, b))
            };
            let pair = seen.iter().enumerate().find_map(|(index, a)| {
                seen[..index].iter().find(|b| excludes(a, b)).map(|b| (hex(a.behind), hex(b.behind)))
            });
            let words = match pair {
                Some((a, b)) => {
                    format!("no lightness of `{}` passes on both {a} and {b}: change one of them", found.path)
                }
                None => format!("no lightness of `{}` passes on {places}: change a background", found.path),
            };
            (words, None)
        }
    })
}

/// A pixel in OKLCH.
fn oklch(pixel: Pixel) -> [f64; 3] {
    let color = Absolute { space: Space::Srgb, components: pixel.map(Some), alpha: 1.0, legacy: false };
    color.to(Space::Oklch).components.map(|c| c.unwrap_or(0.0))
}

/// A theme in which this definition holds.
fn theme_of(tokens: &Tokens, token: &Token, definition: Span) -> Theme {
    let mut theme = tokens.default_theme();
    for o in &token.overrides {
        if let Some(context) = o.contexts.iter().position(|d| d.as_ref().is_some_and(|d| d.span == definition)) {
            theme.contexts[o.modifier] = context;
        }
    }
    theme
}

/// Distance in OKLab.
pub(in crate::check) fn distance(a: &Absolute, b: &Absolute) -> f64 {
    let (a, b) = (a.to(Space::Oklab).components, b.to(Space::Oklab).components);
    (0..3).map(|i| (a[i].unwrap_or(0.0) - b[i].unwrap_or(0.0)).powi(2)).sum::<f64>().sqrt()
}

fn parse(css: &str) -> Option<Absolute> {
    match crate::css::color::parse(&mut cssparser::Parser::new(css)).ok()? {
        crate::css::color::Color::Absolute(absolute) => Some(absolute),
        _ => None,
    }
}

/// The colour as sRGB, with as much of its chroma as fits into the gamut.
fn in_gamut(lightness: f64, chroma: f64, hue: f64) -> Pixel {
    let at = |chroma: f64| {
        let color = Absolute {
            space: Space::Oklch,
            components: [Some(lightness), Some(chroma), Some(hue)],
            alpha: 1.0,
            legacy: false,
        };
        color.to(Space::Srgb).components.map(|c| c.unwrap_or(0.0))
    };
    let fits = |pixel: &Pixel| pixel.iter().all(|c| (-1e-4..=1.0001).contains(c));
    if fits(&at(chroma)) {
        return at(chroma).map(|c| c.clamp(0.0, 1.0));
    }
    let (mut low, mut high) = (0.0, chroma);
    for _ in 0..24 {
        let middle = (low + high) / 2.0;
        if fits(&at(middle)) { low = middle } else { high = middle }
    }
    at(low).map(|c| c.clamp(0.0, 1.0))
}

/// The colour that a token has in a theme, where it is one of its own.
pub(in crate::check) fn color_of(tokens: &Tokens, token: &Token, theme: &Theme) -> Option<Absolute> {
    parse(&tokens.literal_expression(&token.in_theme(theme)?.expression, theme)?)
}
