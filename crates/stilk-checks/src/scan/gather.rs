//! What many pages say together: one cause, one finding, and of each page no more than what is shown of it.

use crate::report::Report;
use crate::scan::PageReport;
use crate::visit::usage::Usage;
use std::collections::{BTreeMap, HashMap};
use stilk_language::system::System;
use stilk_text::diagnostic::{Diagnostic, Evidence};
use stilk_text::source::{FileId, Sources, Span};

/// What was found on all pages so far.
#[derive(Default)]
pub struct Gathered {
    /// How many pages were read.
    pub pages: u64,
    /// How many of them hold a control of the system.
    pub with_controls: u64,
    /// What is used.
    pub usage: Usage,
    /// How many controls there are that are none of the system's, and on how many pages.
    pub outside: (u64, u64),
    /// Findings by page, those with findings only.
    pub by_page: Vec<(String, u64)>,
    /// Pages that could not be read, each with why.
    pub unreadable: Vec<(String, String)>,
    /// Stylesheets that pages link and that cannot be had, each with why, and how many pages that are.
    pub missing: BTreeMap<(String, String), u64>,
    /// What makes each finding of the report one with others, in their order; known when all is gathered.
    pub causes: Vec<String>,
    groups: HashMap<(&'static str, String), usize>,
    found: Vec<Group>,
    sources: Sources,
    /// Stylesheets that findings point into, by path.
    files: HashMap<String, FileId>,
    decided: BTreeMap<&'static str, u64>,
    reasons: BTreeMap<String, u64>,
    unknown: u64,
}

struct Group {
    diagnostic: Diagnostic,
    places: u64,
    pages: u64,
    last: u64,
    first: String,
}

impl Gathered {
    /// Takes a page that could not be read, and why.
    pub fn add_unreadable(&mut self, path: String, why: String) {
        self.unreadable.push((path, why));
    }

    /// Takes a page's report; in the order of pages, so that the result does not depend on threads.
    pub fn add(&mut self, page: PageReport) {
        self.pages += 1;
        self.with_controls += u64::from(page.usage.controls() > 0);
        self.usage.add(&page.usage);
        self.outside.0 += page.outside;
        self.outside.1 += u64::from(page.outside > 0);
        for missing in page.missing {
            *self.missing.entry(missing).or_default() += 1;
        }
        for (check, count) in page.decided {
            *self.decided.entry(check).or_default() += count;
        }
        for ((check, reason), count) in page.reasons {
            *self.reasons.entry(format!("{check}: {reason}")).or_default() += count;
            self.unknown += count;
        }
        if !page.found.is_empty() {
            self.by_page.push((page.path.clone(), page.found.len() as u64));
        }
        let mut moved = Moved::default();
        for (cause, diagnostic) in page.found {
            let key = (diagnostic.id, cause);
            if let Some(index) = self.groups.get(&key) {
                let group = &mut self.found[*index];
                group.places += 1;
                group.pages += u64::from(group.last != self.pages);
                group.last = self.pages;
                continue;
            }
            let first = diagnostic.span.map_or_else(|| page.path.clone(), |span| page.sources.place(span));
            self.groups.insert(key, self.found.len());
            moved.wanted.push(self.found.len());
            self.found.push(Group { diagnostic, places: 1, pages: 1, last: self.pages, first });
        }
        moved.take(self, &page.sources);
    }

