//! `stilk.toml`: what the project is called, where its sources are, how themes, surfaces and classes are named.

pub mod keys;
mod table;

use crate::mark::Mark;
use stilk_text::diagnostic::{Diagnostic, Level, unknown_name};
use stilk_text::loader::Loader;
use stilk_text::source::{FileId, Name, Span};
use table::Table;

/// The manifest's file name.
pub const MANIFEST: &str = "stilk.toml";

/// The checked manifest.
#[derive(Debug)]
pub struct Manifest {
    /// The system's name, for people.
    pub name: Name,
    /// What every class and custom property begins with.
    pub prefix: Name,
    /// A resolver document, or token files.
    pub tokens: TokenSources,
    /// The folder with templates and sheets.
    pub controls: Name,
    /// How modifiers reach a page.
    pub modifiers: Vec<ModifierSettings>,
    /// What controls may lie on: a name and a token's path.
    pub surfaces: Vec<Surface>,
    /// How the stylesheet is written.
    pub stylesheet: StylesheetSettings,
    /// How classes are named.
    pub classes: ClassPatterns,
    /// States of the system's own, in order.
    pub states: Vec<OwnState>,
    /// The level of WCAG that `check` holds the system to.
    pub conformance: Conformance,
    /// Levels that replace those of the checks.
    pub levels: Vec<(Name, Option<Level>)>,
    /// How often a control or one of its options may stand on one page: `button.strong`.
    pub counts: Vec<(Name, u64)>,
    /// The pages that `scan` reads where none is named, as patterns relative to the project.
    pub pages: Vec<Name>,
    /// Folders outside of the project that sources may be read from, relative to it or absolute.
    pub outside: Vec<Name>,
}

/// What a key of `[checks] count` counts: a control with all of these options.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Counted<'n> {
    /// The control's name.
    pub control: &'n str,
    /// Options that it has together; `plain` stands for none, where there is no option of that name.
    pub options: Vec<&'n str>,
}

/// What is counted together by a key: `button.strong.large, link.strong`.
pub fn counted(key: &str) -> Vec<Counted<'_>> {
    let one = |one| -> Option<Counted> {
        let mut words = str::split(one, '.').map(str::trim);
        Some(Counted { control: words.next()?, options: words.collect() })
    };
    key.split(',').filter_map(one).collect()
}

impl Manifest {
    /// What holds where nobody wrote a manifest: for controls that are found on pages. `place` stands for all places in it.
    pub fn unwritten(name: &str, states: Vec<OwnState>, place: Span) -> Manifest {
        let named = |value: &str| Name { value: value.to_owned(), span: place };
        Manifest {
            name: named(name),
            prefix: named("unnamed"),
            tokens: TokenSources::Files(Vec::new()),
            controls: named("controls"),
            modifiers: Vec::new(),
            surfaces: Vec::new(),
            stylesheet: StylesheetSettings {
                folder: named("dist"),
                layers: true,
                weight: 1,
                split: false,
                map: false,
                all_tokens: false,
                property: named(StylesheetSettings::PROPERTY),
                as_written: AsWritten::default(),
            },
            classes: ClassPatterns {
                control: named(ClassPatterns::CONTROL),
                option: named(ClassPatterns::OPTION),
                part: named(ClassPatterns::PART),
            },
            states,
            conformance: Conformance::Aa,
            levels: Vec::new(),
            counts: Vec::new(),
            pages: Vec::new(),
            outside: Vec::new(),
        }
    }

    /// What it says of a modifier.
    pub fn modifier(&self, name: &str) -> Option<&ModifierSettings> {
        self.modifiers.iter().find(|modifier| modifier.name.value == name)
    }

    /// The attribute that chooses a context of a modifier.
    pub fn attribute_of(&self, modifier: &str) -> String {
        self.modifier(modifier).map_or_else(|| attribute_for(modifier), |settings| settings.attribute.clone())
    }
}

impl ModifierSettings {
    /// What else chooses a context, beside the modifier's attribute.
    pub fn mark_of(&self, context: &str) -> Option<&Mark> {
        self.marks.iter().find(|(name, _)| name.value == context).map(|(_, mark)| mark)
    }
}

