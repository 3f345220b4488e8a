//! What a linear gradient paints in a part of its box (CSS Images 4, section 3.1): the colours that lie under a text.

use crate::css::color::{Absolute, Color, Hue, Mix, Space, Surroundings};
use crate::css::value::Value;

/// A part of the box that a gradient fills, in px.
#[derive(Debug, Clone, Copy)]
pub struct Part {
    /// Width and height of the box.
    pub of: [f64; 2],
    /// Left, top, right and bottom of the part, from the upper left corner of the box.
    pub sides: [f64; 4],
}

/// Between two stops colours are taken at so many points: contrast may be least somewhere between.
const POINTS: u32 = 16;

/// The colours that a linear gradient has in a part of its box, both ends and every stop between them included; nothing
/// where it is no linear gradient or where something in it is not modelled.
pub fn colors(image: &Value, part: Part, surroundings: Surroundings) -> Option<Vec<Absolute>> {
    let Value::Function("linear-gradient", arguments) = image else { return None };
    let has_color =
        |value: &&Value| matches!(value, Value::Words(words) if words.iter().any(|w| matches!(w, Value::Color(_))));
    let (prelude, stops) = match arguments.split_first() {
        Some((Value::Words(words), stops)) if !has_color(&&arguments[0]) => (words.as_slice(), stops),
        _ => (&[][..], arguments.as_slice()),
    };
    let (direction, space) = match prelude.iter().position(|word| word.is("in")) {
        Some(at) => (&prelude[..at], Some(rectangular(prelude.get(at + 1)?)?)),
        None => (prelude, None),
    };
    let [dx, dy] = line(direction, part.of)?;
    let length = (part.of[0] * dx).abs() + (part.of[1] * dy).abs();
    if length <= 0.0 {
        return None;
    }
    let stops = placed(stops, length, surroundings)?;
    let is_legacy = stops.iter().all(|(_, color)| color.legacy);
    let space = space.unwrap_or(if is_legacy { Space::Srgb } else { Space::Oklab });
    let [left, top, right, bottom] = part.sides;
    let at = |x: f64, y: f64| ((x - part.of[0] / 2.0) * dx + (y - part.of[1] / 2.0) * dy) / length + 0.5;
    let corners = [at(left, top), at(right, top), at(left, bottom), at(right, bottom)];
    let (start, end) = (corners.into_iter().fold(f64::MAX, f64::min), corners.into_iter().fold(f64::MIN, f64::max));
    let between = (0..=POINTS).map(|n| start + (end - start) * f64::from(n) / f64::from(POINTS));
    let of_stops = stops.iter().map(|(place, _)| *place).filter(|place| *place > start && *place < end);
    between.chain(of_stops).map(|place| color_at(&stops, place, space)).collect()
}

/// Spaces without a hue; where the way through hues is meant nothing is said.
fn rectangular(name: &Value) -> Option<Space> {
    const SPACES: [(&str, Space); 6] = [
        ("srgb", Space::Srgb),
        ("srgb-linear", Space::LinearSrgb),
        ("display-p3", Space::DisplayP3),
        ("lab", Space::Lab),
        ("oklab", Space::Oklab),
        ("xyz", Space::XyzD65),
    ];
    SPACES.iter().find(|(known, _)| name.is(known)).map(|(_, space)| *space)
}

/// The direction in which a gradient runs, x to the right and y down, of length 1.
fn line(words: &[Value], [width, height]: [f64; 2]) -> Option<[f64; 2]> {
    let side = |value: &Value| match () {
        () if value.is("left") => Some([-1.0, 0.0]),
        () if value.is("right") => Some([1.0, 0.0]),
        () if value.is("top") => Some([0.0, -1.0]),
        () if value.is("bottom") => Some([0.0, 1.0]),
        () => None,
    };
    match words {
        [] => Some([0.0, 1.0]),
        [Value::Degrees(angle)] => Some([angle.to_radians().sin(), -angle.to_radians().cos()]),
        [to, one] if to.is("to") => side(one),
        [to, one, other] if to.is("to") => {
            let ([a, b], [c, d]) = (side(one)?, side(other)?);
            // The middle of the gradient goes through the two other corners.
            let (x, y) = ((a + c) * height, (b + d) * width);
            let length = x.hypot(y);
            (length > 0.0).then(|| [x / length, y / length])
        }
        _ => None,
    }
}

