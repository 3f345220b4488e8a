//! What stays of the old stylesheets: each in its own text and order, in a layer that stands before the system's.

use crate::old::{OldSheet, OldSheets, OldText, RuleRef};
use crate::outline::{Cuts, without};
use std::collections::{BTreeMap, BTreeSet};

/// The layer in which they stand.
pub const LAYER: &str = "kept";

/// What is left out of each text: by sheet and text.
pub type AllCuts = BTreeMap<(usize, usize), Cuts>;

/// The cuts for rules and declarations that are taken over.
pub fn cuts(old: &OldSheets, is_taken: &dyn Fn(RuleRef) -> bool, properties: &[(RuleRef, usize)]) -> AllCuts {
    let mut all = AllCuts::new();
    for (at, sheet) in old.all.iter().enumerate() {
        // Selectors of one list stand in the order in which they were read.
        let mut places: BTreeMap<(u16, u32), usize> = BTreeMap::new();
        for (index, rule) in sheet.parsed.rules.iter().enumerate() {
            let place = places.entry((rule.file, rule.offset)).or_default();
            let own = *place;
            *place += 1;
            let name = RuleRef { sheet: at, rule: index as u32 };
            if !is_taken(name) {
                continue;
            }
            let Some(offset) = sheet.texts.get(usize::from(rule.file)).and_then(|text| text.offset(rule.offset)) else {
                continue;
            };
            all.entry((at, usize::from(rule.file))).or_default().selectors.entry(offset).or_default().insert(own);
        }
    }
    for (rule, offset) in properties {
        let file = old.all[rule.sheet].parsed.rules[rule.rule as usize].file;
        all.entry((rule.sheet, usize::from(file))).or_default().declarations.insert(*offset);
    }
    all
}

/// The text of a stylesheet that stays, without what it imports.
pub fn write(sheet: &OldSheet, at: usize, cuts: &AllCuts, first: &str) -> String {
    text_of(&sheet.texts[0], cuts.get(&(at, 0)), first)
}

fn text_of(text: &OldText, cuts: Option<&Cuts>, first: &str) -> String {
    let none = Cuts::default();
    let cuts = cuts.unwrap_or(&none);
    // What has to come before all else stands outside of the layer.
    let mut hoisted = String::new();
    let mut body = text.text.clone();
    let mut blank: Vec<std::ops::Range<usize>> = Vec::new();
    let mut imports_over = false;
    let first_block = text.outline.blocks.iter().map(|block| block.prelude.start).min().unwrap_or(usize::MAX);
    for statement in &text.outline.statements {
        let words = &text.text[statement.clone()];
        let lower = words.to_ascii_lowercase();
        if lower.starts_with("@charset") {
            blank.push(statement.clone());
        } else if lower.starts_with("@import") && !imports_over && statement.start < first_block {
            hoisted.push_str(&import(words));
            hoisted.push('\n');
            blank.push(statement.clone());
        } else if lower.starts_with("@namespace") && statement.start < first_block {
            hoisted.push_str(words);
            hoisted.push('\n');
            blank.push(statement.clone());
            imports_over = true;
        } else if !lower.starts_with("@layer") {
            imports_over = true;
        }
    }
    let outline = &text.outline;
    for range in &blank {
        // Of the same length, so that all places stay.
        body.replace_range(range.clone(), &" ".repeat(range.len()));
    }
    let left = without(&body, outline, cuts);
    format!("{first}{hoisted}@layer {LAYER} {{\n{}\n}}\n", left.trim_matches('\n'))
}

