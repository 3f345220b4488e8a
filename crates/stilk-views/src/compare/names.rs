//! Names that pages and programs use: what is gone, new, or has another name.

use std::collections::BTreeMap;
use stilk_language::system::{Control, OptionId, System};

/// What a name is of.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
pub enum NameKind {
    /// A control's class.
    Control,
    /// The element that a control stands on.
    Host,
    /// An option's class.
    Option,
    /// A part's class.
    Part,
    /// The option of an axis that needs no class.
    Default,
    /// A custom property of a control's own.
    Local,
    /// A token.
    Token,
    /// A context of a modifier.
    Context,
}

impl NameKind {
    /// In a word.
    pub fn word(self) -> &'static str {
        match self {
            NameKind::Control => "control",
            NameKind::Host => "host",
            NameKind::Option => "option",
            NameKind::Part => "part",
            NameKind::Default => "default",
            NameKind::Local => "local property",
            NameKind::Token => "token",
            NameKind::Context => "context",
        }
    }
}

/// A name that one version has and the other has not.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct NameChange {
    /// What it is of.
    pub kind: NameKind,
    /// The name in the old version.
    pub old: Option<String>,
    /// The name in the new version; both where it was renamed.
    pub new: Option<String>,
    /// What is written for it: a class or a custom property, in the version that has it.
    pub written: String,
}

/// All of them.
#[derive(Debug, Clone, Default)]
pub struct Names {
    /// By kind, then by name.
    pub list: Vec<NameChange>,
}

impl Names {
    /// Names that are gone, those that were renamed included.
    pub fn lost(&self) -> impl Iterator<Item = &NameChange> {
        self.list.iter().filter(|change| change.old.is_some())
    }

    /// Names that are new.
    pub fn gained(&self) -> impl Iterator<Item = &NameChange> {
        self.list.iter().filter(|change| change.old.is_none())
    }
}

/// A name with what is written for it, and what tells a renamed one: its value or place.
type Known = BTreeMap<(NameKind, String), (String, String)>;

/// One of them.
type Entry<'k> = (&'k (NameKind, String), &'k (String, String));

impl Names {
    /// The name that a control of the old version has in the new one.
    pub fn control<'n>(&'n self, old: &'n str) -> &'n str {
        let renamed = self.list.iter().filter(|change| change.kind == NameKind::Control);
        let found =
            renamed.filter(|change| change.old.as_deref() == Some(old)).find_map(|change| change.new.as_deref());
        found.unwrap_or(old)
    }
}

/// Compares the names of two systems.
pub fn compare(old: &System, new: &System) -> Names {
    let renamed = renamed_controls(old, new);
    let (mut before, after) = (known(old), known(new));
    // What is in a renamed control is held against what is in it now: its classes go with the control's.
    for (from, to) in &renamed {
        let of_control = |name: &str| name.strip_prefix(from.as_str()).is_some_and(|rest| rest.starts_with(OF_CONTROL));
        let keys: Vec<(NameKind, String)> = before.keys().filter(|(_, name)| of_control(name)).cloned().collect();
        for (kind, name) in keys {
            let Some((written, meaning)) = before.remove(&(kind, name.clone())) else { continue };
            let meaning = match meaning.strip_prefix(from.as_str()) {
                Some(rest) => format!("{to}{rest}"),
                None => meaning,
            };
            before.insert((kind, format!("{to}{}", &name[from.len()..])), (written, meaning));
        }
        before.remove(&(NameKind::Control, from.clone()));
    }
    let mut lost: Vec<Entry> = before.iter().filter(|(key, _)| !after.contains_key(*key)).collect();
    let mut gained: Vec<Entry> = after.iter().filter(|(key, _)| !before.contains_key(*key)).collect();
    let names = old.names();
    let mut list: Vec<NameChange> = renamed
        .iter()
        .map(|(from, to)| NameChange {
            kind: NameKind::Control,
            old: Some(from.clone()),
            new: Some(to.clone()),
            written: names.control(from).text(),
        })
        .collect();
    gained.retain(|((kind, name), _)| *kind != NameKind::Control || !renamed.values().any(|to| to == name));
    // One that is gone and one that is new, of the same kind and with the same meaning, are one with another name.
    lost.retain(|((kind, name), (written, meaning))| {
        let near = |other: &str| strsim::jaro_winkler(name, other) > 0.8;
        let is_it = |((other_kind, other), (_, other_meaning)): &Entry| {
            other_kind == kind
                && !meaning.is_empty()
                && meaning == other_meaning
                && (near(other) || *kind != NameKind::Token)
        };
        let Some(index) = gained.iter().position(is_it) else { return true };
        // Several that mean the same leave open which is meant.
        if gained.iter().filter(|entry| is_it(entry)).count() > 1 {
            return true;
        }
        let ((_, other), _) = gained.remove(index);
        let (old, new) = (Some(name.clone()), Some(other.clone()));
        list.push(NameChange { kind: *kind, old, new, written: written.clone() });
        false
    });
    for ((kind, name), (written, _)) in lost {
        list.push(NameChange { kind: *kind, old: Some(name.clone()), new: None, written: written.clone() });
    }
    for ((kind, name), (written, _)) in gained {
        list.push(NameChange { kind: *kind, old: None, new: Some(name.clone()), written: written.clone() });
    }
    // What is of a control that is gone or new goes with it.
    let whole: Vec<String> = list
        .iter()
        .filter(|change| change.kind == NameKind::Control)
        .filter_map(|change| change.old.clone().xor(change.new.clone()))
        .collect();
    list.retain(|change| {
        let name = change.old.as_ref().or(change.new.as_ref()).map_or("", String::as_str);
        let owner = name.split(OF_CONTROL).next().unwrap_or_default();
        change.kind == NameKind::Control
            || change.kind == NameKind::Token
            || !whole.iter().any(|control| control == owner)
    });
    list.sort_by(|a, b| a.kind.cmp(&b.kind).then(a.old.cmp(&b.old)).then(a.new.cmp(&b.new)));
    Names { list }
}

