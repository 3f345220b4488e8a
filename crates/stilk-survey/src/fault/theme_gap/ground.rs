//! A control that keeps the ground of the usual theme on a page whose own ground has turned.

use super::KIND;
use crate::family::Family;
use crate::fault::{Said, finding};
use crate::theme::Theme;
use std::collections::{BTreeMap, BTreeSet};
use stilk_checks::painted::paint::{Pixel, contrast, hex};
use stilk_text::source::Span;

/// A control's fill at rest, and what is behind it, in a theme.
pub struct Ground {
    /// The page.
    pub page: usize,
    /// Its tag.
    pub tag: Option<Span>,
    /// Its family, by index.
    pub family: usize,
    /// The theme: 0 is the page as it was written.
    pub theme: usize,
    /// The pixel of its fill.
    pub fill: Pixel,
    /// The pixel behind it.
    pub behind: Pixel,
    /// Where the fill is declared.
    pub at: Option<Span>,
    /// Where it stands, in words.
    pub place: String,
    /// For how many controls it stands.
    pub stands_for: u64,
}

/// Up to this contrast a fill is one with the page.
const ONE: f64 = 1.35;

/// From this contrast on a page's ground has turned, from light to dark or back.
const TURNED: f64 = 7.0;

/// So many other families have to turn with the page before one can be said to have stayed.
const OTHERS: usize = 2;

/// Says which families stayed.
pub fn tell(grounds: &[Ground], themes: &[Theme], families: &[Family], say: &mut dyn FnMut(Said)) {
    let usual: BTreeMap<(usize, Option<Span>), &Ground> =
        grounds.iter().filter(|ground| ground.theme == 0).map(|ground| ((ground.page, ground.tag), ground)).collect();
    for (index, theme) in themes.iter().enumerate() {
        let pairs = grounds
            .iter()
            .filter(|ground| ground.theme == index + 1)
            .filter_map(|ground| Some((*usual.get(&(ground.page, ground.tag))?, ground)));
        // Those that are one with the usual page, where the page turns.
        let pairs: Vec<(&Ground, &Ground)> = pairs
            .filter(|(before, after)| {
                contrast(before.fill, before.behind) < ONE && contrast(before.behind, after.behind) >= TURNED
            })
            .collect();
        let stays = |(before, after): &(&Ground, &Ground)| before.fill == after.fill;
        let turned: BTreeSet<usize> = pairs.iter().filter(|pair| !stays(pair)).map(|(_, after)| after.family).collect();
        let stayed: Vec<&(&Ground, &Ground)> =
            pairs.iter().filter(|pair| stays(pair) && !turned.contains(&pair.1.family)).collect();
        let left: BTreeSet<usize> = stayed.iter().map(|(_, after)| after.family).collect();
        if turned.len() < OTHERS || left.len() > turned.len() {
            continue;
        }
        for (_, after) in stayed {
            let family = families[after.family].short();
            let message = format!(
                "the theme `{}` forgets `{family}`: its ground stays `{}` on a page of `{}`",
                theme.name,
                hex(after.fill),
                hex(after.behind)
            );
            let diagnostic = finding(&KIND, after.at.or(after.tag), message)
                .label("stays as it is")
                .mend(format!("write a rule for it beside those of `{}`", theme.selector()));
            say(Said {
                cause: format!("{} {family}", theme.name),
                diagnostic,
                place: after.place.clone(),
                controls: after.stands_for,
                page: after.page,
                family: families[after.family].name.clone(),
            });
        }
    }
}
