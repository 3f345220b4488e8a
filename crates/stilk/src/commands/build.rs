//! `stilk build`: stylesheets with their source maps, `system.json`, types, and the tokens of each theme.

use super::Loaded;
use crate::output::{count, source_map};
use crate::{Failure, Outcome, disk};
use std::collections::BTreeSet;
use std::path::Path;
use stilk_engine::cascade::defaults::Browser;
use stilk_language::describe;
use stilk_language::manifest::as_identifier;
use stilk_language::stylesheet::weight::{self, ControlWeight};
use stilk_language::stylesheet::{File, file_suffixes, resets, write_files};
use stilk_text::diagnostic::{grouped, list};

/// Builds a project.
pub fn run(root: &Path, out: Option<&Path>, minify: bool, quiet: bool) -> Result<Outcome, Failure> {
    let loaded = Loaded::read_for(root, out)?;
    let line = write(&loaded, minify)?;
    if !quiet {
        say!("{line}");
    }
    Ok(Outcome::Clean)
}

/// Prints what is reset, for whom and why: what each engine brings along stands beside it.
pub fn explain_resets(root: &Path) -> Result<Outcome, Failure> {
    const MOST: usize = 3;
    let loaded = Loaded::read(root)?;
    let measured: Vec<&str> = Browser::MEASURED.iter().map(|browser| browser.version()).collect();
    say!("measured in {}", list(&measured));
    for control in &loaded.system.controls {
        let resets = resets(control);
        if resets.is_empty() {
            continue;
        }
        say!("\n{}", control.name.value);
        for reset in resets {
            let part = reset.part.as_ref().map(|part| format!(" (part `{part}`)")).unwrap_or_default();
            let whom = if reset.hosts.is_empty() { part } else { format!(" (on `{}`)", reset.hosts) };
            say!("  {}: {}{whom}", reset.property, reset.value);
            say!("    {}", reset.reason);
            for (value, who) in resets::measured(control, &reset) {
                let more = who.len().saturating_sub(MOST);
                let shown = who.iter().take(MOST).map(String::as_str).collect::<Vec<_>>().join(", ");
                let more = if more > 0 { format!(" and {more} more") } else { String::new() };
                say!("      {value}: {shown}{more}");
            }
        }
    }
    Ok(Outcome::Clean)
}

/// Prints what each control weighs, and what would make the system lighter.
pub fn weigh(root: &Path) -> Result<Outcome, Failure> {
    let loaded = Loaded::read(root)?;
    let (system, sources) = (&loaded.system, &loaded.sources);
    let weights = weight::weigh(system, sources);
    let name = weights.iter().map(|weight| weight.control.len()).max().unwrap_or_default().max("control".len());
    say!("{:name$}  {:>6}  {:>8}  {:>17}  {:>6}", "control", "rules", "bytes", "custom properties", "moving");
    for one in &weights {
        let (rules, bytes) = (grouped(one.rules as u64), grouped(one.bytes as u64));
        say!("{:name$}  {rules:>6}  {bytes:>8}  {:>17}  {:>6}", one.control, one.custom_properties, one.moving);
    }
    let total = |of: fn(&ControlWeight) -> usize| grouped(weights.iter().map(of).sum::<usize>() as u64);
    say!("{:name$}  {:>6}  {:>8}", "all", total(|one| one.rules), total(|one| one.bytes));
    say!(
        "\nCustom properties are those that a browser computes for each such control at rest; moving are properties that"
    );
    say!("transitions name there. Bytes are those of rules, minified and before they are compressed.");
    let lighter = weight::lighter(system);
    if !lighter.is_empty() {
        say!("\nWhat would make it lighter:");
    }
    for one in lighter {
        say!("  {}: {}: {}", sources.place(one.place), one.what, one.instead);
    }
    Ok(Outcome::Clean)
}

