//! What `why` prints: the value, what won, what lost and why.

use crate::arguments::format::Format;
use crate::disk;
use crate::output::{count, unknown_in, wrapped};
use crate::say::{self, Ink};
use serde_json::{Map, Value, json};
use std::collections::HashMap;
use std::fmt::Write;
use std::path::Path;
use stilk_engine::cascade::Styled;
use stilk_engine::cascade::defaults::Browser;
use stilk_engine::cascade::explain::Fate;
use stilk_engine::cascade::order::Origin;
use stilk_engine::css::{Longhand, Unknown};
use stilk_engine::inspect::{Explanation, Inspector, Place, Read, Said, SourceSheet};
use stilk_language::stylesheet::Written;
use stilk_language::system::System;
use stilk_language::tokens::Theme;
use stilk_text::source::{Sources, Span};

/// What is explained.
pub struct Subject<'s> {
    /// The case or the selector.
    pub name: String,
    /// The themes in which all of this is so.
    pub themes: Vec<String>,
    /// Where the written stylesheet comes from, for cases of a system.
    pub sources: Option<&'s SystemSources<'s>>,
    /// Under whose defaults it was computed.
    pub browser: Browser,
    /// What it is about.
    pub at: Styled,
}

impl<'s> Subject<'s> {
    /// The same without themes.
    fn bare(&self) -> Subject<'s> {
        Subject { name: self.name.clone(), themes: Vec::new(), ..*self }
    }
}

/// The value under the defaults of every other browser.
pub type Elsewhere = Vec<(Browser, Result<String, Unknown>)>;

/// Computes a value under the defaults of every other browser.
pub fn elsewhere(inspection: &Inspector, subject: &Subject, longhand: Longhand) -> Elsewhere {
    let others = Browser::ALL.into_iter().filter(|browser| *browser != subject.browser);
    others
        .map(|browser| {
            let sheet = SourceSheet::defaults(browser);
            (browser, inspection.value_under(&sheet, subject.at, longhand))
        })
        .collect()
}

/// In a line: who agrees, and what the others have.
fn elsewhere_text(value: &Result<String, Unknown>, elsewhere: &Elsewhere) -> String {
    let names = |same: bool| {
        let list = elsewhere.iter().filter(move |(_, other)| (other == value) == same);
        list.map(|(browser, other)| (browser.name(), other))
    };
    let agree: Vec<&str> = names(true).map(|(name, _)| name).collect();
    let mut parts = Vec::new();
    if !agree.is_empty() {
        parts.push(format!("the same under {}", agree.join(", ")));
    }
    parts.extend(names(false).map(|(name, other)| match other {
        Ok(value) => format!("{value} under {name}"),
        Err(_) => format!("unknown under {name}"),
    }));
    parts.join("; ")
}

/// Leads from a written stylesheet to sheets and tokens.
pub struct SystemSources<'s> {
    sources: &'s Sources,
    root: &'s Path,
    written: &'s Written,
    system: &'s System,
    tokens: HashMap<Span, &'s str>,
    /// The theme that is asked for: one declaration may stand for the values of several.
    theme: Theme,
}

impl<'s> SystemSources<'s> {
    /// For a stylesheet as written, in a theme.
    pub fn new(system: &'s System, sources: &'s Sources, root: &'s Path, written: &'s Written, theme: Theme) -> Self {
        let mut tokens = HashMap::new();
        for token in &system.tokens.list {
            tokens.extend(token.definitions().map(|definition| (definition.span, token.path.as_str())));
        }
        SystemSources { sources, root, written, system, tokens, theme }
    }

    /// `file:line` of what was written at a place, and the token that stands there.
    fn source(&self, place: &Place) -> Option<(String, Option<&str>)> {
        let written = self.written.origin(place.offset)?;
        let token = self.tokens.get(&written).copied();
        let of_theme = token.and_then(|path| {
            let tokens = &self.system.tokens;
            Some(tokens.get(tokens.find(path)?).in_theme(&self.theme)?.span)
        });
        let span = of_theme.unwrap_or(written);
        let position = self.sources.position(span);
        let path = disk::shown(self.root, &self.sources.file(span.file).path);
        Some((format!("{path}:{}:{}", position.line, position.column), token))
    }
}

fn place_of(subject: &Subject, place: Option<&Place>) -> (String, Option<String>) {
    let Some(place) = place else { return ("style attribute".into(), None) };
    match subject.sources.and_then(|sources| sources.source(place)) {
        Some((source, token)) => (source, token.map(str::to_owned)),
        None => (format!("{}:{}:{}", place.sheet, place.line, place.column), None),
    }
}

