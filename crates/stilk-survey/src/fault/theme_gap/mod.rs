//! `foreign/theme-gap`: a theme forgets nothing that the others set.

mod ground;
mod literal;

use super::{Kind, Said, finding};
use crate::rules::{Rules, span_of};
use crate::site::Site;
use crate::theme::{Mark, Theme};
use std::collections::BTreeMap;
use stilk_engine::cascade::stylesheet::DeclarationBody;
use stilk_text::diagnostic::Level;
use stilk_text::source::Span;

/// What it is.
pub const KIND: Kind = Kind {
    id: "foreign/theme-gap",
    summary: "each theme reaches all that themes change: every custom property that the others set, no colour written out in place of one, no control left behind on a page that turns dark",
    why: "The new theme was copied and one line was lost: there the field keeps the line of the old theme, on a page that is dark.",
    level: Level::Warning,
    mend: "Set the property in that theme as well.",
    source: "CSS Custom Properties 1, 2 (a custom property that is not set is inherited)",
    fails: "<style>\n\
             :root { --line: #5d7480; --ink: #14303c; --ground: #fff; --fill: #14536b }\n\
             [data-theme=\"dusk\"] { --line: #9db4bf; --ink: #e6eef1; --ground: #16242b; --fill: #7fc0da }\n\
             [data-theme=\"storm\"] { --ink: #fff; --ground: #000; --fill: #fff }\n\
             body { background: var(--ground); color: var(--ink) }\n\
             .field { border: 1px solid var(--line); background: var(--ground); color: var(--ink); padding: 6px }\n\
             </style>\n\
             <input class=\"field\" aria-label=\"Name\">\n\
             ",
    passes: "<style>\n\
             :root { --line: #5d7480; --ink: #14303c; --ground: #fff; --fill: #14536b }\n\
             [data-theme=\"dusk\"] { --line: #9db4bf; --ink: #e6eef1; --ground: #16242b; --fill: #7fc0da }\n\
             [data-theme=\"storm\"] { --line: #fff; --ink: #fff; --ground: #000; --fill: #fff }\n\
             body { background: var(--ground); color: var(--ink) }\n\
             .field { border: 1px solid var(--line); background: var(--ground); color: var(--ink); padding: 6px }\n\
             </style>\n\
             <input class=\"field\" aria-label=\"Name\">\n\
             ",
};

/// So much of what themes set must be common to them: what stands in one alone is its own.
const SHARE: f64 = 0.6;

/// Where there are two themes, no more than one property of so many is forgotten.
const FEW: usize = 4;

pub use ground::{Ground, tell as tell_grounds};
pub use literal::tell as tell_literals;

/// What themes of a site forget.
pub fn tell(site: &Site, rules: &[Rules], themes: &[Theme], say: &mut dyn FnMut(Said)) {
    let of_customs: Vec<&Theme> = themes.iter().filter(|theme| theme.customs.len() >= 2).collect();
    let mut users: BTreeMap<&str, usize> = BTreeMap::new();
    for theme in &of_customs {
        theme.customs.iter().for_each(|name| *users.entry(name).or_default() += 1);
    }
    for theme in &of_customs {
        let forgotten: Vec<&str> = users
            .iter()
            .filter(|(name, count)| **count + 1 == of_customs.len() && !theme.customs.iter().any(|own| own == *name))
            .map(|(name, _)| *name)
            .collect();
        let shared = theme.customs.iter().filter(|name| users[name.as_str()] > 1).count();
        // Of two themes one must be nearly the other.
        let is_alike = of_customs.len() > 2 || forgotten.len() * FEW <= users.len();
        if forgotten.is_empty() || !is_alike || (shared as f64) < SHARE * theme.customs.len() as f64 {
            continue;
        }
        let place = place_of(site, rules, theme);
        let names = forgotten.iter().map(|name| format!("`{name}`")).collect::<Vec<_>>().join(", ");
        let message = format!("the theme `{}` forgets {names}, which every other theme sets", theme.name);
        let diagnostic = finding(&KIND, place, message).label("this theme").mend(format!("set {names} here"));
        say(Said {
            cause: format!("{} {names}", theme.name),
            diagnostic,
            place: String::new(),
            controls: 0,
            page: 0,
            family: String::new(),
        });
    }
    further_out(site, rules, themes, say);
}

/// A property of the root that refers to one that a theme sets on the body: it was computed before.
fn further_out(site: &Site, rules: &[Rules], themes: &[Theme], say: &mut dyn FnMut(Said)) {
    let of_body = |theme: &&Theme| {
        matches!(&theme.mark, Mark::Attribute { of_body: true, .. } | Mark::Class { of_body: true, .. })
    };
    for theme in themes.iter().filter(of_body) {
        for (list, rules) in rules.iter().enumerate() {
            for rule in rules.all.iter().filter(|rule| rule.compounds.len() == 1 && !rule.customs.is_empty()) {
                let subject = rule.subject();
                let is_root =
                    subject.local.as_deref() == Some("html") || subject.others.iter().any(|other| other == ":root");
                if !is_root {
                    continue;
                }
                let traced = &site.lists[list].sheets[usize::from(rule.sheet)];
                let style = &traced.parsed.rules[rule.index as usize];
                for declaration in style.declarations.iter() {
                    let DeclarationBody::Custom(name, text) = &declaration.body else { continue };
                    let refers = theme.customs.iter().find(|custom| text.contains(&format!("var({custom}")));
                    let Some(custom) = refers.filter(|_| !theme.customs.iter().any(|own| **own == **name)) else {
                        continue;
                    };
                    let place = traced.span(&site.sources, style.file, declaration.offset);
                    let message = format!(
                        "`{name}` keeps the root's `{custom}` in the theme `{}`, which sets that on the body: it is computed before",
                        theme.name
                    );
                    let diagnostic = finding(&KIND, place, message)
                        .label("computed further out")
                        .mend("set it where the theme is set, or the theme on the root");
                    say(Said {
                        cause: format!("{name} {custom}"),
                        diagnostic,
                        place: String::new(),
                        controls: 0,
                        page: 0,
                        family: String::new(),
                    });
                }
            }
        }
    }
}

/// Where a theme is written.
fn place_of(site: &Site, rules: &[Rules], theme: &Theme) -> Option<Span> {
    let selector = theme.selector();
    rules.iter().enumerate().find_map(|(list, rules)| {
        let rule = rules.all.iter().find(|rule| {
            let text = rule.subject().text();
            rule.compounds.len() == 1
                && (text.ends_with(&selector) || selector.ends_with(&text))
                && !rule.customs.is_empty()
        })?;
        span_of(&site.sources, &site.lists[list].sheets, rule)
    })
}
