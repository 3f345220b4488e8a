//! `foreign/leak`: what a variant changes at rest does not fall back to the base's own look in a state.

use super::{Kind, Said, Seen, finding};
use crate::family::Chooser;
use crate::look::{LOOKS, value};
use crate::place::states_of;
use crate::rules::Rule;
use stilk_engine::cascade::Styled;
use stilk_engine::css::property::Longhand as L;
use stilk_engine::dom::NodeId;
use stilk_language::system::StateId;
use stilk_text::diagnostic::Level;

/// What it is.
pub const KIND: Kind = Kind {
    id: "foreign/leak",
    summary: "what a variant changes at rest holds in the states of its base",
    why: "The base's hover sets a fill, the outline variant takes the fill away at rest only: under the pointer the outline button \
          turns into a solid one.",
    level: Level::Warning,
    mend: "Write the state for the variant as well, or let both set a custom property that the base paints with.",
    source: "CSS Cascade 5, 6.1 (specificity)",
    fails: "<style>\n\
             .act { padding: 8px 16px; border: 1px solid #14536b; background: #14536b; color: #fff; font: 16px/1.5 serif; text-decoration: none }\n\
             .act:hover { background: #0b3a4c }\n\
             .act-calm { background: none; color: #14536b }\n\
             </style>\n\
             <button class=\"act\">Book</button>\n\
             <button class=\"act act-calm\">More</button>\n\
             ",
    passes: "<style>\n\
             .act { padding: 8px 16px; border: 1px solid #14536b; background: #14536b; color: #fff; font: 16px/1.5 serif; text-decoration: none }\n\
             .act:hover { background: #0b3a4c }\n\
             .act-calm, .act-calm:hover { background: none; color: #14536b }\n\
             .act-calm:hover { text-decoration: underline }\n\
             </style>\n\
             <button class=\"act\">Book</button>\n\
             <button class=\"act act-calm\">More</button>\n\
             ",
};

/// The states that people see most.
const STATES: [StateId; 3] = [StateId::Hover, StateId::Focus, StateId::Active];

/// Looks at a control: its own box, that whose state counts, and its parts.
pub fn look(seen: &Seen, say: &mut dyn FnMut(Said)) {
    let found = &seen.member.found;
    let mut boxes: Vec<(Option<&str>, NodeId)> = vec![(None, found.host)];
    boxes.extend(found.parts.iter().map(|(name, node)| (Some(name.as_str()), *node)));
    if found.bearer != found.host && !boxes.iter().any(|(_, node)| *node == found.bearer) {
        boxes.push((Some("native"), found.bearer));
    }
    for (part, node) in boxes {
        look_at(seen, part, Styled::element(node), say);
    }
}

fn look_at(seen: &Seen, part: Option<&str>, at: Styled, say: &mut dyn FnMut(Said)) {
    let Some((_, rest)) = seen.looks.first() else { return };
    for state in STATES {
        let Some((_, look)) =
            seen.looks.iter().find(|(states, _)| states.ids() == [state] && states.of_parts().is_empty())
        else {
            continue;
        };
        for longhand in LOOKS
            .iter()
            .filter(|longhand| longhand.is_color() || *longhand == L::BackgroundImage || *longhand == L::BoxShadow)
        {
            let (Some(before), Some(after)) = (seen.winner(rest, at, longhand), seen.winner(look, at, longhand)) else {
                continue;
            };
            let Some(option) = option_of(seen, before, part) else { continue };
            // A rule for the state that knows nothing of the variant.
            if !states_of(seen.system, after).contains(&state)
                || option_of(seen, after, part).is_some()
                || !seen.is_own(after)
            {
                continue;
            }
            // Whoever wrote the state for the variant has thought of it.
            let matched = if part.is_some() { &seen.matched.inside } else { &seen.matched.host };
            let is_thought_of = matched.iter().map(|index| &seen.rules.all[*index]).any(|rule| {
                option_of(seen, rule, part).as_ref() == Some(&option) && states_of(seen.system, rule).contains(&state)
            });
            let (Some(was), Some(is)) = (rest.styles.of(at), look.styles.of(at)) else { continue };
            if is_thought_of || value(was, longhand) == value(is, longhand) {
                continue;
            }
            let by = seen.style_rule(after).selector_text();
            let name = state.name();
            let whose = part.map_or_else(|| seen.name(), |part| format!("{part}` of `{}", seen.name()));
            let message = format!(
                "in {name} the `{}` of `{whose}` is what `{by}` says of every `{}`: `{}`, at rest `{}`",
                longhand.name(),
                seen.family.name.split(", ").next().unwrap_or_default(),
                value(is, longhand),
                value(was, longhand)
            );
            let mend = match part {
                None => format!("write `{}:{}` as well", option.text(), pseudo(state)),
                Some(_) => format!("write it for `{}:{}` as well", option.text(), pseudo(state)),
            };
            let mut diagnostic = finding(&KIND, seen.declaration(look, at, longhand), message)
                .label(format!("wins over what `{}` says at rest", option.text()))
                .mend(mend);
            if let Some(span) = seen.declaration(rest, at, longhand) {
                diagnostic = diagnostic.related(span, "at rest");
            }
            say(Said {
                cause: format!("{} {name} {}", option.text(), seen.style_rule(after).offset),
                diagnostic,
                place: seen.place.to_owned(),
                controls: seen.stands_for,
                page: seen.member.page,
                family: seen.family.name.clone(),
            });
        }
    }
}

fn pseudo(state: StateId) -> &'static str {
    match state {
        StateId::Focus => "focus-visible",
        state => state.name(),
    }
}

/// The option by which a rule is chosen, if one is: of what it is about, for a part also of what is around that.
fn option_of(seen: &Seen, rule: &Rule, part: Option<&str>) -> Option<Chooser> {
    let asked = if part.is_some() { rule.compounds.as_slice() } else { std::slice::from_ref(rule.subject()) };
    let is_asked = |option: &&Chooser| {
        asked.iter().any(|compound| match option {
            Chooser::Class(name) => compound.classes.contains(name),
            Chooser::Attribute(text) => compound.attributes.contains(text),
            Chooser::Id(name) => compound.ids.contains(name),
            Chooser::Place(_) => false,
        })
    };
    seen.member.options.iter().find(is_asked).cloned()
}
