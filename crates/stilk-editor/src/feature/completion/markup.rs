//! In templates and pages.

use super::Offers;
use super::sheet::{offer_controls, own_names_of};
use crate::context::markup::{At, at};
use crate::feature::told;
use crate::names::{OwnKind, Symbol};
use lsp_types::CompletionItemKind as Kind;
use stilk_language::system::{Control, Mark, OptionId, System};

/// Offers what stands at a byte; `is_template` says that the file is a control's own.
pub(super) fn offer(offers: &mut Offers, offset: usize, is_template: bool) {
    let text = offers.subject.text;
    match at(text, offset) {
        At::Text => {}
        At::Attribute(_, word) if is_template => {
            for name in ["part", "data-control", "data-options", "data-when"] {
                let offer = offers.text(name, format!("{name}=\"$0\""), Kind::PROPERTY, &word, 0);
                offer.words = attribute_words(name).map(str::to_owned);
            }
        }
        At::Attribute(..) => {}
        At::Value(_, attribute, value, word) => match attribute.as_str() {
            "class" if !is_template => offer_classes(offers, &text[value], &word),
            "data-control" if is_template => offer_controls(offers, &word),
            "data-options" if is_template => {
                if let Some(control) = placed_control(text, value.start) {
                    for name in own_names_of(offers, control, OwnKind::Option) {
                        offers.word(&name, Kind::ENUM_MEMBER, &word, 0);
                    }
                }
            }
            "data-when" if is_template => {
                for name in own_names_of(offers, control_of(offers), OwnKind::Option) {
                    offers.word(&name, Kind::ENUM_MEMBER, &word, 0);
                }
            }
            "part" if is_template => {
                for name in own_names_of(offers, control_of(offers), OwnKind::Part) {
                    offers.word(&name, Kind::FIELD, &word, 0);
                }
                offers.word("native", Kind::FIELD, &word, 1);
            }
            name => offer_contexts(offers, name, &word),
        },
    }
}

fn attribute_words(name: &str) -> Option<&'static str> {
    Some(match name {
        "part" => "Names a part of the control, for `@part`; several names are separated by spaces.",
        "data-control" => "Places another control here: the element must be one of its hosts.",
        "data-options" => "The options of the placed control.",
        "data-when" => "The element exists only with these options; empty, the page decides.",
        _ => return None,
    })
}

/// The control that a template is of.
fn control_of<'o>(offers: &Offers<'o>) -> &'o str {
    let name = offers.subject.path.rsplit('/').next().unwrap_or_default();
    name.strip_suffix(".html").unwrap_or(name)
}

/// The control that is placed by the tag around a byte.
fn placed_control(text: &str, offset: usize) -> Option<&str> {
    let open = text[..offset].rfind('<')?;
    let end = text[offset..].find('>').map_or(text.len(), |end| offset + end);
    stilk_language::template::attribute_words(&text[open..end], "data-control").first().map(|(_, word)| *word)
}

/// Contexts of the modifier that an attribute chooses.
fn offer_contexts(offers: &mut Offers, attribute: &str, word: &std::ops::Range<usize>) {
    let Some(system) = offers.subject.snapshot.any_system() else { return };
    let modifiers = system.tokens.modifiers.iter();
    let chosen = modifiers.filter(|modifier| system.manifest.attribute_of(&modifier.name.value) == attribute);
    let contexts: Vec<String> = chosen.flat_map(|m| &m.contexts).map(|context| context.value.clone()).collect();
    offers.words(contexts, Kind::ENUM_MEMBER, word, 0);
}

/// Classes of the system: of a control that is named already its options and parts come first.
fn offer_classes(offers: &mut Offers, value: &str, word: &std::ops::Range<usize>) {
    let snapshot = offers.subject.snapshot;
    let Some(system) = snapshot.sound().and_then(|sound| sound.system.as_ref()) else { return };
    let there: Vec<&str> = value.split_ascii_whitespace().collect();
    for control in &system.controls {
        let classes = classes_of(system, control);
        let is_named = classes.first().is_some_and(|(class, _, _)| there.contains(&class.as_str()));
        for (at, (class, symbol, detail)) in classes.into_iter().enumerate() {
            if there.contains(&class.as_str()) && offers.subject.text[word.clone()] != *class {
                continue;
            }
            let rank = match (is_named, at) {
                (true, _) => 0,
                (false, 0) => 1,
                (false, _) => 2,
            };
            let words = told::symbol(snapshot, &symbol);
            let offer = offers.word(&class, Kind::CLASS, word, rank);
            (offer.detail, offer.words) = (Some(detail), words);
        }
    }
}

/// A control's classes: its own first, then those of options and parts.
fn classes_of(system: &System, control: &Control) -> Vec<(String, Symbol, String)> {
    let names = system.names();
    let name = control.name.value.as_str();
    let own = |kind, of: &str| Symbol::Own(kind, name.to_owned(), of.to_owned());
    let mut found: Vec<(Mark, Symbol, String)> =
        vec![(names.control(name), Symbol::Control(name.to_owned()), "control".to_owned())];
    for (axis, own_axis) in control.axes.iter().enumerate() {
        for (option, option_name) in own_axis.options.iter().enumerate() {
            let mark = names.option(control, OptionId { axis, option });
            let detail = format!("{} of {name}", own_axis.name.value);
            found.push((mark, own(OwnKind::Option, &option_name.value), detail));
        }
    }
    for part in control.template.part_names() {
        found.push((names.part(name, part), own(OwnKind::Part, part), format!("part of {name}")));
    }
    let class = |(mark, symbol, detail): (Mark, Symbol, String)| Some((mark.class()?.to_owned(), symbol, detail));
    found.into_iter().filter_map(class).collect()
}
