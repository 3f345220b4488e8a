//! Computed styles of a document. A style knows what applies to its element; each value is computed when it is asked
//! for, once.

use super::adjusted::changes_with_zoom;
use super::asked;
use super::custom::Custom;
use super::forced_colors;
use super::longhand_set::LonghandSet;
use super::nature::Nature;
use super::order::{Block, DeclarationId, Matched, Origin, Prepared, Shared, Sheets};
use super::winner::{Says, Specified, Step};
use crate::css::color::{Absolute, Color, Palette, Surroundings};
use crate::css::compute::compute;
use crate::css::context::{Context, DEFAULT_FONT_SIZE, Unknown};
use crate::css::grammar::Grammar;
use crate::css::parse::Declared;
use crate::css::property::{Flow, Longhand, Longhand as L};
use crate::css::value::Value;
use crate::dom::Schemes;
use rustc_hash::FxHashMap;
use std::cell::{Cell, OnceCell, RefCell};
use std::fmt;
use std::rc::Rc;

/// A declaration's value with its references replaced; nothing where that is not valid.
pub(super) type Substituted = Result<Rc<Option<Declared>>, Unknown>;

const PAGE: usize = 16;
const PAGES: usize = L::ALL.len().div_ceil(PAGE);

/// The computed style of an element or pseudo-element.
pub struct Style {
    pub(super) sheets: Rc<Sheets>,
    pub(super) matched: Rc<Matched>,
    pub(super) parent: Option<Rc<Style>>,
    /// Custom properties that were asked for, by the hash of their name.
    pub(super) customs: RefCell<FxHashMap<u64, Option<Custom>>>,
    /// Whether it is of a `::before` or `::after`.
    pub(super) is_generated: bool,
    /// The colour schemes that the page is made for.
    schemes: Schemes,
    /// By sixteen: most styles are asked for a few values, and a system has hundreds of thousands of styles.
    values: [OnceCell<Box<[OnceCell<Shared>; PAGE]>>; PAGES],
    context: OnceCell<Context>,
    flow: OnceCell<Flow>,
    monospace: OnceCell<bool>,
    zoomed: OnceCell<bool>,
    /// Nothing until it is asked; no while it is found out.
    pub(super) base_select: Cell<Option<bool>>,
    pub(super) hidden: OnceCell<Result<bool, Unknown>>,
    /// Values of declarations with references, by declaration.
    pub(super) substituted: RefCell<Vec<(*const Prepared, Substituted)>>,
    /// Which of the values that lengths are relative to is being computed.
    pub(super) sizing: Cell<Sizing>,
}

impl fmt::Debug for Style {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.debug_struct("Style").field("matched", &self.matched).finish_non_exhaustive()
    }
}

/// What of an element's sizes is being computed: a typed custom property must not ask for it then.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default)]
pub(super) enum Sizing {
    /// Nothing.
    #[default]
    No,
    /// The font size.
    FontSize,
    /// The line height.
    LineHeight,
    /// The direction of text, on which everything else depends.
    Flow,
}

impl Style {
    pub(super) fn new(
        sheets: &Rc<Sheets>,
        matched: &Rc<Matched>,
        parent: Option<Rc<Style>>,
        is_generated: bool,
    ) -> Style {
        Style {
            sheets: Rc::clone(sheets),
            matched: Rc::clone(matched),
            schemes: parent.as_ref().map_or(matched.schemes, |parent| parent.schemes),
            parent,
            customs: RefCell::default(),
            is_generated,
            values: [const { OnceCell::new() }; PAGES],
            context: OnceCell::new(),
            flow: OnceCell::new(),
            monospace: OnceCell::new(),
            zoomed: OnceCell::new(),
            base_select: Cell::default(),
            hidden: OnceCell::new(),
            substituted: RefCell::default(),
            sizing: Cell::default(),
        }
    }

    /// A computed value.
    ///
    /// # Errors
    /// The reason why it is not known.
    pub fn get(&self, longhand: Longhand) -> Result<&Value, Unknown> {
        let _answering = asked::note(longhand, self.is_generated);
        self.shared(longhand).as_ref().as_ref().map_err(|unknown| *unknown)
    }

