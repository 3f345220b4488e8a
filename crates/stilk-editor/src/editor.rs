//! Buffers and the projects that they are of; what is published of them.

use crate::feature::diagnostics::{ByFile, carried, of_project};
use crate::feature::{Client, Subject};
use crate::place::{Lines, path_of, plain, uri_of};
use crate::snapshot::Snapshot;
use crate::work::{Figures, Job, Outcome};
use lsp_types::{Diagnostic, PublishDiagnosticsParams, TextDocumentContentChangeEvent, Uri};
use std::collections::BTreeMap;
use std::sync::{Arc, Mutex};
use stilk_checks::run::memory::Memory;
use stilk_checks::settings::Stop;
use stilk_text::diagnostic as said;
use stilk_text::source::{FileError, FileText, Files};

/// What the machine is asked for.
pub trait Machine: Send + Sync {
    /// The folder of the project that a file is of: the nearest above it that holds a manifest. Absolute paths.
    fn project_of(&self, path: &str) -> Option<String>;
    /// The files of the project in a folder.
    fn files(&self, root: &str) -> Box<dyn Files + Send + Sync>;
    /// The pages below a project's folder, by absolute path: those that patterns name, and other HTML and CSS that is not
    /// written by programs.
    fn pages(&self, snapshot: &Snapshot) -> BTreeMap<String, String>;
    /// A file by its absolute path.
    fn read(&self, path: &str) -> Option<String>;
    /// What is wrong with a page that uses a project's system.
    fn scan(&self, snapshot: &Snapshot, path: &str, text: &str, client: Client) -> Vec<Diagnostic>;
    /// The day, `YYYY-MM-DD`.
    fn today(&self) -> Option<String>;
    /// How many threads may work.
    fn threads(&self) -> usize;
}

/// An open file.
#[derive(Debug, Clone)]
pub struct Document {
    /// Its text.
    pub text: String,
    /// Its version, as the editor counts.
    pub version: i32,
}

/// A project that some buffer is of.
pub struct Project {
    /// As its buffers are now.
    pub snapshot: Arc<Snapshot>,
    /// What checks said, and of which texts.
    findings: Option<(Arc<Snapshot>, Vec<said::Diagnostic>)>,
    /// Figures of its controls.
    pub figures: Option<Figures>,
    /// What is wrong with its open pages.
    of_pages: ByFile,
    /// What is published of each file of which something is.
    published: ByFile,
    memory: Arc<Mutex<Memory>>,
    stop: Stop,
}

impl Project {
    /// What is said of an open page, by its absolute path.
    pub fn said_of_page(&self, path: &str) -> &[Diagnostic] {
        self.of_pages.get(path).map(Vec::as_slice).unwrap_or_default()
    }

    /// All that is said of its texts as they are: by reading, and by checks where it can be read.
    pub fn said(&self) -> Vec<said::Diagnostic> {
        let mut said = self.snapshot.diagnostics.clone();
        if let Some((of, findings)) = &self.findings {
            match Arc::ptr_eq(of, &self.snapshot) {
                true => said.extend(findings.iter().cloned()),
                false => said.extend(carried(findings, &of.sources, &self.snapshot.sources)),
            }
        }
        said
    }
}

/// Buffers, projects, and who asks.
pub struct Editor {
    /// The machine.
    pub machine: Box<dyn Machine>,
    /// Who asks.
    pub client: Client,
    documents: BTreeMap<String, Document>,
    /// By folder.
    projects: BTreeMap<String, Project>,
}

/// Files of a project as buffers have them, and as they are on disk where none does.
struct Buffers<'b> {
    root: &'b str,
    disk: &'b dyn Files,
    documents: &'b BTreeMap<String, Document>,
}

impl Files for Buffers<'_> {
    fn read(&self, path: &str, allowed: &[String]) -> Result<FileText, FileError> {
        let Some(document) = self.documents.get(&plain(&format!("{}/{path}", self.root))) else {
            return self.disk.read(path, allowed);
        };
        let bytes = document.text.clone().into_bytes();
        // What is outside and may not be read is not read because it is open.
        if path.starts_with("..") || path.starts_with('/') {
            let found = self.disk.read(path, allowed)?;
            return Ok(FileText { bytes, ..found });
        }
        Ok(FileText::own(bytes))
    }

    fn list(&self, folder: &str, allowed: &[String]) -> Result<Vec<String>, FileError> {
        let listed = self.disk.list(folder, allowed);
        let begin = format!("{}/", plain(&format!("{}/{folder}", self.root)));
        let names = self.documents.keys().filter_map(|path| path.strip_prefix(&begin));
        let new: Vec<String> = names.filter(|name| !name.contains('/')).map(str::to_owned).collect();
        match listed {
            Ok(mut names) => {
                names.extend(new.into_iter().filter(|name| !names.contains(name)).collect::<Vec<_>>());
                Ok(names)
            }
            Err(FileError::Missing) if !new.is_empty() => Ok(new),
            Err(error) => Err(error),
        }
    }
}

