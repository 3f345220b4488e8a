//! Pages in a stream, and what was said of them put together again.

use crate::support::Project;
use serde_json::{Value, json};
use std::io::Write;
use std::process::Stdio;

/// The pages of a folder with the stylesheets beside them, as lines.
fn lines(project: &Project, folder: &str) -> Vec<String> {
    let files = project.files(folder);
    let css: Vec<Value> = files
        .iter()
        .filter(|(name, _)| name.ends_with(".css"))
        .map(|(name, text)| json!({ "url": name, "text": text }))
        .collect();
    let pages = files.iter().filter(|(name, _)| name.ends_with(".html"));
    pages.map(|(name, text)| json!({ "url": name, "html": text, "css": css }).to_string()).collect()
}

/// What the program prints for an input.
#[track_caller]
fn fed(project: &Project, arguments: &[&str], input: &[u8], status: i32) -> String {
    let mut command = project.command(arguments);
    let mut child =
        command.stdin(Stdio::piped()).stdout(Stdio::piped()).stderr(Stdio::piped()).spawn().expect("the program");
    let mut to = child.stdin.take().expect("its input");
    let output = std::thread::scope(|scope| {
        scope.spawn(move || to.write_all(input));
        child.wait_with_output().expect("an end")
    });
    let error = String::from_utf8_lossy(&output.stderr);
    assert_eq!(output.status.code(), Some(status), "{arguments:?}: {error}");
    String::from_utf8(output.stdout).expect("text")
}

fn value(text: &str) -> Value {
    serde_json::from_str(text).unwrap_or_else(|why| panic!("{why}: {text}"))
}

#[test]
fn pages_that_were_scanned_one_by_one_make_the_same_report() {
    let demo = Project::demo();
    let pages = lines(&demo, "pages");
    let at_once = value(&demo.run(&["scan", "pages", "--format", "json"]).status(1).stdout);
    let scan = ["scan", "--stream"];
    let said = fed(&demo, &scan, pages.join("\n").as_bytes(), 0);
    assert_eq!(value(&fed(&demo, &["report", "merge"], said.as_bytes(), 1)), at_once);
    // Spread over two machines, in whatever order.
    let halves: Vec<String> = pages.iter().rev().map(|page| fed(&demo, &scan, page.as_bytes(), 0)).collect();
    let names: Vec<String> = (0..halves.len()).map(|n| format!("part-{n}.jsonl")).collect();
    std::iter::zip(&names, &halves).for_each(|(name, half)| demo.write(name, half));
    let arguments: Vec<&str> = ["report", "merge"].into_iter().chain(names.iter().map(String::as_str)).collect();
    assert_eq!(value(&demo.run(&arguments).status(1).stdout), at_once);
    let text = demo.run(&[&arguments[..], &["--format", "text"]].concat()).status(1).stdout;
    assert!(
        text.ends_with(&format!("looked at: {} findings\n", at_once["findings"].as_array().unwrap().len())),
        "{text}"
    );
}

