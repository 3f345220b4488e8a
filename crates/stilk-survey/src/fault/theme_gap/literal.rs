//! A colour that is written out where elsewhere a custom property stands that themes change.

use super::KIND;
use crate::fault::{Said, finding};
use crate::look::{color, distance};
use crate::rules::{Rules, style_rule};
use crate::site::Site;
use crate::theme::{Theme, asks_for};
use std::collections::{BTreeMap, BTreeSet};
use stilk_engine::cascade::stylesheet::DeclarationBody;
use stilk_engine::css::color::{Absolute, Space};
use stilk_engine::css::parse::Declared;
use stilk_engine::css::property::{Flow, Longhand};
use stilk_engine::css::serialize::to_css;
use stilk_text::source::Span;

/// So little chroma has black, white and grey in OKLCh: many things are white, and few for one reason.
const GREY: f64 = 0.015;

/// So far apart in OKLab is what a theme changes.
const CHANGED: f64 = 0.05;

/// A custom property that themes change.
struct Themed {
    usual: Absolute,
    /// What declarations of controls paint with it: `border`, `background`, `outline`.
    paints: BTreeSet<&'static str>,
}

/// What rules of controls write out; `is_of_controls` tells by list and rule whether one matches a control.
pub fn tell(
    site: &Site,
    rules: &[Rules],
    themes: &[Theme],
    is_of_controls: &dyn Fn(usize, usize) -> bool,
    say: &mut dyn FnMut(Said),
) {
    let themed = themed(site, rules, themes, is_of_controls);
    if themed.is_empty() {
        return;
    }
    let mut known: BTreeSet<Span> = BTreeSet::new();
    for (list, rules) in rules.iter().enumerate() {
        for (index, rule) in rules.all.iter().enumerate() {
            let is_of_theme = rule.compounds.iter().any(|compound| asks_for(themes, compound));
            if is_of_theme || rule.is_conditional || !is_of_controls(list, index) {
                continue;
            }
            let style = style_rule(site, list, rule);
            for declaration in style.declarations.iter() {
                let DeclarationBody::Property(parsed) = &declaration.body else { continue };
                let Declared::Values(values) = &parsed.declared else { continue };
                let found = values.iter().find_map(|(target, value)| {
                    let paints = paints(target.physical(Flow::LTR))?;
                    let own = color(&to_css(value))?;
                    let is_it = |one: &Themed| one.paints.contains(paints) && distance(&one.usual, &own) < 1e-4;
                    themed.iter().find(|(_, one)| own.alpha == 1.0 && is_it(one)).map(|(name, _)| (name, value))
                });
                let Some((name, value)) = found else { continue };
                let traced = &site.lists[list].sheets[usize::from(rule.sheet)];
                let Some(span) = traced.span(&site.sources, style.file, declaration.offset) else { continue };
                if !known.insert(span) {
                    continue;
                }
                let message = format!(
                    "`{}` of `{}` is `{name}` written out: it stays in every theme, where `{name}` changes",
                    to_css(value),
                    style.selector_text()
                );
                let diagnostic = finding(&KIND, Some(span), message)
                    .label("no theme changes this")
                    .mend(format!("write `var({name})`"));
                let (place, family) = (site.sources.place(span), String::new());
                say(Said { cause: format!("{span:?}"), diagnostic, place, controls: 0, page: 0, family });
            }
        }
    }
}

/// What a colour paints, where another one of the same kind can be told apart.
fn paints(longhand: Longhand) -> Option<&'static str> {
    let name = longhand.name();
    ["background", "border", "outline"].into_iter().find(|kind| longhand.is_color() && name.starts_with(kind))
}

/// Custom properties that themes change to another colour, and that controls paint with.
fn themed(
    site: &Site,
    rules: &[Rules],
    themes: &[Theme],
    is_of_controls: &dyn Fn(usize, usize) -> bool,
) -> BTreeMap<String, Themed> {
    let mut usual: BTreeMap<String, Vec<Option<Absolute>>> = BTreeMap::new();
    let mut changed: BTreeMap<String, Vec<Absolute>> = BTreeMap::new();
    let mut readers: BTreeMap<String, BTreeSet<&'static str>> = BTreeMap::new();
    for (list, rules) in rules.iter().enumerate() {
        for (index, rule) in rules.all.iter().enumerate() {
            let is_of_theme = rule.compounds.iter().any(|compound| asks_for(themes, compound));
            for declaration in style_rule(site, list, rule).declarations.iter() {
                match &declaration.body {
                    DeclarationBody::Custom(name, text) if is_of_theme => {
                        changed.entry(name.to_string()).or_default().extend(color(text.trim()));
                    }
                    DeclarationBody::Custom(name, text) if !rule.is_conditional => {
                        usual.entry(name.to_string()).or_default().push(color(text.trim()));
                    }
                    DeclarationBody::Property(parsed) => {
                        let Declared::Pending(text) = &parsed.declared else { continue };
                        let paints = parsed.targets().into_iter().find_map(|target| paints(target.physical(Flow::LTR)));
                        let Some(paints) = paints.filter(|_| is_of_controls(list, index)) else { continue };
                        for piece in text.split("var(").skip(1) {
                            let name = piece.trim_start().split([',', ')', ' ']).next().unwrap_or_default();
                            readers.entry(name.to_owned()).or_default().insert(paints);
                        }
                    }
                    DeclarationBody::Custom(..) => {}
                }
            }
        }
    }
    let is_colourful = |color: &Absolute| color.to(Space::Oklch).components[1].is_some_and(|chroma| chroma > GREY);
    readers
        .into_iter()
        .filter_map(|(name, paints)| {
            // What is set to several values is not one colour.
            let [Some(usual)] = usual.get(&name)?.as_slice() else { return None };
            let changes = changed.get(&name)?.iter().any(|other| distance(usual, other) > CHANGED);
            (changes && is_colourful(usual)).then_some((name, Themed { usual: *usual, paints }))
        })
        .collect()
}
