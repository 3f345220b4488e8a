//! Shorthands: which longhands they set, and how their values are taken apart.

use super::grammar::Grammar;
use super::parse::{Expanded, Target, parse_grammar};
use super::primitive::Primitive;
use super::property::{Flow, Longhand, Longhand as L, PropertyName};
use super::value::Value;
use cssparser::{ParseError, Parser, Token};

/// How a shorthand's value is taken apart.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
enum Form {
    /// One to four values: top, right, bottom, left.
    Sides,
    /// One or two values: start, end.
    Pair,
    /// Any order, each at most once; what is missing is initial.
    AnyOrder,
    /// `border`: any order, for all four sides.
    Border,
    Radius,
    Position,
    Background,
    Flex,
    Font,
    /// `align` then `justify`.
    Place,
    Transition,
    Animation,
    WhiteSpace,
    /// Any order; one `none` is for the type and the image.
    ListStyle,
    /// Any order; `auto` may stand for either.
    Columns,
    /// A name, and a type after a slash.
    Container,
    BorderImage,
    FontSynthesis,
    FontVariant,
    /// Lines between slashes.
    GridLines,
    GridTemplate,
    Grid,
    Mask,
}

/// A shorthand property.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub struct Shorthand {
    name: &'static str,
    form: Form,
    longhands: &'static [&'static str],
}

macro_rules! shorthands {
    ($($name:literal $form:ident $longhands:expr;)*) => {
        pub(super) static SHORTHANDS: &[Shorthand] =
            &[$(Shorthand { name: $name, form: Form::$form, longhands: &$longhands }),*];
    };
}

const BACKGROUND: [&str; 9] = [
    "background-color",
    "background-image",
    "background-position-x",
    "background-position-y",
    "background-size",
    "background-repeat",
    "background-attachment",
    "background-origin",
    "background-clip",
];

