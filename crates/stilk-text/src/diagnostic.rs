//! The one type for everything Stilk has to say about a source: errors that stop a build, and findings of checks.
//!
//! A renderer per output format reads it; nothing else formats messages.

use crate::source::{Name, Span};
use std::cell::Cell;
use std::collections::{HashMap, HashSet};

/// How much a diagnostic weighs.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub enum Level {
    /// Worth knowing; never changes the exit code.
    Note,
    /// Should be mended.
    Warning,
    /// Must be mended.
    Error,
}

impl Level {
    /// The word used in every output format.
    pub fn word(self) -> &'static str {
        match self {
            Level::Note => "note",
            Level::Warning => "warning",
            Level::Error => "error",
        }
    }
}

/// What cases a finding rests on.
#[derive(Debug, Clone, PartialEq)]
pub struct Evidence {
    /// Number of cases the finding holds for.
    pub cases: u64,
    /// The worst of them, in words a person can look up: `button@a.alarm:hover in storm`.
    pub worst: String,
    /// Its figures, such as `3.42:1, needs 4.5:1`.
    pub figures: String,
    /// The controls that the cases are of.
    pub controls: Vec<String>,
    /// Where places on pages are counted instead: on how many pages they are.
    pub pages: Option<u64>,
}

impl Evidence {
    /// In one sentence; nothing where it would say no more than the finding itself.
    pub fn words(&self) -> Option<String> {
        match self.pages {
            None => Some(format!("{}, the worst is {}: {}", count(self.cases, "case"), self.worst, self.figures)),
            Some(_) if self.cases == 1 => None,
            Some(1) => Some(count(self.cases, "place")),
            Some(pages) => {
                Some(format!("{} on {pages} pages, the first is {}", count(self.cases, "place"), self.worst))
            }
        }
    }
}

/// A place besides the primary one, and what it has to do with it.
#[derive(Debug, Clone, PartialEq)]
pub struct Related {
    /// The place.
    pub span: Span,
    /// Why it is shown.
    pub label: String,
}

/// What to write in a source instead of what is there.
#[derive(Debug, Clone, PartialEq, Eq, PartialOrd, Ord)]
pub struct Edit {
    /// What is replaced.
    pub span: Span,
    /// By what.
    pub text: String,
}

/// Something that could be written.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Proposal {
    /// In words.
    pub words: String,
    /// As edits, all of them together.
    pub edits: Vec<Edit>,
}

/// One thing said about a source.
#[derive(Debug, Clone, PartialEq)]
pub struct Diagnostic {
    /// How much it weighs.
    pub level: Level,
    /// Stable id, `group/name`.
    pub id: &'static str,
    /// What is wrong, in one sentence without a full stop.
    pub message: String,
    /// The place at fault. `None` only where no file can be shown.
    pub span: Option<Span>,
    /// What to say at the caret.
    pub label: String,
    /// Other places that matter.
    pub related: Vec<Related>,
    /// What else the reader needs to know.
    pub notes: Vec<String>,
    /// What to write instead.
    pub mend: Option<String>,
    /// The same as edits, all of them together, where they can be made without asking.
    pub edits: Vec<Edit>,
    /// What else would do, the better first.
    pub proposals: Vec<Proposal>,
    /// Set on findings of checks.
    pub evidence: Option<Evidence>,
}

impl Diagnostic {
    /// A diagnostic of any level.
    pub fn new(level: Level, id: &'static str, span: impl Into<Option<Span>>, message: impl Into<String>) -> Self {
        Diagnostic {
            level,
            id,
            message: message.into(),
            span: span.into(),
            label: String::new(),
            related: Vec::new(),
            notes: Vec::new(),
            mend: None,
            edits: Vec::new(),
            proposals: Vec::new(),
            evidence: None,
        }
    }

    /// An error.
    pub fn error(id: &'static str, span: impl Into<Option<Span>>, message: impl Into<String>) -> Self {
        Self::new(Level::Error, id, span, message)
    }

