//! Tokens as sheets see them: types, references, groups.

use crate::memory::{Memory, messages};
use stilk_language::tokens::Tokens;

/// The literal value of each path in the default theme.
#[track_caller]
fn literals(tokens: &str, paths: &[&str]) -> Vec<String> {
    let project = Memory::with_sheet("@control x { }").file("t.tokens.json", &with_paper(tokens)).load();
    let system = project.system.as_ref().unwrap_or_else(|| panic!("{:?}", messages(&project)));
    let tokens: &Tokens = &system.tokens;
    let theme = tokens.default_theme();
    paths
        .iter()
        .map(|path| {
            let id = tokens.find_path(path).unwrap_or_else(|| panic!("no token {path}"));
            tokens.literal(id, &theme).unwrap_or_else(|| panic!("{path} has no value"))
        })
        .collect()
}

fn refused(tokens: &str) -> Vec<String> {
    messages(&Memory::with_sheet("@control x { }").file("t.tokens.json", &with_paper(tokens)).load())
}

fn with_paper(tokens: &str) -> String {
    let paper = r#""paper": { "$type": "color", "$value": { "colorSpace": "srgb", "components": [1, 1, 1] } }"#;
    format!("{{ {paper}, {tokens} }}")
}

const PX: &str = r#"{ "value": 1, "unit": "px" }"#;

#[test]
fn composites_are_written_as_css_wants_them() {
    let shadow = format!(r#"{{ "color": "{{ink}}", "offsetX": {PX}, "offsetY": {PX}, "blur": {PX}, "spread": {PX}"#);
    let tokens = format!(
        r##""ink": {{ "$type": "color", "$value": {{ "colorSpace": "oklch", "components": [0.2, 0, "none"] }} }},
        "b": {{ "$type": "border", "$value": {{ "color": "{{ink}}", "width": {PX}, "style": {{ "dashArray": [], "lineCap": "butt" }} }} }},
        "s": {{ "$type": "shadow", "$value": [{shadow} }}, {shadow}, "inset": true }}] }},
        "t": {{ "$type": "transition", "$value": {{ "duration": {{ "value": 1, "unit": "s" }}, "delay": {{ "value": 0, "unit": "ms" }}, "timingFunction": [0, 0, 1, 1] }} }},
        "g": {{ "$type": "gradient", "$value": [{{ "color": "{{ink}}", "position": -1 }}, {{ "color": "{{ink}}", "position": 0.5 }}] }},
        "f": {{ "$type": "typography", "$value": {{ "fontFamily": ["A B", "serif"], "fontSize": {PX}, "fontWeight": "light", "letterSpacing": {PX}, "lineHeight": 1.5 }} }}"##
    );
    let ink = "oklch(0.2 0 none)";
    assert_eq!(
        literals(&tokens, &["b", "s", "t", "g", "f", "b.width", "f.fontFamily", "t.timingFunction"]),
        [
            &format!("1px dashed {ink}"),
            &format!("1px 1px 1px 1px {ink}, 1px 1px 1px 1px {ink} inset"),
            "1s cubic-bezier(0, 0, 1, 1) 0ms",
            &format!("{ink} 0%, {ink} 50%"),
            "300 1px/1.5 \"A B\", serif",
            "1px",
            "\"A B\", serif",
            "cubic-bezier(0, 0, 1, 1)"
        ]
    );
}

