//! What marks an element of a page as a control, an option or a part: a class by the manifest's patterns, or one that the
//! page had before it had a system.

use stilk_engine::dom::Element;

/// A mark.
#[derive(Debug, Clone, PartialEq, Eq, Hash, PartialOrd, Ord)]
pub enum Mark {
    /// A class, without its dot.
    Class(String),
    /// An attribute, with its value or with any.
    Attribute {
        /// Its name, in lower case.
        name: String,
        /// Its value; `None` where it only has to be there.
        value: Option<String>,
    },
    /// An id, without its `#`.
    Id(String),
    /// The element itself, by its name: a part that has nothing else of its own.
    Element(String),
}

impl Mark {
    /// Reads a selector of one class, attribute or id; `None` for any other.
    pub fn read(selector: &str) -> Option<Mark> {
        let text = selector.trim();
        if let Some(name) = text.strip_prefix('.') {
            return is_plain(name).then(|| Mark::Class(name.to_owned()));
        }
        if let Some(name) = text.strip_prefix('#') {
            return is_plain(name).then(|| Mark::Id(name.to_owned()));
        }
        let inner = text.strip_prefix('[')?.strip_suffix(']')?.trim();
        let (name, value) = match inner.split_once('=') {
            None => (inner, None),
            Some((name, value)) => {
                let value = value.trim();
                let quoted = ['"', '\''].iter().find_map(|quote| value.strip_prefix(*quote)?.strip_suffix(*quote));
                let value = quoted.or_else(|| is_plain(value).then_some(value))?;
                (name.trim(), Some(value))
            }
        };
        let is_value = |value: &str| !value.contains(['"', '\'', '\\', '\n']);
        (is_plain(name) && value.is_none_or(is_value))
            .then(|| Mark::Attribute { name: name.to_ascii_lowercase(), value: value.map(str::to_owned) })
    }

    /// Reads what marks a part: an element's name does as well.
    pub fn read_part(selector: &str) -> Option<Mark> {
        let text = selector.trim();
        let is_name = text.starts_with(|c: char| c.is_ascii_lowercase())
            && text.chars().all(|c| c.is_ascii_lowercase() || c.is_ascii_digit() || c == '-');
        if is_name { Some(Mark::Element(text.to_owned())) } else { Mark::read(text) }
    }

    /// The class, where it is one.
    pub fn class(&self) -> Option<&str> {
        match self {
            Mark::Class(name) => Some(name),
            Mark::Attribute { .. } | Mark::Id(_) | Mark::Element(_) => None,
        }
    }

    /// A selector of specificity (0,1,0) that matches what has it.
    pub fn selector(&self) -> String {
        match self {
            Mark::Class(name) => format!(".{name}"),
            Mark::Attribute { name, value: None } => format!("[{name}]"),
            Mark::Attribute { name, value: Some(value) } => format!("[{name}=\"{value}\"]"),
            // An id selector would be stronger than all others.
            Mark::Id(name) => format!("[id=\"{name}\"]"),
            // A name alone would be weaker.
            Mark::Element(name) => format!(":where({name}):not(._)"),
        }
    }

    /// As people write it: `.cta`, `[data-kind="act"]`, `#send`.
    pub fn text(&self) -> String {
        match self {
            Mark::Id(name) => format!("#{name}"),
            Mark::Element(name) => name.clone(),
            other => other.selector(),
        }
    }

    /// As sentences about markup name it: a class without its dot.
    pub fn shown(&self) -> String {
        self.class().map_or_else(|| self.text(), str::to_owned)
    }

    /// Whether an element has it.
    pub fn is_on(&self, element: &Element) -> bool {
        match self {
            Mark::Class(name) => element.classes.iter().any(|class| **class == **name),
            Mark::Attribute { name, value: None } => element.attribute(name).is_some(),
            Mark::Attribute { name, value: Some(value) } => element.attribute(name) == Some(value),
            Mark::Id(name) => element.attribute("id") == Some(name),
            Mark::Element(name) => element.local() == name,
        }
    }

    /// The attribute that it is written as, with its value; an element's name is none.
    pub fn attribute(&self) -> Option<(&str, &str)> {
        Some(match self {
            Mark::Class(name) => ("class", name),
            Mark::Attribute { name, value } => (name, value.as_deref().unwrap_or_default()),
            Mark::Id(name) => ("id", name),
            Mark::Element(_) => return None,
        })
    }

    /// Puts it on an element; a class stands beside those that are there.
    pub fn put_on(&self, element: &mut Element) {
        match self {
            Mark::Class(name) => {
                let own = element.attribute("class").unwrap_or_default();
                let all = if own.is_empty() { name.clone() } else { format!("{own} {name}") };
                element.set("class", all);
            }
            Mark::Attribute { .. } | Mark::Id(_) | Mark::Element(_) => {
                if let Some((name, value)) = self.attribute() {
                    element.set(name, value.to_owned());
                }
            }
        }
    }
}

/// Whether a name needs no escapes in a selector.
fn is_plain(name: &str) -> bool {
    let is_name = |c: char| c.is_alphanumeric() || c == '-' || c == '_' || !c.is_ascii();
    // A number at the beginning would have to be escaped, behind a dash as well.
    let first = name.strip_prefix('-').unwrap_or(name);
    let begins_well = first.starts_with(|c: char| !c.is_ascii_digit());
    begins_well && name.chars().all(is_name)
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn one_class_attribute_or_id_is_a_mark_and_nothing_else() {
        for (text, selector) in [
            (".cta", ".cta"),
            (" .cta_icon ", ".cta_icon"),
            ("#send", "[id=\"send\"]"),
            ("[data-open]", "[data-open]"),
            ("[DATA-Kind = act]", "[data-kind=\"act\"]"),
            ("[data-kind='two words']", "[data-kind=\"two words\"]"),
        ] {
            assert_eq!(Mark::read(text).map(|mark| mark.selector()).as_deref(), Some(selector), "{text}");
        }
        for text in
            ["", ".", "cta", ".a.b", ".a .b", ".a:hover", "a.b", "[x~=y]", "[x=\"a\" i]", "#1a", ".-1", "*", "[=x]"]
        {
            assert_eq!(Mark::read(text), None, "{text}");
        }
    }

    #[test]
    fn a_part_may_be_an_element_by_its_name() {
        let mark = Mark::read_part("svg").expect("a mark");
        assert_eq!((mark.selector(), mark.text()), (":where(svg):not(._)".to_owned(), "svg".to_owned()));
        assert!(mark.is_on(&Element::html("svg")) && !mark.is_on(&Element::html("span")));
        assert_eq!(Mark::read_part(".icon"), Mark::read(".icon"));
        for text in ["", "*", "svg path", "svg:hover", "Svg.x"] {
            assert_eq!(Mark::read_part(text), None, "{text}");
        }
    }

    #[test]
    fn what_is_put_on_an_element_is_on_it() {
        for text in [".cta", "#send", "[data-open]", "[data-kind='act']"] {
            let mark = Mark::read(text).expect("a mark");
            let mut element = Element::html("button");
            element.set("class", "wide".to_owned());
            assert!(!mark.is_on(&element), "{text}");
            mark.put_on(&mut element);
            assert!(mark.is_on(&element), "{text}");
            assert!(element.classes.iter().any(|class| &**class == "wide"), "{text}");
        }
    }
}
