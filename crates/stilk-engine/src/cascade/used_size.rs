//! Sizes of boxes that are known without a layout of text: definite sizes, and boxes that fill the line they are in (CSS 2,
//! section 10.3.3; CSS Sizing 3).

use super::nature::Nature;
use super::style::Style;
use crate::css::context::Unknown;
use crate::css::property::Longhand as L;
use crate::css::value::{LengthPercentage, Value};

const LAYOUT: Unknown = Unknown("the used size needs a layout");

/// Chromium lays out in 64ths of a px.
fn snapped(px: f64) -> f64 {
    (px * 64.0 + 1e-6).trunc() / 64.0
}

impl Style {
    /// The width of the content box in px.
    ///
    /// # Errors
    /// The reason why it is not known.
    pub fn content_width(&self) -> Result<f64, Unknown> {
        if self.is_zoomed() {
            return Err(LAYOUT);
        }
        let edges = self.edges(L::PaddingLeft, L::PaddingRight, L::BorderLeftWidth, L::BorderRightWidth)?;
        let (min, max) = (self.limit(L::MinWidth, edges)?, self.limit(L::MaxWidth, edges)?);
        let width = match self.definite(L::Width, edges)? {
            Some(width) => width,
            None => {
                if !self.fills_line() {
                    return Err(LAYOUT);
                }
                let margins = self.margin(L::MarginLeft)? + self.margin(L::MarginRight)?;
                self.containing_width()? - margins - edges
            }
        };
        Ok(width.min(max.unwrap_or(f64::INFINITY)).max(min.unwrap_or(0.0)).max(0.0))
    }

    /// The height of the content box in px, where it is definite.
    ///
    /// # Errors
    /// The reason why it is not known.
    pub fn content_height(&self) -> Result<f64, Unknown> {
        if self.is_zoomed() {
            return Err(LAYOUT);
        }
        let edges = self.edges(L::PaddingTop, L::PaddingBottom, L::BorderTopWidth, L::BorderBottomWidth)?;
        let (min, max) = (self.limit(L::MinHeight, edges)?, self.limit(L::MaxHeight, edges)?);
        let height = self.definite(L::Height, edges)?.ok_or(LAYOUT)?;
        Ok(height.min(max.unwrap_or(f64::INFINITY)).max(min.unwrap_or(0.0)).max(0.0))
    }

    /// Padding in px.
    ///
    /// # Errors
    /// The reason why it is not known.
    pub fn padding(&self, side: L) -> Result<f64, Unknown> {
        match self.get(side)? {
            Value::Length(length) if !length.has_percent => Ok(snapped(length.px)),
            // What comes to less than nothing is nothing (CSS Box 4, section 4.1).
            Value::Length(length) => Ok(self.share(*length, self.containing_width()?).max(0.0)),
            _ => Err(LAYOUT),
        }
    }

    /// A margin in px; what is `auto` is nothing where the box fills the line.
    fn margin(&self, side: L) -> Result<f64, Unknown> {
        match self.get(side)? {
            Value::Keyword("auto") => Ok(0.0),
            Value::Length(length) if !length.has_percent => Ok(length.px),
            Value::Length(length) => Ok(self.share(*length, self.containing_width()?)),
            _ => Err(LAYOUT),
        }
    }

    fn share(&self, length: LengthPercentage, basis: f64) -> f64 {
        snapped(length.px + length.percent / 100.0 * basis)
    }

    fn edges(&self, a: L, b: L, c: L, d: L) -> Result<f64, Unknown> {
        // What a layout cannot hold it cuts off somewhere.
        const MOST: f64 = 10_000_000.0;
        let edges = self.padding(a)? + self.padding(b)? + self.px(c)? + self.px(d)?;
        if edges < MOST { Ok(edges) } else { Err(LAYOUT) }
    }

    /// A declared size as the size of the content box; `None` for `auto`.
    fn definite(&self, longhand: L, edges: f64) -> Result<Option<f64>, Unknown> {
        // Items of flex and grid containers grow, shrink and stretch; parts of tables share their lines.
        if self.is_item()? || self.display_starts("table")? || !self.has_box()? {
            return Err(LAYOUT);
        }
        let value = self.get(longhand)?;
        if value.is("auto") {
            return Ok(None);
        }
        self.content_box(longhand, value, edges).map(Some)
    }