    /// A computed value, or why it is not known, as it is kept: other styles may have the very same.
    pub(crate) fn shared(&self, longhand: Longhand) -> &Shared {
        // Most values are initial ones, and kept with the stylesheets. Builds with debug assertions hold each against what its own
        // computation gives, once.
        if !cfg!(debug_assertions)
            && !self.matched.sets.has(longhand)
            && !longhand.inherited()
            && let Some(value) = self.taken(longhand)
        {
            return value;
        }
        let index = longhand as usize;
        let page = self.values[index / PAGE].get_or_init(|| Box::new([const { OnceCell::new() }; PAGE]));
        page[index % PAGE].get_or_init(|| match self.taken(longhand) {
            Some(value) => {
                debug_assert!(
                    self.is_no_other(longhand, value),
                    "{} is taken over, and is of its own",
                    longhand.name()
                );
                Rc::clone(value)
            }
            None => Rc::new(match self.beyond() {
                Some(reason) => Err(Unknown(reason)),
                None => self.adjusted(longhand),
            }),
        })
    }

    /// The value of what is around the element, or the initial one, where no declaration says anything else and nothing
    /// else of the element has a say in it.
    fn taken(&self, longhand: Longhand) -> Option<&Shared> {
        if self.has_base_look(longhand) {
            return None;
        }
        if changes_with_zoom(longhand) && self.is_zoomed() {
            return None;
        }
        if self.sheets.media.forced_colors && forced_colors::replaces(longhand) {
            return None;
        }
        let is_own = match longhand {
            // Fixed-width fonts have a size of their own.
            L::FontSize => {
                let has_no_size = |parent: &Rc<Style>| parent.is_monospace() || self.is_monospace();
                self.is_declared(longhand) || self.parent.as_ref().is_none_or(has_no_size)
            }
            L::Display
            | L::Content
            | L::ContainIntrinsicWidth
            | L::ContainIntrinsicHeight
            | L::OverflowX
            | L::OverflowY
            | L::BorderTopWidth
            | L::BorderRightWidth
            | L::BorderBottomWidth
            | L::BorderLeftWidth => true,
            L::TextAlign => self.matched.nature == Nature::Table || self.matched.sets.has(longhand),
            // What the flow comes from is asked before it is known.
            L::Direction | L::WritingMode => self.matched.sets.has(longhand),
            _ => self.matched.sets.has(longhand) || self.flow() != Flow::LTR,
        };
        match &self.parent {
            _ if is_own || self.beyond().is_some() => None,
            Some(parent) if longhand.inherited() => Some(parent.shared(longhand)),
            None if longhand.inherited() => None,
            _ => self.sheets.constant(longhand),
        }
    }

    /// Whether the value that is taken over is what this element's own computation gives: what `taken` forgets shows
    /// in every test.
    fn is_no_other(&self, longhand: Longhand, taken: &Shared) -> bool {
        let _answering = asked::unnoted();
        self.adjusted(longhand) == **taken
    }

    /// The style of what is around it: of the parent, or of a pseudo-element's own element.
    pub fn parent(&self) -> Option<&Rc<Style>> {
        self.parent.as_ref()
    }

    /// The declaration that won; `None` where the value is inherited or initial.
    pub fn winner(&self, longhand: Longhand) -> Option<DeclarationId> {
        self.specified(longhand).1
    }

    /// The declarations that apply to it and set a longhand, be it in vain, strongest first; without those that ask for a
    /// container.
    pub fn setting(&self, longhand: Longhand) -> impl Iterator<Item = DeclarationId> {
        let _answering = asked::unnoted();
        let setting = self.sheets.setting(&self.matched, longhand, self.flow());
        setting.filter(|(block, _)| block.containers.is_empty()).map(|(block, declaration)| block.id(declaration))
    }

    /// Feeds what applies to it to a hasher.
    pub fn feed(&self, hasher: &mut impl std::hash::Hasher) {
        let _answering = asked::unnoted();
        self.matched.feed(hasher);
    }

    /// Feeds what applies to it and sets one of these to a hasher, be it in vain.
    pub(crate) fn feed_setting(&self, longhands: &LonghandSet, hasher: &mut impl std::hash::Hasher) {
        let _answering = asked::unnoted();
        self.sheets.feed_setting(&self.matched, longhands, self.flow(), hasher);
    }

    /// Whether some declaration sets one of these, whichever way text flows: where none does, they have their initial or
    /// inherited values. A set names all sides of a box or none.
    pub fn sets_any(&self, longhands: &LonghandSet) -> bool {
        self.matched.sets.meets(longhands)
    }

