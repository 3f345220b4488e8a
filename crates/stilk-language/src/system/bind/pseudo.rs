//! Pseudo-elements that sheets may name, and which elements have them.

use crate::template::Template;
use stilk_engine::dom::Element;
use stilk_text::diagnostic::{Diagnostic, unknown_name};
use stilk_text::source::Name;

/// The id of what no element of a control has.
pub const NOWHERE: &str = "sheet/pseudo";

/// A pseudo-element, and which elements have it.
struct Known {
    name: &'static str,
    /// Whether an element of this kind may have it.
    is_of: fn(&Element) -> bool,
    /// What may have it, in words.
    owners: &'static str,
    /// What to write where nothing has it.
    mend: &'static str,
}

/// CSS Pseudo-Elements 4, CSS Forms 1, HTML 15; what Chromium paints somewhere, not what `getComputedStyle` claims.
const KNOWN: [Known; 13] = [
    of(
        "::before",
        holds_content,
        "what is replaced paints no content",
        "draw it with a part around the native control",
    ),
    of("::after", holds_content, "what is replaced paints no content", "draw it with a part around the native control"),
    of(
        "::placeholder",
        |e| matches!(e.local(), "input" | "textarea"),
        "fields of text have it",
        "write it for the native input or text area",
    ),
    of("::marker", |_| true, "", ""),
    // Whatever fills the screen has it, beside dialogs and popovers.
    of("::backdrop", |_| true, "", ""),
    of("::selection", |_| true, "", ""),
    of(
        "::file-selector-button",
        |e| e.local() == "input" && e.attribute("type").is_some_and(|kind| kind.eq_ignore_ascii_case("file")),
        "only `<input type=\"file\">` has it",
        "write it for the file input",
    ),
    of("::first-letter", holds_text, "what is replaced has no text of its own", "write it for a part that holds text"),
    of("::first-line", holds_text, "what is replaced has no text of its own", "write it for a part that holds text"),
    of("::details-content", |e| e.local() == "details", "only `<details>` has it", "write it for the `<details>`"),
    of("::picker(select)", |e| e.local() == "select", "only `<select>` has it", "write it for the `<select>`"),
    of("::picker-icon", |e| e.local() == "select", "only `<select>` has it", "write it for the `<select>`"),
    of(
        "::checkmark",
        |e| e.local() == "option",
        "only `<option>` has it",
        "name the `<option>` a part, and write it for that",
    ),
];

const fn of(name: &'static str, is_of: fn(&Element) -> bool, owners: &'static str, mend: &'static str) -> Known {
    Known { name, is_of, owners, mend }
}

/// Whether content of its own is painted in an element: not in fields of text, in buttons that are inputs, and in lists that
/// open; in a picture while it is not there.
fn holds_content(element: &Element) -> bool {
    const DRAWN: [&str; 10] =
        ["checkbox", "color", "date", "datetime-local", "file", "month", "radio", "range", "time", "week"];
    match element.local() {
        "input" => element.attribute("type").is_some_and(|kind| DRAWN.contains(&kind.to_ascii_lowercase().as_str())),
        "select" => {
            element.attribute("multiple").is_some() || element.attribute("size").is_some_and(|size| size != "1")
        }
        "textarea" => false,
        _ => true,
    }
}

/// Whether text may stand in an element itself.
fn holds_text(element: &Element) -> bool {
    !matches!(element.local(), "input" | "select" | "textarea" | "img")
}

/// The names that sheets may write, with their colons.
pub fn names() -> impl Iterator<Item = &'static str> {
    KNOWN.iter().map(|known| known.name)
}

/// Why a pseudo-element of a part, or of the hosts, cannot be; nothing where it may. Lists that the page draws
/// (`appearance: base-select`) hold content.
pub fn problem(template: &Template, part: Option<&str>, pseudo: &Name, draws_lists: bool) -> Option<Diagnostic> {
    let is_vendor = pseudo.value.starts_with("::-webkit-") || pseudo.value.starts_with("::-moz-");
    if is_vendor {
        return None;
    }
    let Some(known) = KNOWN.iter().find(|known| known.name == pseudo.value) else {
        return Some(unknown_name("sheet/part", "pseudo-element", pseudo, names()));
    };
    let named = |node| template.document.element(node);
    let hosts = template.hosts.iter();
    let elements: Vec<&Element> = match part {
        None => hosts.filter_map(|host| named(host.node)).collect(),
        Some(part) => hosts
            .flat_map(|host| &host.parts)
            .filter(|(name, _)| name.value == part)
            .filter_map(|(_, node)| named(*node))
            .collect(),
    };
    // Of a placed control the template has no more than its element.
    let is_placed = |element: &&Element| element.attribute("data-control").is_some();
    let is_drawn = |element: &&Element| draws_lists && element.local() == "select";
    if elements.iter().any(|element| (known.is_of)(element) || is_placed(element) || is_drawn(element)) {
        return None;
    }
    let message = match part {
        None => format!("no host of this control can have `{}`", known.name),
        Some(part) => format!("the part `{part}` can have no `{}`", known.name),
    };
    Some(Diagnostic::error(NOWHERE, pseudo.span, message).label(known.owners).mend(known.mend))
}
