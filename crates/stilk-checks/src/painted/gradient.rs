//! What a gradient paints in a part of its box (CSS Images 4, section 3): the colours that lie under a text.

use stilk_engine::css::color::{Absolute, Color, Hue, Mix, Space, Surroundings};
use stilk_engine::css::value::Value;

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

/// The colours that a linear or radial gradient has in a part of its box, both ends and every stop between them included;
/// nothing where it is another gradient or where something in it is not modelled.
pub fn colors(image: &Value, part: Part, surroundings: Surroundings) -> Option<Vec<Absolute>> {
    let Value::Function(name, arguments) = image else { return None };
    let has_color =
        |value: &&Value| matches!(value, Value::Words(words) if words.iter().any(|w| matches!(w, Value::Color(_))));
    let (prelude, stops) = match arguments.split_first() {
        Some((Value::Words(words), stops)) if !has_color(&&arguments[0]) => (words.as_slice(), stops),
        _ => (&[][..], arguments.as_slice()),
    };
    let (shape, space) = match prelude.iter().position(|word| word.is("in")) {
        Some(at) => (&prelude[..at], Some(rectangular(prelude.get(at + 1)?)?)),
        None => (prelude, None),
    };
    let LineSpan { length, start, end } = match *name {
        "linear-gradient" => along_line(shape, part)?,
        "radial-gradient" => along_rays(shape, part)?,
        _ => return None,
    };
    let stops = placed(stops, length, surroundings)?;
    let is_legacy = stops.iter().all(|(_, color)| color.legacy);
    let space = space.unwrap_or(if is_legacy { Space::Srgb } else { Space::Oklab });
    let between = (0..=POINTS).map(|n| start + (end - start) * f64::from(n) / f64::from(POINTS));
    let of_stops = stops.iter().map(|(place, _)| *place).filter(|place| *place > start && *place < end);
    between.chain(of_stops).map(|place| color_at(&stops, place, space)).collect()
}

/// How much of a gradient a part of its box shows.
struct LineSpan {
    /// From the place 0 to the place 1, in px.
    length: f64,
    /// The first place in the part.
    start: f64,
    /// The last.
    end: f64,
}

fn along_line(direction: &[Value], part: Part) -> Option<LineSpan> {
    let [dx, dy] = line(direction, part.of)?;
    let length = (part.of[0] * dx).abs() + (part.of[1] * dy).abs();
    if length <= 0.0 {
        return None;
    }
    let [left, top, right, bottom] = part.sides;
    let at = |x: f64, y: f64| ((x - part.of[0] / 2.0) * dx + (y - part.of[1] / 2.0) * dy) / length + 0.5;
    let corners = [at(left, top), at(right, top), at(left, bottom), at(right, bottom)];
    let (start, end) = (corners.into_iter().fold(f64::MAX, f64::min), corners.into_iter().fold(f64::MIN, f64::max));
    Some(LineSpan { length, start, end })
}

