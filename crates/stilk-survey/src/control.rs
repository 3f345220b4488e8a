//! Which elements of a page are controls: native ones, those whose role says so, links that are painted as buttons, and labels
//! that draw what a hidden native control says.

use std::collections::HashSet;
use stilk_engine::cascade::{PseudoElement, Style, Styles};
use stilk_engine::css::property::Longhand as L;
use stilk_engine::css::serialize::to_css;
use stilk_engine::dom::{Document, Element, NodeData, NodeId};

/// What a control is to those who use it.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, PartialOrd, Ord)]
pub enum Kind {
    /// Does something when pressed, or leads somewhere and looks as if it did.
    Button,
    /// Takes text.
    Field,
    /// Takes one or several of a list.
    Select,
    /// Is on or off.
    Checkbox,
    /// One of several.
    Radio,
    /// Is on or off at once.
    Switch,
    /// Takes a number by its place.
    Range,
    /// Takes a file or a colour.
    Picker,
    /// Shows and hides what follows.
    Disclosure,
    /// Chooses what is shown.
    Tab,
    /// An entry of a menu.
    MenuItem,
    /// Shows how far something is.
    Gauge,
}

impl Kind {
    /// What people call several of them.
    pub fn plural(self) -> &'static str {
        match self {
            Kind::Button => "buttons",
            Kind::Field => "fields",
            Kind::Select => "selects",
            Kind::Checkbox => "checkboxes",
            Kind::Radio => "radios",
            Kind::Switch => "switches",
            Kind::Range => "ranges",
            Kind::Picker => "pickers",
            Kind::Disclosure => "disclosures",
            Kind::Tab => "tabs",
            Kind::MenuItem => "menu items",
            Kind::Gauge => "gauges",
        }
    }

    /// What people call one.
    pub fn noun(self) -> &'static str {
        match self {
            Kind::Button => "button",
            Kind::Field => "field",
            Kind::Select => "select",
            Kind::Checkbox => "checkbox",
            Kind::Radio => "radio",
            Kind::Switch => "switch",
            Kind::Range => "range",
            Kind::Picker => "picker",
            Kind::Disclosure => "disclosure",
            Kind::Tab => "tab",
            Kind::MenuItem => "menu item",
            Kind::Gauge => "gauge",
        }
    }

    /// Every one.
    pub const ALL: [Kind; 12] = [
        Kind::Button,
        Kind::Field,
        Kind::Select,
        Kind::Checkbox,
        Kind::Radio,
        Kind::Switch,
        Kind::Range,
        Kind::Picker,
        Kind::Disclosure,
        Kind::Tab,
        Kind::MenuItem,
        Kind::Gauge,
    ];

    /// Whether people fill it in, or choose from it: it may be empty, and wrong.
    pub fn takes_text(self) -> bool {
        matches!(self, Kind::Field | Kind::Select)
    }

    /// Whether a browser validates it at all.
    pub fn is_validated(self) -> bool {
        !matches!(self, Kind::Button | Kind::Disclosure | Kind::Tab | Kind::MenuItem | Kind::Gauge)
    }

    /// The kind that a word names, in the singular or the plural.
    pub fn find(word: &str) -> Option<Kind> {
        Kind::ALL.into_iter().find(|kind| kind.noun() == word || kind.plural() == word)
    }
}

/// A control on a page.
#[derive(Debug, Clone)]
pub struct Found {
    /// What it is.
    pub kind: Kind,
    /// The element that is the whole of it.
    pub host: NodeId,
    /// The element whose state counts.
    pub bearer: NodeId,
    /// What is drawn in it, by class or element name, in document order.
    pub parts: Vec<(String, NodeId)>,
}

/// The controls of a document, in document order; `styles` are those at rest.
pub fn controls(document: &Document, styles: &Styles) -> Vec<Found> {
    let all = document.descendants(Document::ROOT);
    let mut found: Vec<Found> = Vec::new();
    let mut bearers: HashSet<NodeId> = HashSet::new();
    for node in all {
        let Some(element) = document.element(node) else { continue };
        if let Some(one) = control(document, styles, node, element) {
            // A label that was found with its native control is one with it.
            if bearers.insert(one.bearer) {
                found.push(one);
            }
        }
    }
    found.sort_by_key(|one| one.host);
    let hosts: Vec<NodeId> = found.iter().map(|one| one.host).collect();
    for one in &mut found {
        one.parts = parts(document, one, &hosts);
    }
    found
}

