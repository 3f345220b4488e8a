//! A value that is put somewhere, and the edits of the sources that put it there.

use crate::{insert, notation};
use serde::{Deserialize, Serialize};
use stilk_language::system::{Control, Rule, System};
use stilk_language::tokens::document::ROOT;
use stilk_language::tokens::{Definition, Token, TokenType};
use stilk_text::diagnostic::{Diagnostics, Edit};
use stilk_text::json::{self, Node};
use stilk_text::source::{FileId, Sources, Span};

/// A value of CSS, or a reference `{group.token}`, and where it is put.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
pub struct Change {
    /// Where it is put.
    pub place: Place,
    /// The value.
    pub value: String,
}

/// Where a value may be put.
#[derive(Debug, Clone, PartialEq, Eq, Hash, Serialize, Deserialize)]
#[serde(tag = "kind", rename_all = "kebab-case")]
pub enum Place {
    /// A token, wherever files give it a value.
    Token {
        /// Its path.
        path: String,
    },
    /// A token where no context says otherwise: its value in the first place.
    TokenBase {
        /// Its path.
        path: String,
    },
    /// A token in one context of a modifier: `theme`, `night`.
    TokenIn {
        /// Its path.
        path: String,
        /// The modifier.
        modifier: String,
        /// The context.
        context: String,
    },
    /// A declaration of a sheet, of a property or of a local.
    Declaration {
        /// The sheet.
        file: String,
        /// The byte that it begins at.
        start: usize,
        /// What it declares: another text has stood there in the meantime where this is not the same.
        property: String,
    },
    /// A declaration of its own, for a combination of options and states.
    Own {
        /// The control.
        control: String,
        /// The options that must be chosen.
        options: Vec<String>,
        /// The states that must hold.
        states: Vec<String>,
        /// The part; none for the control itself.
        part: Option<String>,
        /// The pseudo-element without its colons.
        pseudo: Option<String>,
        /// The property.
        property: String,
    },
}

/// What is edited: a project that loads.
#[derive(Clone, Copy)]
pub struct Ground<'g> {
    /// The system.
    pub system: &'g System,
    /// Its sources.
    pub sources: &'g Sources,
}

impl Change {
    /// The edits that make it.
    ///
    /// # Errors
    /// Why it cannot be made, and what to write instead.
    pub fn edits(&self, ground: Ground) -> Result<Vec<Edit>, String> {
        let value = self.value.trim();
        if value.is_empty() {
            return Err("there is no value: write one, or leave the change out".to_owned());
        }
        match &self.place {
            Place::Token { path } => ground.token_edits(path, value),
            Place::TokenBase { path } => {
                let token = ground.token(path)?;
                let base = token.base.as_ref().ok_or_else(|| format!("`{path}` has a value in contexts only"))?;
                ground.definition_edits(token, base, value)
            }
            Place::TokenIn { path, modifier, context } => ground.edits_in(path, modifier, context, value),
            Place::Declaration { file, start, property } => {
                let declared = ground.declaration(file, *start, property)?;
                is_value(value)?;
                Ok(vec![Edit { span: declared, text: value.to_owned() }])
            }
            Place::Own { .. } => {
                is_value(value)?;
                ground.own_edits(&self.place, value).map(|edit| vec![edit])
            }
        }
    }
}

impl Change {
    /// The values that it writes over, where they are there already.
    fn values(&self, ground: Ground) -> Vec<Span> {
        let spans = |definitions: Vec<&Definition>| definitions.into_iter().map(|one| one.span).collect();
        match &self.place {
            Place::Token { path } => {
                ground.token(path).map(|token| spans(token.definitions().collect())).unwrap_or_default()
            }
            Place::TokenBase { path } => {
                ground.token(path).map(|token| spans(token.base.iter().collect())).unwrap_or_default()
            }
            Place::TokenIn { path, modifier, context } => {
                let Ok(token) = ground.token(path) else { return Vec::new() };
                spans(ground.in_context(token, modifier, context).map(|(_, _, found)| found).unwrap_or_default())
            }
            Place::Declaration { file, start, property } => {
                ground.declaration(file, *start, property).into_iter().collect()
            }
            Place::Own { .. } => Vec::new(),
        }
    }
}

