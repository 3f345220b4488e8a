//! How large a project may be. Each limit is far above what people write and far below what a machine cannot do: what lies
//! beyond is refused with a place and words, and never takes all the time or memory there is. `docs/limits.md` lists them.

/// Tokens of a project, every definition of a context counted.
pub const MAX_TOKENS: usize = 100_000;

/// Themes: the product of the contexts of all modifiers.
pub const MAX_THEMES: usize = 1_024;

/// Entries that `$extends` copies.
pub const MAX_COPIED: usize = 200_000;

/// Rules of a control, once conditions, lists of states and traits are carried out.
pub const MAX_RULES: usize = 10_000;

/// Steps that this takes.
pub const MAX_STEPS: usize = 200_000;

/// Controls that a control is a copy of, one through the other.
pub const MAX_COPIES: usize = 32;

/// Elements of a control, with those of all that is placed in it.
pub const MAX_ELEMENTS: usize = 5_000;

/// Variants that exclusions tie together: the product of the options of their axes.
pub const MAX_TIED: usize = 20_000;

/// Axes of a control.
pub const MAX_AXES: usize = 40;
