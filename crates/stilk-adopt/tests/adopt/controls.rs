//! Families as controls: marks, hosts, options, parts, states.

use crate::support::{adopted, has, page, sheet, site};

#[test]
fn a_class_with_its_variants_reads_as_a_person_would_write_it() {
    let css = ".cta { padding: 8px 16px; border: 1px solid #14536b; background: #1a6a8a; color: #fff }\n\
               .cta:hover { background: #14536b }\n\
               .cta-ghost { background: transparent; color: #1a6a8a }\n\
               .cta-small { padding: 4px 8px }\n\
               .cta .arrow { margin-left: 6px }\n\
               .cta:hover .arrow { margin-left: 10px }";
    let body = "<a class=cta href=x>Book <span class=arrow>→</span></a> <button class='cta cta-ghost'>See</button> \
                <button class='cta cta-small cta-ghost' disabled>Gone</button>";
    let adopted = adopted(&page(css, body));
    let text = sheet(&adopted, "cta");
    has(&text, &["@control cta marked (.cta) {", "padding: 8px 16px;", "border: 1px solid {act.edge};"]);
    has(&text, &["@part arrow marked (.arrow) { margin-left: 6px; }"]);
    has(&text, &["@state hover {", "background: {act.hover-fill};", "@part arrow { margin-left: 10px; }"]);
    has(&text, &["ghost marked (.cta-ghost) {", "background: transparent;", "color: {act.ghost-text};"]);
    has(&text, &["small marked (.cta-small) { padding: 4px 8px; }"]);
    assert_eq!(text.matches("padding: 8px 16px").count(), 1, "the base stands once:\n{text}");
    let template = &adopted.files["controls/cta.html"];
    has(template, &["<button><slot>", "<a href=\"#\"><slot>Book</slot> <span part=\"arrow\" data-when>→</span></a>"]);
    // Nothing is left of the old stylesheet.
    assert_eq!(adopted.kept[0].text.trim(), "@layer kept {\n\n}");
}

#[test]
fn selector_lists_are_attached_and_elements_told_apart() {
    let css = "input[type=text], textarea { padding: 8px; border: 1px solid #889; background: #fff; color: #223 }\n\
               textarea { height: 96px }\n\
               input[type=text]:focus, textarea:focus { border-color: #06c }";
    let adopted = adopted(&page(css, "<input type=text> <textarea></textarea> <input type=checkbox>"));
    let text = sheet(&adopted, "field");
    has(&text, &["@host textarea { height: 96px; }"]);
    has(&text, &["@state focus { border-color: {field.focus-edge}; }"]);
    has(&text, &["@attach (input[type=\"text\"], textarea) as field;"]);
}

#[test]
fn a_hidden_native_input_is_a_part_and_bears_the_states() {
    let css = ".check { padding-left: 28px; position: relative }\n.check input { position: absolute; opacity: 0 }\n\
               .check span { width: 18px; height: 18px; border: 1px solid #567; background: #fff }\n\
               .check input:checked + span { background: #1a6a8a; border-color: #1a6a8a }\n\
               .check input:focus-visible + span { outline: 2px solid #000 }";
    let adopted = adopted(&page(css, "<label class=check><input type=checkbox><span></span> Car</label>"));
    let text = sheet(&adopted, "check");
    has(&text, &["@part face marked (span) {", "@part native marked (input) {", "opacity: 0;"]);
    has(&text, &["@state focus {", "@part face { outline: 2px solid {choice.focus-face-ring}; }"]);
    has(&text, &["@state checked {", "background: {choice.checked-face-fill};"]);
    has(
        &adopted.files["controls/check.html"],
        &["<label><input part=\"native\" type=\"checkbox\"><span part=\"face\"></span> <slot>Car</slot></label>"],
    );
}

#[test]
fn classes_that_say_a_state_are_states_of_the_system_s_own() {
    let css = ".chip { padding: 4px 8px; border: 1px solid #889; background: #eef; color: #223 }\n\
               .chip.is-on { background: #223; color: #eef }\n.chip:hover { background: #dde }";
    let adopted = adopted(&page(css, "<button class='chip is-on'>Cars</button> <button class=chip>Dogs</button>"));
    has(&adopted.files["stilk.toml"], &["[states]\nis-on = \".is-on\""]);
    // The pointer came later in the old stylesheet, and a state of one's own is above it in a sheet.
    has(&sheet(&adopted, "chip"), &["@state is-on {", "@state hover and is-on { background: {act.hover-fill}; }"]);
}

#[test]
fn what_no_stylesheet_gives_a_look_is_no_control_of_the_system() {
    let css = ".cta { padding: 8px; border: 0; background: #246; color: #fff }";
    let adopted = adopted(&page(css, "<button class=cta>A</button> <input> <select></select>"));
    assert_eq!(adopted.became.len(), 1);
}

#[test]
fn a_family_is_kept_from_what_other_pages_have() {
    // Only the second page has the stylesheet that styles all fields.
    let pages = [
        ("a.html", "<!doctype html><link rel=stylesheet href=a.css><body><input type=text id=q>"),
        (
            "b.html",
            "<!doctype html><link rel=stylesheet href=a.css><link rel=stylesheet href=b.css>\
             <body><form class=booking><input type=text></form>",
        ),
    ];
    let sheets = [
        ("a.css", "body { margin: 0 }"),
        ("b.css", "input[type=text] { padding: 8px; border: 1px solid #889; background: #fff; color: #223 }"),
    ];
    let adopted = adopted(&site(&pages, &sheets));
    has(&sheet(&adopted, "field"), &["@attach (.booking input[type=\"text\"]) as field;"]);
}

