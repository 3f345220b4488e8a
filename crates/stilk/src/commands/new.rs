//! `stilk new`: a complete, accessible starting system.

use super::{Loaded, print_report};
use crate::embedded::Embedded;
use crate::output::count;
use crate::output::terminal;
use crate::say;
use crate::{Failure, Outcome, disk, embedded};
use std::collections::BTreeMap;
use std::path::Path;
use stilk_checks::registry;

const STARTER: &str = "starter";

/// The least that is a system.
const BARE: &str = "bare";

/// What to write.
pub struct Request<'r> {
    /// What the system is called; the folder's name otherwise.
    pub name: Option<&'r str>,
    /// What classes begin with; the first letters of the name otherwise.
    pub prefix: Option<&'r str>,
    /// The smallest system.
    pub bare: bool,
    /// Prints errors only.
    pub quiet: bool,
}

/// Writes a starting system into a folder and checks it.
pub fn run(folder: &Path, request: &Request) -> Result<Outcome, Failure> {
    let files = embedded::sources(if request.bare { BARE } else { STARTER });
    let there: Vec<String> = files
        .iter()
        .map(|(path, _)| folder.join(path))
        .filter(|path| path.exists())
        .map(|path| format!("  {}", path.display()))
        .collect();
    if !there.is_empty() {
        return Err(Failure::Message(format!(
            "error: these files are there already, and nothing was written:\n{}\nmend: name a new folder, `stilk new DIR`",
            there.join("\n")
        )));
    }
    let own = folder.canonicalize().unwrap_or_else(|_| folder.to_owned());
    let own = own.file_name().map_or_else(|| "System".into(), |name| name.to_string_lossy().into_owned());
    let name = request.name.map_or_else(|| capitalised(&own), str::to_owned);
    let prefix = request.prefix.map_or_else(|| short(&name), str::to_owned);
    let written: BTreeMap<String, String> = files
        .iter()
        .map(|(path, text)| {
            let text = match path == Path::new("stilk.toml") {
                true => text.replace("\"NAME\"", &toml_string(&name)).replace("\"PREFIX\"", &toml_string(&prefix)),
                false => (*text).to_owned(),
            };
            (path.to_string_lossy().replace('\\', "/"), text)
        })
        .collect();
    // Read before anything is written: a name or a prefix that will not do leaves nothing behind.
    let project = registry::load(&Embedded(&written));
    if project.system.is_none() {
        say::error(format_args!("{}", terminal::render_some(&project.diagnostics, &project.sources, folder)), "");
        return Err(Failure::Message("error: nothing was written: give another `--name` or `--prefix`".to_owned()));
    }
    for (path, text) in &written {
        disk::write(&folder.join(path), text).map_err(|message| Failure::Message(format!("error: {message}")))?;
    }
    let loaded = Loaded::read(folder)?;
    let report = loaded.report(&loaded.stylesheet());
    if !request.quiet {
        say!("{name}: {} written to {}\n", count(files.len() as u64, "file"), folder.display());
        for (what, path) in [
            ("manifest", "stilk.toml"),
            ("tokens", "tokens/"),
            ("markup", "controls/*.html"),
            ("styles", "controls/*.stilk"),
        ] {
            say!("{what:>10}  {}", loaded.shown(path));
        }
        say!("");
        print_report(&loaded, &report);
        let flag = match folder == Path::new(".") {
            true => String::new(),
            false => format!(" --project {}", say::word(&folder.to_string_lossy())),
        };
        say!("\nNow: stilk build{flag}       writes the stylesheet");
        say!("     stilk specimen{flag}    draws every variant in every state");
        say!("     stilk check{flag}       after each change");
    }
    Ok(Outcome::Clean)
}

fn capitalised(word: &str) -> String {
    let mut letters = word.chars();
    letters.next().map_or_else(String::new, |first| first.to_uppercase().chain(letters).collect())
}

/// The first letters of a name, as a class may begin with them.
fn short(name: &str) -> String {
    let letters = name.chars().filter(char::is_ascii_alphabetic).map(|c| c.to_ascii_lowercase());
    let prefix: String = letters.take(4).collect();
    if prefix.is_empty() { "ui".into() } else { prefix }
}

/// A TOML string: JSON's escapes are among those of TOML.
fn toml_string(text: &str) -> String {
    serde_json::Value::from(text).to_string()
}
