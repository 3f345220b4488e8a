//! `token/unknown`.

use super::is_told;

#[test]
fn references_lead_to_tokens() {
    is_told("token/unknown", "\"day\": { \"$type\": \"color\", \"$value\": \"{dsk}\" }", "color: {day};", "dsk");
    is_told("token/unknown", "\"day\": { \"$type\": \"color\", \"$value\": \"{sea}\" }", "color: {dya};", "dya");
}