shorthands! {
    "animation" Animation ["animation-duration", "animation-timing-function", "animation-delay", "animation-iteration-count", "animation-direction", "animation-fill-mode", "animation-play-state", "animation-name"];
    "background" Background BACKGROUND;
    "background-position" Position ["background-position-x", "background-position-y"];
    "border" Border ["border-top-width", "border-right-width", "border-bottom-width", "border-left-width", "border-top-style", "border-right-style", "border-bottom-style", "border-left-style", "border-top-color", "border-right-color", "border-bottom-color", "border-left-color", "border-image-source", "border-image-slice", "border-image-width", "border-image-outset", "border-image-repeat"];
    "border-block" Border ["border-block-start-width", "border-block-end-width", "border-block-start-style", "border-block-end-style", "border-block-start-color", "border-block-end-color"];
    "border-block-color" Pair ["border-block-start-color", "border-block-end-color"];
    "border-block-style" Pair ["border-block-start-style", "border-block-end-style"];
    "border-block-width" Pair ["border-block-start-width", "border-block-end-width"];
    "border-block-start" AnyOrder ["border-block-start-width", "border-block-start-style", "border-block-start-color"];
    "border-block-end" AnyOrder ["border-block-end-width", "border-block-end-style", "border-block-end-color"];
    "border-bottom" AnyOrder ["border-bottom-width", "border-bottom-style", "border-bottom-color"];
    "border-color" Sides ["border-top-color", "border-right-color", "border-bottom-color", "border-left-color"];
    "border-image" BorderImage ["border-image-source", "border-image-slice", "border-image-width", "border-image-outset", "border-image-repeat"];
    "border-inline" Border ["border-inline-start-width", "border-inline-end-width", "border-inline-start-style", "border-inline-end-style", "border-inline-start-color", "border-inline-end-color"];
    "border-inline-color" Pair ["border-inline-start-color", "border-inline-end-color"];
    "border-inline-style" Pair ["border-inline-start-style", "border-inline-end-style"];
    "border-inline-width" Pair ["border-inline-start-width", "border-inline-end-width"];
    "border-inline-start" AnyOrder ["border-inline-start-width", "border-inline-start-style", "border-inline-start-color"];
    "border-inline-end" AnyOrder ["border-inline-end-width", "border-inline-end-style", "border-inline-end-color"];
    "border-left" AnyOrder ["border-left-width", "border-left-style", "border-left-color"];
    "border-radius" Radius ["border-top-left-radius", "border-top-right-radius", "border-bottom-right-radius", "border-bottom-left-radius"];
    "border-right" AnyOrder ["border-right-width", "border-right-style", "border-right-color"];
    "border-spacing" Pair ["-webkit-border-horizontal-spacing", "-webkit-border-vertical-spacing"];
    "border-style" Sides ["border-top-style", "border-right-style", "border-bottom-style", "border-left-style"];
    "border-top" AnyOrder ["border-top-width", "border-top-style", "border-top-color"];
    "border-width" Sides ["border-top-width", "border-right-width", "border-bottom-width", "border-left-width"];
    "column-rule" AnyOrder ["column-rule-width", "column-rule-style", "column-rule-color"];
    "columns" Columns ["column-width", "column-count"];
    "contain-intrinsic-size" Pair ["contain-intrinsic-width", "contain-intrinsic-height"];
    "container" Container ["container-name", "container-type"];
    "flex" Flex ["flex-grow", "flex-shrink", "flex-basis"];
    "flex-flow" AnyOrder ["flex-direction", "flex-wrap"];
    "font" Font ["font-style", "font-weight", "font-size", "line-height", "font-family", "font-stretch", "font-variant-caps", "font-variant-numeric", "font-variant-position", "font-feature-settings", "font-kerning", "font-optical-sizing", "font-size-adjust", "font-variation-settings", "font-variant-ligatures", "font-variant-east-asian", "font-variant-alternates", "font-variant-emoji"];
    "font-synthesis" FontSynthesis ["font-synthesis-weight", "font-synthesis-style", "font-synthesis-small-caps"];
    "font-variant" FontVariant ["font-variant-ligatures", "font-variant-caps", "font-variant-alternates", "font-variant-numeric", "font-variant-east-asian", "font-variant-position", "font-variant-emoji"];
    "gap" Pair ["row-gap", "column-gap"];
    "grid" Grid ["grid-template-rows", "grid-template-columns", "grid-template-areas", "grid-auto-flow", "grid-auto-rows", "grid-auto-columns"];
    "grid-area" GridLines ["grid-row-start", "grid-column-start", "grid-row-end", "grid-column-end"];
    "grid-column" GridLines ["grid-column-start", "grid-column-end"];
    "grid-row" GridLines ["grid-row-start", "grid-row-end"];
    "grid-template" GridTemplate ["grid-template-rows", "grid-template-columns", "grid-template-areas"];
    "grid-gap" Pair ["row-gap", "column-gap"];
    "inset" Sides ["top", "right", "bottom", "left"];
    "inset-block" Pair ["inset-block-start", "inset-block-end"];
    "inset-inline" Pair ["inset-inline-start", "inset-inline-end"];
    "list-style" ListStyle ["list-style-position", "list-style-image", "list-style-type"];
    "margin" Sides ["margin-top", "margin-right", "margin-bottom", "margin-left"];
    "margin-block" Pair ["margin-block-start", "margin-block-end"];
    "margin-inline" Pair ["margin-inline-start", "margin-inline-end"];
    "mask" Mask ["mask-image", "-webkit-mask-position-x", "-webkit-mask-position-y", "mask-size", "mask-repeat", "mask-origin", "mask-clip", "mask-composite", "mask-mode"];
    "mask-position" Position ["-webkit-mask-position-x", "-webkit-mask-position-y"];
    "-webkit-mask-position" Position ["-webkit-mask-position-x", "-webkit-mask-position-y"];
    "outline" AnyOrder ["outline-width", "outline-style", "outline-color"];
    "overscroll-behavior" Pair ["overscroll-behavior-x", "overscroll-behavior-y"];
    "overflow" Pair ["overflow-x", "overflow-y"];
    "padding" Sides ["padding-top", "padding-right", "padding-bottom", "padding-left"];
    "padding-block" Pair ["padding-block-start", "padding-block-end"];
    "padding-inline" Pair ["padding-inline-start", "padding-inline-end"];
    "place-content" Place ["align-content", "justify-content"];
    "place-items" Place ["align-items", "justify-items"];
    "place-self" Place ["align-self", "justify-self"];
    "scroll-margin" Sides ["scroll-margin-top", "scroll-margin-right", "scroll-margin-bottom", "scroll-margin-left"];
    "scroll-margin-block" Pair ["scroll-margin-block-start", "scroll-margin-block-end"];
    "scroll-margin-inline" Pair ["scroll-margin-inline-start", "scroll-margin-inline-end"];
    "scroll-padding" Sides ["scroll-padding-top", "scroll-padding-right", "scroll-padding-bottom", "scroll-padding-left"];
    "scroll-padding-block" Pair ["scroll-padding-block-start", "scroll-padding-block-end"];
    "scroll-padding-inline" Pair ["scroll-padding-inline-start", "scroll-padding-inline-end"];
    "text-decoration" AnyOrder ["text-decoration-line", "text-decoration-style", "text-decoration-color", "text-decoration-thickness"];
    "-webkit-text-stroke" AnyOrder ["-webkit-text-stroke-width", "-webkit-text-stroke-color"];
    "text-wrap" AnyOrder ["text-wrap-mode", "text-wrap-style"];
    "transition" Transition ["transition-property", "transition-duration", "transition-timing-function", "transition-delay", "transition-behavior"];
    "white-space" WhiteSpace ["white-space-collapse", "text-wrap-mode"];
}

