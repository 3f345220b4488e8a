//! `stilk tokens PATH --try VALUE`: what another value of a token would reach, change and break.

use super::{Loaded, mend};
use crate::output::{compare, count, grouped};
use crate::{Failure, Outcome};
use std::path::Path;
use stilk_checks::settings::Settings;
use stilk_language::dependents::dependents;
use stilk_language::tokens::Token;
use stilk_nudge::change::{Change, Ground, Place, shown};
use stilk_nudge::outcome::{KnownPart, outcome, trial};
use stilk_text::diagnostic::{Diagnostic, Level, list};

/// So many findings are told of each kind.
const TOLD: usize = 8;

/// Tries a value, everywhere or in one context, and writes nothing.
pub fn run(root: &Path, path: &str, value: &str, context: Option<&str>) -> Result<Outcome, Failure> {
    let loaded = Loaded::read(root)?;
    let failed = |why: String| Failure::Message(format!("error: {why}"));
    let path = path.trim_start_matches('{').trim_end_matches('}');
    let ground = Ground { system: &loaded.system, sources: &loaded.sources };
    let token = ground.token(path).map_err(failed)?;
    let place = match context {
        None => Place::Token { path: token.path.clone() },
        Some(context) => in_context(&loaded, token, context).map_err(failed)?,
    };
    let change = Change { place, value: value.to_owned() };
    let project = loaded.project();
    let (edits, tried) = trial(project, &[change]).map_err(failed)?;
    if edits.is_empty() {
        say!("`{}` is {value} already", shown(&token.path));
        return Ok(Outcome::Clean);
    }
    mend::show(&loaded, &edits);
    reach(&loaded, token, context);
    let written = loaded.stylesheet();
    let settings = Settings { without_mends: true, ..Loaded::settings() };
    let known = stilk_checks::run::run(&loaded.system, &loaded.sources, &written, &settings);
    let outcome = outcome(project, &known, tried, &settings, &mut KnownPart::default(), None);
    let (comparison, step, reasons) = outcome.compared(project, &written);
    say!("");
    match comparison.changed {
        0 => say!("no look changes"),
        changed => say!("{} of {} look different", grouped(changed), count(comparison.cases, "case")),
    }
    for one in comparison.contrast.iter().take(TOLD) {
        say!("  contrast {}", compare::contrast_words(one));
    }
    findings(&outcome.gone, "cleared", &|finding| finding.span.map(|span| loaded.place(span)));
    let sources = &outcome.trial.sources;
    findings(&outcome.come, "new, or for more cases", &|finding| {
        finding.span.map(|span| loaded.shown(&sources.place(span)))
    });
    say!("the version: {}", step.word());
    reasons.iter().for_each(|reason| say!("  {reason}"));
    say!("\nnothing was written");
    let breaks = outcome.come.iter().any(|finding| finding.level >= Level::Warning);
    Ok(if breaks { Outcome::Findings } else { Outcome::Clean })
}

/// The place of a token in a context that is named without its modifier.
fn in_context(loaded: &Loaded, token: &Token, context: &str) -> Result<Place, String> {
    let modifiers = &loaded.system.tokens.modifiers;
    let has =
        |modifier: &&stilk_language::tokens::Modifier| modifier.contexts.iter().any(|known| known.value == context);
    let Some(modifier) = modifiers.iter().find(has) else {
        let all: Vec<&str> =
            modifiers.iter().flat_map(|modifier| &modifier.contexts).map(|context| context.as_str()).collect();
        return Err(match all.is_empty() {
            true => "this system has no themes: leave out `--theme`".to_owned(),
            false => format!("there is no context `{context}`: write one of {}", all.join(", ")),
        });
    };
    let (path, modifier) = (token.path.clone(), modifier.name.value.clone());
    Ok(Place::TokenIn { path, modifier, context: context.to_owned() })
}

/// What an edit reaches: in one context its share of all cases.
fn reach(loaded: &Loaded, token: &Token, context: Option<&str>) {
    let tokens = &loaded.system.tokens;
    let Some(id) = tokens.find(&token.path) else { return };
    let reach = dependents(&loaded.system, id);
    let mut controls: Vec<&str> = reach.uses.iter().map(|one| one.control.name.as_str()).collect();
    controls.dedup();
    let most = if reach.is_exact { "" } else { "at least " };
    let has = |modifier: &&stilk_language::tokens::Modifier| {
        modifier.contexts.iter().any(|known| Some(known.as_str()) == context)
    };
    let share = tokens.modifiers.iter().find(has).map_or(1, |modifier| modifier.contexts.len() as u64);
    let within = context.map_or_else(String::new, |context| format!(" in {context}"));
    let cases = format!("{most}{}{within}", count(reach.cases / share, "case"));
    match controls.len() as u64 {
        0 => say!("it reaches no control"),
        controls_count => {
            say!("it reaches {cases} of {}: {}", count(controls_count, "control"), list(&controls));
        }
    }
    if !reach.tokens.is_empty() {
        let names: Vec<&str> = reach.tokens.iter().map(|id| shown(&tokens.get(*id).path)).collect();
        say!("built on it: {}", list(&names));
    }
}

fn findings(found: &[Diagnostic], what: &str, place: &dyn Fn(&Diagnostic) -> Option<String>) {
    if found.is_empty() {
        return say!("no finding {what}");
    }
    say!("{} {what}:", count(found.len() as u64, "finding"));
    for finding in found.iter().take(TOLD) {
        let at = place(finding).map(|place| format!("{place} ")).unwrap_or_default();
        say!("  {} {at}{}: {}", finding.level.word(), finding.id, finding.message);
        if let Some(evidence) = &finding.evidence {
            say!("    {}, the worst is {}: {}", count(evidence.cases, "case"), evidence.worst, evidence.figures);
        }
    }
    if found.len() > TOLD {
        say!("  and {} more", found.len() - TOLD);
    }
}
