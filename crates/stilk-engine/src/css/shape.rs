//! Basic shapes (CSS Shapes 1, section 3) and `clip-path` (CSS Masking 1).

use super::position;
use super::primitive::{Primitive, keyword, skip};
use super::value::Value;
use cssparser::{ParseError, Parser, Token};

type ValueResult = Result<Value, ParseError<()>>;

const LENGTH: Primitive = Primitive::Length { percent: true, negative: true, keywords: &[] };
const BOXES: &[&str] =
    &["border-box", "padding-box", "content-box", "margin-box", "fill-box", "stroke-box", "view-box"];

/// Parses a shape with or without a box, or a box alone.
pub fn clip_path(parser: &mut Parser) -> ValueResult {
    let mut reference = parser.try_parse(|p| keyword(p, BOXES)).ok();
    let shape = parser.try_parse(shape).ok();
    if reference.is_none() {
        reference = parser.try_parse(|p| keyword(p, BOXES)).ok();
    }
    match (shape, reference) {
        (None, None) => Err(ParseError::unexpected_token()),
        (None, Some(reference)) => Ok(reference),
        (Some(shape), Some(reference)) if !reference.is("border-box") => Ok(Value::Words(vec![shape, reference])),
        (Some(shape), _) => Ok(shape),
    }
}

/// `rect()` of `clip`: four lengths from the top left corner, with commas between all or none (CSS 2.2, section 11.1.2).
pub(super) fn clip_rect(parser: &mut Parser) -> ValueResult {
    const EDGE: Primitive = Primitive::Length { percent: false, negative: true, keywords: &["auto"] };
    parser.expect_function_matching("rect")?;
    parser.parse_nested_block(|p| {
        let mut edges = vec![EDGE.parse(p)?];
        let commas = p.try_parse(|p| p.expect_comma()).is_ok();
        while edges.len() < 4 {
            if commas && edges.len() > 1 {
                p.expect_comma()?;
            }
            edges.push(EDGE.parse(p)?);
        }
        match edges.contains(&Value::Unmodelled) || !p.is_exhausted() {
            true => Err(ParseError::unexpected_token()),
            false => Ok(Value::Function("rect", edges)),
        }
    })
}

fn shape(parser: &mut Parser) -> ValueResult {
    let name = match parser.next()?.clone() {
        Token::UnquotedUrl(_) => return Ok(Value::Unmodelled),
        Token::Function(name) => name.to_ascii_lowercase(),
        _ => return Err(ParseError::unexpected_token()),
    };
    match name.as_str() {
        "inset" => parser.parse_nested_block(inset),
        "circle" => parser.parse_nested_block(|p| round("circle", 1, p)),
        "ellipse" => parser.parse_nested_block(|p| round("ellipse", 2, p)),
        "polygon" => parser.parse_nested_block(polygon),
        "url" | "path" | "rect" | "xywh" | "shape" => skip(parser),
        _ => Err(ParseError::unexpected_token()),
    }
}

/// Leaves out sides that are repeated.
fn sides(parser: &mut Parser, grammar: &Primitive) -> Result<Vec<Value>, ParseError<()>> {
    let mut list = vec![grammar.parse(parser)?];
    while list.len() < 4 {
        match parser.try_parse(|p| grammar.parse(p)) {
            Ok(value) => list.push(value),
            Err(_) => break,
        }
    }
    if list.len() == 4 && list[3] == list[1] {
        list.pop();
    }
    if list.len() == 3 && list[2] == list[0] {
        list.pop();
    }
    if list.len() == 2 && list[1] == list[0] {
        list.pop();
    }
    Ok(list)
}

fn inset(parser: &mut Parser) -> ValueResult {
    let mut words = sides(parser, &LENGTH)?;
    if parser.try_parse(|p| p.expect_ident_matching("round")).is_ok() {
        let corners = sides(parser, &Primitive::CORNER)?;
        let vertical = match parser.try_parse(|p| p.expect_delim('/')) {
            Ok(()) => Some(sides(parser, &Primitive::CORNER)?),
            Err(_) => None,
        };
        let is_nothing = |values: &[Value]| values == [Value::ZERO];
        if !is_nothing(&corners) || vertical.is_some() {
            words.push(Value::Keyword("round"));
            let same = vertical.as_ref().is_none_or(|vertical| *vertical == corners);
            words.extend(corners);
            if let (Some(vertical), false) = (vertical, same) {
                words.push(Value::Keyword("/"));
                words.extend(vertical);
            }
        }
    }
    Ok(Value::Function("inset", vec![Value::Words(words)]))
}

fn round(name: &'static str, radii: usize, parser: &mut Parser) -> ValueResult {
    const WORDS: &[&str] = &["closest-side", "farthest-side", "closest-corner", "farthest-corner"];
    const RADIUS: Primitive = Primitive::Length { percent: true, negative: false, keywords: WORDS };
    let mut words = Vec::new();
    if let Ok(first) = parser.try_parse(|p| RADIUS.parse(p)) {
        words.push(first);
        if radii == 2 {
            words.push(RADIUS.parse(parser)?);
        }
    }
    // The nearest side is what counts anyway.
    if words.iter().all(|word| word.is("closest-side")) {
        words.clear();
    }
    if parser.try_parse(|p| p.expect_ident_matching("at")).is_ok() {
        let [x, y] = position::parse(parser, false)?;
        words.push(Value::Keyword("at"));
        words.extend([x, y]);
    }
    Ok(Value::Function(name, vec![Value::Words(words)]))
}

fn polygon(parser: &mut Parser) -> ValueResult {
    let mut items = Vec::new();
    let rule = parser.try_parse(|p| {
        let rule = keyword(p, &["nonzero", "evenodd"])?;
        p.expect_comma()?;
        Ok::<_, ParseError<()>>(rule)
    });
    // Without a rule it is nonzero anyway.
    items.extend(rule.ok().filter(|rule| rule.is("evenodd")));
    items.extend(parser.parse_comma_separated(|p| Ok(Value::Words(vec![LENGTH.parse(p)?, LENGTH.parse(p)?])))?);
    Ok(Value::Function("polygon", items))
}
