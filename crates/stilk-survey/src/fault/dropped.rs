//! `foreign/dropped-rule` and `foreign/dropped-declaration`: browsers take what is written.

use super::{Kind, Said, finding};
use crate::site::Site;
use std::collections::BTreeSet;
use stilk_engine::cascade::selector::{is_valid, split_list};
use stilk_engine::css::parse::{Invalid, parse_declaration};
use stilk_engine::css::property::PropertyName;
use stilk_text::diagnostic::{Level, clipped, nearest};

/// A rule.
pub const RULE: Kind = Kind {
    id: "foreign/dropped-rule",
    summary: "no rule is dropped for a selector that browsers cannot read",
    why: "One selector of a list that a browser cannot read drops the whole rule, for all of them: `.a, .b:hovr { … }` does nothing.",
    level: Level::Warning,
    mend: "Take the selector out, or give it a rule of its own.",
    source: "Selectors 4, 3.9 (invalid selectors and error handling)",
    fails: "<style>\n\
             .search, .booknow:hovr { color: #14536b }\n\
             </style>\n\
             <button class=\"search\">Search</button>\n\
             ",
    passes: "<style>\n\
             .search, .booknow:hover { color: #14536b }\n\
             </style>\n\
             <button class=\"search\">Search</button>\n\
             ",
};

/// A declaration.
pub const DECLARATION: Kind = Kind {
    id: "foreign/dropped-declaration",
    summary: "no declaration is dropped for a name or a value that browsers do not know",
    why: "A unit that was forgotten, a letter that was: the browser says nothing and goes on.",
    level: Level::Warning,
    mend: "Mend the name or the value.",
    source: "CSS Syntax 3, 2.2 (error handling)",
    fails: "<style>\n\
             .field { width: 120; border: 1px solid #14536b }\n\
             </style>\n\
             <input class=\"field\" aria-label=\"Name\">\n\
             ",
    passes: "<style>\n\
             .field { width: 120px; border: 1px solid #14536b }\n\
             </style>\n\
             <input class=\"field\" aria-label=\"Name\">\n\
             ",
};

/// What browsers drop of a site's stylesheets.
pub fn tell(site: &Site, say: &mut dyn FnMut(Said)) {
    let mut known = BTreeSet::new();
    without_unit(site, &mut known, say);
    for traced in site.lists.iter().flat_map(|list| &list.sheets) {
        for dropped in &traced.parsed.dropped {
            let Some(&(file, before)) = traced.texts.get(usize::from(dropped.file)) else { continue };
            let text = &site.sources.file(file).text;
            let at = |offset: u32| usize::try_from(before + i64::from(offset)).ok();
            let (Some(start), Some(end)) = (at(dropped.place.start), at(dropped.place.end)) else { continue };
            let Some(piece) = text.get(start..end) else { continue };
            if !known.insert((file, start)) {
                continue;
            }
            let lead = piece.len() - piece.trim_start().len();
            let piece = piece.trim();
            let span = |length: usize| stilk_text::source::Span::new(file, start + lead, start + lead + length);
            let said = match dropped.is_declaration {
                true => declaration(piece).map(|(message, mend)| {
                    let length = piece.find('\n').unwrap_or(piece.len());
                    finding(&DECLARATION, Some(span(length)), message).label("dropped").mend(mend)
                }),
                false => rule(piece).map(|(message, mend)| {
                    let length = piece.find(['{', '\n']).unwrap_or(piece.len());
                    finding(&RULE, Some(span(piece[..length].trim_end().len())), message)
                        .label("dropped with its block")
                        .mend(mend)
                }),
            };
            if let Some(diagnostic) = said {
                let place = String::new();
                say(Said {
                    cause: site.sources.place(span(1)) + piece,
                    diagnostic,
                    place,
                    controls: 0,
                    page: 0,
                    family: String::new(),
                });
            }
        }
    }
}

/// Lengths without a unit and colours without `#`, which only pages in quirks mode take.
fn without_unit(site: &Site, known: &mut BTreeSet<(stilk_text::source::FileId, usize)>, say: &mut dyn FnMut(Said)) {
    for (list, sheets) in site.lists.iter().enumerate() {
        if site.pages.iter().filter(|page| page.list == list).all(|page| page.quirks) {
            continue;
        }
        for traced in &sheets.sheets {
            for rule in &traced.parsed.rules {
                for (_, dropped) in rule.declarations.quirks.iter() {
                    let Some(span) = traced.span(&site.sources, rule.file, dropped.offset) else { continue };
                    if !known.insert((span.file, span.start as usize)) {
                        continue;
                    }
                    let Some((message, mend)) = declaration(site.sources.text(span)) else { continue };
                    let diagnostic = finding(&DECLARATION, Some(span), message).label("dropped").mend(mend);
                    let cause = site.sources.place(span);
                    say(Said { cause, diagnostic, place: String::new(), controls: 0, page: 0, family: String::new() });
                }
            }
        }
    }
}

