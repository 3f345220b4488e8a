//! A project in memory.

use std::collections::BTreeMap;
use stilk_language::project::{self, Project};
use stilk_text::source::{FileError, FileText, Files};

/// Files by path.
#[derive(Default, Clone)]
pub struct Memory(pub BTreeMap<String, Vec<u8>>);

impl Files for Memory {
    fn read(&self, path: &str, _: &[String]) -> Result<FileText, FileError> {
        self.0.get(path).cloned().map(FileText::own).ok_or(FileError::Missing)
    }

    fn list(&self, folder: &str, _: &[String]) -> Result<Vec<String>, FileError> {
        let prefix = format!("{folder}/");
        let names: Vec<String> = self
            .0
            .keys()
            .filter_map(|path| path.strip_prefix(&prefix))
            .filter(|rest| !rest.contains('/'))
            .map(str::to_owned)
            .collect();
        if names.is_empty() { Err(FileError::Missing) } else { Ok(names) }
    }
}

impl Memory {
    /// A project with one control `x` on a button and a link, and the tokens `a` (red), `b` (blue), `gap`.
    pub fn with_sheet(sheet: &str) -> Memory {
        let files = [
            (
                "stilk.toml",
                "[system]\nname = \"T\"\nprefix = \"t\"\ntokens = [\"t.tokens.json\"]\n[surfaces]\npage = \"{paper}\"\n",
            ),
            (
                "t.tokens.json",
                r#"{ "a": { "$type": "color", "$value": { "colorSpace": "srgb", "components": [1, 0, 0] } },
                     "b": { "$type": "color", "$value": { "colorSpace": "srgb", "components": [0, 0, 1] } },
                     "paper": { "$type": "color", "$value": { "colorSpace": "srgb", "components": [1, 1, 1] } },
                     "gap": { "$type": "dimension", "$value": { "value": 8, "unit": "px" } } }"#,
            ),
            (
                "controls/x.html",
                "<button type=\"button\"><span part=\"label\">Go</span></button><a href=\"#\"><span part=\"label\">Go</span></a>",
            ),
            ("controls/x.stilk", sheet),
        ];
        Memory(files.into_iter().map(|(path, text)| (path.to_owned(), text.as_bytes().to_vec())).collect())
    }

    /// The sample system.
    pub fn sample() -> Memory {
        Memory::folder("../../demo/ternhaven")
    }

    /// A project of this repository, by its path from this crate.
    pub fn folder(path: &str) -> Memory {
        let root = std::path::Path::new(env!("CARGO_MANIFEST_DIR")).join(path);
        let mut memory = Memory::default();
        for folder in ["", "tokens", "controls"] {
            for entry in std::fs::read_dir(root.join(folder)).into_iter().flatten().flatten() {
                if entry.path().is_file() {
                    let name = entry.file_name().into_string().unwrap();
                    let path = if folder.is_empty() { name } else { format!("{folder}/{name}") };
                    memory.0.insert(path, std::fs::read(entry.path()).unwrap());
                }
            }
        }
        memory
    }

    /// Replaces a file.
    pub fn file(mut self, path: &str, text: &str) -> Memory {
        self.0.insert(path.to_owned(), text.as_bytes().to_vec());
        self
    }

    /// Reads the project.
    pub fn load(&self) -> Project {
        project::load(self, &crate::known_checks())
    }
}

/// What was said, in one line each.
pub fn messages(project: &Project) -> Vec<String> {
    project.diagnostics.iter().map(|d| format!("{}: {}", d.id, d.message)).collect()
}
