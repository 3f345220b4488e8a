//! The grammars of the property table. A grammar parses one value; it does not look at what comes after.

use super::number::next_number;
use super::primitive::{
    Primitive, ValueResult, dimension, ident, keyword, length, number, skip, whole, word_or, wrong,
};
use super::value::{LengthPercentage, Quantity, Value};
use super::{color, position, words};
use cssparser::{ParseError, Parser, Token};

/// A property's grammar.
#[derive(Debug, Clone, Copy)]
pub enum Grammar {
    /// One of these words.
    Keywords(&'static [&'static str]),
    /// Alignment: one of these words; `safe`, `first baseline` and their like are not modelled.
    Align(&'static [&'static str]),
    /// A length, with or without percentages and negative values, or a word.
    Length { percent: bool, negative: bool, keywords: &'static [&'static str] },
    /// `<line-width>`
    LineWidth,
    /// `normal`, a number, a length or a percentage.
    LineHeight,
    /// `width` and its like.
    BoxSize,
    /// `max-width` and its like.
    MaxSize,
    /// One or two lengths of a corner.
    Radius,
    /// A colour.
    Color,
    /// A colour or a word.
    ColorOr(&'static [&'static str]),
    /// A number of at least `min`, or a word.
    NumberOr { keywords: &'static [&'static str], min: f64 },
    /// A whole number or a word.
    Integer(&'static [&'static str]),
    /// `font-weight`
    FontWeight,
    /// A whole number of at least one, or a word.
    Count { keywords: &'static [&'static str], most: f64 },
    /// A number or percentage, clamped to 0 to 1.
    Alpha,
    /// A name of the author's.
    Ident,
    /// A time.
    Time,
    /// An image or `none`.
    Image,
    /// Transform functions or `none`.
    Transform,
    /// Filter functions or `none`.
    Filter,
    /// A basic shape, a box, or `none`.
    ClipPath,
    /// Two axes of a position.
    PositionPair,
    /// `transform-origin`: a position and a depth.
    Origin,
    /// Names of the author's separated by spaces, or `none`.
    Names,
    /// A ratio of two numbers, with or without `auto`.
    AspectRatio,
    /// `scrollbar-color`
    ColorPair,
    /// `font-stretch`
    FontStretch,
    /// `tab-size`: a number of spaces or a length.
    TabSize,
    /// `stroke-width`: a length, a percentage or a number of px.
    StrokeWidth,
    /// Tracks of a grid, or `none`.
    Tracks,
    /// Sizes of automatic tracks of a grid.
    AutoTracks,
    /// A line of a grid.
    GridLine,
    /// Named areas of a grid.
    Areas,
    /// One of these words; what else there may be is accepted, and not modelled.
    Words(&'static [&'static str]),
    /// An easing function.
    Easing,
    /// Names separated by commas.
    CommaIdents,
    /// Times separated by commas.
    CommaTimes,
    /// A time that is not negative, or `auto`.
    Duration { auto: bool },
    /// `animation-name`
    AnimationNames,
    /// One name of an animation: a name, or a string.
    AnimationName,
    /// `list-style-type`
    ListStyle,
    /// `fill` and `stroke`
    Paint,
    /// `zoom`
    Zoom,
    /// `text-indent`
    Indent,

    /// Easing functions separated by commas.
    CommaEasings,
    /// A list of another grammar.
    CommaOf(&'static Grammar),
    /// One axis of a position.
    Position(&'static [&'static str]),
    /// `background-repeat`
    Repeat,
    /// `background-size`
    Size,
    /// `font-family`
    Families,
    /// Shadows separated by commas, or `none`.
    Shadows { inset: bool },
    /// `content`
    ContentList,
    /// `color-scheme`
    SchemeWords,
    /// `display`
    DisplayWords,
    /// `text-decoration-line`
    LineWords,
    /// `rotate`
    RotateWords,
    /// `scale`
    ScaleWords,
    /// `translate`
    TranslateWords,
    /// `cursor`
    Cursor,
    /// `font-style`
    FontStyle,
    /// Features or axes of fonts separated by commas, or `normal`.
    FontTags(&'static Grammar),
    /// One feature of a font.
    FontFeature,
    /// One axis of a font.
    FontAxis,
    /// `border-image-slice`
    ImageSlice,
    /// `border-image-width`
    ImageWidth,
    /// `border-image-outset`
    ImageOutset,
    /// `border-image-repeat`
    ImageRepeat,
    /// `rect()`, or `auto`
    ClipRect,
    /// `contain-intrinsic-width` and its like
    IntrinsicSize,
    /// `quotes`
    Quotes,
    /// A string or this word.
    StringOr(&'static str),
    /// `stroke-dashoffset`: a length, a percentage or a number of px, of either sign.
    DashOffset,
    /// `text-size-adjust`
    SizeAdjust,
    /// `-webkit-text-stroke-width`
    StrokeOfText,
    /// Several words of a list, in any order.
    SomeOf(&'static [&'static str]),
}

