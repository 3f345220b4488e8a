//! `markup/group`.

use crate::judged::pages::{fails, passes};

#[test]
fn choices_of_one_question_belong_together() {
    let radio = |name: &str, value: &str| {
        format!("<label><input type=\"radio\" name=\"{name}\" value=\"{value}\">{value}</label>")
    };
    let group = |inner: String| format!("<fieldset><legend>Deck</legend>{inner}</fieldset>");
    let good = [
        group(radio("deck", "sun") + &radio("deck", "car")),
        format!("<div role=\"radiogroup\" aria-label=\"Deck\">{}{}</div>", radio("deck", "sun"), radio("deck", "car")),
    ];
    passes("markup/group", &good.each_ref().map(String::as_str));
    let bad = [
        (group(radio("deck", "sun")), "deck"),
        (group(radio("deck", "sun") + &radio("deck", "sun")), "sun"),
        (radio("deck", "sun") + &radio("deck", "car"), "group"),
    ];
    fails("markup/group", &bad.each_ref().map(|(body, words)| (body.as_str(), *words)));
}
