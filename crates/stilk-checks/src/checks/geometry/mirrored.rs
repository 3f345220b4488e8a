//! `geometry/mirrored`: where text runs from right to left, a control is its own mirror image.

use crate::check::{Check, Scope};
use crate::checks::state::leak::by_one_option_on;
use crate::example::Example;
use crate::painted::visible::element_name;
use crate::sink::{Cause, Fault, MendKind, Sink};
use crate::survey::Survey;
use stilk_engine::cascade::{Style, Styled};
use stilk_engine::css::Unknown;
use stilk_engine::css::property::Longhand as L;
use stilk_engine::css::serialize::to_css;
use stilk_engine::css::value::Value;
use stilk_engine::layout::Rect;
use stilk_language::case::{Look, Unit};
use stilk_language::system::{Rule, StateId, StateSet, System, Variant};
use stilk_text::diagnostic::{Diagnostic, Level};
use stilk_text::source::Span;

/// The check.
pub const CHECK: Check = Check {
    id: "geometry/mirrored",
    summary: "where sheets write logical sides, a control that runs from right to left is the mirror image of one that runs from left to right",
    why: "In Arabic or Hebrew the icon stands on the other side of its label. A padding that was given to the left stays there, \
          and the label runs into the icon.",
    source: "CSS Logical Properties and Values 1; W3C Internationalization, Structural markup and right-to-left text",
    level: Level::Warning,
    mend: "Write the logical side, `padding-inline-start` for `padding-left`; or say with `&:dir(rtl)` what is meant.",
    fails: Example::drawn(
        ROW,
        "@control button {\n  display: flex; padding-inline: {gap}; background: {sea}; color: {paper};\n  @part icon { margin-right: {gap}; inline-size: 16px; block-size: 16px; }\n}\n",
    ),
    passes: Example::drawn(
        ROW,
        "@control button {\n  display: flex; padding-inline: {gap}; background: {sea}; color: {paper};\n  @part icon { margin-inline-end: {gap}; inline-size: 16px; block-size: 16px; }\n}\n",
    ),
    scope: Scope::Controls(run),
};

const ROW: &str =
    "<button type=\"button\"><span part=\"icon\"></span><span part=\"label\"><slot>Book</slot></span></button>\n";

/// Sides that change places, and how the first of them is written for either direction.
const SIDES: [(L, L, &str); 10] = [
    (L::PaddingLeft, L::PaddingRight, "padding-inline"),
    (L::MarginLeft, L::MarginRight, "margin-inline"),
    (L::BorderLeftWidth, L::BorderRightWidth, "border-inline"),
    (L::BorderLeftStyle, L::BorderRightStyle, "border-inline"),
    (L::BorderLeftColor, L::BorderRightColor, "border-inline"),
    (L::BorderTopLeftRadius, L::BorderTopRightRadius, "border-start-start-radius"),
    (L::BorderBottomLeftRadius, L::BorderBottomRightRadius, "border-end-start-radius"),
    (L::Left, L::Right, "inset-inline"),
    (L::ScrollMarginLeft, L::ScrollMarginRight, "scroll-margin-inline"),
    (L::ScrollPaddingLeft, L::ScrollPaddingRight, "scroll-padding-inline"),
];

const NOT_LAID_OUT: Unknown = Unknown("where a box stands from right to left takes a layout");

/// By more than this a box stands elsewhere, in px.
const OFF: f32 = 1.0;

/// Whether a system asks for both directions: who never writes a logical side has not.
pub(crate) fn is_asked(system: &System) -> bool {
    system.controls.iter().flat_map(|control| &control.rules).any(cares_for_direction)
}

fn run(survey: &Survey, sink: &mut Sink) {
    let system = survey.system;
    if !is_asked(system) {
        return;
    }
    let theme = system.tokens.default_theme();
    for control in survey.controls.iter().copied() {
        for host in survey.hosts(control) {
            let options =
                by_one_option_on(control, host).into_iter().map(|(_, variant)| (variant, StateSet::default()));
            let states = [StateId::Checked, StateId::Selected, StateId::Invalid, StateId::Open, StateId::Busy]
                .into_iter()
                .filter(|state| control.rules.iter().any(|rule| rule.states.has(*state)));
            let states = states.map(|state| (control.default_variant(), StateSet::of([state])));
            let rest = std::iter::once((control.default_variant(), StateSet::default()));
            let cases: Vec<(Variant, StateSet)> = rest.chain(options).chain(states).collect();
            for (variant, states) in cases {
                let unit = Unit { control, host, variant, theme: theme.clone() };
                let look = survey.look(survey.look_engine, &unit, &states);
                let mirrored = survey.look(survey.mirrored(), &unit, &states);
                let found = differences(survey, system, &unit, &look, &mirrored);
                // Where it is not known where something stands, nobody knows whether that is its mirror image.
                let unknown = found.iter().any(|found| found.is_open).then_some(NOT_LAID_OUT);
                sink.verdict(CHECK.id, 1, unknown);
                sink.settle(system, &unit);
                for found in found.into_iter().filter(|found| !found.is_open) {
                    sink.fail_case(system, &unit, &states, 1, fault(survey, &unit, &look, &found));
                }
            }
        }
    }
}