const TRANSLATION: Primitive = Primitive::Length { percent: true, negative: true, keywords: &[] };

impl Grammar {
    /// The grammar of one item, for lists; itself otherwise.
    pub fn item(&self) -> &Grammar {
        match self {
            Grammar::CommaIdents => &Grammar::Ident,
            Grammar::CommaTimes => &Grammar::Time,
            Grammar::AnimationNames => &Grammar::AnimationName,
            Grammar::CommaEasings => &Grammar::Easing,
            Grammar::CommaOf(item) => item,
            other => other,
        }
    }

    /// Parses one value.
    pub fn parse(&self, parser: &mut Parser) -> ValueResult {
        parser.skip_whitespace();
        match self {
            Grammar::Keywords(words) => keyword_or_vendor(parser, words),
            Grammar::Align(words) => align(parser, words),
            Grammar::Length { percent, negative, keywords } => length(parser, *percent, *negative, keywords),
            // Functions that size boxes size no lines.
            Grammar::LineWidth => match length(parser, false, false, &["thin", "medium", "thick"])? {
                Value::Unmodelled => wrong(),
                value => Ok(value),
            },
            Grammar::LineHeight => line_height(parser),
            Grammar::BoxSize => box_size(parser, "auto"),
            Grammar::MaxSize => box_size(parser, "none"),
            Grammar::Radius => {
                let first = Primitive::CORNER.parse(parser)?;
                let second = parser.try_parse(|p| Primitive::CORNER.parse(p)).unwrap_or_else(|_| first.clone());
                Ok(Value::Words(vec![first, second]))
            }
            Grammar::Color => color::parse(parser).map(Value::Color),
            Grammar::ColorOr(words) => match parser.try_parse(|p| keyword(p, words)) {
                // A colour of the browser's own, for outlines.
                Ok(Value::Keyword(name)) if name == color::FOCUS_RING => Ok(Value::Color(color::Color::System(name))),
                Ok(value) => Ok(value),
                Err(_) => color::parse(parser).map(Value::Color),
            },
            Grammar::NumberOr { keywords, min } => number(parser, keywords, *min),
            Grammar::Integer(words) => Primitive::Integer(words).parse(parser),
            Grammar::FontWeight => match number(parser, &["normal", "bold", "bolder", "lighter"], 1.0)? {
                Value::Number(n) if n > 1000.0 => wrong(),
                value => Ok(value),
            },
            Grammar::Count { keywords, .. } => whole(parser, keywords, 1.0),
            Grammar::Alpha => alpha(parser),
            Grammar::Ident => ident(parser, &["all", "none", "auto"]),
            Grammar::Time => dimension(parser, Quantity::Time),
            Grammar::Image => word_or(parser, &["none"], super::image::parse),
            Grammar::Transform => word_or(parser, &["none"], super::transform::parse),
            Grammar::Filter => word_or(parser, &["none"], super::filter::parse),
            Grammar::ClipPath => word_or(parser, &["none"], super::shape::clip_path),
            Grammar::PositionPair => position::parse(parser, false).map(|pair| Value::Words(pair.into())),
            Grammar::Origin => {
                let mut words = Vec::from(position::parse_short(parser)?);
                words.push(parser.try_parse(|p| length(p, false, true, &[])).unwrap_or(Value::ZERO));
                Ok(Value::Words(words))
            }
            Grammar::Names => word_or(parser, &["none"], |p| {
                let mut names = vec![ident(p, &[])?];
                while let Ok(name) = p.try_parse(|p| ident(p, &[])) {
                    names.push(name);
                }
                if names.iter().any(|name| matches!(name, Value::Ident(name) if name.eq_ignore_ascii_case("none"))) {
                    return wrong();
                }
                Ok(Value::Words(names))
            }),
            Grammar::AspectRatio => aspect_ratio(parser),
            Grammar::ColorPair => word_or(parser, &["auto"], |p| {
                Ok(Value::Words(vec![Value::Color(color::parse(p)?), Value::Color(color::parse(p)?)]))
            }),
            Grammar::FontStretch => match parser.try_parse(super::font::font_width) {
                Ok(word) => Ok(word),
                Err(_) => match length(parser, true, false, &[])? {
                    value @ Value::Length(LengthPercentage { has_percent: true, .. }) => Ok(value),
                    Value::Calc(tree) if tree.kind() == Some(super::calc::ResultType::Percentage) => {
                        Ok(Value::Calc(tree))
                    }
                    _ => wrong(),
                },
            },
            Grammar::TabSize => match parser.try_parse(|p| number(p, &[], 0.0)) {
                Ok(number) => Ok(number),
                Err(_) => length(parser, false, false, &[]),
            },
            Grammar::StrokeWidth => match parser.try_parse(|p| number(p, &[], 0.0)) {
                Ok(Value::Number(n)) => Ok(Value::Length(LengthPercentage::px(n))),
                // A calculated number stays a calculation.
                Ok(_) => Ok(Value::Unmodelled),
                Err(_) => length(parser, true, false, &[]),
            },
            Grammar::Tracks => super::tracks::tracks(parser),
            Grammar::Words(words) => {
                let state = parser.state();
                match keyword(parser, words) {
                    Ok(word) if parser.is_exhausted() => return Ok(word),
                    _ => parser.reset(&state),
                }
                parser.next()?;
                while parser.next().is_ok() {}
                Ok(Value::Unmodelled)
            }
            Grammar::AnimationNames => Ok(Value::List(parser.parse_comma_separated(|p| self.item().parse(p))?)),
            Grammar::AnimationName => animation_name(parser),
            Grammar::Duration { auto } => duration(parser, *auto),
            Grammar::ListStyle => list_style(parser),
            Grammar::Paint => paint(parser),
            Grammar::Zoom => match parser.try_parse(|p| keyword(p, &["normal", "reset"])) {
                Ok(Value::Keyword("normal")) => Ok(Value::Number(1.0)),
                Ok(_) => Ok(Value::Unmodelled),
                // Nothing is drawn at no size; browsers take it for the usual one.
                Err(_) => match Primitive::NumberPercentage.parse(parser)? {
                    Value::Number(n) if n < 0.0 => wrong(),
                    Value::Number(0.0) => Ok(Value::Number(1.0)),
                    value => Ok(value),
                },
            },
            Grammar::Indent => indent(parser),
            Grammar::Easing => super::easing::easing(parser),
            Grammar::CommaIdents | Grammar::CommaTimes | Grammar::CommaEasings | Grammar::CommaOf(_) => {
                Ok(Value::List(parser.parse_comma_separated(|p| self.item().parse(p))?))
            }
            Grammar::Position(words) => position::parse_axis(parser, words.contains(&"top")),
            Grammar::Repeat => repeat(parser),
            Grammar::Size => size(parser),
            Grammar::Families => super::font::families(parser),
            Grammar::Shadows { inset } => super::shadow::shadows(parser, *inset),
            Grammar::ContentList => super::generated::content(parser),
            Grammar::SchemeWords => scheme(parser),
            Grammar::DisplayWords => display(parser),
            Grammar::LineWords => lines(parser),
            Grammar::RotateWords => rotate(parser),
            Grammar::ScaleWords => scale(parser),
            Grammar::TranslateWords => translate(parser),
            Grammar::Cursor => cursor(parser),
            Grammar::FontStyle => super::font::font_style(parser),
            Grammar::SomeOf(words) => some_of(parser, words),
            Grammar::FontTags(item) => {
                word_or(parser, &["normal"], |p| Ok(Value::List(p.parse_comma_separated(|p| item.parse(p))?)))
            }
            Grammar::FontFeature => super::font::feature(parser),
            Grammar::FontAxis => super::font::axis(parser),
            Grammar::AutoTracks => super::tracks::automatic(parser),
            Grammar::GridLine => super::grid::line(parser),
            Grammar::Areas => super::grid::areas(parser),
            Grammar::ImageSlice => super::border_image::slice(parser),
            Grammar::ImageWidth => super::border_image::width(parser),
            Grammar::ImageOutset => super::border_image::outset(parser),
            Grammar::ImageRepeat => super::border_image::repeat(parser),
            Grammar::ClipRect => word_or(parser, &["auto"], super::shape::clip_rect),
            Grammar::IntrinsicSize => intrinsic_size(parser),
            Grammar::Quotes => super::generated::quotes(parser),
            Grammar::StringOr(word) => match parser.try_parse(|p| p.expect_string_cloned()) {
                Ok(text) => Ok(Value::String(text.to_string().into())),
                Err(_) => {
                    parser.expect_ident_matching(word)?;
                    Ok(Value::Keyword(word))
                }
            },
            Grammar::DashOffset => match parser.try_parse(|p| number(p, &[], f64::NEG_INFINITY)) {
                Ok(Value::Number(n)) => Ok(Value::Length(LengthPercentage::px(n))),
                // A calculated number stays a calculation.
                Ok(_) => Ok(Value::Unmodelled),
                Err(_) => length(parser, true, true, &[]),
            },
            // Its words are shares of the font size.
            Grammar::StrokeOfText => match parser.try_parse(|p| keyword(p, &["thin", "medium", "thick"])) {
                Ok(word) => {
                    let share = if word.is("thin") {
                        1.0
                    } else if word.is("medium") {
                        3.0
                    } else {
                        5.0
                    };
                    Ok(super::value::unit("em").map_or(Value::Unmodelled, |em| Value::Dimension(share / 48.0, em)))
                }
                Err(_) => length(parser, false, false, &[]),
            },
            Grammar::SizeAdjust => match length(parser, true, false, &["auto", "none"])? {
                value @ (Value::Keyword(_) | Value::Length(LengthPercentage { has_percent: true, .. })) => Ok(value),
                Value::Calc(tree) if tree.kind() == Some(super::calc::ResultType::Percentage) => Ok(Value::Calc(tree)),
                _ => wrong(),
            },
        }
    }
}

