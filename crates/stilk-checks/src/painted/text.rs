//! The contrast of the texts of a look: what each needs, and the worst.

use crate::painted::paint::{self, Pixel, Sizes, contrast, floor};
use stilk_engine::cascade::Style;
use stilk_engine::css::Unknown;
use stilk_engine::css::property::Longhand as L;
use stilk_engine::css::serialize::number;
use stilk_language::case::Look;
use stilk_language::manifest::Conformance;
use stilk_language::system::{StateId, StateSet, System};

/// No smaller text is large, be it bold: 14pt are 18.667px, which people write as 18.66px.
pub const LARGE_BOLD: f64 = 18.66;

/// The ratio that text of a size and weight needs: large is 18pt, or 14pt and bold (WCAG 2.2, "large scale").
pub fn needed(conformance: Conformance, style: &Style) -> f64 {
    let px = style.px(L::FontSize).unwrap_or(0.0);
    let weight = style.get(L::FontWeight).ok().and_then(|w| w.as_number()).unwrap_or(400.0);
    const LARGE: f64 = 24.0;
    let large = px >= LARGE || (px >= LARGE_BOLD && weight >= 700.0);
    match (conformance, large) {
        (Conformance::Aa, false) | (Conformance::Aaa, true) => 4.5,
        (Conformance::Aa, true) => 3.0,
        (Conformance::Aaa, false) => 7.0,
    }
}

/// The contrast of a look's text, for showing.
#[derive(Debug, Clone, PartialEq)]
pub enum Figure {
    /// It passes.
    Passes {
        /// The ratio, `7.21:1`.
        ratio: String,
        /// What is needed.
        needed: String,
    },
    /// It fails.
    Fails {
        /// The ratio.
        ratio: String,
        /// What is needed.
        needed: String,
    },
    /// Nothing is asked: the control is disabled.
    Exempt {
        /// The ratio.
        ratio: String,
    },
    /// It cannot be known.
    Unknown(&'static str),
    /// No text is painted.
    NoText,
}

/// The text of a look that has the least contrast for what it needs, over all surfaces.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Worst {
    /// The text's pixel.
    pub text: Pixel,
    /// The pixel behind it.
    pub behind: Pixel,
    ratio: f64,
    needed: f64,
}

impl Worst {
    /// The ratio, 1 to 21.
    pub fn ratio(&self) -> f64 {
        self.ratio
    }

    /// The ratio that it needs.
    pub fn needed(&self) -> f64 {
        self.needed
    }

    /// Whether it has what it needs.
    pub fn passes(&self) -> bool {
        self.ratio >= self.needed
    }
}

/// The worst text in a look; nothing where none is painted.
///
/// # Errors
/// The reason why it cannot be known.
pub fn worst_text(system: &System, look: &Look) -> Result<Option<Worst>, Unknown> {
    let mut worst: Option<Worst> = None;
    let (inactive, active): (Vec<_>, Vec<_>) =
        paint::text_places(look).into_iter().partition(|place| place.is_inactive(look));
    // Where all of it is switched off, its contrast is shown although nothing is asked of it.
    for place in if active.is_empty() { inactive } else { active } {
        let Some(style) = place.style(look) else { continue };
        let needed = needed(system.manifest.conformance, style);
        let painted = paint::paint(look, &place, needed, Sizes::Known)?;
        for one in painted {
            let ratio = contrast(one.text, one.behind);
            if worst.is_none_or(|known| ratio / needed < known.ratio / known.needed) {
                worst = Some(Worst { text: one.text, behind: one.behind, ratio, needed });
            }
        }
    }
    Ok(worst)
}

/// The figure of the worst text in a look, over all surfaces.
pub fn figure(system: &System, look: &Look, states: &StateSet) -> Figure {
    figure_of(worst_text(system, look), states)
}

/// The same of what is known already.
pub fn figure_of(worst: Result<Option<Worst>, Unknown>, states: &StateSet) -> Figure {
    let worst = match worst {
        Ok(Some(worst)) => worst,
        Ok(None) => return Figure::NoText,
        Err(reason) => return Figure::Unknown(reason.0),
    };
    let ratio = format!("{:.2}", floor(worst.ratio));
    let needed = number(worst.needed);
    if is_inactive(states) {
        Figure::Exempt { ratio }
    } else if worst.ratio < worst.needed {
        Figure::Fails { ratio, needed }
    } else {
        Figure::Passes { ratio, needed }
    }
}

/// WCAG 1.4.3 asks nothing of inactive controls.
pub fn is_inactive(states: &StateSet) -> bool {
    states.has(StateId::Disabled)
}
