//! `cascade/dead`: every declaration wins somewhere.

use crate::check::{Check, Scope};
use crate::example::Example;
use crate::sink::Sink;
use crate::survey::Survey;
use std::collections::{BTreeMap, HashMap};
use stilk_engine::cascade::{PseudoElement, Style, Styled};
use stilk_engine::css::parse::parse_declaration;
use stilk_engine::css::property::Flow;
use stilk_engine::css::substitute::CustomName;
use stilk_language::case::{Look, Unit, case_states, state_sets};
use stilk_language::system::{BoundDeclaration, Control, Rule, StateSet, Variant};
use stilk_text::diagnostic::{Diagnostic, Level};
use stilk_text::source::Span;

/// The check.
pub const CHECK: Check = Check {
    id: "cascade/dead",
    summary: "every declaration that stands under no condition wins in some case",
    why: "A declaration that always loses misleads whoever reads the sheet, and whoever changes it wonders why nothing \
          happens.",
    source: "CSS Cascading and Inheritance 5, section 6",
    level: Level::Warning,
    mend: "Take it out, or ask `stilk why` what beats it.",
    fails: Example::sheet("@control button {\n  background: {sea}; color: {ink};\n  color: {paper};\n}\n"),
    passes: Example::sheet("@control button {\n  background: {sea}; color: {paper};\n}\n"),
    scope: Scope::System(run),
};

/// So many variants are tried before a declaration is called dead; those with its options come first.
const TRIED: usize = 160;

/// Whether a declaration wins anywhere, and where it stands.
struct Life<'s> {
    wins: bool,
    control: &'s Control,
    declaration: &'s BoundDeclaration,
}

fn run(survey: &Survey, sink: &mut Sink) {
    // A trait's declaration stands in many controls: it lives where it wins in one of them.
    let mut lives: BTreeMap<Span, Life> = BTreeMap::new();
    for control in &survey.system.controls {
        let mut looks: HashMap<(usize, Variant, StateSet), Look> = HashMap::new();
        let default = control.default_variant();
        let mut sets = state_sets(survey.system, control);
        sets.sort_by_key(StateSet::len);
        let variants: Vec<Vec<Variant>> = (0..control.template.hosts.len())
            .map(|host| {
                let mut variants = control.variants(host);
                variants.sort_by_cached_key(|variant| default.distance(variant));
                variants
            })
            .collect();
        for rule in control.rules.iter().filter(|rule| can_be_asked(rule)) {
            for declaration in &rule.declarations {
                lives.entry(declaration.span).or_insert(Life { wins: false, control, declaration });
            }
            let waits = |lives: &BTreeMap<Span, Life>| {
                rule.declarations.iter().any(|d| lives.get(&d.span).is_some_and(|life| !life.wins))
            };
            // Most rules win in the first place that one thinks of; all others are not even listed then.
            for (most, taken) in [(1, 1), (TRIED, usize::MAX)] {
                if !waits(&lives) {
                    break;
                }
                for (host, variant, states) in places(control, rule, &sets, &variants, most).into_iter().take(taken) {
                    if !waits(&lives) {
                        break;
                    }
                    let key = (host, variant.clone(), states.clone());
                    let look = looks.entry(key).or_insert_with(|| {
                        let unit = Unit { control, host, variant, theme: survey.system.tokens.default_theme() };
                        survey.look_engine.look(&unit, &states)
                    });
                    for declaration in &rule.declarations {
                        if let Some(life) = lives.get_mut(&declaration.span).filter(|life| !life.wins) {
                            life.wins = wins_in(survey, control, rule, declaration, look);
                        }
                    }
                }
            }
            // Looks of one rule seldom serve another that is far away.
            if looks.len() > 400 {
                looks.clear();
            }
        }
    }
    for (span, Life { wins, control, declaration }) in lives {
        sink.decided(CHECK.id, 1);
        if wins {
            continue;
        }
        let message = format!("`{}` of `{}` wins in no case", declaration.name.value, control.name.value);
        let diagnostic = Diagnostic::new(CHECK.level, CHECK.id, span, message)
            .label("always loses")
            .mend("take it out, or ask `stilk why` what beats it");
        sink.find(Some(control), diagnostic);
    }
}

/// Whether cases bring about what a rule asks for.
fn can_be_asked(rule: &Rule) -> bool {
    let is_computed = |pseudo: PseudoElement| !pseudo.name().starts_with("-moz-");
    rule.conditions.is_empty()
        && rule.nested.is_empty()
        && rule.target.condition.is_empty()
        && (rule.target.pseudo.is_empty() || rule.target.pseudo_element().is_some_and(is_computed))
}

/// Cases in which a rule applies, the likely ones first, in so many variants of each host.
fn places(
    control: &Control,
    rule: &Rule,
    sets: &[StateSet],
    variants: &[Vec<Variant>],
    most: usize,
) -> Vec<(usize, Variant, StateSet)> {
    let own = case_states(rule);
    let mut sets: Vec<StateSet> = sets.iter().filter(|set| set.covers(&own)).cloned().collect();
    if !sets.contains(&own) {
        sets.insert(0, own);
    }
    let default = control.default_variant();
    let mut places = Vec::new();
    for (host, variants) in variants.iter().enumerate() {
        let variants = variants.iter().filter(|variant| rule.options.iter().all(|option| variant.has(*option)));
        for (index, variant) in variants.take(most).enumerate() {
            // Far variants are tried in the rule's own states only.
            let sets = if index < 24 { &sets[..] } else { &sets[..1] };
            places.extend(sets.iter().map(|set| (host, variant.clone(), set.clone())));
        }
    }
    places.sort_by_key(|(host, variant, set)| (default.distance(variant) + set.len(), *host));
    places
}

fn wins_in(survey: &Survey, control: &Control, rule: &Rule, declaration: &BoundDeclaration, look: &Look) -> bool {
    let pseudo = rule.target.pseudo_element();
    if pseudo.is_none() && !rule.target.pseudo.is_empty() {
        return false;
    }
    let nodes = look.mounted.elements().filter(|(name, _)| *name == rule.target.part.as_deref().unwrap_or_default());
    nodes.into_iter().any(|(_, node)| {
        look.styles.of(Styled { node, pseudo }).is_some_and(|style| wins_on(survey, control, declaration, style))
    })
}

fn wins_on(survey: &Survey, control: &Control, declaration: &BoundDeclaration, style: &Style) -> bool {
    let is_it = |span: Option<Span>| span == Some(declaration.span);
    if declaration.is_local() {
        let owner = declaration.owner.as_deref().unwrap_or(&control.name.value);
        let name = survey.system.names().local(owner, declaration.name.value.trim_start_matches('-'));
        let custom = style.custom(&CustomName::new(&name));
        return custom.and_then(|custom| custom.winner).is_some_and(|id| is_it(survey.tracer.span(id)));
    }
    let Ok(parsed) = parse_declaration(&declaration.name.value, "inherit") else { return true };
    // Which side a logical longhand is on depends on the direction; cases are left to right.
    let targets = parsed.targets();
    targets.is_empty()
        || targets.iter().any(|target| {
            let winner = style.winner(target.physical(Flow::LTR));
            winner.is_some_and(|id| is_it(survey.tracer.span(id)))
        })
}