/// `none`, or a length, with `auto` for the size that was last drawn (CSS Sizing 4, section 5.1).
fn intrinsic_size(parser: &mut Parser) -> ValueResult {
    let auto = parser.try_parse(|p| keyword(p, &["auto"])).ok();
    let size = match length(parser, false, false, &["none"])? {
        Value::Unmodelled => return wrong(),
        size => size,
    };
    Ok(match auto {
        Some(auto) => Value::Words(vec![auto, size]),
        None => size,
    })
}

/// One of these words, or a vendor's own, which is for one browser and not modelled. Vendors' colours are colours.
fn keyword_or_vendor(parser: &mut Parser, words: &'static [&'static str]) -> ValueResult {
    if let Ok(value) = parser.try_parse(|p| keyword(p, words)) {
        return Ok(value);
    }
    let word = parser.expect_ident()?;
    let vendor = ["-webkit-", "-moz-"].iter().any(|vendor| word.starts_with(vendor));
    if vendor && !word.ends_with("-color") { Ok(Value::Unmodelled) } else { wrong() }
}

fn align(parser: &mut Parser, words: &'static [&'static str]) -> ValueResult {
    let Ok(first) = parser.try_parse(|p| keyword(p, &["safe", "unsafe", "first", "last", "legacy"])) else {
        return keyword(parser, words);
    };
    let Value::Keyword(modifier) = first else { return wrong() };
    let places = ["center", "start", "end", "self-start", "self-end", "flex-start", "flex-end", "left", "right"];
    match modifier {
        "first" | "last" => {
            let baseline = keyword(parser, &["baseline"])?;
            if !words.contains(&"baseline") {
                return wrong();
            }
            Ok(if modifier == "first" { baseline } else { Value::Words(vec![first, baseline]) })
        }
        "legacy" => {
            if words.contains(&"auto") || words.contains(&"space-between") {
                return wrong();
            }
            match parser.try_parse(|p| keyword(p, &["left", "right", "center"])) {
                Ok(side) => Ok(Value::Words(vec![first, side])),
                Err(_) => Ok(first),
            }
        }
        _ => match keyword(parser, words)? {
            Value::Keyword(place) if places.contains(&place) => Ok(Value::Words(vec![first, Value::Keyword(place)])),
            _ => wrong(),
        },
    }
}