/// Gives a finding the mend that it had before, where it is the same in all that it says.
fn keep_mend(finding: &mut said::Diagnostic, known: &[said::Diagnostic]) {
    let is_same = |other: &&said::Diagnostic| {
        (other.id, other.span, &other.message, &other.evidence)
            == (finding.id, finding.span, &finding.message, &finding.evidence)
    };
    if let Some(same) = known.iter().find(is_same).filter(|_| finding.edits.is_empty()) {
        finding.mend.clone_from(&same.mend);
        finding.edits.clone_from(&same.edits);
        finding.proposals.clone_from(&same.proposals);
    }
}

impl Editor {
    /// An editor without buffers.
    pub fn new(machine: Box<dyn Machine>, client: Client) -> Editor {
        Editor { machine, client, documents: BTreeMap::new(), projects: BTreeMap::new() }
    }

    /// Opens a file, or replaces its text. What it belongs to has to be read anew: its project's folder.
    pub fn open(&mut self, uri: &Uri, text: String, version: i32) -> Option<String> {
        let path = path_of(uri)?;
        self.documents.insert(path.clone(), Document { text, version });
        self.machine.project_of(&path)
    }

    /// Changes a text. The editor and this side hold the same text as long as no change is lost.
    pub fn change(&mut self, uri: &Uri, changes: Vec<TextDocumentContentChangeEvent>, version: i32) -> Option<String> {
        let path = path_of(uri)?;
        let encoding = self.client.encoding;
        let document = self.documents.get_mut(&path)?;
        for change in changes {
            match change.range {
                None => document.text = change.text,
                Some(range) => {
                    let lines = Lines::new(&document.text, encoding);
                    let (start, end) = (lines.offset(range.start), lines.offset(range.end));
                    document.text.replace_range(start..end.max(start), &change.text);
                }
            }
        }
        document.version = version;
        self.machine.project_of(&path)
    }

    /// Closes a file: what is on disk counts again.
    pub fn close(&mut self, uri: &Uri) -> Option<String> {
        let path = path_of(uri)?;
        self.documents.remove(&path);
        let root = self.machine.project_of(&path)?;
        if let Some(project) = self.projects.get_mut(&root) {
            project.of_pages.remove(&path);
        }
        Some(root)
    }

    /// The folders of projects that are known.
    pub fn roots(&self) -> Vec<String> {
        self.projects.keys().cloned().collect()
    }

    /// The project in a folder.
    pub fn project(&self, root: &str) -> Option<&Project> {
        self.projects.get(root)
    }

    /// The version of an open file.
    pub fn version(&self, path: &str) -> Option<i32> {
        self.documents.get(path).map(|document| document.version)
    }

    /// Reads a project anew, and stops what was being found out of its former texts.
    pub fn read(&mut self, root: &str) {
        let disk = self.machine.files(root);
        let before = self.projects.get(root).map(|project| Arc::clone(&project.snapshot));
        let buffers = Buffers { root, disk: &*disk, documents: &self.documents };
        let snapshot = Arc::new(Snapshot::read(root, &buffers, before.as_ref()));
        match self.projects.get_mut(root) {
            Some(project) => {
                project.stop.now();
                project.stop = Stop::default();
                project.snapshot = snapshot;
            }
            None => {
                let project = Project {
                    snapshot,
                    findings: None,
                    figures: None,
                    of_pages: ByFile::new(),
                    published: ByFile::new(),
                    memory: Arc::default(),
                    stop: Stop::default(),
                };
                self.projects.insert(root.to_owned(), project);
            }
        }
    }

    /// What is to be found out of a project; nothing where it cannot be read.
    pub fn job(&self, root: &str) -> Option<Job> {
        let project = self.projects.get(root)?;
        project.snapshot.system.as_ref()?;
        Some(Job {
            snapshot: Arc::clone(&project.snapshot),
            threads: self.machine.threads(),
            today: self.machine.today(),
            memory: Arc::clone(&project.memory),
            stop: project.stop.clone(),
        })
    }

