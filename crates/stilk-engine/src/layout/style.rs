//! Computed values as the layout library takes them.

use super::Guess;
use crate::cascade::Style;
use crate::css::Unknown;
use crate::css::calc::COMPARED;
use crate::css::property::Longhand as L;
use crate::css::value::{LengthPercentage as Length, Value};
use std::borrow::Cow;
use taffy::prelude::*;
use taffy::{AlignContentKeyword, AlignItemsKeyword, AlignmentSafety, Direction, Overflow, Point};

const MIXED: Unknown = Unknown("a size that is not modelled in a layout");
const NAMED: Unknown = Unknown("a layout of a grid with places that have names");

/// Everything that a box's own values say, but for `display`.
pub fn boxed(style: &Style, guess: Guess, width: f32) -> Result<taffy::Style, Unknown> {
    if !style.is(L::WritingMode, "horizontal-tb") {
        return Err(Unknown("a layout of vertical writing"));
    }
    if !style.is(L::Float, "none") {
        return Err(Unknown("a layout of floats"));
    }
    let reader = Reader { style, guess, width };
    let is_static = style.is(L::Position, "static");
    let is_moved = [L::Transform, L::Translate, L::Rotate, L::Scale, L::Filter].iter().any(|l| !style.is(*l, "none"));
    let inset = |side| if is_static { Ok(LengthPercentageAuto::auto()) } else { reader.auto(side) };
    Ok(taffy::Style {
        box_sizing: if style.is(L::BoxSizing, "border-box") { BoxSizing::BorderBox } else { BoxSizing::ContentBox },
        direction: if style.is(L::Direction, "rtl") { Direction::Rtl } else { Direction::Ltr },
        overflow: Point { x: overflow(style, L::OverflowX), y: overflow(style, L::OverflowY) },
        position: match style.get(L::Position)? {
            Value::Keyword("absolute") => Position::Absolute,
            Value::Keyword("fixed") => return Err(Unknown("a layout of fixed boxes")),
            Value::Keyword("sticky") => Position::Sticky,
            Value::Keyword("static") if !is_moved => Position::Static,
            _ => Position::Relative,
        },
        inset: Rect { left: inset(L::Left)?, right: inset(L::Right)?, top: inset(L::Top)?, bottom: inset(L::Bottom)? },
        size: Size { width: reader.size(L::Width)?, height: reader.size(L::Height)? },
        min_size: Size { width: reader.auto(L::MinWidth)?, height: reader.auto(L::MinHeight)? },
        max_size: Size { width: reader.auto(L::MaxWidth)?, height: reader.auto(L::MaxHeight)? },
        aspect_ratio: ratio(style)?,
        margin: Rect {
            left: reader.auto(L::MarginLeft)?,
            right: reader.auto(L::MarginRight)?,
            top: reader.auto(L::MarginTop)?,
            bottom: reader.auto(L::MarginBottom)?,
        },
        padding: Rect {
            left: reader.plain(L::PaddingLeft)?,
            right: reader.plain(L::PaddingRight)?,
            top: reader.plain(L::PaddingTop)?,
            bottom: reader.plain(L::PaddingBottom)?,
        },
        border: Rect {
            left: reader.plain(L::BorderLeftWidth)?,
            right: reader.plain(L::BorderRightWidth)?,
            top: reader.plain(L::BorderTopWidth)?,
            bottom: reader.plain(L::BorderBottomWidth)?,
        },
        align_self: item(style, L::AlignSelf),
        justify_self: item(style, L::JustifySelf),
        flex_basis: reader.size(L::FlexBasis)?,
        flex_grow: number(style, L::FlexGrow)?,
        flex_shrink: number(style, L::FlexShrink)?,
        grid_row: Line { start: line(style, L::GridRowStart)?, end: line(style, L::GridRowEnd)? },
        grid_column: Line { start: line(style, L::GridColumnStart)?, end: line(style, L::GridColumnEnd)? },
        ..container(style, &reader)?
    })
}