fn aspect_ratio(parser: &mut Parser) -> ValueResult {
    let mut auto = parser.try_parse(|p| keyword(p, &["auto"])).is_ok();
    let ratio = parser.try_parse(|p| {
        let first = number(p, &[], 0.0)?;
        let second = match p.try_parse(|p| p.expect_delim('/')) {
            Ok(()) => number(p, &[], 0.0)?,
            Err(_) => Value::Number(1.0),
        };
        Ok::<_, ParseError<()>>(vec![first, Value::Keyword("/"), second])
    });
    auto |= ratio.is_ok() && parser.try_parse(|p| keyword(p, &["auto"])).is_ok();
    match (auto, ratio) {
        (true, Err(_)) => Ok(Value::Keyword("auto")),
        (true, Ok(mut words)) => {
            words.insert(0, Value::Keyword("auto"));
            Ok(Value::Words(words))
        }
        (false, Ok(words)) => Ok(Value::Words(words)),
        (false, Err(error)) => Err(error),
    }
}

fn alpha(parser: &mut Parser) -> ValueResult {
    let state = parser.state();
    if let Token::Percentage { .. } = parser.next()?.clone() {
        parser.reset(&state);
        return Ok(Value::Number((next_number(parser)?.0 / 100.0).clamp(0.0, 1.0)));
    }
    parser.reset(&state);
    match Primitive::NumberPercentage.parse(parser)? {
        Value::Number(n) => Ok(Value::Number(n.clamp(0.0, 1.0))),
        value => Ok(value),
    }
}

