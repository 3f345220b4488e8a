//! `reset/forced-colors`: states stay visible where the device forces its own colours.

use crate::check::{Check, Scope};
use crate::example::Example;
use crate::painted::boxes::{PaintedBox, boxes, marks_among};
use crate::painted::paint::has_generated_mark;
use crate::painted::visible::{Change, UNSEEN, changes, element_name};
use crate::relevance::Dependence;
use crate::relevance::reads::{Colors, Reads};
use crate::sink::{Cause, Fault, MendKind, Sink};
use crate::survey::Survey;
use stilk_engine::cascade::Style;
use stilk_engine::css::color::Color;
use stilk_engine::css::property::Longhand as L;
use stilk_engine::css::value::Value;
use stilk_language::case::{Look, Unit};
use stilk_language::system::{StateId, StateSet};
use stilk_text::diagnostic::{Diagnostic, Level};

/// The check.
pub const CHECK: Check = Check {
    id: "reset/forced-colors",
    summary: "marks, focus, checked, selected, mixed and invalid stay visible under forced colours",
    why: "With forced colours (high contrast on Windows) every background, shadow and gradient goes: a switch that says on \
          by its fill says nothing.",
    source: "CSS Color Adjustment 1, section 3.1; WCAG 2.2, 1.4.1",
    level: Level::Error,
    mend: "Draw the state with a border or an outline, or give it system colours: `@media (forced-colors: active) { \
           background-color: Highlight; forced-color-adjust: none; }`.",
    fails: Example::sheet(
        "@control button {\n  background: {sea}; color: {paper};\n  @state selected { background: {ink}; }\n}\n",
    ),
    passes: Example::sheet(
        "@control button {\n  background: {sea}; color: {paper};\n  @state selected { background: {ink}; outline: 2px solid; }\n}\n",
    ),
    scope: Scope::Controls(run),
};

const KEPT: [StateId; 5] = [StateId::Focus, StateId::Selected, StateId::Checked, StateId::Mixed, StateId::Invalid];

fn run(survey: &Survey, sink: &mut Sink) {
    let system = survey.system;
    let all = system.tokens.themes();
    let order = survey.theme_order();
    for control in survey.controls.iter().copied() {
        let dependence = Dependence::new(system, survey.look_engine, control, order.clone());
        // Colours are forced in every theme alike.
        let themes = dependence.themes(&Reads::changes(UNSEEN), Colors::None);
        for (host, (theme, stands_for)) in
            (0..control.template.hosts.len()).flat_map(|host| themes.iter().map(move |theme| (host, theme)))
        {
            let unit = Unit { control, host, variant: control.default_variant(), theme: all[*theme].clone() };
            let rest = StateSet::default();
            let (usual_rest, forced_rest) =
                (survey.look(survey.look_engine, &unit, &rest), survey.look(survey.forced(), &unit, &rest));
            vanishing(survey, &unit, (&usual_rest, &forced_rest), *stands_for, sink);
            for state in KEPT {
                let name = state.name();
                let states = StateSet::of([state]);
                let usual = survey.look(survey.look_engine, &unit, &states);
                let shown = changes(&usual_rest, &usual);
                if shown.is_empty() {
                    continue;
                }
                sink.decided(CHECK.id, *stands_for);
                let forced = survey.look(survey.forced(), &unit, &states);
                if changes(&forced_rest, &forced).iter().any(|change| stays(&forced_rest, &forced, change)) {
                    continue;
                }
                let place = shown
                    .first()
                    .and_then(|change| survey.tracer.origin(change.style(&usual)?, change.longhand).declaration);
                let message =
                    format!("under forced colours `{}` looks the same in {name} as at rest", control.name.value);
                let diagnostic = Diagnostic::new(CHECK.level, CHECK.id, place.unwrap_or(control.name.span), message)
                    .label("only colours, shadows or gradients change")
                    .mend(
                        "add a border, an outline or a mark, or system colours within `@media (forced-colors: active)`",
                    );
                let cause = Cause { spans: vec![Some(control.name.span)], words: name.into() };
                let figures = format!("no difference in {name}");
                sink.fail_case(
                    system,
                    &unit,
                    &states,
                    *stands_for,
                    Fault { cause, score: 0.0, figures, diagnostic, mend: MendKind::AsSaid, choice: None },
                );
            }
        }
    }
}