fn control(document: &Document, styles: &Styles, node: NodeId, element: &Element) -> Option<Found> {
    let of_itself = |kind| Some(Found { kind, host: node, bearer: node, parts: Vec::new() });
    let role = element.attribute("role").and_then(|role| role.split_ascii_whitespace().next()).unwrap_or_default();
    let by_role = match role {
        "button" => Some(Kind::Button),
        "switch" => Some(Kind::Switch),
        "checkbox" => Some(Kind::Checkbox),
        "radio" => Some(Kind::Radio),
        "tab" => Some(Kind::Tab),
        "menuitem" | "menuitemcheckbox" | "menuitemradio" => Some(Kind::MenuItem),
        "combobox" | "listbox" => Some(Kind::Select),
        "textbox" | "searchbox" | "spinbutton" => Some(Kind::Field),
        "slider" => Some(Kind::Range),
        _ => None,
    };
    match element.local() {
        "button" => of_itself(by_role.unwrap_or(Kind::Button)),
        "select" => of_itself(Kind::Select),
        "textarea" => of_itself(Kind::Field),
        "summary" => {
            let of_details = document.node(node).parent.and_then(|parent| document.element(parent));
            let is_first = document.element_before(node).is_none();
            (is_first && of_details.is_some_and(|parent| parent.local() == "details"))
                .then(|| of_itself(Kind::Disclosure))?
        }
        "meter" | "progress" => of_itself(Kind::Gauge),
        "input" => {
            let kind = match element.attribute("type").map(str::to_ascii_lowercase).as_deref() {
                Some("hidden") => return None,
                Some("submit" | "reset" | "button" | "image") => Kind::Button,
                Some("checkbox") if role == "switch" => Kind::Switch,
                Some("checkbox") => Kind::Checkbox,
                Some("radio") => Kind::Radio,
                Some("range") => Kind::Range,
                Some("file" | "color") => Kind::Picker,
                _ => by_role.filter(|kind| *kind == Kind::Select).unwrap_or(Kind::Field),
            };
            let takes_turns = matches!(kind, Kind::Checkbox | Kind::Radio | Kind::Switch | Kind::Picker);
            match takes_turns && styles.element(node).is_some_and(|style| is_hidden(style)) {
                // What stands for it is drawn elsewhere; where nothing does, there is nothing to be seen.
                true => drawn_by(document, node).map(|host| Found { kind, host, bearer: node, parts: Vec::new() }),
                false => of_itself(kind),
            }
        }
        "a" | "area" => {
            let is_link = element.attribute("href").is_some();
            match by_role {
                Some(kind) => of_itself(kind),
                None if is_link && looks_pressable(document, styles, node) => of_itself(Kind::Button),
                None => None,
            }
        }
        // What a script may have made; that it has a role is all that is known.
        _ => by_role.and_then(of_itself),
    }
}

/// Whether a native control is hidden so that something else can be drawn for it.
fn is_hidden(style: &Style) -> bool {
    let is_tiny = |side: L| style.px(side).is_ok_and(|px| px <= 1.0);
    let is_away = |side: L| style.px(side).is_ok_and(|px| px <= -900.0);
    style.is(L::Display, "none")
        || style.is(L::Visibility, "hidden")
        || style.get(L::Opacity).ok().and_then(|value| value.as_number()) == Some(0.0)
        || is_tiny(L::Width) && is_tiny(L::Height)
        || is_away(L::Left)
        || is_away(L::Top)
        || style.get(L::Clip).is_ok_and(|clip| to_css(clip).starts_with("rect(0px, 0px, 0px"))
        || style
            .get(L::ClipPath)
            .is_ok_and(|clip| to_css(clip).starts_with("inset(50%") || to_css(clip).starts_with("inset(100%"))
}

/// The element that draws what a hidden native control says: the label around it, or the box that holds it and its label.
fn drawn_by(document: &Document, native: NodeId) -> Option<NodeId> {
    let is_label = |node: &NodeId| document.element(*node).is_some_and(|element| element.local() == "label");
    if let Some(label) = document.around(native).skip(1).find(is_label) {
        return Some(label);
    }
    let id = document.element(native)?.attribute("id")?;
    let parent = document.node(native).parent?;
    let is_its =
        |node: &NodeId| document.element(*node).is_some_and(|e| e.local() == "label" && e.attribute("for") == Some(id));
    let beside = document.child_elements(parent).any(|node| is_its(&node));
    let natives = document
        .descendants(parent)
        .into_iter()
        .filter(|node| {
            document.element(*node).is_some_and(|e| matches!(e.local(), "input" | "select" | "textarea" | "button"))
        })
        .count();
    // A box with several of them is none of one.
    (beside && natives == 1 && document.element(parent).is_some_and(|e| e.local() != "body")).then_some(parent)
}

