//! Reading a project: the manifest, then everything it names.

use crate::manifest::{self, MANIFEST, Manifest};
use crate::sheet::{self, SHARED_SHEET, Sheet};
use crate::system::{self, System};
use crate::template::{self, Template};
use crate::tokens::{self, Tokens};
use stilk_text::diagnostic::{Diagnostic, Diagnostics};
use stilk_text::loader::Loader;
use stilk_text::source::{FileError, Files, Sources};

/// A project that was read: what it says, and what is wrong with it.
pub struct Project {
    /// All text that was read.
    pub sources: Sources,
    /// The checked system; `None` when there were errors.
    pub system: Option<System>,
    /// What could be made of sources that hold errors: good for names and for the values of tokens, and for nothing else.
    pub unsound: Option<System>,
    /// Errors, warnings and notes, ordered by place.
    pub diagnostics: Vec<Diagnostic>,
}

/// Reads and checks the project in `files`. Never fails: what is wrong is in the diagnostics, all of it. `checks` are the
/// ids that waivers and the manifest may name: which checks there are is not known here.
pub fn load(files: &dyn Files, checks: &[&str]) -> Project {
    let mut loader = Loader::new(files);
    let system = load_system(&mut loader, checks);
    let failed = loader.diagnostics.has_errors();
    let (system, unsound) = if failed { (None, system) } else { (system, None) };
    Project { sources: loader.sources, system, unsound, diagnostics: loader.diagnostics.into_sorted() }
}

fn load_system(loader: &mut Loader, checks: &[&str]) -> Option<System> {
    let file = match loader.read(MANIFEST, None) {
        Some(file) => file,
        None => {
            if loader.sources.find(MANIFEST).is_none() {
                loader.diagnostics = Diagnostics::default();
                loader.diagnostics.push(
                    Diagnostic::error("file/missing", None, format!("there is no `{MANIFEST}` here"))
                        .mend("name the project's folder with `--project DIR`, or write the sample with `stilk demo`"),
                );
            }
            return None;
        }
    };
    let manifest = manifest::read(file, loader)?;
    loader.allowed = manifest.outside.iter().map(|folder| folder.value.clone()).collect();
    let tokens = tokens::read(&manifest, loader);
    let (sheets, templates) = read_controls(&manifest, loader);
    let mut unread = Tokens::default();
    unread.incomplete = true;
    // Binding goes on after errors, so that one run names the mistakes of every stage.
    Some(system::bind(manifest, tokens.unwrap_or(unread), sheets, templates, checks, loader))
}

fn read_controls(manifest: &Manifest, loader: &mut Loader) -> (Vec<Sheet>, Vec<Template>) {
    let folder = &manifest.controls;
    let mut names = match loader.files.list(&folder.value, &loader.allowed) {
        Ok(names) => names,
        Err(FileError::Outside) => {
            loader.diagnostics.push(
                Diagnostic::error(
                    "file/outside",
                    folder.span,
                    format!("the folder `{}` is outside of the project", folder.value),
                )
                .label("controls are read from here")
                .mend(format!(
                    "bring it into the project, or allow it: `outside = [\"{}\"]` under `[system]`",
                    folder.value
                )),
            );
            return Default::default();
        }
        Err(_) => {
            loader.diagnostics.push(
                Diagnostic::error("file/missing", folder.span, format!("there is no folder `{}`", folder.value))
                    .label("controls are read from here")
                    .mend("make the folder, or name another"),
            );
            return Default::default();
        }
    };
    // `shared.stilk` first, then by name: the order on disk must not matter.
    names.sort_by(|a, b| (a != SHARED_SHEET).cmp(&(b != SHARED_SHEET)).then(a.cmp(b)));
    let mut sheets = Vec::new();
    let mut templates = Vec::new();
    for name in &names {
        let path = format!("{}/{name}", folder.value);
        if name.ends_with(".stilk") {
            if let Some(file) = loader.read(&path, Some(folder.span)) {
                sheets.push(sheet::parse(file, &loader.sources, &mut loader.diagnostics));
            }
        } else if let Some(control) = name.strip_suffix(".html")
            && let Some(file) = loader.read(&path, Some(folder.span))
        {
            templates.extend(template::parse(file, control, &loader.sources, &mut loader.diagnostics));
        }
    }
    if !names.iter().any(|n| n.ends_with(".stilk")) {
        let message = format!("the folder `{}` has no control sheet", folder.value);
        loader.diagnostics.push(
            Diagnostic::error("file/missing", folder.span, message)
                .mend(format!("write `{0}/NAME.html` and `{0}/NAME.stilk`", folder.value)),
        );
    }
    (sheets, templates)
}
