//! What there is to say of what stands under the pointer.

use super::{FileKind, Subject, navigate, told};
use crate::context::sheet::{At, at};
use lsp_types::{Hover, HoverContents, MarkupContent, MarkupKind, Position};
use std::collections::{BTreeMap, BTreeSet};
use std::ops::Range;
use stilk_checks::registry::CHECKS;
use stilk_checks::trace::Tracer;
use stilk_engine::cascade::resolved::resolved;
use stilk_engine::cascade::{Media, Style, Styled};
use stilk_engine::css::PropertyName;
use stilk_engine::css::property::Longhand;
use stilk_engine::inspect::longhands;
use stilk_language::case::{LookEngine, Unit, case_states};
use stilk_language::manifest::keys::TABLES;
use stilk_language::system::space::{VariantSpace, chosen};
use stilk_language::system::{BoundDeclaration, Control, Rule, System, Variant};
use stilk_text::diagnostic::count;
use stilk_text::source::Span;

/// What there is to say at a position.
pub fn hover(subject: &Subject, position: Position) -> Option<Hover> {
    let offset = subject.offset(position);
    let found = match subject.kind() {
        FileKind::Sheet => in_sheet(subject, position, offset),
        FileKind::Manifest => named(subject, position).or_else(|| key(subject, offset)),
        FileKind::Page | FileKind::Other => in_page(subject, offset),
        FileKind::Template | FileKind::Tokens | FileKind::Resolver => named(subject, position),
    };
    let (range, value) = found?;
    let contents = HoverContents::Markup(MarkupContent { kind: MarkupKind::Markdown, value });
    Some(Hover { contents, range: Some(subject.range(range)) })
}

type Told = Option<(Range<usize>, String)>;

/// The name at a position.
fn named(subject: &Subject, position: Position) -> Told {
    let one = navigate::name_at(subject, position)?;
    Some((one.span.range(), told::symbol(subject.snapshot, &one.symbol)?))
}

fn in_page(subject: &Subject, offset: usize) -> Told {
    let found = super::rename::in_page(subject.snapshot, subject.text);
    let here: Vec<_> = found.into_iter().filter(|one| one.whole.start <= offset && offset <= one.whole.end).collect();
    // The class says an option or a part; its control only where it says nothing else.
    let one = here.iter().find(|one| one.range.start <= offset && offset <= one.range.end).or(here.first())?;
    Some((one.whole.clone(), told::symbol(subject.snapshot, &one.symbol)?))
}

/// The word around a byte.
fn word_at(text: &str, offset: usize) -> Range<usize> {
    let is_word = |c: char| c.is_alphanumeric() || "-_@&/".contains(c);
    let start = text[..offset].trim_end_matches(is_word).len();
    let end = text[offset..].find(|c| !is_word(c)).map_or(text.len(), |at| offset + at);
    start..end
}

fn in_sheet(subject: &Subject, position: Position, offset: usize) -> Told {
    let text = subject.text;
    let word = word_at(text, offset);
    let typed = &text[word.clone()];
    if let Some(rule) = typed.strip_prefix('@') {
        return Some((word, told::at_rule(rule)?));
    }
    if typed.starts_with('&') {
        return Some((word.start..word.start + 1, told::at_rule("&")?));
    }
    let cursor = at(text, word.end);
    if let At::Prelude { rule, .. } = &cursor.at
        && rule == "state"
        && navigate::name_at(subject, position).is_none()
        && let Some(words) = told::state(subject.snapshot, typed)
    {
        return Some((word.clone(), format!("**{typed}** · state\n{words}")));
    }
    if let At::Prelude { rule, .. } = &cursor.at
        && rule == "waive"
        && let Some(check) = CHECKS.iter().find(|check| check.id == typed)
    {
        return Some((word.clone(), format!("**{}**\n\nHolds when {}.\n\n{}", check.id, check.summary, check.why)));
    }
    // The name of a declaration: what it does; a local's is a name of its own.
    let declaration = declaration_at(subject, offset);
    let name = named(subject, position);
    match declaration {
        Some(declaration) if declaration.name.span.range().contains(&offset) => {
            let own = name.map(|(_, words)| words);
            let property = PropertyName::read(&declaration.name.value).describe();
            let property = property.map(|words| format!("**{}** · {words}", declaration.name.value));
            let why = why(subject, declaration.span);
            let words: Vec<String> = own.into_iter().chain(property).chain(why).collect();
            (!words.is_empty()).then(|| (declaration.name.span.range(), words.join("\n\n")))
        }
        _ => name,
    }
}