/// What there is to say of a property.
pub enum Answer {
    /// A custom property.
    Custom(Read),
    /// A longhand, or those of a shorthand, each with its value under other defaults.
    Longhands(Vec<(Explanation, Elsewhere)>),
}

impl Answer {
    /// Whether another answer about another subject reads the same.
    pub fn says_the_same(&self, subject: &Subject, (other, its): (&Answer, &Subject)) -> bool {
        text(&subject.bare(), self) == text(&its.bare(), other)
    }
}

/// All answers as text: what is the same in every theme once, what differs with the themes in which it is so.
fn texts_of(told: &[(Subject, Answer)]) -> String {
    let mut groups: Vec<Vec<(String, Vec<String>)>> = Vec::new();
    for (subject, answer) in told {
        let lines: Vec<String> = text(&subject.bare(), answer).lines().map(str::to_owned).collect();
        let one = (subject.themes.join("; "), lines);
        // What has as many lines has them for the same things.
        match groups.iter_mut().find(|group| !one.0.is_empty() && group[0].1.len() == one.1.len()) {
            Some(group) => group.push(one),
            None => groups.push(vec![one]),
        }
    }
    let one_is_all = told.len() == 1;
    let texts = groups.iter().map(|group| match group.as_slice() {
        [_] if one_is_all => told.iter().map(|(subject, answer)| text(subject, answer)).collect(),
        [(themes, _)] => {
            let own = told.iter().filter(|(subject, _)| subject.themes.join("; ") == *themes);
            own.map(|(subject, answer)| text(subject, answer)).collect()
        }
        several => merged(several),
    });
    texts.collect::<Vec<String>>().join("\n")
}

/// Texts of as many lines as one: lines that differ with their themes.
fn merged(texts: &[(String, Vec<String>)]) -> String {
    let mut whole = String::new();
    let all: Vec<&str> = texts.iter().map(|(themes, _)| themes.as_str()).collect();
    for at in 0..texts[0].1.len() {
        let line = &texts[0].1[at];
        if texts.iter().all(|(_, lines)| lines[at] == *line) {
            whole.push_str(line);
            whole.push('\n');
        } else {
            let mut variants: Vec<(&String, Vec<&str>)> = Vec::new();
            for (themes, lines) in texts {
                match variants.iter_mut().find(|(known, _)| **known == lines[at]) {
                    Some((_, of)) => of.push(themes),
                    None => variants.push((&lines[at], vec![themes])),
                }
            }
            for (line, themes) in variants {
                let _ = writeln!(whole, "{line}  [{}]", themes.join("; "));
            }
        }
        if at == 0 {
            let _ = writeln!(whole, "in {}", all.join("; "));
        }
    }
    whole
}

/// Prints answers: one document, whatever their number. Where stylesheets are `missing`, each with why, no answer is certain.
pub fn print(told: &[(Subject, Answer)], missing: &[(String, String)], format: Format) {
    if format == Format::Text {
        put!("{}", texts_of(told));
        if !missing.is_empty() {
            let sheets = count(missing.len() as u64, "stylesheet");
            say!("not certain: {sheets} that the page uses cannot be had");
        }
        return;
    }
    let mut values: Vec<Value> = told.iter().flat_map(|(subject, answer)| to_json(subject, answer)).collect();
    if !missing.is_empty() {
        values.iter_mut().for_each(|value| value["missing"] = missing_json(missing));
    }
    match values.len() {
        1 => say::json(&format!("{:#}\n", values.remove(0))),
        _ => say::json(&format!("{:#}\n", json!({ "answers": values }))),
    }
}

const BOLD: Ink = Ink(anstyle::Style::new().bold());
const DIM: Ink = Ink(anstyle::Style::new().dimmed());
const GOOD: Ink = Ink(anstyle::AnsiColor::Green.on_default());

fn text(subject: &Subject, answer: &Answer) -> String {
    let mut out = String::new();
    // Writing to a String does not fail.
    let _ = match answer {
        Answer::Custom(custom) => write_custom(&mut out, subject, custom),
        Answer::Longhands(explained) => write_text(&mut out, subject, explained),
    };
    out
}

