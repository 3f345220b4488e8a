//! `token/deprecated`.

use super::with;
use crate::judged::verdict;

#[test]
fn no_token_is_used_that_is_to_go() {
    let old = "\"old\": { \"$type\": \"color\", \"$value\": \"{sea}\", \"$deprecated\": \"use sea\" }";
    assert_eq!(verdict("token/deprecated", &with(old, "color: {sea};")).0, Vec::<String>::new());
    for body in ["color: {old};", "@option loud { color: {old}; }", "color: color-mix(in oklab, {old}, {ink});"] {
        let found = verdict("token/deprecated", &with(old, body)).0;
        assert!(found.len() == 1 && found[0].contains("`old`"), "{body}: {found:?}");
    }
}
