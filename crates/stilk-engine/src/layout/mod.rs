//! Layout: where the boxes of a control stand, from its computed values.
//!
//! Blocks, flex and grid containers are laid out by `taffy`; lines of text here. Text is as wide as in the reference font,
//! Liberation Sans, whose widths are those of Arial and Helvetica; every side of a box says whether the font decides it. What
//! cannot be known (the natural width of a native text field, a picture without a size) is laid out with two sizes: sides that
//! come out the same do not depend on it and are known, the others are unknown.

mod alike;
mod build;
mod font;
mod inline;
mod reference_font;
mod style;
mod text;
mod transform;
mod tree;

pub use alike::READS;

use crate::cascade::{Styled, Styles};
use crate::css::Unknown;
use crate::dom::{Document, NodeId};
use rustc_hash::FxHashMap;
use std::cell::RefCell;
use std::rc::Rc;

/// A rectangle in CSS px.
#[derive(Debug, Clone, Copy, PartialEq, Default)]
pub struct Rect {
    /// From the left.
    pub x: f32,
    /// From the top.
    pub y: f32,
    /// To the right.
    pub width: f32,
    /// Downwards.
    pub height: f32,
}

impl Rect {
    /// The right side.
    pub fn right(&self) -> f32 {
        self.x + self.width
    }

    /// The lower side.
    pub fn bottom(&self) -> f32 {
        self.y + self.height
    }

    /// The smallest rectangle around both.
    pub fn around(&self, other: &Rect) -> Rect {
        let (x, y) = (self.x.min(other.x), self.y.min(other.y));
        Rect { x, y, width: self.right().max(other.right()) - x, height: self.bottom().max(other.bottom()) - y }
    }

    /// The part that both have, if there is one.
    pub fn common(&self, other: &Rect) -> Option<Rect> {
        let (x, y) = (self.x.max(other.x), self.y.max(other.y));
        let (width, height) = (self.right().min(other.right()) - x, self.bottom().min(other.bottom()) - y);
        (width > 0.0 && height > 0.0).then_some(Rect { x, y, width, height })
    }

    fn sides(&self) -> [f32; 4] {
        [self.x, self.y, self.width, self.height]
    }

    fn of_sides([x, y, width, height]: [f32; 4]) -> Rect {
        Rect { x, y, width, height }
    }
}

/// How a side of a box is known.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
pub enum Known {
    /// From values alone.
    Values,
    /// From values and the reference font.
    Font,
    /// Not at all.
    No,
}

/// A box.
#[derive(Debug, Clone, Copy)]
pub struct LaidOutBox {
    /// Its border box with each guess, from the upper left corner of the control's own; before transforms.
    runs: [Rect; GUESSES.len()],
}

const UNKNOWN: Unknown = Unknown("the size depends on a native control, a picture or the page");

impl LaidOutBox {
    /// Its width in px.
    ///
    /// # Errors
    /// It is not known.
    pub fn width(&self) -> Result<f64, Unknown> {
        self.side(2)
    }

    /// Its height in px.
    ///
    /// # Errors
    /// It is not known.
    pub fn height(&self) -> Result<f64, Unknown> {
        self.side(3)
    }

    /// Its border box in px.
    ///
    /// # Errors
    /// One of its sides is not known.
    pub fn rect(&self) -> Result<Rect, Unknown> {
        agreed(self.runs.map(|rect| rect.sides())).map(Rect::of_sides)
    }

    /// Whether the font decides any of its sides.
    pub fn is_of_font(&self) -> bool {
        self.known().contains(&Known::Font)
    }

    /// How x, y, width and height are known.
    pub fn known(&self) -> [Known; 4] {
        [0, 1, 2, 3].map(|side| {
            let [usual, natural, text] = self.runs.map(|rect| rect.sides()[side]);
            match (is_same(usual, natural), is_same(usual, text)) {
                (false, _) => Known::No,
                (true, false) => Known::Font,
                (true, true) => Known::Values,
            }
        })
    }

    fn side(&self, side: usize) -> Result<f64, Unknown> {
        agreed(self.runs.map(|rect| [rect.sides()[side]])).map(|[px]| f64::from(px))
    }
}

