//! What `display` computes to for elements that are boxes by nature, and for items.

use super::nature::Nature;

/// What `display` comes to for an element whose box is something by nature, or drawn by the platform.
pub(super) fn natural(nature: Nature, is_native: bool, display: &'static str) -> &'static str {
    match display {
        "contents" if matches!(nature, Nature::Control | Nature::PushButton | Nature::TextArea | Nature::Replaced) => {
            "none"
        }
        "inline" | "inline-table" | "table-caption" | "table-cell" | "table-row" | "table-row-group"
        | "table-header-group" | "table-footer-group" | "table-column" | "table-column-group"
            if is_native =>
        {
            "inline-block"
        }
        "table" | "list-item" if is_native => "block",
        other => other,
    }
}

/// As a block (CSS Display 3, section 2.7).
pub(super) fn blockify(display: &'static str) -> &'static str {
    match display {
        "inline" | "inline-block" | "table-row" | "table-cell" | "table-row-group" | "table-header-group"
        | "table-footer-group" | "table-column" | "table-column-group" | "table-caption" | "ruby-text" => "block",
        "inline-flex" => "flex",
        "inline-grid" => "grid",
        "inline-table" => "table",
        other => other,
    }
}
