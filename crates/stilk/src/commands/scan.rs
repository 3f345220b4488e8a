//! `stilk scan`: real pages against the system.

use super::{Loaded, former};
use crate::arguments::format::ReportFormat;
use crate::disk::shown;
use crate::output::{json, junit, markdown, sarif, scan as output};
use crate::site::{Sheets, read_page};
use crate::{Failure, Outcome, say};
use indicatif::{ProgressBar, ProgressDrawTarget, ProgressStyle};
use std::collections::{BTreeMap, BTreeSet};
use std::ffi::OsString;
use std::path::{Path, PathBuf};
use std::sync::atomic::{AtomicUsize, Ordering};
use std::sync::mpsc;
use stilk_checks::fingerprint::fingerprint;
use stilk_checks::scan::{Gathered, PageReport, Scanner, Worker};
use stilk_language::stylesheet::file_suffixes;

/// What was asked.
pub struct Request<'r> {
    /// Files, folders and patterns.
    pub pages: &'r [OsString],
    /// How to print.
    pub format: ReportFormat,
    /// A former report.
    pub against: Option<&'r Path>,
    /// Whether nothing is printed but findings.
    pub quiet: bool,
}

/// From so many pages on, progress is shown.
const MANY: usize = 50;

/// Pages that are done may wait for those before them; so many may, then workers wait.
const WAITING: usize = 64;

/// Scans pages and prints what was found.
pub fn run(root: &Path, request: &Request) -> Result<Outcome, Failure> {
    let known = former(request.against)?;
    let loaded = Loaded::read(root)?;
    let pages = pages(&loaded, request.pages)?;
    let gathered = gather(&loaded, &pages, request.quiet);
    let (mut report, sources, gathered) = gathered.finish(&loaded.system);
    let all = report.findings.len();
    if let Some(known) = &known {
        report.findings.retain(|finding| !known.contains(&fingerprint(finding, &sources)));
    }
    let hidden = (all - report.findings.len()) as u64;
    // Paths are as the user wrote them.
    let here = Path::new(".");
    let summary = output::summary(&report, &gathered);
    match request.format {
        ReportFormat::Json => {
            let usage = output::json(&loaded.system, &gathered);
            say::json(&json::render(&report, &sources, here, Some(usage)));
        }
        ReportFormat::Sarif if gathered.unreadable.is_empty() => say::json(&sarif::render(&report, &sources, here)),
        ReportFormat::Sarif => say::json(&sarif::render_failed(&report, &sources, here)),
        ReportFormat::Junit if gathered.unreadable.is_empty() => say::markup(&junit::render(&report, &sources, here)),
        ReportFormat::Junit => say::markup(&junit::render_failed(&report, &sources, here)),
        ReportFormat::Markdown => {
            say::markup(&markdown::render(&report, &sources, here, &summary));
            say::markup(&output::markdown(&loaded.system, &gathered));
        }
        ReportFormat::Text if request.quiet && report.findings.is_empty() => {}
        ReportFormat::Text => {
            output::print(&loaded.system, &report, &sources, &gathered, request.quiet);
            if hidden > 0 {
                say!("{} known from the former report, not shown", crate::output::count(hidden, "finding"));
            }
        }
    }
    output::tell_missing(&gathered);
    match gathered.unreadable.is_empty() {
        true => Ok(super::outcome(&report)),
        // Of what was not read nothing is known: neither clean nor not.
        false => Err(Failure::Said),
    }
}

/// The pages that are meant, in order, each once.
///
/// Files, folders and patterns; those of the manifest where none is named.
pub fn pages(loaded: &Loaded, named: &[OsString]) -> Result<Vec<PathBuf>, Failure> {
    let named: Vec<OsString> = match named.is_empty() {
        false => named.to_vec(),
        true => loaded.system.manifest.pages.iter().map(|name| loaded.root.join(&name.value).into()).collect(),
    };
    if named.is_empty() {
        return Err(Failure::Message(
            "error: name pages, as in `stilk scan 'site/**/*.html'`,\n  or write `pages = [\"site/*.html\"]` under `[system]` in stilk.toml".into(),
        ));
    }
    found_pages(&named)
}

