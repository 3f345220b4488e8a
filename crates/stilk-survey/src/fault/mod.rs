//! What only foreign stylesheets do wrong, a file each. Each looks at a control in its place and says what it finds; one cause
//! is one finding, wherever it shows.

pub mod dropped;
pub mod hosts_differ;
pub mod lacks_class;
pub mod leak;
pub mod near_looks;
pub mod never_wins;
pub mod stray;
pub mod theme_gap;
pub mod wiped;

use crate::family::{Family, Matched, Member};
use crate::rules::{Rule, Rules, span_of};
use std::collections::{BTreeMap, BTreeSet};
use stilk_checks::trace::TracedSheet;
use stilk_engine::cascade::compound::Compound;
use stilk_engine::cascade::stylesheet::{Condition, DeclarationBody, StyleRule};
use stilk_engine::cascade::{Media, Styled};
use stilk_engine::css::parse::{Declared, ParsedDeclaration};
use stilk_engine::css::property::{Flow, Longhand};
use stilk_engine::css::serialize::to_css;
use stilk_language::case::Look;
use stilk_language::system::{StateSet, System};
use stilk_text::diagnostic::{Diagnostic, Evidence, Level};
use stilk_text::source::{Sources, Span};

/// What one of these checks is.
pub struct Kind {
    /// Its id.
    pub id: &'static str,
    /// One sentence: when it holds.
    pub summary: &'static str,
    /// Why it matters.
    pub why: &'static str,
    /// Its level.
    pub level: Level,
    /// What to do about it.
    pub mend: &'static str,
    /// What it rests on.
    pub source: &'static str,
    /// A page that it finds a fault in.
    pub fails: &'static str,
    /// The same without it.
    pub passes: &'static str,
}

/// Every one.
pub const KINDS: [&Kind; 10] = [
    &dropped::RULE,
    &dropped::DECLARATION,
    &hosts_differ::KIND,
    &lacks_class::KIND,
    &leak::KIND,
    &near_looks::KIND,
    &never_wins::KIND,
    &stray::KIND,
    &theme_gap::KIND,
    &wiped::KIND,
];

/// One by its id.
pub fn find(id: &str) -> Option<&'static Kind> {
    KINDS.into_iter().find(|kind| kind.id == id)
}

/// A control in its place, as these look at it.
pub struct Seen<'s> {
    /// The system of what was found.
    pub system: &'s System,
    /// The texts of all pages and stylesheets.
    pub sources: &'s Sources,
    /// The page's stylesheets.
    pub sheets: &'s [TracedSheet],
    /// Their rules.
    pub rules: &'s Rules,
    /// The control.
    pub member: &'s Member,
    /// Its family.
    pub family: &'s Family,
    /// The rules that match it in some state.
    pub matched: &'s Matched,
    /// Its looks, rest first.
    pub looks: &'s [(StateSet, Look)],
    /// What media queries are answered by.
    pub media: &'s Media,
    /// The theme that was put on the page, where it is not the usual one.
    pub theme: Option<&'s str>,
    /// Where it stands, `page.html:12`.
    pub place: &'s str,
    /// How many controls it stands for.
    pub stands_for: u64,
}

