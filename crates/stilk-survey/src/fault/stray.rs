//! `foreign/stray`: no rule for elements in general reaches a control and wins over what its own rules say.

use super::{Kind, Said, Seen, finding};
use crate::look::{LOOKS, color, distance, value};
use crate::rules::Rule;
use stilk_engine::cascade::Styled;
use stilk_engine::cascade::matching::{ElementRef, MatchingCaches};
use stilk_engine::css::property::Longhand as L;
use stilk_engine::dom::NodeId;
use stilk_language::system::StateId;
use stilk_text::diagnostic::Level;

/// What it is.
pub const KIND: Kind = Kind {
    id: "foreign/stray",
    summary: "no rule for elements in general wins over what a control's own rules say",
    why: "`a:hover` was written for links in text. It reaches every link that is drawn as a button, and wins there by its state: \
          the words of the button take the link's colour under the pointer.",
    level: Level::Warning,
    mend: "Keep the rule to what it was written for (`.text a:hover`), or let the control's class say the state as well.",
    source: "CSS Cascade 5, 6.1 (specificity)",
    fails: "<style>\n\
             a:hover { color: #b3472f }\n\
             .act { padding: 8px 16px; border: 1px solid #14536b; background: #14536b; color: #fff; font: 16px/1.5 serif; text-decoration: none }\n\
             </style>\n\
             <a class=\"act\" href=\"/\">Home</a>\n\
             ",
    passes: "<style>\n\
             p a:hover { color: #b3472f }\n\
             .act { padding: 8px 16px; border: 1px solid #14536b; background: #14536b; color: #fff; font: 16px/1.5 serif; text-decoration: none }\n\
             </style>\n\
             <a class=\"act\" href=\"/\">Home</a>\n\
             ",
};

/// Looks at a control: its own box, and what is drawn in it.
pub fn look(seen: &Seen, say: &mut dyn FnMut(Said)) {
    if !seen.has_class() {
        return;
    }
    let host = seen.member.found.host;
    let of_host: Vec<&Rule> = seen.matched.host.iter().map(|index| &seen.rules.all[*index]).collect();
    look_at(seen, (host, None), &of_host, say);
    for (name, node) in &seen.member.found.parts {
        let of_part: Vec<&Rule> = seen
            .matched
            .inside
            .iter()
            .map(|index| &seen.rules.all[*index])
            .filter(|rule| rule.pseudo.is_none() && applies(seen, rule, *node))
            .collect();
        look_at(seen, (*node, Some(name.split('#').next().unwrap_or(name))), &of_part, say);
    }
    takes_ring(seen, say);
}

/// Whether a rule applies to an element of the control at rest.
fn applies(seen: &Seen, rule: &Rule, node: NodeId) -> bool {
    let Some((_, rest)) = seen.looks.first() else { return false };
    let element = ElementRef { document: &rest.document, node, forced: &rest.forced };
    element.matches(&seen.style_rule(rule).selector, false, &mut MatchingCaches::default())
}

