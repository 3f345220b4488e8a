//! Whether the values in sheets fit their properties, and what was probably meant where they do not.

use crate::sheet::{Declaration, Value, ValuePiece, habits};
use crate::tokens::value::SAMPLES;
use crate::tokens::{Theme, TokenType, Tokens};
use rustc_hash::FxHashMap;
use std::sync::{Mutex, PoisonError};
use stilk_engine::css::parse::Invalid;
use stilk_engine::css::substitute::substitute;
use stilk_engine::css::{PropertyName, parse_declaration};
use stilk_text::diagnostic::{Diagnostic, nearest};
use stilk_text::source::{Name, Span};

/// Values of locals: those at rest, and one that a condition sets.
#[derive(Debug, Clone, Copy)]
pub struct Locals<'l> {
    /// At rest, by name with dashes.
    pub rest: &'l FxHashMap<String, String>,
    /// The name and the value that a condition gives it.
    pub set: Option<(&'l str, &'l str)>,
}

impl Locals<'_> {
    fn get(&self, name: &str) -> Option<&str> {
        match self.set {
            Some((of, value)) if of == name => Some(value),
            _ => self.rest.get(name).map(String::as_str),
        }
    }
}

/// Checks values with the tokens of the default theme put in.
pub struct ValueChecker<'t> {
    tokens: &'t Tokens,
    theme: Theme,
    /// What was judged already: copies of a control declare the same again.
    judged: Mutex<FxHashMap<String, Result<(), Invalid>>>,
}

impl<'t> ValueChecker<'t> {
    /// A checker for these tokens.
    pub fn new(tokens: &'t Tokens) -> Self {
        ValueChecker { theme: tokens.default_theme(), tokens, judged: Mutex::default() }
    }

    /// The value as CSS; `None` when a token has no value (which was reported).
    pub fn text(&self, value: &Value) -> Option<String> {
        self.text_with(value, &mut |_, _| None)
    }

    /// The value as CSS, with some pieces replaced.
    fn text_with(
        &self,
        value: &Value,
        replace: &mut dyn FnMut(usize, &ValuePiece) -> Option<String>,
    ) -> Option<String> {
        let mut text = String::new();
        for (i, piece) in value.pieces.iter().enumerate() {
            let css = match (replace(i, piece), piece) {
                (Some(css), _) => css,
                (None, ValuePiece::Text(css, _)) => css.clone(),
                (None, ValuePiece::Local(name)) => name.value.clone(),
                (None, ValuePiece::Reference(name)) => {
                    self.tokens.literal(self.tokens.find_path(&name.value)?, &self.theme)?
                }
            };
            text.push_str(&css);
        }
        Some(text)
    }

    /// Whether a value fits, with these locals.
    pub fn fits(&self, name: &str, text: &str, locals: Locals) -> Option<Result<(), Invalid>> {
        let text = resolve_locals(text, locals)?;
        let key = format!("{name}:{text}");
        let judged = || self.judged.lock().unwrap_or_else(PoisonError::into_inner);
        if let Some(known) = judged().get(&key) {
            return Some(*known);
        }
        let lower = text.to_ascii_lowercase();
        // What other engines have of their own is theirs to judge.
        let foreign = ["-moz-", "-ms-", "-o-"].iter().any(|vendor| lower.starts_with(vendor));
        let verdict = if foreign { Ok(()) } else { parse_declaration(name, &text).map(|_| ()) };
        judged().insert(key, verdict);
        Some(verdict)
    }

    /// Checks a declaration of this text. `None` when it fits or cannot be judged.
    pub fn check(&self, declaration: &Declaration, text: &str, locals: Locals) -> Option<Diagnostic> {
        let Declaration { name, value, .. } = declaration;
        match self.fits(&name.value, text, locals)? {
            Ok(()) => None,
            Err(Invalid::Property) => Some(unknown_property(name)),
            Err(Invalid::Value) => Some(self.explain(name, value, text, locals)),
        }
    }

    fn explain(&self, name: &Name, value: &Value, text: &str, locals: Locals) -> Diagnostic {
        let fits = |text: &str| matches!(self.fits(&name.value, text, locals), Some(Ok(())));
        if let Some(diagnostic) = self.missing_unit(name, value, &fits) {
            return diagnostic;
        }
        if let Some(diagnostic) = self.wrong_reference(name, value, &fits) {
            return diagnostic;
        }
        if let Some(diagnostic) = self.spaced_unit(name, value, &fits) {
            return diagnostic;
        }
        if let Some(diagnostic) = self.of_habit(name, value) {
            return diagnostic;
        }
        if let Some(diagnostic) = self.wrong_word(name, value, &fits) {
            return diagnostic;
        }
        let shown = if text.chars().count() > 60 { "this value" } else { &format!("`{text}`") };
        let message = format!("`{}` does not take {shown}", name.value);
        let diagnostic = Diagnostic::error("cascade/value", value.span, message).label("does not fit");
        let property = PropertyName::read(&name.value);
        if let Some(near) = nearest(text, property.keywords().iter().copied()) {
            return diagnostic.mend(format!("write `{near}`"));
        }
        match property.describe() {
            Some(words) => diagnostic.mend(format!("write {words}")),
            None => diagnostic,
        }
    }

