//! Controls that are right, from `right/*.probes`, and what is said of them, or of them with a fault planted in them.

use crate::memory::Memory;
use std::fmt;
use std::path::Path;
use stilk_checks::example::Example;
use stilk_checks::report::Report;
use stilk_checks::run::run;
use stilk_checks::settings::Settings;
use stilk_language::stylesheet::{Purpose, write};

/// A control that is right.
pub struct Probe {
    /// What is uncommon about it.
    pub name: String,
    template: String,
    sheet: String,
}

/// What a check says.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Said {
    pub id: String,
    /// The text of the line that it points at.
    pub line: String,
    pub message: String,
}

impl fmt::Display for Said {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        write!(f, "{}: {} [{}]", self.id, self.message, self.line.trim())
    }
}

/// A text of a probe's sheet or template, and what is planted in its place.
pub type Planted<'t> = (&'t str, &'t str);

/// All of them. Each begins with `== NAME`, then a template, `--` and the body of its control.
pub fn probes() -> Vec<Probe> {
    let folder = Path::new(env!("CARGO_MANIFEST_DIR")).join("tests/checks/right");
    let mut files: Vec<_> = std::fs::read_dir(folder).expect("a folder").flatten().map(|entry| entry.path()).collect();
    files.sort();
    let mut probes = Vec::new();
    for file in files {
        let text = std::fs::read_to_string(&file).expect("a file");
        for one in text.split("== ").skip(1) {
            let (name, rest) = one.split_once('\n').expect("a name");
            let (template, sheet) = rest.split_once("\n--\n").unwrap_or_else(|| panic!("{name} has no `--`"));
            probes.push(Probe {
                name: name.to_owned(),
                template: template.to_owned(),
                sheet: sheet.trim_end().to_owned(),
            });
        }
    }
    probes
}

/// What the tokens of examples are in a dark theme.
const NIGHT: &str = r#"
  "paper": { "$type": "color", "$value": { "colorSpace": "srgb", "components": [0.06, 0.08, 0.1] } },
  "ink": { "$type": "color", "$value": { "colorSpace": "srgb", "components": [0.93, 0.95, 0.97] } },
  "sea": { "$type": "color", "$value": { "colorSpace": "oklch", "components": [0.8, 0.08, 230] } },
  "mist": { "$type": "color", "$value": { "colorSpace": "oklch", "components": [0.35, 0.02, 230] } },
  "rust": { "$type": "color", "$value": { "colorSpace": "oklch", "components": [0.8, 0.08, 30] } }"#;

impl Probe {
    /// Its project with faults planted in it.
    pub fn project(&self, planted: &[Planted]) -> Memory {
        let (mut template, mut sheet) = (self.template.clone(), self.sheet.clone());
        for (from, to) in planted {
            assert!(sheet.contains(from) || template.contains(from), "{} does not hold {from:?}", self.name);
            let text = if sheet.contains(from) { &mut sheet } else { &mut template };
            *text = text.replacen(from, to, 1);
        }
        // Only what is used: nobody's tokens are a probe's business.
        let used = |tokens: &str| -> String {
            let is_used = |line: &&str| {
                line.trim()
                    .strip_prefix('"')
                    .and_then(|rest| rest.split('"').next())
                    .is_some_and(|name| sheet.contains(&format!("{{{name}}}")) || name == "paper")
            };
            let lines: Vec<&str> = tokens.lines().filter(is_used).map(|line| line.trim_end_matches(',')).collect();
            lines.join(",\n")
        };
        let resolver = r##"{ "version": "2025.10", "sets": { "base": { "sources": [{ "$ref": "day.tokens.json" }] } },
              "modifiers": { "theme": { "default": "day", "contexts": { "day": [], "night": [{ "$ref": "night.tokens.json" }] } } },
              "resolutionOrder": [{ "$ref": "#/sets/base" }, { "$ref": "#/modifiers/theme" }] }"##;
        let manifest = Example::MANIFEST.replace("[\"example.tokens.json\"]", "\"example.resolver.json\"");
        Memory::default()
            .file("stilk.toml", &format!("{manifest}\n[modifiers.theme]\nscheme = {{ night = \"dark\" }}\n"))
            .file("example.resolver.json", resolver)
            .file("day.tokens.json", &format!("{{\n{}\n}}\n", used(Example::TOKENS)))
            .file("night.tokens.json", &format!("{{\n{}\n}}\n", used(NIGHT)))
            .file("controls/probe.html", &template)
            .file("controls/probe.stilk", &format!("@control probe {{\n{sheet}\n}}\n"))
    }

    /// The report on it with faults planted in it, and everything that is said.
    pub fn report(&self, planted: &[Planted]) -> (Report, Vec<Said>) {
        let project = self.project(planted).load();
        let report = project.system.as_ref().map_or_else(Report::default, |system| {
            let written = write(system, &project.sources, Purpose::Page);
            run(system, &project.sources, &written, &Settings { threads: 1, ..Settings::default() })
        });
        let said = project.diagnostics.iter().chain(&report.findings).map(|diagnostic| {
            let line = diagnostic.span.map(|span| {
                let text = &project.sources.file(span.file).text;
                text.lines().nth(project.sources.position(span).line - 1).unwrap_or_default().to_owned()
            });
            Said { id: diagnostic.id.to_owned(), line: line.unwrap_or_default(), message: diagnostic.message.clone() }
        });
        let said = said.collect();
        (report, said)
    }
}
