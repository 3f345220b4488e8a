//! What each control adds to a stylesheet and to every element that has its class, and what would make it lighter.

use super::{Extent, Plan, Purpose, SheetWriter, Writer};
use crate::system::{Control, Place, Rule, System};
use std::collections::BTreeMap;
use stilk_text::source::{Sources, Span};

/// What a control weighs.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct ControlWeight {
    /// Its name.
    pub control: String,
    /// How many rules it has in the stylesheet.
    pub rules: usize,
    /// How many bytes these take without white space that says nothing.
    pub bytes: usize,
    /// How many custom properties a browser computes for each host at rest: locals, and tokens that several modifiers decide.
    pub custom_properties: usize,
    /// How many properties may move at rest, in the host and its parts together.
    pub moving: usize,
}

/// Something that could be lighter.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Lighter {
    /// Where it stands.
    pub place: Span,
    /// What is heavy about it.
    pub what: String,
    /// What to write instead.
    pub instead: String,
}

/// Traits that stand in fewer controls are what traits are for.
const MANY_COPIES: usize = 10;

/// What the controls of a system weigh, in its order.
pub fn weigh(system: &System, sources: &Sources) -> Vec<ControlWeight> {
    let plan = Plan::new(system);
    let sheet = SheetWriter::new(system, sources, &plan, Purpose::Page, Extent::Whole);
    let mut sheet = SheetWriter { writer: Writer::new(true), ..sheet };
    let own = |(at, control): (usize, &Control)| {
        let at_rest = || control.rules.iter().filter(|rule| is_always(rule));
        let host = at_rest().filter(|rule| rule.target.part.is_none() && rule.target.pseudo.is_empty());
        let locals = host.flat_map(|rule| &rule.declarations).filter(|one| one.is_local() && one.owner.is_none());
        let names: std::collections::BTreeSet<&str> = locals.map(|local| local.name.value.as_str()).collect();
        let moving =
            at_rest().flat_map(|rule| &rule.declarations).filter(|one| one.name.value.starts_with("transition"));
        let lists = moving.filter(|one| matches!(one.name.value.as_str(), "transition" | "transition-property"));
        ControlWeight {
            control: control.name.value.clone(),
            rules: 0,
            bytes: 0,
            custom_properties: names.len() + plan.computed_on(at),
            moving: lists.map(|one| 1 + one.value.texts().map(commas).sum::<usize>()).sum(),
        }
    };
    let mut weights: Vec<ControlWeight> = system.controls.iter().enumerate().map(own).collect();
    for placed in sheet.sorted() {
        let before = sheet.writer.mark();
        sheet.rule(&placed);
        let text = sheet.writer.since(before);
        let weight = weights.iter_mut().find(|weight| weight.control == placed.control.name.value);
        if let Some(weight) = weight {
            weight.bytes += text.len();
            weight.rules +=
                text.matches('{').count() - text.matches("@media").count() - text.matches("@supports").count();
        }
    }
    weights
}

/// What would make a system lighter, in the order of its controls.
pub fn lighter(system: &System) -> Vec<Lighter> {
    let mut found = Vec::new();
    let mut copies: BTreeMap<Span, usize> = BTreeMap::new();
    // A copy (`from`) has the declarations of its original: what varies in one of them varies.
    let mut once: BTreeMap<Span, Vec<&str>> = BTreeMap::new();
    for control in &system.controls {
        for (place, name) in constants(system, control) {
            once.entry(place).or_default().push(name);
        }
    }
    let has = |control: &&Control, place: Span| {
        control.rules.iter().flat_map(|rule| &rule.declarations).any(|declaration| declaration.span == place)
    };
    once.retain(|place, names| system.controls.iter().filter(|control| has(control, *place)).count() == names.len());
    found.extend(once.into_iter().map(|(place, names)| Lighter {
        place,
        what: format!("`{}` is set once and read once", names[0]),
        instead: "write its value where it is read".to_owned(),
    }));
    for control in &system.controls {
        found.extend(endless(control));
        found.extend(costly(system, control));
        for rule in control.rules.iter().filter(|rule| rule.place == Place::Trait) {
            *copies.entry(rule.span).or_default() += 1;
        }
    }
    let many = copies.into_iter().filter(|(_, count)| *count >= MANY_COPIES);
    found.extend(many.map(|(place, count)| Lighter {
        place,
        what: format!("this rule of a trait stands {count} times in the stylesheet"),
        instead: "let one control have it and the others be copies of it (`from`), or accept its weight".to_owned(),
    }));
    found
}

/// Whether a rule holds for every control of its kind, whatever it is and in whichever state.
fn is_always(rule: &Rule) -> bool {
    rule.states.is_rest() && rule.options.is_empty()
}

/// Commas outside of brackets.
fn commas(text: &str) -> usize {
    let mut depth = 0_i32;
    let counted = text.chars().filter(|letter| {
        depth += i32::from(*letter == '(') - i32::from(*letter == ')');
        *letter == ',' && depth == 0
    });
    counted.count()
}

