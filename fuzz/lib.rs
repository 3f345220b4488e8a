//! A project of which one file is what the fuzzer made, and a page with any CSS.

use std::collections::BTreeMap;
use stilk_engine::css::Longhand;
use stilk_engine::dom::Document;
use stilk_engine::cascade::defaults::Browser;
use stilk_engine::cascade::resolved::resolved;
use stilk_engine::cascade::{Engine, Forced, Media, Stylesheet};
use stilk_engine::page::Page;
use stilk_language::project;
use stilk_text::source::{FileError, FileText, Files};

struct Memory(BTreeMap<&'static str, Vec<u8>>);

impl Files for Memory {
    fn read(&self, path: &str, _: &[String]) -> Result<FileText, FileError> {
        self.0.get(path).cloned().map(FileText::own).ok_or(FileError::Missing)
    }

    fn list(&self, folder: &str, _: &[String]) -> Result<Vec<String>, FileError> {
        let prefix = format!("{folder}/");
        Ok(self.0.keys().filter_map(|path| path.strip_prefix(&prefix)).map(str::to_owned).collect())
    }
}

/// Reads a project in which a file holds these bytes: a system or diagnostics.
pub fn project(path: &'static str, bytes: &[u8]) {
    let mut files = BTreeMap::new();
    for (path, text) in [
        ("stilk.toml", "[system]\nname = \"T\"\nprefix = \"t\"\ntokens = \"t.resolver.json\"\n"),
        (
            "t.resolver.json",
            r##"{ "version": "2025.10", "sets": { "base": { "sources": [{ "$ref": "t.tokens.json" }] } },
                 "resolutionOrder": [{ "$ref": "#/sets/base" }] }"##,
        ),
        ("t.tokens.json", r##"{ "a": { "$type": "color", "$value": { "colorSpace": "srgb", "components": [1, 0, 0] } } }"##),
        ("controls/x.html", "<button type=\"button\"><span part=\"label\">Go</span></button>"),
        ("controls/x.stilk", "@control x { color: {a}; @state hover { opacity: .5; } }"),
    ] {
        files.insert(path, text.as_bytes().to_vec());
    }
    files.insert(path, bytes.to_vec());
    let project = project::load(&Memory(files), &["contrast/text"]);
    assert!(project.system.is_some() || !project.diagnostics.is_empty());
}

/// Computes everything about a page under any stylesheet.
pub fn page(css: &str, html: &str) {
    let page = Page::parse(html);
    let sheet = Stylesheet::parse(css);
    let engine = Engine::new(Browser::Chromium.sheet(), &[&sheet], Media::default());
    let styles = engine.styles(&page.document, &Forced::default());
    for node in page.document.descendants(Document::ROOT) {
        if let Some(style) = styles.element(node) {
            for longhand in Longhand::ALL {
                let _ = resolved(style, *longhand);
            }
        }
    }
}
