//! What box a style is of: one that is generated or not, in a line or not, an item, in flow or out of it.

use super::nature::Nature;
use super::style::Style;
use crate::css::context::Unknown;
use crate::css::property::Longhand as L;

impl Style {
    /// Whether it is an item of a flex or grid container.
    ///
    /// # Errors
    /// The reason why that is not known.
    pub fn is_item(&self) -> Result<bool, Unknown> {
        Ok(self.in_item_container()? && !self.is_out_of_flow()?)
    }

    /// Whether it is a generated pseudo-element that its `content` does not generate, or of an element that has none.
    pub fn is_empty_generated(&self) -> bool {
        self.is_generated && (self.is_never_generated() || self.is_one_of(L::Content, &["none", "normal"]))
    }

    /// Whether it is a generated pseudo-element of an element in which no browser paints one.
    pub fn is_never_generated(&self) -> bool {
        self.is_generated && self.parent.as_ref().is_some_and(|originating| originating.matched.is_closed)
    }

    /// Whether it is of a `::before` or `::after`.
    pub(super) fn is_generated(&self) -> bool {
        self.is_generated
    }

    /// Whether its element brings a size along, as pictures and form controls do.
    pub fn brings_size(&self) -> bool {
        self.matched.nature != Nature::Plain
    }

    /// Whether it is a part of a drawing, whose sizes are what is said of them.
    pub(super) fn is_drawn(&self) -> bool {
        matches!(self.matched.nature, Nature::Drawn | Nature::DrawnBox)
    }

    /// Whether it is a part of a drawing that has no size of its own.
    pub(super) fn is_drawn_box(&self) -> bool {
        self.matched.nature == Nature::DrawnBox
    }

    /// Whether it is not drawn because scripts run.
    pub(super) fn is_instead_of_scripts(&self) -> bool {
        self.matched.nature == Nature::Instead
    }

    /// Whether it is text in a line, which has no box that a share could be of.
    pub(super) fn is_in_line(&self) -> bool {
        let has_line = self.is(L::Display, "inline") || self.is_generated && self.is(L::Display, "contents");
        self.matched.nature == Nature::Plain && has_line
    }

    pub(super) fn is_out_of_flow(&self) -> Result<bool, Unknown> {
        self.asked_for(L::Position, &["absolute", "fixed"])
    }

    pub(super) fn in_item_container(&self) -> Result<bool, Unknown> {
        // An element without a box of its own leaves its place to what is in it.
        let mut above = self.parent.as_deref();
        while let Some(parent) = above {
            if !parent.asked_for(L::Display, &["contents"])? {
                return parent.asked_for(L::Display, &["flex", "inline-flex", "grid", "inline-grid"]);
            }
            above = parent.parent.as_deref();
        }
        Ok(false)
    }

    /// Blockification (CSS Display 3, section 2.7).
    pub(super) fn is_blockified(&self) -> Result<bool, Unknown> {
        Ok(self.parent.is_none()
            || self.is_out_of_flow()?
            || !self.asked_for(L::Float, &["none"])?
            || self.in_item_container()?)
    }
}