/// Locals that are set once and read once, with their places: nothing varies by them.
fn constants<'s>(system: &'s System, control: &'s Control) -> impl Iterator<Item = (Span, &'s str)> {
    // Where each is set, and whether that is the control's own base.
    let mut set: BTreeMap<&str, Vec<(Span, bool)>> = BTreeMap::new();
    let mut read: BTreeMap<String, usize> = BTreeMap::new();
    for other in &system.controls {
        let is_own = std::ptr::eq(other, control);
        for rule in &other.rules {
            for declaration in &rule.declarations {
                let is_of_control = match &declaration.owner {
                    Some(owner) => *owner == control.name.value,
                    None => is_own,
                };
                if declaration.is_local() && is_of_control {
                    let is_base = is_own && is_always(rule) && rule.conditions.is_empty() && rule.nested.is_empty();
                    set.entry(&declaration.name.value).or_default().push((declaration.span, is_base));
                }
                if is_own {
                    declaration.value.write(&mut |_| String::new(), &mut |local| {
                        *read.entry(local.trim_start_matches('-').to_owned()).or_default() += 1;
                        String::new()
                    });
                }
            }
        }
    }
    set.into_iter().filter_map(move |(name, places)| {
        let [(place, true)] = places.as_slice() else { return None };
        (read.get(name.trim_start_matches('-')) == Some(&1)).then_some((*place, name))
    })
}

/// Properties whose every change lays the page out anew.
const LAID_OUT: [&str; 20] = [
    "width",
    "height",
    "inline-size",
    "block-size",
    "min-width",
    "min-height",
    "max-width",
    "max-height",
    "padding",
    "margin",
    "border-width",
    "top",
    "right",
    "bottom",
    "left",
    "inset",
    "font-size",
    "line-height",
    "letter-spacing",
    "gap",
];

/// Properties that a browser changes without painting anew.
const COMPOSITED: [&str; 5] = ["transform", "translate", "rotate", "scale", "opacity"];

/// Whether a property is one of some, or a longer name of one: `padding-inline` of `padding`.
fn is_of(name: &str, list: &[&str]) -> bool {
    list.iter().any(|one| name.strip_prefix(one).is_some_and(|rest| rest.is_empty() || rest.starts_with('-')))
}

/// Motion that takes more than it has to: what lays out anew, what paints anew for ever, and hints that stay.
fn costly<'s>(system: &'s System, control: &'s Control) -> impl Iterator<Item = Lighter> + 's {
    let declarations = control.rules.iter().flat_map(|rule| rule.declarations.iter().map(move |one| (rule, one)));
    declarations.flat_map(move |(rule, declaration)| {
        let text = declaration.value.write(&mut |_| "0".to_owned(), &mut |_| "0".to_owned());
        let name = declaration.name.value.as_str();
        let lighter =
            |what: String, instead: &str| Lighter { place: declaration.span, what, instead: instead.to_owned() };
        let of_control = &control.name.value;
        let mut found = Vec::new();
        if matches!(name, "transition" | "transition-property") {
            let moved = text.split(',').filter_map(|one| one.split_whitespace().next());
            let laid_out = moved.filter(|one| is_of(one, &LAID_OUT));
            found.extend(laid_out.map(|one| {
                let what = format!("a transition of `{one}` of `{of_control}` lays the page out anew at each step");
                lighter(what, "move it by `translate` or `scale`, or let it change at once")
            }));
        }
        if name == "will-change" && text.trim() != "auto" && rule.states.is_rest() {
            let what = format!("`will-change` of `{of_control}` holds in every state, and keeps memory for each one");
            found.push(lighter(what, "write it in the state before the motion, or leave it out"));
        }
        if name == "animation" && text.contains("infinite") {
            let named = system.keyframes.iter().filter(|keyframes| {
                let written = system.names().keyframes(&keyframes.name.value);
                text.split([',', ' ']).any(|word| word == keyframes.name.value || word == written)
            });
            let painted = named.filter_map(|keyframes| {
                let body = keyframes.body.write(&mut |_| "0".to_owned(), &mut |_| "0".to_owned());
                let names =
                    body.split(['{', '}', ';']).filter_map(|part| part.split_once(':')).map(|(name, _)| name.trim());
                let all: Vec<String> = names.filter(|one| !is_of(one, &COMPOSITED)).map(str::to_owned).collect();
                all.into_iter().next().map(|one| (keyframes.name.value.clone(), one))
            });
            found.extend(painted.map(|(keyframes, one)| {
                let what = format!(
                    "`{keyframes}` of `{of_control}` changes `{one}`, which is painted anew in each frame, for ever"
                );
                lighter(what, "move it by `rotate`, `translate`, `scale` or `opacity`")
            }));
        }
        found
    })
}

/// Animations without end that run whatever state a control is in.
fn endless(control: &Control) -> impl Iterator<Item = Lighter> + '_ {
    let at_rest = control.rules.iter().filter(|rule| rule.states.is_rest());
    at_rest.flat_map(|rule| rule.declarations.iter().map(move |declaration| (rule, declaration))).filter_map(
        |(rule, declaration)| {
            let is_animation = matches!(declaration.name.value.as_str(), "animation" | "animation-iteration-count");
            let runs_on = is_animation && declaration.value.texts().any(|text| text.contains("infinite"));
            let part = rule.target.part.as_ref().map_or_else(String::new, |part| format!(" in its part `{part}`"));
            runs_on.then(|| Lighter {
                place: declaration.span,
                what: format!("`{}` moves for ever{part}, in every state", control.name.value),
                instead: "write it in the state that needs it".to_owned(),
            })
        },
    )
}
