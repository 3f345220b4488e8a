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
use stilk_language::tokens::Theme;
use stilk_views::specimen::table::{each_cell, headings};

/// Columns of a terminal.
const WIDTH: usize = 80;
/// A name of a row, at most.
const NAME: usize = 17;
/// A cell: a swatch of two, a space, a figure of at most six.
const CELL: usize = 9;

#[derive(PartialEq, Eq)]
struct Shown {
    swatch: Option<Ink>,
    text: String,
    fails: bool,
    /// Why nothing is known.
    unknown: Option<&'static str>,
}

/// Draws a control in some themes; those in which it looks the same are drawn once.
pub fn render(system: &System, written: &Written, control: &Control, wanted: &[Theme]) -> String {
    let parsed = Stylesheet::parse(&written.text);
    let look_engine = LookEngine::new(system, written, &parsed, Media::default());
    let (rows, columns) = headings(system, control);
    let themes = system.tokens.themes();
    let mut cells: Vec<Vec<Shown>> = themes.iter().map(|_| Vec::new()).collect();
    each_cell(system, &look_engine, control, &mut |cell| {
        let figure = contrast_figure(system, cell.look, cell.states);
        let worst = worst_text(system, cell.look).ok().flatten();
        let swatch = worst.map(|worst| swatch(worst.text, worst.behind));
        let unknown = if let Figure::Unknown(reason) = figure { Some(reason) } else { None };
        let (text, fails) = match figure {
            Figure::Passes { ratio, .. } => (ratio, false),
            Figure::Fails { ratio, .. } => (format!("✗{ratio}"), true),
            Figure::Exempt { ratio } => (format!("({ratio})"), false),
            Figure::Unknown(_) => ("?".to_owned(), false),
            Figure::NoText => ("–".to_owned(), false),
        };
        cells[cell.theme].push(Shown { swatch, text, fails, unknown });
    });
    let mut text = String::new();
    let name = rows.iter().map(|row| row.chars().count()).max().unwrap_or(0).min(NAME) + 1;
    let most = ((WIDTH - name) / CELL).max(1);
    let drawn = themes.iter().zip(&cells).filter(|(theme, _)| wanted.contains(theme));
    let mut groups: Vec<(Vec<String>, &Vec<Shown>)> = Vec::new();
    for (theme, cells) in drawn {
        let name = system.tokens.theme_name(theme);
        match groups.iter_mut().find(|(_, known)| *known == cells) {
            Some((names, _)) => names.push(name),
            None => groups.push((vec![name], cells)),
        }
    }
    let mut reasons: BTreeMap<&'static str, u64> = BTreeMap::new();
    for (names, cells) in groups {
        for reason in cells.iter().filter_map(|cell| cell.unknown) {
            *reasons.entry(reason).or_default() += 1;
        }
        let bold = Ink(Style::new().bold());
        text.push_str(&format!("{bold}{} in {}{bold:#}\n", control.name.value, names.join("; ")));
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