#[test]
fn groups_extend_each_other_and_have_a_value_of_their_own() {
    let tokens = r##""a": { "$type": "number", "$root": { "$value": 1 }, "x": { "$value": 2 }, "in": { "y": { "$value": 3 } } },
        "b": { "$extends": "{a}", "x": { "$value": 20 }, "in": { "z": { "$value": 30 } } },
        "c": { "$extends": "#/b", "w": { "$value": "{b}" } }"##;
    assert_eq!(
        literals(tokens, &["a", "b", "b.x", "b.in.y", "b.in.z", "c.x", "c.in.y", "c.w"]),
        ["1", "1", "20", "3", "30", "20", "3", "1"]
    );
    let circle = r##""a": { "$extends": "{b}" }, "b": { "$extends": "{a}" }"##;
    assert!(refused(circle).iter().any(|m| m.contains("in a circle")), "{:?}", refused(circle));
    assert_eq!(
        refused(r##""a": { "$extends": "{nowhere}" }"##),
        ["token/extends: `{nowhere}` names no group of this file"]
    );
}

#[test]
fn pointers_reach_into_values_and_aliases_take_their_type() {
    let tokens = r##""n": { "$type": "number", "$value": 4 },
        "base": { "$type": "color", "$value": { "colorSpace": "oklch", "components": [0.5, 0.1, 200] } },
        "kin": { "$type": "color", "$value": { "colorSpace": "oklch", "components": [{ "$ref": "#/base/$value/components/0" }, 0.2, 10] } },
        "same": { "$value": { "$ref": "#/base/$value" } }, "again": { "$value": "{same}" }"##;
    assert_eq!(
        literals(tokens, &["kin", "same", "again"]),
        ["oklch(0.5 0.2 10)", "oklch(0.5 0.1 200)", "oklch(0.5 0.1 200)"]
    );
    let astray = r##""n": { "$type": "number", "$value": { "$ref": "#/m/$value/x" } }"##;
    assert!(refused(astray)[0].starts_with("token/reference: `#/m/$value/x` leads to no value"));
}

#[test]
fn strings_of_older_files_are_read_with_one_note() {
    let tokens = r##""c": { "$type": "color", "$value": "#FA08" }, "d": { "$type": "dimension", "$value": "1.5rem" },
        "t": { "$type": "duration", "$value": "120ms" }"##;
    assert_eq!(literals(tokens, &["c", "d", "t"]), ["color(srgb 1 0.6667 0 / 0.5333)", "1.5rem", "120ms"]);
    assert_eq!(refused(tokens).len(), 1);
    assert!(refused(r##""c": { "$type": "color", "$value": "red" }"##)[0].contains("`red` is no colour"));
}

#[test]
fn members_are_checked_and_named() {
    let border = |inner: &str| format!(r#""b": {{ "$type": "border", "$value": {{ {inner} }} }}"#);
    for (tokens, words) in [
        (border(&format!(r#""color": "{{paper}}", "width": {PX}"#)), "the border has no `style`"),
        (
            border(&format!(r#""colour": "{{paper}}", "width": {PX}, "style": "solid""#)),
            "no member `colour` of a border",
        ),
        (border(r#""color": "{paper}", "width": "{paper}", "style": "solid""#), "a member of `b` is of type dimension"),
        (border(&format!(r#""color": "{{paper}}", "width": {PX}, "style": "wobbly""#)), "no stroke style `wobbly`"),
    ] {
        let said = refused(&tokens);
        assert!(said.iter().any(|m| m.contains(words)), "{words}: {said:?}");
    }
}

#[test]
fn a_composite_where_a_member_belongs_is_mended() {
    let tokens = format!(
        r#""b": {{ "$type": "border", "$value": {{ "color": "{{paper}}", "width": {PX}, "style": "solid" }} }}"#
    );
    let project = Memory::with_sheet("@control x { color: {b}; }").file("t.tokens.json", &with_paper(&tokens)).load();
    assert_eq!(messages(&project), ["cascade/value: `{b}` is of type border, but `color` takes a color here"]);
    assert_eq!(project.diagnostics[0].mend.as_deref(), Some("write its member: `{b.color}`"));
}

#[test]
fn what_may_be_meant_is_of_the_group_that_was_named() {
    let color = |channel: f64| {
        format!(
            "{{ \"$type\": \"color\", \"$value\": {{ \"colorSpace\": \"srgb\", \"components\": [{channel}, 0, 0] }} }}"
        )
    };
    let tokens = format!(
        "\"ink\": {{ \"full\": {}, \"half\": {} }}, \"link\": {{ \"body\": {} }}, \"leaf\": {{ \"fill\": {} }}",
        color(0.1),
        color(0.2),
        color(0.3),
        color(0.4)
    );
    let mend = |path: &str| {
        let sheet = format!("@control x {{ color: {{{path}}}; }}");
        let project = Memory::with_sheet(&sheet).file("t.tokens.json", &with_paper(&tokens)).load();
        let said = project.diagnostics.iter().find(|diagnostic| diagnostic.id == "token/unknown");
        said.and_then(|diagnostic| diagnostic.mend.clone()).expect("a mend")
    };
    // Near in its group; nothing near there, so all of it; the only one; a group that there is none of.
    assert_eq!(mend("ink.ful"), "write `{ink.full}`");
    assert_eq!(mend("ink.body"), "write one of: `{ink.full}`, `{ink.half}`");
    assert_eq!(mend("leaf.ground"), "write `{leaf.fill}`");
    assert_eq!(mend("lnk.body"), "write `{link.body}`");
    assert_eq!(mend("papr"), "write `{paper}`");
}
