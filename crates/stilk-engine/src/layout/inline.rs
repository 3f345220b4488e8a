//! Lines of text and boxes within them (CSS 2, sections 9.4.2 and 10.8; CSS Text 3, sections 4 and 5).

use super::Rect;
use super::tree::Tree;
use crate::cascade::Styled;
use std::cell::RefCell;

/// What stands in lines, in order.
pub struct Inline {
    pub pieces: Vec<Piece>,
    /// The boxes that pieces belong to; the first is the block itself.
    pub boxes: Vec<InlineBox>,
    pub align: Align,
    pub is_rtl: bool,
}

/// Where lines stand that are narrower than the block.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Align {
    Left,
    Center,
    Right,
}

/// A box in lines, or the block that holds them.
pub struct InlineBox {
    /// The element that it is of; nothing for the block.
    pub styled: Option<Styled>,
    /// The element whose text it holds.
    pub text: Option<Styled>,
    /// What its font takes above and below the baseline.
    pub font: (f32, f32),
    /// What its line height takes above and below the baseline.
    pub line: (f32, f32),
    /// Padding and border above and below.
    pub edges: (f32, f32),
    pub parent: usize,
}

/// A piece of a line.
pub enum Piece {
    /// A box begins, with the width of its start edges.
    Open(usize, f32),
    /// A box ends, with the width of its end edges.
    Close(usize, f32),
    /// Text that holds together, as the widths of its characters.
    Word { of: usize, widths: Vec<f32>, anywhere: bool },
    /// A space: its width, and whether the line may end there.
    Space { of: usize, width: f32, breaks: bool },
    /// A box that is laid out for itself.
    Atomic { of: usize, tree: RefCell<Box<Tree>>, shift: Shift, clips: bool },
    /// The line ends.
    Break,
}

/// By how much a box in a line stands above the baseline.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum Shift {
    /// By so many px.
    Up(f32),
    /// Its middle stands so many px above the baseline.
    Middle(f32),
}

impl Shift {
    /// From the top of a box to the baseline of the line that it is in. What is cut off at its edges has its lower edge there.
    fn above(self, tree: &Tree, clips: bool) -> f32 {
        match self {
            Shift::Up(px) if clips => tree.outer_height() + px,
            Shift::Up(px) => tree.baseline() + px,
            Shift::Middle(px) => tree.middle() + px,
        }
    }
}

/// A width to fill.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum Room {
    Width(f32),
    Least,
    Most,
}

struct PlacedPiece {
    piece: usize,
    x: f32,
    width: f32,
}

#[derive(Default)]
struct Line {
    placed: Vec<PlacedPiece>,
    width: f32,
    ascent: f32,
    descent: f32,
}

/// The size of all lines, with the first and last baseline.
pub struct Measured {
    pub width: f32,
    pub height: f32,
    pub first: f32,
    pub last: f32,
}

impl Inline {
    /// The size of its lines.
    pub fn measure(&self, room: Room) -> Measured {
        let lines = self.lines(room);
        let mut measured = Measured { width: 0.0, height: 0.0, first: 0.0, last: 0.0 };
        for (index, line) in lines.iter().enumerate() {
            measured.width = measured.width.max(line.width);
            if index == 0 {
                measured.first = line.ascent;
            }
            measured.last = measured.height + line.ascent;
            measured.height += line.ascent + line.descent;
        }
        measured
    }

