//! Resolver documents, Resolver module 2025.10: sets, modifiers and the order they are resolved in.

use super::document::{self, RawToken};
use crate::limits::MAX_TOKENS;
use std::collections::HashMap;
use stilk_text::diagnostic::{Diagnostic, unknown_name};
use stilk_text::json::{self, Json, Node};
use stilk_text::loader::Loader;
use stilk_text::source::{FileId, Name, Span};

/// What the resolution order names, in order: later entries override earlier ones.
#[derive(Debug, Default)]
pub struct Order {
    /// Sets and modifiers.
    pub entries: Vec<ResolutionEntry>,
    /// Whether a file could not be read.
    pub incomplete: bool,
}

/// One entry of the resolution order.
#[derive(Debug)]
pub enum ResolutionEntry {
    /// Tokens that hold in every theme.
    Set(Vec<RawToken>),
    /// Tokens that depend on a choice.
    Modifier {
        /// Its name.
        name: Name,
        /// Each context's name and tokens.
        contexts: Vec<(Name, Vec<RawToken>)>,
        /// Index of the default context.
        default: usize,
    },
}

impl Order {
    /// Plain token files, in order, without modifiers.
    pub fn of_files(paths: &[Name], loader: &mut Loader) -> Order {
        let mut order = Order::default();
        for path in paths {
            match read_file(&path.value, path.span, loader) {
                Some(tokens) => order.entries.push(ResolutionEntry::Set(tokens)),
                None => order.incomplete = true,
            }
        }
        order
    }
}

/// Reads a resolver document and every file it names.
pub fn read(path: &Name, loader: &mut Loader) -> Option<Order> {
    let file = loader.read(&path.value, Some(path.span))?;
    let root = json::parse(file, &loader.sources, &mut loader.diagnostics)?;
    let folder = path.value.rsplit_once('/').map_or(String::new(), |(folder, _)| format!("{folder}/"));
    let mut reader = Reader { root: &root, folder, loader, incomplete: false, gathered: 0, is_too_much: false };
    reader.check_head(file);
    let entries = reader.read_order();
    Some(Order { entries, incomplete: reader.incomplete })
}

fn read_file(path: &str, named_at: Span, loader: &mut Loader) -> Option<Vec<RawToken>> {
    let file = loader.read(path, Some(named_at))?;
    let node = json::parse(file, &loader.sources, &mut loader.diagnostics)?;
    Some(document::read(&node, &mut loader.diagnostics))
}

/// Sets may refer to sets, not without end.
const MAX_SET_DEPTH: usize = 16;

struct Reader<'r, 'l> {
    root: &'r Node,
    folder: String,
    loader: &'r mut Loader<'l>,
    incomplete: bool,
    /// How many tokens were taken from sources, those of sets that others name each time.
    gathered: usize,
    /// Whether that was too much, which is said once.
    is_too_much: bool,
}

impl Reader<'_, '_> {
    fn say(&mut self, diagnostic: Diagnostic) {
        self.loader.diagnostics.push(diagnostic);
    }

    fn check_head(&mut self, file: FileId) {
        let start = Span::new(file, 0, 1);
        match self.root.get("version") {
            Some(node) if node.as_str() == Some("2025.10") => {}
            found => {
                let span = found.map_or(start, |n| n.span);
                self.say(
                    Diagnostic::error("resolver/version", span, "the resolver's version is not \"2025.10\"")
                        .mend("write `\"version\": \"2025.10\"`"),
                );
            }
        }
        const KNOWN: [&str; 9] = [
            "version",
            "name",
            "description",
            "sets",
            "modifiers",
            "resolutionOrder",
            "$schema",
            "$defs",
            "$extensions",
        ];
        for (name, _) in self.root.entries() {
            if !KNOWN.contains(&name.as_str()) {
                self.say(unknown_name("resolver/shape", "member of a resolver document", name, KNOWN));
            }
        }
    }

    fn read_order(&mut self) -> Vec<ResolutionEntry> {
        let root = self.root;
        let Some(order) = root.get("resolutionOrder").filter(|n| matches!(n.json, Json::Array(_))) else {
            self.say(
                Diagnostic::error("resolver/shape", root.span, "the resolver has no `resolutionOrder`")
                    .mend("write `\"resolutionOrder\": [{ \"$ref\": \"#/sets/NAME\" }]`"),
            );
            return Vec::new();
        };
        order.items().iter().filter_map(|item| self.read_stage(item)).collect()
    }

    fn read_stage(&mut self, item: &Node) -> Option<ResolutionEntry> {
        let Some(reference) = item.get("$ref") else {
            return self.read_inline(item);
        };
        let pointer = reference.as_str().unwrap_or_default();
        let root = self.root;
        for kind in ["sets", "modifiers"] {
            let Some(name) = pointer.strip_prefix(&format!("#/{kind}/")) else { continue };
            let entries = root.get(kind).map(Node::entries).unwrap_or_default();
            let Some((name, node)) = entries.iter().find(|(known, _)| known.value == name) else {
                let wrong = Name { value: name.to_owned(), span: reference.span };
                let what = &kind[..kind.len() - 1];
                self.say(unknown_name("resolver/reference", what, &wrong, entries.iter().map(|e| e.0.as_str())));
                return None;
            };
            return if kind == "sets" {
                let tokens = self.read_sources(node.get("sources"), node.span);
                Some(ResolutionEntry::Set(tokens))
            } else {
                self.read_modifier(name, node)
            };
        }
        self.say(
            Diagnostic::error(
                "resolver/reference",
                reference.span,
                format!("`{pointer}` names no set and no modifier"),
            )
            .mend("write `#/sets/NAME` or `#/modifiers/NAME`"),
        );
        None
    }

