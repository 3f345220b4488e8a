//! Why a command could not run, in the form that its answers have: whoever reads them with a program reads this too.

use super::{count, json, junit, markdown, sarif, terminal};
use crate::say;
use std::path::{Path, PathBuf};
use stilk_checks::report::Report;
use stilk_text::diagnostic::{Diagnostic, Level};
use stilk_text::source::Sources;

/// A form that answers have.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Form {
    /// For people: on standard error.
    Text,
    /// A report as JSON.
    Json,
    /// A report as SARIF.
    Sarif,
    /// A report as Markdown.
    Markdown,
    /// A report as JUnit XML.
    Junit,
}

/// Sources that hold errors.
pub struct Refused {
    /// Where they are.
    pub root: PathBuf,
    /// What there is to say of them.
    pub diagnostics: Vec<Diagnostic>,
    /// The sources.
    pub sources: Sources,
    /// What follows for who asked.
    pub consequence: String,
}

impl Refused {
    /// Prints it.
    pub fn print(self, form: Form) {
        let Refused { root, diagnostics, sources, consequence } = self;
        if form == Form::Text {
            let said = terminal::render_some(&diagnostics, &sources, &root);
            say::error(format_args!("{said}{consequence}"), "\n");
            return;
        }
        print(diagnostics, &sources, &root, form);
    }
}

/// The id of what is wrong with a command, not with a source.
pub const COMMAND: &str = "command/failed";

/// Prints a message, `error: WORDS` with further lines of help.
pub fn print_message(message: &str, form: Form) {
    if form == Form::Text {
        tell!("{message}");
        return;
    }
    let words = message.strip_prefix("error: ").unwrap_or(message);
    let (first, mend) = words.split_once('\n').map_or((words, None), |(first, rest)| (first, Some(rest)));
    let mut diagnostic = Diagnostic::error(COMMAND, None, first);
    diagnostic.mend = mend.map(|mend| mend.split_ascii_whitespace().collect::<Vec<_>>().join(" "));
    print(vec![diagnostic], &Sources::default(), Path::new("."), form);
}

fn print(diagnostics: Vec<Diagnostic>, sources: &Sources, root: &Path, form: Form) {
    let errors = diagnostics.iter().filter(|diagnostic| diagnostic.level == Level::Error).count() as u64;
    let report = Report { findings: diagnostics, ..Report::default() };
    match form {
        Form::Text => {}
        Form::Json => say::json(&json::render(&report, sources, root, None)),
        Form::Sarif => say::json(&sarif::render_failed(&report, sources, root)),
        Form::Junit => say::markup(&junit::render_failed(&report, sources, root)),
        Form::Markdown => say::markup(&markdown::render(&report, sources, root, &count(errors, "error"))),
    }
}