fn line_height(parser: &mut Parser) -> ValueResult {
    if let Ok(value) = parser.try_parse(|p| number(p, &["normal"], 0.0)) {
        return Ok(value);
    }
    length(parser, true, false, &[])
}

fn box_size(parser: &mut Parser, empty: &'static str) -> ValueResult {
    static WORDS: [&str; 6] = ["auto", "none", "min-content", "max-content", "fit-content", "stretch"];
    let word = parser.try_parse(|p| keyword_or_vendor(p, &WORDS));
    if let Ok(Value::Unmodelled) = word {
        return Ok(Value::Unmodelled);
    }
    if let Ok(Value::Keyword(word)) = word {
        return if ["auto", "none"].contains(&word) && word != empty { wrong() } else { Ok(Value::Keyword(word)) };
    }
    let state = parser.state();
    if let Ok(Token::Function(name)) = parser.next().cloned()
        && ["fit-content", "calc-size", "anchor-size"].contains(&&*name.to_ascii_lowercase())
    {
        return skip(parser);
    }
    parser.reset(&state);
    length(parser, true, false, &[])
}

fn repeat(parser: &mut Parser) -> ValueResult {
    static ONE: [&str; 6] = ["repeat", "space", "round", "no-repeat", "repeat-x", "repeat-y"];
    let first = keyword(parser, &ONE)?;
    if first.is("repeat-x") || first.is("repeat-y") {
        return Ok(first);
    }
    match parser.try_parse(|p| keyword(p, &ONE[..4])) {
        Ok(second) if second == first => Ok(first),
        Ok(second) if first.is("repeat") && second.is("no-repeat") => Ok(Value::Keyword("repeat-x")),
        Ok(second) if first.is("no-repeat") && second.is("repeat") => Ok(Value::Keyword("repeat-y")),
        Ok(second) => Ok(Value::Words(vec![first, second])),
        Err(_) => Ok(first),
    }
}

