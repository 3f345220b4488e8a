//! What only foreign stylesheets do wrong, and sheets that are right in habits of their own.

use crate::support::said_by;

const BASE: &str = ".act { padding: 8px 16px; border: 1px solid #14536b; background: #14536b; color: #fff; \
                    font: 16px/1.5 serif; text-decoration: none; text-align: center }";

/// Asserts what one check says: a piece of each message, in order.
fn says(check: &str, cases: &[(&str, &str, &[&str])]) {
    for (css, body, expected) in cases {
        let css = format!("{BASE}\n{css}");
        let said = said_by(check, &css, body);
        assert_eq!(said.len(), expected.len(), "{check}: {css} {body}: {said:#?}");
        for (said, piece) in said.iter().zip(*expected) {
            assert!(said.contains(piece), "{check}: {css}: {said}");
        }
    }
}

const BUTTON: &str = "<button class=act>Book</button>";
const LINK: &str = "<a class=act href=/>Book</a>";

#[test]
fn a_rule_for_elements_in_general_that_wins_over_a_controls_own() {
    says(
        "foreign/stray",
        &[
            ("a:hover { color: #b3472f }", LINK, &["a:hover"]),
            ("a:hover { color: #b3472f }", BUTTON, &[]),
            ("p a:hover { color: #b3472f }", LINK, &[]),
            ("a:hover { color: #b3472f } .act:hover { color: #fff }", LINK, &[]),
            ("a { color: #b3472f }", LINK, &[]),
            ("#main a { color: #b3472f }", "<main id=main><a class=act href=/>Book</a></main>", &["#main a"]),
            ("button { color: #000 !important }", BUTTON, &["button"]),
        ],
    );
}

#[test]
fn a_state_or_a_variant_that_can_never_win() {
    says(
        "foreign/never-wins",
        &[
            (
                "#send { background: #1d6b3a } .act:hover { background: #0b3a4c }",
                "<button class=act id=send>x</button>",
                &[".act:hover"],
            ),
            // Another button shows it, this one never does.
            (
                "#send { background: #1d6b3a } .act:hover { background: #0b3a4c }",
                "<button class=act id=send>x</button><button class=act>y</button>",
                &[".act:hover"],
            ),
            (
                "#send { background: #1d6b3a } #send:hover { background: #0b3a4c }",
                "<button class=act id=send>x</button>",
                &[],
            ),
            (".act:hover { background: #0b3a4c }", BUTTON, &[]),
            (
                ".act-wide { padding: 8px 40px } div .act { padding: 8px 16px }",
                "<div><button class='act act-wide'>x</button></div>",
                &[".act-wide"],
            ),
        ],
    );
}

#[test]
fn what_browsers_drop_is_dropped_at_its_line() {
    says(
        "foreign/dropped-rule",
        &[
            (".act, .other:hovr { color: red }", BUTTON, &[":hovr"]),
            (".act:hover, .act:focus { color: red }", BUTTON, &[]),
            // What lets unknown selectors be drops nothing.
            (":is(.act, .other:hovr) { color: red }", BUTTON, &[]),
        ],
    );
    says(
        "foreign/dropped-declaration",
        &[
            (".act { width: 120 }", BUTTON, &["width"]),
            (".act { colour: red }", BUTTON, &["colour"]),
            (".act { width: 120px; --width: 120; color: var(--nope) }", BUTTON, &[]),
            // What another browser reads, or none yet, is a way of people who know.
            (".act { -moz-appearance: none; -webkit-appearance: none; appearance: none }", BUTTON, &[]),
        ],
    );
}

#[test]
fn a_shorthand_that_wipes_a_picture() {
    let pick = ".pick { appearance: none; padding: 6px 24px 6px 8px; border: 1px solid #14536b; \
                background: #fff url(arrow.svg) no-repeat right }";
    let select = |classes: &str| format!("<select class='{classes}' aria-label=x><option>y</select>");
    let with = |rule: &str| format!("{pick} {rule}");
    let (wiping, keeping) =
        (with(".pick.has-error { background: #fdf2f0 }"), with(".pick.has-error { background-color: #fdf2f0 }"));
    let (none, other) =
        (with(".pick.has-error { background: none }"), with(".pick.has-error { background: #fdf2f0 url(b.svg) }"));
    says(
        "foreign/wiped",
        &[
            (&wiping, &select("pick has-error"), &[".pick.has-error"]),
            (&keeping, &select("pick has-error"), &[]),
            // Who writes `none` means it.
            (&none, &select("pick has-error"), &[]),
            (&other, &select("pick has-error"), &[]),
        ],
    );
}

#[test]
fn a_variant_that_stands_without_its_family() {
    let quiet = ".act-calm { background: none; color: #14536b }";
    says(
        "foreign/lacks-class",
        &[
            (quiet, "<button class='act act-calm'>x</button><button class=act-calm>y</button>", &["act-calm"]),
            (quiet, "<button class='act act-calm'>x</button>", &[]),
            // A class that always stands alone is one of its own.
            (quiet, "<button class=act>x</button><button class=act-calm>y</button>", &[]),
        ],
    );
}

