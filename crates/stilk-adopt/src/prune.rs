//! Declarations that say what holds anyhow are left out.

use crate::conflict::{Place, place};
use crate::draft::{Draft, DraftRule, Piece, Workshop};
use crate::seen::Seen;
use stilk_engine::css::parse::Declared;
use stilk_engine::css::parse_declaration;

/// Leaves out what a weaker rule says in the same words wherever the stronger one holds, where nothing that stands between
/// them says otherwise of a control that there is.
pub fn repeated(draft: &mut Draft, shop: &Workshop, seen: &mut Seen) {
    let exclusive = draft.exclusive(shop.modifier_of);
    let places: Vec<Place> = draft.rules.iter().map(|rule| place(&shop.own.states, draft, rule)).collect();
    for at in 0..draft.rules.len() {
        let rule = draft.rules[at].clone();
        let is_repeated = |piece: usize, seen: &mut Seen| {
            let own = &rule.pieces[piece];
            // What it writes over in its own rule would come out.
            let covers_own = rule.pieces[..piece].iter().any(|other| !other.sets.within(&own.sets).is_empty());
            if own.sets.is_empty() || covers_own {
                return false;
            }
            let weaker = (0..draft.rules.len()).filter(|other| {
                let known = &draft.rules[*other];
                *other != at
                    && places[*other] < places[at]
                    && known.target == rule.target
                    && known.when.covers(&rule.when)
                    && says(known, own)
            });
            let Some(base) = weaker.max_by_key(|other| &places[*other]) else { return false };
            let says_otherwise = |other: usize| {
                let between = &draft.rules[other];
                other != at
                    && other != base
                    && places[other] >= places[base]
                    && places[other] <= places[at]
                    && between.target == rule.target
                    && !between.sets().within(&own.sets).is_empty()
            };
            !(0..draft.rules.len()).filter(|other| says_otherwise(*other)).any(|other| {
                let both = draft.rules[other].when.and(&rule.when, &exclusive);
                both.is_some_and(|both| seen.is_seen(&both))
            })
        };
        let left: Vec<Piece> = (0..rule.pieces.len())
            .filter(|piece| !is_repeated(*piece, seen))
            .map(|piece| rule.pieces[piece].clone())
            .collect();
        draft.rules[at].pieces = left;
    }
    draft.rules.retain(|rule| !rule.pieces.is_empty());
}

/// Whether a rule says the same, and nothing behind it in that rule writes over it.
fn says(rule: &DraftRule, wanted: &Piece) -> bool {
    // `white` says the same as `#fff`.
    let values = |piece: &Piece| match parse_declaration(&piece.name, &piece.value).map(|one| one.declared) {
        Ok(Declared::Values(values)) => Some(values),
        _ => None,
    };
    let same = |piece: &Piece| {
        let is_same_text = piece.value == wanted.value;
        piece.name == wanted.name
            && piece.themed == wanted.themed
            && (is_same_text || values(piece).is_some_and(|own| values(wanted).is_some_and(|other| own == other)))
    };
    let Some(at) = rule.pieces.iter().rposition(same) else { return false };
    rule.pieces[at + 1..].iter().all(|later| later.sets.within(&wanted.sets).is_empty())
}