/// The edits of several changes; of two for one place the last counts.
///
/// # Errors
/// Why one of them cannot be made: its place in the list, and the words.
pub fn all_edits(ground: Ground, changes: &[Change]) -> Result<Vec<Edit>, (usize, String)> {
    let mut all: Vec<Edit> = Vec::new();
    for (index, change) in changes.iter().enumerate() {
        if changes[index + 1..].iter().any(|later| later.place == change.place) {
            continue;
        }
        let edits = change.edits(ground).map_err(|why| (index, why))?;
        // One token may be changed everywhere and then in a theme: what is said later counts, also where it is so already.
        let values = change.values(ground);
        let is_within = |one: Span, whole: &Span| {
            one.file == whole.file && whole.start <= one.start && one.end <= whole.end && one.start != one.end
        };
        all.retain(|known| !values.iter().any(|value| is_within(known.span, value)));
        all.extend(edits);
    }
    all.sort();
    all.dedup();
    Ok(all)
}

/// Whether a text can stand as a value in a sheet: it ends nothing and begins nothing.
fn is_value(value: &str) -> Result<(), String> {
    let mut depth = 0_i32;
    let mut quote: Option<char> = None;
    let mut before = ' ';
    let mut is_escaped = false;
    for c in value.chars() {
        // What is escaped opens and closes nothing, a backslash among it.
        let is_plain = !std::mem::take(&mut is_escaped);
        is_escaped = is_plain && c == '\\';
        match (quote, c) {
            (_, '\n' | '\r' | '\u{c}') => return Err(format!("`{value}` is not one value: write it on one line")),
            _ if !is_plain => {}
            (Some(open), c) if c == open => quote = None,
            (Some(_), _) => {}
            (None, '"' | '\'') => quote = Some(c),
            (None, '(' | '{' | '[') => depth += 1,
            (None, ')' | '}' | ']') => depth -= 1,
            (None, ';' | '!' | '@') => return Err(format!("`{value}` is not one value: leave out the `{c}`")),
            (None, '*') if before == '/' => return Err(format!("`{value}` holds a comment: leave it out")),
            _ => {}
        }
        if depth < 0 {
            return Err(format!("`{value}` closes what it has not opened: leave out the `{c}`"));
        }
        before = c;
    }
    match (depth, quote) {
        (0, None) => Ok(()),
        (0, Some(open)) => Err(format!("`{value}` does not end its text: write another `{open}`")),
        _ => Err(format!("`{value}` does not close what it opens: write another `)`")),
    }
}

