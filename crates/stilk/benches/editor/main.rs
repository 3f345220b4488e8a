//! How long an editor waits, over the protocol, on the sample: `cargo bench -p stilk --bench editor`; `STILK_FIGURES=1` writes the table into
//! docs/figures.md.

#[path = "../../tests/cli/editor/client.rs"]
#[allow(dead_code, reason = "the tests need more of it")]
mod client;
#[path = "../../tests/cli/support.rs"]
#[allow(dead_code, reason = "the tests need more of it")]
mod support;

use client::Client;
use serde_json::{Value, json};
use std::path::Path;
use std::time::{Duration, Instant};
use support::Project;

/// So often each is measured.
const ROUNDS: usize = 21;
/// So many edits stand for an hour of typing.
const EDITS: usize = 4_000;

const BUTTON: &str = "controls/button.stilk";
const TAG: &str = "controls/old-tag.stilk";
const DAY: &str = "tokens/day.tokens.json";

fn main() {
    // `cargo test` runs benchmarks without this argument to see whether they start.
    if !std::env::args().any(|argument| argument == "--bench") {
        return;
    }
    let mut client = Client::new(Project::demo());
    for file in [BUTTON, TAG, DAY] {
        client.open(file);
    }
    // The first findings are of everything.
    client.wait_for(TAG, |found| !found.is_empty());
    let mut rows: Vec<(&str, Duration, &str)> = Vec::new();
    let button = client.project().read(BUTTON);
    let tag = client.project().read(TAG);
    let day = client.project().read(DAY);
    rows.push(("a wrong token typed, until it is told", reading(&mut client, &button), "20 ms"));
    let told = |id: &'static str| move |found: &[Value]| found.iter().any(|one| one["code"] == id);
    let small = [(tag.replace("outline: 1px", "outline: 2px"), false), (tag.clone(), true)];
    rows.push((
        "a small control changed, until all checks have told",
        findings(&mut client, TAG, &small, TAG, told("contrast/focus")),
        "150 ms",
    ));
    let large = [
        (button.replace("@state disabled { opacity: {faded}; cursor: not-allowed; }", ""), true),
        (button.clone(), false),
    ];
    rows.push((
        "the largest control changed, until all checks have told",
        findings(&mut client, BUTTON, &large, BUTTON, told("state/missing")),
        "150 ms",
    ));
    let token = [
        (day.replace("\"soft\": { \"$value\": \"{gull.lead}\" }", "\"soft\": { \"$value\": \"{gull.grey}\" }"), true),
        (day.clone(), false),
    ];
    rows.push((
        "a token of many controls changed, until all checks have told",
        findings(&mut client, DAY, &token, DAY, told("contrast/text")),
        "150 ms",
    ));
    for (what, method, needle, into, wanted) in [
        ("completion of tokens in a value", "textDocument/completion", "{ink.sea-label}", 5, "15 ms"),
        ("completion of a value", "textDocument/completion", "cursor: pointer", 10, "15 ms"),
        ("hover over a token", "textDocument/hover", "{ink.sea-label}", 5, "15 ms"),
        ("hover over a declaration: where it wins", "textDocument/hover", "background-color: color-mix", 3, "15 ms"),
        ("references of a token", "textDocument/references", "{ink.sea-label}", 5, ""),
    ] {
        let mut asked = client.at(BUTTON, &button, needle, into);
        asked["context"] = json!({ "includeDeclaration": true, "triggerKind": 1 });
        rows.push((what, median(|| client.ask(method, asked.clone())), wanted));
    }
    let mut asked = client.at(BUTTON, &button, "{ink.sea-label}", 5);
    asked["newName"] = json!("over");
    rows.push(("renaming a token, tried", median(|| client.ask("textDocument/rename", asked.clone())), ""));
    let before = memory(&client);
    type_for_an_hour(&mut client, &button);
    let after = memory(&client);
    let mut text = String::from("| what | median | wanted |\n|---|---:|---:|\n");
    for (what, time, wanted) in rows {
        text.push_str(&format!("| {what} | {:.1} ms | {wanted} |\n", time.as_secs_f64() * 1e3));
    }
    text.push_str(&format!("| memory, opened and checked | {before} MB |  |\n"));
    text.push_str(&format!("| memory after {EDITS} edits anywhere | {after} MB | 200 MB |\n"));
    println!("{text}");
    if std::env::var_os("STILK_FIGURES").is_some() {
        write(&text);
    }
}