type ValueResult = Result<Vec<Expanded>, ParseError<()>>;

impl Shorthand {
    /// Its name.
    pub fn name(&self) -> &'static str {
        self.name
    }

    /// The names of what it sets.
    pub fn longhand_names(&self) -> impl Iterator<Item = &'static str> {
        self.longhands.iter().copied()
    }

    /// What it sets, physical or logical.
    pub fn targets(&self) -> impl Iterator<Item = Target> + '_ {
        self.longhands.iter().map(|name| target(name))
    }

    /// Takes a value apart; the parser must be at its end afterwards.
    pub(super) fn parse(&self, parser: &mut Parser) -> ValueResult {
        let targets: Vec<Target> = self.targets().collect();
        match self.form {
            Form::Sides => sides(&targets, parser),
            Form::Pair => pair(&targets, parser),
            Form::AnyOrder => any_order(&targets, parser),
            Form::Border => border(&targets, parser),
            Form::Radius => radius(&targets, parser),
            Form::Position => position(&targets, parser, self.name != "mask-position"),
            Form::Background => background(parser),
            Form::Flex => flex(parser),
            Form::Font => font(parser),
            Form::Place => place(&targets, parser),
            Form::Transition => layered(&targets, parser, L::TransitionProperty),
            Form::Animation => layered(&targets, parser, L::AnimationName),
            Form::WhiteSpace => white_space(parser),
            Form::ListStyle => list_style(&targets, parser),
            Form::Columns => columns(&targets, parser),
            Form::Container => container(&targets, parser),
            Form::BorderImage => super::border_image::shorthand(&targets, parser),
            Form::FontSynthesis => super::font::synthesis(parser),
            Form::FontVariant => super::font::variant(&targets, parser),
            Form::GridLines => super::grid::lines(&targets, parser),
            Form::GridTemplate => super::grid::template(parser),
            Form::Grid => super::grid::shorthand(parser),
            Form::Mask => super::mask::shorthand(&targets, parser),
        }
    }
}

fn target(name: &str) -> Target {
    match PropertyName::read(name) {
        PropertyName::Longhand(longhand) => Target::Physical(longhand),
        PropertyName::Logical(logical) => Target::Logical(logical),
        _ => unreachable!("the table of shorthands names longhands only: {name}"),
    }
}

fn one(target: Target, parser: &mut Parser) -> Result<Value, ParseError<()>> {
    let grammar = target.physical(Flow::LTR).grammar();
    match grammar {
        Grammar::Keywords(_) => of_one_vendor(parser, |p| parse_grammar(grammar, p)),
        _ => parse_grammar(grammar, parser),
    }
}

