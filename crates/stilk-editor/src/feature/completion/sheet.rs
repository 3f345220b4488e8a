//! In a sheet.

use super::Offers;
use super::values::{offer_tokens, offer_value};
use crate::context::sheet::{At, Cursor, at};
use crate::feature::told;
use crate::names::{OwnKind, Role, Symbol};
use lsp_types::CompletionItemKind as Kind;
use std::collections::BTreeSet;
use std::ops::Range;
use stilk_checks::registry::CHECKS;
use stilk_engine::css::PropertyName;
use stilk_language::sheet::{at_rules_at_top, at_rules_in_blocks};
use stilk_language::system::pseudo_elements;

pub(super) fn offer(offers: &mut Offers, offset: usize) {
    let cursor = at(offers.subject.text, offset);
    match &cursor.at {
        At::Text => {}
        At::Start(word) => offer_start(offers, &cursor, word),
        At::Rule(word) => offer_rules(offers, &cursor, word, ""),
        At::Prelude { rule, before, word } => offer_prelude(offers, &cursor, rule, before, word),
        At::Value { property, before, word, function } => {
            offer_value(offers, &cursor, property, before, word, function.as_deref());
        }
        At::Reference { property, before, path, is_closed } => {
            offer_tokens(
                offers,
                &cursor,
                property.as_deref(),
                before,
                path,
                if *is_closed { ("", "") } else { ("", "}") },
            );
        }
    }
}

fn offer_start(offers: &mut Offers, cursor: &Cursor, word: &Range<usize>) {
    if cursor.is_in_axis() {
        return;
    }
    let rule = cursor.heads.last().map(|head| head.rule.as_str());
    match rule {
        None => offer_rules(offers, cursor, word, "@"),
        Some("attach") => {
            let prelude = cursor.heads.last().map(|head| head.prelude.as_str()).unwrap_or_default();
            let Some(control) = attached(prelude) else { return };
            for part in own_names_of(offers, control, OwnKind::Part) {
                offers.text(&part, format!("{part}: $0;"), Kind::FIELD, word, 0);
            }
        }
        Some("derive" | "keyframes" | "font-face" | "property") => {}
        Some(_) => {
            for local in locals(offers, cursor) {
                let offer = offers.text(&local, format!("{local}: $0;"), Kind::VARIABLE, word, 1);
                offer.detail = Some("local".to_owned());
            }
            for name in PropertyName::all().filter(|name| !name.starts_with("-stilk") && !name.starts_with("-webkit-"))
            {
                let offer = offers.text(name, format!("{name}: $0;"), Kind::PROPERTY, word, 2);
                offer.words = PropertyName::read(name).describe();
            }
            offer_rules(offers, cursor, word, "@");
        }
    }
}

fn offer_rules(offers: &mut Offers, cursor: &Cursor, word: &Range<usize>, sign: &str) {
    let rules = if cursor.heads.is_empty() { at_rules_at_top() } else { at_rules_in_blocks() };
    for rule in rules {
        let text = match rule {
            "traits" | "exclude" | "waive" => format!("{sign}{rule} $0;"),
            "derive" | "font-face" => format!("{sign}{rule} {{ $0 }}"),
            _ => format!("{sign}{rule} $0 {{ }}"),
        };
        let offer = offers.text(&format!("{sign}{rule}"), text, Kind::KEYWORD, word, 3);
        offer.words = told::at_rule(rule);
    }
}

/// The locals that the control at the cursor has.
pub(super) fn locals(offers: &Offers, cursor: &Cursor) -> BTreeSet<String> {
    own_names(offers, cursor, OwnKind::Local)
}

/// Names of a kind that the control at the cursor has, its originals' and its traits' as well.
fn own_names(offers: &Offers, cursor: &Cursor, kind: OwnKind) -> BTreeSet<String> {
    let Some(owner) = cursor.owner() else { return BTreeSet::new() };
    own_names_of(offers, &owner, kind)
}

pub(super) fn own_names_of(offers: &Offers, owner: &str, kind: OwnKind) -> BTreeSet<String> {
    let snapshot = offers.subject.snapshot;
    let mut owners = vec![owner.to_owned()];
    let mut at = 0;
    while at < owners.len() && owners.len() < 64 {
        let nodes = snapshot.trees.sheets.iter().flat_map(|sheet| &sheet.controls);
        let from = nodes.filter(|node| node.name.value == owners[at]).filter_map(|node| node.from.as_ref());
        let more: Vec<String> = from.map(|from| from.value.clone()).filter(|name| !owners.contains(name)).collect();
        owners.extend(more);
        at += 1;
    }
    let is_own = |symbol: &&Symbol| match symbol {
        Symbol::Own(own, of, name) if *own == kind => {
            owners.iter().any(|owner| snapshot.names.stands_for(kind, owner, name).as_ref() == Some(of))
        }
        _ => false,
    };
    let defined = |symbol: &&Symbol| snapshot.names.of(symbol).any(|one| one.role != Role::Read);
    snapshot.names.symbols().filter(is_own).filter(defined).map(|symbol| symbol.name().to_owned()).collect()
}

