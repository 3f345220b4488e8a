//! CSS values in the notation of a token file: the space of a colour, the unit of a length, one line or many, as the file has it. Only
//! what differs is replaced.

use stilk_engine::css::color::{Absolute, Color, Space, whole};
use stilk_language::tokens::TokenType;
use stilk_text::diagnostic::Edit;
use stilk_text::json::{Json, Node};

/// The spaces of the Color module 2025.10 that a file may be in, and how many digits of a component can be told apart.
const SPACES: [(&str, Space, [usize; 3]); 14] = [
    ("srgb", Space::Srgb, [4; 3]),
    ("srgb-linear", Space::LinearSrgb, [5; 3]),
    ("hsl", Space::Hsl, [2; 3]),
    ("hwb", Space::Hwb, [2; 3]),
    ("lab", Space::Lab, [2; 3]),
    ("lch", Space::Lch, [2; 3]),
    ("oklab", Space::Oklab, [4; 3]),
    ("oklch", Space::Oklch, [4, 4, 2]),
    ("display-p3", Space::DisplayP3, [4; 3]),
    ("a98-rgb", Space::A98Rgb, [4; 3]),
    ("prophoto-rgb", Space::ProphotoRgb, [4; 3]),
    ("rec2020", Space::Rec2020, [4; 3]),
    ("xyz-d65", Space::XyzD65, [5; 3]),
    ("xyz-d50", Space::XyzD50, [5; 3]),
];

/// The px of a `rem` in a browser that nobody has set otherwise.
const REM: f64 = 16.0;

/// A number as short as its digits allow.
pub fn rounded(value: f64, digits: usize) -> String {
    let text = format!("{value:.digits$}");
    let text = if text.contains('.') { text.trim_end_matches('0').trim_end_matches('.') } else { &text };
    if text == "-0" { "0".to_owned() } else { text.to_owned() }
}

/// The edits that give the value at a node of a token file another one, `css`, a value of its type or a reference: `{group.token}`.
///
/// # Errors
/// What is wrong with the value and what to write instead.
pub fn edits(node: &Node, kind: TokenType, css: &str) -> Result<Vec<Edit>, String> {
    let css = css.trim();
    if let Some(path) = reference(css) {
        return Ok(vec![replace(node, format!("\"{{{path}}}\""))]);
    }
    match kind {
        TokenType::Color => color_edits(node, css),
        TokenType::Dimension => measure_edits(node, css, &["px", "rem"], "16px or 1rem"),
        TokenType::Duration => measure_edits(node, css, &["ms", "s"], "150ms"),
        TokenType::Number => Ok(number_edit(node, number(css).ok_or_else(|| refused(css, "a number", "1.5"))?, 4)),
        TokenType::FontWeight => {
            let weight = match css {
                "normal" => Some(400.0),
                "bold" => Some(700.0),
                css => number(css).filter(|weight| (1.0..=1000.0).contains(weight)),
            };
            Ok(number_edit(node, weight.ok_or_else(|| refused(css, "a weight from 1 to 1000", "600"))?, 0))
        }
        TokenType::CubicBezier => {
            let curve =
                curve(css).ok_or_else(|| refused(css, "an easing of four numbers", "cubic-bezier(0.2, 0, 0, 1)"))?;
            Ok(match node.items() {
                items @ [_, _, _, _] => {
                    items.iter().zip(curve).flat_map(|(item, value)| number_edit(item, value, 3)).collect()
                }
                _ => vec![replace(node, format!("[{}]", curve.map(|value| rounded(value, 3)).join(", ")))],
            })
        }
        TokenType::FontFamily => {
            let names: Vec<String> = split(css, ',').iter().map(|name| unquoted(name)).collect();
            if names.iter().any(String::is_empty) {
                return Err(refused(css, "a list of font names", "\"Inter\", sans-serif"));
            }
            let names: Vec<String> = names.iter().map(|name| quoted(name)).collect();
            Ok(vec![replace(node, if names.len() == 1 { names[0].clone() } else { format!("[{}]", names.join(", ")) })])
        }
        TokenType::StrokeStyle => match css.chars().all(|c| c.is_ascii_lowercase()) && !css.is_empty() {
            true => Ok(vec![replace(node, quoted(css))]),
            false => Err(refused(css, "a line style", "solid")),
        },
        TokenType::Shadow => shadow_edits(node, css),
        TokenType::Gradient => gradient_edits(node, css),
        TokenType::Border => border_edits(node, css),
        TokenType::Transition => transition_edits(node, css),
        TokenType::Typography => {
            Err("a typography token is changed member by member: name one, as in `text.label.fontSize`".to_owned())
        }
    }
}