/// A word of one vendor that is not modelled may be any property's, or a name of the author's: among several it is nobody's.
fn of_one_vendor(
    parser: &mut Parser,
    read: impl Fn(&mut Parser) -> Result<Value, ParseError<()>>,
) -> Result<Value, ParseError<()>> {
    let state = parser.state();
    let is_word = matches!(parser.next(), Ok(Token::Ident(word)) if word.starts_with('-'));
    parser.reset(&state);
    match read(parser)? {
        Value::Unmodelled if is_word => Err(ParseError::unexpected_token()),
        value => Ok(value),
    }
}

fn sides(targets: &[Target], parser: &mut Parser) -> ValueResult {
    let mut values = vec![one(targets[0], parser)?];
    while values.len() < 4 {
        match parser.try_parse(|p| one(targets[0], p)) {
            Ok(value) => values.push(value),
            Err(_) => break,
        }
    }
    // Missing sides repeat their opposites (CSS Backgrounds 3, section 3.1).
    let pick = |i: usize| match (i, values.len()) {
        (_, 1) => 0,
        (2, 2) => 0,
        (3, 2 | 3) => 1,
        _ => i,
    };
    Ok(targets.iter().enumerate().map(|(i, target)| (*target, values[pick(i)].clone())).collect())
}

fn pair(targets: &[Target], parser: &mut Parser) -> ValueResult {
    let first = one(targets[0], parser)?;
    let second = match parser.try_parse(|p| one(targets[1], p)) {
        Ok(second) => second,
        Err(_) => first.clone(),
    };
    Ok(vec![(targets[0], first), (targets[1], second)])
}

/// Positions separated by commas; all but one may be of three words.
fn position(targets: &[Target], parser: &mut Parser, may_be_three: bool) -> ValueResult {
    let mut lists = [Vec::new(), Vec::new()];
    parser.parse_comma_separated(|p| {
        let [x, y] = super::position::parse(p, may_be_three)?;
        lists[0].push(x);
        lists[1].push(y);
        Ok::<_, ParseError<()>>(())
    })?;
    Ok(targets.iter().copied().zip(lists.map(Value::List)).collect())
}

/// One position: one to four words and lengths.
fn one_position(parser: &mut Parser) -> Result<[Value; 2], ParseError<()>> {
    super::position::parse(parser, true)
}

/// Each longhand at most once, in any order; at least one.
fn any_order(targets: &[Target], parser: &mut Parser) -> ValueResult {
    let mut values: Vec<Option<Value>> = vec![None; targets.len()];
    let mut found = false;
    while !parser.is_exhausted() {
        let mut matched = false;
        for (i, target) in targets.iter().enumerate() {
            if values[i].is_none()
                && let Ok(value) = parser.try_parse(|p| one(*target, p))
            {
                values[i] = Some(value);
                (matched, found) = (true, true);
                break;
            }
        }
        if !matched {
            return Err(ParseError::unexpected_token());
        }
    }
    if !found {
        return Err(ParseError::unexpected_token());
    }
    Ok(targets.iter().zip(values).map(|(target, value)| (*target, value.unwrap_or_else(|| initial(*target)))).collect())
}

/// CSS Lists 3, section 3.4: a `none` is for whichever of type and image is not given.
fn list_style(targets: &[Target], parser: &mut Parser) -> ValueResult {
    let mut values: Vec<Option<Value>> = vec![None; targets.len()];
    let mut nones = 0;
    while !parser.is_exhausted() {
        if parser.try_parse(|p| p.expect_ident_matching("none")).is_ok() {
            nones += 1;
            continue;
        }
        let open = (0..targets.len()).filter(|i| values[*i].is_none());
        let found = open.into_iter().find_map(|i| Some((i, parser.try_parse(|p| one(targets[i], p)).ok()?)));
        let Some((i, value)) = found else { return Err(ParseError::unexpected_token()) };
        values[i] = Some(value);
    }
    let free = values[1..].iter().filter(|value| value.is_none()).count();
    if nones > free || (nones == 0 && values.iter().all(Option::is_none)) {
        return Err(ParseError::unexpected_token());
    }
    if nones > 0 {
        values[1..].iter_mut().for_each(|value| {
            value.get_or_insert(Value::Keyword("none"));
        });
    }
    Ok(targets.iter().zip(values).map(|(target, value)| (*target, value.unwrap_or_else(|| initial(*target)))).collect())
}

