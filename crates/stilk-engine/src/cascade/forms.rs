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
        // Chromium asks for `readonly` even where it says nothing.
        let is_barred = ["hidden", "button", "reset", "image"].contains(&kind.as_str())
            || self.is_disabled()
            || element.attribute("readonly").is_some();
        if is_barred {
            return None;
        }
        let value = element.attribute("value").unwrap_or_default();
        let required = element.attribute("required").is_some();
        let missing = match kind.as_str() {
            "checkbox" => required && !self.is_checked(),
            // Without a name it is in no group, and nobody has to choose of one.
            "radio" => {
                element.attribute("name").is_some_and(|name| !name.is_empty())
                    && self.group().any(|e| e.attribute("required").is_some())
                    && !self.group().any(|e| e.attribute("checked").is_some())
            }
            "file" => required,
            "submit" | "range" | "color" => false,
            "number" => required && number(value).is_none(),
            "date" | "month" | "week" | "datetime-local" | "time" => required && date(&kind, value).is_none(),
            _ => required && value.is_empty(),
        };
        let mismatch = match kind.as_str() {
            "email" if !value.is_empty() => !is_email(value.trim()),
            "url" if !value.is_empty() => !is_url(value.trim()),
            _ => false,
        };
        Some(!missing && !mismatch && !self.is_between_steps() && self.is_in_range() != Some(false))
    }

    /// Whether a number or a date is within its limits, as Chromium 156 has it: `None` where there is a value and no limit.
    pub(super) fn is_in_range(&self) -> Option<bool> {
        let element = self.element();
        if element.local() != "input" || self.is_disabled() || element.attribute("readonly").is_some() {
            return None;
        }
        let written = |name: &str| element.attribute(name).unwrap_or_default();
        let kind = self.kind();
        match kind.as_str() {
            // A range is moved into its limits.
            "range" => Some(true),
            "number" => within(&[written("value"), written("min"), written("max")].map(number)),
            // What is written as a date compares as text does.
            "date" | "month" | "week" | "datetime-local" => {
                within(&[written("value"), written("min"), written("max")].map(|text| date(&kind, text)))
            }
            "time" => {
                let [value, min, max] =
                    [written("value"), written("min"), written("max")].map(|text| date(&kind, text));
                match (&value, &min, &max) {
                    // Limits the other way round leave out what is between them.
                    (Some(value), Some(min), Some(max)) if max < min => Some(value >= min || value <= max),
                    _ => within(&[value, min, max]),
                }
            }
            _ => None,
        }
    }

    /// Whether a number is none of the steps from its least.
    fn is_between_steps(&self) -> bool {
        let element = self.element();
        let of = |name: &str| element.attribute(name).and_then(number);
        let step = match element.attribute("step") {
            Some(word) if word.trim().eq_ignore_ascii_case("any") => return false,
            Some(text) => number(text).filter(|step| *step > 0.0).unwrap_or(1.0),
            None => 1.0,
        };
        // Without a least one, steps are counted from the value that is written.
        let (Some(value), Some(min)) = (of("value"), of("min")) else { return false };
        let steps = (value - min) / step;
        self.kind() == "number" && (steps - steps.round()).abs() > 1e-9
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
        // An option is out of use with its own group alone (HTML, section 4.10.10).
        if matches!(self.element().local(), "option" | "optgroup") {
            let groups = self.document.around(self.node).filter_map(|above| self.document.element(above));
            let group =
                groups.skip(1).take_while(|above| above.local() != "select").find(|above| above.local() == "optgroup");
            let is_option = self.element().local() == "option";
            return is_option && group.is_some_and(|group| group.attribute("disabled").is_some());
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

/// A number as fields take it (HTML, section 2.3.4.3): no sign but `-`, digits on both sides of a point.
fn number(text: &str) -> Option<f64> {
    let text = text.trim_ascii_start();
    let is_whole = !text.ends_with('.') && !text.starts_with('+') && !text.contains(".e") && !text.contains(".E");
    let is_plain = text.bytes().all(|b| b.is_ascii_digit() || matches!(b, b'-' | b'+' | b'.' | b'e' | b'E'));
    (is_whole && is_plain).then(|| text.parse().ok()).flatten()
}

/// A date or time as fields take it, written so that texts compare as dates do; nothing where there is no such day.
fn date(kind: &str, text: &str) -> Option<String> {
    let digits = |text: &str, count: usize| {
        (text.len() == count && text.bytes().all(|b| b.is_ascii_digit())).then(|| text.parse::<u32>().ok()).flatten()
    };
    let day = |text: &str| {
        let mut parts = text.splitn(3, '-');
        let (year, month) = (digits(parts.next()?, 4)?, digits(parts.next()?, 2)?);
        let day = parts.next().map(|text| digits(text, 2));
        let leap = year % 4 == 0 && (year % 100 != 0 || year % 400 == 0);
        let last = match month {
            2 => 28 + u32::from(leap),
            4 | 6 | 9 | 11 => 30,
            1..=12 => 31,
            _ => return None,
        };
        let is_day = day.is_none_or(|day| day.is_some_and(|day| (1..=last).contains(&day)));
        (year > 0 && is_day).then_some(day.is_some())
    };
    let clock = |text: &str| {
        let (minutes, seconds) = text.split_at_checked(5)?;
        let (hour, minute) = minutes.split_once(':')?;
        let seconds = if seconds.is_empty() { ":00" } else { seconds };
        let (whole, part) = seconds.strip_prefix(':')?.split_at_checked(2)?;
        let part = if part.is_empty() { ".0" } else { part };
        let is_part =
            part.strip_prefix('.').is_some_and(|p| (1..=3).contains(&p.len()) && p.bytes().all(|b| b.is_ascii_digit()));
        let is_time = digits(hour, 2)? < 24 && digits(minute, 2)? < 60 && digits(whole, 2)? < 60 && is_part;
        is_time.then(|| format!("{minutes}:{whole}{part:0<4}"))
    };
    match kind {
        "date" => day(text)?.then(|| text.to_owned()),
        "month" => (!day(text)?).then(|| text.to_owned()),
        "week" => {
            let (year, week) = text.split_once("-W")?;
            ((1..=53).contains(&digits(week, 2)?) && digits(year, 4)? > 0).then(|| text.to_owned())
        }
        "datetime-local" => {
            let (date, time) = text.split_once(['T', ' '])?;
            day(date)?.then(|| clock(time)).flatten().map(|time| format!("{date}T{time}"))
        }
        _ => clock(text),
    }
}

/// Whether a value is within its limits; what is empty is.
fn within<T: PartialOrd>(of: &[Option<T>; 3]) -> Option<bool> {
    match of {
        [None, _, _] => Some(true),
        [Some(_), None, None] => None,
        [Some(value), min, max] => {
            Some(min.as_ref().is_none_or(|min| value >= min) && max.as_ref().is_none_or(|max| value <= max))
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
