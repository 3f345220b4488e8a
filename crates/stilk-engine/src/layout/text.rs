//! Text in lines: white space, letters and what a line of them takes (CSS Text 3; CSS Inline 3).

use super::build::{Builder, Children, Line};
use super::font::Face;
use super::inline::{Align, Inline, InlineBox, Piece};
use crate::cascade::{Style, Styled};
use crate::css::Unknown;
use crate::css::property::Longhand as L;
use crate::css::value::Value;

const TOO_DEEP: Unknown = Unknown("a layout of these lines");

impl<'b> Builder<'b> {
    /// What a line of a style's own font takes above and below the baseline, in px.
    pub(super) fn line_of(&self, style: &Style) -> Result<(f32, f32), Unknown> {
        let face = face(style)?;
        let size = face.size;
        let height = match style.get(L::LineHeight)? {
            Value::Number(factor) => *factor as f32 * size,
            Value::Length(length) if !length.has_percent => length.px as f32,
            // A page's own font may have taller lines.
            _ => face.normal_line() * self.guess.text,
        };
        // Chromium lays out in 64ths of a px and rounds what is above the text down.
        let height = (height * 64.0).floor() / 64.0;
        let above = ((height - face.ascent() - face.descent()) / 2.0).floor();
        Ok((face.ascent() + above, height - face.ascent() - above))
    }

