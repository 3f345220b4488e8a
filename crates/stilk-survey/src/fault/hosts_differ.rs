//! `foreign/hosts-differ`: a family looks the same on each of its hosts.

use super::{Kind, Said, finding};
use crate::look::{NEAR_LENGTH, px};
use crate::report::{By, LookRecord};
use stilk_engine::css::property::Longhand as L;
use stilk_text::diagnostic::Level;

/// What it is.
pub const KIND: Kind = Kind {
    id: "foreign/hosts-differ",
    summary: "a family looks the same on each of its hosts: the link as the button",
    why: "A button brings its own font, line height and alignment along, a link takes those of the text around it: the same class \
          gives two sizes side by side.",
    level: Level::Warning,
    mend: "Set in the family's base what the browser brings along: `font: inherit`, `line-height`, `text-align`.",
    source: "HTML, 15.5.2 (the button element and its kin reset font and line height)",
    fails: "<style>\n\
             body { font: 18px/1.5 serif }\n\
             .act { padding: 8px 16px; border: 1px solid #14536b; background: #14536b; color: #fff; text-decoration: none }\n\
             </style>\n\
             <a class=\"act\" href=\"/\">Home</a>\n\
             <button class=\"act\">Book</button>\n\
             ",
    passes: "<style>\n\
             body { font: 18px/1.5 serif }\n\
             .act { padding: 8px 16px; border: 1px solid #14536b; background: #14536b; color: #fff; text-decoration: none; font: inherit; text-align: center }\n\
             </style>\n\
             <a class=\"act\" href=\"/\">Home</a>\n\
             <button class=\"act\">Book</button>\n\
             ",
};

/// What differs between the hosts of a family because a browser brings it along for one of them.
pub fn tell(family: &str, looks: &[&LookRecord], say: &mut dyn FnMut(Said)) {
    for (at, one) in looks.iter().enumerate() {
        for other in looks[at + 1..].iter().filter(|other| other.host != one.host && other.options == one.options) {
            let differing: Vec<(L, &str, &str)> = one
                .own
                .iter()
                .filter_map(|(longhand, value, by)| {
                    let (_, theirs, theirs_by) = other.own.iter().find(|(known, _, _)| known == longhand)?;
                    // What the browser says of one host, and nobody of the other; how boxes are laid out is each element's own.
                    let is_of_browser = *by == By::Browser && *theirs_by != By::Browser
                        || *theirs_by == By::Browser && *by != By::Browser;
                    let counts = is_of_browser
                        && !matches!(longhand, L::Display | L::Width | L::Height | L::MinHeight | L::MinWidth);
                    // A pixel is no other look.
                    let is_near = px(value).zip(px(theirs)).is_some_and(|(a, b)| (a - b).abs() <= NEAR_LENGTH);
                    (counts && value != theirs && !is_near).then_some((*longhand, value.as_str(), theirs.as_str()))
                })
                .collect();
            if differing.is_empty() {
                continue;
            }
            let words: Vec<String> = differing
                .iter()
                .take(3)
                .map(|(longhand, a, b)| {
                    format!("`{}` is `{a}` on {}, `{b}` on {}", longhand.name(), one.host, other.host)
                })
                .collect();
            let more = differing.len().saturating_sub(3);
            let more = if more > 0 { format!(", and {more} more") } else { String::new() };
            let message =
                format!("`{family}` is not the same on {} and {}: {}{more}", one.host, other.host, words.join("; "));
            let mut diagnostic =
                finding(&KIND, one.base.or(other.base), message).label("leaves it to the browser").mend(format!(
                    "set {} in `{family}`",
                    differing.iter().take(4).map(|(l, _, _)| format!("`{}`", l.name())).collect::<Vec<_>>().join(", ")
                ));
            if let Some(span) = other.tag {
                diagnostic = diagnostic.related(span, format!("on {}", other.host));
            }
            let mut hosts = [one.host.as_str(), other.host.as_str()];
            hosts.sort_unstable();
            say(Said {
                cause: format!("{family} {hosts:?}"),
                diagnostic,
                place: other.place.clone(),
                controls: other.controls,
                page: other.page,
                family: family.to_owned(),
            });
        }
    }
}
