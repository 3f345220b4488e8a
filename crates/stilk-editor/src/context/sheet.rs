//! The cursor in a sheet.

use std::ops::Range;

/// The head of a block that is open at the cursor.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Head {
    /// The at-rule's name without `@`, `&`, or nothing for an option in an axis.
    pub rule: String,
    /// What follows it.
    pub prelude: String,
}

/// What is being written.
#[derive(Debug, Clone, PartialEq, Eq)]
pub enum At {
    /// A comment or a string: nothing of the language.
    Text,
    /// Something that begins: a property, a local, or a rule. What of it is there.
    Start(Range<usize>),
    /// The name of an at-rule, behind its `@`.
    Rule(Range<usize>),
    /// What follows the name of an at-rule.
    Prelude {
        /// The rule.
        rule: String,
        /// The prelude up to the cursor.
        before: String,
        /// The word at the cursor.
        word: Range<usize>,
    },
    /// A value.
    Value {
        /// The property.
        property: String,
        /// The value up to the word.
        before: String,
        /// The word at the cursor.
        word: Range<usize>,
        /// The function that the cursor is directly in.
        function: Option<String>,
    },
    /// The path of a token between braces.
    Reference {
        /// The property, where it is in a declaration.
        property: Option<String>,
        /// The value up to the brace.
        before: String,
        /// The path, all of it.
        path: Range<usize>,
        /// Whether the brace is closed.
        is_closed: bool,
    },
}

/// The cursor and what is around it.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Cursor {
    /// Open blocks, the outermost first.
    pub heads: Vec<Head>,
    /// What is being written.
    pub at: At,
}

impl Cursor {
    /// The control that the cursor is in, or the trait as `@NAME`.
    pub fn owner(&self) -> Option<String> {
        let outer = self.heads.first()?;
        let name = outer.prelude.split_ascii_whitespace().next()?;
        match outer.rule.as_str() {
            "control" => Some(name.to_owned()),
            "trait" => Some(format!("@{name}")),
            _ => None,
        }
    }

    /// Whether the block at the cursor holds options only.
    pub fn is_in_axis(&self) -> bool {
        self.heads.last().is_some_and(|head| head.rule == "axis")
    }
}

/// What stands at a byte of a sheet.
pub fn at(text: &str, offset: usize) -> Cursor {
    let mut offset = offset.min(text.len());
    while !text.is_char_boundary(offset) {
        offset -= 1;
    }
    let bytes = text.as_bytes();
    let mut heads: Vec<Head> = Vec::new();
    let mut start = 0;
    let mut brackets: Vec<usize> = Vec::new();
    let mut at = 0;
    while at < offset {
        match bytes[at] {
            b'/' if bytes.get(at + 1) == Some(&b'*') => match text[at + 2..].find("*/").map(|end| at + 2 + end + 2) {
                Some(end) if end <= offset => {
                    // Before anything else a comment is no part of what it stands before.
                    if text[start..at].trim().is_empty() {
                        start = end;
                    }
                    at = end;
                }
                _ => return Cursor { heads, at: At::Text },
            },
            quote @ (b'"' | b'\'') => {
                let mut end = at + 1;
                while end < bytes.len() && bytes[end] != quote && bytes[end] != b'\n' {
                    end += if bytes[end] == b'\\' { 2 } else { 1 };
                }
                if end >= offset {
                    return Cursor { heads, at: At::Text };
                }
                at = end + 1;
            }
            b'(' | b'[' => {
                brackets.push(at);
                at += 1;
            }
            b')' | b']' => {
                brackets.pop();
                at += 1;
            }
            b'{' => {
                let statement = text[start..at].trim_start();
                if let Some((end, is_closed)) = reference(text, at + 1, statement, !brackets.is_empty()) {
                    if offset <= end {
                        let (property, before) = declared(statement);
                        let before = before.unwrap_or_default().to_owned();
                        let property = property.map(str::to_owned);
                        return Cursor { heads, at: At::Reference { property, before, path: at + 1..end, is_closed } };
                    }
                    at = end + usize::from(is_closed);
                } else {
                    heads.push(head(statement));
                    at += 1;
                    start = at;
                    brackets.clear();
                }
            }
            b'}' => {
                heads.pop();
                at += 1;
                start = at;
                brackets.clear();
            }
            b';' if brackets.is_empty() => {
                at += 1;
                start = at;
            }
            _ => at += 1,
        }
    }
    let statement = text[start..offset].trim_start();
    let begin = offset - statement.len();
    let word = begin + statement.rfind(|c: char| !is_word(c)).map_or(0, |at| at + last_length(statement, at))..offset;
    let before = |from: usize| text[from..word.start].to_owned();
    let at = if let Some(rule) = statement.strip_prefix('@') {
        match rule.find(|c: char| !c.is_alphanumeric() && c != '-') {
            None => At::Rule(begin + 1..offset),
            Some(end) => At::Prelude { rule: rule[..end].to_ascii_lowercase(), before: before(begin + 1 + end), word },
        }
    } else if statement.starts_with('&') {
        At::Prelude { rule: "&".to_owned(), before: before(begin + 1), word }
    } else {
        match declared(statement) {
            (Some(property), Some(_)) => {
                let colon = begin + statement.find(':').unwrap_or_default();
                let function = brackets.last().map(|open| {
                    let name = text[..*open].trim_end_matches(is_word).len();
                    text[name..*open].to_ascii_lowercase()
                });
                let property = property.to_ascii_lowercase();
                At::Value { property, before: before((colon + 1).min(word.start)), word, function }
            }
            _ => At::Start(begin..offset),
        }
    };
    Cursor { heads, at }
}

