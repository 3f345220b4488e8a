//! Which boxes there are (CSS 2, section 9; CSS Display 3), and which of them share lines.

use super::Guess;
use super::inline::{Inline, InlineBox, Piece, Room, Shift};
use super::style::boxed;
use super::text::face;
use super::tree::{Content, Found, Tree, add};
use crate::cascade::{PseudoElement, Style, Styled, Styles};
use crate::css::Unknown;
use crate::css::property::Longhand as L;
use crate::css::value::Value;
use crate::dom::{Document, Element, NodeData, NodeId};
use std::cell::RefCell;
use taffy::prelude::{Dimension, Display};
use taffy::{AlignContent, NodeId as BoxId};

const BLOCK_IN_LINE: Unknown = Unknown("a layout of a block within a line");
const TOO_DEEP: Unknown = Unknown("a layout of so many boxes in each other");

/// Boxes in boxes beyond this are not laid out: no control has so many, and recursion must end.
const DEEPEST: usize = 48;

/// Places an element in a block of a width.
pub fn run(document: &Document, styles: &Styles, host: NodeId, width: f32, guess: Guess) -> Result<Found, Unknown> {
    let around = styles.element(host).and_then(|style| style.parent()).ok_or(Unknown("it has no style"))?;
    let mut builder = Builder { document, styles, guess, width, tree: Tree::empty(), depth: 0 };
    let mut children = Children::new(around, false);
    builder.element(host, &mut children)?;
    let children = builder.finish(children)?;
    let style = taffy::Style { display: Display::FlowRoot, ..taffy::Style::DEFAULT };
    let mut tree = builder.tree;
    tree.root = add(&mut tree.boxes, style, &children)?;
    tree.lay_out(Room::Width(width));
    let mut found = Vec::new();
    tree.place(0.0, 0.0, &mut found);
    Ok(found)
}

/// Boxes in a container, as they are met: those in a line wait until a block ends it.
pub(super) struct Children<'s> {
    /// The container's style: lines are its own.
    pub(super) style: &'s Style,
    /// Whether children stand beside each other as items.
    pub(super) has_items: bool,
    boxes: Vec<BoxId>,
    pub(super) line: Option<Line>,
}

/// Lines as they are collected.
pub(super) struct Line {
    pub(super) inline: Inline,
    /// The innermost open box.
    pub(super) open: usize,
    /// Whether the text so far ends with a space that may collapse.
    pub(super) after_space: bool,
    /// Whether there is anything but spaces.
    pub(super) is_solid: bool,
}

impl<'s> Children<'s> {
    fn new(style: &'s Style, has_items: bool) -> Children<'s> {
        Children { style, has_items, boxes: Vec::new(), line: None }
    }
}

pub(super) struct Builder<'b> {
    document: &'b Document,
    styles: &'b Styles,
    pub(super) guess: Guess,
    /// The room that there is, in px.
    pub(super) width: f32,
    tree: Tree,
    depth: usize,
}

