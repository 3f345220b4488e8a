//! Selectors taken apart: what each element in them is asked for, and which states.

use super::selector::{One, Selectors};
use cssparser::ToCss;
use selectors::parser::{Combinator, Component};

/// What one element of a selector is asked for: `button.send[data-size="s"]:hover`.
#[derive(Debug, Clone, Default, PartialEq, Eq)]
pub struct Compound {
    /// Its name.
    pub local: Option<String>,
    /// Its classes, in order.
    pub classes: Vec<String>,
    /// Its ids.
    pub ids: Vec<String>,
    /// What is asked of its attributes, as CSS: `[type="submit"]`.
    pub attributes: Vec<String>,
    /// States, as CSS: `:hover`, `:not(:disabled)`, `[aria-pressed="true"]`.
    pub states: Vec<String>,
    /// Whatever else, as CSS: `:first-child`, `:is(.a, .b)`.
    pub others: Vec<String>,
    /// How what stands before it in the selector is related to it: ` `, `>`, `+`, `~`; nothing for the first.
    pub before: Option<char>,
}

/// Attributes that say a state.
pub const STATE_ATTRIBUTES: [&str; 18] = [
    "aria-busy",
    "aria-checked",
    "aria-current",
    "aria-disabled",
    "aria-expanded",
    "aria-invalid",
    "aria-pressed",
    "aria-readonly",
    "aria-required",
    "aria-selected",
    "checked",
    "disabled",
    "open",
    "readonly",
    "required",
    "data-state",
    "data-open",
    "data-active",
];

/// Pseudo-classes that say one.
const STATES: [&str; 25] = [
    "active",
    "autofill",
    "checked",
    "default",
    "disabled",
    "enabled",
    "focus",
    "focus-visible",
    "focus-within",
    "hover",
    "in-range",
    "indeterminate",
    "invalid",
    "open",
    "optional",
    "out-of-range",
    "placeholder-shown",
    "popover-open",
    "read-only",
    "read-write",
    "required",
    "target",
    "user-invalid",
    "valid",
    "visited",
];

impl Compound {
    /// As CSS, without its states.
    pub fn without_states(&self) -> String {
        let mut text = self.local.clone().unwrap_or_default();
        self.ids.iter().for_each(|id| text.push_str(&format!("#{}", escaped(id))));
        self.classes.iter().for_each(|class| text.push_str(&format!(".{}", escaped(class))));
        self.attributes.iter().chain(&self.others).for_each(|part| text.push_str(part));
        if text.is_empty() { "*".to_owned() } else { text }
    }

    /// As CSS.
    pub fn text(&self) -> String {
        let rest = self.without_states();
        let states = self.states.concat();
        if rest == "*" && !states.is_empty() { states } else { rest + &states }
    }

    /// Whether it asks for nothing that tells one element from another but its name and states.
    pub fn is_of_any_class(&self) -> bool {
        self.classes.is_empty() && self.ids.is_empty() && self.attributes.is_empty() && self.others.is_empty()
    }
}

fn escaped(name: &str) -> String {
    let mut text = String::new();
    // Writing into a string does not fail.
    let _ = cssparser::serialize_identifier(name, &mut text);
    text
}

/// The compounds of a selector, the one that is styled first.
pub fn compounds(selector: &One) -> Vec<Compound> {
    let mut found = Vec::new();
    let mut own = Compound::default();
    for component in selector.iter_raw_match_order() {
        match component {
            Component::Combinator(Combinator::PseudoElement) => {}
            Component::Combinator(combinator) => {
                own.before = Some(match combinator {
                    Combinator::Child => '>',
                    Combinator::NextSibling => '+',
                    Combinator::LaterSibling => '~',
                    _ => ' ',
                });
                found.push(std::mem::take(&mut own));
            }
            component => add(&mut own, component),
        }
    }
    found.push(own);
    found
}

fn add(own: &mut Compound, component: &Component<Selectors>) {
    match component {
        Component::LocalName(local) => own.local = Some(local.lower_name.0.to_string()),
        Component::Class(class) => own.classes.push(class.0.to_string()),
        Component::ID(id) => own.ids.push(id.0.to_string()),
        Component::PseudoElement(_)
        | Component::ExplicitUniversalType
        | Component::ExplicitAnyNamespace
        | Component::ImplicitScope => {}
        Component::Is(list) | Component::Where(list) if list.slice().len() == 1 && is_compound(&list.slice()[0]) => {
            list.slice()[0].iter_raw_match_order().for_each(|inner| add(own, inner));
        }
        component => {
            let text = component.to_css_string();
            let is_attribute = text.starts_with('[');
            match () {
                () if says_a_state(&text) => own.states.push(text),
                () if is_attribute => own.attributes.push(text),
                () => own.others.push(text),
            }
        }
    }
}

fn is_compound(selector: &One) -> bool {
    !selector.iter_raw_match_order().any(Component::is_combinator)
}

/// Whether a simple selector speaks of a state and of nothing else.
fn says_a_state(text: &str) -> bool {
    if let Some(attribute) = text.strip_prefix('[') {
        let name = attribute.split(['=', ']', '~', '|', '^', '$', '*']).next().unwrap_or_default();
        return STATE_ATTRIBUTES.contains(&name.trim());
    }
    let Some(name) = text.strip_prefix(':') else { return false };
    match name.split_once('(') {
        None => STATES.contains(&name) || name.starts_with("-stilk"),
        // Of several all must be states.
        Some((function, inner)) if ["not", "is", "where"].contains(&function) => {
            let inner = inner.strip_suffix(')').unwrap_or(inner);
            super::selector::split_list(inner).iter().all(|one| says_a_state(one.trim()))
        }
        Some(_) => false,
    }
}

/// A selector as CSS, so that it matches whatever it matches in some state.
pub fn without_states(compounds: &[Compound]) -> String {
    let mut text = String::new();
    for (index, compound) in compounds.iter().enumerate().rev() {
        if let Some(before) = compounds[index].before.filter(|_| index + 1 < compounds.len()) {
            text.push_str(&if before == ' ' { " ".to_owned() } else { format!(" {before} ") });
        }
        text.push_str(&compound.without_states());
    }
    text
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::cascade::selector::parse_list;

    fn of(text: &str) -> Vec<Compound> {
        compounds(&parse_list(text).expect(text).slice()[0])
    }

    #[test]
    fn what_an_element_is_asked_for_is_told_from_its_states() {
        let found = of("body.dark > form button.send[data-size=s]:not(:disabled):hover:first-child::before");
        assert_eq!(found.len(), 3);
        let own = &found[0];
        assert_eq!((own.local.as_deref(), own.classes.join(" ")), (Some("button"), "send".to_owned()));
        assert_eq!(own.attributes, ["[data-size=\"s\"]"]);
        assert_eq!(own.states, [":not(:disabled)", ":hover"]);
        assert_eq!(own.others, [":first-child"]);
        assert_eq!((found[0].before, found[1].before, found[2].before), (Some(' '), Some('>'), None));
    }

    #[test]
    fn without_states_a_selector_reads_as_it_was_written() {
        for (text, rest) in [
            ("a:hover", "a"),
            (":focus", "*"),
            (".a:hover > .b + i ~ u:active", ".a > .b + i ~ u"),
            ("input:is(:hover, :focus)", "input"),
            (":is(.a, .b):hover", ":is(.a, .b)"),
            ("[aria-pressed=true].x", ".x"),
        ] {
            assert_eq!(without_states(&of(text)), rest, "{text}");
        }
    }
}
