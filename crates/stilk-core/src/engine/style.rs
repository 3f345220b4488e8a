//! Computed styles of a document.

use super::cascade::{Candidate, DeclarationId, IndexedSheet, Origin, inline_candidates};
use super::custom::{self, Customs, Skip};
use super::media::Media;
use super::selector::{ElementRef, Forced, PseudoElement};
use super::stylesheet::{self, DeclarationBody, Stylesheet};
use crate::css::color::{Absolute, Color, Surroundings};
use crate::css::compute::{Context, DEFAULT_FONT_SIZE, Unknown, compute, initial_declared};
use crate::css::parse::{Declared, Target, Wide, parse_value};
use crate::css::property::{Longhand, Longhand as L, PropertyName};
use crate::css::substitute::substitute;
use crate::css::value::Value;
use crate::dom::{Document, NodeId};
use selectors::context::SelectorCaches;
use std::collections::{HashMap, HashSet};
use std::sync::Arc;

/// Computes styles from the browser's defaults and author stylesheets, for one set of media features.
pub struct Engine<'s> {
    sheets: Vec<IndexedSheet<'s>>,
    media: Media,
    initial: Vec<Value>,
    /// Pseudo-elements that some rule styles.
    pseudos: Vec<PseudoElement>,
}

/// The computed style of an element or pseudo-element.
#[derive(Debug, Clone)]
pub struct Style {
    values: Vec<Result<Value, Unknown>>,
    winners: Vec<Option<DeclarationId>>,
    /// Custom properties.
    pub customs: Arc<Customs>,
    /// Whether the used colour scheme is dark.
    pub dark: bool,
    /// Whether it is an item of a flex or grid container.
    pub is_item: bool,
}

/// The styles of a document.
#[derive(Debug, Clone, Default)]
pub struct Styles {
    map: HashMap<(NodeId, Option<PseudoElement>), Arc<Style>>,
}

impl Styles {
    /// An element's style.
    pub fn element(&self, node: NodeId) -> Option<&Arc<Style>> {
        self.map.get(&(node, None))
    }

    /// A pseudo-element's style, by name without colons; there only where a rule matches it.
    pub fn pseudo(&self, node: NodeId, name: &str) -> Option<&Arc<Style>> {
        self.map.get(&(node, Some(PseudoElement(name.to_owned()))))
    }
}

impl Style {
    /// A computed value.
    pub fn get(&self, longhand: Longhand) -> Result<&Value, Unknown> {
        self.values[longhand as usize].as_ref().map_err(|unknown| *unknown)
    }

    /// The declaration that won; `None` where the value is inherited or initial.
    pub fn winner(&self, longhand: Longhand) -> Option<DeclarationId> {
        self.winners[longhand as usize]
    }

    /// The used `color`.
    pub fn color(&self) -> Option<Absolute> {
        match self.get(L::Color) {
            Ok(Value::Color(Color::Absolute(absolute))) => Some(*absolute),
            _ => None,
        }
    }

    /// What colours in this style depend on.
    pub fn surroundings(&self) -> Surroundings {
        Surroundings { dark: self.dark, current: self.color() }
    }

    /// A colour property's used value.
    pub fn used_color(&self, longhand: Longhand) -> Result<Absolute, Unknown> {
        match self.get(longhand)? {
            Value::Color(color) => color.resolve(self.surroundings()).ok_or(Unknown("a colour is not modelled yet")),
            _ => Err(Unknown("it is no plain colour")),
        }
    }

    /// An absolute length in px.
    pub fn px(&self, longhand: Longhand) -> Result<f64, Unknown> {
        self.get(longhand)?.as_px().ok_or(Unknown("it needs a layout"))
    }

    /// Whether a value is a keyword.
    pub fn is(&self, longhand: Longhand, keyword: &str) -> bool {
        self.get(longhand).is_ok_and(|value| value.is(keyword))
    }
}

/// Pseudo-elements whose style is computed when a rule matches them.
const PSEUDO_ELEMENTS: [&str; 4] = ["before", "after", "placeholder", "file-selector-button"];

