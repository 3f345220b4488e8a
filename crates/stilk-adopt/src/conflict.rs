//! Where the order of states and places gives another look than the old cascade did, the meeting of two rules is written out.

use crate::draft::{Draft, DraftRule, Origin, Piece, Workshop};
use crate::pieces::restricted;
use crate::seen::Seen;
use crate::when::{Target, When};
use std::collections::BTreeMap;
use stilk_engine::cascade::LonghandSet;
use stilk_engine::cascade::ranking::Rank;
use stilk_engine::css::property::Longhand;
use stilk_language::system::states::Precedence;
use stilk_language::system::{StateId, States};

/// So many rules a control may come to; where it comes to more, the old order is none of states and places.
const MOST_RULES: usize = 600;

/// Where a rule stands among those of one control in the stylesheet that is written: states, place, then the order of the sheet.
pub type Place = (Precedence, (usize, usize), Rank);

/// Where a rule will stand.
pub fn place(states: &States, draft: &Draft, rule: &DraftRule) -> Place {
    let options: Vec<usize> = rule.when.options.iter().copied().collect();
    let place = match options.as_slice() {
        [] => (0, 0),
        [one] => (1, draft.options[*one].axis),
        many => (2, many.len()),
    };
    (states.precedence(&rule.when.states), place, rule.rank)
}

/// Adds what has to be written out.
///
/// # Errors
/// It would be too much.
pub fn settle(draft: &mut Draft, shop: &Workshop, seen: &mut Seen) -> Result<(), String> {
    let exclusive = draft.exclusive(shop.modifier_of);
    // What a rule won: the others of what it sets never count.
    let mut won: Vec<LonghandSet> = draft.rules.iter().map(|rule| shop.winners.what(rule.from, draft.family)).collect();
    let mut done = 0;
    loop {
        let needs = needs(draft, shop, &won, &exclusive, seen, done);
        if needs.is_empty() {
            break;
        }
        done = draft.rules.len();
        for ((target, winner, when), longhands) in needs {
            let rule = &draft.rules[winner];
            let pieces: Vec<Piece> = rule.pieces.iter().flat_map(|piece| restricted(piece, &longhands)).collect();
            let (rank, from, of) = (rule.rank, rule.from, won[winner]);
            let origin = Origin::Meeting;
            draft.rules.push(DraftRule { target, when, rank, pieces, from, origin, is_foreign: false });
            won.push(of);
        }
        if draft.rules.len() > MOST_RULES {
            return Err(format!(
                "more than {MOST_RULES} meetings of its rules would have to be written out to keep the old order"
            ));
        }
    }
    Ok(())
}

/// What has to be written out: by target, winner and when, the longhands.
type Needs = BTreeMap<(Target, usize, When), LonghandSet>;

fn needs(
    draft: &Draft,
    shop: &Workshop,
    won: &[LonghandSet],
    exclusive: &crate::when::Exclusive,
    seen: &mut Seen,
    done: usize,
) -> Needs {
    let places: Vec<Place> = draft.rules.iter().map(|rule| place(&shop.own.states, draft, rule)).collect();
    let mut setting: BTreeMap<(&Target, Longhand), Vec<usize>> = BTreeMap::new();
    for (index, rule) in draft.rules.iter().enumerate() {
        for longhand in rule.sets().iter() {
            setting.entry((&rule.target, longhand)).or_default().push(index);
        }
    }
    let mut needs = Needs::new();
    for ((target, longhand), all) in setting {
        for &one in all.iter().filter(|one| won[**one].has(longhand)) {
            for &other in &all {
                let (winner, loser) = (&draft.rules[one], &draft.rules[other]);
                // Two of which neither is new were looked at before.
                if one < done && other < done || winner.rank <= loser.rank || places[one] > places[other] {
                    continue;
                }
                let Some(when) = winner.when.and(&loser.when, exclusive) else { continue };
                let is_of_one = when.states == winner.when.states || when.states == loser.when.states;
                if !is_of_one && !may_hold(&shop.own.states, &when) || !seen.is_seen(&when) {
                    continue;
                }
                let settles = |third: &usize| {
                    let rule = &draft.rules[*third];
                    rule.when.covers(&when)
                        && (rule.rank > winner.rank || rule.rank == winner.rank && places[*third] > places[other])
                };
                if all.iter().any(settles) || says_the_same(winner, loser, longhand) {
                    continue;
                }
                needs.entry((target.clone(), one, when)).or_default().add(longhand);
            }
        }
    }
    needs
}

/// Whether so many states may hold at once that are looked at: two, of which a press is one with the pointer that presses.
fn may_hold(states: &States, when: &When) -> bool {
    let ids = when.states.ids();
    let own = ids.iter().filter(|id| matches!(id, StateId::Own(_)) && states.get(**id).selectors[0].starts_with('.'));
    let is_pressed = when.states.has(StateId::Active) && when.states.has(StateId::Hover);
    let count = when.states.len() - usize::from(is_pressed);
    count <= 2 && own.count() <= 1
}

/// Whether two rules set a longhand by the same words.
fn says_the_same(one: &DraftRule, other: &DraftRule, longhand: Longhand) -> bool {
    let of = |rule: &DraftRule| {
        let last = rule.pieces.iter().rev().find(|piece| piece.sets.has(longhand));
        last.map(|piece| (piece.name.to_ascii_lowercase(), piece.value.clone(), piece.themed.clone()))
    };
    of(one) == of(other)
}
