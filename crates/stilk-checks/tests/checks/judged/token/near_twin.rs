//! `token/near-twin`.

use super::with;
use crate::judged::verdict;

#[test]
fn no_two_colours_are_nearly_the_same() {
    let twins = |tokens: &str| verdict("token/near-twin", &with(tokens, "color: {ink};")).0;
    let oklch = |name: &str, lightness: &str| {
        format!(
            "\"{name}\": {{ \"$type\": \"color\", \"$value\": {{ \"colorSpace\": \"oklch\", \"components\": [{lightness}, 0.1, 230] }} }}"
        )
    };
    assert_eq!(twins(&oklch("wave", "0.48")), Vec::<String>::new());
    // An alias is meant to be the same.
    assert_eq!(twins("\"wave\": { \"$type\": \"color\", \"$value\": \"{sea}\" }"), Vec::<String>::new());
    let found = twins(&oklch("wave", "0.452"));
    assert!(found.len() == 1 && found[0].contains("`wave`") && found[0].contains("`sea`"), "{found:?}");
}