    /// Longhands that some declaration of the page sets, be it in vain.
    pub fn set_by_author(&self) -> LonghandSet {
        let _answering = asked::unnoted();
        let flow = self.flow();
        let mut set = LonghandSet::default();
        for block in self.sheets.blocks(&self.matched).filter(|block| block.origin == Origin::Author) {
            set.add_all(block.sets().get(flow));
        }
        set
    }

    /// Longhands that declarations of the page's set, be it in vain, in those sheets for which the answer is yes; by index, as
    /// in [`DeclarationId::sheet`].
    pub fn set_in(&self, is_asked: impl Fn(u16) -> bool) -> LonghandSet {
        let _answering = asked::unnoted();
        let flow = self.flow();
        let mut set = LonghandSet::default();
        for block in self.sheets.blocks(&self.matched).filter(|block| block.origin == Origin::Author) {
            if is_asked(block.sheet) {
                set.add_all(block.sets().get(flow));
            }
        }
        set
    }

    /// The used `color`.
    pub fn color(&self) -> Option<Absolute> {
        match self.get(L::Color) {
            Ok(Value::Color(Color::Absolute(absolute))) => Some(absolute.computed()),
            _ => None,
        }
    }

    /// Whether the used colour scheme is dark (CSS Color Adjustment 1, section 2.3).
    pub fn is_dark(&self) -> bool {
        let own = match self.sheets.media.forced_colors {
            true => self.scheme_of_page(),
            false => self.get(L::ColorScheme).cloned(),
        };
        let (light, dark) = match own {
            Ok(Value::Words(words)) => {
                let has = |word: &str| words.iter().any(|value| value.is(word));
                (has("light"), has("dark"))
            }
            Ok(_) => (self.schemes.light, self.schemes.dark),
            Err(_) => (false, false),
        };
        match (light, dark) {
            (true, true) => self.sheets.media.dark,
            (false, dark) => dark,
            _ => false,
        }
    }

    /// The colour scheme that the page asks for: where the user's colours are forced it is told as either, and
    /// `light-dark()` goes by this one.
    fn scheme_of_page(&self) -> Result<Value, Unknown> {
        let specified = self.specified(L::ColorScheme).0;
        match (specified.value(), &specified) {
            (Some(value), _) => Ok(value.clone()),
            (None, Specified::Unknown(reason)) => Err(*reason),
            (None, Specified::Inherit | Specified::Unset) if self.parent.is_some() => {
                self.parent.as_ref().map_or(Ok(Value::Keyword("normal")), |parent| parent.scheme_of_page())
            }
            _ => Ok(Value::Keyword("normal")),
        }
    }