    /// The line that is being collected.
    pub(super) fn line<'c>(&self, children: &'c mut Children) -> Result<&'c mut Line, Unknown> {
        if children.line.is_none() {
            let style = children.style;
            let (face, line) = (face(style)?, self.line_of(style)?);
            let is_rtl = style.is(L::Direction, "rtl");
            if style.get(L::TextIndent)?.as_px() != Some(0.0) {
                return Err(Unknown("a layout of indented lines"));
            }
            let align = match style.get(L::TextAlign)? {
                Value::Keyword("center" | "-webkit-center") => Align::Center,
                Value::Keyword("left" | "-webkit-left") => Align::Left,
                Value::Keyword("right" | "-webkit-right") => Align::Right,
                Value::Keyword("end") if !is_rtl => Align::Right,
                Value::Keyword("start" | "justify") if is_rtl => Align::Right,
                _ => Align::Left,
            };
            let block = InlineBox {
                styled: None,
                text: None,
                font: (face.ascent(), face.descent()),
                line,
                edges: (0.0, 0.0),
                parent: 0,
            };
            let inline = Inline { pieces: Vec::new(), boxes: vec![block], align, is_rtl };
            children.line = Some(Line { inline, open: 0, after_space: true, is_solid: false });
        }
        children.line.as_mut().ok_or(TOO_DEEP)
    }

    /// A forced break. Items of a flex or grid container stand beside each other whatever breaks there are.
    pub(super) fn break_line(&mut self, children: &mut Children) -> Result<(), Unknown> {
        if children.has_items {
            return Ok(());
        }
        let line = self.line(children)?;
        line.inline.pieces.push(Piece::Break);
        (line.after_space, line.is_solid) = (true, true);
        Ok(())
    }

    /// Text (CSS Text 3, section 4.1.1): white space collapses where it may.
    pub(super) fn text(
        &mut self,
        text: &str,
        of: Styled,
        style: &'b Style,
        children: &mut Children,
    ) -> Result<(), Unknown> {
        let keeps = !style.is(L::WhiteSpaceCollapse, "collapse");
        let breaks = style.is(L::TextWrapMode, "wrap");
        let is_blank = text.chars().all(|c| c.is_ascii_whitespace());
        if is_blank && (children.line.is_none() || children.has_items) && !keeps {
            return Ok(());
        }
        let face = face(style)?;
        let letter = style.px(L::LetterSpacing).unwrap_or(0.0) as f32;
        let word = style.px(L::WordSpacing).unwrap_or(0.0) as f32;
        let anywhere = ["break-word", "anywhere"].iter().any(|w| style.is(L::OverflowWrap, w))
            || style.is(L::WordBreak, "break-all");
        if !style.is(L::FontVariantCaps, "normal") {
            return Err(Unknown("widths of small capitals"));
        }
        let text = cased(text, style);
        let wider = self.guess.text;
        let advance = |c: char| {
            Ok(face.advance(c).ok_or(Unknown("the width of a character that the reference font does not have"))?
                * wider
                + letter)
        };
        let line = self.line(children)?;
        let mut at = line.open;
        if line.inline.boxes[at].text != Some(of) {
            // Text that is the block's own knows whose it is.
            line.inline.boxes[at].text.get_or_insert(of);
            if line.inline.boxes[at].text != Some(of) {
                let block = &line.inline.boxes[at];
                let own = InlineBox {
                    styled: None,
                    text: Some(of),
                    parent: at,
                    edges: (0.0, 0.0),
                    font: block.font,
                    line: block.line,
                };
                line.inline.boxes.push(own);
                at = line.inline.boxes.len() - 1;
            }
        }
        let mut widths = Vec::new();
        let flush = |widths: &mut Vec<f32>, pieces: &mut Vec<Piece>| {
            if !widths.is_empty() {
                pieces.push(Piece::Word { of: at, widths: std::mem::take(widths), anywhere });
            }
        };
        let pieces = &mut line.inline.pieces;
        let mut before: Option<char> = None;
        for c in text.chars() {
            let c = if c.is_ascii_whitespace() && !keeps { ' ' } else { c };
            if !(c == ' ' && line.after_space) {
                // Pairs move the character that comes first, be it a space.
                let moved = before.replace(c).map_or(0.0, |before| face.kerning(before, c)) * wider;
                match (widths.last_mut(), pieces.last_mut()) {
                    (Some(last), _) => *last += moved,
                    (None, Some(Piece::Space { width, .. })) => *width += moved,
                    _ => {}
                }
            }
            match c {
                '\n' if keeps => {
                    flush(&mut widths, pieces);
                    pieces.push(Piece::Break);
                }
                ' ' | '\n' | '\t' | '\r' if keeps => widths.push(advance(' ')? + word),
                ' ' => {
                    flush(&mut widths, pieces);
                    if !line.after_space {
                        pieces.push(Piece::Space { of: at, width: advance(' ')? + word, breaks });
                    }
                    line.after_space = true;
                }
                c => {
                    widths.push(advance(c)?);
                    line.after_space = false;
                    line.is_solid = true;
                    // A line may end after a hyphen.
                    if matches!(c, '-' | '\u{2010}' | '\u{2013}') && breaks {
                        flush(&mut widths, pieces);
                        pieces.push(Piece::Space { of: at, width: 0.0, breaks });
                    }
                }
            }
        }
        if keeps && !widths.is_empty() {
            line.is_solid = true;
        }
        flush(&mut widths, pieces);
        // Items of a flex or grid container do not share lines.
        if children.has_items {
            self.end_line(children)?;
        }
        Ok(())
    }
}

/// The reference font in the size and weight of a style.
pub(super) fn face(style: &Style) -> Result<Face, Unknown> {
    let weight = style.get(L::FontWeight)?.as_number().unwrap_or(400.0);
    Ok(Face::new(style.px(L::FontSize)?, weight))
}

/// `text-transform`, as far as it changes letters.
fn cased(text: &str, style: &Style) -> String {
    let is = |word: &str| match style.get(L::TextTransform) {
        Ok(Value::Keyword(known)) => *known == word,
        Ok(Value::Words(words)) => words.iter().any(|value| value.is(word)),
        _ => false,
    };
    if is("uppercase") {
        text.to_uppercase()
    } else if is("lowercase") {
        text.to_lowercase()
    } else if is("capitalize") {
        let mut after_space = true;
        let raise = |c: char| {
            let raised = if after_space { c.to_uppercase().to_string() } else { c.to_string() };
            after_space = c.is_whitespace();
            raised
        };
        text.chars().map(raise).collect()
    } else {
        text.to_owned()
    }
}