#[test]
fn hosts_of_one_family_that_differ() {
    let lean =
        ".go { padding: 8px 16px; border: 1px solid #14536b; background: #14536b; color: #fff; text-decoration: none }";
    let whole = format!("{lean} .go {{ font: inherit; text-align: center }}");
    let body = "<a class=go href=/>x</a><button class=go>x</button>";
    says(
        "foreign/hosts-differ",
        &[
            (&format!("body {{ font: 18px/1.5 serif }} {lean}"), body, &["font-size"]),
            (&format!("body {{ font: 18px/1.5 serif }} {whole}"), body, &[]),
            (&format!("body {{ font: 18px/1.5 serif }} {lean}"), "<a class=go href=/>x</a>", &[]),
        ],
    );
}

#[test]
fn a_variant_that_loses_to_a_state_of_its_base() {
    let hover = ".act:hover { background: #0b3a4c }";
    let quiet = ".act-calm { background: none; color: #14536b }";
    let both = "<button class=act>x</button><button class='act act-calm'>y</button>";
    says(
        "foreign/leak",
        &[
            (&format!("{hover} {quiet}"), both, &[".act-calm"]),
            (&format!("{hover} {quiet} .act-calm:hover {{ background: none; text-decoration: underline }}"), both, &[]),
            (&format!("{hover} .act-big {{ font-size: 20px }}"), "<button class='act act-big'>y</button>", &[]),
            // A base that paints with a custom property has no leak.
            (
                ".go { padding: 8px 16px; border: 1px solid; background: var(--fill, #14536b); color: #fff; font-size: 16px } \
                 .go:hover { --fill: #0b3a4c } .go-calm { --fill: #555 } .go-calm:hover { --fill: #333 }",
                "<button class=go>x</button><button class='go go-calm'>y</button>",
                &[],
            ),
        ],
    );
}

#[test]
fn a_part_of_a_variant_that_loses_to_a_state_of_its_base() {
    let icon = ".act:hover .icon { color: #fff } .act-calm { background: none; color: #14536b }";
    let body =
        "<button class=act><i class=icon>x</i>a</button><button class='act act-calm'><i class=icon>x</i>b</button>";
    let with = |rule: &str| format!("{icon} {rule}");
    let lost = with(".act-calm .icon { color: #8a1c1c }");
    let stated = with(".act-calm .icon { color: #8a1c1c } .act-calm:hover .icon { color: #14536b }");
    says(
        "foreign/leak",
        &[
            (&lost, body, &["of `icon` of `.act.act-calm` is what `.act:hover .icon` says"]),
            (&stated, body, &[]),
            // A part that no variant speaks of answers as all do.
            (icon, body, &[]),
        ],
    );
    // What is checked may look as the base says.
    let tick = ".tick { display: flex } .tick input { position: absolute; opacity: 0 } .tick .box { width: 12px; height: 12px; border: 1px solid #555 } \
                .tick-calm .box { border-color: #999 } .tick input:checked + .box { border-color: #14536b }";
    let box_in = "<label class='tick tick-calm'><input type=checkbox><span class=box></span>x</label>";
    says("foreign/leak", &[(tick, box_in, &[])]);
}

#[test]
fn a_theme_that_forgets_what_the_others_set() {
    let root = ":root { --line: #5d7480; --ink: #14303c; --ground: #fff; --fill: #14536b } \
                body { background: var(--ground); color: var(--ink) } \
                .field { border: 1px solid var(--line); background: var(--ground); color: var(--ink); padding: 6px }";
    let field = "<input class=field aria-label=x>";
    let dusk = "[data-theme=dusk] { --line: #9db4bf; --ink: #e6eef1; --ground: #16242b; --fill: #7fc0da }";
    let storm = |rule: &str| format!("{root} {dusk} [data-theme=storm] {{ {rule} }}");
    // The root refers to what a theme sets on the body.
    let further_out = format!(
        "{root} :root {{ --edge: var(--line) }} body.theme-dusk {{ --line: #9db4bf; --ink: #e6eef1; --ground: #16242b; --fill: #7fc0da }}"
    );
    says(
        "foreign/theme-gap",
        &[
            (&storm("--ink: #fff; --ground: #000; --fill: #fff"), field, &["`--line`"]),
            (&storm("--line: #fff; --ink: #fff; --ground: #000; --fill: #fff"), field, &[]),
            // Of two that have little in common none has forgotten anything.
            (&storm("--ink: #fff; --ground: #000"), field, &[]),
            (&format!("{root} {dusk}"), field, &[]),
            (&further_out, field, &["`--edge` keeps the root's `--line`"]),
        ],
    );
}
