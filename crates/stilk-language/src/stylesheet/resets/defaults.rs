//! What browsers bring along for native elements: read off the measured tables once, kept as a table of its own, and
//! held against them by a test. A build reads the few lines it needs.

use std::collections::{BTreeMap, BTreeSet};
use std::fmt::Write;
use std::sync::OnceLock;
use stilk_engine::cascade::defaults::Browser;
use stilk_engine::cascade::{Engine, Forced, Media, PseudoClass, Style, Stylesheet};
use stilk_engine::css::compute::resolve_colors;
use stilk_engine::css::property::Longhand;
use stilk_engine::css::serialize::to_css;
use stilk_engine::dom::{Document, Element};

/// The engines that were measured.
pub const ENGINES: [Browser; 3] = Browser::MEASURED;

/// Where and how an element stands.
#[derive(Debug)]
pub struct Place {
    /// In words, after a name.
    pub words: &'static str,
    around: &'static str,
    state: &'static str,
}

/// An ordinary parent; one in which everything that is inherited is unusual; focused; disabled.
pub const CONTEXTS: [Place; 4] = [
    Place { words: "", around: "", state: "" },
    Place { words: " in an unusual parent", around: "around", state: "" },
    Place { words: ":focus-visible", around: "", state: "focus-visible" },
    Place { words: ":disabled", around: "", state: "disabled" },
];

/// Every inherited property at a value that nobody would choose, so that what is taken over from around shows.
const UNUSUAL: &str = ".around { letter-spacing: 3px; word-spacing: 5px; text-transform: capitalize; text-indent: 11px;
    text-shadow: 1px 2px 3px rgb(1 2 3); text-align: justify; white-space: pre-line; cursor: grab; visibility: visible;
    text-rendering: geometricprecision; font: italic 700 21px/2 fantasy; color: rgb(9 8 7) }
    .host { appearance: none }";

/// A kind of element, by its place in [`KINDS`].
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
pub struct ElementKind(usize);

/// Names, elements and types.
const KINDS: [(&str, &str, &str); 18] = [
    ("other", "div", ""),
    ("a", "a", ""),
    ("summary", "summary", ""),
    ("button", "button", "button"),
    ("submit", "input", "submit"),
    ("reset", "input", "reset"),
    ("input-button", "input", "button"),
    ("text", "input", "text"),
    ("textarea", "textarea", ""),
    ("search", "input", "search"),
    ("number", "input", "number"),
    ("date", "input", "date"),
    ("select", "select", ""),
    ("checkbox", "input", "checkbox"),
    ("radio", "input", "radio"),
    ("range", "input", "range"),
    ("file", "input", "file"),
    ("color", "input", "color"),
];

impl ElementKind {
    /// An element that browsers do nothing special for.
    pub const OTHER: ElementKind = ElementKind(0);

    /// The kind of an element.
    pub fn of(element: &Element) -> ElementKind {
        let of_type = element.attribute("type").unwrap_or_default().to_ascii_lowercase();
        let of_type = match (element.local(), of_type.as_str()) {
            ("button", _) => "button",
            ("input", "image") => "submit",
            ("input", "time" | "datetime-local" | "month" | "week") => "date",
            ("input", known) if KINDS.iter().any(|(_, local, of_type)| *local == "input" && *of_type == known) => known,
            ("input", _) => "text",
            ("a", _) if element.attribute("href").is_none() => return ElementKind::OTHER,
            _ => "",
        };
        let same = |(_, local, known): &(&str, &str, &str)| *local == element.local() && *known == of_type;
        ElementKind(KINDS.iter().position(same).unwrap_or(0))
    }

    fn name(self) -> &'static str {
        KINDS[self.0].0
    }

    /// Whether the platform may draw it.
    pub fn is_native(self) -> bool {
        self.0 > 2
    }

    /// Whether it is a link.
    pub fn is_link(self) -> bool {
        self.name() == "a"
    }

    /// Whether it is pressed.
    pub fn is_action(self) -> bool {
        (1..7).contains(&self.0)
    }

    /// Whether it is written in.
    pub fn is_entry(self) -> bool {
        (7..12).contains(&self.0)
    }

    /// Whether something goes that people need when the platform no longer draws it: a mark, an arrow, a thumb.
    pub fn has_a_look_to_lose(self) -> bool {
        self.0 > 8
    }

    fn has(self, state: &str) -> bool {
        match state {
            "focus-visible" => self != ElementKind::OTHER,
            "disabled" => self.is_native(),
            _ => true,
        }
    }

    fn element(self) -> Element {
        let (_, local, of_type) = KINDS[self.0];
        let mut element = Element::html(local);
        if !of_type.is_empty() {
            element.set("type", of_type);
        }
        if self.is_link() {
            element.set("href", "#");
        }
        element
    }
}

/// The values of a longhand on a kind of element, in each engine and context.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Brought(Vec<&'static str>);

impl Brought {
    /// One of them; nothing where there is no such context, or where the value cannot be known.
    pub fn value(&self, engine: usize, context: usize) -> Option<&str> {
        let value = match self.0.as_slice() {
            [only] => only,
            all => *all.get(engine * CONTEXTS.len() + context)?,
        };
        Some(value).filter(|value| !value.is_empty())
    }