/// A value of a type as a file would hold it that has none yet.
///
/// # Errors
/// As of [`edits`].
pub fn fresh(kind: TokenType, css: &str) -> Result<String, String> {
    // In the place of nothing, everything is replaced.
    let file = stilk_text::source::Sources::default().add("", "");
    let nothing = Node { json: Json::Null, span: stilk_text::source::Span::new(file, 0, 0) };
    let edits = edits(&nothing, kind, css)?;
    Ok(edits.into_iter().map(|edit| edit.text).collect())
}

/// The path in `{path}`.
pub fn reference(css: &str) -> Option<&str> {
    let path = css.strip_prefix('{')?.strip_suffix('}')?;
    (!path.is_empty() && !path.contains(['{', '}', '"', '\\'])).then_some(path)
}

fn refused(css: &str, what: &str, example: &str) -> String {
    format!("`{css}` is not {what}: write one such as `{example}`, or a reference such as `{{group.token}}`")
}

fn replace(node: &Node, text: String) -> Edit {
    Edit { span: node.span, text }
}

fn quoted(text: &str) -> String {
    let escaped = text.replace('\\', "\\\\").replace('"', "\\\"");
    format!("\"{escaped}\"")
}

fn unquoted(text: &str) -> String {
    text.trim().trim_matches(['"', '\'']).to_owned()
}

fn number(css: &str) -> Option<f64> {
    css.parse::<f64>().ok().filter(|number| number.is_finite())
}

/// Nothing is written where the number is the same.
fn number_edit(node: &Node, value: f64, digits: usize) -> Vec<Edit> {
    let text = rounded(value, digits);
    let is_same = node.as_number().is_some_and(|known| rounded(known, digits) == text);
    if is_same { Vec::new() } else { vec![replace(node, text)] }
}

fn color_edits(node: &Node, css: &str) -> Result<Vec<Edit>, String> {
    let Some(Color::Absolute(color)) = whole(css) else {
        return Err(refused(css, "a colour that a token can hold", "oklch(0.6 0.1 230)` or `#1f5f8b"));
    };
    if let Some(text) = node.as_str() {
        // Older files have colours as strings; what sRGB cannot show is none of those.
        return Ok(vec![match text.starts_with('#') && is_in(&color, Space::Srgb) {
            true => replace(node, quoted(&hex(&color))),
            false => replace(node, object(&color, Space::Oklch)),
        }]);
    }
    let known = node.get("colorSpace").and_then(|space| space.as_str());
    let known = known.and_then(|name| SPACES.iter().find(|(known, ..)| *known == name));
    let (Some((_, space, digits)), Some(components)) =
        (known, node.get("components").filter(|list| list.items().len() == 3))
    else {
        return Ok(vec![replace(node, object(&color, Space::Oklch))]);
    };
    if !is_in(&color, *space) {
        return Ok(vec![replace(node, object(&color, Space::Oklch))]);
    }
    let mut edits = Vec::new();
    let values = values(&color, *space, *digits);
    for (item, text) in components.items().iter().zip(values) {
        let known = item.as_number().map_or_else(|| item.as_str().map(quoted), |known| Some(rounded(known, 6)));
        // A grey has no hue, whatever is written for it.
        if known.as_ref() != Some(&text) && !(known.as_deref() == Some("\"none\"") && text == "0") {
            edits.push(replace(item, text));
        }
    }
    match node.get("alpha") {
        Some(alpha) => edits.extend(number_edit(alpha, color.alpha, 3)),
        None if color.alpha < 1.0 => {
            edits.push(Edit { span: components.span.end(), text: format!(", \"alpha\": {}", rounded(color.alpha, 3)) });
        }
        None => {}
    }
    if let Some(hex_node) = node.get("hex") {
        let opaque = hex(&Absolute { alpha: 1.0, ..color });
        if hex_node.as_str().is_none_or(|known| !known.eq_ignore_ascii_case(&opaque)) {
            edits.push(replace(hex_node, quoted(&opaque)));
        }
    }
    Ok(edits)
}

