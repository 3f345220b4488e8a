//! Colours to write for a token instead of its own, the nearest first.

use crate::mend::role::{is_same_family, role};
use crate::painted::paint::{Pixel, hex};
use stilk_engine::css::color::{Absolute, Space};
use stilk_engine::css::serialize::number;
use stilk_language::tokens::{Definition, Theme, Token, TokenValue, Tokens};
use stilk_text::source::Span;

/// A definition of a colour that may be written anew.
#[derive(Clone, Copy)]
pub struct Variable<'t> {
    /// The token.
    pub token: &'t Token,
    /// Where it gets its colour.
    pub definition: &'t Definition,
    color: Absolute,
    tokens: &'t Tokens,
}

/// A colour that may take the place of another.
#[derive(Debug, Clone)]
pub struct Candidate {
    /// As a browser paints it, in whole 8-bit channels: what is written must pass as painted.
    pub pixel: Pixel,
    /// How far it is from the colour that is there, in OKLab.
    pub distance: f64,
    /// What to write into the token file.
    pub text: String,
    /// The same in words: `write … for …`.
    pub words: String,
}

impl<'t> Variable<'t> {
    /// The definition at this place, where it gives an opaque colour.
    pub fn new(tokens: &'t Tokens, place: Span) -> Option<Variable<'t>> {
        let (token, definition) = definition_at(tokens, place)?;
        let theme = theme_of(tokens, token, place);
        let color = parse(&tokens.literal_expression(&definition.expression, &theme)?)?;
        (color.alpha == 1.0).then_some(Variable { token, definition, color, tokens })
    }

    /// Other tokens of a colour of their own, where it is an alias: those that stand in the group of the one that it names,
    /// whose name says what they are for, and are of its family.
    pub fn others(&self) -> Vec<Candidate> {
        let TokenValue::Alias(named) = &self.definition.value else { return Vec::new() };
        let group = role(&named.value);
        if group.is_none() {
            return Vec::new();
        }
        let own = |t: &&Token| matches!(t.base.as_ref().map(|d| &d.value), Some(TokenValue::Color { .. }));
        let mut found: Vec<Candidate> = self
            .tokens
            .list
            .iter()
            .filter(own)
            .filter(|t| role(&t.path) == group)
            .filter_map(|t| {
                let other = parse(&t.base.as_ref()?.expression.write(&mut |_| String::new(), &mut |l| l.to_owned()))?;
                let pixel = painted(other.srgb());
                let shown = format!("{}, {}", oklch_words(pixel), hex(pixel));
                (other.alpha == 1.0 && is_same_family(&self.color, &other)).then(|| Candidate {
                    pixel,
                    distance: distance(&self.color, &other),
                    text: format!("\"{{{}}}\"", t.path),
                    words: format!("write `{{{}}}` ({shown}) for `{}`", t.path, self.token.path),
                })
            })
            .collect();
        found.sort_by(|a, b| a.distance.total_cmp(&b.distance));
        found
    }

    /// Its own hue at other lightnesses, in steps of so much, with as much of its chroma as sRGB holds.
    pub fn lightnesses(&self, step: f64) -> impl Iterator<Item = Candidate> + '_ {
        let [lightness, chroma, hue] = self.color.to(Space::Oklch).components.map(|c| c.unwrap_or(0.0));
        let steps = (0..).map(move |n| f64::from(n) * step).take_while(|by| *by <= 1.0);
        let both = steps.flat_map(move |by| [lightness + by, lightness - by]);
        both.filter(|l| (0.0..=1.0).contains(l)).map(move |l| {
            let pixel = painted(in_gamut(l, chroma, hue));
            let [l, c, h] = oklch(pixel, 10_000.0);
            let text = format!(
                "{{ \"colorSpace\": \"oklch\", \"components\": [{l}, {c}, {h}], \"hex\": \"{}\" }}",
                hex(pixel)
            );
            let shown = format!("{}, {}", oklch_words(pixel), hex(pixel));
            let words = format!("give `{}` a lightness of {l} ({shown})", self.token.path);
            let distance = distance(&self.color, &srgb(pixel));
            Candidate { pixel, distance, text, words }
        })
    }

