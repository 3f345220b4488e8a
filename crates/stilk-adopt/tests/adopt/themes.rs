//! Themes and tokens.

use crate::support::{adopted, has, page, request, sheet};
use stilk_adopt::adopt::{Request, adopt};

#[test]
fn custom_properties_of_the_page_are_tokens_under_their_names() {
    let css = ":root { --sea: #146c94; --gap: .5rem; --deep: var(--sea) }\n[data-theme=dusk] { --sea: #58b4d8; --gap: 1rem }\n\
               .pill { padding: var(--gap); border: 1px solid var(--sea); background: var(--deep); color: white }\n\
               .card { color: var(--sea) }";
    let adopted = adopted(&page(css, "<button class=pill>A</button> <div class=card>B</div>"));
    has(&adopted.files["stilk.toml"], &["[modifiers.theme]\nattribute = \"data-theme\"", "property = \"{token}\""]);
    has(&sheet(&adopted, "pill"), &["padding: {gap};", "border: 1px solid {sea};", "background: {deep};"]);
    has(
        &adopted.files["tokens/base.tokens.json"],
        &["\"deep\": { \"$value\": \"{sea}\" }", "\"value\": 0.5", "\"hex\": \"#146c94\""],
    );
    has(&adopted.files["tokens/theme-dusk.tokens.json"], &["\"hex\": \"#58b4d8\""]);
    // They are written once: what stays reads the system's.
    assert!(!adopted.kept[0].text.contains("--sea:"), "{}", adopted.kept[0].text);
    has(&adopted.kept[0].text, &[".card { color: var(--sea) }"]);
}

#[test]
fn what_a_theme_by_class_changes_is_the_token_s_value_there() {
    let css = ".cta { padding: 8px; border: 1px solid #111111; background: #1a6a8a; color: #fff }\n\
               .cta:hover { background: #14536b }\n.cta-ghost { background: transparent }\n\
               body.theme-evening { background: #111; color: #eee }\n\
               body.theme-evening .cta { background: #2a86ab }";
    let body = "<button class=cta>A</button> <button class='cta cta-ghost'>B</button>";
    let adopted = adopted(&page(css, body));
    has(&adopted.files["stilk.toml"], &["marked = { evening = \".theme-evening\" }"]);
    let text = sheet(&adopted, "cta");
    assert!(!text.contains("evening"), "the sheet knows no theme:\n{text}");
    has(
        &text,
        &["background: {act.fill};", "@state hover { background: {act.hover-fill}; }", "background: {act.ghost-fill};"],
    );
    let evening = adopted.files.iter().find(|(path, _)| path.ends_with("evening.tokens.json")).expect("a context").1;
    assert_eq!(evening.matches("#2a86ab").count(), 3, "fill, hover and ghost: {evening}");
}

#[test]
fn what_a_device_changes_follows_it() {
    let css = ":root { --ink: #111111; --paper: #ffffff }\n\
               @media (prefers-color-scheme: dark) { :root { --ink: #eeeeee; --paper: #000000 } }\n\
               .b { padding: 8px; border: 1px solid var(--ink); background: var(--paper); color: var(--ink) }";
    let adopted = adopted(&page(css, "<button class=b>A</button>"));
    has(&adopted.files["stilk.toml"], &["follow = [[\"dark\", \"(prefers-color-scheme: dark)\"]]"]);
}

#[test]
fn colours_that_are_almost_one_become_one_only_where_that_is_asked_for() {
    let css = ".a { padding: 8px; border: 0; background: #1a6a8a; color: #fff } .b { padding: 9px; border: 0; background: #1b6b8a; color: #fff }";
    let site = page(css, "<button class=a>A</button> <button class=b>B</button>");
    assert_eq!(adopted(&site).merged, []);
    let merged = adopt(&site, &Request { merge: true, ..request() }).expect("adopted");
    assert_eq!(merged.merged.len(), 1);
    assert_eq!((merged.merged[0].0.as_str(), merged.merged[0].1.as_str()), ("#1b6b8a", "act.fill"));
    assert!(merged.proof.differing > 0);
    has(&merged.files["ADOPTED.md"], &["## Colours that became one", "| `#1b6b8a` | `act.fill` | 0.00"]);
    has(&sheet(&merged, "b"), &["background: {act.fill};"]);
}

#[test]
fn what_css_computes_is_derived() {
    let css = ":root { --leaf: light-dark(#2f6b3c, #8fd19e); --soft: color-mix(in oklab, var(--leaf), white 20%) }\n\
               .b { padding: 8px; border: 0; background: var(--leaf); color: var(--soft) }";
    let adopted = adopted(&page(css, "<button class=b>A</button>"));
    has(
        &adopted.files["controls/shared.stilk"],
        &["leaf: light-dark({leaf-light}, {leaf-dark});", "soft: color-mix(in oklab, {leaf}, "],
    );
}

#[test]
fn properties_of_a_control_stay_its_own() {
    let css =
        ".b { --fill: #246; padding: 8px; border: 0; background: var(--fill); color: #fff } .b-alarm { --fill: #a22 }";
    let adopted = adopted(&page(css, "<button class=b>A</button> <button class='b b-alarm'>B</button>"));
    has(
        &sheet(&adopted, "b"),
        &["--fill: {act.own};", "background: var(--fill);", "alarm marked (.b-alarm) { --fill: {act.alarm-own}; }"],
    );
}
