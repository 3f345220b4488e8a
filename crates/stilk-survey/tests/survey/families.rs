//! Which controls share their base, and by what they vary.

use crate::support::{axes, family, of_page};
use stilk_survey::control::Kind;

const BASE: &str = "padding: 8px 16px; border: 1px solid #14536b; background: #14536b; color: #fff; font-size: 16px;";

fn names(css: &str, body: &str) -> Vec<(String, usize)> {
    let (_, survey) = of_page(css, body);
    let mut names: Vec<(String, usize)> =
        survey.families.iter().map(|report| (report.family.name.clone(), report.family.count)).collect();
    names.sort();
    names
}

fn named(expected: &[(&str, usize)]) -> Vec<(String, usize)> {
    expected.iter().map(|(name, count)| ((*name).to_owned(), *count)).collect()
}

#[test]
fn a_family_is_named_by_the_selectors_that_share_its_base() {
    for (css, body, expected) in [
        (format!(".act {{ {BASE} }}"), "<button class=act>a</button><a class=act href=/>b</a>", &[(".act", 2)][..]),
        (
            format!("button, .act, input[type=submit] {{ {BASE} }}"),
            "<button>a</button><a class=act href=/>b</a><input type=submit value=c>",
            &[("button, .act, input[type=\"submit\"]", 3)],
        ),
        // What gives nobody a look is a reset, not a base.
        (
            format!("button, input {{ font: inherit }} .act {{ {BASE} }}"),
            "<button class=act>a</button>",
            &[(".act", 1)],
        ),
        // Another kind is another family, whatever rules they share.
        (
            format!(".act {{ {BASE} }}"),
            "<button class=act>a</button><input class=act aria-label=b>",
            &[(".act", 1), (".act", 1)],
        ),
        // Without a rule it is the element's.
        (String::new(), "<button>a</button><button>b</button>", &[("button", 2)]),
    ] {
        assert_eq!(names(&css, body), named(expected), "{css} {body}");
    }
}

#[test]
fn options_that_never_stand_together_and_set_the_same_are_an_axis() {
    let css = format!(
        ".act {{ {BASE} }} .act-sea {{ background: #1d6b3a }} .act-alarm {{ background: #8a1c1c }} \
         .act-small {{ font-size: 13px; padding: 4px 8px }} .act-wide {{ width: 100% }}"
    );
    let body = "<button class='act act-sea'>a</button><button class='act act-alarm act-small'>b</button>\
                <button class='act act-sea act-wide'>c</button><button class='act act-alarm act-wide act-small'>d</button>";
    let (_, survey) = of_page(&css, body);
    let found = axes(&family(&survey, ".act").family);
    assert!(found.contains(&"colour: .act-alarm .act-sea".to_owned()), "{found:?}");
    assert!(!found.iter().any(|axis| axis.contains(".act-small") && axis.contains(".act-sea")), "{found:?}");
    assert!(!found.iter().any(|axis| axis.contains(".act-wide") && axis.contains(".act-alarm")), "{found:?}");
}

#[test]
fn attributes_ids_and_places_choose_as_classes_do() {
    let css = format!(
        ".act {{ {BASE} }} .act[data-size=s] {{ font-size: 13px }} #send {{ background: #1d6b3a }} .bar .act {{ color: #ff0 }}"
    );
    let body = "<button class=act data-size=s>a</button><button class=act id=send>b</button>\
                <div class=bar><a class=act href=/>c</a></div>";
    let (_, survey) = of_page(&css, body);
    let found = axes(&family(&survey, ".act").family).join("; ");
    for option in ["[data-size=\"s\"]", "#send", "in .bar"] {
        assert!(found.contains(option), "{option}: {found}");
    }
}

#[test]
fn a_class_that_no_rule_knows_is_no_option() {
    let css = format!(".act {{ {BASE} }}");
    let (_, survey) = of_page(&css, "<button class='act js-send track-1'>a</button><button class=act>b</button>");
    let found = family(&survey, ".act");
    assert!(found.family.axes.is_empty(), "{:?}", axes(&found.family));
    assert_eq!((found.looks.len(), found.family.count), (1, 2));
}

#[test]
fn classes_that_say_a_state_are_states() {
    let css = format!(".act {{ {BASE} }} .act.is-open {{ background: #0b3a4c }} .act--loading {{ color: #ddd }}");
    let (_, survey) =
        of_page(&css, "<button class='act is-open'>a</button><button class='act act--loading'>b</button>");
    let found = &family(&survey, ".act").family;
    let states: Vec<&str> = found.states.iter().map(|(name, _)| name.as_str()).collect();
    assert_eq!(states, ["act--loading", "is-open"]);
    assert!(found.axes.is_empty(), "{:?}", axes(found));
}

#[test]
fn states_that_rules_write_and_those_that_people_miss_are_told() {
    let css = format!(
        ".act {{ {BASE} }} .act:hover {{ background: #0b3a4c }} .act:focus-visible {{ outline: 3px solid #b36b00 }}"
    );
    let (_, survey) = of_page(&css, "<button class=act>a</button>");
    let found = family(&survey, ".act");
    assert!(["hover", "focus"].iter().all(|state| found.written.iter().any(|w| w == state)), "{:?}", found.written);
    let missing: Vec<&str> = found.missing.iter().map(|id| survey.system.states.get(*id).name.as_str()).collect();
    assert_eq!(missing, ["active", "disabled"]);
}

#[test]
fn equal_looks_are_one_with_all_their_places() {
    let css = format!(".act {{ {BASE} }} .bar .act {{ background: #14536b }} .act-new {{ background: #8a1c1c }}");
    let body = "<button class=act>a</button><div class=bar><button class=act>b</button></div>\
                <button class='act act-new'>c</button><button class=act>d</button>";
    let (_, survey) = of_page(&css, body);
    let mut counts: Vec<u64> = family(&survey, ".act").looks.iter().map(|look| look.controls).collect();
    counts.sort_unstable();
    assert_eq!(counts, [1, 3]);
    assert_eq!((survey.controls(), survey.looks()), (4, 2));
    assert_eq!(survey.of_kind(Kind::Button), (4, 2));
    assert_eq!(survey.of_kind(Kind::Field), (0, 0));
}

#[test]
fn looks_that_differ_by_a_hair_stand_beside_each_other() {
    let css = ".a, .b { padding: 8px 16px; border: 1px solid #14536b; color: #fff; font-size: 16px } \
               .a { background: #14536b } .b { background: #15546c; padding-left: 17px }";
    let (_, survey) = of_page(css, "<button class=a>a</button><button class=b>b</button>");
    let [near] = survey.near.as_slice() else { panic!("{} pairs", survey.near.len()) };
    let mut properties: Vec<&str> = near.differing.iter().map(|one| one.property.as_str()).collect();
    properties.sort_unstable();
    assert_eq!(properties, ["background-color", "padding-left"]);
    // What everybody tells apart is no twin.
    let (_, survey) =
        of_page(&css.replace("#15546c", "#8a1c1c"), "<button class=a>a</button><button class=b>b</button>");
    assert!(survey.near.is_empty());
}
