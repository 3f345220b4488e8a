//! `stilk demo`: the site as it was before it had a system, and the sample system, written out and put to work.

use super::{Loaded, adopt, build, print_report, specimen, survey};
use crate::output::{count, survey as output};
use crate::say;
use crate::{Failure, Outcome, disk, embedded};
use std::path::{Path, PathBuf};
use stilk_adopt::write::pages;
use stilk_text::source::FileError;

/// The sample system's sources; outputs are not among them.
const SAMPLE: &str = "sample";

/// The site before it had a system.
const BEFORE: &str = "before";

/// The folder in the sample that it is written to.
const OLD_SITE: &str = "before";

/// Writes the sample into a folder, then builds, checks and draws it.
pub fn run(folder: &Path, overwrite: bool, quiet: bool) -> Result<Outcome, Failure> {
    let mut files = embedded::sources(SAMPLE);
    files.extend(embedded::sources(BEFORE).into_iter().map(|(path, text)| (Path::new(OLD_SITE).join(path), text)));
    let changed: Vec<&(PathBuf, &str)> = files
        .iter()
        .filter(|(path, text)| match disk::read(&folder.join(path), text.len() as u64) {
            Ok(found) => found != text.as_bytes(),
            // What cannot be read is somebody's, and another.
            Err(error) => error != FileError::Missing,
        })
        .collect();
    if !changed.is_empty() && !overwrite {
        let list: Vec<String> = changed.iter().map(|(path, _)| format!("  {}", folder.join(path).display())).collect();
        return Err(Failure::Message(format!(
            "error: these files differ from the sample's, and nothing was written:\n{}\n\
             mend: name another folder, `stilk demo DIR`, or replace them with `--overwrite`",
            list.join("\n")
        )));
    }
    let mut new = 0;
    for (path, text) in &files {
        let path = folder.join(path);
        if disk::read(&path, text.len() as u64).is_ok_and(|found| found == text.as_bytes()) {
            continue;
        }
        disk::write(&path, text).map_err(|message| Failure::Message(format!("error: {message}")))?;
        new += 1;
    }
    if !quiet {
        before(&folder.join(OLD_SITE))?;
    }
    let loaded = Loaded::read(folder)?;
    let written = loaded.stylesheet();
    let line = build::write(&loaded, false)?;
    let report = loaded.report(&written);
    let page = specimen::write(&loaded, &written, &report)?;
    if !quiet {
        let name = &loaded.system.manifest.name.value;
        say!("Then {name} got a system: {} written to {}", count(new, "file"), folder.display());
        say!("Checking it finds what was left in on purpose: one colour at night, and the faults of `old-tag`:\n");
    }
    print_report(&loaded, &report);
    if !quiet {
        say!("");
        for (what, place) in [
            ("stylesheet", line),
            ("specimen", page),
            ("tokens", loaded.shown("tokens/")),
            ("controls", loaded.shown("controls/")),
        ] {
            say!("{what:>10}  {place}");
        }
        say!("\nEdit a token or a sheet, then: stilk check --project {}", say::word(&folder.to_string_lossy()));
    }
    Ok(Outcome::Clean)
}

/// Goes the whole way with the old site: surveys it, adopts it, builds the system, and writes its pages with their new links.
pub fn adopted(folder: &Path, quiet: bool) -> Result<Outcome, Failure> {
    let (site, system, after) = (folder.join(OLD_SITE), folder.join("system"), folder.join("after"));
    let there: Vec<String> = [&site, &system, &after]
        .into_iter()
        .filter(|path| path.exists())
        .map(|path| format!("  {}", path.display()))
        .collect();
    if !there.is_empty() {
        return Err(Failure::Message(format!(
            "error: these folders are there already, and nothing was written:\n{}\nmend: name another folder, `stilk demo DIR --before`",
            there.join("\n")
        )));
    }
    let write = |path: &Path, text: &str| {
        disk::write(path, text).map_err(|message| Failure::Message(format!("error: {message}")))
    };
    let files = embedded::sources(BEFORE);
    for (path, text) in &files {
        write(&site.join(path), text)?;
    }
    if !quiet {
        before(&site)?;
    }
    let request = adopt::Request {
        pages: &[site.clone().into()],
        to: &system,
        name: Some("Ternhaven"),
        css: &[],
        only: &[],
        layers: false,
        force: false,
        merge: false,
        quiet,
    };
    let adopted = adopt::adopted(&request)?;
    if !quiet {
        adopt::print(&request, &adopted);
        say!("");
    }
    build::run(&system, None, false, quiet)?;
    for (path, text) in files.iter().filter(|(path, _)| path.extension().is_some_and(|extension| extension == "html")) {
        let links = adopted.pages.iter().find(|(page, _)| Path::new(page).file_name() == path.file_name());
        let address = |at: &usize| format!("../system/{}", adopted.kept[*at].path);
        let instead: Vec<Option<String>> =
            links.into_iter().flat_map(|(_, links)| links).map(|link| link.as_ref().map(address)).collect();
        write(&after.join(path), &pages::linked(text, &instead, &format!("../system/{}", adopted.stylesheet)))?;
    }
    if !quiet {
        say!("The same pages with their new links: {}", after.display());
        say!("Now: stilk check --project {}    what is wrong, each at one place", say::word(&system.to_string_lossy()));
    }
    Ok(Outcome::Clean)
}

/// Tells what was there before the system, in a few lines.
fn before(folder: &Path) -> Result<(), Failure> {
    let found = survey::of(&[folder.into()])?;
    say!("The ferry line's old site, five pages that grew over ten years:\n");
    put!("{}", output::brief(&found));
    say!("\n  stilk survey {} shows all of it\n", say::word(&folder.to_string_lossy()));
    Ok(())
}
