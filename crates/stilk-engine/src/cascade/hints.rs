//! Presentational attributes (HTML, section 15.3, and what Chromium 156 makes of each): the declarations that they stand for.
//! They are the page's, weaker than every rule of it and stronger than the browser's (CSS Cascade 5, section 6.1).

use super::matching::ElementRef;
use super::selector::PseudoClass;
use crate::dom::{Document, Element, NodeId};
use html5ever::ns;
use std::fmt::Write;

/// The declarations that an element's attributes stand for, as CSS; empty for most elements.
pub(super) fn of(at: &ElementRef) -> String {
    let ElementRef { document, node, .. } = *at;
    let element = at.element();
    let mut hints = Hints { element, css: String::new() };
    if element.name.ns == ns!(svg) {
        hints.svg();
        return hints.css;
    }
    if element.name.ns != ns!(html) {
        return String::new();
    }
    match element.local() {
        // They may stand for what attributes around them say.
        "td" | "th" => hints.cell(document, node),
        "a" | "area" => hints.link(at),
        "tr" | "thead" | "tbody" | "tfoot" | "colgroup" => hints.table_part(document, node),
        _ if element.attributes.is_empty() => {}
        "body" => hints.body(),
        "table" => hints.table(),
        "col" => {
            hints.width("width");
            hints.part_align();
        }
        "caption" => hints.word("align", "caption-side"),
        "hr" => hints.rule(),
        "img" => hints.image(),
        "input" if element.attribute("type").is_some_and(|kind| kind.eq_ignore_ascii_case("image")) => hints.image(),
        "video" | "canvas" => {
            if element.local() == "video" {
                hints.sizes();
            }
            hints.aspect_ratio();
            hints.text_align();
        }
        "iframe" => {
            hints.sizes();
            hints.float();
            if element.attribute("frameborder").is_some_and(|text| integer(text).unwrap_or(0) == 0) {
                hints.add("border-width: 0");
            }
        }
        "object" | "embed" => {
            hints.sizes();
            hints.spaces();
            hints.float();
            if element.local() == "object" {
                hints.border();
            }
        }
        "font" => hints.font(),
        "ul" | "ol" | "li" => hints.list(),
        "br" => match element.attribute("clear") {
            Some(side) if side.eq_ignore_ascii_case("all") => hints.add("clear: both"),
            Some(side) if !side.is_empty() => hints.add(&format!("clear: {}", plain(side))),
            _ => {}
        },
        "pre" if element.attribute("wrap").is_some() => hints.add("white-space: pre-wrap"),
        "textarea" => match element.attribute("wrap").map(str::to_ascii_lowercase).as_deref() {
            Some("off") => hints.add("white-space-collapse: preserve; text-wrap: nowrap; overflow-wrap: normal"),
            Some(_) => hints.add("white-space-collapse: preserve; text-wrap: wrap; overflow-wrap: break-word"),
            None => hints.text_align(),
        },
        "input" => hints.spaces(),
        "button" | "select" => {}
        "legend" => {
            hints.word("align", "justify-self");
            hints.text_align();
        }
        _ => hints.text_align(),
    }
    hints.editable();
    if element.attribute("draggable").is_some_and(|says| says.eq_ignore_ascii_case("true")) {
        hints.add("user-select: none");
    }
    let is_auto = element.attribute("dir").map_or(element.local() == "bdi", |dir| dir.eq_ignore_ascii_case("auto"));
    if is_auto {
        hints.add(if document.runs_right_to_left(node) { "direction: rtl" } else { "direction: ltr" });
    }
    hints.css
}

struct Hints<'d> {
    element: &'d Element,
    css: String,
}