    /// A number that would fit if it had a unit.
    fn missing_unit(&self, name: &Name, value: &Value, fits: &dyn Fn(&str) -> bool) -> Option<Diagnostic> {
        for (i, piece) in value.pieces.iter().enumerate() {
            let ValuePiece::Text(css, span) = piece else { continue };
            for range in bare_numbers(css) {
                let number = &css[range.clone()];
                for (unit, what) in [("px", "length"), ("ms", "time"), ("deg", "angle")] {
                    // One number at a time may not be enough: `4 8` lacks two units.
                    let one = format!("{}{unit}{}", &css[..range.end], &css[range.end..]);
                    let all = with_units(css, unit);
                    let fitting = [one, all].into_iter().find(|css| {
                        self.text_with(value, &mut |j, _| (i == j).then(|| css.clone())).is_some_and(|t| fits(&t))
                    });
                    if fitting.is_some() {
                        let at = self.find_in(*span, css, &range);
                        let message = format!("`{number}` in `{}` has no unit", name.value);
                        return Some(
                            Diagnostic::error("cascade/value", at, message)
                                .label(format!("a {what} needs a unit"))
                                .mend(format!("write `{number}{unit}`")),
                        );
                    }
                }
            }
        }
        None
    }

    /// A number and its unit with a space between them.
    fn spaced_unit(&self, name: &Name, value: &Value, fits: &dyn Fn(&str) -> bool) -> Option<Diagnostic> {
        for (i, piece) in value.pieces.iter().enumerate() {
            let ValuePiece::Text(css, span) = piece else { continue };
            for (end, _) in css.match_indices(' ') {
                let digits = |c: char| c.is_ascii_digit() || c == '.';
                let start = css[..end].trim_end_matches(digits).len();
                let number = start..end;
                let rest = &css[number.end..];
                let space = rest.len() - rest.trim_start().len();
                if number.is_empty() {
                    continue;
                }
                let unit: String =
                    rest.trim_start().chars().take_while(|c| c.is_ascii_alphabetic() || *c == '%').collect();
                if space == 0 || unit.is_empty() {
                    continue;
                }
                let end = number.end + space + unit.len();
                let joined = format!("{}{unit}", &css[number.clone()]);
                let whole = format!("{}{joined}{}", &css[..number.start], &css[end..]);
                // All of them may have the same space.
                let all = without_spaces_before_units(css);
                let fitting = [whole, all].into_iter().any(|css| {
                    self.text_with(value, &mut |j, _| (i == j).then(|| css.clone())).is_some_and(|text| fits(&text))
                });
                if fitting {
                    let at = self.find_in(*span, css, &(number.start..end));
                    let message = format!("`{}` in `{}` is a number and a word", &css[number.start..end], name.value);
                    return Some(
                        Diagnostic::error("cascade/value", at, message)
                            .label("a unit follows its number at once")
                            .mend(format!("write `{joined}`")),
                    );
                }
            }
        }
        None
    }

    /// Something that other languages for styles have, and CSS has not.
    fn of_habit(&self, name: &Name, value: &Value) -> Option<Diagnostic> {
        for piece in &value.pieces {
            let ValuePiece::Text(css, span) = piece else { continue };
            let word = |at: usize| {
                let rest = &css[at..];
                rest.find(|c: char| !c.is_alphanumeric() && c != '-' && c != '_').map_or(rest, |end| &rest[..end])
            };
            for (at, sign) in css.char_indices().filter(|(_, c)| matches!(c, '$' | '@')) {
                let variable = word(at + 1);
                if !variable.is_empty() {
                    let place = self.find_in(*span, css, &(at..at + 1 + variable.len()));
                    let message = format!("`{sign}{variable}` in `{}` is no value", name.value);
                    return Some(Diagnostic::error("cascade/value", place, message).mend(habits::variable(variable)));
                }
            }
            for (open, _) in css.match_indices('(') {
                let start = css[..open].trim_end_matches(|c: char| c.is_alphanumeric() || c == '-').len();
                if let Some(mend) = habits::function(&css[start..open]) {
                    let place = self.find_in(*span, css, &(start..open));
                    let message = format!("there is no function `{}()`", &css[start..open]);
                    return Some(Diagnostic::error("cascade/value", place, message).mend(mend));
                }
            }
        }
        None
    }

