//! Lists that the page draws, `appearance: base-select` (CSS Forms 1): their own look is not modelled, and so what no author says
//! of them is not known.

use super::asked;
use super::nature::Nature;
use super::style::Style;
use crate::css::Unknown;
use crate::css::property::{Longhand, Longhand as L};

/// Why a value is not known.
pub(super) const NOT_MODELLED: Unknown = Unknown("what `appearance: base-select` looks like is not modelled");

impl Style {
    /// Whether a value is that of the list's own look: no author's declaration decides it.
    pub(super) fn has_base_look(&self, longhand: Longhand) -> bool {
        // What the look itself is found out by is the same in every look.
        !matches!(longhand, L::Appearance | L::Direction | L::WritingMode | L::Zoom)
            && self.is_in_base_select()
            && self.specified(longhand).1.is_none_or(|declaration| declaration.sheet == 0)
    }

    /// Whether it is such a list, or stands in one; also where that is not known.
    fn is_in_base_select(&self) -> bool {
        if let Some(known) = self.base_select.get() {
            return known;
        }
        let _answering = asked::unnoted();
        self.base_select.set(Some(false));
        let is_own = self.matched.nature == Nature::Control
            && self.is_declared(L::Appearance)
            && self.get(L::Appearance).map_or(true, |value| value.is("base-select"));
        let is = is_own || self.parent.as_ref().is_some_and(|parent| parent.is_in_base_select());
        self.base_select.set(Some(is));
        is
    }
}
