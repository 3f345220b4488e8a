//! Lists of words that several properties share.

macro_rules! words {
    ($($name:ident = $($word:literal)*;)*) => { $(pub const $name: &[&str] = &[$($word),*];)* };
}

words! {
    CONTENT_ALIGN = "normal" "stretch" "center" "start" "end" "flex-start" "flex-end" "left" "right" "space-between" "space-around" "space-evenly" "baseline";
    JUSTIFY_CONTENT = "normal" "stretch" "center" "start" "end" "flex-start" "flex-end" "left" "right" "space-between" "space-around" "space-evenly";
    ITEM_ALIGN = "normal" "stretch" "center" "start" "end" "self-start" "self-end" "flex-start" "flex-end" "left" "right" "baseline" "anchor-center";
    SELF_ALIGN = "auto" "normal" "stretch" "center" "start" "end" "self-start" "self-end" "flex-start" "flex-end" "left" "right" "baseline" "anchor-center";
    BOXES = "border-box" "padding-box" "content-box";
    MASK_BOXES = "border-box" "padding-box" "content-box" "fill-box" "stroke-box" "view-box";
    MASK_CLIPS = "border-box" "padding-box" "content-box" "fill-box" "stroke-box" "view-box" "no-clip" "text";
    LINE_STYLES = "none" "hidden" "dotted" "dashed" "solid" "double" "groove" "ridge" "inset" "outset";
    OUTLINE_STYLES = "none" "auto" "dotted" "dashed" "solid" "double" "groove" "ridge" "inset" "outset";
    OVERFLOW = "visible" "hidden" "clip" "scroll" "auto";
    FONT_SIZES = "xx-small" "x-small" "small" "medium" "large" "x-large" "xx-large" "xxx-large" "smaller" "larger";
    BLEND_MODES = "normal" "multiply" "screen" "overlay" "darken" "lighten" "color-dodge" "color-burn" "hard-light" "soft-light" "difference" "exclusion" "hue" "saturation" "color" "luminosity" "plus-darker" "plus-lighter";
    CURSORS = "auto" "default" "none" "context-menu" "help" "pointer" "progress" "wait" "cell" "crosshair" "text" "vertical-text" "alias" "copy" "move" "no-drop" "not-allowed" "grab" "grabbing" "e-resize" "n-resize" "ne-resize" "nw-resize" "s-resize" "se-resize" "sw-resize" "w-resize" "ew-resize" "ns-resize" "nesw-resize" "nwse-resize" "col-resize" "row-resize" "all-scroll" "zoom-in" "zoom-out";
    DISPLAYS = "none" "contents" "block" "inline" "inline-block" "flow-root" "flex" "inline-flex" "grid" "inline-grid" "list-item" "table" "inline-table" "table-row" "table-cell" "table-row-group" "table-header-group" "table-footer-group" "table-column" "table-column-group" "table-caption" "ruby" "ruby-text" "math";
    BREAKS = "auto" "avoid" "avoid-page" "page" "left" "right" "recto" "verso" "avoid-column" "column";
    EASINGS = "linear" "ease" "ease-in" "ease-out" "ease-in-out" "step-start" "step-end";
}
