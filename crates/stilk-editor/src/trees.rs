//! The trees of a project's files, each read by itself: senseless ones as well.

use stilk_language::manifest::{self, MANIFEST, Manifest};
use stilk_language::sheet::{self, Sheet};
use stilk_language::template::{self, Template};
use stilk_text::diagnostic::Diagnostics;
use stilk_text::json::{self, Node};
use stilk_text::loader::Loader;
use stilk_text::source::{FileError, FileId, FileText, Files, Sources};

/// What the files of a project say, before any of it is bound.
#[derive(Debug, Default)]
pub struct Trees {
    /// The manifest, where it can be read.
    pub manifest: Option<Manifest>,
    /// Sheets.
    pub sheets: Vec<Sheet>,
    /// Templates.
    pub templates: Vec<Template>,
    /// Documents with tokens, and resolvers.
    pub documents: Vec<(FileId, Node)>,
}

/// Files of which one is there.
struct One<'t>(&'t str);

impl Files for One<'_> {
    fn read(&self, path: &str, _: &[String]) -> Result<FileText, FileError> {
        if path == MANIFEST { Ok(FileText::own(self.0)) } else { Err(FileError::Missing) }
    }

    fn list(&self, _: &str, _: &[String]) -> Result<Vec<String>, FileError> {
        Err(FileError::Missing)
    }
}

impl Trees {
    /// Reads every file that a project was read from.
    pub fn read(sources: &Sources) -> Trees {
        let mut trees = Trees::default();
        let mut diagnostics = Diagnostics::default();
        for source in sources.all() {
            let Some(file) = sources.find(&source.path) else { continue };
            if source.path == MANIFEST {
                // It is the first file of any project, there and here: places are the same.
                let one = One(&source.text);
                let mut loader = Loader::new(&one);
                let id = loader.read(MANIFEST, None).filter(|id| *id == file);
                trees.manifest = id.and_then(|id| manifest::read(id, &mut loader));
            } else if source.path.ends_with(".stilk") {
                trees.sheets.push(sheet::parse(file, sources, &mut diagnostics));
            } else if source.path.ends_with(".json") {
                trees.documents.extend(json::parse(file, sources, &mut diagnostics).map(|node| (file, node)));
            } else if source.path.ends_with(".html") {
                let name = source.path.rsplit('/').next().unwrap_or_default();
                let control = name.strip_suffix(".html").unwrap_or(name);
                trees.templates.extend(template::parse(file, control, sources, &mut diagnostics));
            }
        }
        trees
    }
}