/// What a box says of the boxes in it.
fn container(style: &Style, reader: &Reader) -> Result<taffy::Style, Unknown> {
    if style.is_zoomed() {
        return Err(Unknown("the page is zoomed here"));
    }
    let default = taffy::Style::<String>::DEFAULT;
    let is_grid = ["grid", "inline-grid"].iter().any(|display| style.is(L::Display, display));
    if is_grid && !style.is(L::GridTemplateAreas, "none") {
        return Err(NAMED);
    }
    let tracks = |longhand| if is_grid { tracks(style, longhand) } else { Ok(Vec::new()) };
    let flow = match style.get(L::GridAutoFlow)? {
        Value::Words(words) if words.iter().any(|word| word.is("dense")) => return Err(MIXED),
        Value::Words(words) if words.iter().any(|word| word.is("column")) => GridAutoFlow::Column,
        value if value.is("column") => GridAutoFlow::Column,
        _ => GridAutoFlow::Row,
    };
    Ok(taffy::Style {
        align_items: item(style, L::AlignItems).unwrap_or(AlignItems::NORMAL),
        justify_items: item(style, L::JustifyItems).unwrap_or(AlignItems::NORMAL),
        align_content: content(style, L::AlignContent),
        justify_content: content(style, L::JustifyContent),
        gap: Size { width: reader.gap(L::ColumnGap)?, height: reader.gap(L::RowGap)? },
        flex_direction: match style.get(L::FlexDirection)? {
            Value::Keyword("row-reverse") => FlexDirection::RowReverse,
            Value::Keyword("column") => FlexDirection::Column,
            Value::Keyword("column-reverse") => FlexDirection::ColumnReverse,
            _ => FlexDirection::Row,
        },
        flex_wrap: match style.get(L::FlexWrap)? {
            Value::Keyword("wrap") => FlexWrap::Wrap,
            Value::Keyword("wrap-reverse") => FlexWrap::WrapReverse,
            _ => FlexWrap::NoWrap,
        },
        grid_auto_flow: flow,
        grid_template_columns: tracks(L::GridTemplateColumns)?,
        grid_template_rows: tracks(L::GridTemplateRows)?,
        grid_auto_columns: automatic_tracks(style, L::GridAutoColumns, is_grid)?,
        grid_auto_rows: automatic_tracks(style, L::GridAutoRows, is_grid)?,
        ..default
    })
}

/// What a share of a height is asked for.
const DOWN: [L; 6] = [L::Height, L::MinHeight, L::MaxHeight, L::Top, L::Bottom, L::RowGap];

struct Reader<'r> {
    style: &'r Style,
    guess: Guess,
    /// The room that there is at most, in px.
    width: f32,
}

impl Reader<'_> {
    /// A length in px, or a percentage; of what is both, the sum where the whole is known, else the px and a guess.
    fn length(&self, longhand: L, length: Length) -> (f32, Option<f32>) {
        match length {
            Length { has_percent: true, percent, px: 0.0 } => (0.0, Some((percent / 100.0) as f32)),
            Length { has_percent: true, px, percent } => match self.whole(longhand) {
                Some(whole) => ((px + percent / 100.0 * whole) as f32, None),
                None => (px as f32 + self.guess.natural, None),
            },
            Length { px, .. } => (px as f32, None),
        }
    }

    /// What a percentage is a share of, where values alone say that: a side of the box around that has a fixed size (CSS 2,
    /// section 10.1).
    fn whole(&self, longhand: L) -> Option<f64> {
        let is_down = DOWN.contains(&longhand);
        let is_placed = self.style.is(L::Position, "absolute");
        let is_around = |style: &Style| {
            !is_placed
                || !style.is(L::Position, "static")
                || [L::Transform, L::Translate, L::Rotate, L::Scale, L::Filter].iter().any(|l| !style.is(*l, "none"))
        };
        let around =
            std::iter::successors(self.style.parent(), |style| style.parent()).find(|style| is_around(style))?;
        let [size, least, most] =
            if is_down { [L::Height, L::MinHeight, L::MaxHeight] } else { [L::Width, L::MinWidth, L::MaxWidth] };
        let borders =
            if is_down { [L::BorderTopWidth, L::BorderBottomWidth] } else { [L::BorderLeftWidth, L::BorderRightWidth] };
        let paddings = if is_down { [L::PaddingTop, L::PaddingBottom] } else { [L::PaddingLeft, L::PaddingRight] };
        let may_give_way = around.is_item() != Ok(false) && number(around, L::FlexShrink) != Ok(0.0);
        if around.is(L::Display, "inline") && !around.brings_size() || may_give_way {
            return None;
        }
        let px = |longhand: L| around.px(longhand).ok();
        let sum = |sides: [L; 2]| Some(px(sides[0])? + px(sides[1])?);
        let own = px(size)?;
        let is_limited = px(least).is_some_and(|least| least > own) || px(most).is_some_and(|most| most < own);
        if is_limited {
            return None;
        }
        let content = if around.is(L::BoxSizing, "border-box") { own - sum(borders)? - sum(paddings)? } else { own };
        // What is placed goes by the padding box.
        Some((if is_placed { content + sum(paddings)? } else { content }).max(0.0))
    }

    /// A value; what compares a length with a share of a width is known at both ends only: in no room, and in all there is.
    fn value(&self, longhand: L) -> Result<Cow<'_, Value>, Unknown> {
        match self.style.get(longhand) {
            Err(COMPARED) if !DOWN.contains(&longhand) => {
                let whole = if self.guess.natural == 0.0 { 0.0 } else { f64::from(self.width) };
                self.style.with_whole(longhand, whole).map(Cow::Owned)
            }
            found => found.map(Cow::Borrowed),
        }
    }

    fn auto(&self, longhand: L) -> Result<LengthPercentageAuto, Unknown> {
        Ok(match &*self.value(longhand)? {
            Value::Length(length) => match self.length(longhand, *length) {
                (_, Some(share)) => LengthPercentageAuto::percent(share),
                (px, None) => LengthPercentageAuto::length(px),
            },
            Value::Keyword("auto" | "none" | "normal") => LengthPercentageAuto::auto(),
            // A limit by the content: taken for none once, for a large one the other time.
            _ if self.guess.natural == 0.0 => LengthPercentageAuto::auto(),
            _ => LengthPercentageAuto::length(self.guess.natural),
        })
    }

    fn plain(&self, longhand: L) -> Result<LengthPercentage, Unknown> {
        match &*self.value(longhand)? {
            Value::Length(length) => Ok(match self.length(longhand, *length) {
                (_, Some(share)) => LengthPercentage::percent(share),
                (px, None) => LengthPercentage::length(px),
            }),
            _ => Err(MIXED),
        }
    }

    fn gap(&self, longhand: L) -> Result<LengthPercentage, Unknown> {
        if self.style.is(longhand, "normal") { Ok(LengthPercentage::length(0.0)) } else { self.plain(longhand) }
    }

    fn size(&self, longhand: L) -> Result<Dimension, Unknown> {
        Ok(match &*self.value(longhand)? {
            Value::Length(length) => match self.length(longhand, *length) {
                (_, Some(share)) => Dimension::percent(share),
                (px, None) => Dimension::length(px),
            },
            Value::Keyword("auto") => Dimension::auto(),
            Value::Keyword("min-content") => Dimension::min_content(),
            Value::Keyword("max-content") => Dimension::max_content(),
            Value::Keyword("fit-content") => Dimension::fit_content(),
            Value::Keyword("stretch") => Dimension::stretch(),
            Value::Keyword("content") => Dimension::content(),
            _ => return Err(MIXED),
        })
    }
}

