//! Lengths by the names that sheets have for them, and sums of them to write instead of a number that was nudged.

use crate::inspection::Inspection;
use stilk_engine::cascade::Style;
use stilk_engine::css::property::Longhand as L;
use stilk_engine::css::serialize::number;
use stilk_engine::css::value::Value;
use stilk_text::diagnostic::Edit;
use stilk_text::source::Span;

/// What a length may differ by, in px, and still be the same one.
const SAME: f64 = 0.05;

/// The px of one `rem` in a browser that nobody set up.
const REM: f64 = 16.0;

/// A length, and what a sheet calls it.
#[derive(Debug, Clone, PartialEq)]
pub struct Length {
    /// In px.
    pub px: f64,
    /// A reference to a token, a local or a calculation; none for a bare number.
    name: Option<String>,
}

impl Length {
    /// A bare number.
    pub fn px(px: f64) -> Length {
        Length { px, name: None }
    }
}

/// A sum of lengths.
#[derive(Debug, Clone, Default)]
pub struct Sum(Vec<(f64, Length)>);

impl Sum {
    /// With so many times a length more, or less.
    pub fn and(mut self, factor: f64, length: Length) -> Sum {
        if length.px != 0.0 {
            self.0.push((factor, length));
        }
        self
    }

    /// In px.
    pub fn total(&self) -> f64 {
        self.0.iter().map(|(factor, length)| factor * length.px).sum()
    }

    /// As CSS: with names where it comes to this many px, else as a number.
    pub fn css(&self, px: f64) -> String {
        let plain = format!("{}px", number((px * 100.0).round() / 100.0));
        if (self.total() - px).abs() > SAME || self.0.iter().all(|(_, length)| length.name.is_none()) {
            return plain;
        }
        if let [(factor, Length { name: Some(name), .. })] = self.0.as_slice()
            && *factor == 1.0
        {
            return name.clone();
        }
        let mut text = String::new();
        for (factor, length) in &self.0 {
            let sign = if *factor < 0.0 { "-" } else { "+" };
            match (text.is_empty(), sign) {
                (true, "-") => text.push_str("-1 * "),
                (true, _) => {}
                _ => text.push_str(&format!(" {sign} ")),
            }
            if factor.abs() != 1.0 {
                text.push_str(&format!("{} * ", number(factor.abs())));
            }
            let name = length.name.clone().unwrap_or_else(|| format!("{}px", number(length.px)));
            // A calculation within a calculation needs no name.
            text.push_str(name.strip_prefix("calc").unwrap_or(&name));
        }
        format!("calc({text})")
    }
}

/// A part of a value that is a length.
struct Part {
    place: Span,
    length: Length,
}

