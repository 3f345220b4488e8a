//! The disk, the clock and the pages, for the editor's side that has none of them.

use crate::commands::stylesheet_name;
use crate::disk::{self, Folder};
use crate::site::{Sheets, read_page};
use lsp_types::Diagnostic;
use std::collections::BTreeMap;
use std::path::Path;
use stilk_checks::scan::{Scanner, Worker};
use stilk_editor::editor::Machine;
use stilk_editor::feature::Client;
use stilk_editor::feature::diagnostics::shown;
use stilk_editor::snapshot::Snapshot;
use stilk_language::manifest::MANIFEST;
use stilk_language::stylesheet::file_suffixes;
use stilk_text::source::{Files, MAX_FILE_BYTES};

/// Folders that hold no pages of anybody's own.
const NOT_OWN: [&str; 4] = ["node_modules", "target", "vendor", "bower_components"];

/// So many pages are looked at where names are looked for.
const MOST_PAGES: usize = 2_000;

/// This machine.
pub struct Disk;

impl Machine for Disk {
    fn project_of(&self, path: &str) -> Option<String> {
        let folders = Path::new(path).ancestors().skip(1);
        let found = folders.take(64).find(|folder| folder.join(MANIFEST).is_file())?;
        Some(found.to_string_lossy().into_owned())
    }

    fn files(&self, root: &str) -> Box<dyn Files + Send + Sync> {
        Box::new(Folder::new(Path::new(root)))
    }

    fn pages(&self, snapshot: &Snapshot) -> BTreeMap<String, String> {
        let root = Path::new(&snapshot.root);
        let manifest = snapshot.trees.manifest.as_ref();
        let out = manifest.map(|manifest| root.join(&manifest.stylesheet.folder.value));
        let walk = walkdir::WalkDir::new(root).into_iter().filter_entry(|entry| {
            let name = entry.file_name().to_string_lossy();
            let is_out = out.as_deref() == Some(entry.path());
            entry.depth() == 0 || !(is_out || name.starts_with('.') || NOT_OWN.contains(&&*name))
        });
        let walked = walk.filter_map(Result::ok).filter(|entry| entry.file_type().is_file());
        let patterns = manifest.into_iter().flat_map(|manifest| &manifest.pages);
        let named = patterns.filter_map(|pattern| glob::glob(&root.join(&pattern.value).to_string_lossy()).ok());
        let named = named.flatten().filter_map(Result::ok).map(|path| disk::plain(&path));
        let is_page = |path: &std::path::PathBuf| {
            let ending = path.extension().map(|ending| ending.to_ascii_lowercase());
            ending.is_some_and(|ending| ["html", "htm", "xhtml", "css"].iter().any(|known| ending == *known))
        };
        let paths = walked.map(walkdir::DirEntry::into_path).chain(named).filter(is_page).take(MOST_PAGES);
        let read = |path: std::path::PathBuf| Some((path.to_str()?.to_owned(), read_page(&path).ok()?));
        paths.filter_map(read).collect()
    }

    fn read(&self, path: &str) -> Option<String> {
        String::from_utf8(disk::read(Path::new(path), MAX_FILE_BYTES as u64).ok()?).ok()
    }

    fn scan(&self, snapshot: &Snapshot, path: &str, text: &str, client: Client) -> Vec<Diagnostic> {
        let Some((system, written, _)) = snapshot.written() else { return Vec::new() };
        let names = file_suffixes(system).iter().map(|suffix| stylesheet_name(system, suffix.as_deref())).collect();
        let scanner = Scanner::new(system, written, names);
        let sheets = Sheets::default();
        let report = Worker::new(&scanner).scan(path, text, &mut |base, address, missing| {
            let sheet = sheets.find(Path::new(path), base, address)?;
            missing.extend(sheet.missing.iter().cloned());
            Ok(sheet.linked)
        });
        let sources = &report.sources;
        let path_of = |span: stilk_text::source::Span| sources.file(span.file).path.clone();
        let here = sources.find(path);
        let found = report.found.iter().map(|(_, found)| found).filter(|found| {
            // What a stylesheet does is told at the stylesheet, which is another buffer.
            found.span.is_none_or(|span| Some(span.file) == here)
        });
        found.map(|found| shown(found, sources, &path_of, client)).collect()
    }

    fn today(&self) -> Option<String> {
        Some(time::OffsetDateTime::now_utc().date().to_string())
    }

    fn threads(&self) -> usize {
        std::thread::available_parallelism().map_or(1, std::num::NonZero::get)
    }
}