impl Hints<'_> {
    fn add(&mut self, declaration: &str) {
        // Writing to a String does not fail.
        let _ = write!(self.css, "{declaration};");
    }

    fn attribute(&self, name: &str) -> Option<&str> {
        self.element.attribute(name)
    }

    /// The attribute's own words as a property's value, if that takes them.
    fn word(&mut self, attribute: &str, property: &str) {
        if let Some(word) = self.attribute(attribute).filter(|word| !word.is_empty()) {
            self.add(&format!("{property}: {}", plain(word)));
        }
    }

    fn length(&mut self, attribute: &str, property: &str) {
        if let Some(length) = self.attribute(attribute).and_then(dimension) {
            self.add(&format!("{property}: {length}"));
        }
    }

    fn width(&mut self, attribute: &str) {
        self.length(attribute, "width");
    }

    fn sizes(&mut self) {
        self.length("width", "width");
        self.length("height", "height");
    }

    fn spaces(&mut self) {
        for (attribute, sides) in [("hspace", ["left", "right"]), ("vspace", ["top", "bottom"])] {
            for side in sides {
                self.length(attribute, &format!("margin-{side}"));
            }
        }
    }

    fn color(&mut self, attribute: &str, property: &str) {
        if let Some(color) = self.attribute(attribute).and_then(legacy_color) {
            self.add(&format!("{property}: {color}"));
        }
    }

    fn background(&mut self) {
        if let Some(address) = self.attribute("background").map(str::trim).filter(|address| !address.is_empty()) {
            self.add(&format!("background-image: url(\"{}\")", address.replace('\\', "\\\\").replace('"', "\\\"")));
        }
    }

    fn float(&mut self) {
        let (float, vertical) = match self.attribute("align").map(str::to_ascii_lowercase).as_deref() {
            Some("left") => ("left", "top"),
            Some("right") => ("right", "top"),
            Some("absmiddle") => ("", "middle"),
            Some("absbottom") => ("", "bottom"),
            Some("bottom") => ("", "baseline"),
            Some("texttop") => ("", "text-top"),
            Some("middle" | "center") => ("", "-webkit-baseline-middle"),
            Some(other) => {
                let vertical = plain(other);
                self.add(&format!("vertical-align: {vertical}"));
                return;
            }
            None => return,
        };
        if !float.is_empty() {
            self.add(&format!("float: {float}"));
        }
        self.add(&format!("vertical-align: {vertical}"));
    }

    fn border(&mut self) {
        let Some(border) = self.attribute("border") else { return };
        let width = integer(border).unwrap_or(0).max(0);
        self.add(&format!("border: {width}px solid"));
    }

    fn editable(&mut self) {
        let Some(says) = self.attribute("contenteditable").map(str::to_ascii_lowercase) else { return };
        if says == "false" {
            return;
        }
        self.add("overflow-wrap: break-word; line-break: after-white-space");
        if says == "plaintext-only" {
            self.add("white-space-collapse: preserve");
        }
    }

    fn aspect_ratio(&mut self) {
        let is_canvas = self.element.local() == "canvas";
        let number = |name: &str| match is_canvas {
            true => self.attribute(name).and_then(integer).map(|number| number as f64),
            false => self.attribute(name).and_then(dimension)?.strip_suffix("px")?.parse::<f64>().ok(),
        };
        if let (Some(width), Some(height)) = (number("width"), number("height")) {
            self.add(&format!("aspect-ratio: auto {width} / {height}"));
        }
    }

    fn image(&mut self) {
        self.sizes();
        self.aspect_ratio();
        self.spaces();
        self.border();
        self.float();
    }

    fn body(&mut self) {
        self.color("bgcolor", "background-color");
        self.color("text", "color");
        self.background();
        for (attributes, sides) in
            [(["marginwidth", "leftmargin"], ["left", "right"]), (["marginheight", "topmargin"], ["top", "bottom"])]
        {
            for (attribute, side) in attributes.into_iter().flat_map(|name| sides.map(|side| (name, side))) {
                self.length(attribute, &format!("margin-{side}"));
            }
        }
    }

    /// The colour of links is said by the body.
    fn link(&mut self, at: &ElementRef) {
        if self.attribute("href").is_none() {
            return;
        }
        let ElementRef { document, node, .. } = *at;
        let body = document.around(node).find_map(|at| document.element(at).filter(|e| e.local() == "body"));
        let attribute = if at.pseudo_class(&PseudoClass::Active) { "alink" } else { "link" };
        if let Some(color) = body.and_then(|body| body.attribute(attribute)).and_then(legacy_color) {
            self.add(&format!("color: {color}"));
        }
    }

    fn text_align(&mut self) {
        let Some(align) = self.attribute("align").map(str::to_ascii_lowercase) else { return };
        let is_block = matches!(self.element.local(), "p" | "div");
        let value = match align.as_str() {
            "middle" | "center" if is_block => "-webkit-center",
            "left" if is_block => "-webkit-left",
            "right" if is_block => "-webkit-right",
            "middle" => "center",
            other => &plain(other),
        };
        self.add(&format!("text-align: {value}"));
    }

    /// How rows, cells and columns align what is in them.
    fn part_align(&mut self) {
        if let Some(align) = self.attribute("align").map(str::to_ascii_lowercase).filter(|align| !align.is_empty()) {
            let value = match align.as_str() {
                "middle" | "center" => "-webkit-center",
                "absmiddle" => "center",
                "left" => "-webkit-left",
                "right" => "-webkit-right",
                other => &plain(other),
            };
            self.add(&format!("text-align: {value}"));
        }
        if let Some(align) = self.attribute("valign").map(str::to_ascii_lowercase).filter(|align| !align.is_empty()) {
            let value = ["top", "middle", "bottom", "baseline"].into_iter().find(|known| *known == align);
            self.add(&format!("vertical-align: {}", value.unwrap_or(&plain(&align))));
        }
        self.color("bgcolor", "background-color");
        self.background();
    }

    fn table_part(&mut self, document: &Document, node: NodeId) {
        if self.element.local() == "colgroup" {
            self.width("width");
        }
        self.length("height", "height");
        self.part_align();
        // Groups of rows or columns have lines of their own where the table asks for lines between groups.
        let table = document.around(node).skip(1).find_map(|at| document.element(at).filter(|e| e.local() == "table"));
        if table.and_then(rules) != Some(Rules::Groups) {
            return;
        }
        let sides = match self.element.local() {
            "colgroup" => ["left", "right"],
            "thead" | "tbody" | "tfoot" => ["top", "bottom"],
            _ => return,
        };
        for side in sides {
            self.add(&format!("border-{side}-width: thin; border-{side}-style: solid"));
        }
    }

    fn cell(&mut self, document: &Document, node: NodeId) {
        let table = document.around(node).skip(1).find_map(|at| document.element(at).filter(|e| e.local() == "table"));
        if let Some(table) = table {
            if let Some(padding) = table.attribute("cellpadding").filter(|text| !text.is_empty()) {
                self.add(&format!("padding: {}px", integer(padding).unwrap_or(0).max(0)));
            }
            match rules(table) {
                Some(Rules::None) => {}
                Some(Rules::All) => self.add("border-width: thin; border-style: solid; border-color: inherit"),
                Some(Rules::Rows) => {
                    self.add("border-top-width: thin; border-bottom-width: thin; border-top-style: solid; border-bottom-style: solid; border-color: inherit");
                }
                Some(Rules::Columns) => {
                    self.add("border-left-width: thin; border-right-width: thin; border-left-style: solid; border-right-style: solid; border-color: inherit");
                }
                Some(Rules::Groups) => {}
                None if border(table) > 0 => {
                    let style = if table.attribute("bordercolor").is_some() { "solid" } else { "inset" };
                    self.add(&format!("border-width: 1px; border-style: {style}; border-color: inherit"));
                }
                None => {}
            }
        }
        if self.attribute("nowrap").is_some() {
            self.add("white-space: nowrap");
        }
        let is_length = |text: &str| dimension(text).filter(|length| !matches!(length.as_str(), "0px" | "0%"));
        for name in ["width", "height"] {
            if let Some(length) = self.attribute(name).and_then(is_length) {
                self.add(&format!("{name}: {length}"));
            }
        }
        self.part_align();
    }

    fn table(&mut self) {
        self.sizes();
        if let Some(width) = self.attribute("border") {
            let width = if width.trim().is_empty() { 1 } else { integer(width).unwrap_or(1).max(0) };
            self.add(&format!("border-width: {width}px"));
        }
        self.color("bordercolor", "border-color");
        self.color("bgcolor", "background-color");
        self.background();
        if let Some(align) = self.attribute("align").map(str::to_ascii_lowercase).filter(|align| !align.is_empty()) {
            match align.as_str() {
                "center" => self.add("margin-left: auto; margin-right: auto"),
                other => self.add(&format!("float: {}", plain(other))),
            }
        }
        if let Some(spacing) = self.attribute("cellspacing").and_then(dimension) {
            self.add(&format!("border-spacing: {spacing}"));
        }
        self.word("valign", "vertical-align");
        if rules(self.element).is_some() {
            self.add("border-collapse: collapse");
        }
        let frame = self.attribute("frame").map(str::to_ascii_lowercase).unwrap_or_default();
        let sides: Option<[bool; 4]> = match frame.as_str() {
            "void" => Some([false, false, false, false]),
            "above" => Some([true, false, false, false]),
            "below" => Some([false, false, true, false]),
            "hsides" => Some([true, false, true, false]),
            "vsides" => Some([false, true, false, true]),
            "lhs" => Some([false, false, false, true]),
            "rhs" => Some([false, true, false, false]),
            "box" | "border" => Some([true; 4]),
            _ => None,
        };
        match sides {
            Some(sides) => {
                // Of two attributes that say how wide it is, the last.
                let place = |name: &str| self.element.attributes.iter().position(|(known, _)| &*known.local == name);
                if place("border") < place("frame") {
                    self.add("border-width: thin");
                }
                for (side, is_there) in ["top", "right", "bottom", "left"].into_iter().zip(sides) {
                    self.add(&format!("border-{side}-style: {}", if is_there { "solid" } else { "hidden" }));
                }
            }
            None if border(self.element) > 0 => {
                let style = if self.attribute("bordercolor").is_some() { "solid" } else { "outset" };
                self.add(&format!("border-style: {style}"));
            }
            // It wins over the lines of cells.
            None if rules(self.element).is_some() => self.add("border-style: hidden"),
            None => {}
        }
    }

    fn rule(&mut self) {
        if let Some(align) = self.attribute("align").map(str::to_ascii_lowercase) {
            match align.as_str() {
                "left" => self.add("margin-left: 0; margin-right: auto"),
                "right" => self.add("margin-left: auto; margin-right: 0"),
                _ => self.add("margin-left: auto; margin-right: auto"),
            }
        }
        self.width("width");
        let color = self.attribute("color").and_then(legacy_color);
        let is_flat = self.attribute("noshade").is_some();
        if let Some(color) = &color {
            self.add(&format!("border-style: solid; border-color: {color}; background-color: {color}"));
        } else if is_flat {
            self.add("border-style: solid; border-color: #808080; background-color: #808080");
        }
        if let Some(size) = self.attribute("size") {
            match integer(size).unwrap_or(0) {
                ..=1 => self.add("border-bottom-width: 0"),
                size => self.add(&format!("height: {}px", size - 2)),
            }
        }
    }

    fn font(&mut self) {
        self.color("color", "color");
        if let Some(face) = self.attribute("face").filter(|face| !face.is_empty()) {
            self.add(&format!("font-family: {}", plain(face)));
        }
        let Some(size) = self.attribute("size").map(str::trim) else { return };
        let digits: String = size.trim_start_matches(['+', '-']).chars().take_while(char::is_ascii_digit).collect();
        let Ok(number) = digits.parse::<i64>() else { return };
        let number = match size.as_bytes().first() {
            Some(b'+') => 3 + number,
            Some(b'-') => 3 - number,
            _ => number,
        };
        const SIZES: [&str; 7] = ["x-small", "small", "medium", "large", "x-large", "xx-large", "xxx-large"];
        self.add(&format!("font-size: {}", SIZES[number.clamp(1, 7) as usize - 1]));
    }

    fn list(&mut self) {
        let Some(kind) = self.attribute("type") else { return };
        let is_item = self.element.local() == "li";
        let is_ordered = self.element.local() == "ol" || is_item;
        let style = match kind {
            "a" if is_ordered => "lower-alpha",
            "A" if is_ordered => "upper-alpha",
            "i" if is_ordered => "lower-roman",
            "I" if is_ordered => "upper-roman",
            "1" if is_ordered => "decimal",
            _ if self.element.local() == "ol" => return,
            other => match ["disc", "circle", "square", "none"].iter().find(|word| word.eq_ignore_ascii_case(other)) {
                Some(word) => word,
                None => return,
            },
        };
        self.add(&format!("list-style-type: {style}"));
    }

    /// Attributes that are properties (SVG 2, section 6.6).
    fn svg(&mut self) {
        for (name, value) in &self.element.attributes {
            let local = &*name.local;
            if name.ns != ns!() || value.contains([';', '{', '}']) {
                continue;
            }
            let has_size = matches!(self.element.local(), "svg" | "rect" | "image" | "foreignObject");
            let is_presentational = PRESENTATION.contains(&local) || has_size && matches!(local, "width" | "height");
            if local == "transform" {
                if let Some(transform) = svg_transform(value) {
                    let _ = write!(self.css, "transform: {transform};");
                }
                continue;
            }
            if is_presentational {
                // Lengths may stand without a unit there.
                let is_number = value.trim().parse::<f64>().is_ok();
                let takes_length = matches!(
                    local,
                    "width" | "height" | "font-size" | "letter-spacing" | "word-spacing" | "stroke-width"
                );
                let unit = if is_number && takes_length { "px" } else { "" };
                let _ = write!(self.css, "{local}: {}{unit};", value.trim());
            }
        }
    }
}

