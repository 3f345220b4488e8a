//! `token/type`.

use super::is_told;

#[test]
fn types_are_those_of_the_format() {
    is_told("token/type", "\"day\": { \"$type\": \"colour\", \"$value\": \"{sea}\" }", "color: {day};", "colour");
    let points = "\"day\": { \"$type\": \"dimension\", \"$value\": { \"value\": 4, \"unit\": \"pt\" } }";
    is_told("token/value", points, "padding: {day};", "pt");
}