impl<'b> Builder<'b> {
    fn style(&self, styled: Styled) -> Option<&'b Style> {
        self.styles.of(styled).map(AsRef::as_ref)
    }

    /// What is in an element, with what is generated before and after it.
    fn contents(&mut self, node: NodeId, children: &mut Children) -> Result<(), Unknown> {
        self.generated(Styled::pseudo(node, PseudoElement::Before), children)?;
        for child in &self.document.node(node).children {
            match &self.document.node(*child).data {
                NodeData::Text(text) => {
                    let style = self.style(Styled::element(node)).ok_or(Unknown("it has no style"))?;
                    self.text(text, Styled::element(node), style, children)?;
                }
                NodeData::Element(_) => self.element(*child, children)?,
                NodeData::Document => {}
            }
        }
        self.generated(Styled::pseudo(node, PseudoElement::After), children)
    }

    fn generated(&mut self, styled: Styled, children: &mut Children) -> Result<(), Unknown> {
        match self.style(styled) {
            Some(style) if !style.is_empty_generated() => self.boxed(styled, style, children),
            _ => Ok(()),
        }
    }

    fn element(&mut self, node: NodeId, children: &mut Children) -> Result<(), Unknown> {
        match self.style(Styled::element(node)) {
            Some(style) if self.document.element(node).is_some_and(|element| element.local() == "br") => {
                // As if a newline stood there that is kept (HTML, section 15.3.4).
                if style.is(L::Display, "none") { Ok(()) } else { self.break_line(children) }
            }
            Some(style) => self.boxed(Styled::element(node), style, children),
            None => Ok(()),
        }
    }

    /// A box, by what `display` makes of it.
    fn boxed(&mut self, styled: Styled, style: &'b Style, children: &mut Children) -> Result<(), Unknown> {
        let Value::Keyword(display) = style.get(L::Display)? else { return Err(Unknown("a `display` of its own")) };
        if *display == "none" {
            return Ok(());
        }
        self.depth += 1;
        if self.depth > DEEPEST {
            return Err(TOO_DEEP);
        }
        let is_out_of_flow = ["absolute", "fixed"].iter().any(|position| style.is(L::Position, position));
        let is_item = children.has_items || is_out_of_flow;
        let done = match (*display, is_item) {
            ("contents", _) => self.inside(styled, style, children),
            ("inline", false) if !self.brings_box(styled) => self.in_line(styled, style, children),
            ("inline" | "inline-block" | "inline-flex" | "inline-grid", false) => self.atomic(styled, style, children),
            (
                "inline" | "block" | "flow-root" | "list-item" | "inline-block" | "flex" | "inline-flex" | "grid"
                | "inline-grid",
                _,
            ) => {
                if is_out_of_flow {
                    self.beside(styled, style, children)
                } else {
                    self.end_line(children)?;
                    let id = self.block(styled, style)?;
                    children.boxes.push(id);
                    Ok(())
                }
            }
            _ => Err(Unknown("a layout of tables")),
        };
        self.depth -= 1;
        done
    }

    /// A box out of flow: it ends no line.
    fn beside(&mut self, styled: Styled, style: &'b Style, children: &mut Children) -> Result<(), Unknown> {
        let is_auto = |a, b| style.is(a, "auto") && style.is(b, "auto");
        if children.line.as_ref().is_some_and(|line| line.open != 0) {
            return Err(Unknown("a box out of flow within a line"));
        }
        // Where it would have stood in its line is what it goes by.
        if children.line.as_ref().is_some_and(|line| line.is_solid) && !children.has_items && is_auto(L::Left, L::Right)
        {
            return Err(Unknown("a box out of flow that stands where its line would have put it"));
        }
        let id = self.block(styled, style)?;
        children.boxes.push(id);
        Ok(())
    }

    /// Whether an element is laid out as a box of its own whatever its `display`.
    fn brings_box(&self, styled: Styled) -> bool {
        styled.pseudo.is_none() && self.style(styled).is_some_and(Style::brings_size)
    }

    /// What is inside an element or pseudo-element.
    fn inside(&mut self, styled: Styled, style: &'b Style, children: &mut Children) -> Result<(), Unknown> {
        match styled.pseudo {
            None => self.contents(styled.node, children),
            Some(_) => {
                let Ok(Value::Words(words)) = style.get(L::Content) else {
                    return match style.get(L::Content)? {
                        Value::String(text) => self.text(text, styled, style, children),
                        _ => Err(Unknown("generated content that is no text")),
                    };
                };
                let texts: Option<Vec<&str>> = words
                    .iter()
                    .map(|word| if let Value::String(text) = word { Some(&**text) } else { None })
                    .collect();
                self.text(&texts.ok_or(Unknown("generated content that is no text"))?.concat(), styled, style, children)
            }
        }
    }

    /// A box that is laid out for itself: a block, a flex or grid container, a native control.
    fn block(&mut self, styled: Styled, style: &'b Style) -> Result<BoxId, Unknown> {
        let mut own = boxed(style, self.guess, self.width)?;
        let has_items =
            ["flex", "inline-flex", "grid", "inline-grid"].iter().any(|display| style.is(L::Display, display));
        own.display = match style.get(L::Display)? {
            Value::Keyword("flex" | "inline-flex") => Display::Flex,
            Value::Keyword("grid" | "inline-grid") => Display::Grid,
            Value::Keyword("block" | "list-item") if !style.is(L::OverflowX, "hidden") => Display::Block,
            _ => Display::FlowRoot,
        };
        let element = if styled.pseudo.is_none() { self.document.element(styled.node) } else { None };
        let kind = match element.map_or(BoxKind::Plain, BoxKind::of) {
            BoxKind::Plain => self.legend(styled).map_or(BoxKind::Plain, BoxKind::Fieldset),
            other => other,
        };
        let id = match kind {
            BoxKind::Plain => {
                let mut children = Children::new(style, has_items);
                self.inside(styled, style, &mut children)?;
                let children = self.finish(children)?;
                add(&mut self.tree.boxes, own, &children)?
            }
            BoxKind::Button(text) => {
                // A button's content stands in the middle of its height (HTML, section 15.5.4).
                if !has_items {
                    own.align_content = AlignContent::CENTER;
                }
                shrink(&mut own, style);
                let mut children = Children::new(style, has_items && text.is_none());
                match text {
                    Some(text) => self.text(&text, styled, style, &mut children)?,
                    None => self.contents(styled.node, &mut children)?,
                }
                let children = self.finish(children)?;
                add(&mut self.tree.boxes, own, &children)?
            }
            BoxKind::Entry(is_line) => {
                shrink(&mut own, style);
                let line = self.line_of(style)?;
                // A line of text is as high as its line; what else browsers put into fields has sizes of its own.
                let natural = if is_line { 0.0 } else { self.guess.natural };
                let natural = Content::Natural(40.0 + self.guess.natural, line.0 + line.1 + natural);
                self.leaf(own, natural)?
            }
            // What a sheet draws in it stands in it as in any other box.
            BoxKind::Mark if style.is(L::Appearance, "none") && self.generates(styled.node) => {
                let mut children = Children::new(style, has_items);
                shrink(&mut own, style);
                self.contents(styled.node, &mut children)?;
                let children = self.finish(children)?;
                add(&mut self.tree.boxes, own, &children)?
            }
            BoxKind::Mark => {
                let natural = if style.is(L::Appearance, "none") { (0.0, 0.0) } else { (13.0, 13.0) };
                self.leaf(own, Content::Natural(natural.0, natural.1))?
            }
            BoxKind::Foreign => {
                shrink(&mut own, style);
                // Sizes in attributes count as declarations of the lowest styled (HTML, section 15.4.3; SVG 2, section 7.2).
                let given = |name| {
                    let text = element.and_then(|element| element.attribute(name))?;
                    text.trim().trim_end_matches("px").parse::<f32>().ok().filter(|px| px.is_finite() && *px >= 0.0)
                };
                if let (true, Some(width)) = (style.is(L::Width, "auto"), given("width")) {
                    own.size.width = Dimension::length(width);
                }
                if let (true, Some(height)) = (style.is(L::Height, "auto"), given("height")) {
                    own.size.height = Dimension::length(height);
                }
                self.leaf(own, Content::Natural(40.0 + self.guess.natural, 20.0 + self.guess.natural))?
            }
            BoxKind::Fieldset(legend) => self.fieldset(styled, style, own, legend)?,
        };
        self.tree.styled_of.insert(id, styled);
        Ok(id)
    }

    /// Whether something is generated in an element.
    fn generates(&self, node: NodeId) -> bool {
        [PseudoElement::Before, PseudoElement::After]
            .into_iter()
            .any(|pseudo| self.style(Styled::pseudo(node, pseudo)).is_some_and(|style| !style.is_empty_generated()))
    }

    /// A group of fields: the legend stands in the border, and what else there is in a box of its own (HTML, section 15.3.13).
    fn fieldset(
        &mut self,
        styled: Styled,
        style: &'b Style,
        own: taffy::Style,
        legend: NodeId,
    ) -> Result<BoxId, Unknown> {
        if style.px(L::BorderTopWidth)? != 0.0 {
            return Err(Unknown("a legend in a border"));
        }
        let plain = taffy::Style::<String>::DEFAULT;
        let has_items = matches!(own.display, Display::Flex | Display::Grid);
        let content = taffy::Style {
            position: plain.position,
            inset: plain.inset,
            size: plain.size,
            min_size: plain.min_size,
            max_size: plain.max_size,
            margin: plain.margin,
            border: plain.border,
            flex_grow: plain.flex_grow,
            align_self: plain.align_self,
            justify_self: plain.justify_self,
            ..own.clone()
        };
        let own = taffy::Style { display: Display::FlowRoot, padding: plain.padding, ..own };
        let legend_style = self.style(Styled::element(legend)).ok_or(Unknown("it has no style"))?;
        let top = self.block(Styled::element(legend), legend_style)?;
        self.fit(top);
        let mut children = Children::new(style, has_items);
        for child in &self.document.node(styled.node).children {
            if *child != legend && self.document.element(*child).is_some() {
                self.element(*child, &mut children)?;
            }
        }
        let children = self.finish(children)?;
        let content = add(&mut self.tree.boxes, content, &children)?;
        add(&mut self.tree.boxes, own, &[top, content])
    }

    /// A box without a width is as wide as its content.
    fn fit(&mut self, id: BoxId) {
        let Ok(style) = self.tree.boxes.style(id) else { return };
        if style.size.width.is_auto() {
            let mut style = style.clone();
            style.size.width = Dimension::fit_content();
            let _ = self.tree.boxes.set_style(id, style);
        }
    }

    /// The legend of a group of fields.
    fn legend(&self, Styled { node, pseudo }: Styled) -> Option<NodeId> {
        let is_group = pseudo.is_none() && self.document.element(node)?.local() == "fieldset";
        let is_legend = |child: &NodeId| {
            let shown = self.style(Styled::element(*child)).is_some_and(|style| {
                !style.is(L::Display, "none") && !style.is(L::Position, "absolute") && style.is(L::Float, "none")
            });
            shown && self.document.element(*child).is_some_and(|element| element.local() == "legend")
        };
        if is_group { self.document.child_elements(node).find(is_legend) } else { None }
    }

    fn leaf(&mut self, mut style: taffy::Style, content: Content) -> Result<BoxId, Unknown> {
        style.display = Display::FlowRoot;
        let leaf = self.tree.boxes.new_leaf_with_context(style, content);
        leaf.map_err(|_| Unknown("a layout of these boxes"))
    }

    /// A box within a line that is laid out for itself.
    fn atomic(&mut self, styled: Styled, style: &'b Style, children: &mut Children) -> Result<(), Unknown> {
        let shift = match style.get(L::VerticalAlign)? {
            Value::Keyword("baseline") => Shift::Up(0.0),
            Value::Keyword("middle") => {
                let size = children.style.px(L::FontSize)?;
                Shift::Middle(super::font::Face::new(size, 400.0).x_height() / 2.0)
            }
            Value::Length(length) if !length.has_percent => Shift::Up(length.px as f32),
            _ => return Err(Unknown("a vertical alignment other than by the baseline")),
        };
        let outer = std::mem::replace(&mut self.tree, Tree::empty());
        let built = self.block(styled, style).and_then(|id| {
            self.fit(id);
            let around = taffy::Style { display: Display::FlowRoot, ..taffy::Style::DEFAULT };
            self.tree.root = add(&mut self.tree.boxes, around, &[id])?;
            Ok(())
        });
        let tree = std::mem::replace(&mut self.tree, outer);
        built?;
        let clips = !style.is(L::OverflowY, "visible") && !self.brings_box(styled);
        let line = self.line(children)?;
        let of = line.open;
        line.is_solid = true;
        line.after_space = false;
        line.inline.pieces.push(Piece::Atomic { of, tree: RefCell::new(Box::new(tree)), shift, clips });
        Ok(())
    }

    /// A box that goes on over lines.
    fn in_line(&mut self, styled: Styled, style: &'b Style, children: &mut Children) -> Result<(), Unknown> {
        if !style.is(L::Position, "static") && !style.is(L::Position, "relative") {
            return Err(Unknown("a layout of fixed boxes"));
        }
        if !style.is(L::VerticalAlign, "baseline") {
            return Err(Unknown("a vertical alignment other than by the baseline"));
        }
        let own = boxed(style, self.guess, self.width)?;
        let px = |value: taffy::LengthPercentage| {
            let raw = value.into_raw();
            if raw.tag() == taffy::CompactLength::LENGTH_TAG {
                Ok(raw.value())
            } else {
                Err(Unknown("a share of a width within a line"))
            }
        };
        let margin = |value: taffy::LengthPercentageAuto| {
            let raw = value.into_raw();
            if raw.tag() == taffy::CompactLength::LENGTH_TAG { raw.value() } else { 0.0 }
        };
        let (left, right) =
            (px(own.padding.left)? + px(own.border.left)?, px(own.padding.right)? + px(own.border.right)?);
        let edges = (px(own.padding.top)? + px(own.border.top)?, px(own.padding.bottom)? + px(own.border.bottom)?);
        let (start, end) = if style.is(L::Direction, "rtl") { (right, left) } else { (left, right) };
        let (before, after) = match style.is(L::Direction, "rtl") {
            true => (margin(own.margin.right), margin(own.margin.left)),
            false => (margin(own.margin.left), margin(own.margin.right)),
        };
        let (face, line_of) = (face(style)?, self.line_of(style)?);
        let line = self.line(children)?;
        let parent = line.open;
        let index = line.inline.boxes.len();
        line.inline.boxes.push(InlineBox {
            styled: Some(styled),
            text: Some(styled),
            font: (face.ascent(), face.descent()),
            line: line_of,
            edges,
            parent,
        });
        if before != 0.0 {
            line.inline.pieces.push(Piece::Open(parent, before));
        }
        line.inline.pieces.push(Piece::Open(index, start));
        line.open = index;
        let had_blocks = children.boxes.len();
        self.inside(styled, style, children)?;
        if children.boxes.len() != had_blocks {
            return Err(BLOCK_IN_LINE);
        }
        let line = self.line(children)?;
        line.inline.pieces.push(Piece::Close(index, end));
        if after != 0.0 {
            line.inline.pieces.push(Piece::Close(parent, after));
        }
        // A box with edges of its own is there without any text.
        line.is_solid |= start + end + edges.0 + edges.1 > 0.0;
        line.open = parent;
        Ok(())
    }

    pub(super) fn end_line(&mut self, children: &mut Children) -> Result<(), Unknown> {
        let Some(line) = children.line.take() else { return Ok(()) };
        if line.open != 0 {
            return Err(BLOCK_IN_LINE);
        }
        if line.is_solid {
            let leaf = self.tree.boxes.new_leaf_with_context(taffy::Style::DEFAULT, Content::Lines(line.inline));
            children.boxes.push(leaf.map_err(|_| Unknown("a layout of these boxes"))?);
        }
        Ok(())
    }

    fn finish(&mut self, mut children: Children) -> Result<Vec<BoxId>, Unknown> {
        self.end_line(&mut children)?;
        Ok(children.boxes)
    }
}

