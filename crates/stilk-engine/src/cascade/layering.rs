//! What the cascade compares before selectors: origin, importance, attributes, layers (CSS Cascade 5, section 6.1).

/// Where a stylesheet comes from.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
pub enum Origin {
    /// The browser's own.
    Browser,
    /// The page's.
    Author,
}

/// Names a declaration: which sheet, rule and declaration in it.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub struct DeclarationId {
    /// Index of the sheet in the engine, or [`INLINE`] or [`HINTS`].
    pub sheet: u16,
    /// Index of the rule.
    pub rule: u32,
    /// Index of the declaration in the rule.
    pub declaration: u32,
}

impl DeclarationId {
    /// Whether it stands in a `style` attribute.
    pub fn is_inline(self) -> bool {
        self.sheet == INLINE
    }

    /// Whether it stands in no stylesheet, but in an attribute of its element.
    pub fn is_of_attributes(self) -> bool {
        matches!(self.sheet, INLINE | HINTS)
    }
}

/// The sheet index of declarations in a `style` attribute.
pub const INLINE: u16 = u16::MAX;
/// The sheet index of declarations that presentational attributes stand for.
pub const HINTS: u16 = u16::MAX - 1;

/// Cascade order without the place of a rule; compares as the cascade does.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
pub struct Layering {
    /// Origin and importance: browser, presentational attributes, author, important author, important browser.
    level: u8,
    /// Whether it is in a `style` attribute.
    inline: bool,
    /// Layer rank; unlayered is highest, and lowest among important declarations.
    layer: i64,
}

impl Layering {
    /// That of presentational attributes.
    pub(super) const HINTS: Layering = Layering { level: 1, inline: false, layer: 0 };

    pub(super) fn new(origin: Origin, important: bool, inline: bool, layer: Option<u32>) -> Layering {
        let level = match (origin, important) {
            (Origin::Browser, false) => 0,
            (Origin::Author, false) => 2,
            (Origin::Author, true) => 3,
            (Origin::Browser, true) => 4,
        };
        let rank = layer.map_or(i64::from(u32::MAX), i64::from);
        Layering { level, inline, layer: if important { -rank } else { rank } }
    }
}

impl Layering {
    /// Whether `revert-layer` there leaves out what stands in another layering: the same layer, important or not, and all
    /// that is above it (CSS Cascade 5, section 7.3.5).
    pub fn reverts(self, other: Layering) -> bool {
        let plain = |layering: Layering| {
            let origin = match layering.level {
                4 => 0,
                3 => 2,
                level => level,
            };
            (origin, layering.inline, layering.layer.abs())
        };
        plain(other) >= plain(self)
    }

    /// Whether it is of `!important` declarations.
    pub fn is_important(self) -> bool {
        self.level >= 3
    }

    /// Whether it is in a `style` attribute.
    pub fn is_inline(self) -> bool {
        self.inline
    }
}