    /// An item of the order that is a set or modifier itself, with `type` and `name`.
    fn read_inline(&mut self, item: &Node) -> Option<ResolutionEntry> {
        let name = item.get("name").and_then(|n| Some(Name { value: n.as_str()?.to_owned(), span: n.span }));
        match (item.get("type").and_then(Node::as_str), name) {
            (Some("set"), Some(_)) => Some(ResolutionEntry::Set(self.read_sources(item.get("sources"), item.span))),
            (Some("modifier"), Some(name)) => self.read_modifier(&name, item),
            _ => {
                self.say(
                    Diagnostic::error("resolver/shape", item.span, "this is no reference, no set and no modifier").mend(
                        "write `{ \"$ref\": \"#/sets/NAME\" }`, or an object with `type`, `name` and `sources` or `contexts`",
                    ),
                );
                None
            }
        }
    }

    fn read_modifier(&mut self, name: &Name, node: &Node) -> Option<ResolutionEntry> {
        let entries = node.get("contexts").map(Node::entries).unwrap_or_default();
        if entries.is_empty() {
            self.say(
                Diagnostic::error(
                    "resolver/shape",
                    name.span,
                    format!("the modifier `{}` has no contexts", name.value),
                )
                .mend("write `\"contexts\": { \"day\": [], \"night\": [{ \"$ref\": \"FILE\" }] }`"),
            );
            return None;
        }
        let mut contexts = Vec::new();
        for (context, sources) in entries {
            let tokens = self.read_sources(Some(sources), context.span);
            contexts.push((context.clone(), tokens));
        }
        let default = match node.get("default") {
            None => {
                self.say(
                    Diagnostic::error(
                        "resolver/shape",
                        name.span,
                        format!("the modifier `{}` has no default", name.value),
                    )
                    .mend(format!("write `\"default\": \"{}\"`", contexts[0].0.value)),
                );
                0
            }
            Some(wanted) => {
                let word = wanted.as_str().unwrap_or_default();
                match contexts.iter().position(|(context, _)| context.value == word) {
                    Some(index) => index,
                    None => {
                        let wrong = Name { value: word.to_owned(), span: wanted.span };
                        let known = contexts.iter().map(|(context, _)| context.as_str());
                        let diagnostic = unknown_name("resolver/reference", "context", &wrong, known);
                        self.say(diagnostic);
                        0
                    }
                }
            }
        };
        Some(ResolutionEntry::Modifier { name: name.clone(), contexts, default })
    }

    /// Files, sets and inline tokens; later ones override earlier ones.
    fn read_sources(&mut self, sources: Option<&Node>, owner: Span) -> Vec<RawToken> {
        self.read_sources_at(sources, owner, 0)
    }

    /// The sources of a set that another names.
    fn read_set(&mut self, name: &str, reference: Span, depth: usize) -> Option<Vec<RawToken>> {
        let root = self.root;
        let entries = root.get("sets").map(Node::entries).unwrap_or_default();
        match entries.iter().find(|(known, _)| known.value == name) {
            Some((_, node)) if depth < MAX_SET_DEPTH => {
                Some(self.read_sources_at(node.get("sources"), node.span, depth + 1))
            }
            Some(_) => {
                self.say(
                    Diagnostic::error("resolver/reference", reference, "sets refer to each other in a circle")
                        .mend("let one of them stand alone"),
                );
                None
            }
            None => {
                let wrong = Name { value: name.to_owned(), span: reference };
                self.say(unknown_name("resolver/reference", "set", &wrong, entries.iter().map(|e| e.0.as_str())));
                None
            }
        }
    }

    fn read_sources_at(&mut self, sources: Option<&Node>, owner: Span, depth: usize) -> Vec<RawToken> {
        let Some(sources) = sources.filter(|n| matches!(n.json, Json::Array(_))) else {
            self.say(
                Diagnostic::error("resolver/shape", owner, "the sources are not a list")
                    .mend("write `[{ \"$ref\": \"FILE.tokens.json\" }]`"),
            );
            return Vec::new();
        };
        let mut tokens: Vec<Option<RawToken>> = Vec::new();
        let mut places: HashMap<String, usize> = HashMap::new();
        for source in sources.items() {
            if self.gathered > MAX_TOKENS {
                let message = format!("the sources of all sets and contexts come to more than {MAX_TOKENS} tokens");
                if !self.is_too_much {
                    self.say(
                        Diagnostic::error("resolver/size", owner, message)
                            .mend("let fewer sets name others that do so too"),
                    );
                }
                self.is_too_much = true;
                self.incomplete = true;
                return tokens.into_iter().flatten().collect();
            }
            let read = match source.get("$ref") {
                Some(reference) => {
                    let text = reference.as_str().unwrap_or_default();
                    match text.strip_prefix("#/sets/") {
                        Some(name) => self.read_set(name, reference.span, depth),
                        None => read_file(&format!("{}{text}", self.folder), reference.span, self.loader),
                    }
                }
                None => Some(document::read(source, &mut self.loader.diagnostics)),
            };
            match read {
                Some(read) => {
                    // A source without tokens takes its time too.
                    self.gathered += read.len().max(16);
                    for token in read {
                        // The later one counts, and where it stands.
                        if let Some(place) = places.insert(token.path.clone(), tokens.len()) {
                            tokens[place] = None;
                        }
                        tokens.push(Some(token));
                    }
                }
                None => self.incomplete = true,
            }
        }
        tokens.into_iter().flatten().collect()
    }
}
