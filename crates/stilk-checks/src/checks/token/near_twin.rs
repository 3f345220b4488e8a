//! `token/near-twin`: no two colours that nobody can tell apart.

use crate::check::{Check, Scope};
use crate::example::Example;
use crate::mend::color::{color_of, oklab};
use crate::sink::Sink;
use crate::survey::Survey;
use rustc_hash::FxHashMap;
use stilk_engine::css::color::Absolute;
use stilk_engine::css::serialize::number;
use stilk_language::tokens::{Token, TokenValue};
use stilk_text::diagnostic::{Diagnostic, Level};

/// The check.
pub const CHECK: Check = Check {
    id: "token/near-twin",
    summary: "no two colours of their own are less than 0.01 apart in OKLab in every theme",
    why: "Two greys that nobody can tell apart were meant to be one: the next change is made to one of them.",
    source: "Björn Ottosson, A perceptual color space for image processing (2020)",
    level: Level::Note,
    mend: "Let one be an alias of the other.",
    fails: Example::with_tokens(
        "\n  \"wave\": { \"$type\": \"color\", \"$value\": { \"colorSpace\": \"oklch\", \"components\": [0.452, 0.1, 230] } }",
        "@control button {\n  color: {sea}; background: {paper}; border: 1px solid {wave};\n}\n",
    ),
    passes: Example::with_tokens(
        "\n  \"wave\": { \"$type\": \"color\", \"$value\": \"{sea}\" }",
        "@control button {\n  color: {sea}; background: {paper}; border: 1px solid {wave};\n}\n",
    ),
    scope: Scope::System(run),
};

/// Below this nobody sees a difference, side by side.
const TWINS: f64 = 0.01;

fn run(survey: &Survey, sink: &mut Sink) {
    let tokens = &survey.system.tokens;
    let themes = tokens.themes();
    // What is an alias in every theme is meant to be the same; what is one in some theme only has a colour of its own elsewhere.
    let colored =
        |token: &Token| token.definitions().find(|d| matches!(d.value, TokenValue::Color { .. })).map(|d| d.span);
    let is_own = |token: &&Token| !token.is_member && colored(token).is_some();
    let all: Vec<(&Token, Vec<Pixel>)> = tokens
        .list
        .iter()
        .filter(is_own)
        .filter_map(|token| {
            let colors = themes.iter().map(|theme| color_of(tokens, token, theme).map(|color| pixel(&color)));
            Some((token, colors.collect::<Option<Vec<_>>>()?))
        })
        .collect();
    // Twins are in the same cell of a grid in the first theme, or in one beside it.
    let mut cells: FxHashMap<[i32; 3], Vec<usize>> = FxHashMap::default();
    for (index, (token, colors)) in all.iter().enumerate() {
        sink.decided(CHECK.id, 1);
        let Some(first) = colors.first() else { continue };
        let cell = [0, 1, 2].map(|axis| (first[axis] / TWINS).floor() as i32);
        let earliest = around(cell)
            .filter_map(|cell| cells.get(&cell)?.iter().copied().find(|other| apart(colors, &all[*other].1) < TWINS))
            .min();
        // Of many that are alike each names the first: that is the one to keep.
        let own = cells.entry(cell).or_default();
        if own.len() < MOST {
            own.push(index);
        }
        let Some(other) = earliest else { continue };
        let (other, their) = &all[other];
        let (Some(span), Some(first)) = (colored(token), colored(other)) else { continue };
        let message = format!("`{}` and `{}` look the same in every theme", token.path, other.path);
        let diagnostic = Diagnostic::new(CHECK.level, CHECK.id, span, message)
            .label(format!("{} apart in OKLab", number((apart(colors, their) * 1000.0).round() / 1000.0)))
            .related(first, "the other")
            .mend(format!("write `\"{{{}}}\"` for one of them, if they are meant to be one", other.path));
        sink.find(None, diagnostic);
    }
}

/// So many colours of a cell are remembered; in a palette that people use there is one.
const MOST: usize = 32;

/// Lightness, both axes of colour, opacity.
type Pixel = [f64; 4];

fn pixel(color: &Absolute) -> Pixel {
    let [l, a, b] = oklab(color);
    [l, a, b, color.alpha]
}

/// How far two colours are apart in the theme that tells them apart best.
fn apart(one: &[Pixel], other: &[Pixel]) -> f64 {
    let in_theme = |(a, b): (&Pixel, &Pixel)| {
        let squares = (0..3).map(|axis| (a[axis] - b[axis]).powi(2)).sum::<f64>();
        squares.sqrt().max((a[3] - b[3]).abs())
    };
    one.iter().zip(other).map(in_theme).fold(0.0, f64::max)
}

fn around([x, y, z]: [i32; 3]) -> impl Iterator<Item = [i32; 3]> {
    const NEAR: [i32; 3] = [-1, 0, 1];
    let planes = NEAR.into_iter().flat_map(move |dx| NEAR.map(|dy| (dx, dy)));
    planes.flat_map(move |(dx, dy)| NEAR.map(|dz| [x + dx, y + dy, z + dz]))
}