/// Attributes of SVG that are properties.
const PRESENTATION: [&str; 59] = [
    "alignment-baseline",
    "baseline-shift",
    "clip-path",
    "clip-rule",
    "color",
    "color-interpolation",
    "color-interpolation-filters",
    "cursor",
    "direction",
    "display",
    "dominant-baseline",
    "fill",
    "fill-opacity",
    "fill-rule",
    "filter",
    "flood-color",
    "flood-opacity",
    "font-family",
    "font-size",
    "font-size-adjust",
    "font-stretch",
    "font-style",
    "font-variant",
    "font-weight",
    "image-rendering",
    "letter-spacing",
    "lighting-color",
    "marker-end",
    "marker-mid",
    "marker-start",
    "mask",
    "mask-type",
    "opacity",
    "overflow",
    "paint-order",
    "pointer-events",
    "shape-rendering",
    "stop-color",
    "stop-opacity",
    "stroke",
    "stroke-dasharray",
    "stroke-dashoffset",
    "stroke-linecap",
    "stroke-linejoin",
    "stroke-miterlimit",
    "stroke-opacity",
    "stroke-width",
    "text-anchor",
    "text-decoration",
    "text-overflow",
    "text-rendering",
    "transform-origin",
    "unicode-bidi",
    "vector-effect",
    "visibility",
    "white-space",
    "word-spacing",
    "writing-mode",
    "color-rendering",
];

