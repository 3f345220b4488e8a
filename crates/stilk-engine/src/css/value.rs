//! One value type for what is declared and what is computed.

use super::calc::Calc;
use super::color::Color;
use std::sync::Arc;

/// A value of a longhand.
#[derive(Debug, Clone, PartialEq)]
pub enum Value {
    /// A keyword of the property's grammar.
    Keyword(&'static str),
    /// A name that the author chose.
    Ident(Arc<str>),
    /// A string, unescaped.
    String(Arc<str>),
    /// A number.
    Number(f64),
    /// A dimension as declared.
    Dimension(f64, Unit),
    /// A math function as declared.
    Calc(Arc<Calc>),
    /// A computed length, with what a percentage adds.
    Length(LengthPercentage),
    /// A computed time in seconds.
    Seconds(f64),
    /// A computed angle in degrees.
    Degrees(f64),
    /// A colour.
    Color(Color),
    /// A function with arguments.
    Function(&'static str, Vec<Value>),
    /// Values separated by commas.
    List(Vec<Value>),
    /// Values separated by spaces.
    Words(Vec<Value>),
    /// Valid as far as is known, but not modelled here.
    Unmodelled,
}

/// A computed `<length-percentage>`: `px + percent × basis / 100`.
#[derive(Debug, Clone, Copy, PartialEq, Default)]
pub struct LengthPercentage {
    /// The absolute part in CSS px.
    pub px: f64,
    /// The percentage, 50 for `50%`.
    pub percent: f64,
    /// Whether a percentage takes part at all, be it `0%`.
    pub has_percent: bool,
}

impl LengthPercentage {
    /// An absolute length.
    pub fn px(px: f64) -> Self {
        LengthPercentage { px, percent: 0.0, has_percent: false }
    }

    /// A percentage.
    pub fn percent(percent: f64) -> Self {
        LengthPercentage { px: 0.0, percent, has_percent: true }
    }
}

impl Value {
    /// Zero pixels.
    pub const ZERO: Value = Value::Length(LengthPercentage { px: 0.0, percent: 0.0, has_percent: false });

    /// Whether this is the given keyword.
    pub fn is(&self, keyword: &str) -> bool {
        matches!(self, Value::Keyword(known) if *known == keyword)
    }

    /// The absolute length in px, if it is one.
    pub fn as_px(&self) -> Option<f64> {
        match self {
            Value::Length(length) if !length.has_percent => Some(length.px),
            _ => None,
        }
    }

    /// The number, if it is one.
    pub fn as_number(&self) -> Option<f64> {
        if let Value::Number(number) = self { Some(*number) } else { None }
    }

    /// Whether a colour in it could not be resolved.
    pub fn has_unresolved_color(&self) -> bool {
        match self {
            Value::Color(color) => !matches!(color, Color::Absolute(_)),
            Value::List(items) | Value::Words(items) | Value::Function(_, items) => {
                items.iter().any(Value::has_unresolved_color)
            }
            _ => false,
        }
    }

    /// Whether anything in it is not modelled.
    pub fn is_unmodelled(&self) -> bool {
        match self {
            Value::Unmodelled => true,
            Value::List(items) | Value::Words(items) | Value::Function(_, items) => {
                items.iter().any(Value::is_unmodelled)
            }
            _ => false,
        }
    }
}

/// What a dimension measures.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Quantity {
    /// `<length>`
    Length,
    /// `<time>`
    Time,
    /// `<angle>`
    Angle,
}

/// A unit of CSS Values 4.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Unit {
    /// As written, in lower case.
    pub name: &'static str,
    /// What it measures.
    pub quantity: Quantity,
    /// What it is relative to.
    pub basis: Basis,
}

impl Unit {
    /// Whether it is relative to a font.
    pub fn is_of_font(&self) -> bool {
        matches!(self.basis, Basis::FontSize | Basis::LineHeight) || ["ex", "ch", "cap", "ic"].contains(&self.name)
    }
}

