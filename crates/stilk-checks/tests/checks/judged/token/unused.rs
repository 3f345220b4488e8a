//! `token/unused`.

use super::with;
use crate::judged::verdict;

#[test]
fn tokens_are_used() {
    let unused = |body: &str| {
        verdict("token/unused", &with("\"wide\": { \"$type\": \"dimension\", \"$value\": { \"value\": 20, \"unit\": \"px\" } }, \"far\": { \"$type\": \"dimension\", \"$value\": \"{wide}\" }", body)).0
    };
    let all = "color: {ink}; background: {sea}; border-color: {mist}; outline-color: {rust}; padding: {gap};";
    assert_eq!(unused(&format!("{all} margin: {{far}};")), Vec::<String>::new());
    let found = unused(all);
    assert!(found.iter().any(|message| message.contains("`far`")), "{found:?}");
}
