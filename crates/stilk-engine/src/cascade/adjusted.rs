//! Computed values that go by other properties of the same element, or by what the element is.

use super::display::{blockify, natural};
use super::nature::Nature;
use super::style::Style;
use crate::css::color::{Color, OF_BODY, Surroundings};
use crate::css::context::Unknown;
use crate::css::property::{Longhand, Longhand as L};
use crate::css::value::Value;

impl Style {
    /// The computed value: what it is declared to be, and what other values and the user make of it.
    pub(super) fn adjusted(&self, longhand: Longhand) -> Result<Value, Unknown> {
        match self.sheets.media.forced_colors {
            true => self.forced_value(longhand, self.adjusted_by_others(longhand)),
            false => self.adjusted_by_others(longhand),
        }
    }

    /// What it is declared to be, and what other values of the same element make of it.
    fn adjusted_by_others(&self, longhand: Longhand) -> Result<Value, Unknown> {
        let line_style = match longhand {
            L::BorderTopWidth => Some(L::BorderTopStyle),
            L::BorderRightWidth => Some(L::BorderRightStyle),
            L::BorderBottomWidth => Some(L::BorderBottomStyle),
            L::BorderLeftWidth => Some(L::BorderLeftStyle),
            _ => None,
        };
        // Lines are whole pixels of what is drawn, and written in those of the page.
        if changes_with_zoom(longhand) && self.is_zoomed() {
            return Err(Unknown("the page is zoomed here"));
        }
        // Whether there is a line is not known where its style is not.
        if let Some(Err(reason)) = line_style.map(|style| self.get(style)) {
            return Err(reason);
        }
        // Borders without a style have no width (CSS Backgrounds 3, section 3.3).
        if line_style.is_some_and(|style| self.is_one_of(style, &["none", "hidden"])) {
            return Ok(Value::ZERO);
        }
        let value = self.raw(longhand)?;
        Ok(match longhand {
            L::Color => return self.absolute_color(value),
            L::Float if !value.is("none") && self.is_out_of_flow()? => Value::Keyword("none"),
            L::Display => match value {
                Value::Keyword(word) => {
                    // Outside of mathematics it is as text.
                    let is_native = !self.is_empty_generated() && !self.get(L::Appearance)?.is("none");
                    let word = if word == "math" { "inline" } else { natural(self.matched.nature, is_native, word) };
                    if !self.is_blockified()? && self.matched.nature != Nature::Legend {
                        // Text that runs another way has a box of its own (CSS Writing Modes 4, section 3.1).
                        let turned = word == "inline"
                            && !self.is_empty_generated()
                            && self
                                .parent
                                .as_ref()
                                .is_some_and(|parent| parent.get(L::WritingMode).ok() != self.get(L::WritingMode).ok());
                        Value::Keyword(if turned { "inline-block" } else { word })
                    } else if word == "ruby" {
                        return Err(Unknown("a ruby as a block has no keyword of its own"));
                    } else {
                        Value::Keyword(blockify(word))
                    }
                }
                other => other,
            },
            L::OverflowX => self.overflow(value, L::OverflowY)?,
            L::OverflowY => self.overflow(value, L::OverflowX)?,
            L::TextAlign if value.is("match-parent") => match &self.parent {
                Some(parent) => return parent.get(L::TextAlign).cloned(),
                None => Value::Keyword("start"),
            },
            // Of a heading in a table: in the middle where nothing around it says anything else (HTML, section 15.3.8).
            L::TextAlign if value.is("-stilk-center") => match self.parent.as_ref().map(|p| p.get(L::TextAlign)) {
                Some(Err(reason)) => return Err(reason),
                Some(Ok(around)) if !around.is("start") => around.clone(),
                _ => Value::Keyword("center"),
            },
            // Those that also place blocks end at a table.
            L::TextAlign
                if self.matched.nature == Nature::Table
                    && ["-webkit-center", "-webkit-left", "-webkit-right"].iter().any(|word| value.is(word)) =>
            {
                Value::Keyword("start")
            }
            // What may not be drawn keeps the size that it had (CSS Containment 3, section 4.1).
            L::ContainIntrinsicWidth | L::ContainIntrinsicHeight if self.is(L::ContentVisibility, "auto") => {
                match value {
                    value @ Value::Words(_) => value,
                    value => Value::Words(vec![Value::Keyword("auto"), value]),
                }
            }
            L::Content if self.is_generated && value.is("normal") => Value::Keyword("none"),
            // Elements have their content anyway (CSS Content 3, section 2).
            L::Content if !self.is_generated && value.is("none") => Value::Keyword("normal"),
            _ => value,
        })
    }

    /// One axis that is no longer visible makes the other one scroll (CSS Overflow 3, section 3.1).
    fn overflow(&self, value: Value, other: Longhand) -> Result<Value, Unknown> {
        // A table is clipped on both sides, or on none.
        let display = self.raw(L::Display)?;
        let other = self.raw(other)?;
        if display.is("table") || display.is("inline-table") {
            return Ok(match (value.is("hidden"), other.is("hidden")) {
                (true, true) => value,
                (false, false) if value.is("clip") => value,
                _ => Value::Keyword("visible"),
            });
        }
        if self.matched.nature == Nature::TextArea && value.is("visible") && !display.is("none") {
            return Ok(Value::Keyword("auto"));
        }
        let other_scrolls = !other.is("visible") && !other.is("clip");
        Ok(if value.is("visible") && other_scrolls { Value::Keyword("auto") } else { value })
    }

    /// The style of the page's body that it is in; its own where it is in none.
    fn body(&self) -> &Style {
        let mut at = self;
        while let Some(parent) = at.parent.as_deref().filter(|parent| parent.parent.is_some()) {
            at = parent;
        }
        at
    }

    /// `color` comes out absolute: `currentcolor` in it is the parent's.
    fn absolute_color(&self, value: Value) -> Result<Value, Unknown> {
        let Value::Color(color) = value else { return Ok(value) };
        if color == Color::System(OF_BODY) {
            return self.body().get(L::Color).cloned();
        }
        let current = self.parent.as_ref().and_then(|parent| parent.color());
        let surroundings = Surroundings { current, ..self.surroundings_without_color() };
        match color.resolve(surroundings) {
            Some(absolute) => Ok(Value::Color(Color::Absolute(absolute))),
            None if color.uses_current() => Err(Unknown("the parent's color is not known")),
            None => Err(Unknown("the colour is not modelled yet")),
        }
    }
}

/// What is computed in pixels of the screen.
pub(super) fn changes_with_zoom(longhand: Longhand) -> bool {
    longhand.is_line_width()
        || matches!(
            longhand,
            L::OutlineOffset
                | L::FontSize
                | L::BorderHorizontalSpacing
                | L::BorderVerticalSpacing
                | L::PerspectiveOrigin
        )
}
