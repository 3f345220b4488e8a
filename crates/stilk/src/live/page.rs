//! What a browser gets: the specimen with a script that follows changes, and news of them.

use super::state::Known;
use serde_json::{Value, json};

const SCRIPT: &str = include_str!("live.js");

/// The specimen that follows changes; while there is none, a page that waits for it.
pub fn page(known: &Known) -> String {
    let start = json!({ "version": known.version, "errors": known.errors.1 }).to_string().replace("</", "<\\/");
    // Before all other scripts: they leave more behind where changes are followed.
    let head = format!("<script>window.stilkLive = {start};</script>");
    let script = format!("<script>{SCRIPT}</script>");
    let page = match known.page.1.as_str() {
        "" => {
            "<!doctype html>\n<html lang=\"en\"><head><meta charset=\"utf-8\"><title>Specimen</title></head><body></body></html>"
        }
        page => page,
    };
    page.replacen("</head>", &format!("{head}</head>"), 1).replacen("</body>", &format!("{script}</body>"), 1)
}

/// What is newer than a version.
pub fn news(known: &Known, than: u64) -> Value {
    let mut news = json!({ "version": known.version });
    if known.styles.0 > than {
        news["styles"] = json!(known.styles.1);
    }
    if known.page.0 > than {
        news["page"] = json!(true);
    }
    if known.errors.0 > than {
        news["errors"] = json!(known.errors.1);
    }
    news
}