fn number(style: &Style, longhand: L) -> Result<f32, Unknown> {
    style.get(longhand)?.as_number().map(|n| n as f32).ok_or(MIXED)
}

fn overflow(style: &Style, longhand: L) -> Overflow {
    match style.get(longhand) {
        Ok(Value::Keyword("hidden")) => Overflow::Hidden,
        Ok(Value::Keyword("clip")) => Overflow::Clip,
        // Bars that lie over the content take no room, and only such boxes have bars as need them.
        Ok(Value::Keyword("auto" | "scroll")) => Overflow::Hidden,
        _ => Overflow::Visible,
    }
}

fn ratio(style: &Style) -> Result<Option<f32>, Unknown> {
    let words = match style.get(L::AspectRatio)? {
        Value::Words(words) => words,
        _ => return Ok(None),
    };
    let numbers: Vec<f64> = words.iter().filter_map(Value::as_number).collect();
    match numbers.as_slice() {
        [across, down] if *across > 0.0 && *down > 0.0 => Ok(Some((across / down) as f32)),
        _ => Ok(None),
    }
}

/// A place with what is done where there is no room for it.
fn safely(value: &Value) -> (AlignmentSafety, Option<&'static str>) {
    match value {
        Value::Keyword(word) => (AlignmentSafety::Default, Some(word)),
        Value::Words(words) => {
            let safety =
                if words.iter().any(|word| word.is("safe")) { AlignmentSafety::Safe } else { AlignmentSafety::Unsafe };
            let place = words.last().and_then(|word| if let Value::Keyword(word) = word { Some(*word) } else { None });
            (safety, place)
        }
        _ => (AlignmentSafety::Default, None),
    }
}

fn item(style: &Style, longhand: L) -> Option<AlignItems> {
    let (safety, word) = safely(style.get(longhand).ok()?);
    let keyword = match word? {
        "stretch" => AlignItemsKeyword::Stretch,
        "center" | "anchor-center" => AlignItemsKeyword::Center,
        "start" | "left" => AlignItemsKeyword::Start,
        "end" | "right" => AlignItemsKeyword::End,
        "self-start" => AlignItemsKeyword::SelfStart,
        "self-end" => AlignItemsKeyword::SelfEnd,
        "flex-start" => AlignItemsKeyword::FlexStart,
        "flex-end" => AlignItemsKeyword::FlexEnd,
        "baseline" => AlignItemsKeyword::Baseline,
        "normal" | "legacy" => AlignItemsKeyword::Normal,
        _ => return None,
    };
    Some(match keyword {
        AlignItemsKeyword::Stretch => AlignItems::STRETCH,
        AlignItemsKeyword::Center => AlignItems::CENTER,
        AlignItemsKeyword::Start => AlignItems::START,
        AlignItemsKeyword::End => AlignItems::END,
        AlignItemsKeyword::SelfStart => AlignItems::SELF_START,
        AlignItemsKeyword::SelfEnd => AlignItems::SELF_END,
        AlignItemsKeyword::FlexStart => AlignItems::FLEX_START,
        AlignItemsKeyword::FlexEnd => AlignItems::FLEX_END,
        AlignItemsKeyword::Baseline => AlignItems::BASELINE,
        AlignItemsKeyword::Normal => AlignItems::NORMAL,
    })
    .map(|place| place.with_safety(safety))
}

