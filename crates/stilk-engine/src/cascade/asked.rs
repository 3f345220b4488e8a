//! What is asked of styles. Builds with debug assertions remember it, so that tests can hold what somebody asks against what
//! they say they ask; in others nothing is left of it.

use super::longhand_set::LonghandSet;
use crate::css::property::Longhand;
use std::cell::Cell;

/// What was asked.
#[derive(Debug, Clone, Copy, Default, PartialEq, Eq)]
pub struct Asked {
    /// Longhands of elements, and of pseudo-elements other than generated boxes.
    pub longhands: LonghandSet,
    /// Longhands of `::before` and `::after`.
    pub generated: LonghandSet,
    /// Whether boxes were asked for.
    pub laid_out: bool,
}

thread_local! {
    static ASKED: Cell<Asked> = const { Cell::new(Asked {
        longhands: LonghandSet::of(&[]),
        generated: LonghandSet::of(&[]),
        laid_out: false,
    }) };
    /// How many answers are being worked out: what they ask in turn was not asked from outside.
    static DEPTH: Cell<u32> = const { Cell::new(0) };
}

/// What was asked on this thread since it was taken last; nothing in builds without debug assertions.
pub fn take() -> Asked {
    ASKED.take()
}

/// Held while an answer is worked out.
pub struct Answering;

/// A longhand is asked for, of a generated box or of something else.
#[inline(always)]
pub(crate) fn note(longhand: Longhand, is_generated: bool) -> Answering {
    note_with(|asked| match is_generated {
        true => asked.generated.add(longhand),
        false => asked.longhands.add(longhand),
    })
}

/// Boxes are asked for.
#[inline(always)]
pub fn note_layout() -> Answering {
    note_with(|asked| asked.laid_out = true)
}

/// Something is worked out of which nobody asked a part.
#[inline(always)]
pub(crate) fn unnoted() -> Answering {
    note_with(|_| {})
}

#[inline(always)]
fn note_with(change: impl FnOnce(&mut Asked)) -> Answering {
    if cfg!(debug_assertions) {
        if DEPTH.get() == 0 {
            let mut asked = ASKED.get();
            change(&mut asked);
            ASKED.set(asked);
        }
        DEPTH.set(DEPTH.get() + 1);
    }
    Answering
}

impl Drop for Answering {
    #[inline(always)]
    fn drop(&mut self) {
        if cfg!(debug_assertions) {
            DEPTH.set(DEPTH.get() - 1);
        }
    }
}