/// Marks that are seen at rest and not where colours are forced.
fn vanishing(survey: &Survey, unit: &Unit, (usual, forced): (&Look, &Look), stands_for: u64, sink: &mut Sink) {
    let all = match boxes(usual) {
        Ok(all) => all,
        Err(reason) => {
            sink.unknown(CHECK.id, stands_for, reason);
            return sink.settle(survey.system, unit);
        }
    };
    let document = &usual.document;
    let is_slider = |one: &&PaintedBox| {
        let is_range = document.element(one.at.node).is_some_and(|e| e.attribute("type") == Some("range"));
        match one.at.pseudo {
            None => is_range && one.style().is(L::Appearance, "none"),
            Some(pseudo) => is_range && (pseudo.name().ends_with("-track") || pseudo.name().ends_with("-thumb")),
        }
    };
    let mut marks = marks_among(usual, &all);
    marks.extend(all.iter().filter(is_slider));
    // Where there is no text, what is painted is all that there is.
    let has_text = document.descendants(usual.mounted.host).iter().any(|node| document.has_own_text(*node));
    if !has_text {
        let is_new = |one: &&PaintedBox| {
            one.at.node != usual.mounted.host && !document.is_within(usual.mounted.bearer, one.at.node)
        };
        marks = all.iter().filter(|one| marks.iter().any(|mark| mark.at == one.at) || is_new(one)).collect();
    }
    for one in marks {
        let Some(style) = forced.styles.of(one.at) else { continue };
        sink.decided(CHECK.id, stands_for);
        let is_icon = one.marks.iter().any(|mark| mark.what == "icon");
        if is_icon || !is_gone(style) {
            continue;
        }
        let painted = one.marks.iter().map(|mark| mark.longhand).find(|longhand| *longhand != L::BorderTopColor);
        // Where it is painted, not where its colour is chosen.
        let winner = one.style().winner(painted.unwrap_or(L::BackgroundImage));
        let place = winner.and_then(|id| survey.tracer.span(id));
        let control = &unit.control.name;
        let name = element_name(usual, one.at);
        let message = format!("under forced colours {name} of `{}` is not painted", control.value);
        let diagnostic = Diagnostic::new(CHECK.level, CHECK.id, place.unwrap_or(control.span), message)
            .label("a background alone, which goes")
            .mend(
                "give it a border, or within `@media (forced-colors: active)` a system colour and `forced-color-adjust: none`",
            );
        let cause = Cause { spans: vec![place.or(Some(control.span))], words: name };
        let rest = StateSet::default();
        let figures = "nothing is left of it".to_owned();
        let fault = Fault { cause, score: 0.0, figures, diagnostic, mend: MendKind::AsSaid, choice: None };
        sink.fail_case(survey.system, unit, &rest, stands_for, fault);
    }
}

/// Whether nothing of a box without text is painted where colours are forced: backgrounds become the page's, gradients and
/// shadows go, lines stay (CSS Color Adjustment 1, section 3.1).
fn is_gone(style: &Style) -> bool {
    let is_there = !style.is(L::Display, "none") && !style.is(L::Visibility, "hidden");
    // Pictures stay, and what is not known may be one.
    let is_pictured = match style.get(L::BackgroundImage) {
        Ok(Value::List(layers)) => layers.contains(&Value::Unmodelled),
        Ok(value) => *value == Value::Unmodelled,
        Err(_) => true,
    };
    is_there
        && !is_pictured
        && !style.is(L::ForcedColorAdjust, "none")
        && is_as_the_page(style)
        && !has_line(style)
        && !has_generated_mark(style)
}

/// Whether the ground of a box is that of the page, or cannot be seen.
fn is_as_the_page(style: &Style) -> bool {
    let ground = style.used_color(L::BackgroundColor).ok();
    let page = Color::System("canvas").resolve(style.surroundings());
    ground.zip(page).is_some_and(|(ground, page)| ground.alpha == 0.0 || ground.srgb() == page.srgb())
}

/// Whether a border or an outline is drawn.
fn has_line(style: &Style) -> bool {
    let lines = [
        (L::BorderTopStyle, L::BorderTopWidth),
        (L::BorderBottomStyle, L::BorderBottomWidth),
        (L::BorderRightStyle, L::BorderRightWidth),
        (L::BorderLeftStyle, L::BorderLeftWidth),
        (L::OutlineStyle, L::OutlineWidth),
    ];
    lines.iter().any(|(line, width)| !style.is(*line, "none") && style.px(*width).unwrap_or(0.0) > 0.0)
}

/// Whether a change can be seen although colours are forced.
pub fn stays(before: &Look, after: &Look, change: &Change) -> bool {
    let (Some(new), old) = (change.style(after), change.style(before)) else { return false };
    let is_text_or_picture = match change.at.pseudo {
        Some(_) => has_generated_mark(new) || old.is_some_and(|old| has_generated_mark(old)),
        None => after.document.descendants(change.at.node).iter().any(|node| {
            after.document.has_own_text(*node) || after.document.element(*node).is_some_and(|e| e.local() == "svg")
        }),
    };
    let is_kept = |style: &Style| style.is(L::ForcedColorAdjust, "none");
    // The looks are those under forced colours: what differs is what is left, but grounds like that of the page.
    if change.longhand == L::BackgroundColor {
        return !(is_as_the_page(new) && old.is_none_or(|old| is_as_the_page(old)));
    }
    if change.is_color() || matches!(change.longhand, L::BoxShadow | L::TextShadow | L::BackgroundImage) {
        return true;
    }
    // A box that is moved, shown or grown counts where something of it is painted.
    is_kept(new) || is_text_or_picture || has_line(new) || old.is_some_and(|old| has_line(old))
}
