//! Browser defaults: what engines bring along, measured in them, and the HTML Standard's rendering section.

use super::stylesheet::Stylesheet;
use std::sync::LazyLock;

/// Whose defaults a page is computed under.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Default)]
pub enum Browser {
    /// Chromium.
    #[default]
    Chromium,
}

impl Browser {
    /// Every one.
    pub const ALL: [Browser; 1] = [Browser::Chromium];

    /// Its name.
    pub fn name(self) -> &'static str {
        match self {
            Browser::Chromium => "Chromium",
        }
    }

    /// Its defaults as CSS.
    pub fn text(self) -> &'static str {
        match self {
            Browser::Chromium => include_str!("chromium.css"),
        }
    }
}

/// Chromium's defaults.
pub static CHROMIUM: LazyLock<Stylesheet> = LazyLock::new(|| Stylesheet::parse(Browser::Chromium.text()));
