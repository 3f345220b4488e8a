//! The cursor in a template or a page.

use std::ops::Range;

/// What is being written.
#[derive(Debug, Clone, PartialEq, Eq)]
pub enum At {
    /// The name of an attribute in a tag of an element.
    Attribute(String, Range<usize>),
    /// A word of the value of an attribute: the element, the attribute, its whole value, the word.
    Value(String, String, Range<usize>, Range<usize>),
    /// Anything else.
    Text,
}

/// What stands at a byte of HTML.
pub fn at(text: &str, offset: usize) -> At {
    let mut offset = offset.min(text.len());
    while !text.is_char_boundary(offset) {
        offset -= 1;
    }
    // The tag that is open here, if one is: a `>` inside of quotes does not close it.
    let Some(open) = open_tag(text, offset) else { return At::Text };
    let name_end = text[open + 1..].find(|c: char| !c.is_ascii_alphanumeric() && c != '-');
    let name_end = name_end.map_or(text.len(), |end| open + 1 + end);
    let element = text[open + 1..name_end].to_ascii_lowercase();
    if element.is_empty() || offset <= name_end {
        return At::Text;
    }
    let mut at = name_end;
    let is_space = |c: char| c.is_ascii_whitespace();
    loop {
        let rest = &text[at..];
        let start = at + rest.find(|c: char| !is_space(c) && c != '/').unwrap_or(rest.len());
        if start >= offset {
            return At::Attribute(element, offset..offset);
        }
        let end = text[start..].find(|c: char| is_space(c) || c == '=' || c == '>').map_or(text.len(), |e| start + e);
        if offset <= end {
            return At::Attribute(element, start..offset);
        }
        let attribute = text[start..end].to_ascii_lowercase();
        let after = text[end..].trim_start();
        let Some(value) = after.strip_prefix('=') else {
            if end == start {
                return At::Text;
            }
            at = end;
            continue;
        };
        let value = value.trim_start();
        let value_start = text.len() - value.len();
        let (from, to) = match value.chars().next() {
            Some(quote @ ('"' | '\'')) => {
                let from = value_start + 1;
                // Half-written, it ends with its line.
                (from, text[from..].find([quote, '\n']).map_or(text.len(), |end| from + end))
            }
            _ => {
                let to = text[value_start..].find(|c: char| is_space(c) || c == '>');
                (value_start, to.map_or(text.len(), |end| value_start + end))
            }
        };
        if offset <= to {
            if offset < from {
                return At::Text;
            }
            let start = text[from..offset].rfind(is_space).map_or(from, |space| from + space + 1);
            let end = text[offset..to].find(is_space).map_or(to, |space| offset + space);
            return At::Value(element, attribute, from..to, start..end);
        }
        at = (to + 1).min(text.len());
    }
}

/// Where the tag begins that the byte is in.
fn open_tag(text: &str, offset: usize) -> Option<usize> {
    let mut at = 0;
    let mut open = None;
    let mut quote: Option<u8> = None;
    let bytes = text.as_bytes();
    while at < offset {
        match (open, quote, bytes[at]) {
            (None, _, b'<') if text[at..].starts_with("<!--") => {
                at = text[at..].find("-->").map_or(offset, |end| at + end + 3);
                continue;
            }
            (None, _, b'<') => (open, quote) = (Some(at), None),
            (Some(_), None, b'>') => open = None,
            (Some(_), None, mark @ (b'"' | b'\'')) => quote = Some(mark),
            (Some(_), Some(mark), byte) if mark == byte => quote = None,
            // A quote that is never closed does not swallow the page.
            (Some(_), Some(_), b'<') => (open, quote) = (Some(at), None),
            _ => {}
        }
        at += 1;
    }
    open
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn words_of_attributes_are_found() {
        let find = |text: &str| at(&text.replacen('|', "", 1), text.find('|').unwrap());
        let At::Value(element, attribute, _, word) = find("<p>a > b</p><button class=\"x te|r\" id=a>") else {
            panic!()
        };
        assert_eq!((element.as_str(), attribute.as_str(), word.len()), ("button", "class", 3));
        assert_eq!(find("<p>te|xt</p>"), At::Text);
        assert_eq!(find("<!-- <a class=\"|\"> -->"), At::Text);
        assert!(matches!(find("<a cl|"), At::Attribute(element, _) if element == "a"));
        assert!(matches!(find("<a class=\"b|\n<p>"), At::Value(..)));
    }
}
