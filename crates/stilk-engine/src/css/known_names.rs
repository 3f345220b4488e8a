//! Properties of CSS that are not modelled: known so that a misspelt name can be told from one of these.

/// Names, from the property indices of the CSS snapshots and CSS modules in force.
#[rustfmt::skip]
pub static KNOWN_NAMES: &[&str] = &[
    "align-tracks", "alignment-baseline", "anchor-name", "anchor-scope", "animation-range", "animation-range-end",
    "animation-range-start", "animation-timeline", "baseline-shift", "baseline-source", "border-image",
    "border-image-outset", "border-image-repeat", "border-image-slice", "border-image-width", "border-spacing",
    "box-decoration-break", "caret", "caret-animation", "caret-shape", "clip", "clip-rule", "color-adjust",
    "color-interpolation", "color-interpolation-filters", "contain-intrinsic-block-size", "contain-intrinsic-height",
    "contain-intrinsic-inline-size", "contain-intrinsic-size", "contain-intrinsic-width", "corner-shape", "cx", "cy",
    "d", "dominant-baseline", "flood-color", "flood-opacity", "font-language-override", "font-palette",
    "font-synthesis", "font-synthesis-small-caps", "font-synthesis-style", "font-synthesis-weight", "font-variant",
    "font-variant-alternates", "font-variant-east-asian", "font-variant-emoji", "font-variant-ligatures", "grid",
    "grid-area", "grid-column", "grid-gap", "grid-row", "grid-template", "hanging-punctuation", "hyphenate-character",
    "hyphenate-limit-chars", "image-orientation", "initial-letter", "interactivity", "interpolate-size",
    "isolation-mode", "lighting-color", "line-clamp", "marker", "marker-end", "marker-mid", "marker-start", "mask",
    "mask-border", "mask-clip", "mask-composite", "mask-mode", "mask-origin", "mask-position", "mask-repeat",
    "mask-size", "mask-type", "math-depth", "math-shift", "math-style", "object-view-box", "offset", "offset-anchor",
    "offset-distance", "offset-path", "offset-position", "offset-rotate", "outline-radius", "overflow-clip-margin",
    "overlay", "page", "page-break-after", "page-break-before", "page-break-inside", "paint-order",
    "perspective-origin", "position-anchor", "position-area", "position-try", "position-try-fallbacks",
    "position-try-order", "position-visibility", "quotes", "r", "reading-flow", "ruby-align", "ruby-position", "rx",
    "ry", "scroll-snap-align", "scroll-snap-stop", "scroll-snap-type", "scroll-timeline", "shape-image-threshold",
    "shape-margin", "shape-outside", "shape-rendering", "speak", "stop-color", "stop-opacity", "stroke-dasharray",
    "stroke-dashoffset", "stroke-miterlimit", "text-anchor", "text-autospace", "text-box", "text-box-edge",
    "text-box-trim", "text-combine-upright", "text-emphasis", "text-emphasis-color", "text-emphasis-position",
    "text-emphasis-style", "text-justify", "text-orientation", "text-size-adjust", "text-spacing-trim",
    "timeline-scope", "transform-box", "vector-effect", "view-timeline", "view-transition-class",
    "view-transition-name", "x", "y", "zoom",
];