impl<'g> Ground<'g> {
    /// A token by its path.
    ///
    /// # Errors
    /// There is none, and which one may be meant.
    pub fn token(self, path: &str) -> Result<&'g Token, String> {
        let tokens = &self.system.tokens;
        let found = tokens.find_path(path).map(|id| tokens.get(id));
        found.ok_or_else(|| match tokens.meant(path) {
            Some(meant) => format!("there is no token `{path}`: {meant}"),
            None => format!("there is no token `{path}`"),
        })
    }

    fn token_edits(self, path: &str, value: &str) -> Result<Vec<Edit>, String> {
        let token = self.token(path)?;
        let mut edits = Vec::new();
        for definition in token.definitions() {
            edits.extend(self.definition_edits(token, definition, value)?);
        }
        Ok(edits)
    }

    /// A context by its place, and what a token is given there.
    fn in_context<'t>(
        self,
        token: &'t Token,
        modifier: &str,
        context: &str,
    ) -> Result<(usize, usize, Vec<&'t Definition>), String> {
        let tokens = &self.system.tokens;
        let all: Vec<&str> = tokens.modifiers.iter().map(|modifier| modifier.name.as_str()).collect();
        let Some(at) = all.iter().position(|name| *name == modifier) else {
            return Err(format!("there is no modifier `{modifier}`: there are {}", all.join(", ")));
        };
        let contexts: Vec<&str> = tokens.modifiers[at].contexts.iter().map(|context| context.as_str()).collect();
        let Some(in_context) = contexts.iter().position(|name| *name == context) else {
            return Err(format!("`{modifier}` has no context `{context}`: it has {}", contexts.join(", ")));
        };
        let own = token.overrides.iter().filter(|known| known.modifier == at);
        let found = own.filter_map(|known| known.contexts[in_context].as_ref()).next_back();
        Ok((at, in_context, found.into_iter().collect()))
    }

    fn edits_in(self, path: &str, modifier: &str, context: &str, value: &str) -> Result<Vec<Edit>, String> {
        let token = self.token(path)?;
        let tokens = &self.system.tokens;
        let (at, in_context, found) = self.in_context(token, modifier, context)?;
        if let Some(definition) = found.first() {
            return self.definition_edits(token, definition, value);
        }
        // What a later modifier says would win over it.
        if let Some(later) = token.overrides.iter().find(|known| known.modifier > at) {
            let later = &tokens.modifiers[later.modifier].name.value;
            return Err(format!("`{path}` is set by `{later}`, which comes after `{modifier}`: change it there"));
        }
        self.new_override(token, at, in_context, value)
    }

    /// The first definition of a token in a context, in the file in which that context has others.
    fn new_override(self, token: &Token, modifier: usize, context: usize, value: &str) -> Result<Vec<Edit>, String> {
        let tokens = &self.system.tokens;
        if token.is_member {
            return Err(format!("`{}` is a member: give the whole token a value in this theme", token.path));
        }
        let kind =
            token.kind.ok_or_else(|| format!("`{}` is computed: change what it is computed from", token.path))?;
        let in_context = |other: &&Token| {
            let own = other.overrides.iter().filter(|known| known.modifier == modifier);
            own.filter_map(|known| known.contexts[context].as_ref()).next_back().map(|definition| definition.span.file)
        };
        let files: Vec<(&Token, FileId)> =
            tokens.list.iter().filter_map(|other| Some((other, in_context(&other)?))).collect();
        let alike = files.iter().find(|(other, _)| other.kind == Some(kind)).or(files.first());
        let name = &tokens.modifiers[modifier].contexts[context].value;
        let Some((_, file)) = alike else {
            return Err(format!("`{name}` has no token file yet: add one to it in the resolver"));
        };
        let source = self.sources.file(*file);
        if source.is_outside {
            return Err(format!("`{}` is outside of the project", source.path));
        }
        let root = self.json(*file)?;
        let mut node = &root;
        let mut path: Vec<&str> = token.path.split('.').collect();
        let mut has_type = node.get("$type").is_some();
        while let [first, _, ..] = path[..]
            && let Some(inner) = node.get(first)
        {
            node = inner;
            has_type |= node.get("$type").is_some();
            path.remove(0);
        }
        let [first, rest @ ..] = path.as_slice() else { return Err(format!("`{}` has no name", token.path)) };
        if node.get("$value").is_some() || node.get(first).is_some() && !rest.is_empty() {
            return Err(format!(
                "`{}` cannot be put into `{}`: something else stands in its place",
                token.path, source.path
            ));
        }
        let kind_member = if has_type { String::new() } else { format!("\"$type\": \"{}\", ", kind.name()) };
        let mut written = format!("{{ {kind_member}\"$value\": {} }}", notation::fresh(kind, value)?);
        for name in rest.iter().rev() {
            written = format!("{{ \"{name}\": {written} }}");
        }
        Ok(vec![insert::member(&source.text, node, first, &written)])
    }

    fn definition_edits(self, token: &Token, definition: &Definition, value: &str) -> Result<Vec<Edit>, String> {
        let span = definition.span;
        let source = self.sources.file(span.file);
        if source.is_outside {
            return Err(format!("`{}` is outside of the project: it is changed there", source.path));
        }
        if !source.path.ends_with(".json") {
            // Derived ones stand in sheets.
            is_value(value)?;
            return Ok(vec![Edit { span, text: value.to_owned() }]);
        }
        let kind =
            token.kind.ok_or_else(|| format!("`{}` is computed: change what it is computed from", token.path))?;
        let root = self.json(span.file)?;
        let node = find(&root, span).ok_or_else(|| format!("`{}` has no value of its own in a file", token.path))?;
        let (node, kind) = if token.is_member { member(node, token, kind)? } else { (node, kind) };
        notation::edits(node, kind, value)
    }

    fn json(self, file: FileId) -> Result<Node, String> {
        let read = json::parse(file, self.sources, &mut Diagnostics::default());
        read.ok_or_else(|| format!("`{}` cannot be read", self.sources.file(file).path))
    }

    /// The value of a declaration, from its colon to its end.
    fn declaration(self, file: &str, start: usize, property: &str) -> Result<Span, String> {
        let moved = || format!("`{file}` says something else there by now: choose it again");
        let file_id = self.sources.find(file).ok_or_else(moved)?;
        if self.sources.file(file_id).is_outside {
            return Err(format!("`{file}` is outside of the project: it is changed there"));
        }
        let rules = self.system.controls.iter().flat_map(|control| &control.rules);
        let all = rules.flat_map(|rule| &rule.declarations);
        let mut found = all.filter(|one| one.span.file == file_id && one.span.start as usize == start);
        let found = found.find(|one| one.name.value == property).ok_or_else(moved)?;
        value_span(self.sources, found.span).ok_or_else(moved)
    }

    /// A declaration for a combination: in the block that is for it already, or in a new one at the end of the control.
    fn own_edits(self, place: &Place, value: &str) -> Result<Edit, String> {
        let Place::Own { control, options, states, part, pseudo, property } = place else {
            return Err("it is no place of its own".to_owned());
        };
        let found = self.system.control(control).ok_or_else(|| format!("there is no control `{control}`"))?;
        let is_name =
            |name: &String| !name.is_empty() && name.chars().all(|c| c.is_alphanumeric() || c == '-' || c == '_');
        let names = options.iter().chain(states).chain(part).chain(pseudo).chain([property]);
        if let Some(wrong) = names.into_iter().find(|name| !is_name(name)) {
            return Err(format!("`{wrong}` is no name"));
        }
        let file = found.name.span.file;
        if self.sources.file(file).is_outside {
            return Err(format!("`{}` is outside of the project: it is changed there", self.sources.file(file).path));
        }
        let declaration = format!("{property}: {value};");
        let fits = |rule: &&Rule| self.is_for(found, rule, place) && rule.span.file == file;
        let text = &self.sources.file(file).text;
        if let Some(last) = found.rules.iter().rfind(fits).and_then(|rule| rule.declarations.last()) {
            let end = last.span.range().end;
            let rest = &text[end..];
            let (end, before) = if rest.trim_start().starts_with(';') {
                (end + rest.find(';').unwrap_or(0) + 1, "")
            } else if text[..end].ends_with(';') {
                (end, "")
            } else {
                (end, ";")
            };
            let separator = match insert::begins_line(text, last.span.range().start) {
                true => format!("\n{}", insert::indent_of(text, last.span.range().start)),
                false => " ".to_owned(),
            };
            return Ok(Edit { span: Span::new(file, end, end), text: format!("{before}{separator}{declaration}") });
        }
        let end = block_end(text, found.name.span.range().end)
            .ok_or_else(|| format!("the end of `@control {control}` is not found"))?;
        let mut block = declaration;
        let target = match (part, pseudo) {
            (Some(part), Some(pseudo)) => Some(format!("@part {part}::{pseudo}")),
            (Some(part), None) => Some(format!("@part {part}")),
            (None, Some(pseudo)) => Some(format!("@part ::{pseudo}")),
            (None, None) => None,
        };
        let states = (!states.is_empty()).then(|| format!("@state {}", states.join(" and ")));
        let mut inside = None;
        let options = match options.as_slice() {
            [] => None,
            [one] => match self.option_block(found, one, (file, end))? {
                Ok(brace) => {
                    inside = Some(brace);
                    None
                }
                Err(opened) => Some(opened),
            },
            several => Some(format!("@combine {}", several.join(" "))),
        };
        let opened: Vec<String> = [options, states, target].into_iter().flatten().collect();
        for opening in opened.iter().rev() {
            // An option within its axis has two braces.
            let ends = if opening.starts_with("@axis") { " } }" } else { " }" };
            block = format!("{opening} {{ {block}{ends}");
        }
        let end = inside.unwrap_or(end);
        // Before the brace that ends the control or the option, on a line of its own where that has one.
        let line = text[..end].rfind('\n').map_or(0, |newline| newline + 1);
        let is_alone = text[line..end].trim().is_empty();
        let indent = insert::indent_of(text, end);
        Ok(match is_alone {
            true => Edit { span: Span::new(file, line, line), text: format!("{indent}  {block}\n") },
            false => Edit { span: Span::new(file, end, end), text: format!(" {block} ") },
        })
    }

    /// Where the block of an option of the control's own ends; of one that it has from another control, how it is opened.
    fn option_block(
        self,
        control: &Control,
        option: &str,
        (file, end): (FileId, usize),
    ) -> Result<Result<usize, String>, String> {
        let id = control.find_option(option);
        let id = id.ok_or_else(|| format!("`{}` has no option `{option}`", control.name.value))?;
        let axis = &control.axes[id.axis];
        let span = axis.options[id.option].span;
        let is_own = span.file == file && control.name.span.start < span.start && (span.end as usize) < end;
        let text = &self.sources.file(file).text;
        let brace = is_own.then(|| block_end(text, span.range().end)).flatten();
        Ok(brace.ok_or_else(|| format!("@axis {} {{ {option}", axis.name.value)))
    }

    /// Whether a rule is for a combination and for nothing else.
    fn is_for(self, control: &Control, rule: &Rule, place: &Place) -> bool {
        let Place::Own { options, states, part, pseudo, .. } = place else { return false };
        let mut own: Vec<&str> = rule.options.iter().map(|id| control.option_name(*id)).collect();
        let mut wanted: Vec<&str> = options.iter().map(String::as_str).collect();
        own.sort_unstable();
        wanted.sort_unstable();
        let mut held: Vec<&str> =
            rule.states.ids().iter().map(|id| self.system.states.get(*id).name.as_str()).collect();
        let mut asked: Vec<&str> = states.iter().map(String::as_str).collect();
        held.sort_unstable();
        asked.sort_unstable();
        own == wanted
            && held == asked
            && rule.states.of_parts().is_empty()
            && rule.states.absent().is_empty()
            && rule.hosts.is_empty()
            && rule.nested.is_empty()
            && rule.conditions.is_empty()
            && rule.target.is_plain()
            && rule.target.part == *part
            && rule.target.pseudo.trim_start_matches(':') == pseudo.as_deref().unwrap_or_default()
    }
}