/// Section 3.2: ellipses around a centre; places are counted on the ray to the right.
fn along_rays(words: &[Value], part: Part) -> Option<LineSpan> {
    let [width, height] = part.of;
    let px = |value: &Value, of: f64| match value {
        Value::Length(length) => Some(length.px + length.percent / 100.0 * of),
        _ => None,
    };
    let (words, centre) = match words.iter().position(|word| word.is("at")) {
        Some(at) => (&words[..at], [px(words.get(at + 1)?, width)?, px(words.get(at + 2)?, height)?]),
        None => (words, [width / 2.0, height / 2.0]),
    };
    let [x, y] = centre;
    let sides = [[x.abs(), (width - x).abs()], [y.abs(), (height - y).abs()]];
    let near = sides.map(|[a, b]| a.min(b));
    let far = sides.map(|[a, b]| a.max(b));
    let (is_circle, sizes) = match words.split_first() {
        Some((first, rest)) if first.is("circle") => (true, rest),
        _ => (false, words),
    };
    // A corner is met by an ellipse of the proportions of the one that meets the sides.
    let to_corner = |[a, b]: [f64; 2]| [a * std::f64::consts::SQRT_2, b * std::f64::consts::SQRT_2];
    let [rx, ry] = match (is_circle, sizes) {
        (true, []) => [far[0].hypot(far[1]); 2],
        (true, [size]) if size.is("closest-corner") => [near[0].hypot(near[1]); 2],
        (true, [size]) if size.is("closest-side") => [near[0].min(near[1]); 2],
        (true, [size]) if size.is("farthest-side") => [far[0].max(far[1]); 2],
        (false, []) => to_corner(far),
        (false, [size]) if size.is("closest-corner") => to_corner(near),
        (false, [size]) if size.is("closest-side") => near,
        (false, [size]) if size.is("farthest-side") => far,
        (_, [radius]) => [px(radius, width)?; 2],
        (_, [a, b]) => [px(a, width)?, px(b, height)?],
        _ => return None,
    };
    // What has no size is painted in a way of its own.
    if rx <= 0.0 || ry <= 0.0 {
        return None;
    }
    let [left, top, right, bottom] = part.sides;
    let nearest = [x.clamp(left, right.max(left)), y.clamp(top, bottom.max(top))];
    let farthest = [
        if (left - x).abs() > (right - x).abs() { left } else { right },
        if (top - y).abs() > (bottom - y).abs() { top } else { bottom },
    ];
    let at = |[to_x, to_y]: [f64; 2]| ((to_x - x) / rx).hypot((to_y - y) / ry);
    Some(LineSpan { length: rx, start: at(nearest), end: at(farthest) })
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
            Color::Mix(Box::new(mix)).resolve(Surroundings::default())
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use stilk_engine::css::compute::compute;
    use stilk_engine::css::context::Context;
    use stilk_engine::css::parse::parse_longhand;
    use stilk_engine::css::property::Longhand;

    /// The red of each colour, of 255, in order of its place.
    fn reds(css: &str, of: [f64; 2], sides: [f64; 4]) -> Option<Vec<i32>> {
        let declared = parse_longhand(Longhand::BackgroundImage, css).expect("a gradient");
        let Ok(Value::List(images)) = compute(Longhand::BackgroundImage, &declared, &Context::constant()) else {
            panic!("{css} was not computed")
        };
        let found = colors(&images[0], Part { of, sides }, Surroundings::default())?;
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
    fn rays_lead_from_the_centre_to_what_is_nearest_and_farthest() {
        let whole = [0.0, 0.0, 100.0, 40.0];
        let middle = [50.0, 20.0, 50.0, 20.0];
        for (css, sides, expected) in [
            ("radial-gradient(black, rgb(255 0 0))", whole, (0, 255)),
            ("radial-gradient(black, rgb(255 0 0))", middle, (0, 0)),
            // An ellipse through the corners is as wide as the box by the root of two.
            ("radial-gradient(black, rgb(255 0 0))", [100.0, 20.0, 100.0, 20.0], (180, 180)),
            ("radial-gradient(closest-side, black, rgb(255 0 0))", [75.0, 20.0, 100.0, 20.0], (128, 255)),
            ("radial-gradient(circle closest-side, black, rgb(255 0 0))", [60.0, 20.0, 65.0, 20.0], (128, 191)),
            ("radial-gradient(circle farthest-side, black, rgb(255 0 0))", [75.0, 20.0, 75.0, 20.0], (128, 128)),
            ("radial-gradient(20px at left, black, rgb(255 0 0))", [5.0, 20.0, 10.0, 20.0], (64, 128)),
            ("radial-gradient(50px 10px at 0 0, black, rgb(255 0 0) 25px)", [0.0, 0.0, 12.5, 0.0], (0, 128)),
            ("radial-gradient(circle closest-corner at 3px 4px, black, rgb(255 0 0))", [3.0, 4.0, 3.0, 6.5], (0, 128)),
        ] {
            assert_eq!(range(css, [100.0, 40.0], sides), Some(expected), "{css}");
        }
    }

    #[test]
    fn what_is_not_modelled_is_not_claimed() {
        for css in [
            "conic-gradient(black, red)",
            "repeating-radial-gradient(black, red 10px)",
            "radial-gradient(closest-side at 0 0, black, red)",
            "repeating-linear-gradient(black, red 10px)",
            "linear-gradient(black, 20%, red)",
            "linear-gradient(in oklch, black, red)",
        ] {
            assert_eq!(reds(css, [100.0, 40.0], [0.0, 0.0, 9.0, 9.0]), None, "{css}");
        }
    }
}