/// The attribute of a modifier that the manifest says nothing of.
fn attribute_for(modifier: &str) -> String {
    format!("data-{}", as_identifier(modifier))
}

/// A name as CSS and file names can have it: what is no letter, digit, `-` or `_` becomes `-`.
pub fn as_identifier(name: &str) -> String {
    name.chars().map(|c| if c.is_alphanumeric() || c == '_' { c } else { '-' }).collect()
}

/// Where tokens come from.
#[derive(Debug)]
pub enum TokenSources {
    /// One resolver document.
    Resolver(Name),
    /// Token files, later ones override.
    Files(Vec<Name>),
}

/// How one modifier of the resolver reaches a page.
#[derive(Debug)]
pub struct ModifierSettings {
    /// The modifier.
    pub name: Name,
    /// The attribute that chooses a context.
    pub attribute: String,
    /// Where that is written.
    pub attribute_span: Option<Span>,
    /// What else chooses a context, beside that attribute: what pages had already.
    pub marks: Vec<(Name, Mark)>,
    /// Contexts that follow a media query, the last that matches wins.
    pub follow: Vec<Follow>,
    /// Contexts with a dark `color-scheme`; those not named are light.
    pub dark: Vec<Name>,
    /// Whether the manifest speaks of colour schemes for this modifier at all.
    pub sets_scheme: bool,
}

/// A context that applies where a media query matches and no attribute decides.
#[derive(Debug)]
pub struct Follow {
    /// The context.
    pub context: Name,
    /// The media query, as written.
    pub query: Name,
}

/// Something that controls may lie on.
#[derive(Debug)]
pub struct Surface {
    /// Its name.
    pub name: Name,
    /// The path of the colour token that paints it.
    pub token: Name,
}

/// `[stylesheet]`.
#[derive(Debug)]
pub struct StylesheetSettings {
    /// Folder to write to, relative to the project.
    pub folder: Name,
    /// Whether rules stand in cascade layers.
    pub layers: bool,
    /// How often a class is repeated without layers, 1 or 2.
    pub weight: u8,
    /// Whether each context but the defaults has a file of its own.
    pub split: bool,
    /// Whether a source map is written beside each stylesheet.
    pub map: bool,
    /// Whether tokens are written that nothing uses.
    pub all_tokens: bool,
    /// The pattern of a token's custom property, without its dashes.
    pub property: Name,
    /// What is left as sheets have it.
    pub as_written: AsWritten,
}

impl StylesheetSettings {
    const PROPERTY: &str = "{prefix}-{token}";
}

/// What Stilk adds to sheets everywhere else, and leaves out where the manifest says so: a look that pages had before they had
/// a system stays what it was.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default)]
pub struct AsWritten {
    /// Browsers' defaults stay where sheets say nothing.
    pub reset: bool,
    /// Transitions and animations run also for whoever asks for less motion.
    pub motion: bool,
    /// Hover shows also where no pointer can hover.
    pub hover: bool,
    /// The state `focus` is that of `:focus`, not of `:focus-visible`.
    pub focus: bool,
    /// Disabled and busy controls show hover and active as any other.
    pub blocked: bool,
}

impl AsWritten {
    /// What it may name, in order.
    pub const WORDS: [&str; 5] = ["reset", "motion", "hover", "focus", "blocked"];

    /// Notes a word; whether it is one.
    fn note(&mut self, word: &str) -> bool {
        match word {
            "reset" => self.reset = true,
            "motion" => self.motion = true,
            "hover" => self.hover = true,
            "focus" => self.focus = true,
            "blocked" => self.blocked = true,
            _ => return false,
        }
        true
    }
}

/// `[classes]`: patterns with `{prefix}`, `{control}`, `{option}`, `{part}`.
#[derive(Debug)]
pub struct ClassPatterns {
    /// For a control.
    pub control: Name,
    /// For an option of a control.
    pub option: Name,
    /// For a part of a control.
    pub part: Name,
}

