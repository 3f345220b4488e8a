//! What elements are by nature, whatever stylesheets say of them.

use super::forms;
use crate::dom::Element;
use html5ever::ns;

/// What an element's box is by nature, whatever `display` says.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default)]
pub enum Nature {
    /// As `display` says.
    #[default]
    Plain,
    /// A control that is laid out as a block or as an inline block; without a box where its contents should stand alone.
    Control,
    /// A button: a control whose contents may stand alone.
    Button,
    /// A button that is an input: a control whose look is its own as long as the page paints no edge and no ground.
    PushButton,
    /// A field of several lines: a control that scrolls what it cannot show.
    TextArea,
    /// A picture or what else is not made of boxes: none where its contents should stand alone.
    Replaced,
    /// The heading of a group of fields: always a block.
    Legend,
    /// A box that shrinks to its content where others fill the line.
    Shrinking,
    /// A table, which shrinks as well.
    Table,
    /// A part of a drawing, whose place is the drawing's.
    Drawn,
    /// A part of a drawing that has no size where nothing is said of it.
    DrawnBox,
    /// What is said in place of scripts: not drawn where they run, whatever `display` says.
    Instead,
}

impl Nature {
    /// HTML, sections 15.3 and 15.5; CSS Display 3, appendix B; and what Chromium 156 does.
    pub(super) fn of(element: &Element) -> Nature {
        if element.name.ns == ns!(svg) && element.local() != "svg" {
            return if matches!(element.local(), "rect" | "image") { Nature::DrawnBox } else { Nature::Drawn };
        }
        match element.local() {
            "button" => Nature::Button,
            "input" if element.attribute("type").is_some_and(|t| t.eq_ignore_ascii_case("file")) => Nature::Replaced,
            "input" if matches!(forms::input_type(element).as_str(), "submit" | "reset" | "button") => {
                Nature::PushButton
            }
            "textarea" => Nature::TextArea,
            "input" | "select" | "meter" | "progress" => Nature::Control,
            "img" | "video" | "canvas" | "svg" | "iframe" | "object" | "embed" | "audio" | "br" => Nature::Replaced,
            "legend" => Nature::Legend,
            "fieldset" | "hr" | "math" => Nature::Shrinking,
            "table" => Nature::Table,
            "noscript" => Nature::Instead,
            _ => Nature::Plain,
        }
    }
}

/// Whether a name is that of an element of drawings, and of no HTML element (SVG 2, appendix G).
pub(super) fn is_of_drawings(name: &str) -> bool {
    const NAMES: [&str; 29] = [
        "svg",
        "circle",
        "clipPath",
        "defs",
        "desc",
        "ellipse",
        "filter",
        "foreignObject",
        "g",
        "image",
        "line",
        "linearGradient",
        "marker",
        "mask",
        "metadata",
        "path",
        "pattern",
        "polygon",
        "polyline",
        "radialGradient",
        "rect",
        "stop",
        "switch",
        "symbol",
        "text",
        "textPath",
        "tspan",
        "use",
        "view",
    ];
    NAMES.contains(&name)
}
