//! The cursor in the manifest.

use std::ops::Range;

/// What is being written.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Cursor {
    /// The table, `modifiers.theme`.
    pub table: String,
    /// The key whose value is written; nothing where a key or a table's head is.
    pub key: Option<String>,
    /// Whether the head of a table is written.
    pub is_head: bool,
    /// The word at the cursor, without quotes.
    pub word: Range<usize>,
    /// Whether it stands in quotes.
    pub in_string: bool,
}

/// What stands at a byte of the manifest.
pub fn at(text: &str, offset: usize) -> Cursor {
    let mut offset = offset.min(text.len());
    while !text.is_char_boundary(offset) {
        offset -= 1;
    }
    let line_start = text[..offset].rfind('\n').map_or(0, |at| at + 1);
    let heads = text[..line_start].lines().rev().filter_map(|line| line.trim().strip_prefix('['));
    let table = heads.filter_map(|rest| rest.split_once(']')).map(|(name, _)| name.trim().to_owned()).next();
    let line = &text[line_start..offset];
    let is_head = line.trim_start().starts_with('[') && !line.contains(']') && !line.contains('=');
    let in_string = line.matches('"').count() % 2 == 1;
    let start = match (in_string, line.rfind('"')) {
        (true, Some(quote)) => line_start + quote + 1,
        _ => text[..offset].trim_end_matches(|c: char| c.is_alphanumeric() || "-_.".contains(c)).len(),
    };
    let key = line.split_once('=').map(|(key, _)| key.trim().to_owned()).filter(|_| !is_head);
    Cursor { table: table.unwrap_or_default(), key, is_head, word: start.max(line_start)..offset, in_string }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn tables_keys_and_values_are_told_apart() {
        let find = |text: &str| at(&text.replacen('|', "", 1), text.find('|').unwrap());
        let key = find("[system]\nname = \"x\"\n[stylesheet]\nlay|");
        assert_eq!((key.table.as_str(), key.key, key.word.len()), ("stylesheet", None, 3));
        let value = find("[stylesheet]\nsplit = \"th|\"");
        assert_eq!((value.key.as_deref(), value.in_string), (Some("split"), true));
        assert!(find("[sur|").is_head);
    }
}