    /// Gives every box in its lines a place, for a block of this width whose content begins at a point.
    pub fn place(&self, width: f32, x: f32, y: f32, found: &mut Vec<(Styled, bool, Rect)>) {
        let mut top = y;
        for line in self.lines(Room::Width(width)) {
            let left = match self.align {
                Align::Left => x,
                Align::Center => x + ((width - line.width) / 2.0).max(0.0),
                Align::Right => x + width - line.width,
            };
            let baseline = top + line.ascent;
            let order = if self.is_rtl { self.right_to_left(&line) } else { line.placed.iter().map(|p| p.x).collect() };
            for (placed, x) in line.placed.iter().zip(order) {
                let at = left + x;
                match &self.pieces[placed.piece] {
                    Piece::Word { of, .. } => {
                        let font = self.boxes[*of].font;
                        let height = font.0 + font.1;
                        let rect = Rect { x: at, y: baseline - font.0, width: placed.width, height };
                        if let Some(text) = self.boxes[*of].text {
                            add(found, text, true, rect);
                        }
                        self.grow(*of, rect, baseline, found);
                    }
                    Piece::Open(of, edge) | Piece::Close(of, edge) => {
                        let rect = Rect { x: at, y: baseline, width: *edge, height: 0.0 };
                        self.grow(*of, rect, baseline, found);
                    }
                    Piece::Atomic { of, tree, shift, clips } => {
                        let tree = tree.borrow();
                        let over = shift.above(&tree, *clips);
                        tree.place(at, baseline - over, found);
                        let rect = Rect { x: at, y: baseline, width: placed.width, height: 0.0 };
                        self.grow(*of, rect, baseline, found);
                    }
                    Piece::Space { of, .. } => {
                        let rect = Rect { x: at, y: baseline, width: placed.width, height: 0.0 };
                        self.grow(*of, rect, baseline, found);
                    }
                    Piece::Break => {}
                }
            }
            top += line.ascent + line.descent;
        }
    }

    /// Where pieces stand in a line that goes from right to left: boxes and runs of text in that order, within a run of Latin
    /// letters from left to right (CSS Writing Modes 4, section 2.4).
    fn right_to_left(&self, line: &Line) -> Vec<f32> {
        let is_text = |placed: &PlacedPiece| matches!(self.pieces[placed.piece], Piece::Word { .. });
        let is_box = |placed: &PlacedPiece| matches!(self.pieces[placed.piece], Piece::Atomic { .. });
        let mut places = vec![0.0; line.placed.len()];
        let mut start = 0;
        while start < line.placed.len() {
            let mut end = start + 1;
            if is_text(&line.placed[start]) {
                let rest = line.placed[end..].iter().take_while(|placed| !is_box(placed)).count();
                // Spaces at the end of a run are between it and what follows.
                let tail = line.placed[end..end + rest].iter().rev().take_while(|placed| !is_text(placed)).count();
                end += rest - tail;
            }
            let last = &line.placed[end - 1];
            let from = line.width - (last.x + last.width);
            let first = line.placed[start].x;
            for (place, placed) in places[start..end].iter_mut().zip(&line.placed[start..end]) {
                *place = from + placed.x - first;
            }
            start = end;
        }
        places
    }

    /// Lets a box and those around it reach over a part of a line.
    fn grow(&self, of: usize, part: Rect, baseline: f32, found: &mut Vec<(Styled, bool, Rect)>) {
        let mut at = of;
        while at != 0 {
            let own = &self.boxes[at];
            if let Some(styled) = own.styled {
                let (above, below) = (own.font.0 + own.edges.0, own.font.1 + own.edges.1);
                let rect = Rect { x: part.x, y: baseline - above, width: part.width, height: above + below };
                add(found, styled, false, rect);
            }
            at = own.parent;
        }
    }

    fn lines(&self, room: Room) -> Vec<Line> {
        let units = self.units(room);
        let mut lines = Vec::new();
        let mut line = Line::default();
        // Spaces at the end of a line hang: they count once something follows.
        let mut hanging: Vec<(usize, f32)> = Vec::new();
        for unit in units {
            match unit {
                Unit::Space(piece, width) => {
                    if !line.placed.is_empty() {
                        hanging.push((piece, width));
                    }
                }
                Unit::Break => {
                    hanging.clear();
                    lines.push(std::mem::take(&mut line));
                }
                // The ends of boxes without edges are nothing that spaces would part.
                Unit::Solid(parts) if parts.iter().all(|(piece, width)| self.is_nothing(*piece, *width)) => {
                    line.placed.extend(parts.into_iter().map(|(piece, width)| PlacedPiece {
                        piece,
                        x: line.width,
                        width,
                    }));
                }
                Unit::Solid(parts) => {
                    let width: f32 = parts.iter().map(|(_, width)| width).sum();
                    let spaces: f32 = hanging.iter().map(|(_, width)| width).sum();
                    let is_full = match room {
                        Room::Most => false,
                        Room::Least => true,
                        // A hair of rounding does not end a line.
                        Room::Width(most) => line.width + spaces + width > most + 0.02,
                    };
                    if is_full && !line.placed.is_empty() {
                        hanging.clear();
                        lines.push(std::mem::take(&mut line));
                    }
                    for (piece, width) in hanging.drain(..).chain(parts) {
                        line.placed.push(PlacedPiece { piece, x: line.width, width });
                        line.width += width;
                    }
                }
            }
        }
        // Lines with nothing in them are none (CSS 2, section 9.4.2).
        if line.placed.iter().any(|placed| !self.is_nothing(placed.piece, placed.width)) {
            lines.push(line);
        }
        for line in &mut lines {
            self.raise(line);
        }
        lines
    }

