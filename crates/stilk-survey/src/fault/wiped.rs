//! `foreign/wiped`: no shorthand takes away what another rule draws.

use super::{Kind, Said, Seen, finding};
use stilk_engine::cascade::Styled;
use stilk_engine::css::property::Longhand as L;
use stilk_engine::css::serialize::to_css;
use stilk_text::diagnostic::Level;

/// What it is.
pub const KIND: Kind = Kind {
    id: "foreign/wiped",
    summary: "no `background` that means a colour takes away the picture that another rule draws",
    why: "`background: red` sets eight properties. The arrow of the select, drawn by `background-image`, is gone in the error \
          state, and nobody meant it.",
    level: Level::Warning,
    mend: "Write `background-color` where only the colour is meant.",
    source: "CSS Backgrounds and Borders 3, 2.10 (what a shorthand leaves out is set to its initial value)",
    fails: "<style>\n\
             .pick { appearance: none; padding: 6px 24px 6px 8px; border: 1px solid #14536b; background: #fff url(arrow.svg) no-repeat right }\n\
             .pick.has-error { background: #fdf2f0 }\n\
             </style>\n\
             <select class=\"pick has-error\" aria-label=\"Port\"><option>Skerry</option></select>\n\
             ",
    passes: "<style>\n\
             .pick { appearance: none; padding: 6px 24px 6px 8px; border: 1px solid #14536b; background: #fff url(arrow.svg) no-repeat right }\n\
             .pick.has-error { background-color: #fdf2f0 }\n\
             </style>\n\
             <select class=\"pick has-error\" aria-label=\"Port\"><option>Skerry</option></select>\n\
             ",
};

/// Looks at a control.
pub fn look(seen: &Seen, say: &mut dyn FnMut(Said)) {
    let at = Styled::element(seen.member.found.bearer);
    // A rule that draws a picture on it at rest.
    let draws =
        seen.matched.host.iter().chain(&seen.matched.inside).map(|index| &seen.rules.all[*index]).find(|rule| {
            rule.sets.has(L::BackgroundImage)
                && !rule.asks_state()
                && rule.pseudo.is_none()
                && seen.holds(rule) == Some(true)
                && seen.style_rule(rule).declarations.iter().any(|declaration| {
                    let traced = &seen.sheets[usize::from(rule.sheet)];
                    let span = traced.span(seen.sources, seen.style_rule(rule).file, declaration.offset);
                    let text = span.map_or("", |span| seen.sources.text(span));
                    text.starts_with("background") && text.contains("url(")
                })
        });
    let Some(draws) = draws else { return };
    for (states, look) in seen.looks.iter().filter(|(states, _)| states.len() <= 1) {
        let Some(style) = look.styles.of(at) else { continue };
        let is_gone = style.get(L::BackgroundImage).is_ok_and(|image| to_css(image) == "none");
        let Some(winner) = seen.winner(look, at, L::BackgroundImage).filter(|_| is_gone) else { continue };
        if std::ptr::eq(winner, draws) || !seen.is_own(winner) {
            continue;
        }
        let Some(place) = seen.declaration(look, at, L::BackgroundImage) else { continue };
        let text = seen.sources.text(place);
        let names_picture =
            ["url(", "gradient(", "none", "inherit", "unset", "initial"].iter().any(|word| text.contains(word));
        let is_shorthand = text.split(':').next().is_some_and(|name| name.trim() == "background");
        if !is_shorthand || names_picture {
            continue;
        }
        let state =
            states.ids().first().map_or_else(String::new, |id| format!(" in {}", seen.system.states.get(*id).name));
        let by = seen.style_rule(winner).selector_text();
        let message =
            format!("`{by}` takes the picture of `{}` away{state}: `background` sets it to none", seen.name());
        let mut diagnostic =
            finding(&KIND, Some(place), message).label("sets the picture as well").mend("write `background-color`");
        if let Some(span) = seen.span_of(draws) {
            diagnostic = diagnostic.related(span, "draws it");
        }
        say(Said {
            cause: format!("{by} {}", place.start),
            diagnostic,
            place: seen.place.to_owned(),
            controls: seen.stands_for,
            page: seen.member.page,
            family: seen.family.name.clone(),
        });
    }
}