fn offer_prelude(offers: &mut Offers, cursor: &Cursor, rule: &str, before: &str, word: &Range<usize>) {
    let last = before.split_ascii_whitespace().next_back().unwrap_or_default();
    let begins = before.trim_end().is_empty() || before.trim_end().ends_with(',');
    match rule {
        "state" if last == "of" => {
            offers.word("&", Kind::KEYWORD, word, 0).detail = Some("the very part that the rule stands in".to_owned());
            offer_own(offers, cursor, OwnKind::Part, word);
        }
        "state" if begins || matches!(last, "and" | "not") => offer_states(offers, word),
        "state" => offers.words(["and", "of"], Kind::KEYWORD, word, 0),
        "part" => {
            // `label::before`: the part is there, its pseudo-element follows.
            let typed = &offers.subject.text[word.clone()];
            offer_own(offers, cursor, OwnKind::Part, word);
            let stem = before.trim_end().ends_with(':').then_some(typed);
            for pseudo in pseudo_elements() {
                let colons = before.len() - before.trim_end_matches(':').len();
                let start = word.start - colons;
                if stem.is_some() || begins {
                    offers.word(pseudo, Kind::KEYWORD, &(start..word.end), 1);
                }
            }
        }
        "traits" => {
            let names = offers.subject.snapshot.names.symbols();
            let traits: BTreeSet<String> =
                names.filter(|s| matches!(s, Symbol::Trait(_))).map(|s| s.name().to_owned()).collect();
            offers.words(traits, Kind::INTERFACE, word, 0);
        }
        "host" => {
            let system = offers.subject.snapshot.any_system();
            let control = cursor.owner().and_then(|name| system?.control(&name));
            let hosts: Vec<String> =
                control.into_iter().flat_map(|c| &c.template.hosts).map(|host| host.name.clone()).collect();
            offers.words(hosts, Kind::CLASS, word, 0);
        }
        "combine" | "exclude" => {
            offer_own(offers, cursor, OwnKind::Option, word);
            if rule == "exclude" && !begins {
                offers.words(["with", "without", "on"], Kind::KEYWORD, word, 1);
            }
        }
        "axis" if !begins => match last {
            "default" => offer_own(offers, cursor, OwnKind::Option, word),
            _ => offers.words(["default", "optional"], Kind::KEYWORD, word, 0),
        },
        "control" if begins => {
            // A template without a sheet waits for one.
            let trees = &offers.subject.snapshot.trees;
            let has_sheet = |name: &str| trees.sheets.iter().flat_map(|s| &s.controls).any(|c| c.name.value == name);
            let waiting: Vec<String> =
                trees.templates.iter().map(|t| t.control.clone()).filter(|name| !has_sheet(name)).collect();
            offers.words(waiting, Kind::CLASS, word, 0);
        }
        "control" if last == "from" => offer_controls(offers, word),
        // One of several is enough: more may follow.
        "control" if before.split_ascii_whitespace().any(|known| known == "inside") => {
            offer_controls(offers, word);
            if last != "inside" {
                offers.words(["marked"], Kind::KEYWORD, word, 1);
            }
        }
        "control" => offers.words(["from", "inside", "marked"], Kind::KEYWORD, word, 0),
        "attach" if last == "as" => offer_controls(offers, word),
        "attach" => match attached(before) {
            Some(control) => {
                for name in own_names_of(offers, control, OwnKind::Option) {
                    offers.word(&name, Kind::ENUM_MEMBER, word, 0);
                }
            }
            None if before.contains(')') => offers.words(["as"], Kind::KEYWORD, word, 0),
            None => {}
        },
        "waive" if begins => {
            for check in CHECKS {
                let offer = offers.text(check.id, format!("{} \"$0\";", check.id), Kind::CONSTANT, word, 0);
                offer.words = Some(format!("Holds when {}.\n\n{}", check.summary, check.why));
            }
        }
        "waive" if last == "on" => {}
        "waive" => offers.words(["on", "until"], Kind::KEYWORD, word, 0),
        "media" => {
            for feature in [
                "prefers-reduced-motion: reduce",
                "prefers-color-scheme: dark",
                "prefers-contrast: more",
                "forced-colors: active",
                "hover: hover",
                "any-pointer: coarse",
                "pointer: coarse",
                "scripting: none",
            ] {
                let open = if before.trim_end().ends_with('(') { "" } else { "(" };
                offers.text(feature, format!("{open}{feature})"), Kind::KEYWORD, word, 0);
            }
        }
        "&" => {
            for condition in [":dir(rtl)", ":first-child", ":last-child", ":only-child"] {
                let colons = before.len() - before.trim_end_matches(':').len();
                offers.word(condition, Kind::KEYWORD, &(word.start - colons..word.end), 0);
            }
        }
        _ => {}
    }
}

/// The control whose look an `@attach` gives, once it is named.
fn attached(prelude: &str) -> Option<&str> {
    let (_, rest) = prelude.rsplit_once(" as ")?;
    rest.split_ascii_whitespace().next()
}

fn offer_states(offers: &mut Offers, word: &Range<usize>) {
    let snapshot = offers.subject.snapshot;
    let names: Vec<String> = match snapshot.any_system() {
        Some(system) => system.states.names().map(str::to_owned).collect(),
        None => stilk_language::system::States::new(&[]).names().map(str::to_owned).collect(),
    };
    for name in names {
        let words = told::state(snapshot, &name);
        offers.word(&name, Kind::EVENT, word, 0).words = words;
    }
    offers.word("not", Kind::KEYWORD, word, 1);
}

fn offer_own(offers: &mut Offers, cursor: &Cursor, kind: OwnKind, word: &Range<usize>) {
    let item = if kind == OwnKind::Part { Kind::FIELD } else { Kind::ENUM_MEMBER };
    for name in own_names(offers, cursor, kind) {
        offers.word(&name, item, word, 0);
    }
}

pub(super) fn offer_controls(offers: &mut Offers, word: &Range<usize>) {
    let snapshot = offers.subject.snapshot;
    let mut names: Vec<&Symbol> = snapshot.names.symbols().filter(|s| matches!(s, Symbol::Control(_))).collect();
    names.sort();
    for symbol in names {
        let words = told::symbol(snapshot, symbol);
        offers.word(symbol.name(), Kind::CLASS, word, 0).words = words;
    }
}
