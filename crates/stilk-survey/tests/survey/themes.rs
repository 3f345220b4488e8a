//! What changes many colours at once.

use crate::support::of_page;

fn themes(css: &str, body: &str) -> Vec<String> {
    let (_, survey) = of_page(css, body);
    survey.themes.iter().map(|theme| theme.selector()).collect()
}

const BASE: &str =
    ":root { --ink: #14303c; --ground: #fff; --line: #5d7480 } body { background: var(--ground); color: var(--ink) }";
const BUTTON: &str = "<button>x</button>";

#[test]
fn an_attribute_or_a_class_that_sets_many_colours_is_a_theme() {
    for (rule, expected) in [
        ("[data-theme=dusk] { --ink: #fff; --ground: #000 }", &["[data-theme=\"dusk\"]"][..]),
        (":root[data-look='dusk'] { --ink: #fff; --ground: #000 }", &["[data-look=\"dusk\"]"]),
        ("html.night { --ink: #fff; --ground: #000 }", &[".night"]),
        ("body.theme-night { background: #000; color: #fff }", &["body.theme-night"]),
        (
            "[data-theme=a] { --ink: #fff; --ground: #000 } [data-theme=b] { --ink: #ff0; --ground: #00f }",
            &["[data-theme=\"a\"]", "[data-theme=\"b\"]"],
        ),
    ] {
        assert_eq!(themes(&format!("{BASE} {rule}"), BUTTON), expected, "{rule}");
    }
}

#[test]
fn what_changes_a_section_or_one_colour_is_none() {
    for rule in [
        "[data-theme=dusk] { --ink: #fff }",
        ".card.dark { background: #000; color: #fff }",
        ":root[lang=de] { --ink: #fff; --ground: #000 }",
        "body.home .cta { background: #000; color: #fff }",
        "[data-open=true] { --ink: #fff; --ground: #000 }",
        ":root:hover { --ink: #fff; --ground: #000 }",
    ] {
        assert_eq!(themes(&format!("{BASE} {rule}"), BUTTON), Vec::<String>::new(), "{rule}");
    }
}

#[test]
fn looks_are_judged_in_each_theme_and_the_worst_is_told() {
    let css = format!(
        "{BASE} [data-theme=dusk] {{ --ink: #fff; --ground: #222; --line: #999 }} \
         .act {{ padding: 8px 16px; border: 1px solid var(--line); background: #eee; color: var(--ink); font-size: 16px }}"
    );
    let said = crate::support::said_by("contrast/text", &css, "<button class=act>Book</button>");
    let [one] = said.as_slice() else { panic!("{said:?}") };
    assert!(one.contains("dusk"), "{one}");
}