impl<'s> Seen<'s> {
    /// The rule in its stylesheet.
    pub fn style_rule(&self, rule: &Rule) -> &'s StyleRule {
        &self.sheets[usize::from(rule.sheet)].parsed.rules[rule.index as usize]
    }

    /// Where a rule stands.
    pub fn span_of(&self, rule: &Rule) -> Option<Span> {
        span_of(self.sources, self.sheets, rule)
    }

    /// Whether the conditions that a rule stands in hold here; nothing where that takes an element's container.
    pub fn holds(&self, rule: &Rule) -> Option<bool> {
        let conditions = &self.style_rule(rule).conditions;
        if conditions.iter().any(|c| matches!(c, Condition::Container(_) | Condition::Unknown(_))) {
            return None;
        }
        Some(conditions.iter().all(|c| match c {
            Condition::Media(list) => list.matches(self.media),
            _ => true,
        }))
    }

    /// The rule that gives a box a value in a look.
    pub fn winner(&self, look: &Look, at: Styled, longhand: Longhand) -> Option<&'s Rule> {
        self.rules.of_declaration(look.styles.of(at)?.winner(longhand)?)
    }

    /// The place of the declaration that gives it.
    pub fn declaration(&self, look: &Look, at: Styled, longhand: Longhand) -> Option<Span> {
        let id = look.styles.of(at)?.winner(longhand)?;
        let rule = self.rules.of_declaration(id)?;
        let traced = &self.sheets[usize::from(rule.sheet)];
        let style = &traced.parsed.rules[rule.index as usize];
        traced.span(self.sources, style.file, style.declarations.get(id.declaration)?.offset)
    }

    /// What a rule declares of a longhand, as CSS; nothing where that takes references.
    pub fn declared(&self, rule: &Rule, longhand: Longhand) -> Option<String> {
        let declarations = self.style_rule(rule).declarations.iter().rev();
        declarations.into_iter().find_map(|declaration| match &declaration.body {
            DeclarationBody::Property(ParsedDeclaration { declared: Declared::Values(values), .. }) => {
                let value = values.iter().find(|(target, _)| target.physical(Flow::LTR) == longhand);
                value.map(|(_, value)| to_css(value))
            }
            _ => None,
        })
    }

    /// Whether a rule speaks of this control by something that is its own: a class or id that it has, an attribute, or a
    /// selector of its family's base.
    pub fn is_own(&self, rule: &Rule) -> bool {
        let subject = rule.subject();
        let is_base = self.family.name.split(", ").any(|key| is_key(subject, key));
        // An attribute that tells kinds of fields apart is nobody's own.
        let names_itself = !subject.classes.is_empty()
            || !subject.ids.is_empty()
            || !subject.others.is_empty()
            || subject.attributes.iter().any(|text| !text.starts_with("[type"));
        is_base || names_itself
    }

    /// Whether its family has a base of its own: a class.
    pub fn has_class(&self) -> bool {
        self.family.is_styled && self.family.name.split(", ").any(|key| key.starts_with('.'))
    }

    /// The control as a person points at it.
    pub fn tag(&self) -> &str {
        &self.member.tag
    }

    /// The control by its family and options: `.cta.cta-ghost`.
    pub fn name(&self) -> String {
        let options: Vec<String> =
            self.member.options.iter().map(|option| option.text()).filter(|text| !text.starts_with("in ")).collect();
        let base = self.family.name.split(", ").next().unwrap_or_default();
        format!("{base}{}", options.concat())
    }
}

/// Whether a compound is one of the selectors that make a family's base.
fn is_key(subject: &Compound, key: &str) -> bool {
    let key = key.rsplit([' ', '>', '+', '~']).next().unwrap_or(key);
    match key.strip_prefix('.') {
        Some(class) => subject.classes.iter().any(|own| own == class),
        None => {
            let (local, rest) = key.split_once('[').map_or((key, ""), |(local, rest)| (local, rest));
            subject.classes.is_empty()
                && subject.local.as_deref() == Some(local)
                && (rest.is_empty() || !subject.attributes.is_empty())
        }
    }
}

/// A finding, with what makes it one with others.
pub struct Said {
    /// What it is about.
    pub cause: String,
    /// The finding.
    pub diagnostic: Diagnostic,
    /// Where it showed first.
    pub place: String,
    /// How many controls it is true of.
    pub controls: u64,
    /// The page, by index.
    pub page: usize,
    /// Its family.
    pub family: String,
}

/// Findings that were said on pages, each cause once.
#[derive(Default)]
pub struct Gathered {
    /// By check and cause: what was said first, on which pages it is so, and of which families.
    found: BTreeMap<(&'static str, String), Places>,
}

/// What was said first of a cause, the pages on which it is so, and the families of which.
type Places = (Said, BTreeSet<usize>, BTreeSet<String>);

impl Gathered {
    /// Takes a finding in.
    pub fn add(&mut self, said: Said) {
        let key = (said.diagnostic.id, said.cause.clone());
        match self.found.get_mut(&key) {
            Some((known, pages, families)) => {
                known.controls += said.controls;
                pages.insert(said.page);
                families.insert(said.family);
            }
            None => {
                let (pages, families) = (BTreeSet::from([said.page]), BTreeSet::from([said.family.clone()]));
                self.found.insert(key, (said, pages, families));
            }
        }
    }

    /// All of them as findings, with the number of places.
    /// Only those of some checks, where any is named.
    pub fn into_findings(self, only: &[&str]) -> Vec<Diagnostic> {
        let asked = self.found.into_values().filter(|(said, ..)| only.is_empty() || only.contains(&said.diagnostic.id));
        let findings = asked.map(|(said, pages, families)| {
            let mut diagnostic = said.diagnostic;
            // What is wrong in a stylesheet alone has no places.
            diagnostic.evidence = (said.controls > 0).then(|| Evidence {
                cases: said.controls,
                worst: said.place,
                figures: String::new(),
                controls: families.into_iter().filter(|family| !family.is_empty()).collect(),
                pages: Some(pages.len() as u64),
            });
            diagnostic
        });
        findings.collect()
    }
}

/// A finding of a kind.
fn finding(kind: &'static Kind, span: Option<Span>, message: String) -> Diagnostic {
    Diagnostic::new(kind.level, kind.id, span, message)
}