/// Writes everything that pages and programs use, and says what is in it.
pub fn write(loaded: &Loaded, minify: bool) -> Result<String, Failure> {
    let system = &loaded.system;
    for folder in [loaded.folder(), loaded.folder().join("tokens")] {
        disk::remove_leftovers(&folder);
    }
    // Three kinds of files, none of which needs another: written side by side.
    let (stylesheets, description, tokens) = std::thread::scope(|scope| {
        let description = scope.spawn(|| write_description(loaded));
        let tokens = scope.spawn(|| write_tokens(loaded));
        (write_stylesheets(loaded, minify), description.join(), tokens.join())
    });
    let (names, size) = stylesheets?;
    for done in [description, tokens] {
        done.unwrap_or_else(|panic| std::panic::resume_unwind(panic))?;
    }
    let variants: u64 = system.controls.iter().map(|control| control.variant_count(0)).sum();
    let others = match names.len() {
        1 => String::new(),
        n => format!(" and {} more", n - 1),
    };
    Ok(format!(
        "{}{others} ({:.1} kB): {}, {}, {}",
        loaded.shown_output(&names[0]),
        size as f64 / 1000.0,
        count(system.controls.len() as u64, "control"),
        count(variants, "variant"),
        count(system.tokens.themes().len() as u64, "theme"),
    ))
}

/// Writes the stylesheets; gives their names and how large they are together.
fn write_stylesheets(loaded: &Loaded, minify: bool) -> Result<(Vec<String>, usize), Failure> {
    let mut names = Vec::new();
    let mut size = 0;
    for file in write_files(&loaded.system, &loaded.sources, minify) {
        let name = loaded.stylesheet_name(file.suffix.as_deref());
        size += file.written.text.len();
        write_stylesheet(loaded, &name, file)?;
        names.push(name);
    }
    Ok((names, size))
}

fn write_description(loaded: &Loaded) -> Result<(), Failure> {
    let system = &loaded.system;
    let names: Vec<String> =
        file_suffixes(system).iter().map(|suffix| loaded.stylesheet_name(suffix.as_deref())).collect();
    let description = describe::system::describe(system, &loaded.sources, &names);
    loaded.write("system.json", &describe::to_text(&description))?;
    let types = names[0].replace(".css", ".d.ts");
    loaded.write(&types, &describe::types::describe(system))
}

fn write_tokens(loaded: &Loaded) -> Result<(), Failure> {
    let system = &loaded.system;
    let mut written = BTreeSet::new();
    for theme in system.tokens.themes() {
        let mut name = as_identifier(&system.tokens.theme_name(&theme));
        if name.is_empty() {
            name.push_str("all");
        }
        // Names that differ only in what a file name cannot have.
        while !written.insert(name.clone()) {
            name.push('-');
        }
        let tokens = describe::tokens::resolved(system, &theme);
        loaded.write(&format!("tokens/{name}.tokens.json"), &describe::to_text(&tokens))?;
    }
    Ok(())
}

fn write_stylesheet(loaded: &Loaded, name: &str, file: File) -> Result<(), Failure> {
    let mut text = file.written.text.clone();
    if loaded.system.manifest.stylesheet.map {
        // From the stylesheet to the project's folder.
        let absolute = |path: &Path| std::path::absolute(path).unwrap_or_else(|_| path.to_owned());
        let to_root = pathdiff::diff_paths(absolute(&loaded.root), absolute(&loaded.folder()));
        let to_root = to_root.map_or_else(String::new, |path| path.to_string_lossy().replace('\\', "/"));
        let to_root = if to_root.is_empty() { to_root } else { format!("{to_root}/") };
        // The map first: a stylesheet never names a map that is not there.
        loaded.write(&format!("{name}.map"), &source_map::render(&file.written, &loaded.sources, name, &to_root))?;
        text.push_str(&format!("/*# sourceMappingURL={name}.map */\n"));
    }
    loaded.write(name, &text)
}
