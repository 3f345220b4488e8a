//! `state/leak`: an option's look holds in every state.

use crate::check::{Check, Scope};
use crate::example::Example;
use crate::painted::visible::{Change, UNSEEN, changes, element_name};
use crate::relevance::dependence::longhands_of;
use crate::relevance::reads::Colors;
use crate::relevance::{OptionReach, host_options};
use crate::sink::{Cause, Fault, MendKind, Sink};
use crate::survey::Survey;
use stilk_engine::cascade::Styled;
use stilk_engine::css::compute::resolve_colors;
use stilk_language::case::{Look, Unit};
use stilk_language::system::{Control, OptionId, StateId, StateSet, Variant};
use stilk_language::tokens::{Piece, Theme};
use stilk_text::diagnostic::{Diagnostic, Level};
use stilk_text::source::Span;

/// The check.
pub const CHECK: Check = Check {
    id: "state/leak",
    summary: "an option that changes a property at rest does not fall back to the control's own look under the pointer",
    why: "The base's hover sets a fill, the outline option takes the fill away at rest only: under the pointer the outline \
          button turns into a solid one.",
    source: "CSS Cascading and Inheritance 5: the state's rule wins over the option's",
    level: Level::Warning,
    mend: "Let options and states set locals and the control paint with them, or write the state in the option as well.",
    fails: Example::sheet(
        "@control button {\n  background: {sea}; color: {paper};\n  @state hover { background: {ink}; }\n  @option outline { background: transparent; color: {sea}; }\n}\n",
    ),
    passes: Example::sheet(
        "@control button {\n  background: {sea}; color: {paper};\n  @state hover { background: {ink}; }\n  @option outline {\n    background: transparent; color: {sea};\n    @state hover { background: {mist}; }\n  }\n}\n",
    ),
    scope: Scope::Controls(run),
};

/// The variants that differ from the default by one option, on a host.
pub(crate) fn by_one_option(control: &Control, host: usize) -> Vec<(OptionId, Variant)> {
    let default = control.default_variant();
    let mut found: Vec<(OptionId, Variant)> = Vec::new();
    for variant in control.variants_near(host) {
        let mut others =
            variant.choices.iter().zip(&default.choices).enumerate().filter(|(_, (own, usual))| own != usual);
        if let (Some((axis, (Some(option), _))), None) = (others.next(), others.next()) {
            found.push((OptionId { axis, option: *option }, variant.clone()));
        }
    }
    found
}

/// The same for a check of what options do: on hosts beside the first only those that do something of their own there.
pub(crate) fn by_one_option_on(control: &Control, host: usize) -> Vec<(OptionId, Variant)> {
    let of_own = host_options::of_own(control, host);
    let mut found = by_one_option(control, host);
    found.retain(|(option, _)| host == 0 || of_own.iter().any(|options| options.contains(option)));
    found
}

fn run(survey: &Survey, sink: &mut Sink) {
    let system = survey.system;
    // Two colours may be one in a theme and not in another.
    let themes = survey.themes(Colors::All);
    for control in survey.controls.iter().copied() {
        for host in survey.hosts(control) {
            let (may, never): (Vec<_>, Vec<_>) =
                by_one_option_on(control, host).into_iter().partition(|(option, _)| may_leak(control, *option));
            sink.decided(CHECK.id, (never.len() * STATES.len() * system.tokens.themes().len()) as u64);
            for (theme, stands_for) in themes.iter().filter(|_| !may.is_empty()) {
                judge(survey, (control, host), &may, (theme, *stands_for), sink);
            }
        }
    }
}

/// The states that people see most.
const STATES: [StateId; 3] = [StateId::Hover, StateId::Focus, StateId::Active];

/// Whether a state of the control sets what the option sets at rest: the same local or longhand, or a longhand that an
/// option's local is painted with.
fn may_leak(control: &Control, option: OptionId) -> bool {
    let reached = OptionReach::new(control, option);
    // What the states of a placed control do with its locals stands in that control's rules.
    if reached.reaches_placed {
        return true;
    }
    // A local that stands for another one until a state sets it.
    let stands_in = |name: &str| {
        control.rules.iter().flat_map(|rule| &rule.declarations).any(|declaration| {
            declaration.value.pieces.windows(2).any(|pair| match pair {
                [Piece::Local(local), Piece::Text(text)] => local == name && text.trim_start().starts_with(','),
                _ => false,
            })
        })
    };
    let of_states = control.rules.iter().filter(|rule| !rule.states.is_rest()).flat_map(|rule| &rule.declarations);
    of_states.into_iter().any(|declaration| match declaration.is_local() {
        true => reached.locals.contains(&declaration.name.value) || stands_in(&declaration.name.value),
        false => longhands_of(&declaration.name.value).iter().any(|longhand| reached.longhands.contains(longhand)),
    })
}

