//! Widths and heights of text in the reference font. Whatever comes from here is marked as such: pages have fonts of their own.

use super::reference_font::{BOLD, BOLD_PAIRS, RANGES, REGULAR, REGULAR_PAIRS, VERTICAL};

const EM: f32 = 2048.0;

/// Weights from here on are drawn with the bold face (CSS Fonts 4, section 5.2: of 400 and 700, those above 500 take 700).
const BOLD_FROM: f64 = 501.0;

/// A face of the reference font in a size.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Face {
    /// The size in px.
    pub size: f32,
    is_bold: bool,
}

impl Face {
    /// The face for a font size in px and a weight, 1 to 1000.
    pub fn new(size: f64, weight: f64) -> Face {
        Face { size: size as f32, is_bold: weight >= BOLD_FROM }
    }

    /// A character's advance in px, alone; `None` where the font does not have it.
    pub fn advance(&self, character: char) -> Option<f32> {
        let code = u32::from(character);
        let mut before = 0;
        for (first, last) in RANGES {
            if (first..=last).contains(&code) {
                let widths = if self.is_bold { &BOLD } else { &REGULAR };
                let width = widths[(before + code - first) as usize];
                return (width > 0).then(|| f32::from(width) / EM * self.size);
            }
            before += last - first + 1;
        }
        None
    }

    /// By how much two characters stand further apart than their advances say, in px.
    pub fn kerning(&self, before: char, after: char) -> f32 {
        let pairs: &[(u16, u16, i16)] = if self.is_bold { &BOLD_PAIRS } else { &REGULAR_PAIRS };
        let (Ok(before), Ok(after)) = (u16::try_from(u32::from(before)), u16::try_from(u32::from(after))) else {
            return 0.0;
        };
        let found = pairs.binary_search_by_key(&(before, after), |(a, b, _)| (*a, *b));
        found.map_or(0.0, |index| f32::from(pairs[index].2) / EM * self.size)
    }

    /// What stands above the baseline in px: browsers round it to whole pixels.
    pub fn ascent(&self) -> f32 {
        (f32::from(VERTICAL[0]) / EM * self.size).round()
    }

    /// What hangs below the baseline in px.
    pub fn descent(&self) -> f32 {
        (f32::from(VERTICAL[1]) / EM * self.size).round()
    }

    /// The height of a small letter in px.
    pub fn x_height(&self) -> f32 {
        1082.0 / EM * self.size
    }

    /// The height of a `normal` line in px.
    pub fn normal_line(&self) -> f32 {
        self.ascent() + self.descent() + (f32::from(VERTICAL[2]) / EM * self.size).round()
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn widths_are_those_of_the_font() {
        let regular = Face::new(2048.0, 400.0);
        assert_eq!(regular.advance('M'), Some(1706.0));
        assert_eq!(Face::new(2048.0, 600.0).advance('a'), Some(1139.0));
        assert_eq!(regular.advance('é'), Some(1139.0));
        assert_eq!(regular.advance('→'), None);
        assert!(regular.kerning('Y', 'o') < 0.0 && regular.kerning('o', 'o') == 0.0);
        let text = Face::new(16.0, 400.0);
        assert_eq!((text.ascent(), text.descent(), text.normal_line()), (14.0, 3.0, 18.0));
    }
}
