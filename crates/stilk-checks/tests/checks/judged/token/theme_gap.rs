//! `token/theme-gap`.

use crate::memory::{Memory, messages};
use stilk_checks::registry::find;

/// What is told while the example is read with these tokens in its two themes.
fn told(day: &str, night: &str, sheet: &str) -> Vec<String> {
    let example = find("token/theme-gap").expect("a check").passes;
    let files = example.files().into_iter().map(|(path, text)| (path, text.into_bytes()));
    let resolver = format!(
        r##"{{ "version": "2025.10", "sets": {{ "base": {{ "sources": [{{ "$ref": "example.tokens.json" }}] }} }},
              "modifiers": {{ "theme": {{ "default": "day", "contexts": {{ "day": [{{ {day} }}], "night": [{{ {night} }}] }} }} }},
              "resolutionOrder": [{{ "$ref": "#/sets/base" }}, {{ "$ref": "#/modifiers/theme" }}] }}"##
    );
    let memory = Memory(files.collect()).file("example.resolver.json", &resolver).file("controls/button.stilk", sheet);
    let told = messages(&memory.load());
    told.into_iter().filter(|message| message.starts_with("token/theme-gap")).collect()
}

#[test]
fn what_is_used_has_a_value_in_every_theme() {
    let flag = "\"flag\": { \"$type\": \"color\", \"$value\": \"{rust}\" }";
    let used = "@control button { color: {flag}; }";
    assert_eq!(told(flag, flag, used), [""; 0]);
    for (day, night, theme) in [(flag, "", "night"), ("", flag, "day")] {
        let told = told(day, night, used);
        assert!(told.len() == 1 && told[0].contains("flag") && told[0].contains(theme), "{told:?}");
    }
    // A theme that forgot it is told before anything uses it.
    assert_eq!(told(flag, "", "@control button { color: {ink}; }").len(), 1);
}
