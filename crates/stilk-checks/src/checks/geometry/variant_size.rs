//! `geometry/variant-size`: options that are not about size keep it.

use crate::check::{Check, Scope};
use crate::checks::state::leak::by_one_option_on;
use crate::example::Example;
use crate::painted::drawn::SIZES;
use crate::relevance::OptionReach;
use crate::relevance::reads::Colors;
use crate::sink::{Cause, Fault, MendKind, Sink};
use crate::survey::Survey;
use stilk_engine::cascade::Styled;
use stilk_engine::css::Unknown;
use stilk_engine::css::property::{Longhand, Longhand as L};
use stilk_engine::css::serialize::number;
use stilk_language::case::{Look, Unit};
use stilk_language::system::{Control, OptionId, StateSet, Variant};
use stilk_language::tokens::Theme;
use stilk_text::diagnostic::{Diagnostic, Level};

/// The check.
pub const CHECK: Check = Check {
    id: "geometry/variant-size",
    summary: "options of axes other than size and shape keep the size of the box",
    why: "An outline button that is 2px higher than the solid one beside it: the row does not line up.",
    source: "CSS 2, chapter 8 (box model)",
    level: Level::Warning,
    mend: "Give the control the border at rest, transparent, and let the option only colour it.",
    fails: Example::sheet(
        "@control button {\n  background: {sea}; color: {paper}; border: 0; padding: {gap};\n  @option outline { background: transparent; border: 2px solid {sea}; color: {sea}; }\n}\n",
    ),
    passes: Example::sheet(
        "@control button {\n  background: {sea}; color: {paper}; border: 2px solid transparent; padding: {gap};\n  @option outline { background: transparent; border-color: {sea}; color: {sea}; }\n}\n",
    ),
    scope: Scope::Controls(run),
};

/// What is larger than this is meant; what is smaller is an oversight.
const OVERSIGHT: f64 = 4.0;

/// Axes that are about sizes.
const ABOUT_SIZE: [&str; 6] = ["size", "shape", "corners", "density", "width", "height"];

const VERTICAL: [L; 4] = [L::PaddingTop, L::PaddingBottom, L::BorderTopWidth, L::BorderBottomWidth];
const HORIZONTAL: [L; 4] = [L::PaddingLeft, L::PaddingRight, L::BorderLeftWidth, L::BorderRightWidth];

/// What else makes a box larger.
const OTHERS: [L; 7] =
    [L::FontSize, L::FontWeight, L::LetterSpacing, L::ColumnGap, L::RowGap, L::MinHeight, L::MinWidth];

fn run(survey: &Survey, sink: &mut Sink) {
    let system = survey.system;
    // A colour changes no size.
    let themes = survey.themes(Colors::None);
    for control in survey.controls.iter().copied() {
        for host in survey.hosts(control) {
            let (options, never): (Vec<_>, Vec<_>) =
                by_one_option_on(control, host).into_iter().partition(|(option, _)| may_change_size(control, *option));
            sink.decided(CHECK.id, (never.len() * system.tokens.themes().len()) as u64);
            for (theme, stands_for) in themes.iter().filter(|_| !options.is_empty()) {
                judge(survey, (control, host), &options, (theme, *stands_for), sink);
            }
        }
    }
}

/// Whether an option, or the default one that it takes the place of, sets anything that a size depends on and is about
/// nothing but looks.
fn may_change_size(control: &Control, option: OptionId) -> bool {
    let axis = &control.axes[option.axis];
    let usual = axis.default.map(|usual| OptionId { axis: option.axis, option: usual });
    let sets = std::iter::once(option).chain(usual).any(|option| {
        let reach = OptionReach::new(control, option);
        reach.reaches_placed || SIZES.iter().any(|longhand| reach.longhands.contains(&longhand))
    });
    sets && !brings_elements(control, option)
}

