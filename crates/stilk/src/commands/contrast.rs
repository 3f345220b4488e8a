//! `stilk contrast`: which colours meet, and how well they can be told apart.

use super::{Loaded, mend, outcome};
use crate::arguments::format::PairFormat;
use crate::output::{count, pairs, swatch};
use crate::{Failure, Outcome, say};
use std::path::Path;
use stilk_checks::mend::color::color_of;
use stilk_checks::painted::paint::{contrast, hex, over};
use stilk_checks::trial::{Found, prove};
use stilk_engine::css::color::{self, Absolute, Color};
use stilk_language::manifest::MANIFEST;
use stilk_views::contrast as page;

/// Prints the pairs of a system, worst first.
pub fn run(root: &Path, format: PairFormat) -> Result<Outcome, Failure> {
    let loaded = Loaded::read(root)?;
    let pairs = loaded.pairs();
    let name = &loaded.system.manifest.name.value;
    match format {
        PairFormat::Text => put!("{}", pairs::text(&pairs)),
        PairFormat::Html => say::markup(&page::html(name, &pairs)),
        PairFormat::Svg => say::markup(&page::svg(name, &pairs)),
        PairFormat::Json => say::json(&pairs::json(&pairs)),
    }
    Ok(if pairs.iter().any(|pair| pair.ratio < pair.needed) { Outcome::Findings } else { Outcome::Clean })
}

/// Proposes what to write into the tokens where contrast fails; writes nothing.
pub fn propose(root: &Path) -> Result<Outcome, Failure> {
    let loaded = Loaded::read(root)?;
    let mut report = loaded.report(&loaded.stylesheet());
    let found = Found::new(&report.findings, &loaded.sources);
    report.findings.retain(|finding| finding.id.starts_with("contrast/"));
    prove(loaded.project(), &mut report, &[], &found, &Loaded::settings());
    match report.findings.len() as u64 {
        0 => say!("all contrast is as it should be: nothing to propose"),
        findings => {
            mend::propose(&loaded, &report.findings);
            let findings = count(findings, "finding");
            say!("{findings}; nothing was written: `stilk check --mend --yes` writes what breaks nothing");
        }
    }
    Ok(outcome(&report))
}

/// Prints the contrast of two colours, or of tokens in every theme: of the first over the second.
pub fn two(root: &Path, text: &str, on: &str) -> Result<Outcome, Failure> {
    // Where there is no project, what is no colour is nothing else.
    let is_token = |word: &str| word.starts_with('{') || parsed(word).is_err();
    if (is_token(text) || is_token(on)) && root.join(MANIFEST).is_file() {
        return of_tokens(root, [text, on]);
    }
    let (text, on) = (parsed(text)?, parsed(on)?);
    // A page is white where nothing is painted.
    let behind = over(&on, [1.0; 3]);
    let text = over(&text, behind);
    let ratio = contrast(text, behind);
    let swatch = swatch(text, behind);
    say!("{swatch} Aa {swatch:#} {} on {}: {}:1\n", hex(text), hex(behind), page::ratio(ratio));
    for (what, aa, aaa) in [("text", 4.5, Some(7.0)), ("large text", 3.0, Some(4.5)), ("edges and marks", 3.0, None)] {
        let says = |needed: f64| if ratio >= needed { "passes" } else { "fails" };
        let aaa = aaa.map_or_else(String::new, |needed: f64| format!("   AAA {needed}:1 {}", says(needed)));
        say!("  {what:16} AA {aa}:1 {}{aaa}", says(aa));
    }
    Ok(if ratio >= 4.5 { Outcome::Clean } else { Outcome::Findings })
}

/// The contrast of two tokens, or of a token and a colour, in every theme.
fn of_tokens(root: &Path, words: [&str; 2]) -> Result<Outcome, Failure> {
    let loaded = Loaded::read(root)?;
    let tokens = &loaded.system.tokens;
    let mut worst = f64::INFINITY;
    let mut lines: Vec<(String, [f64; 3], [f64; 3], f64)> = Vec::new();
    for theme in tokens.themes() {
        let color = |word: &str| -> Result<Absolute, Failure> {
            let path = word.trim_start_matches('{').trim_end_matches('}');
            let Some(id) = tokens.find_path(path) else {
                if let Ok(color) = parsed(word) {
                    return Ok(color);
                }
                let mend = tokens.meant(path).map_or_else(String::new, |meant| format!("\n  {meant}"));
                return Err(Failure::Message(format!("error: there is no token and no colour `{word}`{mend}")));
            };
            color_of(tokens, tokens.get(id), &theme)
                .ok_or_else(|| Failure::Message(format!("error: the token `{path}` is no colour")))
        };
        let (text, on) = (color(words[0])?, color(words[1])?);
        let behind = over(&on, [1.0; 3]);
        let text = over(&text, behind);
        let ratio = contrast(text, behind);
        worst = worst.min(ratio);
        lines.push((tokens.theme_name(&theme), text, behind, ratio));
    }
    let widest = lines.iter().map(|(name, ..)| name.chars().count()).max().unwrap_or_default();
    say!("{} on {}", words[0], words[1]);
    for (name, text, behind, ratio) in lines {
        let swatch = swatch(text, behind);
        let says = match ratio {
            ratio if ratio >= 4.5 => "passes",
            ratio if ratio >= 3.0 => "passes as large text or a mark only",
            _ => "fails",
        };
        say!(
            "  {name:widest$} {swatch} Aa {swatch:#} {} on {}: {}:1 {says}",
            hex(text),
            hex(behind),
            page::ratio(ratio)
        );
    }
    Ok(if worst >= 4.5 { Outcome::Clean } else { Outcome::Findings })
}

fn parsed(text: &str) -> Result<Absolute, Failure> {
    match color::whole(text) {
        Some(Color::Absolute(absolute)) => Ok(absolute),
        _ => Err(Failure::Message(format!(
            "error: `{text}` is no colour\n  write one as CSS does: '#006d97', 'oklch(0.5 0.1 230)', 'navy'"
        ))),
    }
}
