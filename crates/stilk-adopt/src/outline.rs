//! The text of a stylesheet by its blocks: where each begins and ends, so that some can be left out and all else stays as it is.

use std::collections::{BTreeMap, BTreeSet};
use std::ops::Range;

/// A block of a stylesheet: a rule or an at-rule with braces.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Block {
    /// What stands before the brace, without white space and comments around it.
    pub prelude: Range<usize>,
    /// What stands between the braces.
    pub body: Range<usize>,
    /// The block it stands in.
    pub parent: Option<usize>,
}

/// A stylesheet's blocks.
#[derive(Debug, Default)]
pub struct Outline {
    /// In the order of the text.
    pub blocks: Vec<Block>,
    /// Statements at the top that end with a semicolon: `@import …;`.
    pub statements: Vec<Range<usize>>,
    /// Closing braces that close nothing.
    pub strays: Vec<usize>,
    by_prelude: BTreeMap<usize, usize>,
}

/// Steps over what is no structure: comments, strings, escapes.
fn skip(bytes: &[u8], at: usize) -> Option<usize> {
    match bytes[at] {
        b'/' if bytes.get(at + 1) == Some(&b'*') => {
            let end = bytes[at + 2..].windows(2).position(|pair| pair == b"*/");
            Some(end.map_or(bytes.len(), |end| at + 2 + end + 2))
        }
        quote @ (b'"' | b'\'') => {
            let mut i = at + 1;
            while i < bytes.len() {
                match bytes[i] {
                    b'\\' => i += 2,
                    // A string ends with its line (CSS Syntax 3, section 4.3.5).
                    b'\n' => return Some(i),
                    byte if byte == quote => return Some(i + 1),
                    _ => i += 1,
                }
            }
            Some(bytes.len())
        }
        b'\\' => Some((at + 2).min(bytes.len())),
        b'u' | b'U' if bytes.len() > at + 4 && bytes[at..at + 4].eq_ignore_ascii_case(b"url(") => {
            let inner = bytes[at + 4..].iter().position(|byte| !byte.is_ascii_whitespace()).map(|i| at + 4 + i)?;
            if matches!(bytes[inner], b'"' | b'\'') {
                return None;
            }
            Some(bytes[inner..].iter().position(|byte| *byte == b')').map_or(bytes.len(), |end| inner + end + 1))
        }
        _ => None,
    }
}

impl Outline {
    /// Reads a text. Like browsers, it takes any.
    pub fn of(text: &str) -> Outline {
        let bytes = text.as_bytes();
        let mut outline = Outline::default();
        let (mut open, mut brackets): (Vec<usize>, Vec<usize>) = (Vec::new(), vec![0]);
        let (mut start, mut at) = (None, 0);
        while at < bytes.len() {
            if let Some(next) = skip(bytes, at) {
                if bytes[at] != b'/' {
                    start.get_or_insert(at);
                }
                at = next;
                continue;
            }
            let depth = brackets.last_mut();
            match (bytes[at], depth) {
                (b'(' | b'[', Some(depth)) => *depth += 1,
                (b')' | b']', Some(depth)) => *depth = depth.saturating_sub(1),
                (b'{', Some(0)) => {
                    let from = start.unwrap_or(at);
                    let prelude = from..from + text[from..at].trim_end().len();
                    outline.by_prelude.insert(from, outline.blocks.len());
                    let parent = open.last().copied();
                    open.push(outline.blocks.len());
                    outline.blocks.push(Block { prelude, body: at + 1..bytes.len(), parent });
                    brackets.push(0);
                    (start, at) = (None, at + 1);
                    continue;
                }
                (b'{', Some(_)) => brackets.push(1),
                (b'}', _) => {
                    match open.last().filter(|_| brackets.len() == open.len() + 1) {
                        Some(index) => {
                            outline.blocks[*index].body.end = at;
                            open.pop();
                            brackets.pop();
                        }
                        None if open.is_empty() => outline.strays.push(at),
                        None => drop(brackets.pop()),
                    }
                    (start, at) = (None, at + 1);
                    continue;
                }
                (b';', Some(0)) => {
                    if let (Some(from), true) = (start, open.is_empty()) {
                        outline.statements.push(from..at + 1);
                    }
                    (start, at) = (None, at + 1);
                    continue;
                }
                _ => {}
            }
            if !bytes[at].is_ascii_whitespace() {
                start.get_or_insert(at);
            }
            at += 1;
        }
        outline
    }

    /// The block whose prelude begins at an offset.
    pub fn at(&self, offset: usize) -> Option<usize> {
        self.by_prelude.get(&offset).copied()
    }

