//! Selectors taken apart: what each element in them is asked for, and which states.

use super::selector::{One, Selectors, parse_list, split_compound, split_list};
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
            if let Component::Has(_) = component
                && says_a_state(&text)
            {
                // What is left of it without states has to be there in any case.
                let left = has_without_states(&text).filter(|left| !own.others.contains(left));
                own.others.extend(left);
            }
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

/// One way in which what is asked of states may hold.
#[derive(Debug, Clone, Default, PartialEq, Eq, PartialOrd, Ord)]
pub struct StateWay {
    /// What has to hold: `:hover`, `[aria-pressed="true"]`, `:has(> input:checked)`.
    pub held: Vec<String>,
    /// What must not.
    pub absent: Vec<String>,
}

impl StateWay {
    fn and(&self, other: &StateWay) -> StateWay {
        let both = |one: &[String], other: &[String]| {
            let mut both = [one, other].concat();
            both.sort();
            both.dedup();
            both
        };
        StateWay { held: both(&self.held, &other.held), absent: both(&self.absent, &other.absent) }
    }

    /// In how many ways at most a selector is taken apart; what has more stays as it is written.
    const MOST: usize = 16;

    /// The ways in which all of some [`Compound::states`] hold: `:is(:hover, :focus-visible):not(:disabled)` in two.
    pub fn all_of(states: &[String]) -> Vec<StateWay> {
        let mut ways = vec![StateWay::default()];
        for state in states {
            let of_state = ways_of(state);
            if ways.len() * of_state.len() > Self::MOST {
                return vec![StateWay { held: states.to_vec(), absent: Vec::new() }];
            }
            ways = ways.iter().flat_map(|way| of_state.iter().map(|other| way.and(other))).collect();
        }
        let mut ways: Vec<StateWay> = ways.into_iter().map(StateWay::without_false).collect();
        ways.sort();
        ways.dedup();
        ways
    }

    /// An attribute that says a state and does not say "false" (WAI-ARIA 1.2, section 6.6): that is the state.
    fn without_false(mut self) -> StateWay {
        for (attribute, as_state) in [("aria-current", "[aria-current]"), ("aria-invalid", "[aria-invalid=\"true\"]")] {
            let says_no = |state: &String| ["false", ""].iter().any(|no| *state == format!("[{attribute}=\"{no}\"]"));
            let any = format!("[{attribute}]");
            if self.held.contains(&any) && self.absent.iter().any(says_no) {
                self.absent.retain(|state| !says_no(state));
                self.held.retain(|state| *state != any);
                self.held.push(as_state.to_owned());
            }
        }
        self
    }

    /// What holds, where that is all that is asked for.
    fn only(self) -> Option<String> {
        match <[String; 1]>::try_from(self.held) {
            Ok([only]) if self.absent.is_empty() => Some(only),
            _ => None,
        }
    }
}

fn ways_of(state: &str) -> Vec<StateWay> {
    let inner = |name: &str| state.strip_prefix(name).and_then(|rest| rest.strip_suffix(')'));
    let held = |state: String| StateWay { held: vec![state], absent: Vec::new() };
    let of_compound = |one: &str| {
        let simple: Vec<String> = split_compound(one).into_iter().map(str::to_owned).collect();
        StateWay::all_of(&simple)
    };
    let ways: Option<Vec<StateWay>> = if let Some(list) = inner(":not(") {
        // What is not so in several respects at once is not taken apart.
        let all = split_list(list).into_iter().flat_map(of_compound);
        let absent: Option<Vec<String>> = all.map(StateWay::only).collect();
        absent.map(|absent| vec![StateWay { held: Vec::new(), absent }])
    } else if let Some(list) = inner(":is(").or_else(|| inner(":where(")) {
        Some(split_list(list).into_iter().flat_map(of_compound).collect())
    } else if let Some(list) = inner(":has(") {
        let each: Option<Vec<Vec<String>>> = split_list(list).into_iter().map(ways_inside).collect();
        each.map(|each| each.into_iter().flatten().map(held).collect())
    } else {
        None
    };
    ways.unwrap_or_else(|| vec![held(state.to_owned())])
}

