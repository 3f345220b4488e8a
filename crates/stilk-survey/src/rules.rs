//! The rules of a list of stylesheets, taken apart: what each asks for, and what it sets.

use crate::site::{SheetList, Site};
use crate::state_class;
use std::sync::Arc;
use stilk_checks::trace::TracedSheet;
use stilk_engine::cascade::compound::{Compound, StateWay, compounds, relative, without_states};
use stilk_engine::cascade::order::DeclarationId;
use stilk_engine::cascade::selector::{self, One};
use stilk_engine::cascade::stylesheet::{Condition, DeclarationBody, StyleRule};
use stilk_engine::cascade::{LonghandSet, PseudoElement};
use stilk_engine::css::parse::{Declared, ParsedDeclaration};
use stilk_engine::css::property::{Flow, Longhand};
use stilk_engine::css::serialize::to_css;
use stilk_text::source::{Sources, Span};

/// One selector of a rule, with what it sets.
pub struct Rule {
    /// Its sheet in the list, from 0.
    pub sheet: u16,
    /// Its place among the rules of the sheet.
    pub index: u32,
    /// The place of the first rule of its block there: the selectors of a list share their declarations.
    pub block: u32,
    /// What each of its elements is asked for, the one that is styled first.
    pub compounds: Vec<Compound>,
    /// The same rule whatever the states are: what it matches, it matches in some state.
    pub stateless: Option<One>,
    /// Classes that it asks for and that say a state.
    pub state_classes: Vec<String>,
    /// The generated box that it styles, by its name.
    pub pseudo: Option<String>,
    /// The longhands that it sets, in text from left to right.
    pub sets: LonghandSet,
    /// The custom properties that it sets.
    pub customs: Vec<String>,
    /// Whether it stands under conditions on media or containers.
    pub is_conditional: bool,
}

impl Rule {
    /// What the styled element is asked for.
    pub fn subject(&self) -> &Compound {
        &self.compounds[0]
    }

    /// What the elements around it are asked for.
    pub fn around(&self) -> &[Compound] {
        &self.compounds[1..]
    }

    /// Whether it asks for a state anywhere.
    pub fn asks_state(&self) -> bool {
        !self.state_classes.is_empty() || self.compounds.iter().any(|compound| !compound.states.is_empty())
    }

    /// The ways in which what it asks of states may hold: the states of each, as CSS, whichever element is in them.
    pub fn state_ways(&self) -> Vec<Vec<String>> {
        let all: Vec<String> = self.compounds.iter().flat_map(|compound| &compound.states).cloned().collect();
        let held = |way: StateWay| way.held.iter().flat_map(|state| with_inner(state)).collect();
        StateWay::all_of(&all).into_iter().map(held).collect()
    }

    /// Whether it styles an element, or a generated box that counts for how one looks.
    pub fn is_of_looks(&self) -> bool {
        self.pseudo.as_deref().is_none_or(|name| PseudoElement::ALL.iter().any(|known| known.name() == name))
    }
}

/// A state, or those that a `:has()` asks of what is inside.
fn with_inner(state: &str) -> Vec<String> {
    let Some(inner) = state.strip_prefix(":has(").and_then(|rest| rest.strip_suffix(')')) else {
        return vec![state.to_owned()];
    };
    let list = selector::parse_list(relative(inner).1);
    let one = list.as_ref().and_then(|list| list.slice().first());
    let states: Vec<String> = one.into_iter().flat_map(compounds).flat_map(|compound| compound.states).collect();
    StateWay::all_of(&states).into_iter().flat_map(|way| way.held).collect()
}

/// The rules of a list of stylesheets.
pub struct Rules {
    /// In the order of the cascade, each selector of a list on its own.
    pub all: Vec<Rule>,
    /// By sheet and place there: where each stands in `all`.
    starts: Vec<usize>,
}

impl Rules {
    /// Takes the rules of a list apart; in quirks mode classes are the same in any case, and are taken in lower case.
    pub fn of(list: &SheetList, quirks: bool) -> Rules {
        let mut all = Vec::new();
        let mut starts = Vec::new();
        for (sheet, traced) in list.sheets.iter().enumerate() {
            starts.push(all.len());
            let mut block = 0;
            let all_rules = &traced.parsed.rules;
            for (index, rule) in all_rules.iter().enumerate() {
                let is_same =
                    index > 0 && Arc::ptr_eq(&all_rules[index - 1].declarations.list, &rule.declarations.list);
                block = if is_same { block } else { index as u32 };
                all.push(Rule { block, ..taken_apart(sheet as u16, index as u32, rule, quirks) });
            }
        }
        Rules { all, starts }
    }