    /// Sets the words at the caret.
    pub fn label(mut self, label: impl Into<String>) -> Self {
        self.label = label.into();
        self
    }

    /// Adds another place.
    pub fn related(mut self, span: Span, label: impl Into<String>) -> Self {
        self.related.push(Related { span, label: label.into() });
        self
    }

    /// Adds a remark.
    pub fn note(mut self, note: impl Into<String>) -> Self {
        self.notes.push(note.into());
        self
    }

    /// Sets the edit that does what the mend says; none where it cannot be made without asking.
    pub fn edit(mut self, edit: Option<Edit>) -> Self {
        self.edits.extend(edit);
        self
    }

    /// Moves every place in it; nothing where one of them is gone, and then it is of no use.
    pub fn move_places(&mut self, place: &mut dyn FnMut(Span) -> Option<Span>) -> Option<()> {
        if let Some(span) = &mut self.span {
            *span = place(*span)?;
        }
        for related in &mut self.related {
            related.span = place(related.span)?;
        }
        for edit in self.edits.iter_mut().chain(self.proposals.iter_mut().flat_map(|proposal| &mut proposal.edits)) {
            edit.span = place(edit.span)?;
        }
        Some(())
    }

    /// Sets what to write instead.
    pub fn mend(mut self, mend: impl Into<String>) -> Self {
        self.mend = Some(mend.into());
        self
    }
}

/// Collects diagnostics, so that one run reports every mistake.
#[derive(Debug, Default)]
pub struct Diagnostics {
    list: Vec<Diagnostic>,
    /// What was said where.
    said: HashSet<(&'static str, Option<Span>, String)>,
    /// Where in the list a cause is told, by check and words.
    causes: HashMap<(&'static str, String), usize>,
}

impl Diagnostics {
    /// Adds one. The same words about the same place are said once, however many stages notice.
    pub fn push(&mut self, diagnostic: Diagnostic) {
        if self.said.insert((diagnostic.id, diagnostic.span, diagnostic.message.clone())) {
            self.list.push(diagnostic);
        }
    }

    /// Adds one, or its place to one with the same words: one cause in many places is told once.
    pub fn push_place(&mut self, diagnostic: Diagnostic) {
        let Some(span) = diagnostic.span else { return self.push(diagnostic) };
        let next = self.list.len();
        let at = *self.causes.entry((diagnostic.id, diagnostic.message.clone())).or_insert(next);
        match self.list.get_mut(at).filter(|known| known.id == diagnostic.id && known.message == diagnostic.message) {
            None => self.push(diagnostic),
            Some(known) if known.span == Some(span) || known.related.iter().any(|r| r.span == span) => {}
            Some(known) => known.related.push(Related { span, label: "and here".into() }),
        }
    }

    /// Whether anything of level error was said.
    pub fn has_errors(&self) -> bool {
        self.list.iter().any(|d| d.level == Level::Error)
    }

    /// Where the list ends now, for [`Diagnostics::has_errors_since`].
    pub fn mark(&self) -> usize {
        self.list.len()
    }

    /// Whether an error was said after a mark.
    pub fn has_errors_since(&self, mark: usize) -> bool {
        self.list[mark..].iter().any(|d| d.level == Level::Error)
    }

    /// Everything said, ordered by place.
    pub fn into_sorted(mut self) -> Vec<Diagnostic> {
        self.list.sort_by_key(|d| d.span.map(|s| (s.file, s.start)));
        self.list
    }

    /// Everything said so far.
    pub fn iter(&self) -> impl Iterator<Item = &Diagnostic> {
        self.list.iter()
    }
}

/// The known name nearest to a misspelt one, if one is near enough to be meant.
pub fn nearest<'a>(wrong: &str, known: impl IntoIterator<Item = &'a str>) -> Option<&'a str> {
    // Nobody mistypes a name of that length, and comparing takes the product of both.
    let is_short = |name: &str| name.len() <= LONGEST_COMPARED;
    if !is_short(wrong) {
        return None;
    }
    known
        .into_iter()
        .take(COMPARED_LEFT.get())
        .inspect(|_| COMPARED_LEFT.set(COMPARED_LEFT.get().saturating_sub(1)))
        .filter(|name| is_short(name))
        .map(|name| (strsim::jaro_winkler(wrong, name), name))
        .filter(|(score, _)| *score > 0.75)
        .max_by(|a, b| a.0.total_cmp(&b.0).then(b.1.cmp(a.1)))
        .map(|(_, name)| name)
}