fn columns(targets: &[Target], parser: &mut Parser) -> ValueResult {
    let mut values: Vec<Option<Value>> = vec![None; 2];
    let mut autos = 0;
    while !parser.is_exhausted() {
        let state = parser.state();
        let is_over = parser.expect_delim('/').is_ok();
        parser.reset(&state);
        if is_over {
            break;
        }
        if parser.try_parse(|p| p.expect_ident_matching("auto")).is_ok() {
            autos += 1;
            continue;
        }
        let open = (0..2).filter(|i| values[*i].is_none());
        let found = open.into_iter().find_map(|i| Some((i, parser.try_parse(|p| one(targets[i], p)).ok()?)));
        let Some((i, value)) = found else { return Err(ParseError::unexpected_token()) };
        values[i] = Some(value);
    }
    let given = values.iter().flatten().count();
    // The height of columns is not modelled.
    if parser.try_parse(|p| p.expect_delim('/')).is_ok() {
        const HEIGHT: Primitive = Primitive::Length { percent: false, negative: false, keywords: &["auto"] };
        HEIGHT.parse(parser)?;
    }
    if autos + given > 2 || autos + given == 0 {
        return Err(ParseError::unexpected_token());
    }
    Ok(targets.iter().zip(values).map(|(target, value)| (*target, value.unwrap_or(Value::Keyword("auto")))).collect())
}

fn container(targets: &[Target], parser: &mut Parser) -> ValueResult {
    let name = one(targets[0], parser)?;
    let kind = match parser.try_parse(|p| p.expect_delim('/')) {
        Ok(()) => one(targets[1], parser)?,
        Err(_) => Value::Keyword("normal"),
    };
    Ok(vec![(targets[0], name), (targets[1], kind)])
}

fn initial(target: Target) -> Value {
    super::compute::initial_declared(target.physical(Flow::LTR))
}

fn border(targets: &[Target], parser: &mut Parser) -> ValueResult {
    let sides = if targets.len() > 6 { 4 } else { 2 };
    let three = [targets[0], targets[sides], targets[2 * sides]];
    let values = any_order(&three, parser)?;
    let mut expanded: Vec<Expanded> =
        targets[..3 * sides].iter().enumerate().map(|(i, target)| (*target, values[i / sides].1.clone())).collect();
    expanded.extend(targets[3 * sides..].iter().map(|target| (*target, initial(*target))));
    Ok(expanded)
}

fn radius(targets: &[Target], parser: &mut Parser) -> ValueResult {
    let length = |p: &mut Parser| Primitive::CORNER.parse(p);
    let list = |parser: &mut Parser| -> Result<[Value; 4], ParseError<()>> {
        let mut values = vec![length(parser)?];
        while values.len() < 4 {
            match parser.try_parse(length) {
                Ok(value) => values.push(value),
                Err(_) => break,
            }
        }
        let at = |i: usize| values.get(i).cloned();
        let first = values[0].clone();
        let second = at(1).unwrap_or_else(|| first.clone());
        let third = at(2).unwrap_or_else(|| first.clone());
        let fourth = at(3).unwrap_or_else(|| second.clone());
        Ok([first, second, third, fourth])
    };
    let horizontal = list(parser)?;
    let vertical = if parser.try_parse(|p| p.expect_delim('/')).is_ok() { list(parser)? } else { horizontal.clone() };
    let corners = horizontal.into_iter().zip(vertical);
    Ok(targets.iter().zip(corners).map(|(target, (h, v))| (*target, Value::Words(vec![h, v]))).collect())
}

fn place(targets: &[Target], parser: &mut Parser) -> ValueResult {
    let align = one(targets[0], parser)?;
    let justify = match parser.try_parse(|p| one(targets[1], p)) {
        Ok(justify) => justify,
        // Content is not justified by baselines (CSS Box Alignment 3, section 5.3).
        Err(_) if targets[1] == Target::Physical(L::JustifyContent) && align.is("baseline") => Value::Keyword("start"),
        Err(_)
            if targets[1] == Target::Physical(L::JustifyContent)
                && matches!(&align, Value::Words(words) if words[1].is("baseline")) =>
        {
            return Err(ParseError::unexpected_token());
        }
        Err(_) => align.clone(),
    };
    Ok(vec![(targets[0], align), (targets[1], justify)])
}