/// The declaration of a sheet whose name is at a byte.
fn declaration_at<'s>(subject: &Subject<'s>, offset: usize) -> Option<&'s stilk_language::sheet::Declaration> {
    use stilk_language::sheet::Item;
    let file = subject.file?;
    let sheet = subject.snapshot.trees.sheets.iter().find(|sheet| sheet.file == file)?;
    let mut left: Vec<&[Item]> = sheet.controls.iter().map(|node| node.body.as_slice()).collect();
    left.extend(sheet.traits.iter().map(|node| node.body.as_slice()));
    while let Some(items) = left.pop() {
        for item in items {
            match item {
                Item::Declaration(declaration) if declaration.span.range().contains(&offset) => {
                    return Some(declaration);
                }
                other => left.extend(other.bodies()),
            }
        }
    }
    None
}

/// In which cases a declaration wins, and what beats it where it does not.
fn why(subject: &Subject, place: Span) -> Option<String> {
    let (system, written, parsed) = subject.snapshot.written()?;
    let (sources, snapshot) = (&subject.snapshot.sources, subject.snapshot);
    let tracer = Tracer::new(system, sources, written, parsed);
    let engine = LookEngine::new(system, written, parsed, Media::default());
    let mut told = Found::default();
    for control in &system.controls {
        for rule in &control.rules {
            let Some(declaration) = rule.declarations.iter().find(|declaration| declaration.span == place) else {
                continue;
            };
            told.look(system, control, rule, declaration, &engine, &tracer);
            if told.asked >= MOST_ASKED {
                break;
            }
        }
    }
    told.words(snapshot)
}

/// So many cases are computed for an answer that does not keep anybody waiting.
const MOST_ASKED: usize = 48;

/// What was found of a declaration.
#[derive(Default)]
struct Found {
    asked: usize,
    /// In how many of the cases that were looked at it applies, wins with all that it sets, and with some of it.
    applied: usize,
    won: usize,
    won_in_part: usize,
    /// Values that it gave, with a theme for each.
    values: Vec<(String, Vec<String>)>,
    /// What won instead, and in how many cases.
    beaten: BTreeMap<Span, usize>,
    has_condition: bool,
}

impl Found {
    fn look(
        &mut self,
        system: &System,
        control: &Control,
        rule: &Rule,
        declaration: &BoundDeclaration,
        engine: &LookEngine,
        tracer: &Tracer,
    ) {
        let set = longhands(&declaration.name.value);
        if set.is_empty() {
            return;
        }
        self.has_condition |= !rule.conditions.is_empty();
        for host in 0..control.template.hosts.len() {
            let Some(variant) = variant_of(control, host, rule) else { continue };
            for theme in system.tokens.themes() {
                if self.asked >= MOST_ASKED {
                    return;
                }
                let unit = Unit { control, host, variant: variant.clone(), theme: theme.clone() };
                let look = engine.look(&unit, &case_states(rule));
                let nodes: Vec<_> = match &rule.target.part {
                    None => vec![look.mounted.host],
                    Some(part) => {
                        look.mounted.parts.iter().filter(|(name, _)| name == part).map(|(_, node)| *node).collect()
                    }
                };
                let pseudo = (!rule.target.pseudo.is_empty()).then(|| rule.target.pseudo_element()).flatten();
                for node in nodes {
                    self.asked += 1;
                    if let Some(style) = look.styles.of(Styled { node, pseudo }) {
                        self.take(style, &set, declaration.span, tracer, &system.tokens.theme_name(&theme));
                    }
                }
            }
        }
    }