    /// Why none of its values is known, or of what it is generated in.
    fn beyond(&self) -> Option<&'static str> {
        let originating = self.parent.as_ref().filter(|_| self.is_generated);
        self.matched.beyond.or_else(|| originating?.matched.beyond)
    }

    /// What colours depend on besides that of text.
    pub(super) fn surroundings_without_color(&self) -> Surroundings {
        let media = &self.sheets.media;
        let palette = if media.dark { Palette::Dark } else { Palette::Light };
        Surroundings { dark: self.is_dark(), forced: media.forced_colors.then_some(palette), current: None }
    }

    /// What colours in this style depend on.
    pub fn surroundings(&self) -> Surroundings {
        let _answering = asked::unnoted();
        Surroundings { current: self.color(), ..self.surroundings_without_color() }
    }

    /// A colour property's used value.
    ///
    /// # Errors
    /// The reason why it is not known.
    pub fn used_color(&self, longhand: Longhand) -> Result<Absolute, Unknown> {
        let _answering = asked::note(longhand, self.is_generated);
        match self.get(longhand)? {
            Value::Color(color) => color.resolve(self.surroundings()).ok_or(Unknown("a colour is not modelled yet")),
            _ => Err(Unknown("it is no plain colour")),
        }
    }

    /// An absolute length in px.
    ///
    /// # Errors
    /// It is no absolute length.
    pub fn px(&self, longhand: Longhand) -> Result<f64, Unknown> {
        self.get(longhand)?.as_px().ok_or(Unknown("it needs a layout"))
    }

    /// Whether a value is a keyword.
    pub fn is(&self, longhand: Longhand, keyword: &str) -> bool {
        self.get(longhand).is_ok_and(|value| value.is(keyword))
    }

    /// Whether some declaration that applies sets a longhand that is no logical one.
    pub(super) fn is_declared(&self, longhand: Longhand) -> bool {
        self.matched.sets.has(longhand)
    }

    pub(super) fn flow(&self) -> Flow {
        *self.flow.get_or_init(|| {
            // Most elements leave it to what is around them.
            if let Some(parent) = &self.parent
                && !self.is_declared(L::WritingMode)
                && !self.is_declared(L::Direction)
            {
                return parent.flow();
            }
            let before = self.sizing.replace(Sizing::Flow);
            let mode = match self.get(L::WritingMode) {
                Ok(Value::Keyword(mode)) => mode,
                _ => "horizontal-tb",
            };
            let flow = Flow::new(mode, self.is(L::Direction, "rtl"));
            self.sizing.set(before);
            flow
        })
    }

    /// Whether the conditions of a block that are asked for each element hold here.
    ///
    /// # Errors
    /// The reason why it cannot be known.
    pub(super) fn applies(&self, block: &Block) -> Result<bool, Unknown> {
        if let Some(reason) = block.unknown {
            return Err(Unknown(reason));
        }
        if let Some(native) = block.native
            && native != self.keeps_native_look()?
        {
            return Ok(false);
        }
        // How large a container is has been asked by the page, not by whoever asks for a value.
        let _answering = (!block.containers.is_empty()).then(asked::unnoted);
        for query in &block.containers {
            if !query.holds(self.parent.as_deref())? {
                return Ok(false);
            }
        }
        Ok(true)
    }

    /// Whether the platform draws it. What a button that is an input looks like is the page's as soon as that says anything of
    /// its ground or edge; boxes and lists stay what they are (Chromium 156).
    ///
    /// # Errors
    /// The reason why it cannot be known.
    pub(super) fn keeps_native_look(&self) -> Result<bool, Unknown> {
        if self.get(L::Appearance)?.is("none") {
            return Ok(false);
        }
        if self.matched.nature != Nature::PushButton {
            return Ok(true);
        }
        let mut undecided = None;
        for longhand in PAINTED {
            // What holds for as long as the platform draws it has no say in that.
            let mut steps = self.steps_of(longhand, |block| block.native.is_none());
            match steps.find(|step| step.says.decides()) {
                Some(Step { says: Says::Undecided(reason), .. }) => undecided = Some(reason),
                Some(step) if step.block.origin == Origin::Author => return Ok(false),
                _ => {}
            }
        }
        undecided.map_or(Ok(true), Err)
    }

    pub(super) fn is_one_of(&self, longhand: Longhand, words: &[&str]) -> bool {
        self.asked_for(longhand, words) == Ok(true)
    }

    /// Whether a value is one of these keywords: what decides other values must not be taken for a no where it is unknown.
    pub(super) fn asked_for(&self, longhand: Longhand, words: &[&str]) -> Result<bool, Unknown> {
        Ok(matches!(self.get(longhand)?, Value::Keyword(word) if words.contains(word)))
    }

    /// A value with shares of so many px put in: for comparisons, which cannot be computed before a layout.
    ///
    /// # Errors
    /// The reason why it cannot be known all the same.
    pub fn with_whole(&self, longhand: Longhand, px: f64) -> Result<Value, Unknown> {
        match self.specified(longhand).0.value() {
            Some(value) => compute(longhand, value, &Context { whole: Some(px), ..*self.context() }),
            None => self.get(longhand).cloned(),
        }
    }

    /// What lengths and weights of this element are relative to.
    pub(super) fn context(&self) -> &Context {
        self.context.get_or_init(|| {
            let before = self.sizing.replace(Sizing::LineHeight);
            let mut context = self.outer_context();
            if self.parent.is_none() {
                // Everything but the root's own font size is relative to what that came to.
                context.root_font_size = self.px(L::FontSize);
            }
            context.font_size = match self.get(L::FontSize) {
                Ok(value) => value.as_px().ok_or(Unknown("the font size needs a layout")),
                Err(unknown) => Err(unknown),
            };
            context.line_height = match (self.get(L::LineHeight), self.drawn_font_size()) {
                // Chromium lays lines out in 64ths of a pixel, and `lh` is what it lays out.
                (Ok(Value::Number(n)), Ok(size)) => Ok(((size * 64.0).floor() / 64.0 * n * 64.0).floor() / 64.0),
                (Ok(Value::Length(length)), _) => Ok(length.px),
                (Ok(_), _) => Err(Unknown("a normal line height needs the metrics of the font")),
                (Err(unknown), _) => Err(unknown),
            };
            self.sizing.set(before);
            context
        })
    }

    /// The root element's font size; while that is computed itself, the initial one.
    fn root_font_size(&self) -> Result<f64, Unknown> {
        let Some(mut at) = self.parent.as_ref() else { return Ok(DEFAULT_FONT_SIZE) };
        while let Some(above) = &at.parent {
            at = above;
        }
        at.px(L::FontSize)
    }

    /// What the font size itself is relative to.
    pub(super) fn outer_context(&self) -> Context {
        let parent = self.parent.as_deref();
        let unlike = Unknown("the weight around it is no number");
        let parent_weight = parent.map(|parent| parent.get(L::FontWeight)?.as_number().ok_or(unlike));
        let media = &self.sheets.media;
        Context {
            font_size: parent.map_or(Ok(DEFAULT_FONT_SIZE), |parent| parent.px(L::FontSize)),
            root_font_size: self.root_font_size(),
            line_height: Err(Unknown("it depends on the line height")),
            parent_weight: parent_weight.unwrap_or(Ok(400.0)),
            viewport: (media.width, media.height),
            whole: None,
        }
    }

    /// The computed value before what other values of the element change in it.
    pub(super) fn raw(&self, longhand: Longhand) -> Result<Value, Unknown> {
        let sizing = match longhand {
            L::FontSize => Sizing::FontSize,
            L::LineHeight => Sizing::LineHeight,
            _ => return self.raw_value(longhand),
        };
        let before = self.sizing.replace(sizing);
        let value = self.raw_value(longhand);
        self.sizing.set(before);
        value
    }

    fn raw_value(&self, longhand: Longhand) -> Result<Value, Unknown> {
        if self.has_base_look(longhand) {
            return Err(super::base_select::NOT_MODELLED);
        }
        let initial = &self.sheets.initial[longhand as usize];
        let specified = self.specified(longhand).0;
        let inherited = || self.parent.as_ref().map(|parent| parent.get(longhand).cloned());
        let value = match &specified {
            Specified::Value(_) | Specified::Substituted(..) => specified.value().unwrap_or(initial),
            Specified::Unknown(unknown) => return Err(*unknown),
            Specified::Initial => initial,
            Specified::Unset if !longhand.inherited() => initial,
            // Chromium does not inherit it.
            Specified::Inherit if longhand == L::Content => initial,
            // A width without a line is inherited all the same, for a child that has one.
            Specified::Inherit if matches!(longhand.grammar(), Grammar::LineWidth) => match &self.parent {
                Some(parent) => return parent.raw(longhand),
                None => initial,
            },
            Specified::Inherit | Specified::Unset => match inherited() {
                Some(value) if longhand == L::FontSize => return value.map(|value| self.sized(value)),
                Some(value) => return value,
                None => initial,
            },
        };
        match longhand {
            L::FontSize => compute(longhand, value, &self.outer_context()).map(|value| self.sized(value)),
            L::Appearance | L::ColorScheme | L::FontFamily | L::Direction | L::WritingMode | L::Zoom => {
                compute(longhand, value, &self.outer_context())
            }
            L::LineHeight => {
                let mut context = self.outer_context();
                context.font_size = self.px(L::FontSize);
                compute(longhand, value, &context)
            }
            _ => compute(longhand, value, self.context()),
        }
    }

    /// The keyword that a font size comes from, and whether it is of nobody's font size (CSS Fonts 4, section 2.5).
    fn font_size_nature(&self) -> (Option<&'static str>, bool) {
        let above = || self.parent.as_ref().map_or((Some("medium"), false), |parent| parent.font_size_nature());
        let specified = self.specified(L::FontSize).0;
        match (specified.value(), &specified) {
            (Some(Value::Keyword("larger" | "smaller")), _) => (None, above().1),
            (Some(Value::Keyword(word)), _) => (Some(word), false),
            (Some(Value::Length(length)), _) if length.has_percent => (None, above().1),
            (Some(Value::Dimension(_, unit)), _) => (None, !unit.is_of_font() || above().1),
            (None, Specified::Initial) => (Some("medium"), false),
            (None, Specified::Inherit | Specified::Unset) => above(),
            _ => (None, true),
        }
    }

    /// How large text is drawn, in px: Chromium draws none smaller where nobody asked for an absolute size, and `em` is
    /// not of that.
    pub(super) fn drawn_font_size(&self) -> Result<f64, Unknown> {
        const LEAST: f64 = 6.0;
        let size = self.px(L::FontSize)?;
        Ok(if size > 0.0 && size < LEAST && !self.font_size_nature().1 { LEAST } else { size })
    }

    fn is_monospace(&self) -> bool {
        *self.monospace.get_or_init(|| match &self.parent {
            Some(parent) if !self.is_declared(L::FontFamily) => parent.is_monospace(),
            _ => self.has_monospace(),
        })
    }

    fn has_monospace(&self) -> bool {
        // It is asked for the sake of the size: what it reads that is relative to the size goes in a circle.
        let before = self.sizing.replace(Sizing::FontSize);
        let family = self.get(L::FontFamily);
        self.sizing.set(before);
        let Ok(Value::List(names)) = family else { return false };
        matches!(names.as_slice(), [Value::Ident(name)] if **name == *"monospace")
    }

    /// Browsers have a smaller default size for fixed-width fonts: 13px beside 16px. It counts where a keyword chose the
    /// size, and where nothing absolute did and the family changes between the two.
    fn sized(&self, value: Value) -> Value {
        const RATIO: f64 = 13.0 / 16.0;
        const SIZES: [(&str, f64); 8] = [
            ("xx-small", 9.0),
            ("x-small", 10.0),
            ("small", 12.0),
            ("medium", 13.0),
            ("large", 16.0),
            ("x-large", 20.0),
            ("xx-large", 26.0),
            ("xxx-large", 39.0),
        ];
        // What Chromium draws at most.
        const MOST: f64 = 10_000.0;
        let px = |px: f64| Value::Length(crate::css::value::LengthPercentage::px(px.min(MOST)));
        let value = match value.as_px() {
            Some(size) if size > MOST => px(MOST),
            _ => value,
        };
        let above = self.parent.as_ref().is_some_and(|parent| parent.is_monospace());
        let here = self.is_monospace();
        if !above && !here {
            return value;
        }
        match (self.font_size_nature(), value.as_px()) {
            ((Some(word), _), _) if here => {
                SIZES.iter().find(|(known, _)| *known == word).map_or(value, |(_, size)| px(*size))
            }
            ((Some(word), _), _) => compute(L::FontSize, &Value::Keyword(word), &self.outer_context()).unwrap_or(value),
            ((None, true), _) => value,
            ((None, false), Some(size)) if here && !above => px(size * RATIO),
            ((None, false), Some(size)) if above && !here => px(size / RATIO),
            _ => value,
        }
    }

    /// How many pictures the background or the mask has, known ones or not.
    ///
    /// # Errors
    /// The reason why that is not known.
    pub(super) fn layer_count(&self, images: Longhand) -> Result<usize, Unknown> {
        let specified = self.specified(images).0;
        Ok(match (specified.value(), &specified) {
            (Some(Value::List(images)), _) => images.len(),
            (_, Specified::Unknown(reason)) => return Err(*reason),
            (_, Specified::Inherit) => self.parent.as_ref().map_or(Ok(1), |parent| parent.layer_count(images))?,
            _ => 1,
        })
    }

    /// Whether it, or something around it, is drawn in another size.
    pub(crate) fn is_zoomed(&self) -> bool {
        let _answering = asked::unnoted();
        *self.zoomed.get_or_init(|| {
            let own = self.is_declared(L::Zoom) && self.get(L::Zoom).map_or(true, |zoom| zoom.as_number() != Some(1.0));
            own || self.parent.as_ref().is_some_and(|parent| parent.is_zoomed())
        })
    }
}

/// What a page paints a button with.
const PAINTED: [L; 22] = [
    L::BackgroundAttachment,
    L::BackgroundClip,
    L::BackgroundColor,
    L::BackgroundImage,
    L::BackgroundOrigin,
    L::BackgroundPositionX,
    L::BackgroundPositionY,
    L::BackgroundSize,
    L::BorderTopColor,
    L::BorderRightColor,
    L::BorderBottomColor,
    L::BorderLeftColor,
    L::BorderTopStyle,
    L::BorderRightStyle,
    L::BorderBottomStyle,
    L::BorderLeftStyle,
    L::BorderTopWidth,
    L::BorderRightWidth,
    L::BorderBottomWidth,
    L::BorderLeftWidth,
    L::BorderTopLeftRadius,
    L::BorderTopRightRadius,
];
