//! How large the stylesheets are.

use std::fmt::Write;
use std::io::Write as _;
use std::process::{Command, Stdio};

/// Bytes of both as they are, without white space that says nothing, and compressed.
pub fn table(ours: &str, by_hand: &str) -> String {
    let mut text = String::from("| size | bytes | gzip | rules | custom properties |\n|---|---:|---:|---:|---:|\n");
    for (name, css) in [("ours, minified", ours), ("by hand, as written", by_hand)] {
        let _ = writeln!(
            text,
            "| {name} | {} | {} | {} | {} |",
            css.len(),
            compressed(css),
            css.matches('{').count(),
            customs(css)
        );
    }
    text
}

/// The length of a text in gzip's best form.
fn compressed(css: &str) -> usize {
    let child = Command::new("gzip").args(["-9", "-c"]).stdin(Stdio::piped()).stdout(Stdio::piped()).spawn();
    let mut child = child.expect("gzip");
    let mut input = child.stdin.take().expect("its input");
    let text = css.to_owned();
    let writer = std::thread::spawn(move || input.write_all(text.as_bytes()));
    let output = child.wait_with_output().expect("its output");
    writer.join().expect("a thread").expect("its input");
    output.stdout.len()
}

/// How many custom properties a stylesheet declares.
fn customs(css: &str) -> usize {
    let mut found = std::collections::BTreeSet::new();
    for part in css.split(['{', ';']) {
        if let Some((name, _)) = part.trim().split_once(':')
            && name.starts_with("--")
        {
            found.insert(name.to_owned());
        }
    }
    found.len()
}
