//! Reports as JUnit XML, valid by the schema that servers which show test results go by (`tests/shared/junit-10.xsd`).

use crate::support::Project;
use std::io::Write;
use std::process::{Command, Stdio};

#[track_caller]
fn valid(xml: &str) {
    let schema = concat!(env!("CARGO_MANIFEST_DIR"), "/tests/shared/junit-10.xsd");
    let mut child = Command::new("xmllint")
        .args(["--noout", "--schema", schema, "-"])
        .stdin(Stdio::piped())
        .stderr(Stdio::piped())
        .spawn()
        .expect("xmllint: ./scripts/install-tools.sh");
    child.stdin.take().expect("its input").write_all(xml.as_bytes()).expect("a reader");
    let output = child.wait_with_output().expect("an end");
    assert!(output.status.success(), "{}\n{xml}", String::from_utf8_lossy(&output.stderr));
}

#[test]
fn what_failed_what_passed_and_what_is_unknown_are_cases() {
    let said = Project::quay().run(&["check", "--format", "junit"]);
    valid(&said.stdout);
    let xml = Project::pier().run(&["check", "--format", "junit"]).status(1).stdout;
    valid(&xml);
    assert!(
        xml.contains("<testsuite name=\"contrast/text\" tests=\"1\" skipped=\"0\" errors=\"0\" failures=\"1\">"),
        "{xml}"
    );
    assert!(xml.contains("name=\"tokens/night.tokens.json:12:31\" classname=\"contrast/text\""), "{xml}");
    assert!(xml.contains("mend: write `{gull.night}`"), "{xml}");
    assert!(xml.contains("<testcase name=\"every declaration that stands"), "what found nothing passed: {xml}");
    // A verdict that is not known is neither.
    let unknown = "@control x { color: {a}; background: {b}; width: calc-size(auto, size); height: 20px; }";
    let project = Project::pier()
        .file("controls/x.html", "<button type=\"button\">x</button>")
        .file("controls/x.stilk", unknown.replace("{a}", "{ink.strong}").replace("{b}", "url(a.png)"));
    let xml = project.run(&["check", "--format", "junit", "--only", "contrast/text"]).stdout;
    valid(&xml);
    assert!(xml.contains("<skipped message=\"unknown in "), "{xml}");
}

#[test]
fn what_could_not_run_is_an_error() {
    let xml = Project::pier().edit("stilk.toml", "[system]", "[sistem]").run(&["check", "--format", "junit"]).status(2);
    valid(&xml.stdout);
    assert!(xml.stdout.contains("<error message="), "{}", xml.stdout);
    let xml = Project::empty().run(&["check", "--format", "junit"]).status(2).stdout;
    valid(&xml);
    assert!(xml.contains("classname=\"file/missing\""), "{xml}");
}

#[test]
fn pages_are_reported_alike() {
    let demo = Project::demo();
    let xml = demo.run(&["scan", "--format", "junit"]).status(1).stdout;
    valid(&xml);
    assert!(xml.contains("classname=\"page/") && xml.contains("pages/"), "{xml}");
    // Where a stylesheet cannot be had, what it decides has not passed.
    let page = "<link rel=stylesheet href=dist/ternhaven.css><link rel=stylesheet href=gone.css>\
                <button type=button class=tern-button><span class=tern-button_label>Go</span></button>";
    let demo = demo.file("page.html", page);
    let xml = demo.run(&["scan", "page.html", "--format", "junit"]).stdout;
    valid(&xml);
    let (_, contrast) = xml.split_once("<testsuite name=\"page/contrast\"").expect("the check is told");
    let (contrast, _) = contrast.split_once("</testsuite>").expect("its end");
    assert!(contrast.contains("skipped=\"1\"") && contrast.contains("cannot be had"), "{contrast}");
    let xml = Project::site("orchard").run(&["survey", ".", "--format", "junit"]).stdout;
    valid(&xml);
    assert!(xml.contains("<testsuites name=\"stilk\""), "{xml}");
}
