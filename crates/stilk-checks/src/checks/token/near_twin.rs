//! `token/near-twin`: no two colours that nobody can tell apart.

use crate::check::{Check, Scope};
use crate::example::Example;
use crate::mend::color::{color_of, distance};
use crate::sink::Sink;
use crate::survey::Survey;
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
    let is_own =
        |token: &&Token| !token.is_member && token.definitions().all(|d| matches!(d.value, TokenValue::Color { .. }));
    let all: Vec<(&Token, Vec<Absolute>)> = tokens
        .list
        .iter()
        .filter(is_own)
        .filter_map(|token| {
            let colors = themes.iter().map(|theme| color_of(tokens, token, theme));
            Some((token, colors.collect::<Option<Vec<_>>>()?))
        })
        .collect();
    for (index, (token, colors)) in all.iter().enumerate() {
        sink.decided(CHECK.id, 1);
        for (other, their) in &all[..index] {
            let apart = colors
                .iter()
                .zip(their)
                .map(|(a, b)| distance(a, b).max((a.alpha - b.alpha).abs()))
                .fold(0.0, f64::max);
            let (Some(span), Some(first)) = (token.definitions().next(), other.definitions().next()) else { continue };
            if apart >= TWINS {
                continue;
            }
            let message = format!("`{}` and `{}` look the same in every theme", token.path, other.path);
            let diagnostic = Diagnostic::new(CHECK.level, CHECK.id, span.span, message)
                .label(format!("{} apart in OKLab", number((apart * 1000.0).round() / 1000.0)))
                .related(first.span, "the other")
                .mend(format!("write `\"{{{}}}\"` for one of them, if they are meant to be one", other.path));
            sink.find(None, diagnostic);
        }
    }
}