/// A transformation as drawings write it, as CSS: numbers without units (SVG 2, section 8.5).
fn svg_transform(text: &str) -> Option<String> {
    let mut css = String::new();
    let mut rest = text.trim();
    while !rest.is_empty() {
        let (name, after) = rest.split_once('(')?;
        let (arguments, after) = after.split_once(')')?;
        rest = after.trim_start().trim_start_matches(',').trim_start();
        let numbers = arguments.split([' ', ',', '\t', '\n']).filter(|part| !part.is_empty());
        let numbers: Vec<f64> = numbers.map(str::parse).collect::<Result<_, _>>().ok()?;
        let _ = match (name.trim(), numbers.as_slice()) {
            ("translate", [x]) => write!(css, "translate({x}px) "),
            ("translate", [x, y]) => write!(css, "translate({x}px, {y}px) "),
            ("scale", [x]) => write!(css, "scale({x}) "),
            ("scale", [x, y]) => write!(css, "scale({x}, {y}) "),
            ("rotate", [a]) => write!(css, "rotate({a}deg) "),
            ("rotate", [a, x, y]) => {
                write!(css, "translate({x}px, {y}px) rotate({a}deg) translate({}px, {}px) ", -x, -y)
            }
            ("skewX", [a]) => write!(css, "skewX({a}deg) "),
            ("skewY", [a]) => write!(css, "skewY({a}deg) "),
            ("matrix", [a, b, c, d, e, f]) => write!(css, "matrix({a}, {b}, {c}, {d}, {e}, {f}) "),
            _ => return None,
        };
    }
    (!css.is_empty()).then_some(css)
}

