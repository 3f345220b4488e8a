//! `cascade/name`: what a value or a condition names is there.

use crate::check::{Check, Scope};
use crate::example::Example;
use crate::sink::Sink;
use crate::survey::Survey;
use cssparser::{ParseError, Parser, Token};
use std::collections::BTreeSet;
use stilk_language::system::{BoundDeclaration, RuleTarget, System};
use stilk_text::diagnostic::{Diagnostic, Level, nearest};
use stilk_text::source::Span;

/// The check.
pub const CHECK: Check = Check {
    id: "cascade/name",
    summary: "keyframes, counters, grid areas and containers that a sheet names are defined in one",
    why: "A misspelt name is no error to a browser: nothing turns, nothing is counted, the condition never holds, and nobody is told.",
    source: "CSS Animations 1, section 3; CSS Lists 3, section 4; CSS Grid 2, section 7.3; CSS Conditional 5, container queries",
    level: Level::Warning,
    mend: "Write the name as it is defined, or define it: `@keyframes NAME { … }`, `container-name: NAME`.",
    fails: Example::sheet(
        "@keyframes turn { to { rotate: 1turn; } }\n@control button {\n  background: {sea}; color: {paper};\n  @state busy { animation: trun 1s linear infinite; }\n}\n",
    ),
    passes: Example::sheet(
        "@keyframes turn { to { rotate: 1turn; } }\n@control button {\n  background: {sea}; color: {paper};\n  @state busy { animation: turn 1s linear infinite; }\n}\n",
    ),
    scope: Scope::System(run),
};

/// What has names.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum Kind {
    Keyframes,
    Counter,
    Area,
    Container,
}

impl Kind {
    fn noun(self) -> &'static str {
        match self {
            Kind::Keyframes => "keyframes",
            Kind::Counter => "counter",
            Kind::Area => "grid area",
            Kind::Container => "container",
        }
    }

    fn definition(self, name: &str) -> String {
        match self {
            Kind::Keyframes => format!("@keyframes {name} {{ … }}"),
            Kind::Counter => format!("counter-reset: {name}"),
            Kind::Area => format!("grid-template-areas: \"{name}\""),
            Kind::Container => format!("container-name: {name}"),
        }
    }
}

/// Names that are defined.
#[derive(Default)]
struct Defined {
    keyframes: BTreeSet<String>,
    counters: BTreeSet<String>,
    areas: BTreeSet<String>,
    containers: BTreeSet<String>,
}

fn run(survey: &Survey, sink: &mut Sink) {
    let system = survey.system;
    let defined = Defined::new(system);
    let mut told: BTreeSet<(Span, String)> = BTreeSet::new();
    for control in &system.controls {
        for rule in &control.rules {
            let of_conditions = rule.conditions.iter().filter(|condition| condition.kind == "container");
            let of_conditions = of_conditions.filter_map(|condition| container_name(&condition.prelude));
            let mut named: Vec<(Kind, String, Span)> =
                of_conditions.map(|name| (Kind::Container, name, rule.span)).collect();
            for declaration in &rule.declarations {
                let names = names_in(&declaration.name.value, &text(declaration));
                named.extend(names.into_iter().map(|(kind, name)| (kind, name, declaration.span)));
            }
            for (kind, name, place) in named {
                sink.decided(CHECK.id, 1);
                let known = defined.of(kind);
                let near = nearest(&name, known.iter().map(String::as_str));
                // A container may be the page's, and so may the grid that a control itself stands in, but for a name that is
                // nearly one of the system's.
                let may_be_of_page =
                    kind == Kind::Container || kind == Kind::Area && rule.target == RuleTarget::default();
                if known.contains(&name) || may_be_of_page && near.is_none() || !told.insert((place, name.clone())) {
                    continue;
                }
                let message = match kind {
                    Kind::Keyframes => format!("there are no keyframes `{name}`"),
                    _ => format!("there is no {} `{name}`", kind.noun()),
                };
                let mend = match near {
                    Some(near) => format!("write `{near}`"),
                    None => format!("write `{}`", kind.definition(&name)),
                };
                let diagnostic =
                    Diagnostic::new(CHECK.level, CHECK.id, place, message).label("defined nowhere").mend(mend);
                sink.find(Some(control), diagnostic);
            }
        }
    }
}

impl Defined {
    fn new(system: &System) -> Defined {
        let names = system.names();
        // What is defined has been given the name that is written for it.
        let keyframes = system.keyframes.iter().map(|keyframes| keyframes.name.value.as_str());
        let mut defined = Defined {
            keyframes: keyframes.flat_map(|name| [name.to_owned(), names.keyframes(name)]).collect(),
            counters: ["list-item".to_owned()].into(),
            ..Defined::default()
        };
        let rules = system.controls.iter().flat_map(|control| &control.rules);
        for declaration in rules.flat_map(|rule| &rule.declarations) {
            let text = text(declaration);
            let words = || tokens(&text).into_iter();
            match declaration.name.value.as_str() {
                "counter-reset" | "counter-increment" | "counter-set" => {
                    defined.counters.extend(words().filter_map(Word::ident));
                }
                "container-name" => defined.containers.extend(words().filter_map(Word::ident)),
                "container" => {
                    defined.containers.extend(words().take_while(|word| *word != Word::Slash).filter_map(Word::ident));
                }
                "grid-template-areas" | "grid-template" | "grid" => {
                    for word in words() {
                        match word {
                            Word::Text(areas) => {
                                defined.areas.extend(areas.split_ascii_whitespace().map(str::to_owned));
                            }
                            Word::Line(name) => defined.areas.extend(line_areas(&name)),
                            _ => {}
                        }
                    }
                }
                "grid-template-columns" | "grid-template-rows" => {
                    for word in words() {
                        if let Word::Line(name) = word {
                            defined.areas.extend(line_areas(&name));
                        }
                    }
                }
                _ => {}
            }
        }
        defined
    }