/// The value of a declaration: behind its colon, without what ends it.
pub fn value_span(sources: &Sources, declaration: Span) -> Option<Span> {
    let text = sources.text(declaration);
    let colon = text.find(':')?;
    let value = text[colon + 1..].trim_end().trim_end_matches(';').trim_end();
    let before = value.len() - value.trim_start().len();
    let start = declaration.start as usize + colon + 1 + before;
    Some(Span::new(declaration.file, start, start + value.trim_start().len()))
}

/// The brace that ends the block that is opened behind a byte.
fn block_end(text: &str, from: usize) -> Option<usize> {
    let bytes = text.as_bytes();
    let (mut depth, mut at) = (0_i32, from);
    while at < bytes.len() {
        match bytes[at] {
            b'/' if bytes.get(at + 1) == Some(&b'*') => at += text[at..].find("*/")? + 1,
            quote @ (b'"' | b'\'') => {
                at += 1;
                while at < bytes.len() && bytes[at] != quote {
                    at += if bytes[at] == b'\\' { 2 } else { 1 };
                }
            }
            b'{' => depth += 1,
            b'}' => {
                depth -= 1;
                if depth == 0 {
                    return Some(at);
                }
            }
            _ => {}
        }
        at += 1;
    }
    None
}

/// The node at a place.
fn find(node: &Node, span: Span) -> Option<&Node> {
    if node.span == span {
        return Some(node);
    }
    let inner = node.entries().iter().map(|(_, inner)| inner).chain(node.items());
    inner
        .filter(|inner| inner.span.start <= span.start && span.end <= inner.span.end)
        .find_map(|inner| find(inner, span))
}

/// The member of a composite value that a token is, and its type.
fn member<'n>(node: &'n Node, token: &Token, kind: TokenType) -> Result<(&'n Node, TokenType), String> {
    let name = token.path.rsplit('.').next().unwrap_or_default();
    let found = node.get(name).map(|inner| (inner, kind));
    found.ok_or_else(|| format!("`{}` is given by another token: change that one", token.path))
}

/// The path of a token as people write it: that of a group for the group's own token.
pub fn shown(path: &str) -> &str {
    path.strip_suffix(ROOT).and_then(|group| group.strip_suffix('.')).unwrap_or(path)
}