    /// Whether some rule lets the page be drawn in the dark where the device asks for that (`color-scheme: light dark`).
    pub fn follow_scheme(&self, list: &SheetList) -> bool {
        let declares = |rule: &&Rule| rule.sets.has(Longhand::ColorScheme) && !rule.is_conditional;
        self.all.iter().filter(declares).any(|rule| {
            let style = &list.sheets[usize::from(rule.sheet)].parsed.rules[rule.index as usize];
            style.declarations.iter().any(|declaration| match &declaration.body {
                DeclarationBody::Property(ParsedDeclaration { declared: Declared::Values(values), .. }) => {
                    values.iter().any(|(target, value)| {
                        target.physical(Flow::LTR) == Longhand::ColorScheme && {
                            let text = to_css(value);
                            text.contains("dark") && text.contains("light")
                        }
                    })
                }
                _ => false,
            })
        })
    }

    /// The rule that a declaration stands in; nothing for those of the browser and of attributes.
    pub fn of_declaration(&self, id: DeclarationId) -> Option<&Rule> {
        if id.sheet == 0 || id.is_of_attributes() {
            return None;
        }
        self.all.get(self.starts.get(usize::from(id.sheet) - 1)? + id.rule as usize)
    }

    /// The same as an index into all of them.
    pub fn index_of(&self, id: DeclarationId) -> Option<usize> {
        if id.sheet == 0 || id.is_of_attributes() {
            return None;
        }
        Some(self.starts.get(usize::from(id.sheet) - 1)? + id.rule as usize)
    }
}

fn taken_apart(sheet: u16, index: u32, rule: &StyleRule, quirks: bool) -> Rule {
    let mut compounds = compounds(&rule.selector);
    if quirks {
        let names = compounds.iter_mut().flat_map(|compound| compound.classes.iter_mut().chain(&mut compound.ids));
        names.for_each(|name| name.make_ascii_lowercase());
    }
    let (bare, state_classes): (Vec<Compound>, Vec<Vec<String>>) = compounds.iter().map(state_class::without).unzip();
    let stateless = selector::parse_list(&without_states(&bare)).and_then(|list| match list.slice() {
        [one] => Some(one.clone()),
        _ => None,
    });
    let mut sets = LonghandSet::default();
    let mut customs = Vec::new();
    let of_quirks = rule.declarations.quirks.iter().map(|(_, declaration)| declaration).filter(|_| quirks);
    for declaration in rule.declarations.iter().chain(of_quirks) {
        match &declaration.body {
            DeclarationBody::Property(parsed) => {
                parsed.targets().into_iter().for_each(|target| sets.add(target.physical(Flow::LTR)));
            }
            DeclarationBody::Custom(name, _) => customs.push(name.to_string()),
        }
    }
    let is_conditional = rule.conditions.iter().any(|c| matches!(c, Condition::Media(_) | Condition::Container(_)));
    let pseudo = rule.pseudo.as_ref().map(|pseudo| pseudo.0.clone());
    let state_classes = state_classes.concat();
    Rule { sheet, index, block: index, compounds, stateless, state_classes, pseudo, sets, customs, is_conditional }
}

/// The rule in its stylesheet.
pub fn style_rule<'s>(site: &'s Site, list: usize, rule: &Rule) -> &'s StyleRule {
    &site.lists[list].sheets[usize::from(rule.sheet)].parsed.rules[rule.index as usize]
}

/// Where a rule's selectors stand.
pub fn span_of(sources: &Sources, sheets: &[TracedSheet], rule: &Rule) -> Option<Span> {
    let traced = &sheets[usize::from(rule.sheet)];
    let style = &traced.parsed.rules[rule.index as usize];
    let whole = traced.span(sources, style.file, style.offset)?;
    // Up to the brace: what a list says is said of all its selectors.
    let text = sources.text(whole);
    let end = text.find('{').unwrap_or(text.len());
    let kept = text[..end].trim_end().len();
    Some(Span { end: whole.start + kept as u32, ..whole })
}