    /// Notes what comes of a declaration in one place. Where it does not apply, on another host or under a condition that does
    /// not hold, nothing beats it.
    fn take(&mut self, style: &Style, set: &[Longhand], own: Span, tracer: &Tracer, theme: &str) {
        let applies = |longhand: &&Longhand| style.setting(**longhand).any(|id| tracer.span(id) == Some(own));
        let set: Vec<Longhand> = set.iter().filter(applies).copied().collect();
        if set.is_empty() {
            return;
        }
        self.applied += 1;
        let winners = set.iter().map(|longhand| style.winner(*longhand).and_then(|id| tracer.span(id)));
        let winners: Vec<Option<Span>> = winners.collect();
        let won = winners.iter().filter(|winner| **winner == Some(own)).count();
        self.won += usize::from(won == set.len());
        self.won_in_part += usize::from(won > 0 && won < set.len());
        let others: BTreeSet<Span> = winners.into_iter().flatten().filter(|winner| *winner != own).collect();
        others.into_iter().for_each(|winner| *self.beaten.entry(winner).or_default() += 1);
        if let ([longhand], 1) = (set.as_slice(), won) {
            let value = match style.used_color(*longhand) {
                Ok(color) if longhand.is_color() => told::shown_color(&color),
                _ => resolved(style, *longhand).unwrap_or_else(|why| format!("unknown: {}", why.0)),
            };
            match self.values.iter_mut().find(|(known, _)| *known == value) {
                Some((_, themes)) if themes.iter().any(|known| known == theme) => {}
                Some((_, themes)) => themes.push(theme.to_owned()),
                None => self.values.push((value, vec![theme.to_owned()])),
            }
        }
    }

    fn words(self, snapshot: &crate::snapshot::Snapshot) -> Option<String> {
        if self.asked == 0 {
            return None;
        }
        let all = count(self.applied as u64, "case");
        let mut text = match (self.applied, self.won) {
            (0, _) if self.has_condition => "its condition holds in none of the cases that were looked at".to_owned(),
            (0, _) => "applies in none of the cases that were looked at".to_owned(),
            (applied, won) if applied == won => format!("wins in each of {all} that were looked at"),
            (_, won) => format!("wins in {won} of {all} that were looked at"),
        };
        if self.won_in_part > 0 {
            text.push_str(&format!(", and with some of what it sets in {}", self.won_in_part));
        }
        if self.applied > 0 {
            text.push_str(": its own states, other options at their defaults");
        }
        for (value, themes) in self.values.iter().take(6) {
            let where_ = if self.values.len() == 1 { String::new() } else { format!(" in {}", themes.join("; ")) };
            text.push_str(&format!("\n- `{value}`{where_}"));
        }
        let mut beaten: Vec<(Span, usize)> = self.beaten.into_iter().collect();
        beaten.sort_by_key(|(span, cases)| (std::cmp::Reverse(*cases), *span));
        for (span, cases) in beaten.into_iter().take(4) {
            let line = snapshot.sources.text(span).split_whitespace().collect::<Vec<_>>().join(" ");
            let place = snapshot.sources.place(span);
            text.push_str(&format!("\n- beaten in {cases} by `{line}` ({place})"));
        }
        Some(text)
    }
}

/// The nearest to the default variant that has a rule's options.
fn variant_of(control: &Control, host: usize, rule: &Rule) -> Option<Variant> {
    let choice: Vec<_> = rule.options.iter().map(chosen).collect();
    VariantSpace::new(control, host).nearest(&choice)
}

/// A key or table of the manifest.
fn key(subject: &Subject, offset: usize) -> Told {
    let text = subject.text;
    let word = word_at(text, offset);
    let typed = &text[word.clone()];
    let cursor = crate::context::toml::at(text, word.end);
    let of_table = |name: &str| {
        TABLES.iter().find(|table| match table.name.strip_suffix('*') {
            Some(begin) => name.starts_with(begin),
            None => table.name == name,
        })
    };
    if cursor.is_head {
        let line_end = text[offset..].find(']').map_or(text.len(), |end| offset + end);
        let start = text[..offset].rfind('[').map_or(word.start, |at| at + 1);
        return Some((start..line_end, of_table(text[start..line_end].trim())?.words.to_owned()));
    }
    let key = of_table(&cursor.table)?.keys.iter().find(|key| key.name == typed)?;
    let values = match key.values {
        [] => String::new(),
        values => format!("\n\none of: {}", values.join(", ")),
    };
    Some((word, format!("**{}**\n\n{}{values}", key.name, key.words)))
}