/// Whether a rule holds in one direction only.
fn asks_direction(rule: &Rule) -> bool {
    let asks = |text: &String| text.contains(":dir(") || text.contains("[dir");
    rule.nested.iter().chain(&rule.hosts).any(asks) || asks(&rule.target.condition)
}

/// Whether a rule says something by the direction of text.
fn cares_for_direction(rule: &Rule) -> bool {
    asks_direction(rule)
        || rule.declarations.iter().any(|declaration| {
            let name = declaration.name.value.as_str();
            name.contains("-inline") && !name.ends_with("-size")
                || name.starts_with("border-start-")
                || name.starts_with("border-end-")
        })
}

/// Something that stays where it is when all else changes sides.
struct Unmirrored {
    at: Styled,
    longhand: L,
    place: Span,
    /// What to write.
    logical: &'static str,
    /// Whether it may be the middle, which is its own image: that takes a layout.
    is_open: bool,
}

/// What is not mirrored in a look, one thing for each declaration.
fn differences(survey: &Survey, system: &System, unit: &Unit, look: &Look, mirrored: &Look) -> Vec<Unmirrored> {
    let mut found: Vec<Unmirrored> = Vec::new();
    for node in look.document.descendants(look.mounted.host) {
        for at in look.styles.boxes(node) {
            let (Some(style), Some(other)) = (look.styles.of(at), mirrored.styles.of(at)) else { continue };
            // What is written for one direction is meant for it, and what stands in the middle is its own image.
            let stands_well = is_mirrored(look, mirrored, at);
            for (longhand, logical, is_open) in unmirrored(style, other, stands_well) {
                let Some(place) = survey.tracer.origin(style, longhand).declaration else { continue };
                let is_meant = says_direction(system, unit, place)
                    || survey.tracer.origin(other, longhand).declaration != Some(place)
                    || found.iter().any(|known| known.place == place);
                if !is_meant {
                    found.push(Unmirrored { at, longhand, place, logical, is_open });
                }
            }
        }
    }
    found
}

/// Whether a box, and the text in it, stands in one look where its mirror image stands in the other; nothing where that is not
/// known.
fn is_mirrored(look: &Look, mirrored: &Look, at: Styled) -> Option<bool> {
    let host = Styled::element(look.mounted.host);
    let side = |look: &Look| -> Option<([f32; 2], Option<[f32; 2]>)> {
        let [left, _, right, _] = look.gaps(at, host).ok()?;
        let layout = look.layout().ok()?;
        let own: Rect = layout.of(at)?.rect().ok()?;
        let text = layout.text_of(at).and_then(|text| text.rect().ok());
        Some(([left, right], text.map(|text| [text.x - own.x, own.x + own.width - text.x - text.width])))
    };
    let ((box_is, text_is), (box_was, text_was)) = (side(mirrored)?, side(look)?);
    let swapped = |is: [f32; 2], was: [f32; 2]| (is[0] - was[1]).abs() <= OFF && (is[1] - was[0]).abs() <= OFF;
    Some(swapped(box_is, box_was) && text_is.zip(text_was).is_none_or(|(is, was)| swapped(is, was)))
}

