//! `cascade/dead`: every declaration wins somewhere.

use crate::check::{Check, Scope};
use crate::example::Example;
use crate::sink::Sink;
use crate::survey::Survey;
use std::cell::LazyCell;
use std::collections::{BTreeMap, HashMap, HashSet};
use stilk_engine::cascade::{PseudoElement, Style, Styled};
use stilk_engine::css::parse::parse_declaration;
use stilk_engine::css::property::Flow;
use stilk_engine::css::substitute::CustomName;
use stilk_language::case::{Look, Unit, applies_in, case_states, state_sets};
use stilk_language::system::space::chosen;
use stilk_language::system::{BoundDeclaration, Control, Rule, StateSet, System, Variant, VariantSpace};
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
    /// The block that it stands in.
    block: Span,
    /// What beats it where it was asked for first.
    winner: Option<Span>,
}

/// Every declaration of the system's sheets, by where it stands.
struct Blocks {
    /// The block around it.
    of: HashMap<Span, Span>,
    /// Those that stand under a condition: elsewhere what they beat wins.
    conditional: HashSet<Span>,
}

impl Blocks {
    fn new(system: &System) -> Blocks {
        let mut blocks = Blocks { of: HashMap::new(), conditional: HashSet::new() };
        for rule in system.controls.iter().flat_map(|control| &control.rules) {
            let is_conditional = !rule.conditions.is_empty() || !rule.nested.is_empty() || !rule.target.is_plain();
            for declaration in &rule.declarations {
                blocks.of.insert(declaration.span, rule.span);
                if is_conditional {
                    blocks.conditional.insert(declaration.span);
                }
            }
        }
        blocks
    }
}

/// Declarations of one block that win nowhere for one reason.
struct Group<'s> {
    lives: Vec<(Span, Life<'s>)>,
}

impl Group<'_> {
    /// Whether the same declaration or the same block beats another one as well.
    fn takes(&self, life: &Life, blocks: &Blocks) -> bool {
        let Some(winner) = life.winner else { return false };
        self.lives.iter().any(|(_, other)| {
            let pair = |life: &Life| Some((life.block, blocks.of.get(&life.winner?)?));
            other.winner == Some(winner) || pair(other).is_some() && pair(other) == pair(life)
        })
    }
}