/// Whether a space holds a colour: those of screens end somewhere.
fn is_in(color: &Absolute, space: Space) -> bool {
    let gamut = match space {
        Space::Srgb | Space::Hsl | Space::Hwb => Space::Srgb,
        Space::DisplayP3 | Space::A98Rgb | Space::ProphotoRgb | Space::Rec2020 | Space::LinearSrgb => space,
        _ => return true,
    };
    color.to(gamut).components.iter().flatten().all(|component| (-1e-4..=1.0001).contains(component))
}

/// The components in a space, as short as what can be seen allows.
fn values(color: &Absolute, space: Space, digits: [usize; 3]) -> [String; 3] {
    let found = color.to(space).components.map(|component| component.unwrap_or(0.0));
    let ends = match space {
        Space::Srgb | Space::LinearSrgb | Space::DisplayP3 | Space::A98Rgb | Space::ProphotoRgb | Space::Rec2020 => {
            Some(1.0)
        }
        _ => None,
    };
    let is_grey = space == Space::Oklch && found[1] < 0.0005;
    std::array::from_fn(|i| match is_grey && i > 0 {
        true => "0".to_owned(),
        false => {
            let value = ends.map_or(found[i], |most| found[i].clamp(0.0, most));
            let is_hue = matches!((space, i), (Space::Oklch | Space::Lch, 2) | (Space::Hsl | Space::Hwb, 0));
            // A whole turn is none.
            let text = rounded(value, digits[i]);
            if is_hue && text == "360" { "0".to_owned() } else { text }
        }
    })
}

/// A colour as an object of the Design Tokens Format.
fn object(color: &Absolute, space: Space) -> String {
    let (name, _, digits) = SPACES.iter().find(|(_, known, _)| *known == space).unwrap_or(&SPACES[7]);
    let components = values(color, space, *digits).join(", ");
    let alpha = match color.alpha < 1.0 {
        true => format!(", \"alpha\": {}", rounded(color.alpha, 3)),
        false => String::new(),
    };
    format!("{{ \"colorSpace\": \"{name}\", \"components\": [{components}]{alpha} }}")
}

/// `#rrggbb`, or `#rrggbbaa` where something shines through.
fn hex(color: &Absolute) -> String {
    let [r, g, b] = color.srgb().map(|channel| (channel.clamp(0.0, 1.0) * 255.0).round() as u8);
    match color.alpha < 1.0 {
        true => format!("#{r:02x}{g:02x}{b:02x}{:02x}", (color.alpha * 255.0).round() as u8),
        false => format!("#{r:02x}{g:02x}{b:02x}"),
    }
}

/// A number and its unit.
fn measure<'u>(css: &str, units: &[&'u str]) -> Option<(f64, &'u str)> {
    // The longer unit first: `ms` ends with `s`.
    let mut sorted = units.to_vec();
    sorted.sort_by_key(|unit| std::cmp::Reverse(unit.len()));
    let found = sorted.iter().find_map(|unit| Some((number(css.strip_suffix(unit)?)?, *unit)));
    found.or_else(|| (number(css) == Some(0.0)).then(|| (0.0, units[0])))
}

/// A number in another unit of the same kind.
fn in_unit(value: f64, from: &str, to: &str) -> f64 {
    match (from, to) {
        ("px", "rem") => value / REM,
        ("rem", "px") => value * REM,
        ("ms", "s") => value / 1000.0,
        ("s", "ms") => value * 1000.0,
        _ => value,
    }
}

fn measure_edits(node: &Node, css: &str, units: &[&str], example: &str) -> Result<Vec<Edit>, String> {
    let what = if units.contains(&"px") { "a length in px or rem" } else { "a time in ms or s" };
    let (value, unit) = measure(css, units).ok_or_else(|| refused(css, what, example))?;
    if let (Some(number), Some(known)) = (node.get("value"), node.get("unit").and_then(|unit| unit.as_str())) {
        return Ok(number_edit(number, in_unit(value, unit, known), 4));
    }
    if let Some((_, known)) = node.as_str().and_then(|text| measure(text, units)) {
        return Ok(vec![replace(node, quoted(&format!("{}{known}", rounded(in_unit(value, unit, known), 4))))]);
    }
    Ok(vec![replace(node, format!("{{ \"value\": {}, \"unit\": \"{unit}\" }}", rounded(value, 4)))])
}