/// Longhands that are the same in both directions and should not be, and whether that is open. Where the box stands well, lengths
/// around it are well.
fn unmirrored(style: &Style, other: &Style, stands_well: Option<bool>) -> Vec<(L, &'static str, bool)> {
    let mut found = Vec::new();
    let value = |style: &Style, longhand: L| style.get(longhand).ok().cloned();
    let set = style.set_by_author();
    // The sides of what is turned are no sides of the text: ticks and arrows are drawn so.
    let is_turned = !style.is(L::Rotate, "none") || !style.is(L::Transform, "none");
    for (left, right, logical) in SIDES {
        let is_edge = !matches!(left, L::PaddingLeft | L::MarginLeft | L::Left);
        if !set.has(left) && !set.has(right) || is_turned && is_edge {
            continue;
        }
        let is_of_place = matches!(left, L::MarginLeft | L::Left);
        // An inset says nothing alone: half of a width and a translation are the middle.
        if is_of_place && (stands_well == Some(true) || left == L::Left && style.is(L::Position, "static")) {
            continue;
        }
        let pairs = [value(style, left), value(style, right), value(other, left), value(other, right)];
        let [Some(left_was), Some(right_was), Some(left_is), Some(right_is)] = pairs else { continue };
        let is_drawn = |width: L, line: L| style.px(width).unwrap_or(0.0) > 0.0 && !style.is(line, "none");
        let is_seen =
            is_drawn(L::BorderLeftWidth, L::BorderLeftStyle) || is_drawn(L::BorderRightWidth, L::BorderRightStyle);
        let is_line = matches!(left, L::BorderLeftStyle | L::BorderLeftColor);
        if (left_was, right_was) != (right_is, left_is) && (!is_line || is_seen) {
            let changed = if left_changes(style, left, right) { left } else { right };
            found.push((changed, logical, is_of_place && stands_well.is_none()));
        }
    }
    let keeps = |longhand: L| set.has(longhand) && value(style, longhand) == value(other, longhand);
    if keeps(L::TextAlign) && ["left", "right"].iter().any(|side| style.is(L::TextAlign, side)) {
        found.push((L::TextAlign, "text-align: start", false));
    }
    if keeps(L::BackgroundImage) && runs_across(&to_css(&value(style, L::BackgroundImage).unwrap_or(Value::Unmodelled)))
    {
        found.push((L::BackgroundImage, "&:dir(rtl)", false));
    }
    let moves = |longhand: &L| keeps(*longhand) && stands_well != Some(true) && !style.is(*longhand, "none");
    let moved = [L::Translate, L::Transform].into_iter().filter(moves);
    found.extend(moved.map(|longhand| (longhand, "&:dir(rtl)", stands_well.is_none())));
    found
}

/// Which of two sides is the one that is not as usual.
fn left_changes(style: &Style, left: L, right: L) -> bool {
    let own = |longhand: L| style.winner(longhand).is_some_and(|id| id.sheet != 0);
    let is_nothing =
        |longhand: L| style.px(longhand) == Ok(0.0) || style.is(longhand, "auto") || style.is(longhand, "none");
    own(left) && (!own(right) || !is_nothing(left))
}

/// Whether a gradient runs to one side.
fn runs_across(image: &str) -> bool {
    image.split("linear-gradient(").skip(1).any(|gradient| {
        let first = gradient.split(',').next().unwrap_or_default().trim();
        let degrees = first.strip_suffix("deg").and_then(|degrees| degrees.parse::<f64>().ok());
        first.starts_with("to right")
            || first.starts_with("to left")
            || degrees.is_some_and(|degrees| degrees % 180.0 != 0.0)
    })
}

/// Whether a declaration stands in a rule that asks for a direction, or some rule that does sets the same.
fn says_direction(system: &System, unit: &Unit, place: Span) -> bool {
    let rules = system.controls.iter().flat_map(|control| &control.rules);
    let own = rules.filter(|rule| rule.declarations.iter().any(|declaration| declaration.span == place));
    own.into_iter().any(|own| {
        let names: Vec<&str> = own
            .declarations
            .iter()
            .filter(|declaration| declaration.span == place)
            .map(|declaration| declaration.name.value.as_str())
            .collect();
        asks_direction(own)
            || unit.control.rules.iter().any(|rule| {
                asks_direction(rule)
                    && rule.target.part == own.target.part
                    && rule.declarations.iter().any(|declaration| names.contains(&declaration.name.value.as_str()))
            })
    })
}

fn fault(survey: &Survey, unit: &Unit, look: &Look, found: &Unmirrored) -> Fault {
    let Unmirrored { at, longhand, place, logical, .. } = found;
    let control = &unit.control.name.value;
    let name = element_name(look, *at);
    let property = longhand.name();
    let message = format!("from right to left the `{property}` of {name} in `{control}` stays where it is");
    let declared = survey.sources.text(*place).split(':').next().unwrap_or_default().trim().to_owned();
    let mend = match *logical {
        "&:dir(rtl)" => format!("write what it is there: `&:dir(rtl) {{ {declared}: … }}`"),
        "text-align: start" => "write `start` or `end`".to_owned(),
        logical => format!("write `{logical}`, or one of its sides, for `{declared}`"),
    };
    let diagnostic = Diagnostic::new(CHECK.level, CHECK.id, *place, message)
        .label("a side of the screen, not of the text")
        .mend(mend);
    let cause = Cause { spans: vec![Some(*place)], words: String::new() };
    let figures = "not mirrored".to_owned();
    Fault { cause, score: 0.0, figures, diagnostic, mend: MendKind::AsSaid, choice: None }
}

#[cfg(test)]
mod tests {
    use super::runs_across;

    #[test]
    fn gradients_run_across_by_side_or_angle() {
        for (image, expected) in [
            ("linear-gradient(to right, red, blue)", true),
            ("linear-gradient(90deg, red, blue)", true),
            ("linear-gradient(red, blue)", false),
            ("linear-gradient(180deg, red, blue)", false),
            ("radial-gradient(circle at left, red, blue)", false),
        ] {
            assert_eq!(runs_across(image), expected, "{image}");
        }
    }
}