#[test]
fn what_a_control_looks_like_without_the_state_that_pages_show_is_kept() {
    let css = ".s { display: inline-flex } .s input { position: absolute; opacity: 0 }\n\
               .s .rail { width: 44px; height: 22px; background: #cccccc } .s input:checked + .rail { background: #228844 }";
    let adopted =
        adopted(&page(css, "<label class=s><input type=checkbox checked><span class=rail></span> Mail</label>"));
    has(&sheet(&adopted, "s"), &["background: {choice.rail-fill};", "@state checked {", "{choice.checked-rail-fill}"]);
}

#[test]
fn classes_that_need_escapes_are_conditions() {
    let css = ".b { padding: 8px; border: 1px solid #111; background: #222; color: #eee } .w-1\\/2 { width: 50% } .md\\:x:hover { color: #fff }\n\
               .b .t-1\\/3 { color: #ccc }";
    let adopted = adopted(&page(
        css,
        "<button class='b w-1/2'>A</button> <button class='b md:x'><span class='t-1/3'>B</span></button>",
    ));
    has(&sheet(&adopted, "b"), &["&.w-1\\/2 { width: 50%; }", "@state hover { &.md\\:x { color:"]);
}

#[test]
fn what_must_not_hold_and_lists_of_states_are_said_by_name() {
    let css = ".cta { padding: 8px; border: 0; background: #246; color: #fff }\n\
               .cta:hover:not(:disabled) { background: #135 }\n\
               .cta:not(:disabled):active { background: #024 }\n\
               .cta:is(:hover, :focus-visible) { outline: 2px solid #000 }\n\
               .cta:disabled { opacity: .5 }\n\
               .row:hover .cta { color: #ffe }";
    let body = "<button class=cta>Go</button> <p class=row><button class=cta disabled>Gone</button></p>";
    let adopted = adopted(&page(css, body));
    let text = sheet(&adopted, "cta");
    has(&text, &["&:is(.row:hover *) { color: {act.row-text}; }"]);
    has(&text, &["@state hover, focus { outline: 2px solid {act.hover-ring}; }"]);
    has(&text, &["@state hover and not disabled { background: {act.hover-fill}; }"]);
    has(&text, &["@state active and not disabled { background: {act.active-fill}; }"]);
    assert!(!adopted.files["stilk.toml"].contains("[states]"), "no state of its own is needed");
}

#[test]
fn where_rules_tell_apart_what_is_one_state_elsewhere_it_is_told_apart() {
    // A link that says it is disabled still answers the pointer in the old stylesheet.
    let css = ".cta { padding: 8px; border: 0; background: #246; color: #fff }\n\
               .cta:hover:not(:disabled) { background: #135 }\n\
               .cta[aria-disabled=true] { opacity: .5 }";
    let adopted = adopted(&page(css, "<button class=cta>Go</button> <a class=cta href=x aria-disabled=true>Gone</a>"));
    has(&adopted.files["stilk.toml"], &["as-disabled = \":disabled\""]);
    has(&sheet(&adopted, "cta"), &["@state hover and not as-disabled {"]);
}

#[test]
fn a_state_asked_of_what_is_inside_is_that_of_the_control() {
    let css = ".tick { display: flex; gap: 4px; color: #333 } .tick input { opacity: 0 }\n\
               .box { width: 12px; height: 12px; border: 1px solid #333 }\n\
               .tick:has(:checked) { color: #060 }\n\
               .tick:has(> input:is(:focus-visible, :hover)) .box { outline: 2px solid #06c }\n\
               .tick:not(:has(:disabled)):hover .box { border-color: #090 }\n\
               .tick:has(input:where(:user-invalid, [aria-invalid]:not([aria-invalid=false]))) .box { border-color: #c00 }";
    let body = "<label class=tick><input type=checkbox><span class=box></span> Yes</label>";
    let adopted = adopted(&page(css, body));
    let text = sheet(&adopted, "tick");
    has(&text, &["@state hover and not disabled { @part box { border-color: {choice.hover-box-edge}; } }"]);
    has(&text, &["@state hover of native, focus { @part box { outline: 2px solid"]);
    has(&text, &["@state checked { color: {choice.checked-text}; }"]);
    has(&text, &["@state invalid { @part box { border-color: {choice.invalid-box-edge}; } }"]);
}

#[test]
fn the_direction_of_text_is_a_condition_whatever_pages_have() {
    let css = ".go { padding: 4px 8px; border: 0; background: #246; color: #fff; text-align: left }\n\
               .go:dir(rtl) { text-align: right }\n[dir=rtl] .go { padding-left: 20px }";
    let adopted = adopted(&page(css, "<button class=go>Go</button>"));
    let text = sheet(&adopted, "go");
    has(&text, &["text-align: left;"]);
    assert!(text.contains("&:dir(rtl) { text-align: right; }"), "{text}");
    assert!(text.contains("[dir=\"rtl\"]") && text.contains("padding-left: 20px"), "{text}");
}

#[test]
fn nothing_is_said_twice_where_nothing_comes_between() {
    let css = ".cta { padding: 8px; border: 0; background: #246; color: white }\n.cta-big { padding: 16px }\n\
               .bar .cta { padding: 8px; color: #fff; background: #357 }";
    let body = "<p class=bar><button class=cta>Go</button></p> <button class='cta cta-big'>Go</button> <button class=cta>A</button>";
    let text = sheet(&adopted(&page(css, body)), "cta");
    has(&text, &["&:is(.bar *) { background: {act.bar-fill}; }"]);
    let body = format!("{body} <p class=bar><button class='cta cta-big'>Go</button></p>");
    let text = sheet(&adopted(&page(css, &body)), "cta");
    assert!(text.matches("padding: 8px;").count() > 1, "a large one in the bar is as small as all:\n{text}");
}