/// Where a table has lines inside.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum Rules {
    None,
    Groups,
    Rows,
    Columns,
    All,
}

fn rules(table: &Element) -> Option<Rules> {
    match table.attribute("rules")?.to_ascii_lowercase().as_str() {
        "none" => Some(Rules::None),
        "groups" => Some(Rules::Groups),
        "rows" => Some(Rules::Rows),
        "cols" => Some(Rules::Columns),
        "all" => Some(Rules::All),
        _ => None,
    }
}

/// How wide a table's edge is in px; 1 where the attribute says nothing that can be read.
fn border(table: &Element) -> i64 {
    table.attribute("border").map_or(0, |text| match text.trim().is_empty() {
        true => 1,
        false => integer(text).unwrap_or(1),
    })
}

/// An attribute's words where they can be no more than a value.
fn plain(text: &str) -> String {
    text.chars().filter(|c| !matches!(c, ';' | '{' | '}' | '!' | '\\')).collect()
}

/// HTML, section 2.3.4.1.
fn integer(text: &str) -> Option<i64> {
    let text = text.trim_start();
    let (sign, digits) = match text.as_bytes().first()? {
        b'-' => (-1, &text[1..]),
        b'+' => (1, &text[1..]),
        _ => (1, text),
    };
    let end = digits.find(|c: char| !c.is_ascii_digit()).unwrap_or(digits.len());
    digits[..end].parse::<i64>().ok().map(|number| sign * number)
}