/// An import into the layer.
fn import(words: &str) -> String {
    let rest = words["@import".len()..].trim().trim_end_matches(';').trim();
    // The address: a string, or `url(…)`.
    let end = match rest.as_bytes().first() {
        Some(quote @ (b'"' | b'\'')) => rest[1..].find(char::from(*quote)).map_or(rest.len(), |at| at + 2),
        _ => rest.find(')').map_or(rest.len(), |at| at + 1),
    };
    let (address, conditions) = rest.split_at(end);
    let conditions = conditions.trim();
    let (layer, conditions) = match conditions.strip_prefix("layer") {
        Some(after) => match after.strip_prefix('(').and_then(|after| after.split_once(')')) {
            Some((name, after)) => (format!("layer({LAYER}.{})", name.trim()), after.trim()),
            // A layer without a name cannot stand in another one.
            None => (format!("layer({LAYER}.imported)"), after.trim()),
        },
        None => (format!("layer({LAYER})"), conditions),
    };
    let conditions = if conditions.is_empty() { String::new() } else { format!(" {conditions}") };
    format!("@import {address} {layer}{conditions};")
}

/// Names for the files that stay, by sheet: none stands twice.
pub fn names(old: &OldSheets) -> Vec<String> {
    let mut known = BTreeSet::new();
    let name = |sheet: &OldSheet| {
        let file = sheet.path.rsplit('/').next().unwrap_or(&sheet.path);
        let stem = file.rsplit_once('.').map_or(file, |(stem, _)| stem);
        let own = crate::naming::unique(&crate::naming::identifier(stem), &mut known);
        format!("kept/{own}.css")
    };
    let names: Vec<String> = old.all.iter().map(name).collect();
    match names.as_slice() {
        // One needs no folder.
        [_] => vec!["kept.css".to_owned()],
        _ => names,
    }
}

/// Addresses in a text that stood in one folder, for another one: both relative to the same place.
pub fn relocated(text: &str, rebase: &dyn Fn(&str) -> Option<String>) -> String {
    let (mut written, mut rest) = (String::with_capacity(text.len()), text);
    while let Some(at) = find_address(rest) {
        let (before, from) = rest.split_at(at);
        written.push_str(before);
        let inner = from.trim_start();
        let lead = from.len() - inner.len();
        written.push_str(&from[..lead]);
        let (quote, body) = match inner.as_bytes().first() {
            Some(quote @ (b'"' | b'\'')) => (Some(char::from(*quote)), &inner[1..]),
            _ => (None, inner),
        };
        let end = match quote {
            Some(quote) => body.find(quote),
            None => body.find([')', ' ', '\n']),
        };
        let Some(end) = end else {
            rest = inner;
            break;
        };
        let address = &body[..end];
        if let Some(quote) = quote {
            written.push(quote);
        }
        written.push_str(&rebase(address).unwrap_or_else(|| address.to_owned()));
        if let Some(quote) = quote {
            written.push(quote);
        }
        rest = &body[end + usize::from(quote.is_some())..];
    }
    written.push_str(rest);
    written
}

/// Where the next address begins: behind `url(`, or behind `@import`.
fn find_address(text: &str) -> Option<usize> {
    let lower = text.to_ascii_lowercase();
    let url = lower.find("url(").map(|at| at + 4);
    let import = lower.find("@import").map(|at| at + 7).filter(|at| lower[*at..].trim_start().starts_with(['"', '\'']));
    match (url, import) {
        (Some(url), Some(import)) => Some(url.min(import)),
        (one, other) => one.or(other),
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn imports_go_into_the_layer() {
        assert_eq!(import("@import url(\"print.css\") print;"), "@import url(\"print.css\") layer(kept) print;");
        assert_eq!(import("@import 'a.css';"), "@import 'a.css' layer(kept);");
        assert_eq!(import("@import \"a.css\" layer(base) screen;"), "@import \"a.css\" layer(kept.base) screen;");
    }

    #[test]
    fn addresses_are_written_from_where_the_text_stands_now() {
        let rebase = |address: &str| (!address.contains(':')).then(|| format!("../{address}"));
        assert_eq!(
            relocated("a { b: url(x.png), url( \"y z.png\" ) } c { d: url(data:x) }", &rebase),
            "a { b: url(../x.png), url( \"../y z.png\" ) } c { d: url(data:x) }"
        );
        assert_eq!(relocated("@import 'p.css' print;", &rebase), "@import '../p.css' print;");
    }
}