    /// All of them.
    pub fn values(&self) -> impl Iterator<Item = &str> {
        self.0.iter().copied().filter(|value| !value.is_empty())
    }
}

const TABLE: &str = include_str!("defaults.txt");

/// What browsers bring along for a kind of element, by longhand; those on which all kinds and engines agree are not there.
pub fn defaults(kind: ElementKind) -> &'static BTreeMap<Longhand, Brought> {
    static READ: [OnceLock<BTreeMap<Longhand, Brought>>; KINDS.len()] = [const { OnceLock::new() }; KINDS.len()];
    READ[kind.0].get_or_init(|| {
        let start = format!("\n[{}]\n", kind.name());
        let block = TABLE.split_once(&start).map_or("", |(_, rest)| rest.split("\n\n").next().unwrap_or_default());
        let line = |line: &'static str| {
            let (name, values) = line.split_once(": ")?;
            Some((Longhand::find(name)?, Brought(values.split(" | ").collect())))
        };
        block.lines().filter_map(line).collect()
    })
}

/// The table as the measured defaults of all engines give it.
pub fn table() -> String {
    let author = Stylesheet::parse(UNUSUAL);
    let engines = ENGINES.map(|browser| Engine::new(browser.sheet(), &[&author], Media::default()));
    let kinds: Vec<ElementKind> = (0..KINDS.len()).map(ElementKind).collect();
    let all: Vec<BTreeMap<Longhand, Vec<String>>> = kinds.iter().map(|kind| measured(*kind, &engines)).collect();
    let mut different: BTreeSet<Longhand> = BTreeSet::new();
    for longhand in Longhand::ALL.iter().filter(|longhand| counts(**longhand)) {
        let mut values = all.iter().flat_map(|values| &values[longhand]).filter(|value| !value.is_empty());
        let first = values.next();
        if values.any(|value| Some(value) != first) {
            different.insert(*longhand);
        }
    }
    let mut text = String::from(
        "What browsers bring along for native elements without their native look. Written by a test: see tests/core/resets.rs.\n\
         Each line has one value, or those of Chromium, Firefox and WebKit in turn, each in an ordinary parent, in an unusual\n\
         one, focused, disabled.\n",
    );
    for (kind, values) in kinds.iter().zip(&all) {
        let _ = write!(text, "\n[{}]\n", kind.name());
        for longhand in &different {
            let values = &values[longhand];
            let mut there = values.iter().filter(|value| !value.is_empty());
            let first = there.next().map_or("", String::as_str);
            // Writing to a String does not fail.
            let _ = match there.all(|value| value == first) {
                true => writeln!(text, "{}: {first}", longhand.name()),
                false => writeln!(text, "{}: {}", longhand.name(), values.join(" | ")),
            };
        }
    }
    text
}

fn measured(kind: ElementKind, engines: &[Engine]) -> BTreeMap<Longhand, Vec<String>> {
    let mut found: BTreeMap<Longhand, Vec<String>> = BTreeMap::new();
    for engine in engines {
        for place in &CONTEXTS {
            let mut document = Document::new();
            let html = document.append_element(Document::ROOT, Element::html("html"));
            let body = document.append_element(html, Element::html("body"));
            let mut parent = Element::html("div");
            parent.set("class", place.around);
            let parent = document.append_element(body, parent);
            let mut host = kind.element();
            host.set("class", "host");
            if place.state == "disabled" {
                host.set("disabled", "");
            }
            let node = document.append_element(parent, host);
            let mut forced = Forced::default();
            if place.state == "focus-visible" {
                forced.add(node, PseudoClass::FocusVisible);
            }
            let styles = engine.styles(&document, &forced);
            let style = styles.element(node).filter(|_| kind.has(place.state));
            for longhand in Longhand::ALL {
                let value = style.and_then(|style| shown(style, *longhand));
                found.entry(*longhand).or_default().push(value.unwrap_or_default());
            }
        }
    }
    found
}

/// A computed value as text; colours of a scheme as those of this scheme, `currentcolor` as it is.
pub fn shown(style: &Style, longhand: Longhand) -> Option<String> {
    let value = style.get(longhand).ok()?;
    let text = match to_css(value) {
        text if text.is_empty() => to_css(&resolve_colors(value, style.surroundings())),
        text => text,
    };
    Some(text).filter(|text| !text.is_empty())
}

/// Whether a property shows on a control and can be brought to one value: animations, tables, print and what only scrolls
/// are left out, and outlines, which are each engine's own focus ring.
fn counts(longhand: Longhand) -> bool {
    use Longhand as L;
    !matches!(
        longhand,
        // Taken away first, so that the rest shows.
        L::Appearance
            // Whatever the control is: its box and its text are its own to set.
            | L::Display
            | L::Direction
            | L::UnicodeBidi
            | L::OutlineColor
            | L::OutlineStyle
            | L::OutlineWidth
            // Of inputs the browser keeps it to itself.
            | L::OverflowX
            | L::OverflowY
            // Follow the colour or the line that the control sets.
            | L::CaretColor
            | L::AccentColor
            | L::TextDecorationColor
            | L::ColumnRuleColor
            | L::ColumnRuleWidth
            // Print.
            | L::BreakInside
            // Inputs centre their text by themselves.
            | L::AlignItems
    )
}
