//! What to write instead, computed.

pub mod adjacency;
pub mod affected;
pub mod color;
pub mod length;
pub mod role;

use crate::mend::adjacency::{Adjacencies, Adjacency};
use crate::painted::paint::hex;
use color::{Candidate, Variable};
use stilk_language::system::System;
use stilk_text::diagnostic::Edit;
use stilk_text::source::Span;

/// A mend: what to say, and the edits where it can be made without asking.
#[derive(Debug, Clone, Default)]
pub struct Mend {
    /// In words.
    pub words: String,
    /// All of them together.
    pub edits: Vec<Edit>,
}

/// Colours that others depend on are changed by no more than this, in OKLab: black for white is another design.
pub const FAR: f64 = 0.3;

/// The most tokens in one mend.
const TOGETHER: usize = 3;

/// The mend of a contrast that fails where one of these tokens meets others: another colour for it, no further away than
/// this, that passes with all that it meets.
pub fn of_one(system: &System, places: &[Span], far: f64, adjacencies: &Adjacencies) -> Option<Mend> {
    let variables = places.iter().filter_map(|place| Variable::new(&system.tokens, *place));
    variables.filter_map(|variable| one(&variable, far, adjacencies)).next()
}

fn one(variable: &Variable, far: f64, adjacencies: &Adjacencies) -> Option<Mend> {
    let met = adjacencies.of(variable);
    let place = variable.definition.span;
    // What passes with everything already is not what is wrong.
    if met.iter().all(|adjacency| adjacency.passes(&[])) {
        return None;
    }
    let serves = |candidate: &Candidate| {
        candidate.distance <= far && met.iter().all(|adjacency| adjacency.passes(&[(place, candidate.pixel)]))
    };
    // A thousandth is finer than an 8-bit channel.
    let found = variable.others().into_iter().find(serves).or_else(|| variable.lightnesses(0.001).find(serves))?;
    let with = match met.len() {
        1 => "the colour that it meets".to_owned(),
        n => format!("all {n} colours that it meets"),
    };
    Some(Mend { words: format!("{}: it passes with {with}", found.words), edits: vec![edit(variable, &found)] })
}

fn edit(variable: &Variable, candidate: &Candidate) -> Edit {
    Edit { span: variable.definition.span, text: candidate.text.clone() }
}

/// The same with others of what the first one meets, where no token alone will do: with the least that changes over all.
pub fn of_several(system: &System, places: &[Span], adjacencies: &Adjacencies) -> Option<Mend> {
    let first = places.iter().find_map(|place| Variable::new(&system.tokens, *place))?;
    let near = |candidate: &Candidate| candidate.distance <= FAR;
    let candidates = first.others().into_iter().chain(first.lightnesses(0.01)).filter(near);
    let found = candidates.filter_map(|candidate| {
        let chosen = completed(system, adjacencies, first, candidate)?;
        let far: f64 = chosen.iter().map(|(_, candidate)| candidate.distance).sum();
        (chosen.len() > 1).then_some((far, chosen))
    });
    let (_, chosen) = found.min_by(|a, b| a.0.total_cmp(&b.0))?;
    let edits = chosen.iter().map(|(variable, candidate)| edit(variable, candidate)).collect();
    let words: Vec<String> = chosen.into_iter().map(|(_, candidate)| candidate.words).collect();
    Some(Mend { words: format!("{}: none of them alone would do", words.join(", and ")), edits })
}

/// A candidate for one token, with candidates for those that then fail; nothing where more than a few would change.
fn completed<'t>(
    system: &'t System,
    adjacencies: &Adjacencies,
    first: Variable<'t>,
    candidate: Candidate,
) -> Option<Vec<(Variable<'t>, Candidate)>> {
    let met = adjacencies.of(&first);
    let near = |candidate: &Candidate| candidate.distance <= FAR;
    let mut changed = vec![(first.definition.span, candidate.pixel)];
    let mut chosen = vec![(first, candidate)];
    while let Some(failing) = met.iter().find(|adjacency| !adjacency.passes(&changed)) {
        let other = failing.other(first.definition.span)?;
        // What was changed already and still fails will not pass.
        let place = *other.definitions.first()?;
        if changed.len() == TOGETHER || changed.iter().any(|(known, _)| other.is_of(*known)) {
            return None;
        }
        let variable = Variable::new(&system.tokens, place)?;
        let its = adjacencies.of(&variable);
        let serves = |candidate: &Candidate| {
            let changed = [&changed[..], &[(place, candidate.pixel)]].concat();
            its.iter().all(|adjacency| adjacency.passes(&changed))
        };
        let others = variable.others().into_iter().find(|candidate| near(candidate) && serves(candidate));
        let another = others.or_else(|| variable.lightnesses(0.002).take_while(near).find(serves))?;
        changed.push((place, another.pixel));
        chosen.push((variable, another));
    }
    Some(chosen)
}

/// What to say where a token meets itself: no colour of it would do.
pub fn of_itself(system: &System, places: &[Span]) -> Option<Mend> {
    let [first, second, ..] = places else { return None };
    let (token, _) = color::definition_at(&system.tokens, *first).filter(|_| first == second)?;
    let words = format!("`{}` is on both sides: use another token for one of them", token.path);
    Some(Mend { words, edits: Vec::new() })
}

/// Why there is no mend: the two places that contradict each other.
pub fn contradiction(system: &System, places: &[Span], adjacencies: &Adjacencies) -> Option<Mend> {
    let place = *places.first()?;
    let (token, _) = color::definition_at(&system.tokens, place)?;
    let variable = Variable::new(&system.tokens, place);
    let met = variable.as_ref().map(|variable| adjacencies.of(variable)).unwrap_or_default();
    let Some(variable) = variable.filter(|_| met.iter().any(|adjacency| !adjacency.passes(&[]))) else {
        let words = "more contrast, or raise the alpha or opacity that it is painted with";
        return Some(Mend { words: format!("give `{}` {words}", token.path), edits: Vec::new() });
    };
    let lightnesses: Vec<_> = (0..=200).map(|step| variable.at(f64::from(step) / 200.0)).collect();
    let excludes = |a: &Adjacency, b: &Adjacency| {
        !lightnesses.iter().any(|pixel| a.passes(&[(place, *pixel)]) && b.passes(&[(place, *pixel)]))
    };
    let shown = |adjacency: &Adjacency| {
        let pixel = adjacency.other(place).map(|side| hex(side.pixel)).unwrap_or_default();
        format!("{pixel} ({})", adjacency.case)
    };
    let pair = met
        .iter()
        .enumerate()
        .find_map(|(index, a)| met[..index].iter().find(|b| excludes(a, b)).map(|b| (shown(a), shown(b))));
    let words = match pair {
        Some((a, b)) => format!("no lightness of `{}` passes on both {a} and {b}: change one of them", token.path),
        None => format!(
            "no lightness of `{}` passes with all {} colours that it meets: change one of them",
            token.path,
            met.len()
        ),
    };
    Some(Mend { words, edits: Vec::new() })
}
