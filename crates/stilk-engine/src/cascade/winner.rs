//! Which declaration of a longhand wins: one walk, strongest first, for the value and for the story of how it came to be.

use super::custom::{Around, Skip};
use super::order::{Block, DeclarationId, Origin, Prepared};
use super::style::{Style, Substituted};
use super::stylesheet::DeclarationBody;
use crate::css::context::Unknown;
use crate::css::parse::{Declared, ParsedDeclaration, Target, Wide};
use crate::css::property::{Flow, Longhand, Longhand as L};
use crate::css::value::Value;
use std::rc::Rc;

/// A declaration of a longhand on the way from the strongest to the weakest.
pub(super) struct Step<'s> {
    /// Its block.
    pub block: &'s Block,
    /// Itself.
    pub declaration: &'s Prepared,
    /// What it says, if nothing stronger decides.
    pub says: Says<'s>,
}

/// What a declaration says.
pub(super) enum Says<'s> {
    /// Nothing: a stronger one gave way beyond its layer or origin.
    Reverted,
    /// Nothing: a condition around it does not hold for this element.
    NoCondition,
    /// Nothing: the user's colours replace this.
    Forced(Specified<'s>),
    /// Nobody knows: a condition around it could not be decided.
    Undecided(Unknown),
    /// The value is given back, by this keyword.
    GivesWay(&'static str),
    /// It is not valid once references are replaced: the property is inherited or initial.
    Invalid,
    /// This.
    Decides(Specified<'s>),
}

impl Says<'_> {
    /// Whether nothing weaker is asked.
    pub(super) fn decides(&self) -> bool {
        matches!(self, Says::Undecided(_) | Says::Invalid | Says::Decides(_))
    }
}

impl Style {
    /// The declarations of a longhand that apply, strongest first.
    pub(super) fn steps(&self, longhand: Longhand) -> impl Iterator<Item = Step<'_>> {
        self.steps_of(longhand, |_| true)
    }

    /// The same of some blocks only: the others are not asked whether they apply.
    pub(super) fn steps_of(
        &self,
        longhand: Longhand,
        counts: impl Fn(&Block) -> bool,
    ) -> impl Iterator<Item = Step<'_>> {
        // The flow says which physical longhand a logical one sets; what the flow comes from is none of those itself.
        let is_flow = matches!(longhand, L::Direction | L::WritingMode);
        let flow = if is_flow { Flow::LTR } else { self.flow() };
        let is_set = flow != Flow::LTR || self.matched.sets.has(longhand);
        let setting = is_set.then(|| self.sheets.setting(&self.matched, longhand, flow));
        let mut skip = Skip::None;
        setting.into_iter().flatten().filter_map(move |(block, declaration)| {
            let DeclarationBody::Property(parsed) = declaration.body() else { return None };
            if !counts(block) {
                return None;
            }
            let says = match skip.covers(block) {
                true => Says::Reverted,
                false => match self.applies(block) {
                    Err(reason) => Says::Undecided(reason),
                    Ok(false) => Says::NoCondition,
                    Ok(true) => self.says(declaration, parsed, longhand, flow),
                },
            };
            let says = match says {
                Says::Decides(specified) if self.is_forced_away(longhand, &specified) => Says::Forced(specified),
                says => says,
            };
            match says {
                Says::GivesWay(REVERT) => skip = Skip::Origin(block.origin),
                Says::GivesWay(_) => skip = Skip::Layer(block.layering),
                // A colour of the page's that is replaced is so by the user's, not by a weaker one of the page's.
                Says::Forced(_) if block.origin == Origin::Author => skip = Skip::Origin(Origin::Author),
                _ => {}
            }
            Some(Step { block, declaration, says })
        })
    }

    /// The winning declaration's value of a longhand.
    pub(super) fn specified(&self, longhand: Longhand) -> (Specified<'_>, Option<DeclarationId>) {
        for Step { block, declaration, says } in self.steps(longhand) {
            let specified = match says {
                Says::Reverted | Says::NoCondition | Says::Forced(_) | Says::GivesWay(_) => continue,
                Says::Undecided(reason) => Specified::Unknown(reason),
                Says::Invalid => Specified::Unset,
                Says::Decides(specified) => specified,
            };
            return (specified, Some(block.id(declaration)));
        }
        (Specified::Unset, None)
    }

    fn says<'s>(
        &'s self,
        declaration: &'s Prepared,
        parsed: &'s ParsedDeclaration,
        longhand: Longhand,
        flow: Flow,
    ) -> Says<'s> {
        // The last wins where a shorthand sets one longhand twice.
        let place =
            |values: &[(Target, Value)]| values.iter().rposition(|(target, _)| target.physical(flow) == longhand);
        match &parsed.declared {
            Declared::Values(values) => {
                Says::Decides(place(values).map_or(Specified::Unset, |at| Specified::Value(&values[at].1)))
            }
            Declared::Wide(wide) => of_wide(*wide),
            Declared::Pending(_) => match self.substituted(declaration, parsed) {
                Err(reason) => Says::Decides(Specified::Unknown(reason)),
                Ok(substituted) => match substituted.as_ref() {
                    Some(Declared::Values(values)) => {
                        let value = |at| Specified::Substituted(Rc::clone(&substituted), at);
                        Says::Decides(place(values).map_or(Specified::Unset, value))
                    }
                    Some(Declared::Wide(wide)) => of_wide(*wide),
                    // Invalid at computed-value time.
                    Some(Declared::Pending(_)) | None => Says::Invalid,
                },
            },
        }
    }

    pub(super) fn substituted(&self, declaration: &Prepared, parsed: &ParsedDeclaration) -> Substituted {
        // Kept as long as the stylesheets: where it lies is its name.
        let id = std::ptr::from_ref(declaration);
        if let Some((_, known)) = self.substituted.borrow().iter().find(|(known, _)| *known == id) {
            return known.clone();
        }
        let text = declaration.text.as_ref().map_or(Ok(None), |text| text.substitute(&mut Around(self)));
        let declared = text.map(|text| match text {
            Some(text) => self.sheets.parse(parsed.name, text),
            None => Rc::new(None),
        });
        self.substituted.borrow_mut().push((id, declared.clone()));
        declared
    }
}

const REVERT: &str = "revert";

fn of_wide<'s>(wide: Wide) -> Says<'s> {
    match wide {
        Wide::Inherit => Says::Decides(Specified::Inherit),
        Wide::Initial => Says::Decides(Specified::Initial),
        Wide::Unset => Says::Decides(Specified::Unset),
        Wide::Revert => Says::GivesWay(REVERT),
        Wide::RevertLayer => Says::GivesWay("revert-layer"),
    }
}

/// What the winning declaration of a longhand says.
#[derive(Debug, Clone)]
pub(super) enum Specified<'s> {
    /// A value.
    Value(&'s Value),
    /// The value with this index in a declaration whose references were replaced.
    Substituted(Rc<Option<Declared>>, usize),
    /// The value of what is around the element.
    Inherit,
    /// The initial value.
    Initial,
    /// Inherited or initial, as the property has it.
    Unset,
    /// It cannot be known.
    Unknown(Unknown),
}

impl Specified<'_> {
    /// The declared value, where it is one.
    pub fn value(&self) -> Option<&Value> {
        match self {
            Specified::Value(value) => Some(value),
            Specified::Substituted(declared, at) => match declared.as_ref() {
                Some(Declared::Values(values)) => values.get(*at).map(|(_, value)| value),
                _ => None,
            },
            Specified::Inherit | Specified::Initial | Specified::Unset | Specified::Unknown(_) => None,
        }
    }
}