impl<'s> Engine<'s> {
    /// An engine for a browser's defaults and author sheets, in order.
    pub fn new(browser: &'s Stylesheet, authors: &[&'s Stylesheet], media: Media) -> Self {
        let mut sheets = vec![IndexedSheet::new(browser, Origin::Browser, 0, &media)];
        for (i, sheet) in authors.iter().enumerate() {
            sheets.push(IndexedSheet::new(sheet, Origin::Author, i as u16 + 1, &media));
        }
        let initial = Longhand::ALL.iter().map(|longhand| initial_declared(*longhand)).collect();
        let styled: HashSet<&str> =
            authors.iter().flat_map(|s| &s.rules).filter_map(|r| r.pseudo.as_ref()).map(|p| p.0.as_str()).collect();
        let pseudos = PSEUDO_ELEMENTS.iter().filter(|name| styled.contains(**name));
        let pseudos = pseudos.map(|name| PseudoElement((*name).to_owned())).collect();
        Engine { sheets, media, initial, pseudos }
    }

    /// Computes the style of every element of a document and of its pseudo-elements.
    pub fn styles(&self, document: &Document, forced: &Forced) -> Styles {
        self.styles_below(document, forced, Document::ROOT, Styles::default())
    }

    /// Computes the styles of a node and everything in it, where those of its ancestors are known.
    pub fn styles_below(&self, document: &Document, forced: &Forced, root: NodeId, known: Styles) -> Styles {
        let mut styles = known;
        let mut caches = SelectorCaches::default();
        for node in document.descendants(root) {
            if document.element(node).is_none() {
                continue;
            }
            let parent = document.node(node).parent.and_then(|p| styles.element(p).cloned());
            let element = ElementRef { document, node, forced };
            let style = self.style(&element, None, parent.as_deref(), &mut caches);
            let style = Arc::new(style.unwrap_or_else(|| self.root_style()));
            for pseudo in &self.pseudos {
                if let Some(found) = self.style(&element, Some(pseudo), Some(&style), &mut caches) {
                    styles.map.insert((node, Some(pseudo.clone())), Arc::new(found));
                }
            }
            styles.map.insert((node, None), style);
        }
        styles
    }

    fn root_style(&self) -> Style {
        Style {
            values: self.initial.iter().cloned().map(Ok).collect(),
            winners: vec![None; Longhand::ALL.len()],
            customs: Arc::default(),
            dark: false,
            is_item: false,
        }
    }

    /// The style of an element; of a pseudo-element only where a rule matches it.
    fn style(
        &self,
        element: &ElementRef,
        pseudo: Option<&PseudoElement>,
        parent: Option<&Style>,
        caches: &mut SelectorCaches,
    ) -> Option<Style> {
        let mut candidates = Vec::new();
        for sheet in &self.sheets {
            sheet.collect(element, pseudo, caches, &mut candidates);
        }
        if pseudo.is_some() && candidates.is_empty() {
            return None;
        }
        let inline = match pseudo {
            None => element.document.element(element.node).and_then(|e| e.attribute("style")),
            Some(_) => None,
        };
        let inline = inline.map(stylesheet::parse_inline);
        if let Some(inline) = &inline {
            inline_candidates(inline, &mut candidates);
        }
        candidates.sort_by_key(|candidate| std::cmp::Reverse(candidate.weight));
        let none = Arc::default();
        let customs = custom::compute(&candidates, parent.map_or(&none, |p| &p.customs));
        let mut computation = Computation {
            engine: self,
            parent,
            customs,
            specified: vec![Specified::Open(Skip::None); Longhand::ALL.len()],
            winners: vec![None; Longhand::ALL.len()],
        };
        computation.specify(&candidates);
        Some(computation.compute(pseudo))
    }
}

#[derive(Debug, Clone)]
enum Specified {
    /// Nothing decided yet.
    Open(Skip),
    Value(Value),
    Inherit,
    Initial,
    /// Inherited or initial, as the property has it.
    Unset,
    Unknown(Unknown),
}

struct Computation<'c, 's> {
    engine: &'c Engine<'s>,
    parent: Option<&'c Style>,
    customs: Arc<Customs>,
    specified: Vec<Specified>,
    winners: Vec<Option<DeclarationId>>,
}

impl Computation<'_, '_> {
    /// Picks the winning declaration of every longhand; candidates come highest first.
    fn specify(&mut self, candidates: &[Candidate]) {
        // The direction says which physical longhand a logical one sets: it is found first.
        self.pass(candidates, false, Some(L::Direction));
        let rtl = match &self.specified[L::Direction as usize] {
            Specified::Value(value) => value.is("rtl"),
            Specified::Initial => false,
            _ => self.parent.is_some_and(|parent| parent.is(L::Direction, "rtl")),
        };
        self.pass(candidates, rtl, None);
    }

