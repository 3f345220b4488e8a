//! Browser defaults: what engines bring along, measured in them by `scripts/measure-defaults`, and the HTML Standard's
//! rendering section.

use super::stylesheet::Stylesheet;
use std::sync::LazyLock;

/// A browser's sheet with what all have in modes of their own: forced colours, and quirks.
macro_rules! with_modes {
    ($path:literal) => {
        concat!(include_str!($path), include_str!("defaults/forced.css"), include_str!("defaults/quirks.css"))
    };
}

/// Whose defaults a page is computed under.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Default)]
pub enum Browser {
    /// As measured in Chromium.
    #[default]
    Chromium,
    /// As measured in Firefox.
    Firefox,
    /// As measured in WebKitGTK.
    WebKit,
    /// By the HTML Standard, section 15, which leaves much to the platform.
    Standard,
}

impl Browser {
    /// Every one.
    pub const ALL: [Browser; 4] = [Browser::Chromium, Browser::Firefox, Browser::WebKit, Browser::Standard];
    /// Those that were measured.
    pub const MEASURED: [Browser; 3] = [Browser::Chromium, Browser::Firefox, Browser::WebKit];

    /// Its name.
    pub fn name(self) -> &'static str {
        match self {
            Browser::Chromium => "Chromium",
            Browser::Firefox => "Firefox",
            Browser::WebKit => "WebKit",
            Browser::Standard => "HTML Standard",
        }
    }

    /// Its defaults as CSS.
    pub fn text(self) -> &'static str {
        match self {
            Browser::Chromium => concat!(with_modes!("defaults/chromium.css"), include_str!("defaults/options.css")),
            Browser::Firefox => with_modes!("defaults/firefox.css"),
            Browser::WebKit => with_modes!("defaults/webkit.css"),
            Browser::Standard => with_modes!("defaults/standard.css"),
        }
    }

    /// The browser and version that were measured, as the table's first line has them.
    pub fn version(self) -> &'static str {
        let line = self.text().lines().next().unwrap_or_default();
        let start = line.find("Defaults of ").map_or(0, |at| at + "Defaults of ".len());
        line[start..].split(',').next().filter(|_| self != Browser::Standard).unwrap_or("the HTML Standard")
    }

    /// Its defaults, parsed.
    pub fn sheet(self) -> &'static Stylesheet {
        static SHEETS: [LazyLock<Stylesheet>; 4] = [
            LazyLock::new(|| Stylesheet::parse_defaults(Browser::Chromium.text())),
            LazyLock::new(|| Stylesheet::parse_defaults(Browser::Firefox.text())),
            LazyLock::new(|| Stylesheet::parse_defaults(Browser::WebKit.text())),
            LazyLock::new(|| Stylesheet::parse_defaults(Browser::Standard.text())),
        ];
        &SHEETS[self as usize]
    }
}