    fn content_box(&self, longhand: L, value: &Value, edges: f64) -> Result<f64, Unknown> {
        let horizontal = matches!(longhand, L::Width | L::MinWidth | L::MaxWidth);
        let px = match value {
            Value::Length(length) if !length.has_percent => snapped(length.px),
            Value::Length(length) if horizontal && !self.is_out_of_flow()? => {
                self.share(*length, self.containing_width()?)
            }
            _ => return Err(LAYOUT),
        };
        Ok(if self.asked_for(L::BoxSizing, &["border-box"])? { (px - edges).max(0.0) } else { px })
    }

    /// A minimum or maximum as the size of the content box; `None` where there is none.
    fn limit(&self, longhand: L, edges: f64) -> Result<Option<f64>, Unknown> {
        let value = self.get(longhand)?;
        match value {
            Value::Keyword("auto" | "none") => Ok(None),
            Value::Length(length) if !length.has_percent && length.px == 0.0 => Ok(Some(0.0)),
            value => self.content_box(longhand, value, edges).map(Some),
        }
    }

    fn has_box(&self) -> Result<bool, Unknown> {
        Ok(!self.asked_for(L::Display, &["none", "contents", "inline", "ruby", "ruby-text", "math"])?)
    }

    fn display_starts(&self, with: &str) -> Result<bool, Unknown> {
        Ok(matches!(self.get(L::Display)?, Value::Keyword(display) if display.starts_with(with)))
    }

    /// Whether an automatic width fills the containing block.
    fn fills_line(&self) -> bool {
        let is_block = ["block", "flex", "grid", "list-item", "flow-root"].iter().any(|d| self.is(L::Display, d));
        is_block
            && self.matched.nature == Nature::Plain
            && self.is_out_of_flow() == Ok(false)
            && self.is(L::Float, "none")
            && self.is(L::WritingMode, "horizontal-tb")
            && self.is_stretched()
            && !(self.matched.has_floats && self.keeps_floats_out())
    }

    /// Whether what floats outside of it does not reach into it: then it is as wide as the room beside that (CSS 2.2, section
    /// 9.5), which only a layout knows.
    fn keeps_floats_out(&self) -> bool {
        let is_item = self.is_item() == Ok(true);
        let scrolls = |side| !self.is(side, "visible") && !self.is(side, "clip");
        let is_own = ["flex", "grid", "flow-root"].iter().any(|word| self.is(L::Display, word))
            || scrolls(L::OverflowX)
            || scrolls(L::OverflowY)
            || self.get(L::Contain).is_ok_and(|contain| !contain.is("none"))
            || !self.is(L::ContainerType, "normal")
            // A block that places its content (CSS Box Alignment 3, section 5.4).
            || !self.is(L::AlignContent, "normal");
        !is_item && is_own
    }

    /// Whether nothing asks for it to stand at one side (CSS Box Alignment 3, section 6.1).
    fn is_stretched(&self) -> bool {
        let fills = |value: Result<&Value, Unknown>| match value {
            Ok(Value::Keyword(word)) => ["normal", "stretch", "legacy"].contains(word),
            Ok(Value::Words(words)) => words.first().is_some_and(|word| word.is("legacy")),
            _ => false,
        };
        match self.get(L::JustifySelf) {
            Ok(value) if value.is("auto") => {
                self.parent.as_ref().is_none_or(|parent| fills(parent.get(L::JustifyItems)))
            }
            own => fills(own),
        }
    }

    /// The width of the containing block of a box in flow.
    fn containing_width(&self) -> Result<f64, Unknown> {
        if self.is_out_of_flow()? {
            return Err(LAYOUT);
        }
        let mut above = self.parent.as_deref();
        while let Some(parent) = above {
            if !parent.asked_for(L::Display, &["inline", "contents", "ruby"])? {
                if !parent.is(L::WritingMode, "horizontal-tb") {
                    return Err(LAYOUT);
                }
                // A scrollbar may take its share, and columns part it.
                let scrolls = parent.asked_for(L::OverflowY, &["scroll", "auto"])?;
                if scrolls && parent.parent.is_some() {
                    return Err(LAYOUT);
                }
                // Slots and line boxes of controls are the browser's own.
                if parent.matched.nature != Nature::Plain {
                    return Err(LAYOUT);
                }
                return parent.content_width();
            }
            // A group of fields or a button in a line is a box that shrinks to what is in it.
            if parent.matched.nature != Nature::Plain && !parent.is(L::Display, "contents") {
                return Err(LAYOUT);
            }
            above = parent.parent.as_deref();
        }
        Ok(self.sheets.media.width)
    }
}
