//! What checks mean, for a terminal and as a page.

use super::wrapped;
use stilk_checks::check::Check;
use stilk_checks::example::Example;
use stilk_checks::registry::CHECKS;
use stilk_survey::fault::{KINDS, Kind};

/// Columns of a terminal.
const WIDTH: usize = 80;

/// All checks, one line each.
pub fn list() -> String {
    let mut text = String::new();
    let ids = CHECKS.iter().map(|check| check.id).chain(KINDS.map(|kind| kind.id));
    let widest = ids.map(str::len).max().unwrap_or_default();
    for check in CHECKS {
        let mut lines = wrapped(check.summary, WIDTH - widest - 2).into_iter();
        text.push_str(&format!("{:widest$}  {}\n", check.id, lines.next().unwrap_or_default()));
        for line in lines {
            text.push_str(&format!("{:widest$}  {line}\n", ""));
        }
    }
    text.push_str("\nOf stylesheets that nobody wrote for Stilk, asked by `stilk survey`:\n\n");
    for kind in KINDS {
        let mut lines = wrapped(kind.summary, WIDTH - widest - 2).into_iter();
        text.push_str(&format!("{:widest$}  {}\n", kind.id, lines.next().unwrap_or_default()));
        for line in lines {
            text.push_str(&format!("{:widest$}  {line}\n", ""));
        }
    }
    text.push_str("\n`stilk explain CHECK` says why, with an example and the mend.\n");
    text
}

/// One check.
pub fn one(check: &Check) -> String {
    let mut text = format!("{} ({})\n", check.id, check.level.word());
    for (title, words) in
        [("Holds when", check.summary), ("Why", check.why), ("Mend", check.mend), ("Source", check.source)]
    {
        text.push_str(&format!("\n{title}\n"));
        for line in wrapped(words, WIDTH - 2) {
            text.push_str(&format!("  {line}\n"));
        }
    }
    for (title, example) in [("Fails", &check.fails), ("Passes", &check.passes)] {
        text.push_str(&format!("\n{title}\n"));
        for (_, source) in shown(example) {
            for line in source.trim().lines() {
                text.push_str(&format!("  {line}\n"));
            }
        }
    }
    text
}

/// One of those that only foreign stylesheets have.
pub fn of_foreign(kind: &Kind) -> String {
    let mut text = format!("{} ({})\n", kind.id, kind.level.word());
    for (title, words) in
        [("Holds when", kind.summary), ("Why", kind.why), ("Mend", kind.mend), ("Source", kind.source)]
    {
        text.push_str(&format!("\n{title}\n"));
        for line in wrapped(words, WIDTH - 2) {
            text.push_str(&format!("  {line}\n"));
        }
    }
    for (title, example) in [("Fails", kind.fails), ("Passes", kind.passes)] {
        text.push_str(&format!("\n{title}\n"));
        for line in example.trim().lines() {
            text.push_str(&format!("  {line}\n"));
        }
    }
    text
}

/// What is said while sources are read, or of a command.
pub fn of_reading(id: &str, words: &str) -> String {
    let mut text = format!("{id} (error)\n\n");
    for line in wrapped(&format!("Said when {words}."), WIDTH - 2) {
        text.push_str(&format!("  {line}\n"));
    }
    text.push_str("\n  The message itself says where, and what to write instead.\n");
    text
}

/// All checks as a page.
pub fn page() -> String {
    let mut text = String::from(
        "# Checks\n\nWritten by `stilk explain --format markdown`; every example is run by a test.\n\n\
         A level in `stilk.toml` replaces that of a check: `[checks] levels = { \"token/unused\" = \"off\" }`. \
         `@waive CHECK \"reason\";` in a control accepts what it finds there. Checks of `markup` and `page` are asked by `stilk scan`, \
         of pages; the pages below are of a system with the prefix `ex`, a button with the option `calm`, and a field.\n\n",
    );
    text.push_str(&format!("All examples share these tokens:\n\n```json\n{{{}\n}}\n```\n", Example::TOKENS));
    for check in CHECKS {
        text.push_str(&format!(
            "\n## {}\n\n*{}.* Holds when {}.\n\n{}\n\n",
            check.id,
            check.level.word(),
            check.summary,
            check.why
        ));
        text.push_str(&format!("**Mend.** {}\n\n**Source.** {}.\n", check.mend, check.source));
        for (title, example) in [("Fails", &check.fails), ("Passes", &check.passes)] {
            text.push_str(&format!("\n{title}:\n"));
            for (language, source) in shown(example) {
                text.push_str(&format!("\n```{language}\n{}\n```\n", source.trim()));
            }
        }
    }
    text.push_str(
        "\n# Findings of foreign stylesheets\n\nAsked by `stilk survey` beside the checks of looks above, of pages that nobody wrote for Stilk.\n",
    );
    for kind in KINDS {
        text.push_str(&format!(
            "\n## {}\n\n*{}.* Holds when {}.\n\n{}\n\n**Mend.** {}\n\n**Source.** {}.\n",
            kind.id,
            kind.level.word(),
            kind.summary,
            kind.why,
            kind.mend,
            kind.source
        ));
        for (title, example) in [("Fails", kind.fails), ("Passes", kind.passes)] {
            text.push_str(&format!("\n{title}:\n\n```html\n{}\n```\n", example.trim()));
        }
    }
    text
}

/// What of an example is not the same in all of them.
fn shown(example: &Example) -> Vec<(&'static str, String)> {
    let mut parts = Vec::new();
    if !example.tokens.is_empty() {
        parts.push(("json", example.tokens.trim().lines().map(str::trim).collect::<Vec<_>>().join("\n")));
    }
    if let Some([day, night]) = example.themes {
        parts.push(("text", format!("day:   {day}\nnight: {night}")));
    }
    if let Some(page) = example.document() {
        // The system behind it is the same for all pages.
        parts.push(("html", page));
        return parts;
    }
    if example.template != Example::TEMPLATE {
        parts.push(("html", example.template.to_owned()));
    }
    parts.push(("css", example.sheet.to_owned()));
    parts
}
