//! Projects in memory.

use std::collections::BTreeMap;
use std::path::Path;
use stilk_checks::registry;
use stilk_checks::trial;
use stilk_language::stylesheet::{Purpose, Written, write};
use stilk_language::system::System;
use stilk_text::source::{FileError, FileText, Files, Sources};

struct Texts(BTreeMap<String, String>);

impl Files for Texts {
    fn read(&self, path: &str, _: &[String]) -> Result<FileText, FileError> {
        self.0.get(path).map(|text| FileText::own(text.clone())).ok_or(FileError::Missing)
    }

    fn list(&self, folder: &str, _: &[String]) -> Result<Vec<String>, FileError> {
        let inside = |path: &String| {
            let name = path.strip_prefix(folder)?.strip_prefix('/')?;
            (!name.contains('/')).then(|| name.to_owned())
        };
        Ok(self.0.keys().filter_map(inside).collect())
    }
}

/// A project that loads.
pub struct Project {
    files: Texts,
    sources: Sources,
    system: System,
}

impl Project {
    pub fn demo() -> Project {
        Project::at("../../demo/ternhaven")
    }

    /// A project of this repository.
    pub fn at(folder: &str) -> Project {
        let root = Path::new(env!("CARGO_MANIFEST_DIR")).join(folder);
        let mut texts = BTreeMap::new();
        collect(&root, "", &mut texts);
        Project::of(texts)
    }

    /// The same with something else in one of its texts.
    pub fn edited(&self, path: &str, from: &str, to: &str) -> Project {
        assert!(self.text(path).contains(from), "{path} holds {from}");
        let mut texts = self.files.0.clone();
        texts.insert(path.to_owned(), self.text(path).replacen(from, to, 1));
        Project::of(texts)
    }

    fn of(texts: BTreeMap<String, String>) -> Project {
        let files = Texts(texts);
        let project = registry::load(&files);
        let system = project.system.expect("it loads");
        Project { files, sources: project.sources, system }
    }

    pub fn project(&self) -> trial::Project<'_> {
        trial::Project { files: &self.files, sources: &self.sources, system: &self.system }
    }

    pub fn system(&self) -> &System {
        &self.system
    }

    pub fn sources(&self) -> &Sources {
        &self.sources
    }

    pub fn written(&self) -> Written {
        write(&self.system, &self.sources, Purpose::Page)
    }

    pub fn text(&self, path: &str) -> &str {
        &self.files.0[path]
    }
}

fn collect(folder: &Path, before: &str, texts: &mut BTreeMap<String, String>) {
    for entry in std::fs::read_dir(folder).expect("a folder").map(|entry| entry.expect("an entry")) {
        let name = format!("{before}{}", entry.file_name().to_string_lossy());
        let path = entry.path();
        if path.is_dir() {
            collect(&path, &format!("{name}/"), texts);
        } else if let Ok(text) = std::fs::read_to_string(&path) {
            texts.insert(name, text);
        }
    }
}
