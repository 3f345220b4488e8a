//! Images in place of borders (CSS Backgrounds 3, section 5).

use super::calc::ResultType;
use super::parse::{Expanded, Target, parse_grammar};
use super::primitive::{Primitive, ValueResult, keyword, length, wrong};
use super::property::{Flow, Longhand as L};
use super::value::{LengthPercentage, Value};
use cssparser::{ParseError, Parser};

const NUMBER: Primitive = Primitive::NumberOr { keywords: &[], min: 0.0 };

/// `border-image-slice`: one to four numbers or percentages, and whether the middle is kept.
pub(super) fn slice(parser: &mut Parser) -> ValueResult {
    let fill = |p: &mut Parser| p.try_parse(|p| keyword(p, &["fill"])).ok();
    let before = fill(parser);
    let mut words = up_to_four(parser, |p| match p.try_parse(|p| NUMBER.parse(p)) {
        Ok(number) => Ok(number),
        Err(_) => match length(p, true, false, &[])? {
            value @ Value::Length(LengthPercentage { has_percent: true, .. }) => Ok(value),
            Value::Calc(tree) if tree.kind() == Some(ResultType::Percentage) => Ok(Value::Calc(tree)),
            _ => wrong(),
        },
    })?;
    words.extend(before.or_else(|| fill(parser)));
    Ok(words_or_one(words))
}

/// `border-image-width`: one to four lengths, percentages, multiples of the border, or `auto`.
pub(super) fn width(parser: &mut Parser) -> ValueResult {
    up_to_four(parser, |p| match p.try_parse(|p| NUMBER.parse(p)) {
        Ok(number) => Ok(number),
        Err(_) => no_function(length(p, true, false, &["auto"])?),
    })
    .map(words_or_one)
}

/// `border-image-outset`: one to four lengths or multiples of the border.
pub(super) fn outset(parser: &mut Parser) -> ValueResult {
    up_to_four(parser, |p| match p.try_parse(|p| NUMBER.parse(p)) {
        Ok(number) => Ok(number),
        Err(_) => length(p, false, false, &[]),
    })
    .map(words_or_one)
}

/// `border-image-repeat`: how it is fitted, along and across.
pub(super) fn repeat(parser: &mut Parser) -> ValueResult {
    static HOW: [&str; 4] = ["stretch", "repeat", "round", "space"];
    let first = keyword(parser, &HOW)?;
    Ok(match parser.try_parse(|p| keyword(p, &HOW)) {
        Ok(second) if second != first => Value::Words(vec![first, second]),
        _ => first,
    })
}

/// `border-image`: its parts in any order; width and outset follow the slices after slashes.
pub(super) fn shorthand(targets: &[Target], parser: &mut Parser) -> Result<Vec<Expanded>, ParseError<()>> {
    let of = |longhand: L, p: &mut Parser| parse_grammar(longhand.grammar(), p);
    let [mut source, mut slice, mut width, mut outset, mut repeat] = [const { None::<Value> }; 5];
    while !parser.is_exhausted() {
        if slice.is_none()
            && let Ok(value) = parser.try_parse(|p| of(L::BorderImageSlice, p))
        {
            slice = Some(value);
            if parser.try_parse(|p| p.expect_delim('/')).is_ok() {
                width = parser.try_parse(|p| of(L::BorderImageWidth, p)).ok();
                if parser.try_parse(|p| p.expect_delim('/')).is_ok() {
                    outset = Some(of(L::BorderImageOutset, parser)?);
                } else if width.is_none() {
                    return wrong();
                }
            }
        } else if repeat.is_none()
            && let Ok(value) = parser.try_parse(|p| of(L::BorderImageRepeat, p))
        {
            repeat = Some(value);
        } else if source.is_none()
            && let Ok(value) = parser.try_parse(|p| of(L::BorderImageSource, p))
        {
            source = Some(value);
        } else {
            return wrong();
        }
    }
    if [&source, &slice, &repeat].iter().all(|part| part.is_none()) {
        return wrong();
    }
    let values = [source, slice, width, outset, repeat];
    let initial = |target: &Target| super::compute::initial_declared(target.physical(Flow::LTR));
    Ok(targets.iter().zip(values).map(|(target, value)| (*target, value.unwrap_or_else(|| initial(target)))).collect())
}

/// A function that sizes boxes sizes no part of an image.
fn no_function(value: Value) -> ValueResult {
    if value == Value::Unmodelled { wrong() } else { Ok(value) }
}

/// One to four values, those left out that are repeated.
fn up_to_four(parser: &mut Parser, one: impl Fn(&mut Parser) -> ValueResult) -> Result<Vec<Value>, ParseError<()>> {
    let mut list = vec![one(parser)?];
    while list.len() < 4 {
        match parser.try_parse(&one) {
            Ok(value) => list.push(value),
            Err(_) => break,
        }
    }
    for kept in [3, 2, 1] {
        if list.len() == kept + 1 && list[kept] == list[kept.saturating_sub(2)] {
            list.pop();
        }
    }
    Ok(list)
}

fn words_or_one(mut words: Vec<Value>) -> Value {
    if words.len() == 1 { words.remove(0) } else { Value::Words(words) }
}