    /// The preludes of the at-rules around a block, the outermost first.
    pub fn around<'t>(&self, text: &'t str, block: usize) -> Vec<&'t str> {
        let mut found = Vec::new();
        let mut at = self.blocks[block].parent;
        while let Some(index) = at {
            let prelude = &text[self.blocks[index].prelude.clone()];
            if prelude.starts_with('@') {
                found.push(prelude);
            }
            at = self.blocks[index].parent;
        }
        found.reverse();
        found
    }
}

/// The declaration that begins at an offset: its name, its value without `!important`, and where it ends.
pub fn declaration(text: &str, offset: usize) -> Option<(&str, &str, usize)> {
    let rest = text.get(offset..)?;
    let colon = rest.find(':')?;
    let name = rest[..colon].trim();
    let bytes = text.as_bytes();
    let (mut at, mut depth) = (offset + colon + 1, 0_usize);
    while at < bytes.len() {
        if let Some(next) = skip(bytes, at) {
            at = next;
            continue;
        }
        match bytes[at] {
            b'(' | b'[' | b'{' => depth += 1,
            b'}' if depth == 0 => break,
            b')' | b']' | b'}' => depth = depth.saturating_sub(1),
            b';' if depth == 0 => break,
            _ => {}
        }
        at += 1;
    }
    let value = text[offset + colon + 1..at.min(text.len())].trim();
    let value = match value.rfind('!') {
        Some(bang) if value[bang + 1..].trim().eq_ignore_ascii_case("important") => value[..bang].trim_end(),
        _ => value,
    };
    let end = if bytes.get(at) == Some(&b';') { at + 1 } else { at };
    Some((name, value, end))
}

/// What of a text is left out.
#[derive(Debug, Default)]
pub struct Cuts {
    /// By the offset of a block's prelude: the selectors that go, by their place in the list.
    pub selectors: BTreeMap<usize, BTreeSet<usize>>,
    /// Offsets of declarations.
    pub declarations: BTreeSet<usize>,
}

/// A text without what is cut. Blocks of which nothing is left go with the lines they stood on; layers stay, for their order.
pub fn without(text: &str, outline: &Outline, cuts: &Cuts) -> String {
    let mut children: Vec<Vec<usize>> = vec![Vec::new(); outline.blocks.len()];
    for (index, block) in outline.blocks.iter().enumerate() {
        if let Some(parent) = block.parent {
            children[parent].push(index);
        }
    }
    let mut removed: Vec<Range<usize>> = Vec::new();
    let mut replaced: Vec<(Range<usize>, String)> = Vec::new();
    // From the inside out: what stands in a block is looked at before it.
    let mut is_gone = vec![false; outline.blocks.len()];
    for index in (0..outline.blocks.len()).rev() {
        let block = &outline.blocks[index];
        let prelude = &text[block.prelude.clone()];
        let own: Vec<Range<usize>> = own_declarations(text, outline, block, &children[index]);
        let inner_gone = children[index].iter().all(|child| is_gone[*child]);
        if prelude.starts_with('@') {
            let is_layer = prelude.len() >= 6 && prelude[..6].eq_ignore_ascii_case("@layer");
            is_gone[index] = !is_layer && own.is_empty() && inner_gone && !children[index].is_empty();
            continue;
        }
        let none = BTreeSet::new();
        let cut = cuts.selectors.get(&block.prelude.start).unwrap_or(&none);
        let list = stilk_engine::cascade::selector::split_list(prelude);
        let all_cut = !cut.is_empty() && (0..list.len()).all(|at| cut.contains(&at));
        let dropped: Vec<Range<usize>> =
            own.iter().filter(|range| all_cut || cuts.declarations.contains(&range.start)).cloned().collect();
        if dropped.len() == own.len() && inner_gone && (!own.is_empty() || !children[index].is_empty() || all_cut) {
            is_gone[index] = true;
        } else {
            removed.extend(dropped.iter().map(|range| with_line(text, range.clone())));
            // What is nested in a rule may need the selectors that its own declarations do not.
            if !cut.is_empty() && !all_cut && children[index].is_empty() {
                let left: Vec<&str> =
                    list.iter().enumerate().filter(|(at, _)| !cut.contains(at)).map(|(_, one)| one.trim()).collect();
                replaced.push((block.prelude.clone(), left.join(", ")));
            }
        }
    }
    for (index, block) in outline.blocks.iter().enumerate() {
        let is_outermost = block.parent.is_none_or(|parent| !is_gone[parent]);
        if is_gone[index] && is_outermost {
            removed.push(with_line(text, block.prelude.start..(block.body.end + 1).min(text.len())));
        }
    }
    let mut edits: Vec<(Range<usize>, String)> = removed.into_iter().map(|range| (range, String::new())).collect();
    edits.extend(replaced);
    // A brace that closes nothing would close what the text is put into.
    edits.extend(outline.strays.iter().map(|at| (*at..*at + 1, "\\7d ".to_owned())));
    edits.sort_by_key(|(range, _)| (range.start, std::cmp::Reverse(range.end)));
    let (mut written, mut at) = (String::with_capacity(text.len()), 0);
    for (range, instead) in edits {
        if range.start < at {
            continue;
        }
        written.push_str(&text[at..range.start]);
        written.push_str(&instead);
        at = range.end;
    }
    written.push_str(&text[at..]);
    written
}