/// Looks at one box, and at the rules that match it in some state.
fn look_at(seen: &Seen, (node, part): (NodeId, Option<&str>), matched: &[&Rule], say: &mut dyn FnMut(Said)) {
    let at = Styled::element(node);
    let Some((_, rest)) = seen.looks.first() else { return };
    // What a class says of a part is the part's own.
    let is_own = |rule: &Rule| match part {
        None => seen.is_own(rule),
        Some(_) => {
            let subject = rule.subject();
            let of_control = |class: &String| seen.member.element.classes.iter().any(|own| **own == **class);
            let names_control = rule.around().iter().flat_map(|around| &around.classes).any(of_control);
            !subject.classes.is_empty() || !subject.ids.is_empty() || names_control
        }
    };
    for (states, look) in seen.looks.iter().filter(|(states, _)| states.len() <= 1) {
        for longhand in LOOKS.iter() {
            let Some(winner) = seen.winner(look, at, longhand) else { continue };
            // What the control's own rules say at rest, of the same.
            let own = matched.iter().copied().find(|rule| {
                rule.sets.has(longhand)
                    && !rule.asks_state()
                    && rule.pseudo.is_none()
                    && is_own(rule)
                    && seen.holds(rule) == Some(true)
            });
            let Some(own) = own else { continue };
            if is_own(winner) || std::ptr::eq(own, winner) || states.is_rest() == winner.asks_state() {
                continue;
            }
            let (Some(before), Some(style)) = (rest.styles.of(at), look.styles.of(at)) else { continue };
            if !states.is_rest() && value(before, longhand) == value(style, longhand) {
                continue;
            }
            // Where both say the same nothing is lost.
            if seen.declared(own, longhand).is_some_and(|own| is_same(&own, &value(style, longhand))) {
                continue;
            }
            let state =
                states.ids().first().map_or_else(String::new, |id| format!(" in {}", seen.system.states.get(*id).name));
            let (by, over) = (text(seen, winner), text(seen, own));
            let family = &seen.family.name;
            let what = part.map_or_else(|| format!("`{family}`"), |part| format!("`{part}` of `{family}`"));
            let message = format!(
                "`{by}` reaches {what}{state}: its `{}` is `{}` there, over what `{over}` says",
                longhand.name(),
                value(style, longhand)
            );
            let place = seen.declaration(look, at, longhand);
            let mut diagnostic =
                finding(&KIND, place, message).label(format!("wins on {}", seen.tag())).mend(KIND.mend);
            if let Some(span) = seen.span_of(own) {
                diagnostic = diagnostic.related(span, "what the control's own rule says");
            }
            say(Said {
                cause: format!("{by} {family} {}", seen.style_rule(winner).offset),
                diagnostic,
                place: seen.place.to_owned(),
                controls: seen.stands_for,
                page: seen.member.page,
                family: family.clone(),
            });
        }
    }
}

/// Whether a value as it was written is one that was computed.
fn is_same(written: &str, computed: &str) -> bool {
    match (color(written), color(computed)) {
        (Some(a), Some(b)) => distance(&a, &b) < 1e-4 && a.alpha == b.alpha,
        _ => written == computed,
    }
}

/// A rule for everything that takes the browser's focus ring away, where nothing of the control's own stands for it.
fn takes_ring(seen: &Seen, say: &mut dyn FnMut(Said)) {
    let at = Styled::element(seen.member.found.bearer);
    let is_focused = |id: &StateId| *id == StateId::Focus;
    let Some((_, look)) =
        seen.looks.iter().find(|(states, _)| states.len() == 1 && states.ids().iter().all(is_focused))
    else {
        return;
    };
    let Some(style) = look.styles.of(at) else { return };
    let is_gone = style.is(L::OutlineStyle, "none") || style.px(L::OutlineWidth) == Ok(0.0);
    let longhand = if style.is(L::OutlineStyle, "none") { L::OutlineStyle } else { L::OutlineWidth };
    let Some(winner) = seen.winner(look, at, longhand).filter(|rule| is_gone && !seen.is_own(rule)) else { return };
    let Some((_, rest)) = seen.looks.first() else { return };
    if stilk_checks::painted::visible::differs(rest, look) {
        return;
    }
    let by = text(seen, winner);
    let family = &seen.family.name;
    let message = format!("`{by}` takes the focus ring away from `{family}`, and nothing stands for it");
    let diagnostic = finding(&KIND, seen.declaration(look, at, longhand), message)
        .label(format!("wins on {}", seen.tag()))
        .mend(format!(
            "write `{}:focus-visible {{ outline: … }}`, or take this rule out",
            family.replace(", ", ":focus-visible, ")
        ));
    say(Said {
        cause: format!("ring {by} {}", seen.style_rule(winner).offset),
        diagnostic,
        place: seen.place.to_owned(),
        controls: seen.stands_for,
        page: seen.member.page,
        family: family.clone(),
    });
}

fn text(seen: &Seen, rule: &Rule) -> String {
    seen.style_rule(rule).selector_text()
}