/// The length in bytes of the character at a byte.
fn last_length(text: &str, at: usize) -> usize {
    text[at..].chars().next().map_or(1, char::len_utf8)
}

fn is_word(c: char) -> bool {
    c.is_alphanumeric() || matches!(c, '-' | '_' | '%' | '#' | '.' | '/')
}

/// The name and the value of a declaration, as far as they are there.
fn declared(statement: &str) -> (Option<&str>, Option<&str>) {
    if statement.starts_with(['@', '&']) {
        return (None, None);
    }
    match statement.split_once(':') {
        Some((name, value)) => (Some(name.trim()), Some(value.trim_start())),
        None => (None, None),
    }
}

/// Where the path ends that begins behind a brace, and whether a brace closes it there; nothing where a block begins.
fn reference(text: &str, start: usize, statement: &str, in_brackets: bool) -> Option<(usize, bool)> {
    let rest = &text[start..];
    let end = rest.find(|c: char| c.is_whitespace() || ":;{}()@,\"'".contains(c)).unwrap_or(rest.len());
    if rest[end..].starts_with('}') && end > 0 {
        return Some((start + end, true));
    }
    let is_value = declared(statement).1.is_some();
    let is_condition = in_brackets && statement.starts_with('@');
    let closes = rest[end..].starts_with('}');
    (is_value || is_condition).then_some((start + end, closes))
}

fn head(statement: &str) -> Head {
    let statement = statement.trim();
    if let Some(rule) = statement.strip_prefix('@') {
        let end = rule.find(|c: char| !c.is_alphanumeric() && c != '-').unwrap_or(rule.len());
        return Head { rule: rule[..end].to_ascii_lowercase(), prelude: rule[end..].trim().to_owned() };
    }
    match statement.strip_prefix('&') {
        Some(condition) => Head { rule: "&".to_owned(), prelude: condition.to_owned() },
        None => Head { rule: String::new(), prelude: statement.to_owned() },
    }
}

/// A block in a sheet.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Block {
    /// What stands before its brace.
    pub head: Range<usize>,
    /// From its brace to the one that closes it, both included.
    pub body: Range<usize>,
    /// The block around it, by index.
    pub parent: Option<usize>,
    /// How many blocks are around it.
    pub depth: usize,
}

