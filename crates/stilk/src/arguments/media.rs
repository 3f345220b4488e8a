//! What a page is shown on, and whose defaults lie under its styles.

use clap::ValueEnum;
use stilk_engine::cascade::Media;
use stilk_engine::cascade::defaults::Browser;

/// What a page is shown on.
#[derive(clap::Args)]
#[command(next_help_heading = "What the page is shown on")]
pub struct MediaOptions {
    /// Width of the viewport in CSS px
    #[arg(long, value_name = "PX", default_value_t = 1280.0)]
    pub width: f64,
    /// Height of the viewport in CSS px
    #[arg(long, value_name = "PX", default_value_t = 800.0)]
    pub height: f64,
    /// prefers-color-scheme
    #[arg(long, value_name = "SCHEME", value_parser = ["light", "dark"], default_value = "light")]
    pub scheme: String,
    /// prefers-contrast
    #[arg(long, value_name = "WORD", value_parser = ["no-preference", "more", "less", "custom"], default_value = "no-preference")]
    pub contrast: String,
    /// prefers-reduced-motion
    #[arg(long, value_name = "WORD", value_parser = ["no-preference", "reduce"], default_value = "no-preference")]
    pub motion: String,
    /// prefers-reduced-transparency
    #[arg(long, value_name = "WORD", value_parser = ["no-preference", "reduce"], default_value = "no-preference")]
    pub transparency: String,
    /// Whether a pointer can hover
    #[arg(long, value_name = "WORD", value_parser = ["hover", "none"], default_value = "hover")]
    pub hover: String,
    /// The pointer
    #[arg(long, value_name = "WORD", value_parser = ["fine", "coarse", "none"], default_value = "fine")]
    pub pointer: String,
    /// Whether forced colours are active
    #[arg(long, value_name = "WORD", value_parser = ["none", "active"], default_value = "none")]
    pub forced_colors: String,
    /// Whether scripts run
    #[arg(long, value_name = "WORD", value_parser = ["enabled", "none"], default_value = "enabled")]
    pub scripting: String,
    /// Device pixels per CSS px
    #[arg(long, value_name = "NUMBER", default_value_t = 1.0)]
    pub resolution: f64,
}

impl MediaOptions {
    pub fn media(&self) -> Media {
        // The parsers of the options let nothing else through.
        let one_of = |text: &str, words: &'static [&'static str]| {
            words.iter().find(|word| **word == text).copied().unwrap_or(words[0])
        };
        Media {
            width: self.width,
            height: self.height,
            hover: self.hover == "hover",
            pointer: one_of(&self.pointer, &["fine", "coarse", "none"]),
            dark: self.scheme == "dark",
            contrast: one_of(&self.contrast, &["no-preference", "more", "less", "custom"]),
            reduced_motion: self.motion == "reduce",
            reduced_transparency: self.transparency == "reduce",
            forced_colors: self.forced_colors == "active",
            scripting: self.scripting == "enabled",
            resolution: self.resolution,
        }
    }
}

/// Whose defaults are taken.
#[derive(Clone, Copy, PartialEq, Eq, ValueEnum)]
pub enum BrowserName {
    /// As measured in Chromium
    Chromium,
    /// As measured in Firefox ESR
    Firefox,
    /// As measured in WebKitGTK
    Webkit,
    /// The HTML Standard's rendering section
    Standard,
}

impl BrowserName {
    pub fn browser(self) -> Browser {
        match self {
            BrowserName::Chromium => Browser::Chromium,
            BrowserName::Firefox => Browser::Firefox,
            BrowserName::Webkit => Browser::WebKit,
            BrowserName::Standard => Browser::Standard,
        }
    }
}