/// The ways in which something inside may be in states, each as a `:has()` of its own; nothing where that is not so simple.
fn ways_inside(one: &str) -> Option<Vec<String>> {
    let (relation, rest) = relative(one);
    let list = parse_list(rest)?;
    let all = compounds(list.slice().first()?);
    if all[1..].iter().any(|compound| !compound.states.is_empty()) {
        return None;
    }
    let (bare, ways) = (without_states(&all), StateWay::all_of(&all[0].states));
    let bare = if bare == "*" { "" } else { &bare };
    let is_plain = ways.iter().all(|way| way.absent.is_empty());
    is_plain.then(|| ways.iter().map(|way| format!(":has({relation}{bare}{})", way.held.concat())).collect())
}

/// `:has(> .a)` of `:has(> .a:checked)`; nothing where nothing is left, or there are several.
fn has_without_states(text: &str) -> Option<String> {
    let inner = text.strip_prefix(":has(")?.strip_suffix(')')?;
    if split_list(inner).len() > 1 {
        return None;
    }
    let (relation, rest) = relative(inner);
    let list = parse_list(rest)?;
    let left = without_states(&compounds(list.slice().first()?));
    (left != "*").then(|| format!(":has({relation}{left})"))
}

/// A relative selector: its combinator with a space behind it, or nothing, and the rest.
pub fn relative(text: &str) -> (&str, &str) {
    let text = text.trim();
    match text.starts_with(['>', '+', '~']) {
        true => {
            let rest = text[1..].trim_start();
            (&text[..text.len() - rest.len()], rest)
        }
        false => ("", text),
    }
}

/// Whether a simple selector speaks of a state and of nothing else, or asks for a state of something inside.
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
            split_list(inner).into_iter().all(|one| {
                let simple = split_compound(one);
                !simple.is_empty() && simple.into_iter().all(says_a_state)
            })
        }
        Some(("has", inner)) => {
            let inner = inner.strip_suffix(')').unwrap_or(inner);
            split_list(inner).into_iter().all(|one| {
                let list = parse_list(relative(one).1);
                let one = list.as_ref().and_then(|list| list.slice().first());
                one.is_some_and(|one| compounds(one).iter().any(|compound| !compound.states.is_empty()))
            })
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
    fn ways_in_which_states_may_hold() {
        let ways = |text: &str| -> Vec<String> {
            let states = of(text).remove(0).states;
            let ways = StateWay::all_of(&states).into_iter();
            ways.map(|way| format!("{} but {}", way.held.join(" "), way.absent.join(" "))).collect()
        };
        assert_eq!(ways(".a:hover:not(:disabled, [aria-busy=true])"), [":hover but :disabled [aria-busy=\"true\"]"]);
        assert_eq!(
            ways(".a:is(:hover, :focus-visible):active"),
            [":active :focus-visible but ", ":active :hover but "]
        );
        assert_eq!(ways(":is(:hover:not(:disabled), :focus)"), [":focus but ", ":hover but :disabled"]);
        assert_eq!(ways(".a:has(> .b:checked)"), [":has(> .b:checked) but "]);
        assert_eq!(ways(".a:where(:not(:has(:disabled)))"), [" but :has(:disabled)"]);
        assert_eq!(ways(".a:not(:not(:hover))"), [":not(:not(:hover)) but "]);
        assert_eq!(ways(".a:not(:hover:focus)"), [":not(:hover:focus) but "], "it may be in one of them");
        assert_eq!(
            ways(".a:has(> .b:where(:user-invalid, [aria-invalid]:not([aria-invalid=false], [aria-invalid=''])))"),
            [":has(> .b:user-invalid) but ", ":has(> .b[aria-invalid=\"true\"]) but "]
        );
        let many: Vec<String> = (0..5).map(|at| format!(":is(:hover, [data-state=a{at}])")).collect();
        let text = format!(".a{}", many.concat());
        assert_eq!(ways(&text), [format!("{} but ", many.join(" ").replace("=a", "=\"a").replace("])", "\"])"))]);
        assert_eq!(ways("[aria-current]:not([aria-current=false])"), ["[aria-current] but "]);
    }

    #[test]
    fn what_stands_inside_stays_when_its_state_is_taken_off() {
        let rest = |text: &str| without_states(&of(text));
        assert_eq!(rest(".a:has(> .b + .c:checked)"), ".a:has(> .b + .c)");
        assert_eq!(rest(".a:has(:checked)"), ".a");
        assert_eq!(rest(".a:not(:has(.b:disabled))"), ".a");
        assert_eq!(rest(".a:has(.b)"), ".a:has(.b)");
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