/// What stands between a control's name and that of something in it.
const OF_CONTROL: [char; 5] = ['.', '/', '@', ':', ' '];

/// Controls with another name: one that is gone and one that is new are the same where elements, axes and what their rules
/// set are.
fn renamed_controls(old: &System, new: &System) -> BTreeMap<String, String> {
    let without = |system: &'_ System, other: &System| -> Vec<(String, String)> {
        let controls = system.controls.iter().filter(|control| other.control(&control.name.value).is_none());
        controls.map(|control| (control.name.value.clone(), meaning(control))).collect()
    };
    let (lost, gained) = (without(old, new), without(new, old));
    let once =
        |list: &[(String, String)], meaning: &str| list.iter().filter(|(_, other)| other == meaning).count() == 1;
    lost.iter()
        .filter(|(_, meaning)| once(&lost, meaning) && once(&gained, meaning))
        .filter_map(|(from, meaning)| {
            Some((from.clone(), gained.iter().find(|(_, other)| other == meaning)?.0.clone()))
        })
        .collect()
}

/// What a control is, whatever it is called: its elements, how it varies, what its rules set.
fn meaning(control: &Control) -> String {
    let template = &control.template;
    let hosts: Vec<String> = template.hosts.iter().map(|host| template.document.to_html(host.node)).collect();
    let axes = control.axes.iter().map(|axis| {
        let options: Vec<&str> = axis.options.iter().map(|option| option.value.as_str()).collect();
        format!("{}: {}", axis.name.value, options.join(" "))
    });
    let set = control.rules.iter().flat_map(|rule| &rule.declarations).map(|d| d.name.value.clone());
    hosts.into_iter().chain(axes).chain(set).collect::<Vec<_>>().join("\n")
}

fn known(system: &System) -> Known {
    let names = system.names();
    let mut known = Known::new();
    for control in &system.controls {
        let own = &control.name.value;
        let mark = names.control(own).text();
        known.insert((NameKind::Control, own.clone()), (mark.clone(), String::new()));
        for host in &control.template.hosts {
            known.insert((NameKind::Host, format!("{own}@{}", host.name)), (mark.clone(), String::new()));
        }
        for part in control.template.part_names() {
            let meaning = control.template.hosts.iter().find_map(|host| {
                let (_, node) = host.parts.iter().find(|(name, _)| name.value == part)?;
                let element = control.template.document.element(*node)?;
                Some(format!("{own} {} {}", element.local(), host.parts.iter().position(|(_, n)| n == node)?))
            });
            let written = names.part(own, part).text();
            known.insert((NameKind::Part, format!("{own}/{part}")), (written, meaning.unwrap_or_default()));
        }
        let at_rest = control.rules.iter().filter(|rule| rule.options.is_empty() && rule.states.is_rest());
        for declaration in at_rest.flat_map(|rule| &rule.declarations).filter(|d| d.is_local() && d.owner.is_none()) {
            let name = &declaration.name.value;
            let written = names.local(own, name);
            known.entry((NameKind::Local, format!("{own} {name}"))).or_insert((written, String::new()));
        }
        for (axis, options) in control.axes.iter().enumerate() {
            for (option, name) in options.options.iter().enumerate() {
                let id = OptionId { axis, option };
                // The declarations that an option has say what it is, whatever it is called.
                let rules = control.rules.iter().filter(|rule| rule.options == [id]);
                let said: Vec<String> = rules
                    .flat_map(|rule| &rule.declarations)
                    .map(|d| format!("{}: {:?}", d.name.value, d.value.pieces.len()))
                    .collect();
                let meaning = if said.is_empty() {
                    String::new()
                } else {
                    format!("{own} {} {}", options.name.value, said.join("; "))
                };
                let written = names.option(control, id).text();
                known.insert((NameKind::Option, format!("{own}.{}", name.value)), (written, meaning));
            }
            if let Some(default) = options.default {
                let name = format!("{own}: {} is {}", options.name.value, options.options[default].value);
                known.insert((NameKind::Default, name), (String::new(), String::new()));
            }
        }
    }
    for (index, token) in system.tokens.list.iter().enumerate() {
        if token.is_member {
            continue;
        }
        let values: Vec<String> = system
            .tokens
            .themes()
            .iter()
            .map(|theme| system.tokens.literal(stilk_language::tokens::TokenId(index), theme).unwrap_or_default())
            .collect();
        known.insert((NameKind::Token, token.path.clone()), (names.token(&token.path), values.join(" | ")));
    }
    for modifier in &system.tokens.modifiers {
        for context in &modifier.contexts {
            let name = format!("{}={}", modifier.name.value, context.value);
            known.insert((NameKind::Context, name), (String::new(), String::new()));
        }
    }
    known
}