fn median<T>(mut once: impl FnMut() -> T) -> Duration {
    let mut times: Vec<Duration> = (0..ROUNDS)
        .map(|_| {
            let begun = Instant::now();
            once();
            begun.elapsed()
        })
        .collect();
    times.sort();
    times[ROUNDS / 2]
}

/// From a key that makes a mistake to the mistake's being told.
fn reading(client: &mut Client, button: &str) -> Duration {
    let mut times = Vec::new();
    for round in 0..ROUNDS {
        let name = format!("ink.se{}-label", round % 10);
        let wrong = button.replacen("{ink.sea-label}", &format!("{{{name}}}"), 1);
        let begun = Instant::now();
        client.change(BUTTON, &wrong);
        client.wait_for(BUTTON, |found| {
            found.iter().any(|one| one["message"].as_str().is_some_and(|m| m.contains(&name)))
        });
        times.push(begun.elapsed());
        client.change(BUTTON, button);
        client.wait_for(BUTTON, |found| !found.iter().any(|one| one["code"] == "token/unknown"));
    }
    times.sort();
    times[ROUNDS / 2]
}

/// From a change to what the checks say of it, there and back.
fn findings(
    client: &mut Client,
    file: &str,
    texts: &[(String, bool)],
    told_in: &str,
    is_told: impl Fn(&[Value]) -> bool,
) -> Duration {
    let mut times = Vec::new();
    for _ in 0..ROUNDS / 2 {
        for (text, wanted) in texts {
            // What was begun before is over.
            std::thread::sleep(Duration::from_millis(1500));
            let begun = Instant::now();
            client.change(file, text);
            client.wait_for(told_in, |found| is_told(found) == *wanted);
            times.push(begun.elapsed());
        }
    }
    times.sort();
    times[times.len() / 2]
}

/// Edits as fast as they are taken, an answer to each hundredth.
fn type_for_an_hour(client: &mut Client, button: &str) {
    let mut random = fastrand::Rng::with_seed(5);
    let mut text = button.to_owned();
    for edit in 0..EDITS {
        let mut at = random.usize(..=text.len());
        while !text.is_char_boundary(at) {
            at -= 1;
        }
        match random.u8(..8) {
            0 => text = button.to_owned(),
            1 => text.insert(at, '}'),
            _ => text.insert_str(at, ["a", " ", "\n", ";", "1", "--x"][random.usize(..6)]),
        }
        client.change(BUTTON, &text);
        if edit % 20 == 0 {
            client.ask("textDocument/documentSymbol", client.of(BUTTON));
        }
    }
    client.change(BUTTON, button);
    client.ask("textDocument/documentSymbol", client.of(BUTTON));
    std::thread::sleep(Duration::from_secs(3));
}

/// The memory that the program has, in MB.
fn memory(client: &Client) -> u64 {
    let status = std::fs::read_to_string(format!("/proc/{}/status", client.process())).unwrap_or_default();
    let line = status.lines().find_map(|line| line.strip_prefix("VmRSS:"));
    line.and_then(|line| line.trim().trim_end_matches("kB").trim().parse::<u64>().ok()).unwrap_or_default() / 1024
}

fn write(table: &str) {
    const BEGIN: &str = "<!-- editor -->\n";
    const END: &str = "<!-- /editor -->";
    let path = Path::new(env!("CARGO_MANIFEST_DIR")).join("../../docs/figures.md");
    let text = std::fs::read_to_string(&path).expect("docs/figures.md");
    let (before, rest) = text.split_once(BEGIN).expect("where the table begins");
    let (_, after) = rest.split_once(END).expect("where it ends");
    std::fs::write(&path, format!("{before}{BEGIN}{table}{END}{after}")).expect("the page is written");
}
