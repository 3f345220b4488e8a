//! Transforms (CSS Transforms 1 and 2): functions parsed into values, and the matrix they make.

use super::primitive::Primitive;
use super::value::Value;
use cssparser::{ParseError, Parser};

type ValueResult = Result<Value, ParseError<()>>;

const LENGTH: Primitive = Primitive::Length { percent: false, negative: true, keywords: &[] };
const TRANSLATION: Primitive = Primitive::Length { percent: true, negative: true, keywords: &[] };
const NUMBER: Primitive = Primitive::NumberOr { keywords: &[], min: f64::NEG_INFINITY };
const DEPTH: Primitive = Primitive::Length { percent: false, negative: false, keywords: &["none"] };

/// Name, and the grammar of each argument; how many of them may be left out.
static FUNCTIONS: &[(&str, &[&Primitive], usize)] = &[
    ("matrix", &[&NUMBER; 6], 0),
    ("matrix3d", &[&NUMBER; 16], 0),
    ("perspective", &[&DEPTH], 0),
    ("rotate", &[&Primitive::AngleOrZero], 0),
    ("rotate3d", &[&NUMBER, &NUMBER, &NUMBER, &Primitive::AngleOrZero], 0),
    ("rotatex", &[&Primitive::AngleOrZero], 0),
    ("rotatey", &[&Primitive::AngleOrZero], 0),
    ("rotatez", &[&Primitive::AngleOrZero], 0),
    ("scale", &[&Primitive::NumberPercentage, &Primitive::NumberPercentage], 1),
    ("scale3d", &[&Primitive::NumberPercentage; 3], 0),
    ("scalex", &[&Primitive::NumberPercentage], 0),
    ("scaley", &[&Primitive::NumberPercentage], 0),
    ("scalez", &[&Primitive::NumberPercentage], 0),
    ("skew", &[&Primitive::AngleOrZero, &Primitive::AngleOrZero], 1),
    ("skewx", &[&Primitive::AngleOrZero], 0),
    ("skewy", &[&Primitive::AngleOrZero], 0),
    ("translate", &[&TRANSLATION, &TRANSLATION], 1),
    ("translate3d", &[&TRANSLATION, &TRANSLATION, &LENGTH], 0),
    ("translatex", &[&TRANSLATION], 0),
    ("translatey", &[&TRANSLATION], 0),
    ("translatez", &[&LENGTH], 0),
];

/// Parses a list of functions.
pub fn parse(parser: &mut Parser) -> ValueResult {
    let mut list = vec![function(parser)?];
    while let Ok(next) = parser.try_parse(function) {
        list.push(next);
    }
    Ok(Value::Words(list))
}

fn function(parser: &mut Parser) -> ValueResult {
    let name = parser.expect_function()?.to_ascii_lowercase();
    let Some((name, grammars, optional)) = FUNCTIONS.iter().find(|(known, _, _)| **known == name) else {
        return Err(ParseError::unexpected_token());
    };
    parser.parse_nested_block(|inner| {
        let mut arguments = Vec::new();
        for (i, grammar) in grammars.iter().enumerate() {
            if i > 0 && inner.is_exhausted() && i >= grammars.len() - optional {
                break;
            }
            if i > 0 {
                inner.expect_comma()?;
            }
            arguments.push(grammar.parse(inner)?);
        }
        Ok(Value::Function(name, arguments))
    })
}

/// A 4 × 4 matrix by columns.
pub type Matrix = [f64; 16];

/// What leaves everything where it is.
pub const IDENTITY: Matrix = [1.0, 0.0, 0.0, 0.0, 0.0, 1.0, 0.0, 0.0, 0.0, 0.0, 1.0, 0.0, 0.0, 0.0, 0.0, 1.0];

/// One matrix after another: what `b` gives is given to `a`.
pub fn multiply(a: &Matrix, b: &Matrix) -> Matrix {
    let mut product = [0.0; 16];
    for column in 0..4 {
        for row in 0..4 {
            product[column * 4 + row] = (0..4).map(|k| a[k * 4 + row] * b[column * 4 + k]).sum();
        }
    }
    product
}

/// The matrix of a computed list of functions; percentages are of the box whose width (or height) is asked for only
/// where one is there. `None` where something in it is not known.
pub fn matrix(value: &Value, size: &dyn Fn(bool) -> Option<f64>) -> Option<Matrix> {
    let Value::Words(list) = value else { return None };
    let mut total = IDENTITY;
    for function in list {
        let Value::Function(name, arguments) = function else { return None };
        total = multiply(&total, &one(name, arguments, size)?);
    }
    Some(total)
}

