//! `markup/label`.

use crate::judged::pages::{fails, passes};

#[test]
fn fields_have_labels_and_buttons_names() {
    passes(
        "markup/label",
        &[
            "<label>From <input></label>",
            "<label for=\"a\">From</label><input id=\"a\">",
            "<input aria-label=\"From\">",
            "<span id=\"word\">From</span><input aria-labelledby=\"word\">",
            "<button type=\"button\" aria-label=\"Close\"><svg></svg></button>",
            "<button type=\"button\"><img src=\"x.svg\" alt=\"Close\"></button>",
            "<input title=\"From\"><input type=\"hidden\">",
        ],
    );
    fails(
        "markup/label",
        &[
            ("<input placeholder=\"From\">", ""),
            ("<label>From</label><input id=\"a\">", ""),
            ("<button type=\"button\"><svg></svg></button>", ""),
            ("<button type=\"button\"><img src=\"x.svg\" alt=\"\"></button>", ""),
            ("<select><option>North</select>", ""),
            ("<textarea></textarea>", ""),
        ],
    );
}

#[test]
fn the_label_beside_this_field_is_named_and_no_other() {
    let pair = |first: &str, second: &str| format!("<form>{first}{second}</form>");
    let from = "<label>From</label><input name=\"from\" id=\"a\">";
    let to = "<label>To</label><input name=\"to\">";
    let ticked = "<input type=\"checkbox\" name=\"dog\"><label>Dog on board</label>";
    let second = "<input type=\"checkbox\" name=\"bike\"><label>Bicycle</label>";
    for (body, fields) in [
        // Each field has its own words, whether they stand before or after it.
        (pair(from, to), vec!["`From`", "`To`"]),
        (pair(ticked, second), vec!["`Dog on board`", "`Bicycle`"]),
        (pair(to, ticked), vec!["`To`", "`Dog on board`"]),
        // What is nearer in the page's boxes is meant.
        ("<div><label>Name</label></div><div><input name=\"a\"><label>Hint</label></div>".into(), vec!["`Hint`"]),
        // A label for what is not there is for none; one that is for another field is that one's.
        ("<label for=\"form\">From</label><input id=\"from\">".into(), vec!["`From`"]),
        ("<label for=\"a\">From</label><input id=\"a\"><input name=\"b\">".into(), vec!["this field has no label"]),
        ("<label>From</label><input name=\"a\"><input name=\"b\">".into(), vec!["`From`", "this field has no label"]),
    ] {
        let (said, _) = crate::judged::pages::said("markup/label", &[&body]).remove(0);
        assert_eq!(said.len(), fields.len(), "{body}: {said:?}");
        for (one, words) in said.iter().zip(fields) {
            assert!(one.contains(words), "{body}: {one}");
        }
    }
}