/// The pages that files, folders and patterns lead to, in order, each once.
pub fn found_pages(named: &[OsString]) -> Result<Vec<PathBuf>, Failure> {
    let mut found: BTreeSet<PathBuf> = BTreeSet::new();
    let mut missing = Vec::new();
    for name in named {
        let before = found.len();
        let path = Path::new(name);
        let text = name.to_string_lossy();
        if path.is_dir() {
            found.extend(in_folder(path));
        } else if path.is_file() {
            found.insert(path.to_owned());
        } else {
            let pattern = glob::glob(&text)
                .map_err(|error| Failure::Message(format!("error: `{text}` is no pattern: {}", error.msg)))?;
            for path in pattern.flatten() {
                if path.is_dir() {
                    found.extend(in_folder(&path));
                } else {
                    found.insert(path);
                }
            }
        }
        if found.len() == before && !path.exists() {
            missing.push(format!("error: there is no page `{text}`"));
        }
    }
    if !missing.is_empty() {
        return Err(Failure::Message(missing.join("\n")));
    }
    if found.is_empty() {
        return Err(Failure::Message(format!(
            "error: no page in `{}`: they end in .html or .htm",
            named.iter().map(|name| name.to_string_lossy()).collect::<Vec<_>>().join("`, `")
        )));
    }
    Ok(found.into_iter().collect())
}

fn in_folder(folder: &Path) -> impl Iterator<Item = PathBuf> {
    let files =
        walkdir::WalkDir::new(folder).into_iter().filter_map(Result::ok).filter(|entry| entry.file_type().is_file());
    files.map(walkdir::DirEntry::into_path).filter(|path| {
        let ending = path.extension().map(|ending| ending.to_ascii_lowercase());
        ending.is_some_and(|ending| ["html", "htm", "xhtml"].iter().any(|known| ending == *known))
    })
}

/// Scans on all cores; reports are taken in the order of pages, whichever is done first.
fn gather(loaded: &Loaded, pages: &[PathBuf], quiet: bool) -> Gathered {
    let written = loaded.stylesheet();
    let names = file_suffixes(&loaded.system).iter().map(|suffix| loaded.stylesheet_name(suffix.as_deref())).collect();
    let scanner = Scanner::new(&loaded.system, &written, names);
    let sheets = Sheets::default();
    let threads = std::thread::available_parallelism().map_or(1, std::num::NonZero::get).min(pages.len());
    let next = AtomicUsize::new(0);
    let progress = progress(pages.len(), quiet);
    let mut gathered = Gathered::default();
    std::thread::scope(|scope| {
        let (sender, receiver) = mpsc::sync_channel::<(usize, Result<PageReport, (String, String)>)>(WAITING);
        for _ in 0..threads.max(1) {
            let (sender, next, scanner, sheets) = (sender.clone(), &next, &scanner, &sheets);
            scope.spawn(move || {
                let mut worker = Worker::new(scanner);
                loop {
                    let index = next.fetch_add(1, Ordering::Relaxed);
                    let Some(path) = pages.get(index) else { return };
                    let report = scan(&mut worker, sheets, path);
                    if sender.send((index, report)).is_err() {
                        return;
                    }
                }
            });
        }
        drop(sender);
        let mut waiting = BTreeMap::new();
        let mut taken = 0;
        for (index, report) in receiver {
            waiting.insert(index, report);
            while let Some(report) = waiting.remove(&taken) {
                match report {
                    Ok(report) => gathered.add(report),
                    Err((page, why)) => gathered.add_unreadable(page, why),
                }
                taken += 1;
                progress.inc(1);
            }
        }
    });
    progress.finish_and_clear();
    gathered
}

fn progress(pages: usize, quiet: bool) -> ProgressBar {
    let target = if quiet || pages < MANY { ProgressDrawTarget::hidden() } else { ProgressDrawTarget::stderr() };
    let bar = ProgressBar::with_draw_target(Some(pages as u64), target);
    // The template is ours: it is well formed.
    if let Ok(style) = ProgressStyle::with_template("{pos} of {len} pages  {wide_bar}  {eta} left") {
        bar.set_style(style.progress_chars("██░"));
    }
    bar
}

/// Scans a page; where it cannot be read, its name and why.
fn scan(worker: &mut Worker, sheets: &Sheets, path: &Path) -> Result<PageReport, (String, String)> {
    let name = shown(Path::new("."), &path.to_string_lossy());
    let text = read_page(path).map_err(|why| (name.clone(), why))?;
    Ok(worker.scan(&name, &text, &mut |base, address, missing| {
        let sheet = sheets.find(path, base, address)?;
        missing.extend(sheet.missing.iter().cloned());
        Ok(sheet.linked)
    }))
}
