//! `state/leak`: an option's look holds in every state.

use crate::case::{Look, Unit};
use crate::check::sink::{Cause, Fault, Sink};
use crate::check::visible::{Change, UNSEEN, changes, element_name, style_of};
use crate::check::{Check, Example, Scope, Survey};
use crate::css::compute::resolve_colors;
use crate::diagnostic::{Diagnostic, Level};
use crate::source::Span;
use crate::system::{Control, OptionId, StateSet, Variant};

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
    scope: Scope::System(run),
};

/// The variants that differ from the default by one option, on a host.
pub(in crate::check) fn by_one_option(control: &Control, host: usize) -> Vec<(OptionId, Variant)> {
    let default = control.default_variant();
    let mut found: Vec<(OptionId, Variant)> = Vec::new();
    for variant in control.variants(host) {
        let mut others =
            variant.choices.iter().zip(&default.choices).enumerate().filter(|(_, (own, usual))| own != usual);
        if let (Some((axis, (Some(option), _))), None) = (others.next(), others.next()) {
            found.push((OptionId { axis, option: *option }, variant.clone()));
        }
    }
    found
}

fn run(survey: &Survey, sink: &mut Sink) {
    let system = survey.system;
    let theme = system.tokens.default_theme();
    for control in &system.controls {
        let unit = |variant: Variant| Unit { control, host: 0, variant, theme: theme.clone() };
        let default = unit(control.default_variant());
        let options = by_one_option(control, 0);
        if options.is_empty() {
            continue;
        }
        let rest = StateSet::default();
        let base_rest = survey.stage.look(&default, &rest);
        for name in ["hover", "focus", "active"] {
            let Some(id) = system.states.find(name) else { continue };
            let states = StateSet::of([id]);
            let base = survey.stage.look(&default, &states);
            if changes(&base_rest, &base).is_empty() {
                continue;
            }
            for (option, variant) in &options {
                let unit = unit(variant.clone());
                let (own_rest, own) = (survey.stage.look(&unit, &rest), survey.stage.look(&unit, &states));
                sink.decided(CHECK.id, 1);
                // Elements are named by part: another option may bring other elements.
                for change in changes(&own_rest, &own) {
                    if UNSEEN.contains(&change.longhand) {
                        continue;
                    }
                    let part = own.mounted.elements().find(|(_, node)| *node == change.node).map(|(part, _)| part);
                    let Some(part) = part else { continue };
                    let there = |look: &Look| {
                        let node = look.mounted.elements().find(|(name, _)| *name == part)?.1;
                        let style = style_of(look, node, change.pseudo)?;
                        style.get(change.longhand).ok().map(|value| resolve_colors(value, style.surroundings()))
                    };
                    let (usual_rest, usual) = (there(&base_rest), there(&base));
                    let leaks =
                        usual.is_some() && change.after == usual && change.before != usual_rest && usual != usual_rest;
                    if !leaks || !is_set_by(survey, control, *option, &own_rest, &change) {
                        continue;
                    }
                    let Some(style) = change.style(&own) else { continue };
                    let declaration = survey.tracer.origin(style, change.longhand).declaration;
                    // What the option itself says of the state is meant, also where it is the same.
                    if declaration.is_some_and(|span| is_of_option(control, *option, span)) {
                        continue;
                    }
                    let option = control.option_name(*option);
                    let property = change.longhand.name();
                    let element = element_name(&own, change.node, change.pseudo);
                    let message = format!(
                        "in {name} the `{property}` of {element} in `{}.{option}` is that of a plain `{0}` again",
                        control.name.value
                    );
                    let diagnostic =
                        Diagnostic::new(CHECK.level, CHECK.id, declaration.unwrap_or(control.name.span), message)
                            .label(format!("wins over what `{option}` says at rest"))
                            .mend(format!("write `@state {name} {{ … }}` in `{option}`, or let both set a local"));
                    let cause = Cause { spans: vec![declaration], words: format!("{option} {name}") };
                    let fault = Fault { cause, score: 0.0, figures: format!("`{property}` as without it"), diagnostic };
                    sink.fail_case(system, &unit, &states, 1, fault);
                }
            }
        }
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
