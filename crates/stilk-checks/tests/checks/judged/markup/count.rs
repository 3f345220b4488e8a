//! `markup/count`.

use crate::judged::pages::{fails, passes};

use crate::memory::{Memory, messages};
use stilk_checks::example::Example;
use stilk_checks::registry::find;
use stilk_checks::scan::{Scanner, Worker};
use stilk_language::stylesheet::{Purpose, write};

/// What is said of a page where the manifest counts this.
fn counted(key: &str, page: &str) -> Vec<String> {
    let example = find("markup/count").expect("a check").passes;
    let files = example.files().into_iter().filter(|(path, _)| path != "page.html");
    let mut memory = Memory(files.map(|(path, text)| (path, text.into_bytes())).collect());
    memory = memory.file("stilk.toml", &format!("{}\n[checks]\ncount = {{ \"{key}\" = 1 }}\n", Example::MANIFEST));
    let sheet = "@control button { @option calm { } @axis size { medium { } large { } } }";
    memory = memory.file("controls/button.stilk", sheet);
    let project = memory.load();
    let Some(system) = project.system.as_ref().filter(|_| project.diagnostics.is_empty()) else {
        return messages(&project);
    };
    let written = write(system, &project.sources, Purpose::Page);
    let scanner = Scanner::new(system, &written, vec!["example.css".into()]);
    let page = format!("<!doctype html><title>Ferries</title><link rel=stylesheet href=dist/example.css><body>{page}");
    let report = Worker::new(&scanner).scan("page.html", &page, &mut |_, _, _| Err("it is not there".into()));
    let found = report.found.iter().filter(|(_, finding)| finding.id == "markup/count");
    found.map(|(_, finding)| finding.message.clone()).collect()
}

#[test]
fn options_are_counted_together() {
    let button = |options: &str| {
        format!(
            "<button type=\"button\" class=\"ex-button{options}\"><span class=\"ex-button_label\">Go</span></button>"
        )
    };
    let (calm, large) = (button(" ex-button-calm"), button(" ex-button-large"));
    let both = button(" ex-button-calm ex-button-large");
    let page = format!("{calm}{large}{both}");
    // Both on one; either of two; several options and kinds.
    assert_eq!(counted("button.calm.large", &page), [""; 0]);
    assert_eq!(
        counted("button.calm.large", &format!("{both}{page}")),
        ["the page has 2 of `button.calm.large`, the system allows 1"]
    );
    assert_eq!(
        counted("button.calm.large, button.plain", &format!("{page}{}", button(""))),
        ["the page has 2 of `button.calm.large, button.plain`, the system allows 1"]
    );
    assert_eq!(counted("button.calm.large, field", &page), [""; 0]);
    // Names in any place are held against those that there are.
    assert_eq!(counted("button.calm.lrge, feild", &page).len(), 2);
}

#[test]
fn a_page_stresses_no_more_than_the_system_allows() {
    let quiet = "<button type=\"button\" class=\"ex-button ex-button-calm\"><span class=\"ex-button_label\">Change</span></button>";
    let mixed = format!("BUTTON{quiet}{quiet}");
    passes("markup/count", &["BUTTON", &mixed]);
    fails(
        "markup/count",
        &[("BUTTONBUTTON", "the page has 2 of `button.plain`, the system allows 1"), ("BUTTONBUTTONBUTTON", "3 of")],
    );
}
