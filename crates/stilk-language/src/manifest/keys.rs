//! The tables and keys of the manifest, for editors: what may stand there, and what it is for. A test holds them against what
//! is read.

/// A table of the manifest.
#[derive(Debug, Clone, Copy)]
pub struct TableOfKeys {
    /// Its name; `modifiers.*` stands for one of each modifier.
    pub name: &'static str,
    /// What it is for.
    pub words: &'static str,
    /// Its keys.
    pub keys: &'static [Key],
    /// What keys of people's own hold, where the table has such.
    pub own: Option<Kind>,
}

/// A key.
#[derive(Debug, Clone, Copy)]
pub struct Key {
    /// Its name.
    pub name: &'static str,
    /// What its value is.
    pub kind: Kind,
    /// A value in TOML; `$0` is what has to be thought of.
    pub example: &'static str,
    /// The values that there are, where they can be counted.
    pub values: &'static [&'static str],
    /// What it is for.
    pub words: &'static str,
    /// Whether it must be there.
    pub is_required: bool,
}

/// What a value is.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Kind {
    /// A string.
    String,
    /// `true` or `false`.
    Boolean,
    /// A whole number.
    Integer,
    /// Strings in brackets.
    Strings,
    /// A string, or strings in brackets.
    StringOrStrings,
    /// Pairs of strings in brackets.
    Pairs,
    /// A table whose keys are people's own, with strings.
    StringTable,
    /// A table whose keys are people's own, with whole numbers.
    IntegerTable,
}

const fn key(name: &'static str, kind: Kind, example: &'static str, words: &'static str) -> Key {
    Key { name, kind, example, values: &[], words, is_required: false }
}

impl Key {
    const fn one_of(self, values: &'static [&'static str]) -> Key {
        Key { values, ..self }
    }

    const fn required(self) -> Key {
        Key { is_required: true, ..self }
    }
}

/// Every table.
pub const TABLES: &[TableOfKeys] = &[
    TableOfKeys {
        name: "system",
        words: "What the system is called and where its sources are.",
        own: None,
        keys: &[
            key("name", Kind::String, "\"$0\"", "The system's name, for people.").required(),
            key("prefix", Kind::String, "\"$0\"", "What every class and custom property begins with.").required(),
            key(
                "tokens",
                Kind::StringOrStrings,
                "\"$0.resolver.json\"",
                "A resolver document, or a list of token files, of which later ones override.",
            )
            .required(),
            key("controls", Kind::String, "\"controls\"", "The folder with templates and sheets."),
            key(
                "pages",
                Kind::Strings,
                "[\"$0\"]",
                "What `stilk scan` reads where it is given no page: files and patterns.",
            ),
            key(
                "outside",
                Kind::Strings,
                "[\"../$0\"]",
                "Folders outside of the project that sources may be read from; none without it.",
            ),
        ],
    },
    TableOfKeys {
        name: "modifiers.*",
        words: "How a modifier of the resolver reaches a page.",
        own: None,
        keys: &[
            key(
                "attribute",
                Kind::String,
                "\"data-$0\"",
                "The attribute that chooses a context; `data-` and the modifier's name without it.",
            ),
            key(
                "follow",
                Kind::Pairs,
                "[[\"$0\", \"(prefers-color-scheme: dark)\"]]",
                "Contexts that follow a media query where a page chooses none; the last that matches wins.",
            ),
            key(
                "scheme",
                Kind::StringTable,
                "{ $0 = \"dark\" }",
                "The colour scheme of each context; those not named are light.",
            ),
            key(
                "marked",
                Kind::StringTable,
                "{ $0 = \".\" }",
                "What pages had already and chooses a context as well: one class, attribute or id.",
            ),
        ],
    },
    TableOfKeys {
        name: "surfaces",
        words: "What controls may lie on: contrast is checked on each. A name, and a colour token in braces.",
        own: Some(Kind::String),
        keys: &[],
    },
    TableOfKeys {
        name: "stylesheet",
        words: "How the stylesheet is written.",
        own: None,
        keys: &[
            key("folder", Kind::String, "\"dist\"", "The folder that outputs are written to, below the project."),
            key(
                "layers",
                Kind::Boolean,
                "true",
                "Whether rules stand in cascade layers; the same rules in the same order, unlayered, without.",
            )
            .one_of(&["true", "false"]),
            key("weight", Kind::Integer, "1", "Without layers: how often a class is repeated.").one_of(&["1", "2"]),
            key("property", Kind::String, "\"{prefix}-{token}\"", "How custom properties of tokens are named."),
            key(
                "as_written",
                Kind::Strings,
                "[\"$0\"]",
                "What Stilk leaves as sheets have it: `reset`, `motion`, `hover`, `focus`, `blocked`.",
            ),
            key(
                "split",
                Kind::String,
                "\"none\"",
                "`theme`: one more file for each context that is no default, loaded after the first.",
            )
            .one_of(&["none", "theme"]),
            key("tokens", Kind::String, "\"used\"", "`all`: tokens that nothing uses are written as well.")
                .one_of(&["used", "all"]),
            key("map", Kind::Boolean, "false", "Whether a source map is written beside each stylesheet.")
                .one_of(&["true", "false"]),
        ],
    },
    TableOfKeys {
        name: "classes",
        words: "How classes are named: patterns with `{prefix}`, `{control}`, `{option}`, `{part}`.",
        own: None,
        keys: &[
            key("control", Kind::String, "\"{prefix}-{control}\"", "The class of a control."),
            key("option", Kind::String, "\"{prefix}-{control}-{option}\"", "The class of an option."),
            key("part", Kind::String, "\"{prefix}-{control}_{part}\"", "The class of a part."),
        ],
    },
    TableOfKeys {
        name: "states",
        words: "States of the system's own, in order, between invalid and busy: a name and a selector.",
        own: Some(Kind::String),
        keys: &[],
    },
    TableOfKeys {
        name: "checks",
        words: "How strictly `stilk check` judges.",
        own: None,
        keys: &[
            key("conformance", Kind::String, "\"AA\"", "The level of WCAG 2.2 that the system is held to.")
                .one_of(&["AA", "AAA"]),
            key(
                "levels",
                Kind::StringTable,
                "{ \"$0\" = \"warning\" }",
                "Levels that replace those of checks: error, warning, note or off.",
            ),
            key(
                "count",
                Kind::IntegerTable,
                "{ \"$0\" = 1 }",
                "So many of a control, of one with some options, or of several of these together, on one page at most.",
            ),
        ],
    },
];