/// What a unit is relative to, with its factor.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum Basis {
    /// Nothing: so many px, seconds or degrees.
    Canonical(f64),
    /// The element's font size.
    FontSize,
    /// The root element's font size.
    RootFontSize,
    /// The element's line height.
    LineHeight,
    /// One per cent of the viewport's width or height.
    ViewportWidth,
    /// See above.
    ViewportHeight,
    /// One per cent of the viewport's smaller side.
    ViewportMin,
    /// One per cent of the viewport's larger side.
    ViewportMax,
    /// Something that needs a font's metrics or a layout.
    Metrics(&'static str),
}

const fn length(name: &'static str, basis: Basis) -> Unit {
    Unit { name, quantity: Quantity::Length, basis }
}

const fn canonical(name: &'static str, quantity: Quantity, factor: f64) -> Unit {
    Unit { name, quantity, basis: Basis::Canonical(factor) }
}

const INCH: f64 = 96.0;
const FONT: &str = "it needs the metrics of the font";
const CONTAINER: &str = "it needs the size of a container";

/// Every unit that is read.
pub static UNITS: [Unit; 53] = [
    canonical("px", Quantity::Length, 1.0),
    canonical("in", Quantity::Length, INCH),
    canonical("cm", Quantity::Length, INCH / 2.54),
    canonical("mm", Quantity::Length, INCH / 25.4),
    canonical("q", Quantity::Length, INCH / 101.6),
    canonical("pt", Quantity::Length, INCH / 72.0),
    canonical("pc", Quantity::Length, INCH / 6.0),
    length("em", Basis::FontSize),
    length("rem", Basis::RootFontSize),
    length("lh", Basis::LineHeight),
    length("rlh", Basis::Metrics("it needs the root's line height")),
    length("ex", Basis::Metrics(FONT)),
    length("ch", Basis::Metrics(FONT)),
    length("cap", Basis::Metrics(FONT)),
    length("ic", Basis::Metrics(FONT)),
    length("vw", Basis::ViewportWidth),
    length("vi", Basis::ViewportWidth),
    length("svw", Basis::ViewportWidth),
    length("lvw", Basis::ViewportWidth),
    length("dvw", Basis::ViewportWidth),
    length("vh", Basis::ViewportHeight),
    length("vb", Basis::ViewportHeight),
    length("svh", Basis::ViewportHeight),
    length("lvh", Basis::ViewportHeight),
    length("dvh", Basis::ViewportHeight),
    length("svi", Basis::ViewportWidth),
    length("lvi", Basis::ViewportWidth),
    length("dvi", Basis::ViewportWidth),
    length("svb", Basis::ViewportHeight),
    length("lvb", Basis::ViewportHeight),
    length("dvb", Basis::ViewportHeight),
    length("vmin", Basis::ViewportMin),
    length("svmin", Basis::ViewportMin),
    length("lvmin", Basis::ViewportMin),
    length("dvmin", Basis::ViewportMin),
    length("vmax", Basis::ViewportMax),
    length("svmax", Basis::ViewportMax),
    length("lvmax", Basis::ViewportMax),
    length("dvmax", Basis::ViewportMax),
    length("rex", Basis::Metrics(FONT)),
    length("rch", Basis::Metrics(FONT)),
    length("cqw", Basis::Metrics(CONTAINER)),
    length("cqh", Basis::Metrics(CONTAINER)),
    length("cqi", Basis::Metrics(CONTAINER)),
    length("cqb", Basis::Metrics(CONTAINER)),
    length("cqmin", Basis::Metrics(CONTAINER)),
    length("cqmax", Basis::Metrics(CONTAINER)),
    canonical("s", Quantity::Time, 1.0),
    canonical("ms", Quantity::Time, 0.001),
    canonical("deg", Quantity::Angle, 1.0),
    canonical("grad", Quantity::Angle, 0.9),
    canonical("rad", Quantity::Angle, 180.0 / std::f64::consts::PI),
    canonical("turn", Quantity::Angle, 360.0),
];

/// The unit with this name, in any case.
pub fn unit(name: &str) -> Option<Unit> {
    UNITS.iter().find(|unit| unit.name.eq_ignore_ascii_case(name)).copied()
}