    /// The findings as a report, those with most weight and most places first, and the sources that they point into.
    pub fn finish(mut self, system: &System) -> (Report, Sources, Gathered) {
        let mut findings: Vec<(u64, String, Diagnostic)> = Vec::new();
        let mut causes = vec![String::new(); self.found.len()];
        std::mem::take(&mut self.groups).into_iter().for_each(|((_, cause), at)| causes[at] = cause);
        for (group, cause) in std::iter::zip(std::mem::take(&mut self.found), causes) {
            let mut diagnostic = group.diagnostic;
            if let Some((_, level)) = system.manifest.levels.iter().find(|(id, _)| id.value == diagnostic.id) {
                match level {
                    Some(level) => diagnostic.level = *level,
                    None => continue,
                }
            }
            if diagnostic.mend.is_none() {
                diagnostic.mend = crate::registry::find(diagnostic.id).map(|check| check.mend.to_owned());
            }
            diagnostic.evidence = Some(Evidence {
                cases: group.places,
                worst: group.first,
                figures: String::new(),
                controls: Vec::new(),
                pages: Some(group.pages),
            });
            findings.push((group.places, cause, diagnostic));
        }
        // Where the first place decides, parts of the pages that are put together later end in the same order.
        let first = |one: &Diagnostic| one.evidence.as_ref().map(|evidence| evidence.worst.clone());
        findings.sort_by(|(m, _, a), (n, _, b)| {
            let by_weight = b.level.cmp(&a.level).then(n.cmp(m)).then(a.id.cmp(b.id));
            by_weight.then_with(|| first(a).cmp(&first(b))).then_with(|| a.message.cmp(&b.message))
        });
        self.causes = findings.iter().map(|(_, cause, _)| cause.clone()).collect();
        let report = Report {
            doubts: Vec::new(),
            cases: self.usage.controls(),
            computed: self.usage.controls(),
            unknown: self.unknown,
            reasons: std::mem::take(&mut self.reasons),
            findings: findings.into_iter().map(|(.., diagnostic)| diagnostic).collect(),
            decided: std::mem::take(&mut self.decided),
            waived: 0,
            sampled: Vec::new(),
        };
        let sources = std::mem::take(&mut self.sources);
        self.by_page.sort_by(|a, b| b.1.cmp(&a.1).then(a.0.cmp(&b.0)));
        (report, sources, self)
    }
}

/// Findings whose places are taken over into sources that are kept.
#[derive(Default)]
struct Moved {
    wanted: Vec<usize>,
}

impl Moved {
    fn take(&mut self, gathered: &mut Gathered, from: &Sources) {
        if self.wanted.is_empty() {
            return;
        }
        let spans = |diagnostic: &Diagnostic| -> Vec<Span> {
            diagnostic.span.into_iter().chain(diagnostic.related.iter().map(|related| related.span)).collect()
        };
        let mut by_file: BTreeMap<FileId, Vec<Span>> = BTreeMap::new();
        for index in &self.wanted {
            for span in spans(&gathered.found[*index].diagnostic) {
                by_file.entry(span.file).or_default().push(span);
            }
        }
        let mut shifts: HashMap<FileId, Kept> = HashMap::new();
        for (file, spans) in by_file {
            let source = from.file(file);
            // Stylesheets are few and shared by many pages: they are kept whole, once.
            let kept = if source.path.ends_with(".css") {
                let id = *gathered
                    .files
                    .entry(source.path.clone())
                    .or_insert_with(|| gathered.sources.add(source.path.clone(), source.text.clone()));
                Kept { id, starts: Vec::new() }
            } else {
                Kept::excerpt(&mut gathered.sources, &source.path, &source.text, &spans)
            };
            shifts.insert(file, kept);
        }
        for index in self.wanted.drain(..) {
            let diagnostic = &mut gathered.found[index].diagnostic;
            let own = diagnostic.span.iter_mut().chain(diagnostic.related.iter_mut().map(|related| &mut related.span));
            for span in own {
                if let Some(kept) = shifts.get(&span.file) {
                    *span = kept.moved(*span);
                }
            }
        }
    }
}

/// A file of which only some lines are kept; the others are there, and empty, so that lines keep their numbers.
struct Kept {
    id: FileId,
    /// Where lines began, and where they do now; empty where the file is whole.
    starts: Vec<(usize, usize)>,
}

impl Kept {
    fn excerpt(sources: &mut Sources, path: &str, text: &str, spans: &[Span]) -> Kept {
        let mut kept = String::new();
        let mut starts = Vec::new();
        let mut at = 0;
        let mut spans: Vec<(usize, usize)> =
            spans.iter().map(|span| (span.start as usize, span.end.max(span.start + 1) as usize)).collect();
        spans.sort_unstable();
        let mut spans = spans.into_iter().peekable();
        // How far reaches what began in this line or before.
        let mut reach = 0;
        for line in text.split_inclusive('\n') {
            let range = at..at + line.len();
            while let Some((_, end)) = spans.next_if(|(start, _)| *start < range.end) {
                reach = reach.max(end);
            }
            if range.start < reach {
                starts.push((at, kept.len()));
                kept.push_str(line);
            } else if line.ends_with('\n') {
                kept.push('\n');
            }
            at = range.end;
        }
        let end = (text.len(), kept.len());
        starts.push(end);
        Kept { id: sources.add(path, kept), starts }
    }

    fn moved(&self, span: Span) -> Span {
        if self.starts.is_empty() {
            return Span { file: self.id, ..span };
        }
        let place = |offset: u32| {
            let index = self.starts.partition_point(|(old, _)| *old <= offset as usize).saturating_sub(1);
            let (old, new) = self.starts[index];
            new + (offset as usize).saturating_sub(old)
        };
        let (start, end) = (place(span.start), place(span.end.max(span.start)));
        Span::new(self.id, start, end.max(start))
    }
}
