//! What form controls are at rest, by their attributes (HTML, sections 4.10 and 4.16.3).

use super::matching::ElementRef;
use crate::dom::{Element, NodeId, is_disableable};
use html5ever::ns;

impl<'d> ElementRef<'d> {
    fn kind(&self) -> String {
        input_type(self.element())
    }

    /// The radio buttons of its group, itself among them, in order.
    fn group(&self) -> impl DoubleEndedIterator<Item = &'d Element> {
        let group = self.document.radio_group(self.node);
        // Without a name it stands alone.
        let alone = group.is_empty().then(|| self.element());
        group.iter().filter_map(|node| self.document.element(*node)).chain(alone)
    }

    /// A box that is neither on nor off, a group in which nothing is chosen, progress that is not known.
    pub(super) fn is_indeterminate(&self) -> bool {
        match self.element().local() {
            "progress" => self.element().attribute("value").is_none(),
            "input" if self.kind() == "radio" => !self.group().any(|e| e.attribute("checked").is_some()),
            _ => false,
        }
    }

    /// What a form begins with: boxes and options that are on, and the button that sends it.
    pub(super) fn is_default(&self) -> bool {
        let element = self.element();
        match element.local() {
            "input" if ["checkbox", "radio"].contains(&self.kind().as_str()) => element.attribute("checked").is_some(),
            "option" => element.attribute("selected").is_some(),
            "button" | "input" => {
                let form = self.document.form_of(self.node);
                form.and_then(|form| self.document.default_button(form)) == Some(self.node)
            }
            _ => false,
        }
    }

    /// Whether its value may be sent; `None` where that is never asked (HTML, section 4.10.21.2).
    pub(super) fn validity(&self) -> Option<bool> {
        let element = self.element();
        match element.local() {
            "form" | "fieldset" => {
                let nodes = self.document.descendants(self.node);
                let inner =
                    nodes.into_iter().filter(|node| *node != self.node && self.document.element(*node).is_some());
                let mut inner =
                    inner.map(|node| self.at(node)).filter(|at| !matches!(at.element().local(), "form" | "fieldset"));
                Some(!inner.any(|at| at.validity() == Some(false)))
            }
            "button" => {
                let kind = element.attribute("type").unwrap_or("submit").to_ascii_lowercase();
                (!["button", "reset"].contains(&kind.as_str()) && !self.is_disabled()).then_some(true)
            }
            "select" => {
                if self.is_disabled() {
                    return None;
                }
                let chosen = self.document.descendants(self.node).into_iter().find_map(|node| {
                    let option = self.document.element(node).filter(|e| e.local() == "option")?;
                    self.at(node).is_checked().then_some(option)
                });
                let is_empty = chosen.is_none_or(|option| option.attribute("value") == Some(""));
                Some(element.attribute("required").is_none() || !is_empty)
            }
            "textarea" => {
                if self.is_disabled() || element.attribute("readonly").is_some() {
                    return None;
                }
                let is_empty = self.document.node(self.node).children.is_empty();
                Some(element.attribute("required").is_none() || !is_empty)
            }
            "input" => self.input_validity(),
            _ => None,
        }
    }

    fn input_validity(&self) -> Option<bool> {
        let element = self.element();
        let kind = self.kind();
        let takes_readonly =
            !["checkbox", "radio", "file", "range", "color", "submit", "image"].contains(&kind.as_str());
        let is_barred = ["hidden", "button", "reset"].contains(&kind.as_str())
            || self.is_disabled()
            || (takes_readonly && element.attribute("readonly").is_some());
        if is_barred {
            return None;
        }
        let value = element.attribute("value").unwrap_or_default();
        let required = element.attribute("required").is_some();
        let missing = match kind.as_str() {
            "checkbox" => required && !self.is_checked(),
            "radio" => {
                self.group().any(|e| e.attribute("required").is_some())
                    && !self.group().any(|e| e.attribute("checked").is_some())
            }
            "file" => required,
            "submit" | "image" | "range" | "color" => false,
            "number" => required && value.trim().parse::<f64>().is_err(),
            _ => required && value.is_empty(),
        };
        let mismatch = match kind.as_str() {
            "email" if !value.is_empty() => !is_email(value.trim()),
            "url" if !value.is_empty() => !is_url(value.trim()),
            _ => false,
        };
        Some(!missing && !mismatch && self.is_in_range() != Some(false))
    }

    /// Whether a number is within its limits; `None` where it has none.
    pub(super) fn is_in_range(&self) -> Option<bool> {
        let element = self.element();
        if element.local() != "input" || self.is_disabled() || element.attribute("readonly").is_some() {
            return None;
        }
        let number = |name: &str| element.attribute(name).and_then(|text| text.trim().parse::<f64>().ok());
        match self.kind().as_str() {
            // A range is moved into its limits.
            "range" => Some(true),
            "number" => {
                let (min, max) = (number("min"), number("max"));
                if min.is_none() && max.is_none() {
                    return None;
                }
                let Some(value) = number("value") else { return Some(true) };
                Some(min.is_none_or(|min| value >= min) && max.is_none_or(|max| value <= max))
            }
            _ => None,
        }
    }

    pub(super) fn is_checked(&self) -> bool {
        let element = self.element();
        match element.local() {
            "input" => match self.kind().as_str() {
                "checkbox" => element.attribute("checked").is_some(),
                // Of a group the last that asks for it has it.
                "radio" => {
                    element.attribute("checked").is_some()
                        && self
                            .group()
                            .rfind(|e| e.attribute("checked").is_some())
                            .is_none_or(|last| std::ptr::eq(last, element))
                }
                _ => false,
            },
            "option" => self.is_chosen(),
            _ => false,
        }
    }

    /// Whether an option is chosen; of a list that takes one only the last that asks for it.
    fn is_chosen(&self) -> bool {
        let list = self.document.list_of(self.node);
        let takes_one = |list: &NodeId| self.document.element(*list).is_some_and(|e| e.attribute("multiple").is_none());
        match list.filter(takes_one) {
            Some(list) => self.document.chosen_option(list) == Some(self.node),
            None => self.element().attribute("selected").is_some(),
        }
    }

    /// Disabled itself, or inside a disabled fieldset but not in its first legend.
    pub(super) fn is_disabled(&self) -> bool {
        if !is_disableable(self.element()) {
            return false;
        }
        if self.element().attribute("disabled").is_some() {
            return true;
        }
        let mut child = self.node;
        while let Some(parent) = self.document.node(child).parent {
            if let Some(element) = self.document.element(parent)
                && element.local() == "fieldset"
                && element.attribute("disabled").is_some()
            {
                let first_legend = self
                    .document
                    .child_elements(parent)
                    .find(|n| self.document.element(*n).is_some_and(|e| e.local() == "legend"));
                if first_legend != Some(child) {
                    return true;
                }
            }
            child = parent;
        }
        false
    }

    /// Whether a user can write into it (HTML, section 4.16.3).
    /// Whether it must be filled in (HTML, section 4.10.5.1: `required` is not for every type).
    pub(super) fn is_required(&self) -> bool {
        const NEVER: [&str; 7] = ["hidden", "range", "color", "submit", "image", "reset", "button"];
        let element = self.element();
        let may = match element.local() {
            "input" => !NEVER.contains(&input_type(element).as_str()),
            local => matches!(local, "select" | "textarea"),
        };
        may && element.attribute("required").is_some()
    }

    pub(super) fn is_read_write(&self) -> bool {
        let element = self.element();
        let open = element.attribute("readonly").is_none() && !self.is_disabled();
        match element.local() {
            "textarea" => open,
            "input" => {
                let kind = element.attribute("type").unwrap_or("text").to_ascii_lowercase();
                let closed =
                    ["hidden", "range", "color", "checkbox", "radio", "file", "submit", "image", "reset", "button"];
                open && !closed.contains(&kind.as_str())
            }
            _ => element.attribute("contenteditable").is_some_and(|v| v != "false"),
        }
    }
}