/// Judges options of a control on a host in a theme.
fn judge<'s>(
    survey: &Survey<'s>,
    (control, host): (&'s Control, usize),
    options: &[(OptionId, Variant)],
    (theme, stands_for): (&Theme, u64),
    sink: &mut Sink,
) {
    let system = survey.system;
    let unit = |variant: Variant| Unit { control, host, variant, theme: theme.clone() };
    let default = unit(control.default_variant());
    let rest = StateSet::default();
    let plain_rest = survey.look(survey.look_engine, &default, &rest);
    for state in STATES {
        let states = StateSet::of([state]);
        let plain = survey.look(survey.look_engine, &default, &states);
        if changes(&plain_rest, &plain).is_empty() {
            continue;
        }
        for (option, variant) in options {
            let unit = unit(variant.clone());
            let own_rest = survey.look(survey.look_engine, &unit, &rest);
            let own = survey.look(survey.look_engine, &unit, &states);
            sink.decided(CHECK.id, stands_for);
            // Elements are named by part: another option may bring other elements.
            for change in changes(&own_rest, &own) {
                if !is_plain_again(&change, &own, [&plain_rest, &plain])
                    || !is_set_by(survey, control, *option, &own_rest, &change)
                {
                    continue;
                }
                let Some(style) = change.style(&own) else { continue };
                let declaration = survey.tracer.origin(style, change.longhand).declaration;
                // What the option itself says of the state is meant, also where it is the same.
                if declaration.is_some_and(|span| is_of_option(control, *option, span)) {
                    continue;
                }
                let fault = fault(control, *option, state, &change, &own, declaration);
                sink.fail_case(system, &unit, &states, stands_for, fault);
            }
        }
    }
}

/// Whether a state brings back to an element of a variant what the plain control has in that state, and not at rest.
fn is_plain_again(change: &Change, own: &Look, [plain_rest, plain]: [&Look; 2]) -> bool {
    if UNSEEN.has(change.longhand) {
        return false;
    }
    let Some((part, _)) = own.mounted.elements().find(|(_, node)| *node == change.at.node) else { return false };
    let there = |look: &Look| {
        let node = look.mounted.elements().find(|(name, _)| *name == part)?.1;
        let style = look.styles.of(Styled { node, ..change.at })?;
        style.get(change.longhand).ok().map(|value| resolve_colors(value, style.surroundings()))
    };
    let (usual_rest, usual) = (there(plain_rest), there(plain));
    usual.is_some() && change.after == usual && change.before != usual_rest && usual != usual_rest
}

fn fault(
    control: &Control,
    option: OptionId,
    state: StateId,
    change: &Change,
    own: &Look,
    declaration: Option<Span>,
) -> Fault {
    let (name, option) = (state.name(), control.option_name(option));
    let property = change.longhand.name();
    let element = element_name(own, change.at);
    let message = format!(
        "in {name} the `{property}` of {element} in `{}.{option}` is that of a plain `{0}` again",
        control.name.value
    );
    let diagnostic = Diagnostic::new(CHECK.level, CHECK.id, declaration.unwrap_or(control.name.span), message)
        .label(format!("wins over what `{option}` says at rest"))
        .mend(format!("write `@state {name} {{ … }}` in `{option}`, or let both set a local"));
    Fault {
        cause: Cause { spans: vec![declaration], words: format!("{option} {name}") },
        score: 0.0,
        figures: format!("`{property}` as without it"),
        diagnostic,
        mend: MendKind::AsSaid,
        choice: None,
    }
}

/// Whether a rule of the option gives an element its value at rest.
fn is_set_by(survey: &Survey, control: &Control, option: OptionId, rest: &Look, change: &Change) -> bool {
    let Some(style) = change.style(rest) else { return false };
    let Some(span) = survey.tracer.origin(style, change.longhand).declaration else { return false };
    is_of_option(control, option, span)
}

fn is_of_option(control: &Control, option: OptionId, span: Span) -> bool {
    let rules = control.rules.iter().filter(|rule| rule.options.contains(&option));
    rules.into_iter().any(|rule| rule.declarations.iter().any(|declaration| declaration.span == span))
}