/// Whether a link is painted as a button: with a fill or an edge of its own, and room around its words.
fn looks_pressable(document: &Document, styles: &Styles, node: NodeId) -> bool {
    let Some(style) = styles.element(node) else { return false };
    let is_filled = style.used_color(L::BackgroundColor).is_ok_and(|color| color.alpha > 0.0)
        || style.get(L::BackgroundImage).is_ok_and(|image| to_css(image).contains("gradient("));
    let sides = [
        (L::BorderTopStyle, L::BorderTopWidth),
        (L::BorderRightStyle, L::BorderRightWidth),
        (L::BorderBottomStyle, L::BorderBottomWidth),
        (L::BorderLeftStyle, L::BorderLeftWidth),
    ];
    let has_line = |(line, width): &(L, L)| !style.is(*line, "none") && style.px(*width).is_ok_and(|px| px > 0.0);
    let is_edged = sides.iter().all(has_line);
    let room = |side: L| style.px(side).is_ok_and(|px| px >= 4.0);
    let has_room = room(L::PaddingLeft) && room(L::PaddingRight) || style.px(L::Height).is_ok_and(|px| px >= 20.0);
    if !(is_filled || is_edged) || !has_room {
        return false;
    }
    // A card, a row of a list or a banner is more than a button.
    const BLOCKS: [&str; 16] = [
        "article",
        "blockquote",
        "dl",
        "figure",
        "h1",
        "h2",
        "h3",
        "h4",
        "h5",
        "h6",
        "li",
        "ol",
        "p",
        "section",
        "table",
        "ul",
    ];
    let inner = document.descendants(node);
    let holds_block = inner.iter().filter_map(|node| document.element(*node)).any(|e| BLOCKS.contains(&e.local()));
    let words: usize = inner
        .iter()
        .filter_map(|node| match &document.node(*node).data {
            NodeData::Text(text) => Some(text.split_whitespace().count()),
            _ => None,
        })
        .sum();
    const MOST_WORDS: usize = 8;
    let has_icon =
        inner.iter().any(|node| document.element(*node).is_some_and(|e| matches!(e.local(), "svg" | "img" | "i")));
    let draws = PseudoElement::GENERATED
        .iter()
        .any(|pseudo| styles.pseudo(node, *pseudo).is_some_and(|style| !style.is_empty_generated()));
    !holds_block && words <= MOST_WORDS && (words > 0 || has_icon || draws)
}

/// What is drawn in a control: the elements in it that are no controls of their own, by their first class or their name.
fn parts(document: &Document, of: &Found, hosts: &[NodeId]) -> Vec<(String, NodeId)> {
    let mut found: Vec<(String, NodeId)> = Vec::new();
    for node in document.descendants(of.host) {
        if node == of.host || document.element(node).is_none() {
            continue;
        }
        let is_of_other = document
            .around(node)
            .take_while(|above| *above != of.host)
            .any(|above| hosts.contains(&above) && above != of.bearer);
        let Some(element) = document.element(node).filter(|_| !is_of_other) else { continue };
        if matches!(element.local(), "option" | "optgroup" | "path" | "use" | "title" | "br" | "script" | "style") {
            continue;
        }
        let name = element.classes.first().map_or_else(|| element.local().to_owned(), |class| class.to_string());
        let same = found.iter().filter(|(known, _)| known.split('#').next() == Some(&name)).count();
        found.push((if same == 0 { name } else { format!("{name}#{}", same + 1) }, node));
    }
    found
}

/// How a person points at an element: `button#send.cta` with its first words.
pub fn tag(document: &Document, node: NodeId) -> String {
    let Some(element) = document.element(node) else { return String::new() };
    let mut text = element.local().to_owned();
    if let Some(kind) = element.attribute("type").filter(|_| element.local() == "input") {
        text.push_str(&format!("[type={kind}]"));
    }
    if let Some(id) = element.attribute("id").filter(|id| !id.is_empty()) {
        text.push_str(&format!("#{id}"));
    }
    for class in element.classes.iter().take(3) {
        text.push_str(&format!(".{class}"));
    }
    text
}