fn one(name: &str, arguments: &[Value], size: &dyn Fn(bool) -> Option<f64>) -> Option<Matrix> {
    let number = |i: usize| arguments.get(i).and_then(Value::as_number);
    let degrees = |i: usize| match arguments.get(i) {
        Some(Value::Degrees(degrees)) => Some(degrees.to_radians()),
        Some(_) => None,
        None => Some(0.0),
    };
    let length = |i: usize, horizontal: bool| match arguments.get(i) {
        None => Some(0.0),
        Some(Value::Length(length)) if !length.has_percent => Some(length.px),
        Some(Value::Length(length)) => Some(length.px + length.percent / 100.0 * size(horizontal)?),
        Some(_) => None,
    };
    let mut m = IDENTITY;
    match name {
        "matrix" => {
            for (i, at) in [0, 1, 4, 5, 12, 13].into_iter().enumerate() {
                m[at] = number(i)?;
            }
        }
        "matrix3d" => {
            for (i, cell) in m.iter_mut().enumerate() {
                *cell = number(i)?;
            }
        }
        "perspective" => {
            if !arguments.first()?.is("none") {
                // Depths below a px count as one (CSS Transforms 2, section 7).
                m[11] = -1.0 / length(0, true)?.max(1.0);
            }
        }
        "rotate" | "rotatez" => return Some(rotation([0.0, 0.0, 1.0], degrees(0)?)),
        "rotatex" => return Some(rotation([1.0, 0.0, 0.0], degrees(0)?)),
        "rotatey" => return Some(rotation([0.0, 1.0, 0.0], degrees(0)?)),
        "rotate3d" => return Some(rotation([number(0)?, number(1)?, number(2)?], degrees(3)?)),
        "scale" => {
            m[0] = number(0)?;
            m[5] = if arguments.len() > 1 { number(1)? } else { m[0] };
        }
        "scale3d" => (m[0], m[5], m[10]) = (number(0)?, number(1)?, number(2)?),
        "scalex" => m[0] = number(0)?,
        "scaley" => m[5] = number(0)?,
        "scalez" => m[10] = number(0)?,
        "skew" => (m[4], m[1]) = (degrees(0)?.tan(), degrees(1)?.tan()),
        "skewx" => m[4] = degrees(0)?.tan(),
        "skewy" => m[1] = degrees(0)?.tan(),
        "translate" => (m[12], m[13]) = (length(0, true)?, length(1, false)?),
        "translate3d" => (m[12], m[13], m[14]) = (length(0, true)?, length(1, false)?, length(2, true)?),
        "translatex" => m[12] = length(0, true)?,
        "translatey" => m[13] = length(0, false)?,
        "translatez" => m[14] = length(0, true)?,
        _ => return None,
    }
    Some(m)
}

/// A rotation about an axis by an angle in radians (CSS Transforms 2, section 12.1).
pub fn rotation(axis: [f64; 3], angle: f64) -> Matrix {
    let norm = axis.iter().map(|c| c * c).sum::<f64>().sqrt();
    if norm == 0.0 {
        return IDENTITY;
    }
    let [x, y, z] = axis.map(|c| c / norm);
    let (sc, sq) = ((angle / 2.0).sin() * (angle / 2.0).cos(), (angle / 2.0).sin().powi(2));
    let mut m = IDENTITY;
    m[0] = 1.0 - 2.0 * (y * y + z * z) * sq;
    m[1] = 2.0 * (x * y * sq + z * sc);
    m[2] = 2.0 * (x * z * sq - y * sc);
    m[4] = 2.0 * (x * y * sq - z * sc);
    m[5] = 1.0 - 2.0 * (x * x + z * z) * sq;
    m[6] = 2.0 * (y * z * sq + x * sc);
    m[8] = 2.0 * (x * z * sq + y * sc);
    m[9] = 2.0 * (y * z * sq - x * sc);
    m[10] = 1.0 - 2.0 * (x * x + y * y) * sq;
    m
}

/// A matrix as CSS: in two dimensions where it has no more.
pub fn to_css(m: &Matrix) -> String {
    let flat = [2, 3, 6, 7, 8, 9, 11, 14].iter().all(|i| m[*i] == 0.0) && m[10] == 1.0 && m[15] == 1.0;
    let join = |cells: &mut dyn Iterator<Item = f64>| -> String {
        // What is left of a right angle's cosine is nothing.
        cells.map(|n| super::serialize::number(if n.abs() < 1e-14 { 0.0 } else { n })).collect::<Vec<_>>().join(", ")
    };
    if flat {
        format!("matrix({})", join(&mut [0, 1, 4, 5, 12, 13].into_iter().map(|i| m[i])))
    } else {
        format!("matrix3d({})", join(&mut m.iter().copied()))
    }
}
