//! Texts that would end what they stand in, and the places of a project that hold texts and names.

#![allow(dead_code, reason = "each program that uses this needs some of it")]

use std::ops::Range;

/// Ends of what a text may stand in, and what must not come of them.
pub const WORDS: [&str; 16] = [
    "</style><script id=injected></script>",
    "</script><script id=injected></script>",
    "<!--<script>",
    "--><img id=injected onerror=x src=x>",
    "]]><injected/>",
    "\"><img id=injected>",
    "'><img id=injected>",
    "*/ .injected { color: red } /*",
    "\"} .injected { color: red } x { y: \"",
    "'} .injected { color: red } x { y: '",
    ";} .injected { color: red } x {",
    ") { } .injected { color: red } @media (",
    "] .injected { color: red } [x",
    "\\",
    "\n.injected { color: red }\n",
    "*/ export const injected = 1; /*",
];

/// Where texts and names stand in a file.
pub fn places(path: &str, text: &str) -> Vec<Range<usize>> {
    let mut places = Vec::new();
    let mut at = 0;
    let bytes = text.as_bytes();
    let is_word = |byte: u8| byte.is_ascii_alphanumeric() || matches!(byte, b'-' | b'_');
    while at < bytes.len() {
        let (start, end) = match bytes[at] {
            quote @ (b'"' | b'\'') => {
                let end = (at + 1..bytes.len()).find(|end| bytes[*end] == quote).unwrap_or(bytes.len());
                (at + 1, end)
            }
            b'>' if path.ends_with(".html") => {
                (at + 1, (at + 1..bytes.len()).find(|end| bytes[*end] == b'<').unwrap_or(bytes.len()))
            }
            byte if is_word(byte) && path.ends_with(".stilk") => {
                (at, (at..bytes.len()).find(|end| !is_word(bytes[*end])).unwrap_or(bytes.len()))
            }
            _ => {
                at += 1;
                continue;
            }
        };
        if !text[start..end].trim().is_empty() {
            places.push(start..end);
        }
        at = end + 1;
    }
    places
}

/// A text as a file of a kind has it, in as many notations as there are.
pub fn notations(path: &str, text: &str) -> Vec<String> {
    let quoted = serde_json::to_string(text).expect("a string");
    let in_quotes = quoted[1..quoted.len() - 1].to_owned();
    let escaped: String = text.chars().map(|c| format!("\\{:x} ", u32::from(c))).collect();
    match path.rsplit('.').next() {
        Some("json" | "toml") => vec![in_quotes],
        Some("html") => vec![text.replace('&', "&amp;").replace('<', "&lt;").replace('"', "&quot;"), text.to_owned()],
        _ => vec![escaped, text.to_owned()],
    }
}