/// Native controls are as wide as what they show, where others fill the line.
fn shrink(own: &mut taffy::Style, style: &Style) {
    if own.size.width.is_auto() && style.is_item() != Ok(true) {
        own.size.width = Dimension::fit_content();
    }
}

/// What an element is to the layout.
enum BoxKind {
    Plain,
    /// A button, with its text where that is an attribute.
    Button(Option<String>),
    /// What shows an entry: its width is the browser's own. Whether it is a line of text and nothing else.
    Entry(bool),
    /// A checkbox or radio.
    Mark,
    /// A picture, a range, a progress bar.
    Foreign,
    /// A group of fields with its legend.
    Fieldset(NodeId),
}

impl BoxKind {
    fn of(element: &Element) -> BoxKind {
        match (element.local(), element.attribute("type").unwrap_or("text")) {
            ("button", _) => BoxKind::Button(None),
            ("input", kind @ ("submit" | "reset" | "button")) => {
                let named = match kind {
                    "submit" => "Submit",
                    "reset" => "Reset",
                    _ => "",
                };
                BoxKind::Button(Some(element.attribute("value").unwrap_or(named).to_owned()))
            }
            ("input", "checkbox" | "radio") => BoxKind::Mark,
            ("input", "range" | "color" | "file" | "image") => BoxKind::Foreign,
            ("input", "text" | "email" | "tel" | "url" | "password") => BoxKind::Entry(true),
            ("input" | "select", _) => BoxKind::Entry(false),
            (
                "textarea" | "meter" | "progress" | "img" | "video" | "canvas" | "svg" | "iframe" | "object" | "embed"
                | "audio",
                _,
            ) => BoxKind::Foreign,
            _ => BoxKind::Plain,
        }
    }
}