    /// The colour at a lightness, 0 to 1.
    pub fn at(&self, lightness: f64) -> Pixel {
        let [_, chroma, hue] = self.color.to(Space::Oklch).components.map(|c| c.unwrap_or(0.0));
        in_gamut(lightness, chroma, hue)
    }
}

/// The definition at a place, and its token.
pub fn definition_at(tokens: &Tokens, place: Span) -> Option<(&Token, &Definition)> {
    tokens.list.iter().flat_map(|t| t.definitions().map(move |d| (t, d))).find(|(_, d)| d.span == place)
}

/// The definitions that give a token its colour in a theme, from the one at this place on to the colour itself.
pub fn chain_of(tokens: &Tokens, place: Span, theme: &Theme) -> Vec<Span> {
    let mut chain = vec![place];
    let mut definition = definition_at(tokens, place).map(|(_, definition)| definition);
    while let Some(Definition { value: TokenValue::Alias(path), .. }) = definition {
        definition = tokens.find_path(&path.value).and_then(|id| tokens.get(id).in_theme(theme));
        match definition {
            Some(next) if !chain.contains(&next.span) => chain.push(next.span),
            _ => break,
        }
    }
    chain
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

/// Lightness and both axes of colour in OKLab.
pub fn oklab(color: &Absolute) -> [f64; 3] {
    color.to(Space::Oklab).components.map(|component| component.unwrap_or(0.0))
}

/// Distance in OKLab.
pub fn distance(a: &Absolute, b: &Absolute) -> f64 {
    let (a, b) = (oklab(a), oklab(b));
    (0..3).map(|i| (a[i] - b[i]).powi(2)).sum::<f64>().sqrt()
}

/// The colour that a token has in a theme, where it is one of its own.
pub fn color_of(tokens: &Tokens, token: &Token, theme: &Theme) -> Option<Absolute> {
    parse(&tokens.literal_expression(&token.in_theme(theme)?.expression, theme)?)
}

fn parse(css: &str) -> Option<Absolute> {
    match stilk_engine::css::color::whole(css)? {
        stilk_engine::css::color::Color::Absolute(absolute) => Some(absolute),
        _ => None,
    }
}

fn srgb(pixel: Pixel) -> Absolute {
    Absolute { space: Space::Srgb, components: pixel.map(Some), alpha: 1.0, alpha_is_missing: false, legacy: false }
}

/// A pixel in OKLCH, to one part in so many; a hue to a hundred times that, and 0 where there is no chroma.
fn oklch(pixel: Pixel, parts: f64) -> [String; 3] {
    let [l, c, h] = srgb(pixel).to(Space::Oklch).components.map(|c| c.unwrap_or(0.0));
    let rounded = |value: f64, parts: f64| (value * parts).round() / parts;
    let chroma = rounded(c, parts);
    let hue = if chroma == 0.0 { 0.0 } else { rounded(h, parts / 100.0) };
    [rounded(l, parts), chroma, hue].map(number)
}

fn oklch_words(pixel: Pixel) -> String {
    let [l, c, h] = oklch(pixel, 1000.0);
    format!("oklch({l} {c} {h})")
}

/// In whole 8-bit channels.
fn painted(pixel: Pixel) -> Pixel {
    pixel.map(|c| (c.clamp(0.0, 1.0) * 255.0).round() / 255.0)
}

/// The colour as sRGB, with as much of its chroma as fits into the gamut.
fn in_gamut(lightness: f64, chroma: f64, hue: f64) -> Pixel {
    let at = |chroma: f64| {
        let color = Absolute {
            space: Space::Oklch,
            components: [Some(lightness), Some(chroma), Some(hue)],
            alpha: 1.0,
            alpha_is_missing: false,
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
