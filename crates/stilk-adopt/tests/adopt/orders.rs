//! The old cascade against states, places and order.

use crate::support::{adopted, has, page, sheet, site};

#[test]
fn an_id_that_beat_every_state_still_does() {
    let css = ".cta { padding: 8px; border: 1px solid #111111; background: #222222; color: #fff }\n\
               .cta:hover { background: #333333 }\n.cta:disabled { background: #444444 }\n#send { background: #555555 }";
    let adopted = adopted(&page(css, "<button class=cta>A</button> <button class=cta id=send>B</button>"));
    let text = sheet(&adopted, "cta");
    has(&text, &["@option send marked (#send) {", "@state hover, disabled { background: {act.send-fill}; }"]);
}

#[test]
fn what_kept_rules_did_to_a_control_is_written_down_with_its_origin() {
    let css = "a { color: #0645ad } a:hover { color: #b3472f } .masthead a { color: #ffffff }\n\
               .cta { padding: 8px; border: 1px solid #111111; background: #222222; color: #eeeeee }";
    let body = "<div class=masthead><a class=cta href=x>A</a> <a href=x>Home</a></div> <a class=cta href=x>B</a> <a href=x>Plain</a>";
    let adopted = adopted(&page(css, body));
    let text = sheet(&adopted, "cta");
    has(&text, &["/* from `.masthead a` */", "&:is(.masthead *) { color:"]);
    has(&text, &["@state hover {", "/* from `a:hover` */", "color: {act.hover-text};"]);
    // They are for other links as well.
    has(&adopted.kept[0].text, &["a { color: #0645ad } a:hover { color: #b3472f } .masthead a { color: #ffffff }"]);
    assert!(!adopted.kept[0].text.contains(".cta"));
}

#[test]
fn important_declarations_and_layers_keep_their_order() {
    let css = "@layer low, high;\n@layer high { .cta { padding: 8px; border: 1px solid #111; background: #222; color: #eee } }\n\
               @layer low { button.cta.cta:hover { background: #333 } .cta { color: #999 !important } }\n\
               .cta { border-color: #444 }";
    let adopted = adopted(&page(css, "<button class=cta>A</button>"));
    let text = sheet(&adopted, "cta");
    has(&text, &["color: {act.text};"]);
    // What never won is not carried over, and is told.
    assert!(!text.contains("@state hover"), "{text}");
    assert!(adopted.became[0].lost.iter().any(|(rule, _)| rule.contains("button.cta.cta:hover")));
}

#[test]
fn conditions_beat_options_where_they_did() {
    let css = ".cta { padding: 8px; border: 0; background: #222; color: #eee } .cta-small { padding: 2px }\n\
               @media (max-width: 600px) { .cta { padding: 4px } }";
    let adopted = adopted(&page(css, "<button class=cta>A</button> <button class='cta cta-small'>B</button>"));
    has(
        &sheet(&adopted, "cta"),
        &[
            "@media (max-width: 600px) { padding: 4px; }",
            "small marked (.cta-small) {",
            "padding: 2px;",
            "@media (max-width: 600px) { padding: 4px; }",
        ],
    );
}

#[test]
fn both_kinds_of_focus_have_a_name_where_both_are_asked_for() {
    let css = "*:focus { outline: 0 } .cta { padding: 8px; border: 0; background: #222; color: #eee }\n\
               .cta:focus-visible { box-shadow: 0 0 0 2px #06c }";
    let adopted = adopted(&page(css, "<button class=cta>A</button>"));
    has(&adopted.files["stilk.toml"], &["focused = \":focus\""]);
    has(&sheet(&adopted, "cta"), &["@state focus {", "box-shadow", "@state focused {", "outline: 0;"]);
}

#[test]
fn disabled_controls_react_as_they_did() {
    let css = ".cta { padding: 8px; border: 0; background: #222; color: #eee } .cta:hover { background: #333 }";
    let adopted = adopted(&page(css, "<button class=cta>A</button> <button class=cta disabled>B</button>"));
    has(&adopted.files["stilk.toml"], &["as_written = [\"reset\", \"motion\", \"hover\", \"blocked\"]"]);
}

#[test]
fn what_a_link_is_for_is_a_condition_of_its_rules() {
    let html = "<!doctype html><link rel=stylesheet href=a.css><link rel=stylesheet href=n.css media='(max-width: 600px)'>\
                <body><button class=cta>A</button>";
    let sheets = [
        ("a.css", ".cta { padding: 8px; border: 0; background: #222; color: #eee }"),
        ("n.css", ".cta { padding: 2px } p { margin: 0 }"),
    ];
    let adopted = adopted(&site(&[("p.html", html)], &sheets));
    has(&sheet(&adopted, "cta"), &["padding: 8px;", "@media (max-width: 600px) { padding: 2px; }"]);
    has(&adopted.kept[1].text, &["@layer kept {", "p { margin: 0 }"]);
    assert!(!adopted.kept[1].text.contains(".cta"));
}
