//! The least contrast of something over all surfaces: what has to be seen must be seen on each of them.

use crate::painted::paint::{Pixel, contrast};
use stilk_engine::css::Unknown;
use stilk_engine::dom::NodeId;
use stilk_language::case::Look;

/// A pixel with another one beside or behind it.
#[derive(Debug, Clone, Copy)]
pub struct Beside {
    /// Their contrast, 1 to 21.
    pub ratio: f64,
    /// The pixel.
    pub pixel: Pixel,
    /// The other one.
    pub beside: Pixel,
}

impl Beside {
    /// Two pixels.
    pub fn new(pixel: Pixel, beside: Pixel) -> Beside {
        Beside { ratio: contrast(pixel, beside), pixel, beside }
    }

    /// Of several pixels the one with the least contrast, each with all of what is beside them; the first of equals.
    pub fn least_of_all(pixels: &[Pixel], beside: &[Pixel]) -> Option<Beside> {
        Beside::least(pixels.iter().flat_map(|pixel| beside.iter().map(move |beside| (*pixel, *beside))))
    }

    /// Of several pairs the one with the least contrast; the first of equals.
    pub fn least(pairs: impl IntoIterator<Item = (Pixel, Pixel)>) -> Option<Beside> {
        pairs
            .into_iter()
            .map(|(pixel, beside)| Beside::new(pixel, beside))
            .reduce(|a, b| if b.ratio < a.ratio { b } else { a })
    }
}

/// Something that has a contrast.
pub type Found<T> = (Beside, T);

/// Of several the one with the most contrast: one that can be seen is enough. The first of equals.
pub fn best<T>(found: impl IntoIterator<Item = Found<T>>) -> Option<Found<T>> {
    found.into_iter().reduce(|a, b| if b.0.ratio > a.0.ratio { b } else { a })
}

/// Of what each surface gives, by its index and element, the one with the least contrast; the first of equals. Nothing where no
/// surface gives anything.
///
/// # Errors
/// The reason why it is not known on some surface.
pub fn over_surfaces<T>(
    look: &Look,
    mut on: impl FnMut(usize, NodeId) -> Result<Option<Found<T>>, Unknown>,
) -> Result<Option<Found<T>>, Unknown> {
    let mut worst: Option<Found<T>> = None;
    for (index, surface) in look.surfaces.iter().enumerate() {
        if let Some(found) = on(index, *surface)?
            && worst.as_ref().is_none_or(|known| found.0.ratio < known.0.ratio)
        {
            worst = Some(found);
        }
    }
    Ok(worst)
}