fn is_same(a: f32, b: f32) -> bool {
    // What is not there in one of the runs is not known.
    (a - b).abs() <= SAME
}

/// Figures that do not depend on what cannot be known.
fn agreed<const N: usize>(runs: [[f32; N]; GUESSES.len()]) -> Result<[f32; N], Unknown> {
    let [usual, natural, _] = runs;
    let is_known = usual.iter().zip(natural).all(|(a, b)| is_same(*a, b));
    if is_known { Ok(usual) } else { Err(UNKNOWN) }
}

/// Layouts of one control that were made already, each with what it was made from: many variants, states and themes move
/// nothing.
#[derive(Debug, Default)]
pub struct KnownLayouts {
    by_key: RefCell<FxHashMap<(u64, u64), Vec<KnownLayout>>>,
}

type KnownLayout = (Rc<Document>, Styles, LaidOut);

/// A layout, or why there is none.
pub type LaidOut = Rc<Result<Layout, Unknown>>;

impl KnownLayouts {
    /// The layout of a look, made where none is known that is the same.
    pub fn of(&self, document: &Rc<Document>, styles: &Styles, host: NodeId, width: f64) -> LaidOut {
        // What differs from so many differs from all others most likely.
        const MOST_ALIKE: usize = 6;
        // Each keeps the styles that it was made from.
        const MOST: usize = 64;
        let key = (alike::key(document, styles, host), width.to_bits());
        let mut all = self.by_key.borrow_mut();
        let alike = all.get(&key);
        let known = alike.and_then(|list| {
            list.iter().rev().find(|(of, with, _)| alike::is_alike((of, with), (document, styles), host))
        });
        if let Some((_, _, known)) = known {
            return Rc::clone(known);
        }
        let made = Rc::new(lay_out(document, styles, host, width));
        if all.len() >= MOST {
            all.clear();
        }
        let list = all.entry(key).or_default();
        if list.len() >= MOST_ALIKE {
            list.remove(0);
        }
        list.push((Rc::clone(document), styles.clone(), Rc::clone(&made)));
        made
    }
}

/// The boxes of a control.
#[derive(Debug, Clone, Default)]
pub struct Layout {
    boxes: Vec<(Styled, bool, LaidOutBox)>,
}

/// What is taken for things that cannot be known.
#[derive(Debug, Clone, Copy)]
struct Guess {
    /// Added to natural sizes, and to whatever else is not known, in px.
    natural: f32,
    /// By which text is wider than in the reference font.
    text: f32,
}

const GUESSES: [Guess; 3] =
    [Guess { natural: 0.0, text: 1.0 }, Guess { natural: 613.25, text: 1.0 }, Guess { natural: 0.0, text: 1.125 }];

/// What counts as the same, in px.
const SAME: f32 = 0.02;

/// Lays out an element in a block of a width in px, as if it were alone there.
///
/// # Errors
/// Something in it is not modelled: tables, floats, vertical writing.
pub fn lay_out(document: &Document, styles: &Styles, host: NodeId, width: f64) -> Result<Layout, Unknown> {
    lay_out_with(&GUESSES, document, styles, host, width)
}

/// The same, without asking whether the font decides a side.
///
/// # Errors
/// As for [`lay_out`].
pub fn lay_out_in_font(document: &Document, styles: &Styles, host: NodeId, width: f64) -> Result<Layout, Unknown> {
    lay_out_with(&GUESSES[..2], document, styles, host, width)
}

fn lay_out_with(
    guesses: &[Guess],
    document: &Document,
    styles: &Styles,
    host: NodeId,
    width: f64,
) -> Result<Layout, Unknown> {
    let mut runs: Vec<Vec<(Styled, bool, Rect)>> = Vec::new();
    for guess in guesses.iter().copied() {
        let mut found = build::run(document, styles, host, width as f32, guess)?;
        let Some((_, _, styled)) = found.iter().find(|(known, is_text, _)| *known == Styled::element(host) && !is_text)
        else {
            return Ok(Layout::default());
        };
        let (x, y) = (styled.x, styled.y);
        for (_, _, rect) in &mut found {
            rect.x -= x;
            rect.y -= y;
        }
        runs.push(found);
    }
    const MISSING: Rect = Rect { x: f32::NAN, y: f32::NAN, width: f32::NAN, height: f32::NAN };
    let in_run = |run: usize, styled: &Styled, is_text: bool| {
        // A run that is not made says what the first one says.
        let run = runs.get(run).unwrap_or(&runs[0]);
        let found = run.iter().find(|(known, text, _)| known == styled && *text == is_text);
        found.map_or(MISSING, |(_, _, rect)| *rect)
    };
    let boxes = runs[0].iter().map(|(styled, is_text, _)| {
        let runs = std::array::from_fn(|run| in_run(run, styled, *is_text));
        (*styled, *is_text, LaidOutBox { runs })
    });
    Ok(Layout { boxes: boxes.collect() })
}

