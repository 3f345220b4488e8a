//! Browser defaults: the HTML Standard's rendering section, as far as controls need it, with Chromium's own values
//! where the standard leaves them open.

use super::stylesheet::Stylesheet;
use std::sync::LazyLock;

/// Chromium's defaults.
pub static CHROMIUM: LazyLock<Stylesheet> = LazyLock::new(|| Stylesheet::parse(include_str!("chromium.css")));
