//! `markup/count`.

use crate::judged::pages::{fails, of_example, of_project, passes};
use crate::memory::{Memory, messages};
use stilk_checks::example::Example;

/// The system of the examples with other options, where the manifest counts this.
fn counting(key: &str) -> Memory {
    let manifest = format!("{}\n[checks]\ncount = {{ \"{key}\" = 1 }}\n", Example::MANIFEST);
    let sheet = "@control button { @option calm { } @axis size { medium { } large { } } }";
    of_example("markup/count").file("stilk.toml", &manifest).file("controls/button.stilk", sheet)
}

/// What is said of a page there.
fn counted(key: &str, page: &str) -> Vec<String> {
    let page = format!("<!doctype html><title>Ferries</title><link rel=stylesheet href=dist/example.css><body>{page}");
    of_project("markup/count", &counting(key), &[page]).remove(0).0
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
    assert_eq!(
        messages(&counting("button.calm.lrge, feild").load()),
        ["manifest/value: there is no option `lrge` in `button`", "manifest/value: there is no control `feild`"]
    );
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