/// The declarations that stand right in a block.
fn own_declarations(text: &str, outline: &Outline, block: &Block, children: &[usize]) -> Vec<Range<usize>> {
    let bytes = text.as_bytes();
    let (mut found, mut at) = (Vec::new(), block.body.start);
    while at < block.body.end {
        if let Some(child) = children.iter().map(|child| &outline.blocks[*child]).find(|c| c.prelude.start == at) {
            at = child.body.end + 1;
            continue;
        }
        if bytes[at].is_ascii_whitespace() || bytes[at] == b';' {
            at += 1;
            continue;
        }
        if bytes[at] == b'/'
            && let Some(next) = skip(bytes, at)
        {
            at = next;
            continue;
        }
        let end = declaration(text, at).map_or(block.body.end, |(_, _, end)| end);
        let end = end.clamp(at + 1, block.body.end.max(at + 1));
        found.push(at..end);
        at = end;
    }
    found
}

/// A range with the line it stands on, where nothing else does.
fn with_line(text: &str, range: Range<usize>) -> Range<usize> {
    let before = text[..range.start].rfind('\n').map_or(0, |at| at + 1);
    let after = text[range.end..].find('\n').map_or(text.len(), |at| range.end + at + 1);
    let is_alone = text[before..range.start].trim().is_empty() && text[range.end..after].trim().is_empty();
    if is_alone { before..after } else { range }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn cut(text: &str, selectors: &[(&str, &[usize])], declarations: &[&str]) -> String {
        let mut cuts = Cuts::default();
        for (prelude, list) in selectors {
            cuts.selectors.insert(text.find(prelude).expect("there"), list.iter().copied().collect());
        }
        cuts.declarations = declarations.iter().map(|text_of| text.find(text_of).expect("there")).collect();
        without(text, &Outline::of(text), &cuts)
    }

    #[test]
    fn what_is_left_out_leaves_all_else_as_it_was() {
        let text = "/* a */\n.a, .b { color: red; }\n@media print {\n  .c { x: \"}\"; }\n}\np { top: url(a;b}c) }\n";
        assert_eq!(cut(text, &[(".a, .b", &[0, 1])], &[]), text.replace(".a, .b { color: red; }\n", ""));
        assert_eq!(cut(text, &[(".a, .b", &[1])], &[]), text.replace(".a, .b", ".a"));
        assert_eq!(
            cut(text, &[(".c", &[0])], &[]),
            "/* a */\n.a, .b { color: red; }\np { top: url(a;b}c) }\n",
            "a block of which nothing is left goes as well"
        );
    }

    #[test]
    fn nested_rules_keep_what_they_stand_in() {
        let text = ".a {\n  color: red;\n  &:hover { color: blue; }\n}\n";
        assert_eq!(cut(text, &[(".a", &[0])], &[]), ".a {\n  &:hover { color: blue; }\n}\n");
        assert_eq!(cut(text, &[(".a", &[0]), ("&:hover", &[0])], &[]), "");
        assert_eq!(cut(text, &[], &["color: red"]), ".a {\n  &:hover { color: blue; }\n}\n");
    }

    #[test]
    fn layers_stay_and_stray_braces_close_nothing() {
        assert_eq!(cut("@layer a { .x { top: 0 } }", &[(".x", &[0])], &[]), "@layer a {  }");
        assert_eq!(cut("} .x { top: 0 }", &[], &[]), "\\7d  .x { top: 0 }");
        assert_eq!(cut(".x { top: 0", &[(".x", &[0])], &[]), "");
    }

    #[test]
    fn declarations_end_where_browsers_end_them() {
        for (text, name, value) in [
            ("color: red; x", "color", "red"),
            ("a : url(x;y) }", "a", "url(x;y)"),
            ("b: \"}\" ! important}", "b", "\"}\""),
            ("--x: { a: b; c }; d", "--x", "{ a: b; c }"),
        ] {
            assert_eq!(declaration(text, 0).map(|(name, value, _)| (name, value)), Some((name, value)), "{text}");
        }
    }
}