    /// Takes what was found out; whether it is of the texts as they are.
    pub fn take(&mut self, root: &str, of: &Arc<Snapshot>, outcome: Outcome) -> bool {
        let Some(project) = self.projects.get_mut(root) else { return false };
        if !Arc::ptr_eq(of, &project.snapshot) {
            return false;
        }
        match outcome {
            Outcome::Findings(mut findings) => {
                // A finding that was there before keeps its mend until mends were tried anew.
                if let Some((before, known)) = &project.findings {
                    let known = carried(known, &before.sources, &of.sources);
                    findings.iter_mut().for_each(|finding| keep_mend(finding, &known));
                }
                project.findings = Some((Arc::clone(of), findings));
            }
            Outcome::Mended(findings) => project.findings = Some((Arc::clone(of), findings)),
            Outcome::Figures(figures) => project.figures = Some(figures),
        }
        true
    }

    /// Looks at the open pages of a project.
    pub fn scan(&mut self, root: &str) {
        let Some(snapshot) = self.projects.get(root).map(|project| Arc::clone(&project.snapshot)) else { return };
        let is_page = |path: &str| {
            let ends = [".html", ".htm", ".xhtml"].iter().any(|ending| path.ends_with(ending));
            ends && snapshot.file_at(path).is_none() && self.machine.project_of(path).as_deref() == Some(root)
        };
        let found: ByFile = self
            .documents
            .iter()
            .filter(|(path, _)| is_page(path))
            .map(|(path, document)| (path.clone(), self.machine.scan(&snapshot, path, &document.text, self.client)))
            .collect();
        if let Some(project) = self.projects.get_mut(root) {
            project.of_pages = found;
        }
    }

    /// What is to be published of a project: of each file that something is said of, or was.
    pub fn publications(&mut self, root: &str) -> Vec<PublishDiagnosticsParams> {
        let client = self.client;
        let Some(project) = self.projects.get_mut(root) else { return Vec::new() };
        let mut by_file = of_project(&project.snapshot, &project.said(), client);
        for (path, found) in &project.of_pages {
            by_file.entry(path.clone()).or_default().extend(found.iter().cloned());
        }
        let gone = project.published.keys().filter(|path| !by_file.contains_key(*path));
        let gone: Vec<String> = gone.cloned().collect();
        by_file.extend(gone.into_iter().map(|path| (path, Vec::new())));
        // What was said already is not said again.
        let is_new = |(path, found): &(&String, &Vec<Diagnostic>)| project.published.get(*path) != Some(*found);
        let news: ByFile = by_file.iter().filter(is_new).map(|(path, found)| (path.clone(), found.clone())).collect();
        by_file.retain(|_, found| !found.is_empty());
        project.published = by_file;
        let documents = &self.documents;
        let of = |(path, diagnostics): (String, Vec<Diagnostic>)| {
            let version = documents.get(&path).map(|document| document.version);
            Some(PublishDiagnosticsParams { uri: uri_of(&path)?, diagnostics, version })
        };
        news.into_iter().filter_map(of).collect()
    }

    /// Answers something about a file; nothing where it is of no project. `with_pages` says that the project's pages matter.
    pub fn about<T>(&self, uri: &Uri, with_pages: bool, answer: impl FnOnce(&Subject, &Project) -> T) -> Option<T> {
        let path = path_of(uri)?;
        let root = self.machine.project_of(&path)?;
        let project = self.projects.get(&root)?;
        let snapshot = &*project.snapshot;
        let pages = if with_pages { self.pages(project) } else { BTreeMap::new() };
        let file = snapshot.file_at(&path);
        let of_project = || file.map(|file| snapshot.sources.file(file).text.clone());
        let open = || self.documents.get(&path).map(|document| document.text.clone());
        let text = of_project().or_else(open).or_else(|| self.machine.read(&path))?;
        let subject = Subject { snapshot, pages: &pages, path: &path, text: &text, file, client: self.client };
        Some(answer(&subject, project))
    }

    /// The pages of a project as buffers have them.
    fn pages(&self, project: &Project) -> BTreeMap<String, String> {
        let mut pages = self.machine.pages(&project.snapshot);
        pages.retain(|path, _| project.snapshot.file_at(path).is_none());
        for (path, document) in &self.documents {
            if let Some(text) = pages.get_mut(path) {
                text.clone_from(&document.text);
            }
        }
        pages
    }
}
