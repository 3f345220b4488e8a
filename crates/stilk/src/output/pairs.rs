//! Pairs of colours: for the terminal, as a page, as a picture, for programs.

use super::{clipped, grouped, swatch};
use anstyle::{AnsiColor, Style};
use serde_json::{Value, json};
use stilk_checks::gather::Pair;
use stilk_checks::painted::paint::{floor, hex};

/// Columns of a terminal.
const WIDTH: usize = 80;

/// A ratio as it is shown.
pub fn ratio(ratio: f64) -> String {
    format!("{:.2}", floor(ratio))
}

/// The themes in the order of their worst pair.
fn themes(pairs: &[Pair]) -> Vec<&str> {
    let mut themes: Vec<&str> = Vec::new();
    for pair in pairs {
        if !themes.contains(&pair.theme.as_str()) {
            themes.push(&pair.theme);
        }
    }
    themes.sort_unstable();
    themes
}

fn of_theme<'p>(pairs: &'p [Pair], theme: &'p str) -> impl Iterator<Item = &'p Pair> {
    pairs.iter().filter(move |pair| pair.theme == theme)
}

fn names(pair: &Pair) -> String {
    format!("{} on {}", pair.text, pair.on).replace('`', "")
}

/// For a terminal, a theme after the other.
pub fn text(pairs: &[Pair]) -> String {
    let bold = Style::new().bold();
    let mut text = String::new();
    for theme in themes(pairs) {
        text.push_str(&format!("{bold}{theme}{bold:#}\n"));
        for pair in of_theme(pairs, theme) {
            let swatch = swatch(pair.text_pixel, pair.behind);
            let fails = pair.ratio < pair.needed;
            let figure = if fails { Style::new().bold().fg_color(Some(AnsiColor::Red.into())) } else { Style::new() };
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

fn escaped(text: &str) -> String {
    text.replace('&', "&amp;").replace('<', "&lt;").replace('>', "&gt;").replace('"', "&quot;")
}

/// A page that needs nothing else.
pub fn html(name: &str, pairs: &[Pair]) -> String {
    let mut rows = String::new();
    for theme in themes(pairs) {
        rows.push_str(&format!("<h2>{}</h2>\n<table>\n<tr><th>Looks</th><th>Ratio</th><th>Needs</th><th>Text</th><th>On</th><th>Cases</th><th>Worst case</th></tr>\n", escaped(theme)));
        for pair in of_theme(pairs, theme) {
            let fails = if pair.ratio < pair.needed { " class=\"fails\"" } else { "" };
            rows.push_str(&format!(
                "<tr{fails}><td style=\"color:{};background:{}\">Aa</td><td>{}{}</td><td>{}</td><td>{}</td><td>{}</td><td>{}</td><td>{}</td></tr>\n",
                hex(pair.text_pixel),
                hex(pair.behind),
                if fails.is_empty() { "" } else { "✗ " },
                ratio(pair.ratio),
                pair.needed,
                escaped(&pair.text.replace('`', "")),
                escaped(&pair.on.replace('`', "")),
                grouped(pair.cases),
                escaped(&pair.worst)
            ));
        }
        rows.push_str("</table>\n");
    }
    format!(
        "<!doctype html>\n<html lang=\"en\">\n<meta charset=\"utf-8\">\n<meta name=\"viewport\" content=\"width=device-width, initial-scale=1\">\n<title>{0}: contrast</title>\n<style>\n\
         :root {{ color-scheme: light dark; font: 15px/1.45 Georgia, serif; }}\nbody {{ margin: 2rem auto; padding: 0 1rem; max-width: 72rem; }}\n\
         table {{ border-collapse: collapse; width: 100%; }}\nth, td {{ padding: .35rem .8rem .35rem 0; text-align: start; border-block-end: 1px solid #8886; }}\n\
         td:first-child {{ padding: .35rem .8rem; font-weight: 600; text-align: center; }}\ntd:nth-child(n+2) {{ font: 13px/1.4 ui-monospace, monospace; }}\ntd:nth-child(2), td:nth-child(6) {{ text-align: end; }}\n\
         .fails td:nth-child(2) {{ color: light-dark(#a3231b, #ff9c8f); font-weight: 700; }}\n</style>\n<h1>{0}: contrast of text</h1>\n{rows}</html>\n",
        escaped(name)
    )
}

/// A picture: a swatch for each pair, a column for each theme.
pub fn svg(name: &str, pairs: &[Pair]) -> String {
    const COLUMN: usize = 420;
    const ROW: usize = 34;
    let themes = themes(pairs);
    let most = themes.iter().map(|theme| of_theme(pairs, theme).count()).max().unwrap_or_default();
    let (width, height) = (themes.len() * COLUMN + 20, most * ROW + 80);
    let mut body = String::new();
    for (column, theme) in themes.iter().enumerate() {
        let x = 20 + column * COLUMN;
        body.push_str(&format!("<text x=\"{x}\" y=\"62\" font-weight=\"700\">{}</text>\n", escaped(theme)));
        for (row, pair) in of_theme(pairs, theme).enumerate() {
            let y = 74 + row * ROW;
            let fails = pair.ratio < pair.needed;
            body.push_str(&format!(
                "<rect x=\"{x}\" y=\"{y}\" width=\"52\" height=\"26\" fill=\"{}\"/><text x=\"{}\" y=\"{}\" fill=\"{}\" text-anchor=\"middle\" font-weight=\"600\">Aa</text>\
                 <text x=\"{}\" y=\"{}\" text-anchor=\"end\"{}>{}{}</text><text x=\"{}\" y=\"{}\" font-size=\"12\">{}</text>\n",
                hex(pair.behind),
                x + 26,
                y + 18,
                hex(pair.text_pixel),
                x + 112,
                y + 18,
                if fails { " fill=\"#a3231b\" font-weight=\"700\"" } else { "" },
                if fails { "✗ " } else { "" },
                ratio(pair.ratio),
                x + 122,
                y + 17,
                escaped(&clipped(&names(pair), 40))
            ));
        }
    }
    format!(
        "<svg xmlns=\"http://www.w3.org/2000/svg\" width=\"{width}\" height=\"{height}\" viewBox=\"0 0 {width} {height}\" font-family=\"ui-monospace, 'DejaVu Sans Mono', monospace\" font-size=\"14\" fill=\"#1c1a17\">\n\
         <title>{0}: contrast of text</title>\n<rect width=\"{width}\" height=\"{height}\" fill=\"#fffdf6\"/>\n<text x=\"20\" y=\"32\" font-family=\"Georgia, serif\" font-size=\"20\" font-style=\"italic\">{0}: contrast of text</text>\n{body}</svg>\n",
        escaped(name)
    )
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
