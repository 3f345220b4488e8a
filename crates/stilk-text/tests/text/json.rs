//! JSON with places: no more than the standard has.

use stilk_text::diagnostic::Diagnostics;
use stilk_text::json::{Json, parse};
use stilk_text::source::Sources;

/// What is said of a text: `line:column message | mend`.
fn said(text: &str) -> Vec<String> {
    let mut sources = Sources::default();
    let file = sources.add("t.json", text);
    let mut diagnostics = Diagnostics::default();
    let _ = parse(file, &sources, &mut diagnostics);
    let words = |d: &stilk_text::diagnostic::Diagnostic| {
        let at = sources.position(d.span.expect("a place"));
        format!("{}:{} {} | {}", at.line, at.column, d.message, d.mend.clone().unwrap_or_default())
    };
    diagnostics.into_sorted().iter().map(words).collect()
}

#[test]
fn values_know_where_they_stand() {
    let mut sources = Sources::default();
    let file = sources.add("t.json", "{ \"a\": [1, \"zwei\", null],\n  \"b\": { \"c\": true } }");
    let mut diagnostics = Diagnostics::default();
    let root = parse(file, &sources, &mut diagnostics).expect("a value");
    let list = root.get("a").expect("a list");
    let texts: Vec<&str> = list.items().iter().map(|node| sources.text(node.span)).collect();
    assert_eq!(texts, ["1", "\"zwei\"", "null"]);
    assert_eq!(list.items()[1].as_str(), Some("zwei"));
    assert_eq!(list.items()[0].as_number(), Some(1.0));
    let (name, inner) = &root.entries()[1];
    assert_eq!((name.as_str(), sources.position(name.span).line), ("b", 2));
    assert_eq!(inner.get("c").map(|node| node.kind()), Some("a boolean"));
    assert!(inner.get("d").is_none() && inner.items().is_empty());
    assert!(matches!(root.json, Json::Object(_)));
    assert_eq!(root.to_value(), serde_json::json!({ "a": [1, "zwei", null], "b": { "c": true } }));
}

#[test]
fn what_the_standard_does_not_have_is_refused_at_its_place() {
    for (text, place, mend) in [
        ("{ \"a\": 1, }", "1:9 ", "take the last comma away"),
        ("{\n  \"a\": 1\n  \"b\": 2\n}", "2:9 ", "put a comma between two members"),
        ("{ a: 1 }", "1:3 ", "put the name in double quotes"),
        ("// no\n{}", "1:1 ", ""),
        ("{ 'a': 1 }", "1:3 ", ""),
        ("{ \"a\": 0x10 }", "1:", ""),
        ("{ \"a\": +1 }", "1:", ""),
        ("{ \"a\": .5 }", "1:", ""),
        ("{ \"a\": NaN }", "1:", ""),
        ("{ \"a\": 1", "1:1 ", ""),
    ] {
        let said = said(text);
        assert_eq!(said.len(), 1, "{text}: {said:?}");
        assert!(said[0].starts_with(place) && said[0].contains("this is not JSON"), "{text}: {said:?}");
        assert!(said[0].contains(mend), "{text}: {said:?}");
    }
    let empty = said("");
    assert!(empty[0].contains("the file is empty"), "{empty:?}");
}
