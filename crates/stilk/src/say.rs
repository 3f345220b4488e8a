//! What reaches the terminal, and pipes and files in its place. Everything is printed here: names and texts come from files,
//! pages and arguments, and a terminal obeys what stands in them. Control characters are therefore shown as `\u{1b}`; only
//! styles that the program itself made get through, which bear a mark that nobody else knows. Output that nobody takes ends the
//! program with code 2.

use anstyle::Style;
use std::fmt::{Arguments, Display, Formatter};
use std::io::{ErrorKind, Write};
use std::sync::OnceLock;

/// Prints a line on standard output.
macro_rules! say {
    ($($text:tt)*) => { $crate::say::out(format_args!($($text)*), "\n") };
}

/// Prints text on standard output as it stands.
macro_rules! put {
    ($($text:tt)*) => { $crate::say::out(format_args!($($text)*), "") };
}

/// Prints a line on standard error.
macro_rules! tell {
    ($($text:tt)*) => { $crate::say::error(format_args!($($text)*), "\n") };
}

/// A style of a terminal that [`shown`] lets through: `{ink}` begins it, `{ink:#}` ends it.
#[derive(Clone, Copy, Default, PartialEq, Eq)]
pub struct Ink(pub Style);

impl Display for Ink {
    fn fmt(&self, f: &mut Formatter) -> std::fmt::Result {
        let style = if f.alternate() { format!("{:#}", self.0) } else { self.0.to_string() };
        f.write_str(&marked(&style))
    }
}

/// What the program's own styles begin with in place of the escape character; another one in each run.
fn mark() -> &'static str {
    static MARK: OnceLock<String> = OnceLock::new();
    MARK.get_or_init(|| format!("\u{1b}\u{1f}{:032x}\u{1f}", fastrand::u128(..)))
}

/// A text with styles that the program made: [`shown`] lets them through.
pub fn marked(styled: &str) -> String {
    styled.replace('\u{1b}', mark())
}

/// A text as a terminal may get it: its own styles, and no other control characters but tabs and line ends.
pub fn shown(text: &str) -> String {
    // Most texts have no styles.
    if !text.as_bytes().contains(&0x1b) {
        return visible(text);
    }
    let mut parts = text.split(mark());
    let mut shown = parts.next().map(visible).unwrap_or_default();
    for part in parts {
        shown.push('\u{1b}');
        shown.push_str(&visible(part));
    }
    shown
}

/// A text without styles and control characters.
pub fn plain(text: &str) -> String {
    anstream::adapter::strip_str(&shown(text)).to_string()
}

/// Control characters, and those that turn the direction of what follows, as `\u{1b}`.
pub fn visible(text: &str) -> String {
    written(text, &|c| c.escape_unicode().to_string())
}

fn written(text: &str, escape: &dyn Fn(char) -> String) -> String {
    // Most texts are plain.
    if text.bytes().all(|byte| matches!(byte, b'\n' | b'\t' | b' '..=b'~')) {
        return text.to_owned();
    }
    let mut written = String::with_capacity(text.len());
    for c in text.replace("\r\n", "\n").chars() {
        match is_hidden(c) {
            true => written.push_str(&escape(c)),
            false => written.push(c),
        }
    }
    written
}

/// Whether a character moves a terminal's cursor, its colours, or the direction of text, and shows nothing itself.
pub fn is_hidden(c: char) -> bool {
    let turns = matches!(c, '\u{200e}' | '\u{200f}' | '\u{202a}'..='\u{202e}' | '\u{2066}'..='\u{2069}');
    turns || c.is_control() && !matches!(c, '\n' | '\t')
}

/// A path or another name in one line.
pub fn in_line(text: &str) -> String {
    text.chars()
        .map(|c| if is_hidden(c) || c.is_control() { c.escape_unicode().to_string() } else { c.into() })
        .collect()
}

/// A path or a name as a shell takes it for one word.
pub fn word(text: &str) -> String {
    let is_plain = |c: char| c.is_alphanumeric() || "-_./@:+,=%".contains(c);
    match !text.is_empty() && text.chars().all(is_plain) && !text.starts_with('-') {
        true => text.to_owned(),
        false => in_line(&format!("'{}'", text.replace('\'', "'\\''"))),
    }
}

/// Prints for people.
pub fn out(text: Arguments, end: &str) {
    write(&mut anstream::stdout(), &(shown(&text.to_string()) + end));
}

/// Prints JSON: what a terminal would obey is escaped as JSON has it (RFC 8259, section 7).
pub fn json(text: &str) {
    write(&mut std::io::stdout(), &as_json(text));
}

/// JSON in which what a terminal would obey is escaped.
pub fn as_json(text: &str) -> String {
    written(text, &|c| format!("\\u{:04x}", u32::from(c)))
}

/// Prints what went through [`shown`] or [`as_json`] already.
pub fn ready(text: &str) {
    write(&mut std::io::stdout(), text);
}

/// Prints HTML, SVG or Markdown, which have no notation for control characters.
pub fn markup(text: &str) {
    let kept = |c: char| match c.is_control() {
        true => "\u{fffd}".to_owned(),
        false => c.to_string(),
    };
    write(&mut std::io::stdout(), &written(text, &kept));
}

/// Prints what is wrong.
pub fn error(text: Arguments, end: &str) {
    // Nobody is left to be told.
    let _ = anstream::stderr().write_all((shown(&text.to_string()) + end).as_bytes());
}

/// Takes care that everything was printed.
pub fn flush() {
    if let Err(error) = std::io::stdout().flush() {
        give_up(&error);
    }
}

fn write(stream: &mut dyn Write, text: &str) {
    if let Err(error) = stream.write_all(text.as_bytes()) {
        give_up(&error);
    }
}

fn give_up(error: &std::io::Error) -> ! {
    let words = match error.kind() {
        ErrorKind::BrokenPipe => "nobody reads the output any more".to_owned(),
        _ => error.to_string(),
    };
    self::error(format_args!("error: the output could not be written: {words}"), "\n");
    std::process::exit(2)
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn own_styles_get_through_and_nothing_else() {
        let ink = Ink(Style::new().bold());
        let text = format!("{ink}name{ink:#} \u{1b}[31mred\u{9b}31m\u{7f}\r\u{202e}\tend\n");
        assert_eq!(shown(&text), "\u{1b}[1mname\u{1b}[0m \\u{1b}[31mred\\u{9b}31m\\u{7f}\\u{d}\\u{202e}\tend\n");
        assert_eq!(in_line("a\nb\u{1b}"), "a\\u{a}b\\u{1b}");
        assert_eq!(["a/b.c", "a b", "it's", ""].map(word), ["a/b.c", "'a b'", "'it'\\''s'", "''"]);
        assert_eq!(plain(&text), "name \\u{1b}[31mred\\u{9b}31m\\u{7f}\\u{d}\\u{202e}\tend\n");
    }
}
