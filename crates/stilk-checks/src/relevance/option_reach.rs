//! What an option may change at rest, by what its rules set and by what reads that.

use crate::relevance::dependence::longhands_of;
use rustc_hash::FxHashSet;
use stilk_engine::css::property::Longhand;
use stilk_language::system::{BoundDeclaration, Control, OptionId};
use stilk_language::tokens::Piece;

/// What the rules of an option reach in its control, in no state.
#[derive(Default)]
pub struct OptionReach {
    /// Locals, by name.
    pub locals: FxHashSet<String>,
    /// Longhands, on whichever element.
    pub longhands: FxHashSet<Longhand>,
    /// Whether it sets locals of controls that are placed in this one: what these do is not followed.
    pub reaches_placed: bool,
}

impl OptionReach {
    /// What an option reaches.
    pub fn new(control: &Control, option: OptionId) -> OptionReach {
        let mut reach = OptionReach::default();
        let of_option = control.rules.iter().filter(|rule| rule.options.contains(&option) && rule.states.is_rest());
        for declaration in of_option.flat_map(|rule| &rule.declarations) {
            reach.add(declaration);
        }
        let reads = |declaration: &BoundDeclaration, locals: &FxHashSet<String>| {
            let mut pieces = declaration.value.pieces.iter();
            pieces.any(|piece| matches!(piece, Piece::Local(name) if locals.contains(name)))
        };
        loop {
            let before = reach.locals.len();
            for declaration in control.rules.iter().flat_map(|rule| &rule.declarations) {
                if reads(declaration, &reach.locals) {
                    reach.add(declaration);
                }
            }
            if reach.locals.len() == before {
                return reach;
            }
        }
    }

    fn add(&mut self, declaration: &BoundDeclaration) {
        match declaration.is_local() {
            true => {
                self.reaches_placed |= declaration.owner.is_some();
                self.locals.insert(declaration.name.value.clone());
            }
            false => self.longhands.extend(longhands_of(&declaration.name.value)),
        }
    }
}
