//! Documents that show Stilk at work: what they write is written, what they run is run, and must print what they say.
//!
//! ```` ```css controls/chip.stilk ```` writes a file, ```` ```diff controls/chip.stilk ```` edits one, ```` ```console ```` runs
//! each line behind a `$` by a shell; a line `…` stands for any lines. Other blocks are read, not run. With `STILK_ACCEPT=1`
//! what is printed is written into the document.

use crate::support::Project;
use std::path::{Path, PathBuf};
use std::process::Command;

/// A fenced block of a document.
struct Block<'t> {
    language: &'t str,
    file: &'t str,
    text: &'t str,
}

/// Splits a document into what stands between fences and the blocks.
fn blocks(document: &str) -> Vec<Block<'_>> {
    let mut found = Vec::new();
    let mut rest = document;
    while let Some((_, after)) = rest.split_once("\n```") {
        let (info, after) = after.split_once('\n').expect("a block that begins");
        let end = if after.starts_with("```") { 0 } else { after.find("\n```").expect("a block that ends") + 1 };
        let (language, file) = info.split_once(' ').unwrap_or((info, ""));
        found.push(Block { language, file, text: &after[..end] });
        rest = &after[end + 3..];
    }
    found
}

/// An edit: lines that begin with `-` become those that begin with `+`, others stand on both sides.
fn edited(text: &str, edit: &str, file: &str) -> String {
    let side = |own: char| -> String {
        let kept = edit.lines().filter(|line| line.starts_with([' ', own]) || line.is_empty());
        kept.map(|line| format!("{}\n", line.get(1..).unwrap_or_default())).collect()
    };
    let (from, to) = (side('-'), side('+'));
    assert_eq!(text.matches(&from).count(), 1, "{file} does not hold once\n{from}\nbut\n{text}");
    text.replacen(&from, &to, 1)
}

/// Whether what was printed is what is expected, where a line `…` stands for any.
fn is_as(expected: &str, printed: &str) -> bool {
    let parts: Vec<&str> = expected.split("…\n").collect();
    let Some(mut rest) = printed.strip_prefix(parts[0]) else { return false };
    for (i, part) in parts.iter().enumerate().skip(1) {
        match rest.find(part) {
            Some(_) if i + 1 == parts.len() && part.is_empty() => return true,
            Some(_) if i + 1 == parts.len() => return rest.ends_with(part),
            Some(at) => rest = &rest[at + part.len()..],
            None => return false,
        }
    }
    rest.is_empty()
}

fn shell(command: &str, folder: &Path, home: &Path) -> String {
    let program = Path::new(env!("CARGO_BIN_EXE_stilk")).parent().expect("a folder");
    let path = format!("{}:{}", program.display(), std::env::var("PATH").unwrap_or_default());
    let output = Command::new("bash")
        .args(["-c", &format!("exec 2>&1; {command}")])
        .current_dir(folder)
        .env("PATH", path)
        .env("HOME", home)
        .env("NO_COLOR", "1")
        .env("GIT_CONFIG_COUNT", "3")
        .envs([("GIT_CONFIG_KEY_0", "user.name"), ("GIT_CONFIG_VALUE_0", "Maren")])
        .envs([("GIT_CONFIG_KEY_1", "user.email"), ("GIT_CONFIG_VALUE_1", "maren@harbour.invalid")])
        .envs([("GIT_CONFIG_KEY_2", "init.defaultBranch"), ("GIT_CONFIG_VALUE_2", "main")])
        .output()
        .expect("bash");
    String::from_utf8(output.stdout).expect("text")
}

/// Walks through a document of the repository, named from its root, in an empty folder or one that was prepared.
#[track_caller]
pub fn through(name: &str, project: &Project) {
    let path = Path::new(env!("CARGO_MANIFEST_DIR")).join("../..").join(name);
    let document = std::fs::read_to_string(&path).unwrap_or_else(|why| panic!("{name}: {why}"));
    let accepts = std::env::var_os("STILK_ACCEPT").is_some();
    let mut accepted = String::new();
    let mut copied = 0;
    let mut inside = PathBuf::new();
    let mut commands = 0;
    for block in blocks(&document) {
        let here = project.path("").join(&inside);
        let at = |file: &str| here.join(file);
        match (block.language, block.file) {
            ("console", _) => {
                let mut whole = String::new();
                for run in block.text.split("$ ").skip(1) {
                    let (command, expected) = run.split_once('\n').expect("a command");
                    commands += 1;
                    let printed = match command.strip_prefix("cd ") {
                        Some(folder) => {
                            inside.push(folder);
                            String::new()
                        }
                        None => shell(command, &project.path("").join(&inside), &project.path("")),
                    };
                    let is_right = is_as(expected, &printed);
                    assert!(accepts || is_right, "{name}: `{command}` prints\n{printed}\nnot\n{expected}");
                    whole.push_str(&format!("$ {command}\n{}", if is_right { expected } else { &printed }));
                }
                let start = block.text.as_ptr().addr() - document.as_ptr().addr();
                accepted.push_str(&document[copied..start]);
                accepted.push_str(&whole);
                copied = start + block.text.len();
            }
            ("diff", file) => {
                let text = std::fs::read_to_string(at(file)).unwrap_or_else(|why| panic!("{name}: {file}: {why}"));
                std::fs::write(at(file), edited(&text, block.text, file)).expect("a file");
            }
            (_, "") => {}
            (_, file) => {
                std::fs::create_dir_all(at(file).parent().expect("a folder")).expect("a folder");
                std::fs::write(at(file), block.text).expect("a file");
            }
        }
    }
    assert!(commands > 1, "{name} shows little at work: {commands} commands");
    accepted.push_str(&document[copied..]);
    if accepts && accepted != document {
        std::fs::write(path, accepted).expect("the document");
    }
}
