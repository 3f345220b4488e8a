//! `mask` (CSS Masking 1, section 7.9).

use super::parse::{Expanded, Target};
use super::property::{Flow, Longhand as L};
use super::shorthand::first_of;
use super::value::Value;
use cssparser::{ParseError, Parser};

const IMAGE: usize = 0;
const X: usize = 1;
const Y: usize = 2;
const SIZE: usize = 3;
const REPEAT: usize = 4;
const ORIGIN: usize = 5;
const CLIP: usize = 6;
const COMPOSITE: usize = 7;
const MODE: usize = 8;
const LONGHANDS: [L; 9] = [
    L::MaskImage,
    L::MaskPositionX,
    L::MaskPositionY,
    L::MaskSize,
    L::MaskRepeat,
    L::MaskOrigin,
    L::MaskClip,
    L::MaskComposite,
    L::MaskMode,
];

/// Layers separated by commas, each with its parts in any order; what is missing is initial.
pub(super) fn shorthand(targets: &[Target], parser: &mut Parser) -> Result<Vec<Expanded>, ParseError<()>> {
    let mut lists: Vec<Vec<Value>> = vec![Vec::new(); LONGHANDS.len()];
    parser.parse_comma_separated(|p| {
        let mut layer: [Option<Value>; 9] = Default::default();
        while !p.is_exhausted() {
            word(p, &mut layer)?;
        }
        if layer.iter().all(Option::is_none) {
            return Err(ParseError::unexpected_token());
        }
        // One box is for both (CSS Masking 1, section 7.9).
        if layer[CLIP].is_none() {
            layer[CLIP] = layer[ORIGIN].clone();
        }
        for ((list, value), target) in lists.iter_mut().zip(layer).zip(targets) {
            list.push(value.unwrap_or_else(|| match super::compute::initial_declared(target.physical(Flow::LTR)) {
                Value::List(mut items) => items.remove(0),
                other => other,
            }));
        }
        Ok::<_, ParseError<()>>(())
    })?;
    Ok(targets.iter().copied().zip(lists.into_iter().map(Value::List)).collect())
}

fn word(p: &mut Parser, layer: &mut [Option<Value>; 9]) -> Result<(), ParseError<()>> {
    for at in [REPEAT, COMPOSITE, MODE, ORIGIN, CLIP] {
        if layer[at].is_none()
            && let Ok(value) = p.try_parse(|p| first_of(Target::Physical(LONGHANDS[at]), p))
        {
            layer[at] = Some(value);
            return Ok(());
        }
    }
    if layer[X].is_none()
        && let Ok([x, y]) = p.try_parse(|p| super::position::parse(p, true))
    {
        (layer[X], layer[Y]) = (Some(x), Some(y));
        if p.try_parse(|p| p.expect_delim('/')).is_ok() {
            layer[SIZE] = Some(first_of(Target::Physical(L::MaskSize), p)?);
        }
        return Ok(());
    }
    if layer[IMAGE].is_none()
        && let Ok(value) = p.try_parse(|p| first_of(Target::Physical(L::MaskImage), p))
    {
        layer[IMAGE] = Some(value);
        return Ok(());
    }
    Err(ParseError::unexpected_token())
}
