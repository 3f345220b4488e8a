//! What a browser gets: the specimen with a script that follows changes.

use super::state::State;
use crate::embedded;
use serde_json::json;

/// What is put around the page: a mark that only this program's own scripts bear.
pub struct Frame {
    nonce: String,
}

impl Default for Frame {
    fn default() -> Frame {
        Frame { nonce: format!("{:032x}", fastrand::u128(..)) }
    }
}

impl Frame {
    /// What a browser may do with the page: nothing but what this server sends, in no frame, with no script but its own
    /// (Content Security Policy 3).
    pub fn policy(&self) -> String {
        format!(
            "default-src 'none'; script-src 'nonce-{}'; style-src 'self' 'unsafe-inline'; img-src 'self' data:; \
             font-src 'self' data:; connect-src 'self'; base-uri 'none'; form-action 'none'; frame-ancestors 'none'",
            self.nonce
        )
    }
}

/// The specimen that follows changes; while there is none, a page that waits for it.
pub fn page(state: &State) -> String {
    let known = state.known();
    let nonce = &state.frame.nonce;
    let mut start = json!({ "run": state.run, "version": known.version, "errors": known.errors.1 });
    if let Some(secret) = &state.secret {
        start["secret"] = json!(secret);
    }
    // Nothing in a script may end it or open a comment in it: `<` is written so that HTML does not see it.
    let start = start.to_string().replace('<', "\\u003c");
    let script = |text: &str| format!("<script nonce=\"{nonce}\">{text}</script>");
    let mut page = match &*known.page.1 {
        "" => "<!doctype html>\n<html lang=\"en\"><head><meta charset=\"utf-8\"><title>Specimen</title></head><body></body></html>"
            .to_owned(),
        page => page.to_owned(),
    };
    // The page's own script is the last, and the only one that runs; what stands behind it holds no text of a project.
    if let Some(at) = page.rfind("<script>") {
        page.replace_range(at..at + "<script>".len(), &format!("<script nonce=\"{nonce}\">"));
    }
    if let Some(at) = page.rfind("</body>") {
        let nudge = || {
            let style = embedded::text("live/nudge.css");
            format!("{}<style>{style}</style>", script(embedded::text("live/nudge.js")))
        };
        let nudge = state.secret.as_ref().map_or_else(String::new, |_| nudge());
        page.insert_str(at, &format!("{}{nudge}", script(embedded::text("live/live.js"))));
    }
    // Before all other scripts: they leave more behind where changes are followed. Nothing stands before the first `<head>`.
    if let Some(at) = page.find("<head>") {
        page.insert_str(at + "<head>".len(), &script(&format!("window.stilkLive = {start};")));
    }
    page
}
