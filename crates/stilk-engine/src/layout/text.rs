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
        let keeps_spaces = !style.is(L::WhiteSpaceCollapse, "collapse");
        let is_blank = text.chars().all(|c| c.is_ascii_whitespace());
        if is_blank && (children.line.is_none() || children.has_items) && !keeps_spaces {
            return Ok(());
        }
        let face = face(style)?;
        if !style.is(L::FontVariantCaps, "normal") {
            return Err(Unknown("widths of small capitals"));
        }
        let wider = self.guess.text;
        let line = self.line(children)?;
        let run = TextRun {
            face,
            wider,
            letter_spacing: style.px(L::LetterSpacing).unwrap_or(0.0) as f32,
            word_spacing: style.px(L::WordSpacing).unwrap_or(0.0) as f32,
            keeps_spaces,
            wraps: style.is(L::TextWrapMode, "wrap"),
            breaks_words: ["break-word", "anywhere"].iter().any(|w| style.is(L::OverflowWrap, w))
                || style.is(L::WordBreak, "break-all"),
            of: line.text_box(of),
            line,
            word: Vec::new(),
            before: None,
        };
        run.set(&cased(text, style))?;
        // Items of a flex or grid container do not share lines.
        if children.has_items {
            self.end_line(children)?;
        }
        Ok(())
    }
}

impl Line {
    /// The box that an element's text stands in. Text that is the block's own knows whose it is.
    fn text_box(&mut self, of: Styled) -> usize {
        let (boxes, at) = (&mut self.inline.boxes, self.open);
        if *boxes[at].text.get_or_insert(of) == of {
            return at;
        }
        let InlineBox { font, line, .. } = boxes[at];
        boxes.push(InlineBox { styled: None, text: Some(of), parent: at, edges: (0.0, 0.0), font, line });
        boxes.len() - 1
    }
}

/// Text of one style that is being set into a line.
struct TextRun<'l> {
    face: Face,
    /// How much wider than in the reference font.
    wider: f32,
    letter_spacing: f32,
    word_spacing: f32,
    keeps_spaces: bool,
    wraps: bool,
    breaks_words: bool,
    /// Its box.
    of: usize,
    line: &'l mut Line,
    /// The widths of the word that is not at its end yet.
    word: Vec<f32>,
    /// The character before.
    before: Option<char>,
}

impl TextRun<'_> {
    fn set(mut self, text: &str) -> Result<(), Unknown> {
        for c in text.chars() {
            let c = if c.is_ascii_whitespace() && !self.keeps_spaces { ' ' } else { c };
            if !(c == ' ' && self.line.after_space) {
                self.kern(c);
            }
            match c {
                '\n' if self.keeps_spaces => {
                    self.end_word();
                    self.line.inline.pieces.push(Piece::Break);
                }
                ' ' | '\n' | '\t' | '\r' if self.keeps_spaces => {
                    let width = self.advance(' ')? + self.word_spacing;
                    self.word.push(width);
                }
                ' ' => self.collapsing_space()?,
                c => self.letter(c)?,
            }
        }
        if self.keeps_spaces && !self.word.is_empty() {
            self.line.is_solid = true;
        }
        self.end_word();
        Ok(())
    }

    fn advance(&self, c: char) -> Result<f32, Unknown> {
        let advance = self.face.advance(c);
        let advance = advance.ok_or(Unknown("the width of a character that the reference font does not have"))?;
        Ok(advance * self.wider + self.letter_spacing)
    }

    /// Pairs move the character that comes first, be it a space.
    fn kern(&mut self, c: char) {
        let moved = self.before.replace(c).map_or(0.0, |before| self.face.kerning(before, c)) * self.wider;
        match (self.word.last_mut(), self.line.inline.pieces.last_mut()) {
            (Some(last), _) => *last += moved,
            (None, Some(Piece::Space { width, .. })) => *width += moved,
            _ => {}
        }
    }

    fn collapsing_space(&mut self) -> Result<(), Unknown> {
        self.end_word();
        if !self.line.after_space {
            let width = self.advance(' ')? + self.word_spacing;
            self.line.inline.pieces.push(Piece::Space { of: self.of, width, breaks: self.wraps });
        }
        self.line.after_space = true;
        Ok(())
    }

    fn letter(&mut self, c: char) -> Result<(), Unknown> {
        let width = self.advance(c)?;
        self.word.push(width);
        self.line.after_space = false;
        self.line.is_solid = true;
        // A line may end after a hyphen.
        if matches!(c, '-' | '\u{2010}' | '\u{2013}') && self.wraps {
            self.end_word();
            self.line.inline.pieces.push(Piece::Space { of: self.of, width: 0.0, breaks: true });
        }
        Ok(())
    }

    fn end_word(&mut self) {
        if !self.word.is_empty() {
            let (of, anywhere) = (self.of, self.breaks_words);
            self.line.inline.pieces.push(Piece::Word { of, widths: std::mem::take(&mut self.word), anywhere });
        }
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
