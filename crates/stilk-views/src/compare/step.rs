//! The step of a version number that a difference asks for (Semantic Versioning 2.0.0).

use super::{Comparison, NameKind};
use stilk_text::diagnostic::{grouped, list};

/// A step.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
pub enum Step {
    /// Nothing differs.
    None,
    /// What was wrong is mended.
    Patch,
    /// Something is new or looks another way; pages go on as they are.
    Minor,
    /// Pages have to be changed.
    Major,
}

impl Step {
    /// In a word.
    pub fn word(self) -> &'static str {
        match self {
            Step::None => "none",
            Step::Patch => "patch",
            Step::Minor => "minor",
            Step::Major => "major",
        }
    }
}

/// The step that a comparison asks for, and why, the strongest reasons first.
pub fn step(comparison: &Comparison) -> (Step, Vec<String>) {
    let mut reasons: Vec<(Step, String)> = Vec::new();
    let named = |wanted: &dyn Fn(&super::NameChange) -> bool| -> Vec<String> {
        let found = comparison.names.list.iter().filter(|change| wanted(change));
        found.map(|change| change.old.clone().or(change.new.clone()).unwrap_or_default()).collect()
    };
    // Defaults have a sentence of their own, and local properties are nobody's but the control's.
    let is_own = |change: &super::NameChange| matches!(change.kind, NameKind::Default | NameKind::Local);
    let mut say = |step: Step, names: Vec<String>, one: &str, many: &str| {
        let shown: Vec<&str> = names.iter().map(String::as_str).collect();
        match names.len() {
            0 => {}
            1 => reasons.push((step, format!("{one}: {}", shown[0]))),
            count => reasons.push((step, format!("{count} {many}: {}", list(&shown)))),
        }
    };
    let lost = named(&|c| c.old.is_some() && c.new.is_none() && !is_own(c));
    say(Step::Major, lost, "a name is gone that pages may use", "names are gone that pages may use");
    let renamed = named(&|c| c.old.is_some() && c.new.is_some() && c.kind != NameKind::Local);
    say(Step::Major, renamed, "a name that pages may use is another one", "names that pages may use are others");
    let defaults = named(&|c| c.kind == NameKind::Default && c.old.is_some());
    say(
        Step::Major,
        defaults,
        "what pages get without a class is another option",
        "options that need no class are others",
    );
    let locals = named(&|c| c.kind == NameKind::Local && c.old.is_some());
    say(
        Step::Minor,
        locals,
        "a local property is gone, which is its control's own",
        "local properties are gone, which are their controls' own",
    );
    let locals = named(&|c| c.kind == NameKind::Local && c.old.is_none());
    say(Step::Patch, locals, "a local property is new", "local properties are new");
    let gained = named(&|c| c.old.is_none() && !is_own(c));
    say(Step::Minor, gained, "a name is new", "names are new");
    let worse: u64 = comparison.contrast.iter().filter(|c| c.is_lost()).map(|c| c.cases).sum();
    if worse > 0 {
        reasons.push((Step::Major, format!("text that could be read no longer can in {} cases", grouped(worse))));
    }
    if comparison.changed > 0 {
        let mends = !comparison.contrast.is_empty() && worse == 0;
        let words = format!("{} of {} cases look different", grouped(comparison.changed), grouped(comparison.cases));
        reasons.push((if mends { Step::Patch } else { Step::Minor }, words));
    }
    if !comparison.motions.is_empty() {
        let names: Vec<&str> = comparison.motions.iter().map(|motion| motion.what.as_str()).collect();
        reasons.push((Step::Minor, format!("other motion: {}", list(&names))));
    }
    reasons.sort_by_key(|(step, _)| std::cmp::Reverse(*step));
    let step = reasons.first().map_or(Step::None, |(step, _)| *step);
    (step, reasons.into_iter().map(|(step, words)| format!("{}: {words}", step.word())).collect())
}