    /// The one word of several without which the value fits.
    fn wrong_word(&self, name: &Name, value: &Value, fits: &dyn Fn(&str) -> bool) -> Option<Diagnostic> {
        for (i, piece) in value.pieces.iter().enumerate() {
            let ValuePiece::Text(css, span) = piece else { continue };
            let words = words_of(css);
            if value.pieces.len() == 1 && words.len() < 2 {
                continue;
            }
            let with = |word: &std::ops::Range<usize>, text: &str| {
                let css = format!("{}{text}{}", &css[..word.start], &css[word.end..]);
                self.text_with(value, &mut |j, _| (i == j).then(|| css.clone())).is_some_and(|text| fits(&text))
            };
            let nearly = |word: &std::ops::Range<usize>| {
                nearest(&css[word.clone()], COMMON.iter().copied().filter(|known| with(word, known)))
            };
            // One that is nearly a word that would do, else the only one without which it fits.
            let misspelt = words.iter().find_map(|word| Some((word.clone(), Some(nearly(word)?))));
            let mut needless = words.iter().filter(|word| with(word, ""));
            let only = needless.next().filter(|_| needless.next().is_none()).map(|word| (word.clone(), None));
            if let Some((word, near)) = misspelt.or(only) {
                let wrong = &css[word.clone()];
                let at = self.find_in(*span, css, &word);
                let message = format!("`{wrong}` in `{}` fits nothing that it takes", name.value);
                let diagnostic = Diagnostic::error("cascade/value", at, message).label("this word");
                return Some(match near {
                    Some(near) => diagnostic.mend(format!("write `{near}`")),
                    None => match PropertyName::read(&name.value).describe() {
                        Some(words) => diagnostic.mend(format!("take it away, or write {words}")),
                        None => diagnostic.mend("take it away"),
                    },
                });
            }
        }
        None
    }

    /// The place of a range of a piece; comments in it were shortened, so the piece's own start is the fallback.
    fn find_in(&self, span: Span, css: &str, range: &std::ops::Range<usize>) -> Span {
        if (span.end - span.start) as usize == css.len() {
            Span::new(span.file, span.start as usize + range.start, span.start as usize + range.end)
        } else {
            span
        }
    }

    /// A reference that would fit if it were of another type.
    fn wrong_reference(&self, name: &Name, value: &Value, fits: &dyn Fn(&str) -> bool) -> Option<Diagnostic> {
        for (i, piece) in value.pieces.iter().enumerate() {
            let ValuePiece::Reference(reference) = piece else { continue };
            let found = self.tokens.get(self.tokens.find_path(&reference.value)?).kind;
            for (kind, sample) in SAMPLES {
                if Some(kind) == found {
                    continue;
                }
                let text = self.text_with(value, &mut |j, _| (i == j).then(|| sample.to_owned()))?;
                if fits(&text) {
                    let has = found.map_or("computed", TokenType::name);
                    let message = format!(
                        "`{{{}}}` is of type {has}, but `{}` takes a {} here",
                        reference.value,
                        name.value,
                        kind.name()
                    );
                    let mut of_kind = self
                        .tokens
                        .list
                        .iter()
                        .filter(|t| t.kind == Some(kind) && !t.is_member)
                        .map(|t| t.path.as_str());
                    let member =
                        crate::tokens::composite::members(found.unwrap_or(kind)).iter().find(|row| row.1 == kind);
                    let member = member.map(|row| format!("{}.{}", reference.value, row.0));
                    if let Some(member) = member.filter(|path| self.tokens.find(path).is_some()) {
                        return Some(
                            Diagnostic::error("cascade/value", piece.outer_span(), message)
                                .label(format!("not a {}", kind.name()))
                                .mend(format!("write its member: `{{{member}}}`")),
                        );
                    }
                    let mend = match nearest(&reference.value, of_kind.clone()).or_else(|| of_kind.next()) {
                        Some(near) => format!("write a token of type {}, such as `{{{near}}}`", kind.name()),
                        None => format!("write a {}, such as `{sample}`", kind.name()),
                    };
                    return Some(
                        Diagnostic::error("cascade/value", piece.outer_span(), message)
                            .label(format!("not a {}", kind.name()))
                            .mend(mend),
                    );
                }
            }
        }
        None
    }
}

/// Replaces locals by their values, chains included.
fn resolve_locals(text: &str, locals: Locals) -> Option<String> {
    fn resolve(text: &str, locals: Locals, depth: usize) -> Option<String> {
        if depth > 16 {
            return None;
        }
        substitute(text, &mut |name| resolve(locals.get(name)?, locals, depth + 1))
    }
    resolve(text, locals, 0)
}