    fn is_nothing(&self, piece: usize, width: f32) -> bool {
        width == 0.0 && matches!(self.pieces[piece], Piece::Open(..) | Piece::Close(..))
    }

    /// The height of a line: of the block's own strut and of everything in it.
    fn raise(&self, line: &mut Line) {
        (line.ascent, line.descent) = self.boxes[0].line;
        let mut reach = |(above, below): (f32, f32)| {
            line.ascent = line.ascent.max(above);
            line.descent = line.descent.max(below);
        };
        for placed in &line.placed {
            match &self.pieces[placed.piece] {
                Piece::Word { of, .. } | Piece::Open(of, _) | Piece::Close(of, _) | Piece::Space { of, .. } => {
                    reach(self.boxes[*of].line);
                }
                Piece::Atomic { tree, shift, clips, .. } => {
                    let tree = tree.borrow();
                    let above = shift.above(&tree, *clips);
                    reach((above, tree.outer_height() - above));
                }
                Piece::Break => {}
            }
        }
    }

    /// What may not be parted, spaces, and forced breaks.
    fn units(&self, room: Room) -> Vec<Unit> {
        let mut units: Vec<Unit> = Vec::new();
        let mut parts: Vec<(usize, f32)> = Vec::new();
        let flush = |parts: &mut Vec<(usize, f32)>, units: &mut Vec<Unit>| {
            if !parts.is_empty() {
                units.push(Unit::Solid(std::mem::take(parts)));
            }
        };
        for (index, piece) in self.pieces.iter().enumerate() {
            match piece {
                Piece::Open(_, width) | Piece::Close(_, width) => parts.push((index, *width)),
                Piece::Word { widths, anywhere, .. } => {
                    let width: f32 = widths.iter().sum();
                    let is_too_wide = match room {
                        Room::Width(most) => width > most + 0.02,
                        Room::Least => true,
                        Room::Most => false,
                    };
                    if *anywhere && is_too_wide {
                        for width in widths {
                            parts.push((index, *width));
                            flush(&mut parts, &mut units);
                        }
                    } else {
                        parts.push((index, width));
                    }
                }
                Piece::Space { width, breaks: true, .. } => {
                    flush(&mut parts, &mut units);
                    units.push(Unit::Space(index, *width));
                }
                Piece::Space { width, .. } => parts.push((index, *width)),
                Piece::Atomic { tree, .. } => {
                    flush(&mut parts, &mut units);
                    let width = tree.borrow_mut().outer_width(room);
                    parts.push((index, width));
                    flush(&mut parts, &mut units);
                }
                Piece::Break => {
                    flush(&mut parts, &mut units);
                    units.push(Unit::Break);
                }
            }
        }
        flush(&mut parts, &mut units);
        units
    }
}

enum Unit {
    Solid(Vec<(usize, f32)>),
    Space(usize, f32),
    Break,
}

/// Adds a rectangle to what is known of an styled: several lines give one box around all.
fn add(found: &mut Vec<(Styled, bool, Rect)>, styled: Styled, is_text: bool, rect: Rect) {
    match found.iter_mut().find(|(known, text, _)| *known == styled && *text == is_text) {
        Some((_, _, known)) => *known = known.around(&rect),
        None => found.push((styled, is_text, rect)),
    }
}
