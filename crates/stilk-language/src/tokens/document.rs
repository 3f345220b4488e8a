//! A token file as definitions: paths, declared types and raw values, not yet typed.

use super::extends;
use super::value::TokenType;
use stilk_text::diagnostic::{Diagnostic, Diagnostics};
use stilk_text::json::{Json, Node};
use stilk_text::source::{Name, Span};

/// Groups deeper than this are refused.
pub const MAX_DEPTH: usize = 64;

/// The name of a group's own token.
pub const ROOT: &str = "$root";

/// One token as a file has it.
#[derive(Debug, Clone)]
pub struct RawToken {
    /// Its whole path.
    pub path: String,
    /// The place of its own name.
    pub name: Span,
    /// Its type: its own `$type`, or that of the nearest group.
    pub kind: Option<TokenType>,
    /// Whether a `$type` stands there that could not be read, which was reported.
    pub misread: bool,
    /// Its `$value`.
    pub value: Node,
    /// Its `$description`.
    pub description: Option<String>,
    /// Why it should no longer be used, from `$deprecated` on it or its group; empty without a reason.
    pub deprecated: Option<String>,
    /// Its `$extensions`.
    pub extensions: Option<Node>,
}

/// Reads the tokens of a document, in the order of the file.
pub fn read(root: &Node, diagnostics: &mut Diagnostics) -> Vec<RawToken> {
    let mut tokens = Vec::new();
    match root.json {
        Json::Object(_) => {
            let root = extends::expand(root, diagnostics);
            let mut reader = Reader { tokens: &mut tokens, diagnostics };
            reader.group(&root, "", Inherited::default(), 0);
        }
        _ => diagnostics.push(
            Diagnostic::error("token/shape", root.span, format!("a token file is an object, not {}", root.kind()))
                .mend("write `{ \"group\": { \"token\": { \"$type\": …, \"$value\": … } } }`"),
        ),
    }
    tokens
}

/// What groups hand down to the tokens in them.
#[derive(Clone, Default)]
struct Inherited {
    kind: Option<TokenType>,
    misread: bool,
    deprecated: Option<String>,
}

impl Inherited {
    fn with(mut self, node: &Node, diagnostics: &mut Diagnostics) -> Inherited {
        if node.get("$type").is_some() {
            self.kind = declared_type(node, diagnostics);
            self.misread = self.kind.is_none();
        }
        match node.get("$deprecated").map(|node| &node.json) {
            Some(Json::Bool(true)) => self.deprecated = Some(String::new()),
            Some(Json::Bool(false)) => self.deprecated = None,
            Some(Json::String(reason)) => self.deprecated = Some(reason.clone()),
            _ => {}
        }
        self
    }
}

struct Reader<'r> {
    tokens: &'r mut Vec<RawToken>,
    diagnostics: &'r mut Diagnostics,
}

impl Reader<'_> {
    fn group(&mut self, group: &Node, path: &str, inherited: Inherited, depth: usize) {
        let diagnostics = &mut *self.diagnostics;
        if depth > MAX_DEPTH {
            let message = format!("groups are nested deeper than {MAX_DEPTH}");
            diagnostics.push(Diagnostic::error("token/shape", group.span, message).mend("use flatter groups"));
            return;
        }
        let inherited = inherited.with(group, diagnostics);
        for (name, node) in group.entries() {
            let diagnostics = &mut *self.diagnostics;
            // `$root` is the one token whose name begins with `$`: the group's own value (section 6.4).
            if name.value.starts_with('$') && name.value != ROOT {
                check_reserved(name, diagnostics);
                continue;
            }
            if name.value != ROOT && !check_name(name, diagnostics) {
                continue;
            }
            let path = if path.is_empty() { name.value.clone() } else { format!("{path}.{}", name.value) };
            match (&node.json, node.get("$value")) {
                (_, Some(value)) => {
                    for (member, inner) in node.entries() {
                        if member.value.starts_with('$') {
                            check_reserved(member, diagnostics);
                        } else {
                            diagnostics.push(
                                Diagnostic::error(
                                    "token/shape",
                                    member.span,
                                    format!("`{path}` is a token and a group"),
                                )
                                .label("a token has no tokens inside it")
                                .related(inner.span, "this would be inside it")
                                .mend("move it beside the token, or take `$value` away"),
                            );
                        }
                    }
                    let own = inherited.clone().with(node, diagnostics);
                    self.tokens.push(RawToken {
                        path,
                        name: name.span,
                        kind: own.kind,
                        misread: own.misread,
                        value: value.clone(),
                        description: node.get("$description").and_then(Node::as_str).map(str::to_owned),
                        deprecated: own.deprecated,
                        extensions: node.get("$extensions").cloned(),
                    });
                }
                (Json::Object(_), None) => {
                    self.group(node, &path, inherited.clone(), depth + 1);
                }
                _ => diagnostics.push(
                    Diagnostic::error("token/shape", node.span, format!("`{path}` is {}, not a token", node.kind()))
                        .label("here")
                        .mend("write `{ \"$type\": …, \"$value\": … }`"),
                ),
            }
        }
    }
}

fn declared_type(node: &Node, diagnostics: &mut Diagnostics) -> Option<TokenType> {
    let node = node.get("$type")?;
    let name = Name { value: node.as_str().unwrap_or_default().to_owned(), span: node.span };
    TokenType::read(&name).map_err(|d| diagnostics.push(d)).ok()
}

fn check_reserved(name: &Name, diagnostics: &mut Diagnostics) {
    const KNOWN: [&str; 8] =
        ["$value", "$type", "$description", "$extensions", "$deprecated", "$schema", "$ref", "$extends"];
    if !KNOWN.contains(&name.as_str()) {
        diagnostics.push(stilk_text::diagnostic::unknown_name("token/shape", "property", name, KNOWN));
    }
}

fn check_name(name: &Name, diagnostics: &mut Diagnostics) -> bool {
    let bad = name.value.chars().find(|c| matches!(c, '{' | '}' | '.'));
    // Names become parts of CSS identifiers; anything CSS would have to escape is refused where it is written.
    let odd = name.value.chars().find(|c| !(c.is_alphanumeric() || matches!(c, '-' | '_')));
    match bad.or(odd) {
        None if !name.value.is_empty() => true,
        found => {
            let message = match found {
                Some(c) => format!("a token's name cannot hold `{c}`"),
                None => "a token's name cannot be empty".to_owned(),
            };
            diagnostics.push(
                Diagnostic::error("token/name", name.span, message)
                    .label("letters, digits, `-` and `_`")
                    .mend("write a name such as `sea` or `sea-label`"),
            );
            false
        }
    }
}
