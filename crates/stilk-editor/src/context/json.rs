//! The cursor in a token or resolver file.

use std::ops::Range;

/// What is being written.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Cursor {
    /// The keys of the objects around it, the outermost first; items of arrays are `[]`.
    pub keys: Vec<String>,
    /// Whether a key is written; otherwise its value.
    pub is_key: bool,
    /// Whether it is inside of quotes.
    pub in_string: bool,
    /// What stands there: inside of the quotes, or the word.
    pub word: Range<usize>,
    /// Keys that the object around it has already, those before the cursor.
    pub known: Vec<String>,
}

struct Open {
    is_object: bool,
    key: Option<String>,
    expects_key: bool,
    known: Vec<String>,
}

/// What stands at a byte of a document.
pub fn at(text: &str, offset: usize) -> Cursor {
    let bytes = text.as_bytes();
    let mut open: Vec<Open> = Vec::new();
    let mut at = 0;
    let mut string = None;
    while at < offset.min(bytes.len()) {
        match bytes[at] {
            b'"' => {
                let mut end = at + 1;
                while end < bytes.len() && bytes[end] != b'"' && bytes[end] != b'\n' {
                    end += if bytes[end] == b'\\' { 2 } else { 1 };
                }
                let end = end.min(bytes.len());
                if end >= offset {
                    string = Some(at + 1..end);
                    break;
                }
                if let Some(inner) = open.last_mut().filter(|inner| inner.is_object && inner.expects_key) {
                    let key = text[at + 1..end].to_owned();
                    inner.known.push(key.clone());
                    inner.key = Some(key);
                }
                at = end + 1;
            }
            bracket @ (b'{' | b'[') => {
                let is_object = bracket == b'{';
                open.push(Open { is_object, key: None, expects_key: is_object, known: Vec::new() });
                at += 1;
            }
            b'}' | b']' => {
                open.pop();
                at += 1;
            }
            b':' => {
                if let Some(inner) = open.last_mut() {
                    inner.expects_key = false;
                }
                at += 1;
            }
            b',' => {
                if let Some(inner) = open.last_mut().filter(|inner| inner.is_object) {
                    (inner.expects_key, inner.key) = (true, None);
                }
                at += 1;
            }
            _ => at += 1,
        }
    }
    let is_key = open.last().is_some_and(|inner| inner.is_object && inner.expects_key);
    let known = open.last().map(|inner| inner.known.clone()).unwrap_or_default();
    let mut keys = Vec::new();
    for (at, inner) in open.iter().enumerate() {
        let is_last = at + 1 == open.len();
        if !inner.is_object {
            keys.push("[]".to_owned());
        } else if !(is_last && is_key) {
            keys.extend(inner.key.clone());
        }
    }
    let in_string = string.is_some();
    let word = string.unwrap_or_else(|| {
        let start = text[..offset].trim_end_matches(|c: char| c.is_alphanumeric() || "$-_.{".contains(c)).len();
        start..offset
    });
    Cursor { keys, is_key, in_string, word, known }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn keys_and_values_are_told_apart() {
        let find = |text: &str| at(&text.replacen('|', "", 1), text.find('|').unwrap());
        let value = find(r#"{ "ink": { "$type": "color", "soft": { "$value": "{sea.|" "#);
        assert_eq!(
            (value.keys, value.is_key, value.in_string),
            (vec!["ink".into(), "soft".into(), "$value".into()], false, true)
        );
        let key = find(r#"{ "ink": { "$type": "color", "|" } }"#);
        assert_eq!((key.keys, key.is_key, key.known), (vec!["ink".to_owned()], true, vec!["$type".to_owned()]));
        let item = find(r#"{ "a": [{ "$ref": "|" }] }"#);
        assert_eq!(item.keys, ["a", "[]", "$ref"]);
    }
}
