//! Classes that say a state: `.is-open`, `.in-error`, `.cta--loading`. A script sets them, so that markup need not show one.

use stilk_engine::cascade::compound::Compound;

/// Last words of classes that say a state.
const STATE_WORDS: [&str; 30] = [
    "active",
    "busy",
    "checked",
    "closed",
    "collapsed",
    "current",
    "disabled",
    "error",
    "errors",
    "expanded",
    "failed",
    "focus",
    "focused",
    "hover",
    "invalid",
    "loading",
    "off",
    "on",
    "open",
    "opened",
    "pending",
    "pressed",
    "readonly",
    "selected",
    "success",
    "valid",
    "warning",
    "working",
    "chosen",
    "inactive",
];

/// Whether a class says a state.
pub fn says_state(class: &str) -> bool {
    let lower = class.to_ascii_lowercase();
    let last = lower.rsplit(['-', '_']).next().unwrap_or(&lower);
    STATE_WORDS.contains(&last)
}

/// Whether it says that a control is switched off. Who sets such a class says `disabled` as well, or should: of the class alone
/// nothing is asked where it does not stand.
fn says_inactive(class: &str) -> bool {
    let lower = class.to_ascii_lowercase();
    ["disabled", "inactive", "closed", "off"].iter().any(|word| lower.rsplit(['-', '_']).next() == Some(word))
}

/// What is left of a class without the word that says a state: `cta` of `cta--loading`.
fn base(class: &str) -> Option<&str> {
    let base = class.rsplit_once(['-', '_'])?.0.trim_end_matches(['-', '_']);
    (!base.is_empty()).then_some(base)
}

/// What an element is asked for apart from classes that say a state, and these; where nothing else is asked for, such a class
/// may be anybody's, and stays.
pub fn without(compound: &Compound) -> (Compound, Vec<String>) {
    let mut left = compound.clone();
    let is_explored = |class: &String| says_state(class) && !says_inactive(class);
    let (of_state, classes): (Vec<String>, Vec<String>) = left.classes.into_iter().partition(is_explored);
    left.classes = classes;
    let tells = |left: &Compound| {
        !left.classes.is_empty() || !left.ids.is_empty() || !left.attributes.is_empty() || left.local.is_some()
    };
    let mut taken = Vec::new();
    for class in of_state {
        // `.cta--loading` alone is one of `.cta`; `.is-open` says nothing of whose it is.
        match base(&class).filter(|base| !matches!(*base, "is" | "has" | "in" | "js")) {
            Some(base) if !tells(&left) => {
                let of =
                    |class: &str| Compound { classes: vec![class.to_owned()], ..Compound::default() }.without_states();
                left.others.push(format!(":is({}, {})", of(&class), of(base)));
                taken.push(class);
            }
            _ if tells(&left) => taken.push(class),
            _ => left.classes.push(class),
        }
    }
    (left, taken)
}
