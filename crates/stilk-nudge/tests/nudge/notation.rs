//! What is written into token files: the notation that is there.

use stilk_language::tokens::TokenType;
use stilk_nudge::notation::{edits, fresh};
use stilk_text::diagnostic::Diagnostics;
use stilk_text::json;
use stilk_text::source::Sources;

/// A value with another one in its place.
fn written(before: &str, kind: TokenType, css: &str) -> Result<String, String> {
    let mut sources = Sources::default();
    let file = sources.add("a.tokens.json", before);
    let node = json::parse(file, &sources, &mut Diagnostics::default()).expect("JSON");
    let mut edits = edits(&node, kind, css)?;
    edits.sort();
    let mut text = before.to_owned();
    for edit in edits.into_iter().rev() {
        text.replace_range(edit.span.range(), &edit.text);
    }
    Ok(text)
}

#[test]
fn the_space_unit_and_layout_of_the_file_are_kept() {
    use TokenType::{Color, CubicBezier, Dimension, Duration, FontFamily, FontWeight, Number, StrokeStyle};
    for (before, kind, css, after) in [
        (
            "{ \"colorSpace\": \"oklch\",\n  \"components\": [0.5, 0.11, 232] }",
            Color,
            "oklch(0.6 0.11 232)",
            "{ \"colorSpace\": \"oklch\",\n  \"components\": [0.6, 0.11, 232] }",
        ),
        (
            r##"{"colorSpace":"srgb","components":[0,0,0],"hex":"#000000"}"##,
            Color,
            "#ff8000",
            r##"{"colorSpace":"srgb","components":[1,0.502,0],"hex":"#ff8000"}"##,
        ),
        (
            r#"{ "colorSpace": "oklch", "components": [1, 0, "none"] }"#,
            Color,
            "white",
            r#"{ "colorSpace": "oklch", "components": [1, 0, "none"] }"#,
        ),
        (
            r#"{ "colorSpace": "oklch", "components": [0.2, 0.035, 245] }"#,
            Color,
            "oklch(0.2 0.035 245 / 0.5)",
            r#"{ "colorSpace": "oklch", "components": [0.2, 0.035, 245], "alpha": 0.5 }"#,
        ),
        (
            r#"{ "colorSpace": "oklch", "components": [0.2, 0.035, 245], "alpha": 0.5 }"#,
            Color,
            "oklch(0.2 0.035 245)",
            r#"{ "colorSpace": "oklch", "components": [0.2, 0.035, 245], "alpha": 1 }"#,
        ),
        (r##""#336699""##, Color, "rgb(51 102 204)", r##""#3366cc""##),
        (r#""{sea.open}""#, Color, "{sea.deep}", r#""{sea.deep}""#),
        (r#"{ "value": 0.5, "unit": "rem" }"#, Dimension, "12px", r#"{ "value": 0.75, "unit": "rem" }"#),
        (r#"{ "value": 8, "unit": "px" }"#, Dimension, "0.75rem", r#"{ "value": 12, "unit": "px" }"#),
        (r#"{ "value": 8, "unit": "px" }"#, Dimension, "0", r#"{ "value": 0, "unit": "px" }"#),
        (r#""16px""#, Dimension, "1.5rem", r#""24px""#),
        (r#"{ "value": 120, "unit": "ms" }"#, Duration, "0.2s", r#"{ "value": 200, "unit": "ms" }"#),
        ("1.25", Number, "1.3", "1.3"),
        ("1.25", Number, "1.2500", "1.25"),
        ("600", FontWeight, "bold", "700"),
        ("[0.2,  0, 0, 1]", CubicBezier, "cubic-bezier(0.3, 0, 0, 1)", "[0.3,  0, 0, 1]"),
        ("[0.2, 0, 0, 1]", CubicBezier, "ease-out", "[0, 0, 0.58, 1]"),
        (r#"["Inter", "sans-serif"]"#, FontFamily, "'A, B', serif", r#"["A, B", "serif"]"#),
        (r#""solid""#, StrokeStyle, "dashed", r#""dashed""#),
    ] {
        assert_eq!(written(before, kind, css).as_deref(), Ok(after), "{before} {css}");
    }
}

#[test]
fn members_of_composite_values_are_edited_in_place() {
    let length = |value: i32| format!("{{ \"value\": {value}, \"unit\": \"px\" }}");
    let layer = |y: i32, blur: i32| {
        format!(
            "{{ \"color\": \"{{ink}}\", \"offsetX\": {}, \"offsetY\": {}, \"blur\": {}, \"spread\": {} }}",
            length(0),
            length(y),
            length(blur),
            length(0)
        )
    };
    let two = format!("[\n  {},\n  {}\n]", layer(1, 2), layer(8, 24));
    let found = written(&two, TokenType::Shadow, "0 1px 2px 0 {ink}, 0 10px 24px 0 {ink}").expect("a shadow");
    assert_eq!(found, format!("[\n  {},\n  {}\n]", layer(1, 2), layer(10, 24)), "nothing else is another one");
    let found = written(&two, TokenType::Shadow, "inset 0 1px 2px red").expect("a shadow");
    assert!(found.contains("\"inset\": true") && !found.starts_with('['), "{found}");
    let stops = r#"[ { "color": "{a}", "position": 0 }, { "color": "{b}", "position": 1 } ]"#;
    let found = written(stops, TokenType::Gradient, "{a} 10%, {b} 100%").expect("stops");
    assert_eq!(found, stops.replace("\"position\": 0 ", "\"position\": 0.1 "));
    let border = format!("{{ \"color\": \"{{ink}}\", \"width\": {}, \"style\": \"solid\" }}", length(1));
    let found = written(&border, TokenType::Border, "2px dashed {ink}").expect("a border");
    assert_eq!(found, border.replace("\"value\": 1", "\"value\": 2").replace("solid", "dashed"));
    let fresh = fresh(TokenType::Transition, "150ms ease").expect("a transition");
    assert_eq!(
        fresh,
        r#"{ "duration": { "value": 150, "unit": "ms" }, "delay": { "value": 0, "unit": "ms" }, "timingFunction": [0.25, 0.1, 0.25, 1] }"#
    );
}

#[test]
fn what_a_file_cannot_hold_is_refused_with_what_to_write() {
    use TokenType::{Color, CubicBezier, Dimension, Duration, FontWeight, Gradient, Shadow, Typography};
    for (before, kind, css) in [
        ("null", Color, "currentcolor"),
        ("null", Color, "canvas"),
        ("null", Color, "color-mix(in oklab, red, blue)x"),
        ("null", Dimension, "1em"),
        ("null", Dimension, "12"),
        ("null", Duration, "12px"),
        ("null", FontWeight, "1001"),
        ("null", CubicBezier, "cubic-bezier(2, 0, 0, 1)"),
        ("null", CubicBezier, "steps(3)"),
        ("null", Shadow, "1px red"),
        ("null", Shadow, "0 0 1px 0"),
        ("null", Gradient, "red"),
        ("null", Gradient, "red 0%, blue 120%"),
        ("null", Typography, "600 1rem/1 serif"),
    ] {
        let why = written(before, kind, css).expect_err(css);
        assert!(why.contains("such as") || why.contains("member by member"), "{css}: {why}");
    }
}