/// Every block, in the order of their heads; one that is not closed ends with the text.
pub fn blocks(text: &str) -> Vec<Block> {
    let bytes = text.as_bytes();
    let mut found: Vec<Block> = Vec::new();
    let mut open: Vec<usize> = Vec::new();
    let (mut at, mut start, mut brackets) = (0, 0, 0_usize);
    while at < bytes.len() {
        match bytes[at] {
            b'/' if bytes.get(at + 1) == Some(&b'*') => {
                let end = text[at + 2..].find("*/").map_or(text.len(), |end| at + 2 + end + 2);
                if text[start..at].trim().is_empty() {
                    start = end;
                }
                at = end;
            }
            quote @ (b'"' | b'\'') => {
                at += 1;
                while at < bytes.len() && bytes[at] != quote && bytes[at] != b'\n' {
                    at += if bytes[at] == b'\\' { 2 } else { 1 };
                }
                at += 1;
            }
            b'(' | b'[' => {
                brackets += 1;
                at += 1;
            }
            b')' | b']' => {
                brackets = brackets.saturating_sub(1);
                at += 1;
            }
            b'{' => {
                let statement = text[start..at].trim_start();
                if let Some((end, is_closed)) = reference(text, at + 1, statement, brackets > 0) {
                    at = end + usize::from(is_closed);
                    continue;
                }
                let head = at - statement.len()..at - (statement.len() - statement.trim_end().len());
                let parent = open.last().copied();
                open.push(found.len());
                found.push(Block { head, body: at..text.len(), parent, depth: open.len() - 1 });
                at += 1;
                (start, brackets) = (at, 0);
            }
            b'}' => {
                at += 1;
                if let Some(closed) = open.pop() {
                    found[closed].body.end = at;
                }
                (start, brackets) = (at, 0);
            }
            b';' if brackets == 0 => {
                at += 1;
                start = at;
            }
            _ => at += 1,
        }
    }
    found
}

#[cfg(test)]
mod tests {
    use super::*;

    /// The cursor at `|`.
    fn cursor(text: &str) -> Cursor {
        let offset = text.find('|').unwrap();
        at(&text.replacen('|', "", 1), offset)
    }

    fn at_of(text: &str) -> At {
        cursor(text).at
    }

    #[test]
    fn what_is_written_is_known_before_it_is_whole() {
        assert_eq!(at_of("@con|"), At::Rule(1..4));
        assert_eq!(at_of("@control a {\n  col|"), At::Start(15..18));
        assert_eq!(at_of("@control a { /* co|"), At::Text);
        assert_eq!(at_of("@control a { content: \"x|"), At::Text);
        let value = At::Value { property: "border".into(), before: " 1px ".into(), word: 25..28, function: None };
        assert_eq!(at_of("@control a { border: 1px sol|"), value);
        let At::Value { function, .. } = at_of("@control a { color: color-mix(in oklab, var(--e|)") else { panic!() };
        assert_eq!(function.as_deref(), Some("var"));
        let At::Prelude { rule, before, word } = at_of("@control a { @state selected and ho|") else { panic!() };
        assert_eq!((rule.as_str(), before.as_str(), word), ("state", " selected and ", 33..35));
    }

    #[test]
    fn a_brace_in_a_value_begins_a_path() {
        for text in ["@control a { color: {ink.s|", "@control a { color: {ink.s|}; }", "@derive { a: {ink.s|\n}"] {
            let At::Reference { property, path, is_closed, .. } = at_of(text) else { panic!("{text}") };
            assert!(property.is_some());
            assert_eq!((path.len(), is_closed), (5, text.contains("s|}")), "{text}");
        }
        let At::Reference { property, .. } = at_of("@control a { @media (width < {b|") else { panic!() };
        assert_eq!(property, None);
        let At::Reference { path, .. } = at_of("@control a { color: {|}; }") else { panic!() };
        assert!(path.is_empty());
    }

    #[test]
    fn blocks_are_known_by_their_heads() {
        let text = "@control a { color: {x.y}; @axis size { small { @part b::before { --x: |";
        let found = cursor(text);
        let rules: Vec<&str> = found.heads.iter().map(|head| head.rule.as_str()).collect();
        assert_eq!(rules, ["control", "axis", "", "part"]);
        assert_eq!(found.owner().as_deref(), Some("a"));
        assert_eq!(cursor("@trait ring { @state focus { } |").owner().as_deref(), Some("@ring"));
        assert!(cursor("@control a { @axis size { sm|").is_in_axis());
    }

    #[test]
    fn blocks_lie_in_each_other() {
        let text = "@control a {\n  color: {x.y};\n  @state hover { --x: \"}\"; }\n}\n@trait b { ";
        let blocks = blocks(text);
        let heads: Vec<(&str, Option<usize>)> =
            blocks.iter().map(|block| (&text[block.head.clone()], block.parent)).collect();
        assert_eq!(heads, [("@control a", None), ("@state hover", Some(0)), ("@trait b", None)]);
        assert!(text[blocks[1].body.clone()].ends_with("\"; }"));
        assert_eq!(blocks[2].body.end, text.len());
    }
}
