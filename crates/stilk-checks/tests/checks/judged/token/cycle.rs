//! `token/cycle`.

use super::is_told;

#[test]
fn no_token_leads_back_to_itself() {
    let two = "\"day\": { \"$type\": \"color\", \"$value\": \"{dusk}\" }, \"dusk\": { \"$type\": \"color\", \"$value\": \"{day}\" }";
    is_told("token/cycle", two, "color: {day};", "day");
    is_told("token/cycle", "\"day\": { \"$type\": \"color\", \"$value\": \"{day}\" }", "color: {day};", "day");
}