fn run(survey: &Survey, sink: &mut Sink) {
    let blocks = Blocks::new(survey.system);
    // A trait's declaration stands in many controls: it lives where it wins in one of them.
    let mut lives: BTreeMap<Span, Life> = BTreeMap::new();
    for control in &survey.system.controls {
        let mut looks: HashMap<(usize, Variant, StateSet), Look> = HashMap::new();
        let default = control.default_variant();
        let mut sets = state_sets(survey.system, control);
        sets.sort_by_key(StateSet::len);
        let hosts = 0..control.template.hosts.len();
        let spaces: Vec<VariantSpace> = hosts.clone().map(|host| control.space(host)).collect();
        let all = LazyCell::new(|| {
            let of = |host| {
                let mut variants = control.variants(host);
                variants.sort_by_cached_key(|variant| default.distance(variant));
                variants
            };
            hosts.map(of).collect::<Vec<Vec<Variant>>>()
        });
        for rule in control.rules.iter().filter(|rule| can_be_asked(rule)) {
            for declaration in &rule.declarations {
                let block = rule.span;
                lives.entry(declaration.span).or_insert(Life {
                    wins: false,
                    control,
                    declaration,
                    block,
                    winner: None,
                });
            }
            let waits = |lives: &BTreeMap<Span, Life>| {
                rule.declarations.iter().any(|d| lives.get(&d.span).is_some_and(|life| !life.wins))
            };
            // Most rules win in the first place that one thinks of; all others are not even listed then.
            let choice: Vec<_> = rule.options.iter().map(chosen).collect();
            let nearest = || spaces.iter().map(|space| space.nearest(&choice).into_iter().collect()).collect();
            let with_all = || {
                let of = |variants: &Vec<Variant>| {
                    variants.iter().filter(|variant| variant.has_all(&rule.options)).take(TRIED).cloned().collect()
                };
                all.iter().map(of).collect()
            };
            for (variants, taken) in [(&nearest as &dyn Fn() -> Vec<Vec<Variant>>, 1), (&with_all, usize::MAX)] {
                if !waits(&lives) {
                    break;
                }
                for (host, variant, states) in places(control, rule, &sets, variants()).into_iter().take(taken) {
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
                            let asked = Asked { survey, blocks: &blocks, control, rule, declaration };
                            life.wins = asked.wins_in(look, &mut life.winner);
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
    let mut groups: Vec<Group> = Vec::new();
    for (span, life) in lives {
        sink.decided(CHECK.id, 1);
        if life.wins {
            continue;
        }
        match groups.iter_mut().find(|group| group.takes(&life, &blocks)) {
            Some(group) => group.lives.push((span, life)),
            None => groups.push(Group { lives: vec![(span, life)] }),
        }
    }
    for group in groups {
        let [(span, first), others @ ..] = group.lives.as_slice() else { continue };
        let name = |life: &Life| life.declaration.name.value.clone();
        let named: Vec<String> = group.lives.iter().take(3).map(|(_, life)| format!("`{}`", name(life))).collect();
        let names = match group.lives.len() {
            1 => named.concat(),
            2 | 3 => format!("{} and {}", named[..named.len() - 1].join(", "), named[named.len() - 1]),
            more => format!("{} and {} more", named.join(", "), more - named.len()),
        };
        let verb = if others.is_empty() { "wins" } else { "win" };
        let message = format!("{names} of `{}` {verb} in no case", first.control.name.value);
        let mut diagnostic = Diagnostic::new(CHECK.level, CHECK.id, *span, message)
            .label("always loses")
            .mend("take it out, or ask `stilk why` what beats it");
        for (span, life) in others {
            diagnostic = diagnostic.related(*span, format!("so does `{}`", name(life)));
        }
        if let Some(winner) = first.winner.filter(|winner| blocks.of.contains_key(winner)) {
            diagnostic = diagnostic.related(winner, "this beats it");
        }
        sink.find(Some(first.control), diagnostic);
    }
}

/// Whether cases bring about what a rule asks for.
fn can_be_asked(rule: &Rule) -> bool {
    let is_computed = |pseudo: PseudoElement| !pseudo.name().starts_with("-moz-");
    rule.conditions.is_empty()
        && rule.nested.is_empty()
        && rule.target.is_plain()
        && (rule.target.pseudo.is_empty() || rule.target.pseudo_element().is_some_and(is_computed))
}

/// Cases in which a rule applies, the likely ones first, in some variants of each host that have its options.
fn places(
    control: &Control,
    rule: &Rule,
    sets: &[StateSet],
    variants: Vec<Vec<Variant>>,
) -> Vec<(usize, Variant, StateSet)> {
    let own = case_states(rule);
    let mut sets: Vec<StateSet> = sets.iter().filter(|set| applies_in(rule, set)).cloned().collect();
    if !sets.contains(&own) {
        sets.insert(0, own);
    }
    let default = control.default_variant();
    let mut places = Vec::new();
    for (host, variants) in variants.into_iter().enumerate() {
        for (index, variant) in variants.into_iter().enumerate() {
            // Far variants are tried in the rule's own states only.
            let sets = if index < 24 { &sets[..] } else { &sets[..1] };
            places.extend(sets.iter().map(|set| (host, variant.clone(), set.clone())));
        }
    }
    places.sort_by_key(|(host, variant, set)| (default.distance(variant) + set.len(), *host));
    places
}

/// A declaration that is asked after.
struct Asked<'a, 's> {
    survey: &'a Survey<'s>,
    blocks: &'a Blocks,
    control: &'a Control,
    rule: &'a Rule,
    declaration: &'a BoundDeclaration,
}

impl Asked<'_, '_> {
    /// Whether it wins on any element of a look; what beats it is kept where nothing is known yet.
    fn wins_in(&self, look: &Look, winner: &mut Option<Span>) -> bool {
        let target = &self.rule.target;
        let pseudo = target.pseudo_element();
        if pseudo.is_none() && !target.pseudo.is_empty() {
            return false;
        }
        let part = target.part.as_deref().unwrap_or_default();
        let nodes = look.mounted.elements().filter(|(name, _)| *name == part);
        nodes
            .into_iter()
            .any(|(_, node)| look.styles.of(Styled { node, pseudo }).is_some_and(|style| self.wins_on(style, winner)))
    }

    fn wins_on(&self, style: &Style, winner: &mut Option<Span>) -> bool {
        let Asked { survey, blocks, control, declaration, .. } = self;
        let mut is_beaten_by = |span: Option<Span>| {
            *winner = winner.or(span);
            false
        };
        if declaration.is_local() {
            let owner = declaration.owner.as_deref().unwrap_or(&control.name.value);
            let name = survey.system.names().local(owner, declaration.name.value.trim_start_matches('-'));
            let Some(id) = style.custom(&CustomName::new(&name)).and_then(|custom| custom.winner) else { return false };
            let span = survey.tracer.span(id);
            return self.is_it(span)
                || span.is_some_and(|span| blocks.conditional.contains(&span))
                || is_beaten_by(span);
        }
        let Ok(parsed) = parse_declaration(&declaration.name.value, "inherit") else { return true };
        // Which side a logical longhand is on depends on the direction; cases are left to right.
        let targets = parsed.targets();
        targets.is_empty()
            || targets.iter().any(|target| {
                let longhand = target.physical(Flow::LTR);
                let won = style.winner(longhand).and_then(|id| survey.tracer.span(id));
                if self.is_it(won) {
                    return true;
                }
                // Where a condition does not hold, what it is stronger than wins.
                let mut general = style
                    .candidates(longhand)
                    .into_iter()
                    .map(|candidate| survey.tracer.span(candidate.id))
                    .skip_while(|span| span.is_some_and(|span| blocks.conditional.contains(&span)));
                let strongest = general.next().flatten();
                self.is_it(strongest) || is_beaten_by(strongest.or(won))
            })
    }

    /// Whether a place is that of the declaration, or of the one that it stands in for in other browsers: a prefixed one for
    /// the plain one, and an older value for one that not all of them know.
    fn is_it(&self, span: Option<Span>) -> bool {
        let Some(span) = span else { return false };
        let own = self.declaration;
        if span == own.span {
            return true;
        }
        let Some(winner) = self.rule.declarations.iter().find(|other| other.span == span) else { return false };
        let (name, winning) = (own.name.value.as_str(), winner.name.value.as_str());
        let plain = name.strip_prefix('-').and_then(|rest| rest.split_once('-')).map(|(_, plain)| plain);
        let text = |declaration: &BoundDeclaration| {
            let whole = self.survey.sources.text(declaration.span);
            whole.split_once(':').map_or(String::new(), |(_, value)| value.to_ascii_lowercase())
        };
        plain == Some(winning) || name == winning && is_newer(&text(winner)) && !is_newer(&text(own))
    }
}

/// Whether a value is one that browsers of the last years do not know. One with a reference in it is kept by all of them and
/// no value where it is none: nothing stands in for it.
fn is_newer(value: &str) -> bool {
    const WORDS: [&str; 25] = [
        "oklch(",
        "oklab(",
        "lch(",
        "lab(",
        "color(",
        "color-mix(",
        "light-dark(",
        "from ",
        "clamp(",
        "min(",
        "max(",
        "round(",
        "env(",
        "image-set(",
        "anchor(",
        "dvh",
        "svh",
        "lvh",
        "dvw",
        "cqi",
        "lh",
        "stretch",
        "subgrid",
        "fit-content",
        "linear(",
    ];
    !value.contains(['{', '}']) && !value.contains("var(") && WORDS.iter().any(|word| value.contains(word))
}
