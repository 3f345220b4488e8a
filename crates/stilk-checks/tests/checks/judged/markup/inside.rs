//! `markup/inside`.

use crate::judged::pages::{fails, passes};

#[test]
fn what_belongs_into_another_control_stands_there() {
    let step = "<button type=\"button\" class=\"ex-step\"><span class=\"ex-step_label\">Deck</span></button>";
    let row = |inner: &str| format!("<div class=\"ex-row\">{inner}</div>");
    let item = step.replace("ex-step\"", "ex-step ex-row_item\"");
    // Deep in it is in it; what may stand anywhere is not asked.
    let (plain, deep) = (row(&item), row(&format!("<div><p>{item}</p></div>{item}")));
    passes("markup/inside", &[&plain, &deep, &format!("BUTTON{plain}")]);
    let beside = format!("{}{step}", row(""));
    fails("markup/inside", &[(step, "`step` stands outside of `row`"), (&beside, "`step` stands outside of `row`")]);
}