    fn pass(&mut self, candidates: &[Candidate], rtl: bool, only: Option<Longhand>) {
        for candidate in candidates {
            let DeclarationBody::Property(parsed) = &candidate.declaration.body else { continue };
            if let Some(only) = only
                && parsed.name != PropertyName::Longhand(only)
            {
                continue;
            }
            match &parsed.declared {
                Declared::Values(values) => {
                    for (target, value) in values {
                        self.offer(*target, rtl, candidate, || Specified::Value(value.clone()));
                    }
                }
                Declared::Wide(wide) => {
                    for target in parsed.targets() {
                        self.offer(target, rtl, candidate, || wide_specified(*wide, candidate));
                    }
                }
                Declared::Pending(text) => {
                    let targets = parsed.targets();
                    // Substitution is work: it waits until the declaration wins something.
                    if !targets.iter().any(|target| self.is_open(*target, rtl, candidate)) {
                        continue;
                    }
                    let declared = self.substitute(parsed.name, text);
                    for target in targets {
                        self.offer(target, rtl, candidate, || match &declared {
                            Some(Declared::Values(values)) => values
                                .iter()
                                .find(|(t, _)| *t == target)
                                .map_or(Specified::Unset, |(_, value)| Specified::Value(value.clone())),
                            Some(Declared::Wide(wide)) => wide_specified(*wide, candidate),
                            // Invalid at computed-value time.
                            _ => Specified::Unset,
                        });
                    }
                }
            }
        }
    }

    fn substitute(&self, name: PropertyName, text: &str) -> Option<Declared> {
        let text = substitute(text, &mut |name| self.customs.get(name)?.text.as_deref().map(str::to_owned))?;
        parse_value(name, &text)
    }

    fn is_open(&self, target: Target, rtl: bool, candidate: &Candidate) -> bool {
        match &self.specified[target.physical(rtl) as usize] {
            Specified::Open(skip) => !skip.covers(candidate),
            _ => false,
        }
    }

    fn offer(&mut self, target: Target, rtl: bool, candidate: &Candidate, value: impl FnOnce() -> Specified) {
        if !self.is_open(target, rtl, candidate) {
            return;
        }
        let index = target.physical(rtl) as usize;
        self.specified[index] = match candidate.unknown {
            Some(reason) => Specified::Unknown(Unknown(reason)),
            None => value(),
        };
        self.winners[index] = Some(candidate.id);
    }

    fn compute(mut self, pseudo: Option<&PseudoElement>) -> Style {
        let mut values: Vec<Result<Value, Unknown>> = vec![Err(Unknown("it was not computed")); Longhand::ALL.len()];
        let parent_size = self.parent.map_or(Ok(DEFAULT_FONT_SIZE), |parent| parent.px(L::FontSize));
        let parent_weight = self.parent.and_then(|p| p.get(L::FontWeight).ok()?.as_number());
        let mut context = Context {
            font_size: parent_size,
            root_font_size: DEFAULT_FONT_SIZE,
            line_height: Err(Unknown("it depends on the line height")),
            parent_weight: parent_weight.unwrap_or(400.0),
            viewport: (self.engine.media.width, self.engine.media.height),
        };
        let scheme = self.value(L::ColorScheme, &context);
        let dark = is_dark(&scheme, &self.engine.media);
        values[L::ColorScheme as usize] = scheme;
        values[L::FontSize as usize] = self.value(L::FontSize, &context);
        context.font_size = match &values[L::FontSize as usize] {
            Ok(value) => value.as_px().ok_or(Unknown("the font size needs a layout")),
            Err(unknown) => Err(*unknown),
        };
        values[L::LineHeight as usize] = self.value(L::LineHeight, &context);
        context.line_height = match (&values[L::LineHeight as usize], context.font_size) {
            (Ok(Value::Number(n)), Ok(size)) => Ok(n * size),
            (Ok(Value::Length(length)), _) => Ok(length.px),
            (Ok(_), _) => Err(Unknown("a normal line height needs the metrics of the font")),
            (Err(unknown), _) => Err(*unknown),
        };
        values[L::Color as usize] = self.color(dark, &context);
        for longhand in Longhand::ALL {
            if !matches!(longhand, L::ColorScheme | L::FontSize | L::LineHeight | L::Color) {
                values[*longhand as usize] = self.value(*longhand, &context);
            }
        }
        let is_item = self.adjust(&mut values, pseudo);
        Style { values, winners: self.winners, customs: self.customs, dark, is_item }
    }

    fn value(&mut self, longhand: Longhand, context: &Context) -> Result<Value, Unknown> {
        let index = longhand as usize;
        let initial = &self.engine.initial[index];
        match &self.specified[index] {
            Specified::Value(value) => compute(longhand, value, context),
            Specified::Unknown(unknown) => Err(*unknown),
            Specified::Initial => compute(longhand, initial, context),
            Specified::Inherit => match self.parent {
                Some(parent) => parent.values[index].clone(),
                None => compute(longhand, initial, context),
            },
            Specified::Unset | Specified::Open(_) => match self.parent {
                Some(parent) if longhand.inherited() => parent.values[index].clone(),
                _ => compute(longhand, initial, context),
            },
        }
    }