    fn of(&self, kind: Kind) -> &BTreeSet<String> {
        match kind {
            Kind::Keyframes => &self.keyframes,
            Kind::Counter => &self.counters,
            Kind::Area => &self.areas,
            Kind::Container => &self.containers,
        }
    }
}

/// A line's own name, and that of the area that it begins or ends (CSS Grid 2, section 7.3.3).
fn line_areas(name: &str) -> impl Iterator<Item = String> + use<> {
    let area = name.strip_suffix("-start").or(name.strip_suffix("-end")).map(str::to_owned);
    std::iter::once(name.to_owned()).chain(area)
}

fn text(declaration: &BoundDeclaration) -> String {
    declaration.value.write(&mut |_| "var(--token)".to_owned(), &mut str::to_owned)
}

/// A piece of a value that may be a name.
#[derive(Debug, Clone, PartialEq, Eq)]
enum Word {
    /// A name, or a keyword.
    Ident(String),
    /// A string.
    Text(String),
    /// A name of a line, in brackets.
    Line(String),
    /// The first name in `counter()` or `counters()`.
    Counter(String),
    /// A comma.
    Comma,
    /// A slash.
    Slash,
    /// Something else.
    Other,
}

impl Word {
    fn ident(self) -> Option<String> {
        if let Word::Ident(name) = self { Some(name) } else { None }
    }
}

fn tokens(text: &str) -> Vec<Word> {
    let mut words = Vec::new();
    read(&mut Parser::new(text), &mut words);
    words
}

fn read(parser: &mut Parser, words: &mut Vec<Word>) {
    while let Ok(token) = parser.next().cloned() {
        match token {
            Token::Ident(name) => words.push(Word::Ident(name.to_string())),
            Token::QuotedString(text) => words.push(Word::Text(text.to_string())),
            Token::Comma => words.push(Word::Comma),
            Token::Delim('/') => words.push(Word::Slash),
            Token::SquareBracketBlock => {
                let _ = parser.parse_nested_block(|parser| {
                    while let Ok(name) = parser.expect_ident_cloned() {
                        words.push(Word::Line(name.to_string()));
                    }
                    Ok::<_, ParseError<()>>(())
                });
            }
            Token::Function(name) => {
                let is_counter = ["counter", "counters"].iter().any(|known| name.eq_ignore_ascii_case(known));
                let _ = parser.parse_nested_block(|parser| {
                    let counter = if is_counter { parser.try_parse(|p| p.expect_ident_cloned()).ok() } else { None };
                    words.push(counter.map_or(Word::Other, |name| Word::Counter(name.to_string())));
                    let mut inner = Vec::new();
                    read(parser, &mut inner);
                    // What stands in a function is no name of this value, but for a counter's.
                    words.extend(inner.into_iter().filter(|word| matches!(word, Word::Counter(_) | Word::Line(_))));
                    Ok::<_, ParseError<()>>(())
                });
            }
            _ => words.push(Word::Other),
        }
    }
}

/// What is no name in `animation` (CSS Animations 1, section 3; Animations 2, section 4).
const OF_ANIMATION: [&str; 29] = [
    "none",
    "auto",
    "linear",
    "ease",
    "ease-in",
    "ease-out",
    "ease-in-out",
    "step-start",
    "step-end",
    "infinite",
    "normal",
    "reverse",
    "alternate",
    "alternate-reverse",
    "forwards",
    "backwards",
    "both",
    "running",
    "paused",
    "replace",
    "add",
    "accumulate",
    "scroll",
    "view",
    "inherit",
    "initial",
    "unset",
    "revert",
    "revert-layer",
];

/// What is no name in `grid-area` and the like.
const OF_AREA: [&str; 7] = ["auto", "span", "inherit", "initial", "unset", "revert", "revert-layer"];

/// The names that a declaration asks for.
fn names_in(property: &str, text: &str) -> Vec<(Kind, String)> {
    let words = tokens(text);
    let is_keyword = |list: &[&str], name: &str| list.iter().any(|word| word.eq_ignore_ascii_case(name));
    let mut found: Vec<(Kind, String)> = Vec::new();
    for word in &words {
        match (property, word) {
            (_, Word::Counter(name)) => found.push((Kind::Counter, name.clone())),
            ("animation" | "animation-name" | "-webkit-animation" | "-webkit-animation-name", word) => {
                let name = match word {
                    Word::Ident(name) if !is_keyword(&OF_ANIMATION, name) => name,
                    Word::Text(name) => name,
                    _ => continue,
                };
                found.push((Kind::Keyframes, name.clone()));
            }
            (
                "grid-area" | "grid-row" | "grid-column" | "grid-row-start" | "grid-row-end" | "grid-column-start"
                | "grid-column-end",
                Word::Ident(name),
            ) if !is_keyword(&OF_AREA, name) => found.push((Kind::Area, name.clone())),
            _ => {}
        }
    }
    found
}

/// The name in a container query, where it has one.
fn container_name(prelude: &str) -> Option<String> {
    let first = tokens(prelude).into_iter().next().and_then(Word::ident)?;
    (!["not", "and", "or"].iter().any(|word| first.eq_ignore_ascii_case(word))).then_some(first)
}