impl Inspection<'_> {
    /// What the sheet calls the length that a longhand has; without a name where it has none, or where it could not be named
    /// in the file of this place.
    pub fn length(&self, style: &Style, longhand: L, place: Span) -> Option<Length> {
        let px = style.px(longhand).ok()?;
        let named = self.part(style, longhand, px).filter(|part| {
            let is_local = part.length.name.as_ref().is_some_and(|name| name.contains("var("));
            !is_local || part.place.file == place.file
        });
        Some(named.map_or(Length::px(px), |part| part.length))
    }

    /// The edit that writes another value in place of this length in the declaration that gives a longhand.
    pub fn rewrite(&self, style: &Style, longhand: L, px: f64, css: &str) -> Option<Edit> {
        let part = self.part(style, longhand, px)?;
        Some(Edit { span: part.place, text: css.to_owned() })
    }

    /// The length in a value that has several, such as that of a shadow or of a translation.
    pub fn length_in(&self, style: &Style, longhand: L, px: f64) -> Length {
        self.part(style, longhand, px).map_or(Length::px(px), |part| part.length)
    }

    /// The part of the winning declaration's value that is so many px.
    fn part(&self, style: &Style, longhand: L, px: f64) -> Option<Part> {
        // Not where a local in it was set: the value as it stands is what is named, or written anew.
        let declaration = self.tracer.span(style.winner(longhand)?)?;
        let parts = parts(self.tracer.text(declaration), declaration)?;
        let only = parts.len() == 1;
        parts.into_iter().find_map(|(place, text)| {
            let is_name = text.starts_with('{') || text.starts_with("var(") || text.starts_with("calc(");
            // A corner has two radii, which are written once where they are the same.
            let is_one = matches!(style.get(longhand), Ok(Value::Length(_))) || longhand == L::BorderTopLeftRadius;
            let is_all = only && is_one;
            let own = self.px_of(style, text).or_else(|| is_all.then_some(px))?;
            let name = is_name.then(|| text.to_owned());
            // Browsers draw lines in whole px, none thinner than one (CSS Backgrounds 3, section 3.3).
            let is_line = longhand.is_line_width() && own > 0.0;
            let is_it = (own - px).abs() <= SAME || is_line && own.max(1.0).floor() == px;
            is_it.then_some(Part { place, length: Length { px, name } })
        })
    }

    /// The px of a dimension or of a token of one.
    fn px_of(&self, style: &Style, text: &str) -> Option<f64> {
        let tokens = &self.system.tokens;
        let literal = match text.strip_prefix('{').and_then(|rest| rest.strip_suffix('}')) {
            Some(path) => {
                let definition = tokens.get(tokens.find_path(path.trim())?).in_theme(&self.unit.theme)?;
                tokens.literal_expression(&definition.expression, &self.unit.theme)?
            }
            None => text.to_owned(),
        };
        let unit_at = literal.find(|c: char| c.is_ascii_alphabetic())?;
        let value: f64 = literal[..unit_at].parse().ok()?;
        match &literal[unit_at..] {
            "px" => Some(value),
            "rem" => Some(value * REM),
            "em" => Some(value * style.px(L::FontSize).ok()?),
            _ => None,
        }
    }
}

/// The parts of a declaration's value, at its top level.
fn parts(text: &str, declaration: Span) -> Option<Vec<(Span, &str)>> {
    let start = text.find(':')? + 1;
    let mut parts = Vec::new();
    let (mut depth, mut from) = (0i32, None);
    let part = |from: usize, to: usize| {
        let place = Span { start: declaration.start + from as u32, end: declaration.start + to as u32, ..declaration };
        (place, &text[from..to])
    };
    for (at, c) in text.char_indices().skip_while(|(at, _)| *at < start) {
        let ends = depth == 0 && (c.is_whitespace() || matches!(c, ';' | ',' | '/'));
        if ends {
            if let Some(from) = from.take() {
                parts.push(part(from, at));
            }
            if c == ';' {
                return Some(parts);
            }
            continue;
        }
        match c {
            '(' | '{' => depth += 1,
            ')' | '}' => depth -= 1,
            _ => {}
        }
        from = from.or(Some(at));
    }
    if let Some(from) = from {
        parts.push(part(from, text.len()));
    }
    Some(parts)
}

#[cfg(test)]
mod tests {
    use super::*;

    fn named(px: f64, name: &str) -> Length {
        Length { px, name: Some(name.to_owned()) }
    }

    #[test]
    fn a_sum_is_written_with_names_where_it_comes_to_what_is_wanted() {
        let sum = Sum::default().and(1.0, named(44.0, "{size.track}")).and(-1.0, named(16.0, "calc({a} + 2px)"));
        let sum = sum.and(-2.0, Length::px(4.0)).and(1.0, named(0.0, "{none}"));
        assert_eq!(sum.css(20.0), "calc({size.track} - ({a} + 2px) - 2 * 4px)");
        assert_eq!(sum.css(21.0), "21px");
        assert_eq!(Sum::default().and(1.0, named(6.0, "{depth}")).css(6.0), "{depth}");
        assert_eq!(Sum::default().and(1.0, Length::px(6.0)).and(-1.0, Length::px(4.5)).css(1.5), "1.5px");
    }

    #[test]
    fn a_value_is_taken_apart_at_its_top_level() {
        let mut sources = stilk_text::source::Sources::default();
        let declaration = Span::new(sources.add("x.stilk", ""), 100, 150);
        let parts = |text| parts(text, declaration).unwrap().into_iter().map(|(_, text)| text).collect::<Vec<_>>();
        assert_eq!(parts("padding: {space.near} calc(1px + 2px);"), ["{space.near}", "calc(1px + 2px)"]);
        assert_eq!(parts("border-radius:4px/2px"), ["4px", "2px"]);
    }
}