fn size(parser: &mut Parser) -> ValueResult {
    if let Ok(value) = parser.try_parse(|p| keyword(p, &["cover", "contain"])) {
        return Ok(value);
    }
    let first = length(parser, true, false, &["auto"])?;
    match parser.try_parse(|p| length(p, true, false, &["auto"])) {
        Ok(second) if first.is("auto") && second.is("auto") => Ok(first),
        Ok(second) => Ok(Value::Words(vec![first, second])),
        Err(_) if first.is("auto") => Ok(first),
        Err(_) => Ok(Value::Words(vec![first, Value::Keyword("auto")])),
    }
}

fn scheme(parser: &mut Parser) -> ValueResult {
    if parser.try_parse(|p| keyword(p, &["normal"])).is_ok() {
        return Ok(Value::Keyword("normal"));
    }
    let mut words = Vec::new();
    let mut only = false;
    while let Ok(name) = parser.try_parse(|p| p.expect_ident_cloned()) {
        match name.to_ascii_lowercase().as_str() {
            "light" => words.push(Value::Keyword("light")),
            "dark" => words.push(Value::Keyword("dark")),
            // At one end, once.
            "only" if !only => only = true,
            "only" | "normal" | "default" | "inherit" | "initial" | "unset" | "revert" | "revert-layer" => {
                return wrong();
            }
            _ => words.push(Value::Ident(name.to_string().into())),
        }
    }
    if words.is_empty() {
        return wrong();
    }
    if only {
        words.push(Value::Keyword("only"));
    }
    Ok(Value::Words(words))
}

