//! What people and programs read: one renderer per format, all from the same diagnostics.

pub mod json;
pub mod source_map;
pub mod terminal;

/// A number with thousands apart: `12,345`.
pub fn grouped(number: u64) -> String {
    let digits = number.to_string();
    let mut text = String::new();
    for (i, digit) in digits.chars().enumerate() {
        if i > 0 && (digits.len() - i).is_multiple_of(3) {
            text.push(',');
        }
        text.push(digit);
    }
    text
}

/// `1 case`, `2 cases`.
pub fn count(number: u64, noun: &str) -> String {
    format!("{} {noun}{}", grouped(number), if number == 1 { "" } else { "s" })
}
