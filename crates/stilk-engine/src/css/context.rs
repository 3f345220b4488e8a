//! What values are relative to, and why one is not known.

/// Why something is not known.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, PartialOrd, Ord)]
pub struct Unknown(pub &'static str);

/// What values are relative to.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Context {
    /// The element's font size in px; while it is computed itself, the parent's.
    pub font_size: Result<f64, Unknown>,
    /// The root element's font size in px.
    pub root_font_size: Result<f64, Unknown>,
    /// The element's line height in px.
    pub line_height: Result<f64, Unknown>,
    /// The parent's font weight.
    pub parent_weight: Result<f64, Unknown>,
    /// Width and height of the viewport in px.
    pub viewport: (f64, f64),
    /// What percentages are of, in px, where they are to be put in; they stay what they are where nothing is said.
    pub whole: Option<f64>,
}

/// `medium`: what browsers start with.
pub const DEFAULT_FONT_SIZE: f64 = 16.0;

impl Context {
    /// A context in which nothing relative is known.
    pub fn constant() -> Context {
        Context {
            font_size: Err(Unknown("it depends on the font size")),
            root_font_size: Err(Unknown("it depends on the font size of the root")),
            line_height: Err(Unknown("it depends on the line height")),
            parent_weight: Err(Unknown("it depends on the weight around it")),
            viewport: (0.0, 0.0),
            whole: None,
        }
    }
}