#[test]
fn what_no_line_should_be_is_told_and_the_next_page_is_looked_at() {
    let demo = Project::demo();
    let deep = json!({ "url": "deep.html", "html": "<b>".repeat(20_000) }).to_string();
    let input =
        ["nonsense", r#"{"url": "a.html", "html": 5}"#, &deep, "", r#"{"url": "b.html", "html": "<p>b"}"#].join("\n");
    let said = fed(&demo, &["scan", "--stream"], input.as_bytes(), 0);
    let said: Vec<Value> = said.lines().map(value).collect();
    let pages: Vec<&str> = said.iter().map(|line| line["page"].as_str().unwrap()).collect();
    assert_eq!(pages, ["line 1", "a.html", "deep.html", "b.html"]);
    for (line, words) in [(0, "a line is {\"url\""), (1, "expected a string"), (2, "nested more than")] {
        assert!(said[line]["error"].as_str().unwrap().contains(words), "{}", said[line]);
    }
    let lines: Vec<String> = said.iter().map(Value::to_string).collect();
    let merged = value(&fed(&demo, &["report", "merge"], lines.join("\n").as_bytes(), 2));
    assert_eq!((&merged["scan"]["pages"], merged["scan"]["unreadable"].as_array().unwrap().len()), (&json!(1), 3));
    // What is of another command, or no line of a page, is refused with its place.
    demo.write("mixed.jsonl", &format!("{}\n{}\n", lines[3], lines[3].replace("\"scan\",", "\"survey\",")));
    let said = demo.run(&["report", "merge", "mixed.jsonl"]).status(2).stderr;
    assert!(said.contains("mixed.jsonl:2") && said.contains("those before are of `scan`"), "{said}");
    demo.write("other.json", "{}\n");
    let said = demo.run(&["report", "merge", "other.json"]).status(2).stderr;
    assert!(said.contains("other.json:1") && said.contains("--stream"), "{said}");
}

/// A record of an archive.
fn record(kind: &str, url: &str, content: &str) -> String {
    format!(
        "WARC/1.0\r\nWARC-Type: {kind}\r\nWARC-Target-URI: {url}\r\nContent-Type: application/http; msgtype={kind}\r\n\
         Content-Length: {}\r\n\r\n{content}\r\n\r\n",
        content.len()
    )
}

#[test]
fn archives_are_read_record_by_record() {
    let demo = Project::demo();
    let page = "<!doctype html><title>x</title><button class=\"tern-button tern-button-outlined\">Go</button>";
    let answer = |kind: &str, body: &str| format!("HTTP/1.1 200 OK\r\nContent-Type: {kind}\r\n\r\n{body}");
    let archive = [
        "WARC/1.0\r\nWARC-Type: warcinfo\r\nContent-Length: 2\r\n\r\nhi\r\n\r\n".to_owned(),
        record("request", "https://isle.invalid/", "GET / HTTP/1.1\r\n\r\n"),
        record("response", "https://isle.invalid/", &answer("text/html", page)),
        record("response", "https://isle.invalid/a.css", &answer("text/css", "a { color: red }")),
        record("response", "https://isle.invalid/b", &answer("text/html; charset=utf-8", "<p>Bàgh")),
    ];
    // As it is, and each record compressed by itself, as archives are kept.
    let squeezed: Vec<u8> = archive
        .iter()
        .flat_map(|record| {
            let mut encoder = flate2::write::GzEncoder::new(Vec::new(), flate2::Compression::fast());
            encoder.write_all(record.as_bytes()).unwrap();
            encoder.finish().unwrap()
        })
        .collect();
    let plain = archive.concat();
    for input in [plain.as_bytes(), &squeezed] {
        let said = fed(&demo, &["scan", "--stream"], input, 0);
        let pages: Vec<Value> = said.lines().map(value).collect();
        assert_eq!(pages.len(), 2, "{said}");
        assert_eq!(pages[0]["page"], "https://isle.invalid/");
        assert!(said.contains("the system has no class `tern-button-outlined`"), "{said}");
    }
    let cut = &plain.as_bytes()[..plain.len() - 20];
    let mut command = demo.command(&["survey", "--stream"]);
    let mut child = command.stdin(Stdio::piped()).stdout(Stdio::piped()).stderr(Stdio::piped()).spawn().unwrap();
    child.stdin.take().unwrap().write_all(cut).unwrap();
    let output = child.wait_with_output().unwrap();
    assert_eq!(output.status.code(), Some(2));
    assert!(String::from_utf8_lossy(&output.stderr).contains("the last record is cut off"));
}

#[test]
fn pages_that_were_surveyed_one_by_one_are_put_together() {
    let before = Project::before();
    let pages = lines(&before, "");
    let said = fed(&before, &["survey", "--stream"], pages.join("\n").as_bytes(), 0);
    assert_eq!(said.lines().count(), pages.len());
    let merged = value(&fed(&before, &["report", "merge"], said.as_bytes(), 1));
    let at_once = value(&before.run(&["survey", ".", "--format", "json"]).status(1).stdout);
    for counted in ["pages", "pagesWithControls", "controls"] {
        assert_eq!(merged["survey"][counted], at_once["survey"][counted], "{counted}");
    }
    // One cause in a stylesheet that several pages link is one finding.
    let stray = |report: &Value| {
        let found = report["findings"].as_array().unwrap().iter();
        found.filter(|finding| finding["check"] == "foreign/dropped").count()
    };
    assert_eq!(stray(&merged), stray(&at_once));
    let reversed: Vec<&str> = said.lines().rev().collect();
    assert_eq!(value(&fed(&before, &["report", "merge"], reversed.join("\n").as_bytes(), 1)), merged);
}
