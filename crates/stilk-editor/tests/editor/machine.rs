//! A machine in memory: one project in `/project`.

use lsp_types::Diagnostic;
use std::collections::BTreeMap;
use stilk_editor::editor::{Editor, Machine};
use stilk_editor::feature::Client;
use stilk_editor::snapshot::Snapshot;
use stilk_text::source::{FileError, FileText, Files};

/// Where the project is.
pub const ROOT: &str = "/project";

/// Files by path from the project's folder.
#[derive(Clone, Default)]
pub struct Texts(pub BTreeMap<String, String>);

impl Files for Texts {
    fn read(&self, path: &str, _: &[String]) -> Result<FileText, FileError> {
        self.0.get(path).map(|text| FileText::own(text.clone())).ok_or(FileError::Missing)
    }

    fn list(&self, folder: &str, _: &[String]) -> Result<Vec<String>, FileError> {
        let inside = |path: &String| {
            let name = path.strip_prefix(folder)?.strip_prefix('/')?;
            (!name.contains('/')).then(|| name.to_owned())
        };
        let names: Vec<String> = self.0.keys().filter_map(inside).collect();
        if names.is_empty() { Err(FileError::Missing) } else { Ok(names) }
    }
}

impl Machine for Texts {
    fn project_of(&self, path: &str) -> Option<String> {
        path.starts_with("/project/").then(|| ROOT.to_owned())
    }

    fn files(&self, _: &str) -> Box<dyn Files + Send + Sync> {
        Box::new(self.clone())
    }

    fn pages(&self, _: &Snapshot) -> BTreeMap<String, String> {
        let pages = self.0.iter().filter(|(path, _)| path.starts_with("pages/"));
        pages.map(|(path, text)| (format!("{ROOT}/{path}"), text.clone())).collect()
    }

    fn read(&self, path: &str) -> Option<String> {
        self.0.get(path.strip_prefix("/project/")?).cloned()
    }

    fn scan(&self, _: &Snapshot, _: &str, _: &str, _: Client) -> Vec<Diagnostic> {
        Vec::new()
    }

    fn today(&self) -> Option<String> {
        None
    }

    fn threads(&self) -> usize {
        1
    }
}

/// An editor on these files.
pub fn editor(texts: &Texts, client: Client) -> Editor {
    Editor::new(Box::new(texts.clone()), client)
}

/// A small project with one of everything that has a name.
pub fn project() -> Texts {
    let files = [
        (
            "stilk.toml",
            "[system]\nname = \"T\"\nprefix = \"t\"\ntokens = \"t.resolver.json\"\n[surfaces]\npage = \"{paper}\"\n\
             [states]\ndocked = \"[data-docked]\"\n[checks]\ncount = { \"lever.loud\" = 1 }\n",
        ),
        (
            "t.resolver.json",
            r##"{ "version": "2025.10", "sets": { "base": { "sources": [{ "$ref": "base.tokens.json" }] } },
  "modifiers": { "theme": { "contexts": { "day": [], "night": [{ "$ref": "night.tokens.json" }] }, "default": "day" } },
  "resolutionOrder": [{ "$ref": "#/sets/base" }, { "$ref": "#/modifiers/theme" }] }"##,
        ),
        (
            "base.tokens.json",
            r##"{ "paper": { "$type": "color", "$value": "#ffffff" },
  "ink": { "$type": "color", "strong": { "$value": "#101820" }, "soft": { "$value": "{ink.strong}" } },
  "gap": { "$type": "dimension", "$value": { "value": 8, "unit": "px" } } }"##,
        ),
        (
            "night.tokens.json",
            r##"{ "paper": { "$type": "color", "$value": "#101820" }, "ink": { "$type": "color", "strong": { "$value": "#fafafa" } } }"##,
        ),
        (
            "controls/lever.html",
            "<button type=\"button\"><span part=\"label\"><slot>Pull — ⛴</slot></span></button>\n<a href=\"#\"><span part=\"label\"><slot>Pull</slot></span></a>\n",
        ),
        (
            "controls/lever.stilk",
            "/* ⛴ مرفأ */\n@control lever {\n  @traits ring;\n  --fill: {ink.strong}; --on: {paper};\n  padding: {gap}; color: var(--on); background: var(--fill);\n  \
             @part label { font-weight: 600; }\n  @state hover { --fill: {ink.soft}; }\n  @state docked and not hover { opacity: .5; }\n  \
             @axis tone default plain { plain { } loud { --on: {ink.soft}; } }\n  @option wide { inline-size: 100%; }\n  @exclude loud with wide on a;\n  \
             &:dir(rtl) { padding-inline-start: 0; }\n}\n",
        ),
        (
            "controls/pair.html",
            "<div><button part=\"first\" data-control=\"lever\" data-options=\"loud\" type=\"button\">A</button></div>\n",
        ),
        ("controls/pair.stilk", "@control pair { display: flex; gap: {gap}; @part first { --fill: {ink.soft}; } }\n"),
        (
            "controls/shared.stilk",
            "@derive { edge: color-mix(in oklab, {ink.strong}, {paper} 20%); }\n@trait ring { @state focus { outline: 2px solid {edge}; animation: turn 1s; } }\n@keyframes turn { to { rotate: 1turn; } }\n",
        ),
        (
            "pages/page.html",
            "<p class=\"t-pair\"><button class=\"t-lever t-lever-loud\"><span class=\"t-lever_label\">x</span></button></p>\n",
        ),
    ];
    Texts(files.into_iter().map(|(path, text)| (path.to_owned(), text.to_owned())).collect())
}