/// Bytes of names that are held against each other.
const LONGEST_COMPARED: usize = 256;

/// So many names are held against others while a project is read: where thousands are wrong, nobody reads what each may have
/// meant.
const COMPARED: usize = 200_000;

thread_local! {
    static COMPARED_LEFT: Cell<usize> = const { Cell::new(COMPARED) };
}

/// Begins to read another project: as many names may be compared again.
pub(crate) fn compare_anew() {
    COMPARED_LEFT.set(COMPARED);
}

/// The diagnostic for a name that is not known: offers the nearest, else lists what there is. `{}` in `what` is where
/// the name stands in the sentence; without it, at the end.
pub fn unknown_name<'a>(
    id: &'static str,
    what: &str,
    name: &Name,
    known: impl IntoIterator<Item = &'a str>,
) -> Diagnostic {
    let known: Vec<&str> = known.into_iter().collect();
    let quoted = format!("`{}`", clipped(&name.value, 200));
    let what = if what.contains("{}") { what.replace("{}", &quoted) } else { format!("{what} {quoted}") };
    let diagnostic = Diagnostic::error(id, name.span, format!("there is no {what}"));
    match nearest(&name.value, known.iter().copied()) {
        Some(near) => diagnostic.label("not known").mend(format!("write `{near}`")),
        None if known.is_empty() => diagnostic.label("not known"),
        None => diagnostic.label("not known").mend(format!("write one of: {}", list(&known))),
    }
}

/// Names in running text: `a, b, c`, shortened when there are many.
pub fn list(names: &[&str]) -> String {
    const SHOWN: usize = 16;
    let mut text = names.iter().take(SHOWN).copied().collect::<Vec<_>>().join(", ");
    if names.len() > SHOWN {
        text.push_str(&format!(" and {} more", names.len() - SHOWN));
    }
    text
}

/// `1 case`, `2 cases`.
pub fn count(number: u64, noun: &str) -> String {
    format!("{} {noun}{}", grouped(number), if number == 1 { "" } else { "s" })
}

/// Text cut off at so many columns.
pub fn clipped(text: &str, width: usize) -> String {
    if text.chars().count() <= width {
        return text.to_owned();
    }
    let start: String = text.chars().take(width.saturating_sub(1)).collect();
    format!("{start}…")
}

/// `1,620`
pub fn grouped(number: u64) -> String {
    let digits = number.to_string();
    let mut text = String::new();
    for (i, digit) in digits.chars().enumerate() {
        if i > 0 && (digits.len() - i).is_multiple_of(3) {
            text.push(',');
        }
        text.push(digit);
    }
    text
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn nearest_prefers_a_close_name_and_refuses_a_far_one() {
        assert_eq!(nearest("fill.see", ["ink.strong", "fill.sea", "fill.alarm"]), Some("fill.sea"));
        assert_eq!(nearest("zzz", ["ink.strong", "fill.sea"]), None);
    }

    #[test]
    fn the_same_words_about_the_same_place_are_said_once() {
        let mut diagnostics = Diagnostics::default();
        for _ in 0..2 {
            diagnostics.push(Diagnostic::error("a/b", None, "x"));
        }
        assert_eq!(diagnostics.iter().count(), 1);
    }
}
