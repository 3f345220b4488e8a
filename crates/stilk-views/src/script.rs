//! Data of a page's script.

use serde_json::Value;

/// A value as JSON that may stand in a `<script>`: nothing in it ends the element or opens a comment (HTML, section 13.2.5.4).
pub fn script_data(data: &Value) -> String {
    data.to_string().replace("</", "<\\/").replace("<!", "\\u003c!")
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn data_is_what_it_was_and_ends_nothing() {
        let data = Value::from("<!--<script></script>-->");
        let text = script_data(&data);
        assert!(!text.contains("</") && !text.contains("<!--"), "{text}");
        assert_eq!(serde_json::from_str::<Value>(&text).unwrap(), data);
    }
}