impl ClassPatterns {
    const CONTROL: &str = "{prefix}-{control}";
    const OPTION: &str = "{prefix}-{control}-{option}";
    const PART: &str = "{prefix}-{control}_{part}";

    /// Each pattern, how it is usually written, and what may be in it beside the prefix: the last must be.
    pub fn all(&self) -> [(&Name, &'static str, &'static [&'static str]); 3] {
        [
            (&self.control, Self::CONTROL, &["control"]),
            (&self.option, Self::OPTION, &["control", "option"]),
            (&self.part, Self::PART, &["control", "part"]),
        ]
    }
}

/// A state that the manifest adds.
#[derive(Debug)]
pub struct OwnState {
    /// Its name in sheets.
    pub name: Name,
    /// The selector that it matches.
    pub selector: Name,
}

/// A conformance level of WCAG 2.2.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Conformance {
    /// Level AA.
    Aa,
    /// Level AAA.
    Aaa,
}

/// Reads the manifest. `None` when the text is not TOML or a required key is missing.
pub fn read(file: FileId, loader: &mut Loader) -> Option<Manifest> {
    let text = loader.sources.file(file).text.clone();
    let mut root = table::parse(file, &text, &mut loader.diagnostics)?;
    let diagnostics = &mut loader.diagnostics;

    let mut system = root.required_table("system", diagnostics)?;
    let nothing = Name { value: "unnamed".into(), span: system.span };
    let name = system.required_string("name", diagnostics);
    let prefix = system.required_string("prefix", diagnostics);
    let tokens = match system.string_or_strings("tokens", diagnostics) {
        Some(Ok(one)) if one.value.ends_with(".resolver.json") => Some(TokenSources::Resolver(one)),
        Some(Ok(one)) => Some(TokenSources::Files(vec![one])),
        Some(Err(many)) => Some(TokenSources::Files(many)),
        None => {
            diagnostics.push(
                Diagnostic::error("manifest/key", system.span, "`[system]` has no `tokens`")
                    .mend("write `tokens = \"NAME.resolver.json\"`, or a list of token files"),
            );
            None
        }
    };
    let controls =
        system.string("controls", diagnostics).unwrap_or(Name { value: "controls".into(), span: system.span });
    let pages = system.strings("pages", diagnostics);
    let outside = system.strings("outside", diagnostics);
    system.finish("[system]", diagnostics);

    let modifiers = read_modifiers(&mut root, diagnostics);
    let surfaces = read_surfaces(&mut root, diagnostics);

    let mut sheet = root.table("stylesheet", diagnostics);
    let stylesheet = StylesheetSettings {
        folder: sheet.string("folder", diagnostics).unwrap_or(Name { value: "dist".into(), span: sheet.span }),
        layers: sheet.boolean("layers", diagnostics).unwrap_or(true),
        weight: match sheet.integer("weight", diagnostics) {
            None => 1,
            Some((n @ (1 | 2), _)) => n as u8,
            Some((n, span)) => {
                let message = format!("`weight` is 1 or 2, not {n}");
                diagnostics.push(Diagnostic::error("manifest/value", span, message).mend("write `weight = 1`"));
                1
            }
        },
        split: one_of(&mut sheet, "split", ["none", "theme"], diagnostics),
        map: sheet.boolean("map", diagnostics).unwrap_or(false),
        all_tokens: one_of(&mut sheet, "tokens", ["used", "all"], diagnostics),
        property: read_property(&mut sheet, diagnostics),
        as_written: read_as_written(&mut sheet, diagnostics),
    };
    sheet.finish("[stylesheet]", diagnostics);

    let mut classes = root.table("classes", diagnostics);
    let span = classes.span;
    let mut pattern = |key: &str, default: &str| {
        classes.string(key, diagnostics).unwrap_or_else(|| Name { value: default.to_owned(), span })
    };
    let patterns = ClassPatterns {
        control: pattern("control", ClassPatterns::CONTROL),
        option: pattern("option", ClassPatterns::OPTION),
        part: pattern("part", ClassPatterns::PART),
    };
    classes.finish("[classes]", diagnostics);

    let mut own = root.table("states", diagnostics);
    let states = own.string_entries(diagnostics);
    let states = states.into_iter().map(|(name, selector)| OwnState { name, selector }).collect();

    let (conformance, levels, counts) = read_checks(&mut root, diagnostics);
    root.finish("the manifest", diagnostics);
    Some(Manifest {
        // What is missing was reported; reading goes on, so that one run names every mistake.
        name: name.unwrap_or_else(|| nothing.clone()),
        prefix: prefix.and_then(|prefix| check_prefix(prefix, diagnostics)).unwrap_or_else(|| nothing.clone()),
        tokens: tokens.unwrap_or(TokenSources::Files(Vec::new())),
        controls,
        modifiers,
        surfaces,
        stylesheet,
        classes: patterns,
        states,
        conformance,
        levels,
        counts,
        pages,
        outside,
    })
}

/// Whether a key has the second of two words; the first is what holds without it.
fn one_of(
    table: &mut Table,
    key: &str,
    words: [&str; 2],
    diagnostics: &mut stilk_text::diagnostic::Diagnostics,
) -> bool {
    let Some(word) = table.string(key, diagnostics) else { return false };
    if !words.contains(&word.as_str()) {
        let message = format!("`{key}` is `\"{}\"` or `\"{}\"`, not `\"{}\"`", words[0], words[1], word.value);
        diagnostics.push(
            Diagnostic::error("manifest/value", word.span, message)
                .mend(format!("write `{key} = \"{}\"`, or leave it out", words[0])),
        );
    }
    word.value == words[1]
}

/// How custom properties of tokens are named.
fn read_property(sheet: &mut Table, diagnostics: &mut stilk_text::diagnostic::Diagnostics) -> Name {
    let span = sheet.span;
    let usual = Name { value: StylesheetSettings::PROPERTY.to_owned(), span };
    let Some(pattern) = sheet.string("property", diagnostics) else { return usual };
    let rest = pattern.value.replace("{prefix}", "").replace("{token}", "");
    let is_name = rest.chars().all(|c| c.is_alphanumeric() || c == '-' || c == '_');
    if is_name && pattern.value.matches("{token}").count() == 1 {
        return pattern;
    }
    let message = format!("`{}` is no pattern for custom properties", pattern.value);
    diagnostics.push(
        Diagnostic::error("manifest/value", pattern.span, message)
            .label("`{token}` once, `{prefix}`, letters, digits, `-` and `_`")
            .mend(format!("write `property = \"{}\"`, or leave it out", StylesheetSettings::PROPERTY)),
    );
    usual
}

fn read_as_written(sheet: &mut Table, diagnostics: &mut stilk_text::diagnostic::Diagnostics) -> AsWritten {
    let mut as_written = AsWritten::default();
    for word in sheet.strings("as_written", diagnostics) {
        if !as_written.note(&word.value) {
            diagnostics.push(unknown_name("manifest/value", "word {} in `as_written`", &word, AsWritten::WORDS));
        }
    }
    as_written
}

fn check_prefix(prefix: Name, diagnostics: &mut stilk_text::diagnostic::Diagnostics) -> Option<Name> {
    // Letters of every script are letters of CSS.
    let starts_well = prefix.value.starts_with(char::is_alphabetic);
    if starts_well && prefix.value.chars().all(|c| c.is_alphanumeric() || c == '-' || c == '_') {
        return Some(prefix);
    }
    diagnostics.push(
        Diagnostic::error("manifest/value", prefix.span, format!("`{}` cannot begin a class name", prefix.value))
            .label("letters, digits, `-` and `_`, beginning with a letter")
            .mend("write a short word, such as `prefix = \"tern\"`"),
    );
    None
}

fn read_modifiers(root: &mut Table, diagnostics: &mut stilk_text::diagnostic::Diagnostics) -> Vec<ModifierSettings> {
    let mut modifiers = Vec::new();
    for (name, mut table) in root.table("modifiers", diagnostics).table_entries(diagnostics) {
        let attribute = table.string("attribute", diagnostics);
        let attribute_span = attribute.as_ref().map(|attribute| attribute.span);
        let attribute = attribute.map_or_else(|| attribute_for(&name.value), |attribute| attribute.value);
        let follow = table.pairs("follow", diagnostics);
        let scheme = table.get_table("scheme", diagnostics);
        let sets_scheme = scheme.is_some();
        let mut dark = Vec::new();
        for (context, scheme) in scheme.map(|mut t| t.string_entries(diagnostics)).unwrap_or_default() {
            match scheme.value.as_str() {
                "dark" => dark.push(context),
                "light" => {}
                other => diagnostics.push(
                    Diagnostic::error("manifest/value", scheme.span, format!("`{other}` is no colour scheme"))
                        .mend("write `\"light\"` or `\"dark\"`"),
                ),
            }
        }
        let marked = table.get_table("marked", diagnostics).map(|mut t| t.string_entries(diagnostics));
        let mut marks = Vec::new();
        for (context, selector) in marked.unwrap_or_default() {
            match Mark::read(&selector.value) {
                Some(mark) => marks.push((context, mark)),
                None => diagnostics.push(
                    Diagnostic::error("manifest/value", selector.span, format!("`{}` is no mark", selector.value))
                        .label("one class, one attribute or one id")
                        .mend("write `\".theme-night\"` or `\"[data-look=\\\"night\\\"]\"`"),
                ),
            }
        }
        table.finish(&format!("[modifiers.{}]", name.value), diagnostics);
        let follow = follow.into_iter().map(|(context, query)| Follow { context, query }).collect();
        modifiers.push(ModifierSettings { name, attribute, attribute_span, marks, follow, dark, sets_scheme });
    }
    modifiers
}

fn read_surfaces(root: &mut Table, diagnostics: &mut stilk_text::diagnostic::Diagnostics) -> Vec<Surface> {
    let mut surfaces = Vec::new();
    for (name, value) in root.table("surfaces", diagnostics).string_entries(diagnostics) {
        match value.value.strip_prefix('{').and_then(|v| v.strip_suffix('}')) {
            Some(path) => {
                let span = Span { start: value.span.start + 2, end: value.span.end - 2, ..value.span };
                surfaces.push(Surface { name, token: Name { value: path.trim().to_owned(), span } });
            }
            None => diagnostics.push(
                Diagnostic::error("manifest/value", value.span, "a surface is a reference to a colour token")
                    .mend("write it in braces, such as `page = \"{surface.page}\"`"),
            ),
        }
    }
    surfaces
}

/// Levels by check.
type Levels = Vec<(Name, Option<Level>)>;

fn read_checks(
    root: &mut Table,
    diagnostics: &mut stilk_text::diagnostic::Diagnostics,
) -> (Conformance, Levels, Vec<(Name, u64)>) {
    let mut checks = root.table("checks", diagnostics);
    let conformance = match checks.string("conformance", diagnostics) {
        None => Conformance::Aa,
        Some(word) => match word.value.as_str() {
            "AA" => Conformance::Aa,
            "AAA" => Conformance::Aaa,
            other => {
                let message = format!("`{other}` is no level that Stilk checks");
                diagnostics
                    .push(Diagnostic::error("manifest/value", word.span, message).mend("write `\"AA\"` or `\"AAA\"`"));
                Conformance::Aa
            }
        },
    };
    let mut levels = Vec::new();
    for (check, level) in checks.table("levels", diagnostics).string_entries(diagnostics) {
        let level = match level.value.as_str() {
            "error" => Some(Level::Error),
            "warning" => Some(Level::Warning),
            "note" => Some(Level::Note),
            "off" => None,
            other => {
                let message = format!("`{other}` is no level");
                let mend = "write `\"error\"`, `\"warning\"`, `\"note\"` or `\"off\"`";
                diagnostics.push(Diagnostic::error("manifest/value", level.span, message).mend(mend));
                continue;
            }
        };
        levels.push((check, level));
    }
    let counts = checks.table("count", diagnostics).count_entries(diagnostics);
    checks.finish("[checks]", diagnostics);
    (conformance, levels, counts)
}
