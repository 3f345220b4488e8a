//! The at-rules of sheets, and where each may stand.

/// Names are given once: what reads rules matches on the type, so the compiler shows every place that has to know a new
/// one.
macro_rules! at_rules {
    ($($rule:ident $name:literal $place:ident,)+) => {
        /// An at-rule of the language.
        #[derive(Debug, Clone, Copy, PartialEq, Eq)]
        pub(super) enum AtRule {
            $(#[doc = concat!("`@", $name, "`.")] $rule,)+
        }

        impl AtRule {
            const ALL: &'static [AtRule] = &[$(AtRule::$rule),+];

            /// As it is written, without `@`.
            pub(super) fn name(self) -> &'static str {
                match self { $(AtRule::$rule => $name),+ }
            }

            fn place(self) -> Place {
                match self { $(AtRule::$rule => Place::$place),+ }
            }
        }
    };
}

at_rules! {
    Attach "attach" Top,
    Axis "axis" Block,
    Combine "combine" Block,
    Container "container" Block,
    Control "control" Top,
    Derive "derive" Top,
    Exclude "exclude" Block,
    FontFace "font-face" Top,
    Host "host" Block,
    Keyframes "keyframes" Top,
    Media "media" Block,
    Option "option" Block,
    Part "part" Block,
    Property "property" Anywhere,
    StartingStyle "starting-style" Block,
    State "state" Block,
    Supports "supports" Block,
    Trait "trait" Top,
    Traits "traits" Block,
    Waive "waive" Block,
}

/// Where a rule may stand.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Place {
    /// At the top of a sheet.
    Top,
    /// In a control or a trait.
    Block,
    /// In both.
    Anywhere,
}

impl AtRule {
    /// The rule of this name, in lower case.
    pub(super) fn named(name: &str) -> Option<AtRule> {
        AtRule::ALL.iter().copied().find(|rule| rule.name() == name)
    }

    /// The names of those that may stand there.
    pub(super) fn names_in(place: Place) -> Vec<&'static str> {
        let is_there = |rule: &&AtRule| [place, Place::Anywhere].contains(&rule.place());
        AtRule::ALL.iter().filter(is_there).map(|rule| rule.name()).collect()
    }
}