/// The diagnostic for a property that does not exist.
pub fn unknown_property(name: &Name) -> Diagnostic {
    let message = format!("there is no property `{}`", name.value);
    let diagnostic = Diagnostic::error("cascade/property", name.span, message).label("not known");
    match nearest(&name.value, PropertyName::all()) {
        Some(near) => diagnostic.mend(format!("write `{near}`")),
        None => diagnostic.mend("write a CSS property, or a local property `--name`"),
    }
}

/// Numbers without a unit, other than zero.
fn bare_numbers(css: &str) -> Vec<std::ops::Range<usize>> {
    let bytes = css.as_bytes();
    let mut found = Vec::new();
    let mut i = 0;
    while i < bytes.len() {
        if !(bytes[i].is_ascii_digit() || bytes[i] == b'.') {
            i += 1;
            continue;
        }
        let start = i;
        while i < bytes.len() && (bytes[i].is_ascii_digit() || bytes[i] == b'.') {
            i += 1;
        }
        let joined = |b: u8| b.is_ascii_alphanumeric() || b"%#_-".contains(&b);
        let before = start.checked_sub(1).map(|j| bytes[j]).filter(|b| *b != b'-' && joined(*b));
        let after = bytes.get(i).copied().filter(|b| joined(*b));
        if before.is_none() && after.is_none() && css[start..i].parse::<f64>().is_ok_and(|n| n != 0.0) {
            found.push(start..i);
        }
        while i < bytes.len() && joined(bytes[i]) {
            i += 1;
        }
    }
    found
}

fn with_units(css: &str, unit: &str) -> String {
    let mut text = String::new();
    let mut last = 0;
    for range in bare_numbers(css) {
        text.push_str(&css[last..range.end]);
        text.push_str(unit);
        last = range.end;
    }
    text.push_str(&css[last..]);
    text
}

/// Words that values of several parts have, for offering the nearest.
const COMMON: [&str; 52] = [
    "solid",
    "dashed",
    "dotted",
    "double",
    "groove",
    "ridge",
    "inset",
    "outset",
    "none",
    "hidden",
    "thin",
    "medium",
    "thick",
    "transparent",
    "currentcolor",
    "black",
    "white",
    "red",
    "green",
    "blue",
    "gray",
    "auto",
    "center",
    "left",
    "right",
    "top",
    "bottom",
    "start",
    "end",
    "normal",
    "bold",
    "italic",
    "oblique",
    "sans-serif",
    "serif",
    "monospace",
    "ease",
    "ease-in",
    "ease-out",
    "ease-in-out",
    "linear",
    "infinite",
    "alternate",
    "both",
    "forwards",
    "repeat",
    "no-repeat",
    "cover",
    "contain",
    "underline",
    "nowrap",
    "wrap",
];

/// The words at the top level of a value.
fn words_of(css: &str) -> Vec<std::ops::Range<usize>> {
    let mut words = Vec::new();
    let (mut depth, mut start) = (0_usize, None);
    for (at, c) in css.char_indices() {
        match c {
            '(' => depth += 1,
            ')' => depth = depth.saturating_sub(1),
            _ => {}
        }
        let ends = depth == 0 && (c.is_whitespace() || matches!(c, ',' | '/'));
        match (ends, start) {
            (true, Some(from)) => {
                words.push(from..at);
                start = None;
            }
            (false, None) => start = Some(at),
            _ => {}
        }
    }
    words.extend(start.map(|from| from..css.len()));
    // What is quoted or a function is no word that somebody misspelt.
    words.retain(|word| css[word.clone()].chars().all(|c| c.is_ascii_alphanumeric() || c == '-'));
    words
}

/// A text in which every unit follows its number at once.
fn without_spaces_before_units(css: &str) -> String {
    let mut text = String::new();
    let mut rest = css;
    while let Some(space) = rest.find(' ') {
        let (before, after) = rest.split_at(space);
        let follows = after.trim_start();
        let is_number = before.chars().last().is_some_and(|c| c.is_ascii_digit());
        text.push_str(before);
        let is_unit = ["px", "rem", "em", "%", "ms", "s", "deg", "fr", "ch", "vw", "vh"].iter().any(|unit| {
            follows.strip_prefix(unit).is_some_and(|rest| !rest.starts_with(|c: char| c.is_alphanumeric()))
        });
        if !(is_number && is_unit) {
            text.push(' ');
        }
        rest = follows;
    }
    text.push_str(rest);
    text
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn bare_numbers_are_found() {
        assert_eq!(with_units("4 8px 0 -2 #123 a1 50% 1.5", "px"), "4px 8px 0 -2px #123 a1 50% 1.5px");
    }
}
