//! Where boxes are drawn that are moved, scaled or turned (CSS Transforms 2, section 6).

use super::Rect;
use crate::cascade::Style;
use crate::css::Unknown;
use crate::css::property::Longhand as L;
use crate::css::transform::{IDENTITY, Matrix, matrix, multiply, rotation};
use crate::css::value::Value;

const TURNED: Unknown = Unknown("a box that is turned");
const NOT_KNOWN: Unknown = Unknown("a transform that is not known");

/// A rectangle under the transforms of a box, both as they are laid out.
///
/// # Errors
/// The box is turned by less than a quarter, or out of the plane: what is drawn is no rectangle along the axes.
pub fn drawn(style: &Style, rect: Rect, own: Rect) -> Result<Rect, Unknown> {
    if [L::Translate, L::Rotate, L::Scale, L::Transform].iter().all(|longhand| style.is(*longhand, "none")) {
        return Ok(rect);
    }
    let size = |horizontal: bool| f64::from(if horizontal { own.width } else { own.height });
    let px = |value: Option<&Value>, horizontal: bool| match value {
        None => Ok(0.0),
        Some(Value::Length(length)) => Ok(length.px + length.percent / 100.0 * size(horizontal)),
        Some(_) => Err(NOT_KNOWN),
    };
    let mut total = IDENTITY;
    if let Value::Words(words) = style.get(L::Translate)? {
        let by = moved(px(words.first(), true)?, px(words.get(1), false)?);
        total = multiply(&total, &by);
    }
    match style.get(L::Rotate)? {
        Value::Degrees(degrees) => total = multiply(&total, &rotation([0.0, 0.0, 1.0], degrees.to_radians())),
        value if value.is("none") => {}
        _ => return Err(TURNED),
    }
    if let Value::Words(words) = style.get(L::Scale)? {
        let factor = |index: usize| words.get(index).and_then(Value::as_number);
        let mut by = IDENTITY;
        by[0] = factor(0).unwrap_or(1.0);
        by[5] = factor(1).unwrap_or(by[0]);
        total = multiply(&total, &by);
    }
    let functions = style.get(L::Transform)?;
    if !functions.is("none") {
        let known = matrix(functions, &|horizontal| Some(size(horizontal)));
        total = multiply(&total, &known.ok_or(NOT_KNOWN)?);
    }
    const HAIR: f64 = 1e-9;
    let is_flat = [2, 3, 6, 7, 8, 9, 11, 14].iter().all(|cell| total[*cell].abs() < HAIR) && total[15] == 1.0;
    let is_along = [[1, 4], [0, 5]].iter().any(|cells| cells.iter().all(|cell| total[*cell].abs() < HAIR));
    if !is_flat || !is_along {
        return Err(TURNED);
    }
    let Value::Words(origin) = style.get(L::TransformOrigin)? else { return Err(NOT_KNOWN) };
    let origin = [f64::from(own.x) + px(origin.first(), true)?, f64::from(own.y) + px(origin.get(1), false)?];
    let corner = |x: f32, y: f32| {
        let (x, y) = (f64::from(x) - origin[0], f64::from(y) - origin[1]);
        let at = |row: usize| total[row] * x + total[4 + row] * y + total[12 + row];
        [at(0) + origin[0], at(1) + origin[1]]
    };
    let (first, last) = (corner(rect.x, rect.y), corner(rect.right(), rect.bottom()));
    let (left, top) = (first[0].min(last[0]), first[1].min(last[1]));
    Ok(Rect {
        x: left as f32,
        y: top as f32,
        width: (first[0].max(last[0]) - left) as f32,
        height: (first[1].max(last[1]) - top) as f32,
    })
}

fn moved(x: f64, y: f64) -> Matrix {
    let mut by = IDENTITY;
    (by[12], by[13]) = (x, y);
    by
}