    /// `color` comes out absolute: `currentcolor` in it is the parent's.
    fn color(&mut self, dark: bool, context: &Context) -> Result<Value, Unknown> {
        let current = self.parent.and_then(Style::color);
        match self.value(L::Color, context)? {
            Value::Color(color) => match color.resolve(Surroundings { dark, current }) {
                Some(absolute) => Ok(Value::Color(Color::Absolute(absolute))),
                None if color.uses_current() => Err(Unknown("the parent's color is not known")),
                None => Err(Unknown("the colour is not modelled yet")),
            },
            other => Ok(other),
        }
    }

    /// Values that depend on other values of the same element. Returns whether it is a flex or grid item.
    fn adjust(&self, values: &mut [Result<Value, Unknown>], pseudo: Option<&PseudoElement>) -> bool {
        let is = |values: &[Result<Value, Unknown>], longhand: L, words: &[&str]| matches!(&values[longhand as usize], Ok(Value::Keyword(word)) if words.contains(word));
        // Borders without a style have no width (CSS Backgrounds 3, section 3.3).
        for (style, width) in [
            (L::BorderTopStyle, L::BorderTopWidth),
            (L::BorderRightStyle, L::BorderRightWidth),
            (L::BorderBottomStyle, L::BorderBottomWidth),
            (L::BorderLeftStyle, L::BorderLeftWidth),
        ] {
            if is(values, style, &["none", "hidden"]) {
                values[width as usize] = Ok(Value::ZERO);
            }
        }
        // Blockification (CSS Display 3, section 2.7).
        let out_of_flow = is(values, L::Position, &["absolute", "fixed"]);
        let floats = !out_of_flow && !is(values, L::Float, &["none"]);
        let item = self.parent.is_some_and(|parent| {
            ["flex", "inline-flex", "grid", "inline-grid"].iter().any(|word| parent.is(L::Display, word))
        });
        if out_of_flow {
            values[L::Float as usize] = Ok(Value::Keyword("none"));
        }
        if (out_of_flow || floats || item || self.parent.is_none())
            && let Ok(Value::Keyword(word)) = &values[L::Display as usize]
        {
            values[L::Display as usize] = Ok(Value::Keyword(blockify(word)));
        }
        // One scrolling axis makes the other one scroll (CSS Overflow 3, section 3.1).
        for (a, b) in [(L::OverflowX, L::OverflowY), (L::OverflowY, L::OverflowX)] {
            if !is(values, b, &["visible", "clip"]) && values[b as usize].is_ok() {
                if is(values, a, &["visible"]) {
                    values[a as usize] = Ok(Value::Keyword("auto"));
                } else if is(values, a, &["clip"]) {
                    values[a as usize] = Ok(Value::Keyword("hidden"));
                }
            }
        }
        if is(values, L::TextAlign, &["match-parent"]) {
            values[L::TextAlign as usize] = match self.parent {
                Some(parent) => parent.values[L::TextAlign as usize].clone(),
                None => Ok(Value::Keyword("start")),
            };
        }
        if pseudo.is_some_and(|p| ["before", "after"].contains(&p.0.as_str())) && is(values, L::Content, &["normal"]) {
            values[L::Content as usize] = Ok(Value::Keyword("none"));
        }
        item && !out_of_flow
    }
}

fn wide_specified(wide: Wide, candidate: &Candidate) -> Specified {
    match wide {
        Wide::Inherit => Specified::Inherit,
        Wide::Initial => Specified::Initial,
        Wide::Unset => Specified::Unset,
        Wide::Revert => Specified::Open(Skip::Origin(candidate.origin)),
        Wide::RevertLayer => Specified::Open(Skip::Layer(candidate.weight)),
    }
}

fn blockify(display: &'static str) -> &'static str {
    match display {
        "inline" | "inline-block" | "table-row" | "table-cell" | "table-row-group" | "table-header-group"
        | "table-footer-group" | "table-column" | "table-column-group" | "table-caption" | "ruby-text" => "block",
        "inline-flex" => "flex",
        "inline-grid" => "grid",
        "inline-table" => "table",
        other => other,
    }
}

/// The used colour scheme (CSS Color Adjustment 1, section 2.3).
fn is_dark(scheme: &Result<Value, Unknown>, media: &Media) -> bool {
    let Ok(Value::Words(words)) = scheme else { return false };
    let has = |word: &str| words.iter().any(|value| value.is(word));
    match (has("light"), has("dark")) {
        (true, true) => media.dark,
        (false, dark) => dark,
        _ => false,
    }
}