fn flex(parser: &mut Parser) -> ValueResult {
    let set = |grow: Value, shrink: Value, basis: Value| {
        Ok(vec![
            (Target::Physical(L::FlexGrow), grow),
            (Target::Physical(L::FlexShrink), shrink),
            (Target::Physical(L::FlexBasis), basis),
        ])
    };
    let zero_percent = || Value::Length(super::value::LengthPercentage::percent(0.0));
    if parser.try_parse(|p| p.expect_ident_matching("none")).is_ok() {
        return set(Value::Number(0.0), Value::Number(0.0), Value::Keyword("auto"));
    }
    let (mut grow, mut shrink, mut basis) = (None, None, None);
    while !parser.is_exhausted() {
        // A number is growth before it is a basis, so that `flex: 0` does not mean a basis of zero.
        if grow.is_none()
            && let Ok(number) = parser.try_parse(|p| one(Target::Physical(L::FlexGrow), p))
        {
            grow = Some(number);
            if let Ok(number) = parser.try_parse(|p| one(Target::Physical(L::FlexShrink), p)) {
                shrink = Some(number);
            }
        } else if basis.is_none() {
            // Functions that are not modelled stand in the longhand alone.
            basis = match one(Target::Physical(L::FlexBasis), parser)? {
                Value::Unmodelled => return Err(ParseError::unexpected_token()),
                value => Some(value),
            };
        } else {
            return Err(ParseError::unexpected_token());
        }
    }
    if grow.is_none() && basis.is_none() {
        return Err(ParseError::unexpected_token());
    }
    let one = Value::Number(1.0);
    set(grow.unwrap_or_else(|| one.clone()), shrink.unwrap_or(one), basis.unwrap_or_else(zero_percent))
}

fn font(parser: &mut Parser) -> ValueResult {
    const SYSTEM: [&str; 6] = ["caption", "icon", "menu", "message-box", "small-caption", "status-bar"];
    if SYSTEM.iter().any(|word| parser.try_parse(|p| p.expect_ident_matching(word)).is_ok()) {
        // Which font that is, the platform says.
        let all = FONT_SET.iter().chain(FONT_RESET);
        return Ok(all.map(|name| (Target::Physical(*name), Value::Unmodelled)).collect());
    }
    let mut words: [Option<Value>; 4] = Default::default();
    let mut normals = 0;
    // The size ends the optional words; numbers before it are weights.
    loop {
        if parser.try_parse(|p| p.expect_ident_matching("normal")).is_ok() {
            normals += 1;
            continue;
        }
        let caps = |p: &mut Parser| p.expect_ident_matching("small-caps").map(|()| Value::Keyword("small-caps"));
        if words[0].is_none()
            && let Ok(value) = parser.try_parse(|p| one(Target::Physical(L::FontStyle), p))
        {
            words[0] = Some(value);
        } else if words[1].is_none()
            && let Ok(value) = parser.try_parse(|p| one(Target::Physical(L::FontWeight), p))
        {
            words[1] = Some(value);
        } else if words[2].is_none()
            && let Ok(value) = parser.try_parse(super::font::font_width)
        {
            words[2] = Some(value);
        } else if words[3].is_none()
            && let Ok(value) = parser.try_parse(caps)
        {
            words[3] = Some(value);
        } else {
            break;
        }
    }
    if normals + words.iter().flatten().count() > 4 {
        return Err(ParseError::unexpected_token());
    }
    let size = one(Target::Physical(L::FontSize), parser)?;
    let line = if parser.try_parse(|p| p.expect_delim('/')).is_ok() {
        one(Target::Physical(L::LineHeight), parser)?
    } else {
        Value::Keyword("normal")
    };
    let family = one(Target::Physical(L::FontFamily), parser)?;
    let [style, weight, width, caps] = words;
    let word = |value: Option<Value>| value.unwrap_or(Value::Keyword("normal"));
    let mut expanded: Vec<Expanded> = FONT_SET
        .iter()
        .map(|name| Target::Physical(*name))
        .zip([word(style), word(weight), size, line, family])
        .collect();
    let reset = FONT_RESET.iter().map(|name| Target::Physical(*name));
    expanded.extend(reset.map(|target| (target, initial(target))));
    for (longhand, value) in [(L::FontStretch, width), (L::FontVariantCaps, caps)] {
        if let (Some(value), Some(slot)) =
            (value, expanded.iter_mut().find(|(target, _)| *target == Target::Physical(longhand)))
        {
            slot.1 = value;
        }
    }
    Ok(expanded)
}

