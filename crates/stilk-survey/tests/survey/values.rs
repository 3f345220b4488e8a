//! The values in rules of controls, and rules that no page uses.

use crate::support::of_page;
use stilk_survey::value::Scale;

fn values(css: &str, body: &str, scale: Scale) -> Vec<(String, usize)> {
    let (_, survey) = of_page(css, body);
    let of_scale = survey.values.iter().filter(|used| used.scale == scale);
    of_scale.map(|used| (used.text.clone(), used.declarations)).collect()
}

const BUTTON: &str = "<button class=act>x</button>";

#[test]
fn values_are_counted_by_declaration_the_most_frequent_first() {
    let css = ".act { color: #fff; background: #14536b; border: 1px solid #14536b } .act:hover { background: #FFF }";
    let one = |text: &str, count| (text.to_owned(), count);
    assert_eq!(values(css, BUTTON, Scale::Color), [one("#14536b", 2), one("#ffffff", 2)]);
    let css = ".act { padding: 8px 16px; border-radius: 4px; transition: color 120ms; font: 16px Georgia, serif }";
    assert_eq!(values(css, BUTTON, Scale::Space), [one("16px", 1), one("8px", 1)]);
    assert_eq!(values(css, BUTTON, Scale::Radius), [one("4px", 1)]);
    assert_eq!(values(css, BUTTON, Scale::FontSize), [one("16px", 1)]);
    assert_eq!(values(css, BUTTON, Scale::Font), [one("Georgia, serif", 1)]);
    assert_eq!(values(css, BUTTON, Scale::Duration).len(), 1);
}

#[test]
fn what_says_nothing_and_what_is_of_no_control_is_no_value() {
    for css in [
        ".act { padding: 0; color: inherit; background: none; border-radius: 0; box-shadow: none }",
        "p { color: red } .other { color: blue }",
        ".act { color: transparent }",
    ] {
        let (_, survey) = of_page(css, &format!("{BUTTON}<p>x</p>"));
        assert!(survey.values.is_empty(), "{css}: {:?}", survey.values);
    }
}

#[test]
fn values_that_are_nearly_one_are_twins() {
    let css = ".act { color: #14536b; border: 1px solid #15546c; background: #8a1c1c; padding: 8px 9px 20px }";
    let (_, survey) = of_page(css, BUTTON);
    let twins = |text: &str| -> Vec<String> {
        let used = survey.values.iter().find(|used| used.text == text).expect("a value");
        used.twins.iter().map(|(twin, _)| twin.clone()).collect()
    };
    assert_eq!(twins("#14536b"), ["#15546c"]);
    assert_eq!(twins("#15546c"), ["#14536b"]);
    assert_eq!(twins("#8a1c1c"), Vec::<String>::new());
    assert_eq!(twins("8px"), ["9px"]);
    assert_eq!(twins("20px"), Vec::<String>::new());
}

#[test]
fn custom_properties_that_controls_read_are_told_with_their_values() {
    let css = ":root { --fill: #14536b; --other: red } .dark { --fill: #7fc0da } \
               .act { background: var(--fill); border: 1px solid var(--fill, blue) } p { color: var(--other) }";
    let (_, survey) = of_page(css, &format!("{BUTTON}<p>x</p>"));
    let [custom] = survey.customs.as_slice() else { panic!("{:?}", survey.customs) };
    let values: Vec<&str> = custom.values.iter().map(|(text, _)| text.trim()).collect();
    assert_eq!((custom.name.as_str(), values, custom.readers), ("--fill", vec!["#14536b", "#7fc0da"], 2));
}

#[test]
fn rules_that_no_page_uses_are_told_whatever_state_or_theme_they_ask_for() {
    let css = ".act { color: red } .act:hover, .gone:hover { color: blue } .gone { color: red } .act::before { content: 'x' } \
               html.night { --a: red; --b: blue } html.night .act { color: #fff } html.night .gone { color: #000 } \
               .act.is-open { color: green } .act .lost { color: red } @media print { .paper { color: red } }";
    let (_, survey) = of_page(css, BUTTON);
    let unused: Vec<&str> = survey.unused.iter().map(|rule| rule.selector.as_str()).collect();
    assert_eq!(unused, [".gone", "html.night .gone", ".act .lost", ".paper"]);
}