/// Whether some browser paints a `::before` and `::after` of an element. Measured in Chromium 156 and Firefox 153:
/// fields of text, buttons that are inputs, lists and what is embedded have none in either.
pub(super) fn paints_generated(element: &Element) -> bool {
    // Nothing in a drawing has boxes, but what it holds of HTML.
    if element.name.ns == ns!(svg) {
        return element.local() == "foreignObject";
    }
    match element.local() {
        "input" => !matches!(
            input_type(element).as_str(),
            "text"
                | "search"
                | "tel"
                | "url"
                | "email"
                | "password"
                | "number"
                | "submit"
                | "reset"
                | "button"
                | "hidden"
        ),
        "textarea" | "select" | "svg" | "video" | "canvas" | "iframe" | "br" => false,
        _ => true,
    }
}

/// The type of an `input`, in lower case; `text` where it has none that is known.
pub(super) fn input_type(element: &Element) -> String {
    const KNOWN: [&str; 22] = [
        "hidden",
        "text",
        "search",
        "tel",
        "url",
        "email",
        "password",
        "date",
        "month",
        "week",
        "time",
        "datetime-local",
        "number",
        "range",
        "color",
        "checkbox",
        "radio",
        "file",
        "submit",
        "image",
        "reset",
        "button",
    ];
    let kind = element.attribute("type").unwrap_or("text").to_ascii_lowercase();
    if KNOWN.contains(&kind.as_str()) { kind } else { "text".into() }
}

/// HTML, section 4.10.5.1.5.
fn is_email(text: &str) -> bool {
    let Some((name, domain)) = text.split_once('@') else { return false };
    let is_label = |label: &str| {
        !label.is_empty()
            && !label.starts_with('-')
            && !label.ends_with('-')
            && label.chars().all(|c| c.is_ascii_alphanumeric() || c == '-')
    };
    let is_name = |c: char| c.is_ascii_alphanumeric() || ".!#$%&'*+/=?^_`{|}~-".contains(c);
    !name.is_empty() && name.chars().all(is_name) && domain.split('.').all(is_label)
}

fn is_url(text: &str) -> bool {
    let Some((scheme, rest)) = text.split_once(':') else { return false };
    let special = ["http", "https", "ftp", "ws", "wss"].contains(&scheme.to_ascii_lowercase().as_str());
    scheme.starts_with(|c: char| c.is_ascii_alphabetic())
        && scheme.chars().all(|c| c.is_ascii_alphanumeric() || "+-.".contains(c))
        && (!special || !rest.trim_matches('/').is_empty())
}

/// Whether an element shows a placeholder (HTML, section 4.10.5.3.10).
pub(super) fn shows_placeholder(element: &Element) -> bool {
    const WITH: [&str; 7] = ["text", "search", "tel", "url", "email", "password", "number"];
    element.attribute("placeholder").is_some()
        && match element.local() {
            "textarea" => true,
            "input" => WITH.contains(&input_type(element).as_str()),
            _ => false,
        }
}