/// What `font` sets to what is written in it.
const FONT_SET: &[Longhand] = &[L::FontStyle, L::FontWeight, L::FontSize, L::LineHeight, L::FontFamily];
/// What `font` sets to its initial value, or to a word (CSS Fonts 4, section 2.7).
const FONT_RESET: &[Longhand] = &[
    L::FontStretch,
    L::FontVariantCaps,
    L::FontVariantNumeric,
    L::FontVariantPosition,
    L::FontFeatureSettings,
    L::FontKerning,
    L::FontOpticalSizing,
    L::FontSizeAdjust,
    L::FontVariationSettings,
    L::FontVariantLigatures,
    L::FontVariantEastAsian,
    L::FontVariantAlternates,
    L::FontVariantEmoji,
];

fn white_space(parser: &mut Parser) -> ValueResult {
    match parser.try_parse(|p| p.parse_entirely(white_space_of_old)) {
        Ok(found) => Ok(found),
        // What is collapsed, and whether lines wrap (CSS Text 4, section 3.1).
        Err(_) => any_order(&[Target::Physical(L::WhiteSpaceCollapse), Target::Physical(L::TextWrapMode)], parser),
    }
}

fn white_space_of_old(parser: &mut Parser) -> ValueResult {
    let word = parser.expect_ident()?.to_ascii_lowercase();
    let (collapse, wrap) = match word.as_str() {
        "normal" | "wrap" | "collapse" => ("collapse", "wrap"),
        "nowrap" => ("collapse", "nowrap"),
        "pre" => ("preserve", "nowrap"),
        "pre-wrap" | "preserve" => ("preserve", "wrap"),
        "pre-line" => ("preserve-breaks", "wrap"),
        "break-spaces" => ("break-spaces", "wrap"),
        _ => return Err(ParseError::unexpected_token()),
    };
    Ok(vec![
        (Target::Physical(L::WhiteSpaceCollapse), Value::Keyword(collapse)),
        (Target::Physical(L::TextWrapMode), Value::Keyword(wrap)),
    ])
}

/// `transition` and `animation`: layers separated by commas, each with its words in any order.
fn layered(targets: &[Target], parser: &mut Parser, name: Longhand) -> ValueResult {
    let mut lists: Vec<Vec<Value>> = vec![Vec::new(); targets.len()];
    parser.parse_comma_separated(|p| {
        let mut values: Vec<Option<Value>> = vec![None; targets.len()];
        while !p.is_exhausted() {
            let mut matched = false;
            for (i, target) in targets.iter().enumerate() {
                // A name matches almost any word: it comes last.
                let is_name = *target == Target::Physical(name);
                let other_left = is_name
                    && targets.iter().enumerate().any(|(j, other)| {
                        *other != *target && values[j].is_none() && {
                            let state = p.state();
                            let fits = first_of(*other, p).is_ok();
                            p.reset(&state);
                            fits
                        }
                    });
                if values[i].is_none()
                    && !other_left
                    && let Ok(value) = p.try_parse(|p| first_of(*target, p))
                {
                    values[i] = Some(value);
                    matched = true;
                    break;
                }
            }
            if !matched {
                return Err(ParseError::unexpected_token());
            }
        }
        for (i, value) in values.into_iter().enumerate() {
            lists[i].push(value.unwrap_or_else(|| match initial(targets[i]) {
                Value::List(mut items) => items.remove(0),
                other => other,
            }));
        }
        Ok::<_, ParseError<()>>(())
    })?;
    Ok(targets.iter().copied().zip(lists.into_iter().map(Value::List)).collect())
}