fn display(parser: &mut Parser) -> ValueResult {
    static ALL: &[&str] = &["flow"];
    let one = |p: &mut Parser| match p.try_parse(|p| keyword(p, ALL)) {
        Ok(flow) => Ok(flow),
        Err(_) => keyword_or_vendor(p, words::DISPLAYS),
    };
    let mut found = vec![one(parser)?];
    while found.len() < 3 {
        match parser.try_parse(one) {
            Ok(next) => found.push(next),
            Err(_) => break,
        }
    }
    if let [word] = found.as_slice() {
        return Ok(if word.is("flow") { Value::Keyword("block") } else { word.clone() });
    }
    // Forms of several words (CSS Display 3, section 2) of those that have one word.
    let take = |found: &mut Vec<Value>, words: &[&'static str]| -> Option<&'static str> {
        let at = found.iter().position(|value| words.iter().any(|word| value.is(word)))?;
        match found.remove(at) {
            Value::Keyword(word) => Some(word),
            _ => None,
        }
    };
    let is_item = take(&mut found, &["list-item"]).is_some();
    let outside = take(&mut found, &["block", "inline"]);
    let inside = take(&mut found, &["flow", "flow-root", "flex", "grid", "table", "ruby", "math"]);
    if !found.is_empty() || (outside.is_none() && !is_item) {
        return wrong();
    }
    let is_inline = outside == Some("inline");
    let word = match (is_item, is_inline, inside.unwrap_or("flow")) {
        (true, false, "flow") => "list-item",
        (true, true, "flow" | "flow-root") | (true, false, "flow-root") => return Ok(Value::Unmodelled),
        (true, _, _) => return wrong(),
        (false, false, "flow") => "block",
        (false, true, "flow") => "inline",
        (false, true, "flow-root") => "inline-block",
        (false, true, "flex") => "inline-flex",
        (false, true, "grid") => "inline-grid",
        (false, true, "table") => "inline-table",
        (false, true, "ruby") => "ruby",
        (false, true, "math") => "math",
        (false, false, "flow-root") => "flow-root",
        (false, false, "flex") => "flex",
        (false, false, "grid") => "grid",
        (false, false, "table") => "table",
        _ => return Ok(Value::Unmodelled),
    };
    Ok(Value::Keyword(word))
}

fn lines(parser: &mut Parser) -> ValueResult {
    if parser.try_parse(|p| keyword(p, &["none"])).is_ok() {
        return Ok(Value::Keyword("none"));
    }
    let mut words = Vec::new();
    if let Ok(word) = parser.try_parse(|p| keyword(p, &["spelling-error", "grammar-error"])) {
        return Ok(word);
    }
    while let Ok(word) = parser.try_parse(|p| keyword(p, &["underline", "overline", "line-through", "blink"])) {
        words.push(word);
    }
    // Written in the order of the standard, each once.
    let all = ["underline", "overline", "line-through", "blink"];
    let sorted: Vec<Value> =
        all.into_iter().filter(|word| words.iter().any(|w| w.is(word))).map(Value::Keyword).collect();
    if words.is_empty() || sorted.len() != words.len() { wrong() } else { Ok(Value::Words(sorted)) }
}

/// A name, or a string that is one; what a string holds that is no plain word is not modelled.
fn animation_name(parser: &mut Parser) -> ValueResult {
    if let Ok(text) = parser.try_parse(|p| p.expect_string_cloned()) {
        let is_plain = text.chars().all(|c| c.is_ascii_alphanumeric() || matches!(c, '-' | '_'));
        let is_word = ["none", "auto", "all", "inherit", "initial", "unset", "revert", "revert-layer", "default"]
            .iter()
            .any(|word| word.eq_ignore_ascii_case(&text));
        let starts = text.starts_with(|c: char| c.is_ascii_alphabetic());
        return Ok(match is_plain && starts && !is_word {
            true => Value::Ident(text.to_string().into()),
            false => Value::Unmodelled,
        });
    }
    // `auto` is a duration.
    ident(parser, &["none"])
}

/// A length; how lines after the first hang is not modelled.
fn indent(parser: &mut Parser) -> ValueResult {
    let words = |p: &mut Parser| {
        let mut any = false;
        while p.try_parse(|p| keyword(p, &["each-line", "hanging"])).is_ok() {
            any = true;
        }
        any
    };
    let before = words(parser);
    let value = length(parser, true, true, &[])?;
    Ok(if words(parser) || before { Value::Unmodelled } else { value })
}

fn duration(parser: &mut Parser, auto: bool) -> ValueResult {
    if auto && let Ok(word) = parser.try_parse(|p| keyword(p, &["auto"])) {
        return Ok(word);
    }
    match dimension(parser, Quantity::Time)? {
        Value::Dimension(amount, _) if amount < 0.0 => wrong(),
        value => Ok(value),
    }
}

fn list_style(parser: &mut Parser) -> ValueResult {
    if let Ok(text) = parser.try_parse(|p| p.expect_string_cloned()) {
        return Ok(Value::String(text.to_string().into()));
    }
    if parser.try_parse(|p| p.expect_function_matching("symbols")).is_ok() {
        return skip(parser);
    }
    ident(parser, &["none", "disc", "circle", "square", "decimal"])
}

/// A colour, what is painted elsewhere, or an address with what stands in for it (SVG 2, section 13.2).
fn paint(parser: &mut Parser) -> ValueResult {
    if let Ok(word) = parser.try_parse(|p| keyword(p, &["none"])) {
        return Ok(word);
    }
    let is_elsewhere = parser.try_parse(|p| match p.next()?.clone() {
        Token::UnquotedUrl(_) => Ok(()),
        Token::Function(name) if name.eq_ignore_ascii_case("url") => skip(p).map(|_| ()),
        Token::Ident(word) if word.to_ascii_lowercase().starts_with("context-") => Ok(()),
        _ => Err(ParseError::unexpected_token()),
    });
    if is_elsewhere.is_ok() {
        let _ = parser.try_parse(|p| match p.try_parse(|p| keyword(p, &["none"])) {
            Ok(_) => Ok(()),
            Err(_) => color::parse(p).map(|_| ()),
        });
        return Ok(Value::Unmodelled);
    }
    color::parse(parser).map(Value::Color)
}

fn rotate(parser: &mut Parser) -> ValueResult {
    if parser.try_parse(|p| keyword(p, &["none"])).is_ok() {
        return Ok(Value::Keyword("none"));
    }
    let axis = |p: &mut Parser| -> Result<[f64; 3], ParseError<()>> {
        if let Ok(word) = p.try_parse(|p| keyword(p, &["x", "y", "z"])) {
            return Ok([word.is("x"), word.is("y"), word.is("z")].map(|is| f64::from(u8::from(is))));
        }
        let mut numbers = [0.0; 3];
        for number in &mut numbers {
            *number = Primitive::NUMBER.parse(p)?.as_number().ok_or_else(ParseError::unexpected_token)?;
        }
        Ok(numbers)
    };
    let before = parser.try_parse(axis).ok();
    let angle = dimension(parser, Quantity::Angle)?;
    let axis = if before.is_none() { parser.try_parse(axis).ok() } else { before };
    Ok(match axis {
        None => angle,
        Some([x, y, z]) if x == 0.0 && y == 0.0 && z > 0.0 => angle,
        Some([x, y, z]) if y == 0.0 && z == 0.0 && x > 0.0 => Value::Words(vec![Value::Keyword("x"), angle]),
        Some([x, y, z]) if x == 0.0 && z == 0.0 && y > 0.0 => Value::Words(vec![Value::Keyword("y"), angle]),
        Some(axis) => Value::Words(axis.map(Value::Number).into_iter().chain([angle]).collect()),
    })
}

fn cursor(parser: &mut Parser) -> ValueResult {
    let mut pictures = false;
    while parser.try_parse(|p| p.expect_url()).is_ok() {
        while parser.try_parse(|p| Primitive::NUMBER.parse(p)).is_ok() {}
        parser.expect_comma()?;
        pictures = true;
    }
    let word = keyword(parser, words::CURSORS)?;
    Ok(if pictures { Value::Unmodelled } else { word })
}

/// One word, or several, written in the order of the list. Words before the first pan stand alone.
fn some_of(parser: &mut Parser, words: &'static [&'static str]) -> ValueResult {
    let mut found = vec![keyword(parser, words)?];
    while let Ok(next) = parser.try_parse(|p| keyword(p, words)) {
        found.push(next);
    }
    if found.len() == 1 {
        return Ok(found.remove(0));
    }
    let alone = ["none", "auto", "manipulation", "normal", "full-width", "full-size-kana", "math-auto"];
    let sorted: Vec<Value> =
        words.iter().filter(|word| found.iter().any(|w| w.is(word))).map(|word| Value::Keyword(word)).collect();
    // Rows are what is filled where nothing else is said.
    if found.len() == 2 && found.iter().any(|w| w.is("row")) && found.iter().any(|w| w.is("dense")) {
        return Ok(Value::Keyword("dense"));
    }
    if sorted.len() != found.len() || found.iter().any(|word| alone.iter().any(|a| word.is(a))) {
        return wrong();
    }
    Ok(Value::Words(sorted))
}

fn scale(parser: &mut Parser) -> ValueResult {
    if parser.try_parse(|p| keyword(p, &["none"])).is_ok() {
        return Ok(Value::Keyword("none"));
    }
    let factor = |p: &mut Parser| -> ValueResult {
        if let Ok(share) = p.try_parse(|p| p.expect_percentage()) {
            return Ok(Value::Number(f64::from(share)));
        }
        Primitive::NumberPercentage.parse(p)
    };
    let mut numbers = vec![factor(parser)?];
    while numbers.len() < 3 {
        match parser.try_parse(factor) {
            Ok(number) => numbers.push(number),
            Err(_) => break,
        }
    }
    Ok(Value::Words(numbers))
}

fn translate(parser: &mut Parser) -> ValueResult {
    if parser.try_parse(|p| keyword(p, &["none"])).is_ok() {
        return Ok(Value::Keyword("none"));
    }
    let mut lengths = vec![TRANSLATION.parse(parser)?];
    while lengths.len() < 3 {
        match parser.try_parse(|p| TRANSLATION.parse(p)) {
            Ok(length) => lengths.push(length),
            Err(_) => break,
        }
    }
    Ok(Value::Words(lengths))
}
