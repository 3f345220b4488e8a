//! `foreign/near-looks`: no two looks of a family are nearly one.

use super::{Kind, Said, finding};
use crate::look::{Entry, differences, nearness};
use crate::report::{By, Differing, LookRecord, NearLooks};
use stilk_text::diagnostic::Level;

/// What it is.
pub const KIND: Kind = Kind {
    id: "foreign/near-looks",
    summary: "no two looks of a kind differ by a hair: a colour that nobody tells apart, a pixel",
    why: "Somebody copied the rules and rounded. Each later change has to be made twice, and is made once.",
    level: Level::Note,
    mend: "Make them one look, or let them differ so that it shows.",
    source: "CSS Color 4, 20.2 (what is less than 0.02 apart in OKLab is the same to most eyes)",
    fails: "<style>\n\
             .act { padding: 8px 16px; border: 1px solid #14536b; background: #14536b; color: #fff; font: 16px/1.5 serif; text-decoration: none }\n\
             .go { padding: 8px 16px; border: 1px solid #14536b; background: #15546c; color: #fff; font: 16px/1.5 serif; text-decoration: none }\n\
             </style>\n\
             <button class=\"act\">Book</button>\n\
             <button class=\"go\">Pay</button>\n\
             ",
    passes: "<style>\n\
             .act, .go { padding: 8px 16px; border: 1px solid #14536b; background: #14536b; color: #fff; font: 16px/1.5 serif; text-decoration: none }\n\
             </style>\n\
             <button class=\"act\">Book</button>\n\
             <button class=\"go\">Pay</button>\n\
             ",
};

/// So many values may differ, each by a hair.
const MOST: usize = 6;

/// Pairs of looks that are nearly one: each is said, and given back.
pub fn tell(looks: &[&LookRecord], say: &mut dyn FnMut(Said)) -> Vec<NearLooks> {
    let mut pairs = Vec::new();
    for (at, one) in looks.iter().enumerate() {
        for other in &looks[at + 1..] {
            let Some(differing) = differences(&one.values, &other.values) else { continue };
            if differing.is_empty() || differing.len() > MOST {
                continue;
            }
            // What a browser brings along for one host and not for another was copied by nobody.
            let is_written = |look: &LookRecord, entry: &Entry| {
                !entry.0.is_empty() || look.own.iter().any(|(longhand, _, by)| *longhand == entry.1 && *by == By::Page)
            };
            let near = differing
                .iter()
                .all(|(a, b)| nearness(a.1, &a.2, &b.2).is_some() && is_written(one, a) && is_written(other, b));
            if !near {
                continue;
            }
            let pair = NearLooks { one: (*one).clone(), other: (*other).clone(), differing: together(&differing) };
            let words: Vec<String> =
                pair.differing.iter().take(3).map(|d| format!("`{}` {} for {}", d.property, d.other, d.one)).collect();
            let message = format!("`{}` and `{}` are nearly one look: {}", one.name, other.name, words.join(", "));
            let mut diagnostic = finding(&KIND, other.tag, message).label("the one").mend(KIND.mend);
            if let Some(span) = one.tag {
                diagnostic = diagnostic.related(span, "the other");
            }
            say(Said {
                cause: format!("{} {}", one.name, other.name),
                diagnostic,
                place: other.place.clone(),
                controls: one.controls + other.controls,
                page: other.page,
                family: one.family.clone(),
            });
            pairs.push(pair);
        }
    }
    pairs
}

/// What differs, the same of several sides of a box once: `border-color` for four colours.
fn together(differing: &[(&Entry, &Entry)]) -> Vec<Differing> {
    const SIDES: [&str; 8] =
        ["-top-left", "-top-right", "-bottom-left", "-bottom-right", "-top", "-right", "-bottom", "-left"];
    let mut all: Vec<Differing> = Vec::new();
    let whole =
        |name: &str| SIDES.iter().find(|side| name.contains(**side)).map_or(name.into(), |s| name.replace(s, ""));
    for (a, b) in differing {
        let name = a.1.name();
        // One side alone is named.
        let is_same = |other: &&(&Entry, &Entry)| {
            whole(other.0.1.name()) == whole(name) && (&other.0.0, &other.0.2, &other.1.2) == (&a.0, &a.2, &b.2)
        };
        let property = if differing.iter().filter(is_same).count() > 1 { whole(name) } else { name.to_owned() };
        let property = if a.0.is_empty() { property } else { format!("{} of {}", property, a.0) };
        let one = Differing { property, one: a.2.clone(), other: b.2.clone() };
        if !all.contains(&one) {
            all.push(one);
        }
    }
    all
}