/// What is wrong with a rule, and what would mend it; nothing where it was written for another browser on purpose.
fn rule(piece: &str) -> Option<(String, String)> {
    let selectors = piece.split('{').next()?.trim();
    if selectors.is_empty() || selectors.starts_with('@') || !piece.contains('{') {
        return None;
    }
    if let Some(rest) = selectors.strip_prefix('}') {
        let shown = clipped(rest.split_whitespace().collect::<Vec<_>>().join(" ").as_str(), 50);
        let message = format!("browsers drop what follows this `}}`, up to the end of its block: `{shown}`");
        return Some((message, "take out the `}` that closes nothing".to_owned()));
    }
    let all = split_list(selectors);
    let (good, bad): (Vec<&str>, Vec<&str>) =
        all.iter().map(|one| one.trim()).partition(|one| !one.is_empty() && is_valid(one));
    let of_vendor = |one: &&str| {
        ["::-moz-", "::-ms-", ":-moz-", ":-ms-", "::-o-", ":-o-", "::-webkit-"].iter().any(|name| one.contains(name))
    };
    // Alone it is meant for a browser that reads it.
    if good.is_empty() && bad.iter().all(of_vendor) {
        return None;
    }
    let first = bad.first().copied().unwrap_or_default();
    let shown = clipped(first, 60);
    Some(match (good.is_empty(), first.is_empty()) {
        (_, true) => (
            "browsers drop this rule: its list ends in a comma or has an empty place".to_owned(),
            "take the comma out".to_owned(),
        ),
        (true, false) => (format!("browsers drop this rule: they cannot read `{shown}`"), RULE.mend.to_owned()),
        (false, false) => (
            format!("browsers drop this rule, for `{}` too: they cannot read `{shown}`", clipped(good[0], 60)),
            format!("give `{shown}` a rule of its own, or put the list into `:is()`, which forgives"),
        ),
    })
}

/// The same of a declaration.
fn declaration(piece: &str) -> Option<(String, String)> {
    let (name, value) = match piece.split_once(':') {
        Some((name, value)) => (name.trim(), value.trim().trim_end_matches(';').trim()),
        None => {
            let shown = clipped(piece.trim_end_matches(';').trim(), 60);
            let is_word = shown.chars().next().is_some_and(|c| c.is_alphabetic());
            return is_word.then(|| {
                (format!("`{shown}` is no declaration: browsers drop it"), "write `property: value`".to_owned())
            });
        }
    };
    // Old ways to speak to one browser, and what only some have.
    let is_hack = name.starts_with(['*', '_', '-', '+', '#', '!', '/', '$', '&', '.'])
        || name.starts_with("mso-")
        || ["behavior", "filter", "zoom", "text-autospace", "scrollbar-face-color", "speak", "azimuth", "src"]
            .contains(&name)
        || ["\\9", "\\0", "progid", "expression(", "alpha(opacity", "-webkit-", "-moz-", "-ms-", "-o-", "-khtml-"]
            .iter()
            .any(|hack| value.contains(hack))
        || value.strip_prefix('-').is_some_and(|rest| rest.starts_with(|c: char| c.is_ascii_alphabetic()))
        || name.contains(char::is_whitespace) && piece.contains("//");
    if is_hack || name.is_empty() || name.contains(['{', '}', '\n']) {
        return None;
    }
    // Words that one browser had for a hand.
    if name == "cursor" && value == "hand" {
        return None;
    }
    match parse_declaration(name, value.trim_end_matches("!important").trim()) {
        Err(Invalid::Property) => {
            let near = nearest(name, PropertyName::all());
            Some((
                format!("there is no property `{}`: browsers drop it", clipped(name, 40)),
                near.map_or_else(|| "take it out".to_owned(), |near| format!("write `{near}`")),
            ))
        }
        Err(Invalid::Value) => {
            let lacks_unit = value.parse::<f64>().is_ok_and(|number| number != 0.0)
                && parse_declaration(name, &format!("{value}px")).is_ok();
            let is_color = value.chars().all(|c| c.is_ascii_hexdigit())
                && matches!(value.len(), 3 | 6)
                && parse_declaration(name, &format!("#{value}")).is_ok();
            let mend = match () {
                () if lacks_unit => format!("write `{name}: {value}px`"),
                () if is_color => format!("write `{name}: #{value}`"),
                () => PropertyName::read(name)
                    .describe()
                    .map_or_else(|| DECLARATION.mend.to_owned(), |takes| format!("it takes {}", clipped(&takes, 120))),
            };
            Some((format!("`{name}` does not take `{}`: browsers drop it", clipped(value, 60)), mend))
        }
        // It is right by itself, and stands where browsers do not expect it.
        Ok(_) => Some((
            format!("`{}` is dropped: something before it is not ended", clipped(piece, 60)),
            "end what stands before it with `;`".to_owned(),
        )),
    }
}