impl Layout {
    /// The box of an element or pseudo-element; nothing where it has none.
    pub fn of(&self, styled: Styled) -> Option<&LaidOutBox> {
        self.find(styled, false)
    }

    /// The box around the text that stands in an element or pseudo-element itself.
    pub fn text_of(&self, styled: Styled) -> Option<&LaidOutBox> {
        self.find(styled, true)
    }

    /// All boxes of elements and pseudo-elements.
    pub fn boxes(&self) -> impl Iterator<Item = (Styled, &LaidOutBox)> {
        self.boxes.iter().filter(|(_, is_text, _)| !is_text).map(|(styled, _, placed)| (*styled, placed))
    }

    fn find(&self, styled: Styled, text: bool) -> Option<&LaidOutBox> {
        self.boxes.iter().find(|(known, is_text, _)| *known == styled && *is_text == text).map(|(_, _, placed)| placed)
    }

    /// Where a box is drawn: after the translations and scales of itself and of what is around it, up to the host.
    ///
    /// # Errors
    /// A side is not known, or something is turned.
    pub fn drawn(&self, document: &Document, styles: &Styles, host: NodeId, styled: Styled) -> Result<Rect, Unknown> {
        let runs = self.drawn_runs(document, styles, host, styled)?;
        agreed(runs.map(|rect| rect.sides())).map(Rect::of_sides)
    }

    /// x, y, width and height of a box as it is drawn, in px, each with how it is known.
    ///
    /// # Errors
    /// Something is turned.
    pub fn drawn_sides(
        &self,
        document: &Document,
        styles: &Styles,
        host: NodeId,
        styled: Styled,
    ) -> Result<[(f32, Known); 4], Unknown> {
        let placed = LaidOutBox { runs: self.drawn_runs(document, styles, host, styled)? };
        let (sides, known) = (placed.runs[0].sides(), placed.known());
        Ok(std::array::from_fn(|side| (sides[side], known[side])))
    }

    /// From the left, top, right and bottom of one box as it is drawn to those of another within it, in px: known also where
    /// it is not known where either of them stands.
    ///
    /// # Errors
    /// A gap is not known, or something is turned.
    pub fn gaps(
        &self,
        document: &Document,
        styles: &Styles,
        host: NodeId,
        [inner, outer]: [Styled; 2],
    ) -> Result<[f32; 4], Unknown> {
        let inner = self.drawn_runs(document, styles, host, inner)?;
        let outer = self.drawn_runs(document, styles, host, outer)?;
        agreed(std::array::from_fn(|run| {
            let (inner, outer) = (inner[run], outer[run]);
            [inner.x - outer.x, inner.y - outer.y, outer.right() - inner.right(), outer.bottom() - inner.bottom()]
        }))
    }

    fn drawn_runs(
        &self,
        document: &Document,
        styles: &Styles,
        host: NodeId,
        styled: Styled,
    ) -> Result<[Rect; GUESSES.len()], Unknown> {
        let mut rects = self.of(styled).ok_or(Unknown("it has no box"))?.runs;
        let mut at = Some(styled);
        while let Some(styled) = at {
            if let (Some(style), Some(own)) = (styles.of(styled), self.of(styled)) {
                for (rect, own) in rects.iter_mut().zip(own.runs) {
                    *rect = transform::drawn(style, *rect, own)?;
                }
            }
            at = match styled.pseudo {
                Some(_) => Some(Styled::element(styled.node)),
                None if styled.node == host => None,
                None => document.node(styled.node).parent.map(Styled::element),
            };
        }
        Ok(rects)
    }
}
