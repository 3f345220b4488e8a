//! `<position>` (CSS Values 4, section 8.3): one to four words and lengths, as a value for each axis.

use super::calc::Calc;
use super::primitive::Primitive;
use super::value::{LengthPercentage, Value};
use cssparser::{ParseError, Parser};

const OFFSET: Primitive = Primitive::Length { percent: true, negative: true, keywords: &[] };

#[derive(Clone, PartialEq)]
enum Word {
    Left,
    Right,
    Top,
    Bottom,
    Center,
    Length(Value),
}

impl Word {
    fn is_horizontal(&self) -> bool {
        matches!(self, Word::Left | Word::Right)
    }

    fn is_vertical(&self) -> bool {
        matches!(self, Word::Top | Word::Bottom)
    }

    fn value(&self) -> Value {
        match self {
            Word::Left | Word::Top => percent(0.0),
            Word::Center => percent(50.0),
            Word::Right | Word::Bottom => percent(100.0),
            Word::Length(value) => value.clone(),
        }
    }
}

fn percent(share: f64) -> Value {
    Value::Length(LengthPercentage::percent(share))
}

fn word(parser: &mut Parser) -> Result<Word, ParseError<()>> {
    if let Ok(value) = parser.try_parse(|p| OFFSET.parse(p)) {
        return Ok(Word::Length(value));
    }
    let name = parser.expect_ident()?;
    Ok(match name.to_ascii_lowercase().as_str() {
        "left" => Word::Left,
        "right" => Word::Right,
        "top" => Word::Top,
        "bottom" => Word::Bottom,
        "center" => Word::Center,
        _ => return Err(ParseError::unexpected_token()),
    })
}

/// A distance from a side, measured from the left or the top.
fn from_side(side: &Word, offset: Value) -> Value {
    let (Word::Right | Word::Bottom) = side else { return offset };
    let tree = match offset {
        Value::Dimension(n, unit) => Calc::Dimension(n, unit),
        Value::Length(length) if length.has_percent => Calc::Percentage(length.percent),
        Value::Calc(tree) => (*tree).clone(),
        // A zero without a unit.
        _ => return percent(100.0),
    };
    let negative = Calc::Product(vec![Calc::Number(-1.0), tree]);
    Value::Calc(Calc::Sum(vec![Calc::Percentage(100.0), negative]).into())
}

/// Parses a position; three values are for backgrounds only.
pub fn parse(parser: &mut Parser, three: bool) -> Result<[Value; 2], ParseError<()>> {
    of_words(parser, three, 4)
}

/// Parses a position of one or two words: what follows it may be a length too.
pub fn parse_short(parser: &mut Parser) -> Result<[Value; 2], ParseError<()>> {
    of_words(parser, false, 2)
}

fn of_words(parser: &mut Parser, three: bool, most: usize) -> Result<[Value; 2], ParseError<()>> {
    let mut words = vec![word(parser)?];
    while words.len() < most {
        match parser.try_parse(word) {
            Ok(next) => words.push(next),
            Err(_) => break,
        }
    }
    let wrong = || Err(ParseError::unexpected_token());
    match words.as_slice() {
        [one] if one.is_vertical() => Ok([percent(50.0), one.value()]),
        [one] => Ok([one.value(), percent(50.0)]),
        [a, b] if a.is_vertical() || b.is_horizontal() => {
            let is_length = |word: &Word| matches!(word, Word::Length(_));
            match is_length(a) || is_length(b) || a.is_horizontal() || b.is_vertical() {
                true => wrong(),
                false => Ok([b.value(), a.value()]),
            }
        }
        [a, b] => Ok([a.value(), b.value()]),
        words if words.len() == 4 || three => from_sides(words),
        _ => wrong(),
    }
}

/// Parses one axis: a side with or without a distance, `center`, or a length.
pub fn parse_axis(parser: &mut Parser, vertical: bool) -> Result<Value, ParseError<()>> {
    let side = word(parser)?;
    if (vertical && side.is_horizontal()) || (!vertical && side.is_vertical()) {
        return Err(ParseError::unexpected_token());
    }
    if let Word::Length(_) | Word::Center = side {
        return Ok(side.value());
    }
    match parser.try_parse(|p| OFFSET.parse(p)) {
        Ok(offset) => Ok(from_side(&side, offset)),
        Err(_) => Ok(side.value()),
    }
}

/// Three or four words: each side may have a distance of its own.
fn from_sides(words: &[Word]) -> Result<[Value; 2], ParseError<()>> {
    let mut axes: [Option<Value>; 2] = [None, None];
    let mut centers = 0;
    let mut rest = words.iter().peekable();
    while let Some(side) = rest.next() {
        let axis = match side {
            Word::Length(_) => return Err(ParseError::unexpected_token()),
            Word::Center => {
                centers += 1;
                continue;
            }
            side => usize::from(side.is_vertical()),
        };
        let value = match rest.next_if(|word| matches!(word, Word::Length(_))) {
            Some(Word::Length(offset)) => from_side(side, offset.clone()),
            _ => side.value(),
        };
        if axes[axis].replace(value).is_some() {
            return Err(ParseError::unexpected_token());
        }
    }
    let free = axes.iter().filter(|axis| axis.is_none()).count();
    if centers != free || (words.len() == 4 && centers > 0) {
        return Err(ParseError::unexpected_token());
    }
    Ok(axes.map(|axis| axis.unwrap_or_else(|| percent(50.0))))
}
