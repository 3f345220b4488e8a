//! A tree of boxes that is laid out, and where its boxes come to stand.

use super::Rect;
use super::inline::{Inline, Room};
use crate::cascade::Styled;
use crate::css::Unknown;
use std::collections::HashMap;
use taffy::prelude::{AvailableSpace, Dimension, Display, Size, TaffyTree};
use taffy::{Baselines, LayoutInput, LayoutOutput, NodeId as BoxId};

/// A box, the text that is its own, and what it contains.
pub type Found = Vec<(Styled, bool, Rect)>;

/// Boxes that are laid out together: one box and all that is in it.
pub struct Tree {
    pub boxes: TaffyTree<Content>,
    pub root: BoxId,
    pub styled_of: HashMap<BoxId, Styled>,
}

/// What a box without boxes of its own holds.
pub enum Content {
    Lines(Inline),
    /// A size that it brings along, in px.
    Natural(f32, f32),
}

/// Adds a box with boxes in it.
pub fn add(boxes: &mut TaffyTree<Content>, style: taffy::Style, children: &[BoxId]) -> Result<BoxId, Unknown> {
    boxes.new_with_children(style, children).map_err(|_| Unknown("a layout of these boxes"))
}

impl Tree {
    /// A tree without boxes.
    pub fn empty() -> Tree {
        let mut boxes = TaffyTree::new();
        boxes.disable_rounding();
        Tree { boxes, root: BoxId::new(0), styled_of: HashMap::new() }
    }

    /// Lays everything out in a room.
    pub fn lay_out(&mut self, room: Room) {
        let width = match room {
            Room::Width(width) => AvailableSpace::Definite(width),
            Room::Least => AvailableSpace::MinContent,
            Room::Most => AvailableSpace::MaxContent,
        };
        if let (Room::Width(width), Ok(style)) = (room, self.boxes.style(self.root)) {
            let mut style = style.clone();
            style.size.width = Dimension::length(width);
            let _ = self.boxes.set_style(self.root, style);
        }
        let space = Size { width, height: AvailableSpace::MaxContent };
        // The tree is ours and whole: there is nothing to fail.
        let _ = self
            .boxes
            .compute_layout_with_measure(self.root, space, |input, _, content, style| measure(input, content, style));
    }

    /// The width of its margin box in a room, after laying it out there.
    pub fn outer_width(&mut self, room: Room) -> f32 {
        if let Ok(style) = self.boxes.style(self.root) {
            let mut style = style.clone();
            style.size.width = Dimension::auto();
            let _ = self.boxes.set_style(self.root, style);
        }
        self.lay_out(room);
        self.only_child().map_or(0.0, |child| {
            let layout = self.boxes.unrounded_layout(child);
            layout.size.width + layout.margin.left + layout.margin.right
        })
    }

    /// The height of its margin box, where it was laid out last.
    pub fn outer_height(&self) -> f32 {
        self.only_child().map_or(0.0, |child| {
            let layout = self.boxes.unrounded_layout(child);
            layout.size.height + layout.margin.top + layout.margin.bottom
        })
    }

    /// From the top of its margin box to its baseline: that of its last line, or its lower margin edge (CSS 2, 10.8.1).
    pub fn baseline(&self) -> f32 {
        let own = self.only_child().and_then(|child| {
            let layout = self.boxes.unrounded_layout(child);
            let line = self.line(child, true)?;
            Some(layout.margin.top + line)
        });
        own.unwrap_or_else(|| self.outer_height())
    }

    /// From the top of its margin box to half its height.
    pub fn middle(&self) -> f32 {
        self.outer_height() / 2.0
    }

    fn only_child(&self) -> Option<BoxId> {
        self.boxes.children(self.root).ok()?.first().copied()
    }

    /// From the top of a box to the baseline of its first or last line (CSS Align 3, section 9.1).
    fn line(&self, of: BoxId, last: bool) -> Option<f32> {
        let layout = self.boxes.unrounded_layout(of);
        match self.boxes.get_node_context(of) {
            Some(Content::Lines(lines)) => {
                let measured = lines.measure(Room::Width(layout.size.width));
                return Some(if last { measured.last } else { measured.first });
            }
            Some(Content::Natural(..)) => return None,
            None => {}
        }
        let style = self.boxes.style(of).ok()?;
        let in_flow =
            |child: &BoxId| self.boxes.style(*child).is_ok_and(|style| style.position != taffy::Position::Absolute);
        let children: Vec<BoxId> = self.boxes.children(of).ok()?.into_iter().filter(in_flow).collect();
        let below = |child: BoxId, line: f32| self.boxes.unrounded_layout(child).location.y + line;
        match style.display {
            Display::Flex | Display::Grid => {
                let first = children.iter().copied().next()?;
                // An item without lines has its lower edge for one.
                let line = self.line(first, false).unwrap_or(self.boxes.unrounded_layout(first).size.height);
                Some(below(first, line))
            }
            _ => {
                let with_line = |child: BoxId| self.line(child, last).map(|line| below(child, line));
                let mut children = children.into_iter();
                if last { children.rev().find_map(with_line) } else { children.find_map(with_line) }
            }
        }
    }

    /// Gives everything in it a place, its own upper left corner being there.
    pub fn place(&self, x: f32, y: f32, found: &mut Found) {
        self.place_children(self.root, x, y, found);
    }

    fn place_children(&self, of: BoxId, x: f32, y: f32, found: &mut Found) {
        let absolute = |child: &BoxId| self.boxes.style(*child).is_ok_and(|s| s.position == taffy::Position::Absolute);
        let children = self.boxes.children(of).unwrap_or_default();
        for child in children.iter().filter(|child| !absolute(child)) {
            self.place_box(*child, x, y, found);
        }
        // Boxes out of flow stand where the box that contains them says.
        for child in self.boxes.hoisted_children(of).unwrap_or_default() {
            self.place_box(*child, x, y, found);
        }
    }

    fn place_box(&self, id: BoxId, x: f32, y: f32, found: &mut Found) {
        let layout = self.boxes.unrounded_layout(id);
        let (x, y) = (x + layout.location.x, y + layout.location.y);
        if let Some(styled) = self.styled_of.get(&id) {
            found.push((*styled, false, Rect { x, y, width: layout.size.width, height: layout.size.height }));
        }
        if let Some(Content::Lines(lines)) = self.boxes.get_node_context(id) {
            lines.place(layout.size.width, x, y, found);
        }
        self.place_children(id, x, y, found);
    }
}

fn measure(input: LayoutInput, content: Option<&mut Content>, style: &taffy::Style) -> LayoutOutput {
    let mut first = None;
    let mut output = taffy::compute_leaf_layout(
        input,
        style,
        |_, _| 0.0,
        |known, space| match content {
            Some(Content::Lines(lines)) => {
                let room = match (known.width, space.width) {
                    (Some(width), _) | (None, AvailableSpace::Definite(width)) => Room::Width(width),
                    (None, AvailableSpace::MinContent) => Room::Least,
                    (None, AvailableSpace::MaxContent) => Room::Most,
                };
                let measured = lines.measure(room);
                first = (measured.height > 0.0).then_some(measured.first);
                Size { width: known.width.unwrap_or(measured.width), height: known.height.unwrap_or(measured.height) }
            }
            Some(Content::Natural(width, height)) => {
                Size { width: known.width.unwrap_or(*width), height: known.height.unwrap_or(*height) }
            }
            None => Size::ZERO,
        },
    );
    output.baselines = Baselines::from_first(first);
    output
}
