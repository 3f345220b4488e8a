//! What holds of the code as a whole: crates point downward, no circle of modules crosses folders, the core touches nothing
//! outside of itself, and docs/architecture.md shows the crates as Cargo has them.

mod modules;

use modules::{Module, circles, modules_of};
use std::collections::{BTreeMap, BTreeSet};
use std::path::{Path, PathBuf};
use std::process::Command;

/// The crates that have no files, terminal, network or clock, the lowest first: each may use those before it.
const CORE: [&str; 9] = [
    "stilk-text",
    "stilk-engine",
    "stilk-language",
    "stilk-checks",
    "stilk-editor",
    "stilk-survey",
    "stilk-adopt",
    "stilk-views",
    "stilk-nudge",
];

fn root() -> PathBuf {
    Path::new(env!("CARGO_MANIFEST_DIR")).join("../..")
}

fn sources_of(name: &str) -> PathBuf {
    root().join("crates").join(name).join("src")
}

/// A crate of this repository: what it is, and which of them it uses.
struct Crate {
    description: String,
    uses: BTreeSet<String>,
}

/// The crates, as Cargo has them.
fn crates() -> BTreeMap<String, Crate> {
    let output = Command::new(env!("CARGO"))
        .args(["metadata", "--format-version", "1", "--no-deps", "--offline"])
        .current_dir(root())
        .output()
        .expect("cargo runs");
    assert!(output.status.success(), "{}", String::from_utf8_lossy(&output.stderr));
    let metadata: serde_json::Value = serde_json::from_slice(&output.stdout).expect("JSON");
    let text = |value: &serde_json::Value| value.as_str().unwrap_or_default().to_owned();
    let packages = metadata["packages"].as_array().expect("packages");
    let names: BTreeSet<String> = packages.iter().map(|package| text(&package["name"])).collect();
    let one = |package: &serde_json::Value| {
        let used = package["dependencies"].as_array().expect("dependencies").iter();
        // What tests alone use is no arrow.
        let used = used.filter(|used| used["kind"].is_null()).map(|used| text(&used["name"]));
        let uses = used.filter(|name| names.contains(name)).collect();
        (text(&package["name"]), Crate { description: text(&package["description"]), uses })
    };
    packages.iter().map(one).collect()
}

/// The picture of the crates: an arrow to each crate that one uses and that none of the others it uses leads to.
fn picture(crates: &BTreeMap<String, Crate>) -> String {
    let leads_to = |from: &str, to: &str| {
        let mut open = vec![from.to_owned()];
        let mut seen = BTreeSet::new();
        while let Some(name) = open.pop() {
            open.extend(crates[&name].uses.iter().filter(|used| seen.insert((*used).clone())).cloned());
        }
        seen.contains(to)
    };
    let id = |name: &str| name.replace('-', "_");
    let mut text = String::from("```mermaid\nflowchart BT\n");
    for (name, one) in crates {
        text.push_str(&format!("    {}[\"<b>{name}</b><br>{}\"]\n", id(name), one.description));
    }
    for (name, one) in crates {
        for used in &one.uses {
            if !one.uses.iter().any(|other| other != used && leads_to(other, used)) {
                text.push_str(&format!("    {} --> {}\n", id(name), id(used)));
            }
        }
    }
    text + "```\n"
}

/// `STILK_ACCEPT=1` draws it anew.
#[test]
fn the_crates_are_drawn_as_they_are() {
    const BEGIN: &str = "<!-- crates -->\n";
    const END: &str = "<!-- /crates -->";
    let path = root().join("docs/architecture.md");
    let text = std::fs::read_to_string(&path).expect("docs/architecture.md");
    let (before, rest) = text.split_once(BEGIN).expect("where the picture begins");
    let (_, after) = rest.split_once(END).expect("where it ends");
    let drawn = format!("{before}{BEGIN}{}{END}{after}", picture(&crates()));
    if std::env::var_os("STILK_ACCEPT").is_some() {
        std::fs::write(&path, &drawn).expect("the page is written");
    } else {
        assert_eq!(text, drawn, "run scripts/draw-crates");
    }
}

#[test]
fn arrows_between_crates_point_downward() {
    let crates = crates();
    for (place, name) in CORE.iter().enumerate() {
        let upward: Vec<&String> =
            crates[*name].uses.iter().filter(|used| !CORE[..place].contains(&used.as_str())).collect();
        assert!(upward.is_empty(), "{name} uses {upward:?}");
    }
}

#[test]
fn no_circle_of_modules_crosses_folders() {
    for name in CORE.iter().chain(&["stilk"]) {
        let modules = modules_of(&sources_of(name));
        assert!(modules.len() > 3, "{name} has modules");
        let circles = circles(&modules);
        assert!(circles.is_empty(), "{name}:\n{}", circles.join("\n"));
    }
}

#[test]
fn the_core_touches_nothing_outside_of_itself() {
    const OUTSIDE: [&str; 8] =
        ["std::fs", "std::net", "std::process", "std::env::", "std::time", "println!(", "eprintln!(", "print!("];
    for name in CORE {
        for Module { path, code, .. } in modules_of(&sources_of(name)) {
            let met: Vec<&str> = OUTSIDE.into_iter().filter(|what| code.contains(what)).collect();
            assert!(met.is_empty(), "{name}, {path}: {met:?}");
        }
    }
}

#[test]
fn files_stay_small() {
    for name in CORE.iter().chain(&["stilk"]) {
        for Module { path, lines, .. } in modules_of(&sources_of(name)) {
            assert!(lines <= 800, "{name}, {path} has {lines} lines: split it by meaning");
        }
    }
}