fn write_text(out: &mut String, subject: &Subject, explained: &[(Explanation, Elsewhere)]) -> std::fmt::Result {
    for (index, (explanation, elsewhere)) in explained.iter().enumerate() {
        if index > 0 {
            writeln!(out)?;
        }
        let value = match &explanation.value {
            Ok(value) => value.clone(),
            Err(reason) => format!("unknown: {}", reason.0),
        };
        writeln!(out, "{BOLD}{}{BOLD:#}  {}: {BOLD}{value}{BOLD:#}", subject.name, explanation.longhand.name())?;
        if !subject.themes.is_empty() {
            writeln!(out, "in {}", subject.themes.join("; "))?;
        }
        writeln!(out, "{DIM}{}{DIM:#}", elsewhere_text(&explanation.value, elsewhere))?;
        if explanation.said.is_empty() {
            let from = match explanation.inherited {
                Some(1) => "inherited from its parent".to_owned(),
                Some(n) => format!("inherited from {n} elements up"),
                None if explanation.longhand.inherited() => "nobody sets it: the initial value".to_owned(),
                None => "nothing sets it: the initial value".to_owned(),
            };
            writeln!(out, "  {from}")?;
        }
        for said in &explanation.said {
            write_said(out, subject, said)?;
        }
    }
    Ok(())
}

fn write_said(out: &mut String, subject: &Subject, said: &Said) -> std::fmt::Result {
    let (place, _) = place_of(subject, said.place.as_ref());
    let (mark, style) = match &said.fate {
        Fate::Won => ("won".to_owned(), GOOD),
        Fate::Invalid => ("won, but is not valid here".to_owned(), BOLD),
        Fate::GaveWay(word) => (format!("won, and gave way: {word}"), BOLD),
        Fate::NoCondition => ("its condition does not hold".to_owned(), DIM),
        Fate::Forced => ("replaced by the user's colours".to_owned(), DIM),
        Fate::Undecided(reason) => (format!("undecided: {}", reason.0), BOLD),
        Fate::Lost(reason) => (format!("lost by {}", reason.word()), DIM),
    };
    let source = if said.origin == Origin::Browser && said.place.is_some() {
        format!("{}'s own", said.place.as_ref().map_or("the browser", |place| &place.sheet))
    } else {
        place
    };
    writeln!(out, "\n  {style}{mark}{style:#}  {DIM}{source}{DIM:#}")?;
    for (i, line) in wrapped(&said.text, WIDTH - 6).iter().enumerate() {
        writeln!(out, "    {}{line}", if i == 0 { "" } else { "  " })?;
    }
    let mut about = vec![said.selector.clone()];
    about.extend(said.specificity.map(|specificity| specificity.to_string()));
    about.extend(said.layer.as_ref().map(|layer| format!("layer {layer}")));
    writeln!(out, "    {DIM}{}{DIM:#}", about.join("  "))?;
    for read in &said.reads {
        write_read(out, subject, read)?;
    }
    Ok(())
}

/// Columns that output is made for.
const WIDTH: usize = 80;

fn write_read(out: &mut String, subject: &Subject, read: &Read) -> std::fmt::Result {
    let indent = " ".repeat(4 + 2 * read.depth);
    let value = read.value.as_deref().unwrap_or("(no value)");
    // What is only switched to another name has nothing to say of its own.
    let (place, token) = match &read.place {
        Some(place) => place_of(subject, Some(place)),
        None => (String::new(), None),
    };
    let name = token.map_or_else(|| read.name.clone(), |token| format!("{{{token}}}"));
    let value = if value.chars().count() > 60 {
        format!("{}…", value.chars().take(59).collect::<String>())
    } else {
        value.to_owned()
    };
    // A place that does not fit stands below.
    let gap = match indent.len() + name.chars().count() + value.chars().count() + place.chars().count() + 5 > WIDTH {
        true => format!("\n{indent}    "),
        false => "  ".to_owned(),
    };
    writeln!(out, "{indent}{name} = {value}{gap}{DIM}{place}{DIM:#}")
}

fn write_custom(out: &mut String, subject: &Subject, custom: &Read) -> std::fmt::Result {
    let value = custom.value.as_deref().unwrap_or("(no value)");
    let (place, token) = match &custom.place {
        Some(place) => place_of(subject, Some(place)),
        None => ("nothing sets it".to_owned(), None),
    };
    let token = token.map_or_else(String::new, |token| format!("  {{{token}}}"));
    writeln!(out, "{BOLD}{}{BOLD:#}  {}: {BOLD}{value}{BOLD:#}", subject.name, custom.name)?;
    if !subject.themes.is_empty() {
        writeln!(out, "in {}", subject.themes.join("; "))?;
    }
    writeln!(out, "  {DIM}{place}{token}{DIM:#}")
}

