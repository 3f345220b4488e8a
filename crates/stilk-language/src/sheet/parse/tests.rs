//! What the parser makes of sheets, and what it says of mistakes.

use super::*;

fn read(text: &str) -> (Sheet, Vec<String>) {
    let mut sources = Sources::default();
    let file = sources.add("x.stilk", text);
    let mut diagnostics = Diagnostics::default();
    let sheet = parse(file, &sources, &mut diagnostics);
    let said = diagnostics
        .into_sorted()
        .iter()
        .map(|d| {
            let at = sources.position(d.span.unwrap());
            format!("{}:{} {}", at.line, at.column, d.message)
        })
        .collect();
    (sheet, said)
}

#[test]
fn a_missing_semicolon_is_named_where_it_belongs_and_reading_goes_on() {
    let (sheet, said) =
        read("@control x {\n  color: red\n  gap: 1px\n  @state hover { top: 0 }\n  left: 0 right: 0;\n}");
    assert_eq!(
        said,
        [
            "2:12 a semicolon is missing after `color`",
            "3:10 a semicolon is missing after `gap`",
            "5:9 a semicolon is missing after `left`"
        ]
    );
    assert_eq!(sheet.controls[0].body.len(), 5);
}

#[test]
fn references_keep_names_that_css_would_not_read() {
    let (sheet, said) = read("@control x { gap: calc(2 * {space.05}) {a.1b}; }");
    assert!(said.is_empty(), "{said:?}");
    let Item::Declaration(declaration) = &sheet.controls[0].body[0] else { panic!() };
    let names: Vec<_> = declaration
        .value
        .pieces
        .iter()
        .filter_map(|p| if let ValuePiece::Reference(name) = p { Some(name.as_str()) } else { None })
        .collect();
    assert_eq!(names, ["space.05", "a.1b"]);
}

#[test]
fn joined_references_are_refused() {
    for (value, words) in [
        ("{a.b}px", "a unit or word cannot be joined"),
        ("{a.b}{c.d}", "cannot be joined to what stands before"),
        ("-{a.b}", "cannot be joined to what stands before"),
        ("\"{a.b}\"", "a reference in a string"),
        ("url({a.b})", "a reference in `url()`"),
    ] {
        let (_, said) = read(&format!("@control x {{ gap: {value}; }}"));
        assert!(said.len() == 1 && said[0].contains(words), "{value}: {said:?}");
    }
}

#[test]
fn states_parts_and_axes_are_read() {
    let (sheet, said) = read(
        "@control x { @state hover and checked, busy { @part a, b::before, ::after, c:first-child { top: 0; } }
         @axis tint default b { a { } b { } } @exclude a b with c without d on input; }",
    );
    assert!(said.is_empty(), "{said:?}");
    let body = &sheet.controls[0].body;
    let Item::State(alternatives, inner) = &body[0] else { panic!() };
    assert_eq!(alternatives.len(), 2);
    assert_eq!(alternatives[0].states.len(), 2);
    let Item::Part(targets, _, _) = &inner[0] else { panic!() };
    assert_eq!(targets[1].pseudo.as_ref().unwrap().value, "::before");
    assert!(targets[2].part.is_none());
    assert_eq!(targets[3].condition.as_ref().unwrap().value, ":first-child");
    let Item::Axis(axis) = &body[1] else { panic!() };
    assert!(matches!(&axis.default, AxisDefault::Named(name) if name.value == "b"));
    let Item::Exclude(exclude) = &body[2] else { panic!() };
    assert_eq!(exclude.on.as_ref().unwrap().value, "input");
    assert_eq!((exclude.options.len(), exclude.with.len(), exclude.without.len()), (2, 1, 1));
}

#[test]
fn a_state_written_as_a_condition_gets_its_rule() {
    let (_, said) = read("@control x { &:hover { top: 0; } }");
    assert!(said[0].contains("`:hover` is a state"), "{said:?}");
}

#[test]
fn depth_is_bounded() {
    let deep = format!("@control x {}{}", "{ @state hover ".repeat(40), "}".repeat(40));
    let (_, said) = read(&deep);
    assert!(said.iter().any(|s| s.contains("nested deeper")), "{said:?}");
    let brackets = format!("@control x {{ gap: {}1px; }}", "calc(".repeat(5000));
    assert!(!read(&brackets).1.is_empty());
}