/// Stops with their places along the line, from 0 to 1 and beyond ("color stop fixup").
fn placed(stops: &[Value], length: f64, surroundings: Surroundings) -> Option<Vec<(f64, Absolute)>> {
    let mut found: Vec<(Option<f64>, Absolute)> = Vec::new();
    for stop in stops {
        let Value::Words(words) = stop else { return None };
        let place = |value: &Value| match value {
            Value::Length(at) => Some((at.px + at.percent / 100.0 * length) / length),
            _ => None,
        };
        match words.as_slice() {
            [Value::Color(color)] => found.push((None, color.resolve(surroundings)?)),
            [Value::Color(color), at] => found.push((Some(place(at)?), color.resolve(surroundings)?)),
            // A hint bends what lies between two stops.
            _ => return None,
        }
    }
    let last = found.len().checked_sub(1)?;
    found[0].0 = found[0].0.or(Some(0.0));
    found[last].0 = found[last].0.or(Some(1.0));
    let mut least = f64::MIN;
    for place in found.iter_mut().filter_map(|(place, _)| place.as_mut()) {
        least = place.max(least);
        *place = least;
    }
    let places: Vec<Option<f64>> = found.iter().map(|(place, _)| *place).collect();
    let at = |index: usize| {
        places[index].or_else(|| {
            let before = places[..index].iter().rposition(Option::is_some)?;
            let after = index + places[index..].iter().position(Option::is_some)?;
            let (from, to) = (places[before]?, places[after]?);
            Some(from + (to - from) * (index - before) as f64 / (after - before) as f64)
        })
    };
    found.iter().enumerate().map(|(index, (_, color))| Some((at(index)?, *color))).collect()
}

fn color_at(stops: &[(f64, Absolute)], place: f64, space: Space) -> Option<Absolute> {
    let after = stops.iter().position(|(at, _)| *at > place);
    match after {
        None => stops.last().map(|(_, color)| *color),
        Some(0) => stops.first().map(|(_, color)| *color),
        Some(index) => {
            let ((from, a), (to, b)) = (stops[index - 1], stops[index]);
            let share = if to > from { (place - from) / (to - from) } else { 1.0 };
            let (a, b) = (Color::Absolute(a), Color::Absolute(b));
            let mix = Mix { space, hue: Hue::Shorter, a, b, share, alpha: 1.0 };
            Color::Mix(Box::new(mix)).resolve(Surroundings { dark: false, current: None })
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::css::compute::{Context, compute};
    use crate::css::parse::parse_longhand;
    use crate::css::property::Longhand;

    /// The red of each colour, of 255, in order of its place.
    fn reds(css: &str, of: [f64; 2], sides: [f64; 4]) -> Option<Vec<i32>> {
        let declared = parse_longhand(Longhand::BackgroundImage, css).expect("a gradient");
        let Ok(Value::List(images)) = compute(Longhand::BackgroundImage, &declared, &Context::constant()) else {
            panic!("{css} was not computed")
        };
        let found = colors(&images[0], Part { of, sides }, Surroundings { dark: false, current: None })?;
        Some(found.iter().map(|color| (color.srgb()[0] * 255.0).round() as i32).collect())
    }

    fn range(css: &str, of: [f64; 2], sides: [f64; 4]) -> Option<(i32, i32)> {
        let reds = reds(css, of, sides)?;
        Some((*reds.iter().min()?, *reds.iter().max()?))
    }

    #[test]
    fn a_part_has_the_colours_between_its_ends() {
        let whole = [0.0, 0.0, 100.0, 40.0];
        for (css, sides, expected) in [
            ("linear-gradient(black, rgb(255 0 0))", whole, (0, 255)),
            ("linear-gradient(black, rgb(255 0 0))", [0.0, 10.0, 100.0, 20.0], (64, 128)),
            ("linear-gradient(to top, black, rgb(255 0 0))", [0.0, 10.0, 100.0, 20.0], (128, 191)),
            ("linear-gradient(to right, black, rgb(255 0 0))", [20.0, 0.0, 60.0, 40.0], (51, 153)),
            ("linear-gradient(90deg, black, rgb(255 0 0) 50px)", [20.0, 0.0, 60.0, 40.0], (102, 255)),
            ("linear-gradient(to right, black 40px, rgb(255 0 0) 40px)", [41.0, 0.0, 60.0, 40.0], (255, 255)),
            ("linear-gradient(to right, black, rgb(255 0 0), black)", [40.0, 0.0, 60.0, 40.0], (204, 255)),
            // The middle goes through the corners that are left.
            ("linear-gradient(to bottom right, black, rgb(255 0 0))", [100.0, 0.0, 100.0, 0.0], (128, 128)),
        ] {
            assert_eq!(range(css, [100.0, 40.0], sides), Some(expected), "{css}");
        }
    }

    #[test]
    fn what_is_not_modelled_is_not_claimed() {
        for css in [
            "radial-gradient(black, red)",
            "repeating-linear-gradient(black, red 10px)",
            "linear-gradient(black, 20%, red)",
            "linear-gradient(in oklch, black, red)",
        ] {
            assert_eq!(reds(css, [100.0, 40.0], [0.0, 0.0, 9.0, 9.0]), None, "{css}");
        }
    }
}
