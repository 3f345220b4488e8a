//! `foreign/never-wins`: each rule for a state or a variant of a control does something somewhere.

use super::{Kind, Said, Seen, finding};
use crate::place::states_of;
use crate::rules::Rule;
use crate::state_class::says_state;
use std::collections::{BTreeMap, BTreeSet};
use stilk_engine::cascade::matching::{ElementRef, MatchingCaches};
use stilk_engine::cascade::{LonghandSet, PseudoElement, Styled};
use stilk_engine::dom::NodeId;
use stilk_text::diagnostic::Level;
use stilk_text::source::Span;

/// What it is.
pub const KIND: Kind = Kind {
    id: "foreign/never-wins",
    summary: "each rule for a state or a variant of a control wins somewhere",
    why: "`#send` sets a fill, and an id is stronger than any class: `.cta:disabled` was written, is read by everybody who looks \
          for it, and never shows.",
    level: Level::Warning,
    mend: "Let the stronger rule ask for less (a class for the id), or say the state there as well.",
    source: "CSS Cascade 5, 6.1 (specificity)",
    fails: "<style>\n\
             .act { padding: 8px 16px; border: 1px solid #14536b; background: #14536b; color: #fff; font: 16px/1.5 serif; text-decoration: none }\n\
             #send { background: #1d6b3a }\n\
             .act:hover { background: #0b3a4c }\n\
             </style>\n\
             <button class=\"act\" id=\"send\">Send</button>\n\
             ",
    passes: "<style>\n\
             .act { padding: 8px 16px; border: 1px solid #14536b; background: #14536b; color: #fff; font: 16px/1.5 serif; text-decoration: none }\n\
             .act-send { background: #1d6b3a }\n\
             .act:hover { background: #0b3a4c }\n\
             </style>\n\
             <button class=\"act act-send\">Send</button>\n\
             ",
};

/// What became of one block of rules, on all controls.
#[derive(Default)]
pub struct Fate {
    /// How many controls it applied to in some state.
    applied: u64,
    /// Whether any of its declarations won somewhere, or may have.
    won: bool,
    /// Of controls on which all that it sets lost in a state: to which rule, where and in how many.
    lost: Vec<Loss>,
    place: String,
    page: usize,
}

struct Loss {
    to: String,
    at: Option<Span>,
    property: &'static str,
    state: String,
    /// ` in dusk`, where it is so in a theme.
    theme: String,
    place: String,
    page: usize,
    controls: u64,
    family: String,
    name: String,
}

/// Elements that are controls wherever they stand.
const NATIVE: [&str; 5] = ["button", "input", "select", "summary", "textarea"];

/// By list of stylesheets, sheet there and block.
pub type Fates = BTreeMap<(usize, u16, u32), (Fate, Told)>;

/// How a block is told of.
pub struct Told {
    selector: String,
    span: Option<Span>,
    /// The classes that its element is asked for; where there are none, whether that is a native control.
    classes: Vec<String>,
    is_of_controls: bool,
    asks_state: bool,
    is_of_variant: bool,
}

/// Looks at a control, and notes which rules won.
pub fn look(seen: &Seen, list: usize, fates: &mut Fates) {
    let all = seen
        .matched
        .host
        .iter()
        .map(|index| (*index, true))
        .chain(seen.matched.inside.iter().map(|index| (*index, false)));
    for (index, is_of_host) in all {
        let rule = &seen.rules.all[index];
        let is_of_variant =
            seen.member.options.iter().any(|option| rule.subject().text().contains(option.text().as_str()));
        if !(rule.asks_state() || is_of_variant) || seen.holds(rule) != Some(true) {
            continue;
        }
        let (fate, _) = fates.entry((list, rule.sheet, rule.block)).or_insert_with(|| {
            let told = Told {
                selector: seen.style_rule(rule).selector_text(),
                span: seen.span_of(rule),
                classes: rule.subject().classes.clone(),
                is_of_controls: rule.subject().local.as_deref().is_some_and(|name| NATIVE.contains(&name)),
                asks_state: rule.asks_state(),
                is_of_variant,
            };
            (Fate::default(), told)
        });
        let mut applied = false;
        for (states, look) in seen.looks {
            let Some(at) = applies(seen, rule, look, is_of_host) else { continue };
            applied = true;
            // What sets custom properties, or nothing that is computed, may do something.
            let sets: LonghandSet = rule.sets;
            let winner = |longhand| look.styles.of(at).and_then(|style| style.winner(longhand));
            let winners: Vec<_> = sets.iter().map(|longhand| (longhand, winner(longhand))).collect();
            let is_winner = |id: Option<stilk_engine::cascade::order::DeclarationId>| {
                id.and_then(|id| seen.rules.of_declaration(id))
                    .is_some_and(|by| by.sheet == rule.sheet && by.block == rule.block)
            };
            let knows_nothing = !rule.customs.is_empty() || winners.is_empty() || look.styles.of(at).is_none();
            if knows_nothing || winners.iter().any(|(_, id)| is_winner(*id)) {
                fate.won = true;
                continue;
            }
            // A single state, and a loss to what does not know it.
            // A colour says most.
            let first = winners.iter().find(|(longhand, id)| longhand.is_color() && id.is_some()).or(winners.first());
            let Some((longhand, Some(id))) = first.copied() else { continue };
            let by = seen.rules.of_declaration(id);
            // What a class says of a state is meant to stay.
            let stays = |by: &Rule| {
                by.asks_state() || by.compounds.iter().flat_map(|c| &c.classes).any(|class| says_state(class))
            };
            let is_its = states.ids() == states_of(seen.system, rule).as_slice();
            let is_lost_state = states.len() == 1 && is_its && rule.asks_state() && !by.is_none_or(stays);
            // What beats a variant at rest is named where it never wins.
            let is_lost_variant = states.is_rest() && !rule.asks_state();
            if (is_lost_state || is_lost_variant) && is_of_host && seen.is_own(rule) {
                let state = seen.system.states.set_name(states);
                fate.lost.push(Loss {
                    to: by.map_or_else(
                        || "the `style` attribute".to_owned(),
                        |by| format!("`{}`", seen.style_rule(by).selector_text()),
                    ),
                    at: seen.declaration(look, at, longhand),
                    property: longhand.name(),
                    state,
                    theme: seen.theme.map_or_else(String::new, |theme| format!(" in {theme}")),
                    place: seen.place.to_owned(),
                    page: seen.member.page,
                    controls: seen.stands_for,
                    family: seen.family.name.clone(),
                    name: seen.name(),
                });
            }
        }
        if applied {
            fate.applied += seen.stands_for;
            if fate.place.is_empty() {
                (fate.place, fate.page) = (seen.place.to_owned(), seen.member.page);
            }
        }
    }
}

