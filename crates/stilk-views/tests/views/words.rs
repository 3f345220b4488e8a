//! Every name and text of a project in turn holds what would end what it stands in. Either the project is refused, or what is
//! written says the same as ever: no rule, no element, no script and no declaration that nobody wrote.

use crate::depth::Depth;
use crate::injection::{WORDS, notations, places};
use std::collections::BTreeMap;
use std::ops::Range;
use std::path::Path;
use stilk_checks::registry;
use stilk_checks::settings::Settings;
use stilk_engine::cascade::{Stylesheet, selector};
use stilk_engine::dom::Document;
use stilk_engine::page::Page;
use stilk_language::describe;
use stilk_language::stylesheet::{Purpose, write, write_files};
use stilk_language::system::System;
use stilk_text::source::{FileError, FileText, Files, Sources};
use stilk_views::compare::{self, Version};
use stilk_views::{contrast, specimen};

#[derive(Clone)]
struct Memory(BTreeMap<String, String>);

impl Files for Memory {
    fn read(&self, path: &str, _: &[String]) -> Result<FileText, FileError> {
        self.0.get(path).map(|text| FileText::own(text.as_bytes())).ok_or(FileError::Missing)
    }

    fn list(&self, folder: &str, _: &[String]) -> Result<Vec<String>, FileError> {
        let before = format!("{folder}/");
        Ok(self.0.keys().filter_map(|path| path.strip_prefix(&before)).map(str::to_owned).collect())
    }
}

impl Memory {
    fn quay() -> Memory {
        let root = Path::new(env!("CARGO_MANIFEST_DIR")).join("../stilk/tests/projects/quay");
        let mut files = BTreeMap::new();
        for folder in ["", "controls/"] {
            for entry in std::fs::read_dir(root.join(folder)).expect("a folder").flatten() {
                if let Ok(text) = std::fs::read_to_string(entry.path()) {
                    files.insert(format!("{folder}{}", entry.file_name().to_string_lossy()), text);
                }
            }
        }
        // One of everything that the sample of the language leaves out.
        let manifest = files.get_mut("stilk.toml").expect("a manifest");
        manifest.push_str(
            "\n[classes]\ncontrol = \"{prefix}-{control}\"\noption = \"{prefix}-{control}-{option}\"\npart = \"{prefix}-{control}_{part}\"\n",
        );
        files.get_mut("controls/shared.stilk").expect("a sheet").push_str(
            "\n@font-face { font-family: \"Deck\"; src: url(\"deck.woff2\"); }
             @property --grain { syntax: \"<number>\"; inherits: true; initial-value: 0; }\n",
        );
        Memory(files)
    }
}

/// What is written of a system.
struct Outputs {
    styles: Vec<String>,
    pages: Vec<String>,
    types: String,
}

fn outputs(system: &System, sources: &Sources) -> Outputs {
    let written = write(system, sources, Purpose::Page);
    let files = [false, true].map(|minify| write_files(system, sources, minify));
    let mut styles: Vec<String> = files.into_iter().flatten().map(|file| file.written.text).collect();
    styles.extend(specimen::stylesheets(system, sources));
    let settings = Settings { threads: 1, ..Settings::default() };
    let pairs = stilk_checks::run::pairs(system, sources, &written, &settings);
    let report = stilk_checks::run::run(system, sources, &written, &settings);
    let version = Version { system, sources, written: &written };
    let mut other = write(system, sources, Purpose::Page);
    other.text = other.text.replace("opacity: 0.4", "opacity: 0.5");
    let other = Version { system, sources, written: &other };
    let name = &system.manifest.name.value;
    let pages = vec![
        specimen::page(system, sources, &written, &report.findings),
        compare::page(&compare::compare(&version, &other), [&version, &other], [name, "old"]),
        contrast::html(name, &pairs),
        format!("<!doctype html><body>{}", contrast::svg(name, &pairs)),
    ];
    Outputs { styles, pages, types: describe::types::describe(system) }
}

/// What is wrong with outputs.
fn wrong(outputs: &Outputs) -> Option<String> {
    for style in &outputs.styles {
        // What is left open swallows the rule that follows.
        let sheet = Stylesheet::parse(&format!("{style}\n.last-rule {{ color: red }}"));
        let selectors: Vec<String> = sheet.rules.iter().map(|rule| selector::to_text(&rule.selector)).collect();
        if let Some(found) = selectors.iter().find(|text| text.contains(".injected")) {
            return Some(format!("a rule for {found}"));
        }
        if selectors.last().is_none_or(|text| text != ".last-rule") {
            return Some("something in a stylesheet is left open".to_owned());
        }
    }
    for (index, page) in outputs.pages.iter().enumerate() {
        let page = Page::parse(page);
        for node in page.document.descendants(Document::ROOT) {
            let Some(element) = page.document.element(node) else { continue };
            let is_injected = element.local() == "injected"
                || element.attribute("id") == Some("injected")
                || element.attributes.iter().any(|(name, _)| name.local.starts_with("on"));
            if is_injected {
                return Some(format!("an element in page {index}: {}", element.local()));
            }
        }
    }
    let lines: String = outputs.types.lines().filter(|line| !line.starts_with("//")).collect();
    let code = lines.split('"').step_by(2).collect::<String>();
    code.contains("injected").then(|| "an export".to_owned())
}

#[test]
fn words_stay_words() {
    let depth = Depth::of_environment();
    depth.print();
    let project = Memory::quay();
    assert!(registry::load(&project).system.is_some(), "the project itself is refused");
    let mut cases: Vec<(&String, Range<usize>, &str)> = Vec::new();
    for (path, text) in &project.0 {
        for place in places(path, text) {
            cases.extend(WORDS.iter().map(|word| (path, place.clone(), *word)));
        }
    }
    let all = cases.len() as u64;
    let (mut tried, mut accepted) = (0, 0);
    let mut failed = Vec::new();
    // Far apart in the list, so that few of them see every file.
    const STEP: u64 = 7919;
    let few = if depth.full { all / 8 } else { 150 };
    for index in (0..few).map(|index| depth.seed % all + index) {
        let (path, place, word) = &cases[(index * STEP % all) as usize];
        let text = &project.0[*path];
        for notation in notations(path, word) {
            for start in [place.start, place.end] {
                let mut project = project.clone();
                project.0.insert((*path).clone(), format!("{}{notation}{}", &text[..start], &text[place.end..]));
                tried += 1;
                let read = registry::load(&project);
                let Some(system) = &read.system else { continue };
                accepted += 1;
                if let Some(why) = wrong(&outputs(system, &read.sources)) {
                    failed
                        .push(format!("{path}:{}: {notation:?} gives {why}", text[..start].matches('\n').count() + 1));
                }
            }
        }
    }
    println!("{tried} projects of {all} places and words, {accepted} of them accepted");
    assert!(accepted > 5, "nearly everything is refused");
    assert!(failed.is_empty(), "{} of {accepted}:\n{}", failed.len(), failed.join("\n"));
}