fn curve(css: &str) -> Option<[f64; 4]> {
    let known = match css {
        "linear" => [0.0, 0.0, 1.0, 1.0],
        "ease" => [0.25, 0.1, 0.25, 1.0],
        "ease-in" => [0.42, 0.0, 1.0, 1.0],
        "ease-out" => [0.0, 0.0, 0.58, 1.0],
        "ease-in-out" => [0.42, 0.0, 0.58, 1.0],
        _ => {
            let inner = css.strip_prefix("cubic-bezier(")?.strip_suffix(')')?;
            let numbers: Vec<f64> = inner.split(',').map_while(|part| number(part.trim())).collect();
            let [x1, y1, x2, y2] = numbers[..] else { return None };
            let is_time = |x: f64| (0.0..=1.0).contains(&x);
            return (is_time(x1) && is_time(x2) && inner.split(',').count() == 4).then_some([x1, y1, x2, y2]);
        }
    };
    Some(known)
}

/// The pieces of a text between separators that stand in no brackets and no quotes.
pub fn split(css: &str, separator: char) -> Vec<&str> {
    let (mut pieces, mut depth, mut start) = (Vec::new(), 0_i32, 0);
    let mut quote: Option<char> = None;
    for (at, c) in css.char_indices() {
        match (quote, c) {
            (Some(open), c) if c == open => quote = None,
            (Some(_), _) => {}
            (None, '"' | '\'') => quote = Some(c),
            (None, '(' | '{') => depth += 1,
            (None, ')' | '}') => depth -= 1,
            (None, c) if c == separator && depth == 0 => {
                pieces.push(css[start..at].trim());
                start = at + c.len_utf8();
            }
            _ => {}
        }
    }
    pieces.push(css[start..].trim());
    if separator == ' ' {
        pieces.retain(|piece| !piece.is_empty());
    }
    pieces
}

