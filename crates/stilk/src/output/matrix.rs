//! A control in the terminal: options as rows, states as columns, a swatch and the contrast in each cell.

use super::{clipped, swatch, unknown_in};
use crate::say::Ink;
use anstyle::{AnsiColor, Style};
use std::collections::BTreeMap;
use stilk_checks::painted::text::{Figure, figure as contrast_figure, worst_text};
use stilk_engine::cascade::{Media, Stylesheet};
use stilk_language::case::LookEngine;
use stilk_language::stylesheet::Written;
use stilk_language::system::{Control, System};
use stilk_views::specimen::table::{each_cell, headings};

/// Columns of a terminal.
const WIDTH: usize = 80;
/// A name of a row, at most.
const NAME: usize = 17;
/// A cell: a swatch of two, a space, a figure of at most six.
const CELL: usize = 9;

struct Shown {
    swatch: Option<Ink>,
    text: String,
    fails: bool,
}

/// Draws a control in every theme.
pub fn render(system: &System, written: &Written, control: &Control) -> String {
    let parsed = Stylesheet::parse(&written.text);
    let look_engine = LookEngine::new(system, written, &parsed, Media::default());
    let (rows, columns) = headings(system, control);
    let themes = system.tokens.themes();
    let mut cells: Vec<Vec<Shown>> = themes.iter().map(|_| Vec::new()).collect();
    let mut reasons: BTreeMap<&'static str, u64> = BTreeMap::new();
    // Densities and the like paint the same colours: the contexts of the first modifier are enough.
    let default = system.tokens.default_theme();
    let is_shown = |theme: usize| themes[theme].contexts.iter().skip(1).eq(default.contexts.iter().skip(1));
    each_cell(system, &look_engine, control, &mut |cell| {
        let figure = contrast_figure(system, cell.look, cell.states);
        let worst = worst_text(system, cell.look).ok().flatten();
        let swatch = worst.map(|worst| swatch(worst.text, worst.behind));
        let (text, fails) = match figure {
            Figure::Passes { ratio, .. } => (ratio, false),
            Figure::Fails { ratio, .. } => (format!("✗{ratio}"), true),
            Figure::Exempt { ratio } => (format!("({ratio})"), false),
            Figure::Unknown(reason) => {
                *reasons.entry(reason).or_default() += u64::from(is_shown(cell.theme));
                ("?".to_owned(), false)
            }
            Figure::NoText => ("–".to_owned(), false),
        };
        cells[cell.theme].push(Shown { swatch, text, fails });
    });
    let mut text = String::new();
    let name = rows.iter().map(|row| row.chars().count()).max().unwrap_or(0).min(NAME) + 1;
    let most = ((WIDTH - name) / CELL).max(1);
    for (index, (theme, cells)) in themes.iter().zip(&cells).enumerate() {
        if !is_shown(index) {
            continue;
        }
        let bold = Ink(Style::new().bold());
        text.push_str(&format!("{bold}{} in {}{bold:#}\n", control.name.value, system.tokens.theme_name(theme)));
        for (from, some) in columns.chunks(most).enumerate() {
            text.push_str(&format!("{:name$}", ""));
            for column in some {
                text.push_str(&format!("{:CELL$}", clipped(column, CELL - 1)));
            }
            text = text.trim_end().to_owned() + "\n";
            for (row, title) in rows.iter().enumerate() {
                text.push_str(&format!("{:name$}", clipped(title, name - 1)));
                for column in 0..some.len() {
                    let Some(cell) = cells.get(row * columns.len() + from * most + column) else { continue };
                    let swatch = cell.swatch.unwrap_or_default();
                    let figure = Ink(match cell.fails {
                        true => Style::new().bold().fg_color(Some(AnsiColor::Red.into())),
                        false => Style::new(),
                    });
                    let sample = if cell.swatch.is_some() { "Aa" } else { "  " };
                    let width = CELL - 3;
                    text.push_str(&format!("{swatch}{sample}{swatch:#} {figure}{:width$}{figure:#}", cell.text));
                }
                text = text.trim_end().to_owned() + "\n";
            }
            text.push('\n');
        }
    }
    for (reason, cells) in reasons.into_iter().filter(|(_, cells)| *cells > 0) {
        text.push_str(&format!("? {}\n", unknown_in(cells, "cell", reason)));
    }
    text.push_str("Contrast of the worst text: ✗ too low; (…) nothing is asked of what cannot be\nused; – no text\n");
    text
}