fn content(style: &Style, longhand: L) -> AlignContent {
    let Ok(value) = style.get(longhand) else { return AlignContent::NORMAL };
    let (safety, word) = safely(value);
    let place = match word {
        Some("stretch") => AlignContent::STRETCH,
        Some("center") => AlignContent::CENTER,
        Some("start" | "left") => AlignContent::START,
        Some("end" | "right") => AlignContent::END,
        Some("flex-start") => AlignContent::FLEX_START,
        Some("flex-end") => AlignContent::FLEX_END,
        Some("space-between") => AlignContent::SPACE_BETWEEN,
        Some("space-around") => AlignContent { keyword: AlignContentKeyword::SpaceAround, ..AlignContent::NORMAL },
        Some("space-evenly") => AlignContent { keyword: AlignContentKeyword::SpaceEvenly, ..AlignContent::NORMAL },
        _ => AlignContent::NORMAL,
    };
    place.with_safety(safety)
}

/// The tracks that a grid lists.
fn tracks(style: &Style, longhand: L) -> Result<Vec<GridTemplateComponent<String>>, Unknown> {
    let words = match style.get(longhand)? {
        Value::Keyword("none") => return Ok(Vec::new()),
        Value::Words(words) => words,
        _ => return Err(Unknown("tracks of a grid that are not modelled")),
    };
    let mut list = Vec::new();
    for word in words {
        match word {
            Value::Function("repeat", items) => {
                let [count, Value::Words(tracks)] = items.as_slice() else { return Err(MIXED) };
                let count = count.as_number().ok_or(MIXED)? as usize;
                for _ in 0..count {
                    for each in tracks {
                        list.push(GridTemplateComponent::Single(track(each)?));
                    }
                }
            }
            other => list.push(GridTemplateComponent::Single(track(other)?)),
        }
    }
    Ok(list)
}

fn automatic_tracks(style: &Style, longhand: L, is_grid: bool) -> Result<Vec<TrackSizingFunction>, Unknown> {
    match style.get(longhand)? {
        _ if !is_grid => Ok(Vec::new()),
        Value::Words(words) => words.iter().map(track).collect(),
        _ => Err(MIXED),
    }
}

/// A line of the grid around the box.
fn line(style: &Style, longhand: L) -> Result<GridPlacement, Unknown> {
    let value = style.get(longhand)?;
    // What is placed goes by its area, whose automatic lines are the edges of the grid.
    if !value.is("auto") && style.is(L::Position, "absolute") {
        return Err(MIXED);
    }
    let index = |n: &f64| if n.abs() <= 1000.0 { Ok(*n as i16) } else { Err(MIXED) };
    match value {
        Value::Keyword("auto") => Ok(GridPlacement::Auto),
        Value::Number(n) => Ok(taffy::style_helpers::line(index(n)?)),
        Value::Words(words) => match words.as_slice() {
            [span, Value::Number(n)] if span.is("span") => Ok(GridPlacement::Span(index(n)? as u16)),
            _ => Err(NAMED),
        },
        _ => Err(NAMED),
    }
}

fn track(value: &Value) -> Result<TrackSizingFunction, Unknown> {
    Ok(match value {
        Value::Function("minmax", items) => match items.as_slice() {
            [min, max] => minmax(track(min)?.min_sizing_function(), track(max)?.max_sizing_function()),
            _ => return Err(MIXED),
        },
        Value::Function("fr", items) => fr(items.first().and_then(Value::as_number).ok_or(MIXED)? as f32),
        Value::Length(length) if !length.has_percent => TrackSizingFunction::from_length(length.px as f32),
        Value::Length(length) if length.px == 0.0 => TrackSizingFunction::from_percent((length.percent / 100.0) as f32),
        Value::Keyword("auto") => TrackSizingFunction::AUTO,
        Value::Keyword("min-content") => TrackSizingFunction::MIN_CONTENT,
        Value::Keyword("max-content") => TrackSizingFunction::MAX_CONTENT,
        _ => return Err(MIXED),
    })
}