/// A member of a composite value: its name, its type and its text in CSS.
type Member = (&'static str, TokenType, String);

/// Members where they stand; what is not there yet makes the whole new.
fn member_edits(node: &Node, members: &[Member], inset: bool) -> Result<Option<Vec<Edit>>, String> {
    let is_inset = node.get("inset").is_some_and(|inset| matches!(inset.json, Json::Bool(true)));
    if is_inset != inset {
        return Ok(None);
    }
    let mut all = Vec::new();
    for (name, kind, css) in members {
        let Some(inner) = node.get(name) else { return Ok(None) };
        all.extend(edits(inner, *kind, css)?);
    }
    Ok(Some(all))
}

fn whole_object(members: &[Member], inset: bool) -> Result<String, String> {
    let mut parts: Vec<String> = Vec::new();
    for (name, kind, css) in members {
        parts.push(format!("\"{name}\": {}", fresh(*kind, css)?));
    }
    if inset {
        parts.push("\"inset\": true".to_owned());
    }
    Ok(format!("{{ {} }}", parts.join(", ")))
}

/// The same number of items is edited in place, another is written anew.
fn list_edits(node: &Node, items: &[(Vec<Member>, bool)], is_always_list: bool) -> Result<Vec<Edit>, String> {
    let known: Vec<&Node> = match &node.json {
        Json::Array(known) => known.iter().collect(),
        Json::Object(_) => vec![node],
        _ => Vec::new(),
    };
    if known.len() == items.len() {
        let mut all = Vec::new();
        for (node, (members, inset)) in known.iter().zip(items) {
            match member_edits(node, members, *inset)? {
                Some(edits) => all.extend(edits),
                None => all.push(replace(node, whole_object(members, *inset)?)),
            }
        }
        return Ok(all);
    }
    let written = items.iter().map(|(members, inset)| whole_object(members, *inset)).collect::<Result<Vec<_>, _>>()?;
    Ok(vec![replace(
        node,
        match written.as_slice() {
            [one] if !is_always_list => one.clone(),
            _ => format!("[{}]", written.join(", ")),
        },
    )])
}

fn shadow_edits(node: &Node, css: &str) -> Result<Vec<Edit>, String> {
    const EXAMPLE: &str = "0 1px 2px 0 oklch(0.2 0.03 245 / 0.2)";
    let wrong = || refused(css, "a shadow", EXAMPLE);
    let mut layers = Vec::new();
    for layer in split(css, ',') {
        let (mut lengths, mut color, mut inset): (Vec<String>, Option<String>, bool) = (Vec::new(), None, false);
        for word in split(layer, ' ') {
            match word {
                "inset" => inset = true,
                word if measure(word, &["px", "rem"]).is_some() => lengths.push(word.to_owned()),
                word if color.is_none() => color = Some(word.to_owned()),
                _ => return Err(wrong()),
            }
        }
        if !(2..=4).contains(&lengths.len()) {
            return Err(wrong());
        }
        lengths.resize(4, "0px".to_owned());
        let names = ["offsetX", "offsetY", "blur", "spread"];
        let mut members: Vec<Member> =
            names.into_iter().zip(lengths).map(|(name, length)| (name, TokenType::Dimension, length)).collect();
        members.insert(0, ("color", TokenType::Color, color.ok_or_else(wrong)?));
        layers.push((members, inset));
    }
    list_edits(node, &layers, false)
}

fn gradient_edits(node: &Node, css: &str) -> Result<Vec<Edit>, String> {
    let wrong = || refused(css, "a list of stops", "oklch(0.6 0.1 230) 0%, oklch(0.4 0.1 230) 100%");
    let mut stops = Vec::new();
    for stop in split(css, ',') {
        let words = split(stop, ' ');
        let [color, place] = words[..] else { return Err(wrong()) };
        let share = place.strip_suffix('%').and_then(number).map(|percent| percent / 100.0).or_else(|| number(place));
        let share = share.filter(|share| (0.0..=1.0).contains(share)).ok_or_else(wrong)?;
        let members =
            vec![("color", TokenType::Color, color.to_owned()), ("position", TokenType::Number, rounded(share, 4))];
        stops.push((members, false));
    }
    list_edits(node, &stops, true)
}

fn border_edits(node: &Node, css: &str) -> Result<Vec<Edit>, String> {
    let wrong = || refused(css, "a border", "1px solid oklch(0.6 0.1 230)");
    let (mut width, mut style, mut color) = (None, None, None);
    for word in split(css, ' ') {
        let place = match word {
            word if measure(word, &["px", "rem"]).is_some() => &mut width,
            "solid" | "dashed" | "dotted" | "double" | "groove" | "ridge" | "outset" | "inset" => &mut style,
            _ => &mut color,
        };
        if place.replace(word.to_owned()).is_some() {
            return Err(wrong());
        }
    }
    let (Some(width), Some(style), Some(color)) = (width, style, color) else { return Err(wrong()) };
    let members = vec![
        ("color", TokenType::Color, color),
        ("width", TokenType::Dimension, width),
        ("style", TokenType::StrokeStyle, style),
    ];
    list_edits(node, &[(members, false)], false)
}

fn transition_edits(node: &Node, css: &str) -> Result<Vec<Edit>, String> {
    let wrong = || refused(css, "a duration, an easing and a delay", "150ms cubic-bezier(0.2, 0, 0, 1) 0ms");
    let (mut times, mut easing) = (Vec::new(), None);
    for word in split(css, ' ') {
        match measure(word, &["ms", "s"]) {
            Some(_) => times.push(word.to_owned()),
            None if easing.replace(word.to_owned()).is_none() => {}
            None => return Err(wrong()),
        }
    }
    let (Some(easing), 1..=2) = (easing, times.len()) else { return Err(wrong()) };
    times.resize(2, "0ms".to_owned());
    let members = vec![
        ("duration", TokenType::Duration, times[0].clone()),
        ("delay", TokenType::Duration, times[1].clone()),
        ("timingFunction", TokenType::CubicBezier, easing),
    ];
    list_edits(node, &[(members, false)], false)
}