/// Whether elements come and go with the axis of an option: it is about what stands in the control, and that has a size.
fn brings_elements(control: &Control, option: OptionId) -> bool {
    let axis = &control.axes[option.axis];
    let document = &control.template.document;
    let mut nodes = control.template.hosts.iter().flat_map(|host| document.descendants(host.node));
    let is_of_axis = |name: &str| axis.options.iter().any(|option| option.as_str() == name);
    nodes.any(|node| {
        let when = document.element(node).and_then(|element| element.attribute("data-when"));
        when.is_some_and(|list| list.split_ascii_whitespace().any(is_of_axis))
    })
}

/// Judges the options of a control on a host in a theme.
fn judge<'s>(
    survey: &Survey<'s>,
    (control, host): (&'s Control, usize),
    options: &[(OptionId, Variant)],
    (theme, stands_for): (&Theme, u64),
    sink: &mut Sink,
) {
    let system = survey.system;
    let rest = StateSet::default();
    let unit = |variant| Unit { control, host, variant, theme: theme.clone() };
    let base = survey.look(survey.look_engine, &unit(control.default_variant()), &rest);
    for (id, variant) in options.iter().cloned() {
        if ABOUT_SIZE.contains(&control.axes[id.axis].name.value.as_str()) {
            continue;
        }
        let mut unknown = None;
        let unit = unit(variant);
        let look = survey.look(survey.look_engine, &unit, &rest);
        for (direction, longhands) in [("height", VERTICAL), ("width", HORIZONTAL)] {
            let sum = |look: &Look| {
                let style = look.styles.element(look.mounted.host).ok_or(Unknown("the control has no style"))?;
                longhands.iter().map(|longhand| style.px(*longhand)).sum::<Result<f64, _>>()
            };
            // What the layout knows is the whole size; else border and padding are what can be told.
            let laid_out = |look: &Look| {
                let placed = look.layout().ok()?.of(Styled::element(look.mounted.host)).copied()?;
                if direction == "height" { placed.height().ok() } else { placed.width().ok() }
            };
            let sums = || (sum(&base), sum(&look));
            let sizes = laid_out(&base).zip(laid_out(&look)).map_or_else(sums, |(usual, own)| (Ok(usual), Ok(own)));
            let (usual, own) = match sizes {
                (Ok(usual), Ok(own)) => (usual, own),
                (Err(reason), _) | (_, Err(reason)) => {
                    unknown = Some(reason);
                    continue;
                }
            };
            let more = own - usual;
            if more.abs() < 0.01 || more.abs() > OVERSIGHT {
                continue;
            }
            let changed = |longhand: &Longhand| {
                let px =
                    |look: &Look| look.styles.element(look.mounted.host).and_then(|style| style.px(*longhand).ok());
                px(&base) != px(&look)
            };
            let longhand = longhands.into_iter().chain(OTHERS).find(changed).unwrap_or(longhands[0]);
            let style = look.styles.element(look.mounted.host);
            let place = style.and_then(|style| survey.tracer.origin(style, longhand).declaration);
            let option = control.option_name(id);
            let step = if more > 0.0 { "larger" } else { "smaller" };
            let message =
                format!("`{option}` makes `{}` {}px {step} in {direction}", control.name.value, number(more.abs()));
            let diagnostic = Diagnostic::new(CHECK.level, CHECK.id, place.unwrap_or(control.name.span), message)
                .label(format!("changes the {}", longhand.name()))
                .mend("give the control the same border and padding at rest, a transparent border for one");
            let cause = Cause { spans: vec![place], words: option.to_owned() };
            let fault = Fault {
                cause,
                score: -more.abs(),
                figures: format!("{}px {step}", number(more.abs())),
                diagnostic,
                mend: MendKind::AsSaid,
                choice: None,
            };
            sink.fail_case(system, &unit, &rest, stands_for, fault);
        }
        sink.verdict(CHECK.id, stands_for, unknown);
        sink.settle(system, &unit);
    }
}