fn place_json(subject: &Subject, place: Option<&Place>) -> Value {
    let Some(place) = place else { return Value::Null };
    let mut value = json!({ "file": place.sheet, "line": place.line, "column": place.column });
    if let Some((source, token)) = subject.sources.and_then(|sources| sources.source(place)) {
        value["source"] = json!(source);
        value["token"] = json!(token);
    }
    value
}

fn to_json(subject: &Subject, answer: &Answer) -> Vec<Value> {
    match answer {
        Answer::Custom(custom) => vec![custom_json(subject, custom)],
        Answer::Longhands(list) => list.iter().map(|(e, elsewhere)| explained_json(subject, e, elsewhere)).collect(),
    }
}

/// A custom property as JSON.
fn custom_json(subject: &Subject, custom: &Read) -> Value {
    json!({
        "subject": subject.name,
        "themes": subject.themes,
        "property": custom.name,
        "value": custom.value,
        "place": place_json(subject, custom.place.as_ref()),
    })
}

/// An explanation as JSON.
fn explained_json(subject: &Subject, explanation: &Explanation, elsewhere: &Elsewhere) -> Value {
    let elsewhere: Map<String, Value> =
        elsewhere.iter().map(|(browser, value)| (browser.name().to_owned(), json!(value.as_ref().ok()))).collect();
    let said: Vec<Value> = explanation
        .said
        .iter()
        .map(|said| {
            let (fate, reason) = match &said.fate {
                Fate::Won => ("won", None),
                Fate::Invalid => ("invalid", None),
                Fate::GaveWay(word) => ("gave-way", Some((*word).to_owned())),
                Fate::NoCondition => ("condition", None),
                Fate::Forced => ("forced-colors", None),
                Fate::Undecided(reason) => ("undecided", Some(reason.0.to_owned())),
                Fate::Lost(reason) => ("lost", Some(reason.word().to_owned())),
            };
            let reads: Vec<Value> = said
                .reads
                .iter()
                .map(|read| {
                    json!({
                        "name": read.name,
                        "value": read.value,
                        "depth": read.depth,
                        "place": place_json(subject, read.place.as_ref()),
                    })
                })
                .collect();
            json!({
                "fate": fate,
                "reason": reason,
                "origin": if said.origin == Origin::Browser { "browser" } else { "author" },
                "important": said.important,
                "selector": said.selector,
                "specificity": said.specificity.map(|s| [s.0, s.1, s.2]),
                "layer": said.layer,
                "declaration": said.text,
                "place": place_json(subject, said.place.as_ref()),
                "reads": reads,
            })
        })
        .collect();
    json!({
        "subject": subject.name,
        "themes": subject.themes,
        "property": explanation.longhand.name(),
        "value": explanation.value.as_ref().ok(),
        "unknown": explanation.value.as_ref().err().map(|reason| reason.0),
        "inherited": explanation.inherited,
        "elsewhere": elsewhere,
        "declarations": said,
    })
}

/// Prints every known longhand of every element that has an id.
pub fn print_all(inspection: &Inspector) {
    let line = |property: &'static str, value: &str, text: &mut String| {
        for part in ["  ", property, ": ", &say::shown(value), "\n"] {
            text.push_str(part);
        }
    };
    let unknown = inspection.each(&line, |name, values| {
        say!("{BOLD}{name}{BOLD:#}");
        say::ready(values);
    });
    for (reason, values) in unknown {
        say!("{}", unknown_in(values, "value", reason));
    }
}

/// The same as JSON, element by element: a long page has more values than should be held at once.
pub fn print_all_json(inspection: &Inspector, missing: &[(String, String)]) {
    let member = |property: &'static str, value: &str, text: &mut String| {
        text.push_str(&say::as_json(&format!("{}:{},", json!(property), json!(value))));
    };
    let mut is_first = true;
    say::json("{\"elements\":{");
    let unknown = inspection.each(&member, |name, values| {
        let comma = if std::mem::replace(&mut is_first, false) { "" } else { "," };
        say::json(&format!("{comma}{}:{{", json!(name)));
        say::ready(values.trim_end_matches(','));
        say::json("}");
    });
    let missing = if missing.is_empty() { String::new() } else { format!("\"missing\":{},", missing_json(missing)) };
    say::json(&format!("}},{missing}\"unknown\":{}}}\n", json!(unknown)));
}

fn missing_json(missing: &[(String, String)]) -> Value {
    missing.iter().map(|(address, why)| json!({ "stylesheet": address, "why": why })).collect()
}