#[cfg(test)]
mod tests {
    use super::*;
    use crate::manifest::{MANIFEST, read};
    use stilk_text::loader::Loader;
    use stilk_text::source::{FileError, FileText, Files};

    struct One(String);

    impl Files for One {
        fn read(&self, _: &str, _: &[String]) -> Result<FileText, FileError> {
            Ok(FileText::own(self.0.clone()))
        }

        fn list(&self, _: &str, _: &[String]) -> Result<Vec<String>, FileError> {
            Err(FileError::Missing)
        }
    }

    fn said(text: &str) -> Vec<String> {
        let files = One(text.to_owned());
        let mut loader = Loader::new(&files);
        let file = loader.read(MANIFEST, None).unwrap();
        let _ = read(file, &mut loader);
        let said = loader.diagnostics.into_sorted();
        said.iter().map(|d| format!("{}: {}", d.message, d.mend.clone().unwrap_or_default())).collect()
    }

    #[test]
    fn every_key_that_is_told_of_is_read() {
        let mut text = String::new();
        for table in TABLES {
            text.push_str(&format!("[{}]\n", table.name.replace('*', "theme")));
            for key in table.keys {
                text.push_str(&format!("{} = {}\n", key.name, key.example.replace("$0", "x")));
            }
        }
        // What examples leave to think of is not right by chance; keys that are not known are told apart by their words.
        let unknown: Vec<String> = said(&text).into_iter().filter(|words| words.contains("there is no key")).collect();
        assert_eq!(unknown, Vec::<String>::new());
    }

    #[test]
    fn every_key_that_is_read_is_told_of() {
        for table in TABLES.iter().filter(|table| table.own.is_none()) {
            let name = table.name.replace('*', "theme");
            let words =
                said(&format!("[system]\nname = \"A\"\nprefix = \"a\"\ntokens = \"a.json\"\n[{name}]\nzzzz = 1\n"));
            // For one that is not known, those that are are listed.
            let system = said("[system]\nname = \"A\"\nprefix = \"a\"\ntokens = \"a.json\"\nzzzz = 1\n");
            let words = if name == "system" { system } else { words };
            let listed = words.iter().find_map(|words| words.split_once("write one of: ")).map(|(_, list)| list);
            let mut read: Vec<&str> = listed.unwrap_or_else(|| panic!("{name}: {words:?}")).split(", ").collect();
            let mut told: Vec<&str> = table.keys.iter().map(|key| key.name).collect();
            read.sort_unstable();
            told.sort_unstable();
            assert_eq!(read, told, "{name}");
        }
    }
}