/// The box that a rule styles in a look, where it applies.
fn applies(seen: &Seen, rule: &Rule, look: &stilk_language::case::Look, is_of_host: bool) -> Option<Styled> {
    let selector = &seen.style_rule(rule).selector;
    let found = &seen.member.found;
    let nodes: Vec<NodeId> = match is_of_host {
        true => vec![found.host],
        false => std::iter::once(found.bearer).chain(found.parts.iter().map(|(_, node)| *node)).collect(),
    };
    let mut caches = MatchingCaches::default();
    let node = nodes.into_iter().find(|node| {
        let element = ElementRef { document: &look.document, node: *node, forced: &look.forced };
        element.matches(selector, rule.pseudo.is_some(), &mut caches)
    })?;
    match &rule.pseudo {
        None => Some(Styled::element(node)),
        Some(name) => {
            let pseudo = PseudoElement::ALL.iter().copied().find(|pseudo| pseudo.name() == name)?;
            Some(Styled::pseudo(node, pseudo))
        }
    }
}

/// Takes in what became of rules on another page.
pub fn absorb(fates: &mut Fates, others: Fates) {
    for (key, (fate, told)) in others {
        match fates.get_mut(&key) {
            None => drop(fates.insert(key, (fate, told))),
            Some((known, _)) => {
                known.applied += fate.applied;
                known.won |= fate.won;
                known.lost.extend(fate.lost);
                if known.place.is_empty() {
                    (known.place, known.page) = (fate.place, fate.page);
                }
            }
        }
    }
}

/// What there is to say once every control was looked at.
///
/// `elsewhere` holds the classes of elements that are no controls: what speaks of these may win there. `all_seen` says whether all
/// controls of the pages were looked at.
pub fn tell(fates: Fates, elsewhere: &BTreeSet<String>, all_seen: bool, say: &mut dyn FnMut(Said)) {
    for (fate, told) in fates.into_values() {
        let is_of_controls = match told.classes.as_slice() {
            [] => told.is_of_controls,
            classes => classes.iter().any(|class| !elsewhere.contains(class)),
        };
        if fate.applied == 0 {
            continue;
        }
        let what = if told.asks_state { "state" } else { "variant" };
        // Where only some controls were looked at, another may show it.
        if !fate.won && is_of_controls && all_seen {
            let winners: BTreeSet<&str> = fate.lost.iter().map(|loss| loss.to.as_str()).collect();
            let by = fate.lost.first().map_or_else(String::new, |loss| match winners.len() {
                1 => format!(": {} sets its `{}` wherever it applies", loss.to, loss.property),
                _ => format!(": {} sets its `{}`, and others do elsewhere", loss.to, loss.property),
            });
            let message = format!("`{}` never wins{by}", told.selector);
            let mut diagnostic =
                finding(&KIND, told.span, message).label(format!("a {what} that never shows")).mend(KIND.mend);
            if let Some(span) = fate.lost.first().and_then(|loss| loss.at) {
                diagnostic = diagnostic.related(span, "wins");
            }
            let family = fate.lost.first().map_or_else(String::new, |loss| loss.family.clone());
            let place = fate.place;
            say(Said {
                cause: format!("{:?}", told.span),
                diagnostic,
                place,
                controls: fate.applied,
                page: fate.page,
                family,
            });
            continue;
        }
        if told.is_of_variant && !told.asks_state || !fate.won && !is_of_controls {
            continue;
        }
        for loss in fate.lost {
            let message = format!(
                "in {}{} `{}` loses to {} on `{}`: nothing of it shows",
                loss.state, loss.theme, told.selector, loss.to, loss.name
            );
            let mut diagnostic = finding(&KIND, told.span, message).label("lost there").mend(KIND.mend);
            if let Some(span) = loss.at {
                diagnostic = diagnostic.related(span, "wins");
            }
            say(Said {
                cause: format!("{:?} {} {}", told.span, loss.to, loss.state),
                diagnostic,
                place: loss.place,
                controls: loss.controls,
                page: loss.page,
                family: loss.family,
            });
        }
    }
}
