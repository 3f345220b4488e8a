//! What people and programs read: one renderer per format, all from the same diagnostics.

pub mod compare;
pub mod explain;
pub mod failure;
pub mod fingerprint;
pub mod json;
pub mod junit;
pub mod markdown;
pub mod matrix;
pub mod merged;
pub mod pairs;
pub mod sarif;
pub mod scan;
pub mod source_map;
pub mod survey;
pub mod terminal;
pub mod why;

use crate::say::Ink;
use anstyle::{RgbColor, Style};
pub use stilk_text::diagnostic::{clipped, count, grouped};

/// Text broken into lines of at most so many columns; longer words stand alone.
pub fn wrapped(text: &str, width: usize) -> Vec<String> {
    let mut lines = vec![String::new()];
    for word in text.split_whitespace() {
        let line = lines.last().map_or(0, |line| line.chars().count());
        if line > 0 && line + 1 + word.chars().count() > width {
            lines.push(String::new());
        }
        if let Some(last) = lines.last_mut() {
            if !last.is_empty() {
                last.push(' ');
            }
            last.push_str(word);
        }
    }
    lines
}

/// What could not be decided and why, in lines of a terminal; those after the first are indented.
pub fn unknown_in(number: u64, noun: &str, reason: &str) -> String {
    const WIDTH: usize = 80;
    const INDENT: &str = "\n  ";
    wrapped(&format!("unknown in {}: {reason}", count(number, noun)), WIDTH - 2).join(INDENT)
}

/// A text's pixel on that behind it, in the true colours of a terminal.
pub fn swatch(text: [f64; 3], behind: [f64; 3]) -> Ink {
    let color = |pixel: [f64; 3]| {
        let [r, g, b] = pixel.map(|channel| (channel * 255.0).round() as u8);
        RgbColor(r, g, b)
    };
    Ink(Style::new().fg_color(Some(color(text).into())).bg_color(Some(color(behind).into())))
}
