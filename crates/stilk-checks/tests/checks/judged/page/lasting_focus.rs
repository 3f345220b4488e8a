//! `page/lasting-focus`.

use crate::judged::pages::{fails, said};

const DAYS: &str = "<a class=\"d\" href=\"#1\">1</a><a class=\"d\" href=\"#2\">2</a><a class=\"d\" href=\"#3\">3</a>";

#[test]
fn what_is_chosen_is_said_by_more_than_focus() {
    let of = |style: &str| format!("<style>{style}</style>{DAYS}");
    let outlined = of(".d:focus { outline: 2px solid red }");
    assert_eq!(said("page/lasting-focus", &[&outlined])[0].0, [""; 0]);
    let marked = of(".d:focus { background: gold }");
    fails("page/lasting-focus", &[(&marked, "`.d:focus` marks one of 3")]);
}
