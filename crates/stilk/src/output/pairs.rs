//! Pairs of colours: for the terminal and for programs.

use super::{clipped, grouped, swatch};
use crate::say::Ink;
use anstyle::{AnsiColor, Style};
use serde_json::{Value, json};
use stilk_checks::gather::Pair;
use stilk_checks::painted::paint::{floor, hex};
use stilk_views::contrast::{names, of_theme, ratio, themes};

/// Columns of a terminal.
const WIDTH: usize = 80;

/// For a terminal, a theme after the other.
pub fn text(pairs: &[Pair]) -> String {
    let bold = Ink(Style::new().bold());
    let mut text = String::new();
    for theme in themes(pairs) {
        text.push_str(&format!("{bold}{theme}{bold:#}\n"));
        for pair in of_theme(pairs, theme) {
            let swatch = swatch(pair.text_pixel, pair.behind);
            let fails = pair.ratio < pair.needed;
            let figure =
                Ink(if fails { Style::new().bold().fg_color(Some(AnsiColor::Red.into())) } else { Style::new() });
            let mark = if fails { "✗" } else { " " };
            let cases = grouped(pair.cases);
            let room = WIDTH - 15 - cases.chars().count();
            let names = clipped(&names(pair), room);
            text.push_str(&format!(
                "{swatch} Aa {swatch:#} {figure}{mark}{:>5}{figure:#}  {names:room$}  {cases}\n",
                ratio(pair.ratio)
            ));
        }
        text.push('\n');
    }
    let failing = pairs.iter().filter(|pair| pair.ratio < pair.needed).count();
    text.push_str(&format!(
        "{} pairs of text and background, {failing} below what is needed; on the right the cases\n",
        pairs.len()
    ));
    text
}

/// For programs.
pub fn json(pairs: &[Pair]) -> String {
    let list: Vec<Value> = pairs
        .iter()
        .map(|pair| {
            json!({
                "theme": pair.theme, "text": pair.text.replace('`', ""), "on": pair.on.replace('`', ""),
                "textColor": hex(pair.text_pixel), "onColor": hex(pair.behind),
                "ratio": floor(pair.ratio), "needed": pair.needed,
                "cases": pair.cases, "worst": pair.worst,
            })
        })
        .collect();
    format!("{:#}\n", Value::Array(list))
}