/// HTML, section 2.3.4.4: a length in px or per cent, as CSS.
fn dimension(text: &str) -> Option<String> {
    let text = text.trim_start();
    let end = text.find(|c: char| !c.is_ascii_digit() && c != '.').unwrap_or(text.len());
    let number: f64 = text[..end].trim_end_matches('.').parse().ok()?;
    if !text.starts_with(|c: char| c.is_ascii_digit()) {
        return None;
    }
    let unit = if text[end..].starts_with('%') { "%" } else { "px" };
    Some(format!("{number}{unit}"))
}

/// HTML, section 2.3.6: the rules for parsing a legacy colour value, as CSS.
fn legacy_color(text: &str) -> Option<String> {
    if text.is_empty() {
        return None;
    }
    let text = text.trim();
    if text.eq_ignore_ascii_case("transparent") {
        return None;
    }
    if text.chars().all(|c| c.is_ascii_alphabetic()) && cssparser::color::parse_named_color(text).is_ok() {
        return Some(text.to_ascii_lowercase());
    }
    if let Some(digits) = text.strip_prefix('#')
        && digits.len() == 3
        && digits.bytes().all(|byte| byte.is_ascii_hexdigit())
    {
        return Some(text.to_owned());
    }
    let mut digits: Vec<char> =
        text.chars().flat_map(|c| if u32::from(c) > 0xffff { vec!['0', '0'] } else { vec![c] }).take(128).collect();
    if digits.first() == Some(&'#') {
        digits.remove(0);
    }
    digits.iter_mut().filter(|c| !c.is_ascii_hexdigit()).for_each(|c| *c = '0');
    while digits.is_empty() || !digits.len().is_multiple_of(3) {
        digits.push('0');
    }
    let length = digits.len() / 3;
    let mut parts: Vec<&[char]> = digits.chunks(length).collect();
    if length > 8 {
        parts.iter_mut().for_each(|part| *part = &part[length - 8..]);
    }
    while parts[0].len() > 2 && parts.iter().all(|part| part[0] == '0') {
        parts.iter_mut().for_each(|part| *part = &part[1..]);
    }
    let part = |part: &[char]| part.iter().take(2).collect::<String>();
    let parts = parts.into_iter().map(|digits| format!("{:0>2}", part(digits)));
    Some(format!("#{}", parts.collect::<String>()))
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn colours_as_pages_of_the_past_write_them() {
        let colors = ["red", "#FC3", "#ffcc33", "ffcc33", "chucknorris", "#f", "transparent", "", "#ff00ff00ff00ff"];
        let known = colors.map(|text| legacy_color(text).unwrap_or_default());
        assert_eq!(known, ["red", "#FC3", "#ffcc33", "#ffcc33", "#c00000", "#0f0000", "", "", "#fff000"]);
    }

    #[test]
    fn lengths_and_numbers_end_where_they_cannot_go_on() {
        assert_eq!(
            ["10", "10.5px", "50%", "+7", "x", "", ".5"].map(dimension).map(Option::unwrap_or_default),
            ["10px", "10.5px", "50%", "", "", "", ""]
        );
        assert_eq!(["7", " 7x", "-3", "x"].map(integer), [Some(7), Some(7), Some(-3), None]);
    }
}