/// One item of a list-valued longhand.
pub(super) fn first_of(target: Target, parser: &mut Parser) -> Result<Value, ParseError<()>> {
    let value = parse_grammar(target.physical(Flow::LTR).grammar().item(), parser)?;
    // A word that is not modelled is a name before it is anything else.
    if value == Value::Unmodelled && matches!(target.physical(Flow::LTR).grammar().item(), Grammar::Keywords(_)) {
        return Err(ParseError::unexpected_token());
    }
    Ok(value)
}

fn background(parser: &mut Parser) -> ValueResult {
    let names = [
        L::BackgroundImage,
        L::BackgroundPositionX,
        L::BackgroundPositionY,
        L::BackgroundSize,
        L::BackgroundRepeat,
        L::BackgroundAttachment,
        L::BackgroundOrigin,
        L::BackgroundClip,
    ];
    let mut color = None;
    let mut lists: Vec<Vec<Value>> = vec![Vec::new(); names.len()];
    parser.parse_comma_separated(|p| {
        if color.is_some() {
            // The colour belongs to the last layer.
            return Err(ParseError::unexpected_token());
        }
        let mut layer: Vec<Option<Value>> = vec![None; names.len()];
        while !p.is_exhausted() {
            background_word(p, &mut layer, &mut color)?;
        }
        if layer[7].is_none() {
            layer[7] = layer[6].clone();
        }
        for (i, value) in layer.into_iter().enumerate() {
            lists[i].push(value.unwrap_or_else(|| match initial(Target::Physical(names[i])) {
                Value::List(mut items) => items.remove(0),
                other => other,
            }));
        }
        Ok::<_, ParseError<()>>(())
    })?;
    let mut expanded: Vec<Expanded> =
        names.into_iter().map(Target::Physical).zip(lists.into_iter().map(Value::List)).collect();
    expanded.push((
        Target::Physical(L::BackgroundColor),
        color.unwrap_or_else(|| initial(Target::Physical(L::BackgroundColor))),
    ));
    Ok(expanded)
}

fn background_word(
    p: &mut Parser,
    layer: &mut [Option<Value>],
    color: &mut Option<Value>,
) -> Result<(), ParseError<()>> {
    let item = |longhand: L, p: &mut Parser| first_of(Target::Physical(longhand), p);
    if color.is_none()
        && let Ok(value) = p.try_parse(|p| one(Target::Physical(L::BackgroundColor), p))
    {
        *color = Some(value);
        return Ok(());
    }
    for (i, longhand) in [(4, L::BackgroundRepeat), (5, L::BackgroundAttachment)] {
        if layer[i].is_none()
            && let Ok(value) = p.try_parse(|p| item(longhand, p))
        {
            layer[i] = Some(value);
            return Ok(());
        }
    }
    for i in [6, 7] {
        if layer[i].is_none()
            && let Ok(value) = p.try_parse(|p| item(L::BackgroundOrigin, p))
        {
            layer[i] = Some(value);
            return Ok(());
        }
    }
    // Text and the border's area are for the clip alone; the latter begins at the border as well.
    if layer[7].is_none()
        && let Ok(value) = p.try_parse(|p| item(L::BackgroundClip, p))
    {
        if value.is("border-area") && layer[6].is_none() {
            layer[6] = Some(Value::Keyword("border-box"));
        }
        layer[7] = Some(value);
        return Ok(());
    }
    if layer[1].is_none()
        && let Ok([x, y]) = p.try_parse(one_position)
    {
        layer[1] = Some(x);
        layer[2] = Some(y);
        if p.try_parse(|p| p.expect_delim('/')).is_ok() {
            layer[3] = Some(item(L::BackgroundSize, p)?);
        }
        return Ok(());
    }
    if layer[0].is_none()
        && let Ok(value) = p.try_parse(|p| item(L::BackgroundImage, p))
    {
        layer[0] = Some(value);
        return Ok(());
    }
    Err(ParseError::unexpected_token())
}
