//! What a check asks of the looks that it is given. What it does not ask for cannot change its verdict: looks that differ by
//! nothing else are computed once. A build with debug assertions holds every check to what it says here.

use stilk_engine::cascade::LonghandSet;
use stilk_engine::cascade::asked::Asked;
use stilk_engine::css::property::Longhand as L;
use stilk_engine::layout;
use stilk_language::system::StateId;

/// What a check asks of looks.
#[derive(Debug, Clone, Copy)]
pub struct Reads {
    /// Longhands of elements and pseudo-elements.
    pub longhands: Longhands,
    /// Longhands of `::before` and `::after` beside those.
    pub generated: LonghandSet,
    /// In which sets of states.
    pub states: StatesAsked,
    /// What of colours counts.
    pub colors: Colors,
    /// Whether it asks where boxes stand: then all that a layout asks counts as well, and the text in them.
    pub laid_out: bool,
    /// Whether of the size and weight of text it counts only whether that makes it large.
    pub large_text_only: bool,
    /// Whether it looks at elements that paint without any declaration: an icon is seen whatever its style says.
    pub icons: bool,
}

/// Which longhands.
#[derive(Debug, Clone, Copy)]
pub enum Longhands {
    /// These.
    These(LonghandSet),
    /// Whatever rules of the states that the kind of control needs may change, but for these.
    ChangedByNeeded {
        /// Those that do not count.
        unseen: LonghandSet,
    },
    /// Whatever rules of any states may change, but for these.
    ChangedByStates {
        /// Those that do not count.
        unseen: LonghandSet,
    },
}

/// Which sets of states.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum StatesAsked {
    /// Those that change anything that is read; the others have the verdict of the set without what changes nothing.
    Distinct,
    /// All, none taken for another.
    Each,
    /// Rest, and each state alone.
    EachAlone,
    /// Rest, and each of these states alone.
    Alone(&'static [StateId]),
    /// Rest.
    Rest,
}

/// What of colours counts.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Colors {
    /// Every colour, and the colour scheme.
    All,
    /// How much of what is behind it a colour covers.
    Cover,
    /// None: lengths do not depend on them.
    None,
}

/// The longhands in whose values colours may be.
const COLORED: LonghandSet = LonghandSet::of(&[
    L::AccentColor,
    L::BackgroundColor,
    L::BackgroundImage,
    L::BorderBottomColor,
    L::BorderLeftColor,
    L::BorderRightColor,
    L::BorderTopColor,
    L::BoxShadow,
    L::CaretColor,
    L::Color,
    L::ColumnRuleColor,
    L::Fill,
    L::FloodColor,
    L::LightingColor,
    L::OutlineColor,
    L::StopColor,
    L::Stroke,
    L::TapHighlightColor,
    L::TextDecorationColor,
    L::TextEmphasisColor,
    L::TextFillColor,
    L::TextShadow,
    L::TextStrokeColor,
]);

impl Reads {
    const fn new(longhands: Longhands, states: StatesAsked, colors: Colors) -> Reads {
        let generated = LonghandSet::of(&[]);
        Reads { longhands, generated, states, colors, laid_out: false, large_text_only: false, icons: false }
    }

    /// The values of these longhands in all states that change one of them.
    pub const fn values(longhands: LonghandSet) -> Reads {
        let colors = if longhands.meets(&COLORED) { Colors::All } else { Colors::None };
        Reads::new(Longhands::These(longhands), StatesAsked::Distinct, colors)
    }

    /// Where boxes stand, and the values of these longhands beside what a layout asks for.
    pub const fn boxes(longhands: LonghandSet) -> Reads {
        Reads { laid_out: true, ..Reads::values(longhands.and(&layout::READS)) }
    }

    /// Whatever the states that the kind of control needs change, each alone, but for these longhands.
    pub const fn needed_changes(unseen: LonghandSet) -> Reads {
        Reads::new(Longhands::ChangedByNeeded { unseen }, StatesAsked::EachAlone, Colors::All)
    }

    /// Whatever states change, alone and together, but for these longhands.
    pub const fn changes(unseen: LonghandSet) -> Reads {
        Reads::new(Longhands::ChangedByStates { unseen }, StatesAsked::Each, Colors::All)
    }

    /// The same in other sets of states.
    pub const fn in_states(self, states: StatesAsked) -> Reads {
        Reads { states, ..self }
    }

    /// The same, and these longhands of generated boxes.
    pub const fn on_generated(self, generated: LonghandSet) -> Reads {
        let colors = if generated.meets(&COLORED) { Colors::All } else { self.colors };
        Reads { generated, colors, ..self }
    }

    /// The same, where of colours it counts only whether they cover what is behind them.
    pub const fn covering(self) -> Reads {
        Reads { colors: Colors::Cover, ..self }
    }

    /// The same, where of the size and weight of text it counts only whether that makes it large (WCAG 2.2, "large scale").
    pub const fn with_large_text(self) -> Reads {
        Reads { large_text_only: true, ..self }
    }

    /// The same, and icons.
    pub const fn with_icons(self) -> Reads {
        Reads { icons: true, ..self }
    }

    /// What was asked and is not declared here.
    pub fn undeclared(&self, asked: &Asked) -> Vec<&'static str> {
        let declared = match self.longhands {
            Longhands::These(longhands) => longhands,
            Longhands::ChangedByNeeded { unseen } | Longhands::ChangedByStates { unseen } => {
                LonghandSet::all().without(unseen)
            }
        };
        let names = |set: LonghandSet| set.iter().map(L::name);
        let of_generated = asked.generated.without(declared.union(self.generated));
        let boxes = (asked.laid_out && !self.laid_out).then_some("(where boxes stand)");
        names(asked.longhands.without(declared)).chain(names(of_generated)).chain(boxes).collect()
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn every_longhand_of_a_colour_is_known() {
        let pictures = [L::BackgroundImage, L::BoxShadow, L::TextShadow];
        let colored = L::ALL.iter().copied().filter(|longhand| longhand.is_color() || pictures.contains(longhand));
        let mut all = LonghandSet::default();
        colored.for_each(|longhand| all.add(longhand));
        assert_eq!(all, COLORED);
    }
}
