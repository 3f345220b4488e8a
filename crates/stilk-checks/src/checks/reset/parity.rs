//! `reset/parity`: the hosts of a control look alike.

use crate::check::{Check, Scope};
use crate::checks::state::leak::by_one_option;
use crate::example::Example;
use crate::painted::paint::{has_generated_mark, paints_box};
use crate::painted::visible::UNSEEN;
use crate::sink::{Cause, Fault, MendKind, Sink};
use crate::survey::Survey;
use stilk_engine::cascade::{PseudoElement, Style};
use stilk_engine::css::color::Color;
use stilk_engine::css::compute::resolve_colors;
use stilk_engine::css::property::Longhand as L;
use stilk_engine::css::serialize::to_css;
use stilk_engine::css::value::Value;
use stilk_language::case::{Look, Unit};
use stilk_language::system::{Control, StateSet, Variant, VariantSpace};
use stilk_text::diagnostic::{Diagnostic, Level};
use stilk_text::source::Span;

/// The check.
pub const CHECK: Check = Check {
    id: "reset/parity",
    summary: "all hosts of a control compute the same look, but for what `@host` says",
    why: "A link and a button of one look stand side by side on every page: a different line height or font shows.",
    source: "HTML Standard, 15 Rendering; browser defaults measured in Chromium, Firefox and WebKit",
    level: Level::Error,
    mend: "Set the property in the control, so that it no longer comes from each element's default.",
    fails: Example::drawn(
        HOSTS,
        "@control button {\n  background: {sea}; color: {paper}; padding: {gap};\n  &:is(a) { padding: calc({gap} / 2); }\n}\n",
    ),
    passes: Example::drawn(HOSTS, "@control button {\n  background: {sea}; color: {paper}; padding: {gap};\n}\n"),
    scope: Scope::Controls(run),
};

const HOSTS: &str = "<button type=\"button\"><span part=\"label\"><slot>Book</slot></span></button>\n<a href=\"#\"><span part=\"label\"><slot>Book</slot></span></a>\n";

fn run(survey: &Survey, sink: &mut Sink) {
    let system = survey.system;
    let theme = system.tokens.default_theme();
    for control in survey.controls.iter().copied().filter(|control| control.template.hosts.len() > 1) {
        let singles: Vec<StateSet> = survey
            .look_engine
            .state_sets(control)
            .into_iter()
            .filter(|set| set.len() <= 1 && set.of_parts().is_empty())
            .collect();
        let mut variants: Vec<Variant> = by_one_option(control, 0).into_iter().map(|(_, variant)| variant).collect();
        variants.insert(0, control.default_variant());
        let hosts = 1..control.template.hosts.len();
        let exist: Vec<VariantSpace> = hosts.clone().map(|host| control.space(host)).collect();
        for variant in &variants {
            let unit = |host: usize| Unit { control, host, variant: variant.clone(), theme: theme.clone() };
            for states in &singles {
                let reference = survey.look(survey.look_engine, &unit(0), states);
                for host in hosts.clone().filter(|host| exist[host - 1].has(variant)) {
                    let other = survey.look(survey.look_engine, &unit(host), states);
                    sink.decided(CHECK.id, 1);
                    if let Some((lacking, pseudo, place)) = lacking(survey, control, [(0, &reference), (host, &other)])
                    {
                        let message = format!(
                            "no browser paints the `{pseudo}` of `{}` on {}, where other hosts have one",
                            control.name.value,
                            control.host_name(lacking)
                        );
                        let place = place.unwrap_or(control.name.span);
                        let diagnostic = Diagnostic::new(CHECK.level, CHECK.id, place, message)
                            .label("not painted on all hosts")
                            .mend("draw it by a part, or give this host another sign with `@host`");
                        let cause = Cause { spans: vec![Some(place)], words: format!("{pseudo} {lacking}") };
                        let figures = format!("no {pseudo}");
                        let fault =
                            Fault { cause, score: 0.0, figures, diagnostic, mend: MendKind::AsSaid, choice: None };
                        sink.fail_case(system, &unit(lacking), states, 1, fault);
                    }
                    if let Some((longhand, was, is, declaration)) = difference(survey, control, &reference, &other) {
                        let name = control.host_name(host);
                        let message = format!(
                            "`{}` on {name} has `{}: {is}`, on {} `{was}`",
                            control.name.value,
                            longhand.name(),
                            control.host_name(0)
                        );
                        let place = declaration.unwrap_or(control.name.span);
                        let diagnostic = Diagnostic::new(CHECK.level, CHECK.id, place, message)
                            .label("not the same on all hosts")
                            .mend(format!(
                                "set `{}` in the control, or write `@host` where the difference is meant",
                                longhand.name()
                            ));
                        let cause = Cause { spans: vec![Some(place)], words: format!("{} {host}", longhand.name()) };
                        let figures = format!("{is} for {was}");
                        sink.fail_case(
                            system,
                            &unit(host),
                            states,
                            1,
                            Fault { cause, score: 0.0, figures, diagnostic, mend: MendKind::AsSaid, choice: None },
                        );
                    }
                }
            }
        }
    }
}

/// A generated box that one of two hosts has and the other, which is told to have it, cannot: the host, the box and where it
/// is declared.
fn lacking(
    survey: &Survey,
    control: &Control,
    looks: [(usize, &Look); 2],
) -> Option<(usize, &'static str, Option<Span>)> {
    let style = |look: &Look, pseudo| look.styles.pseudo(look.mounted.host, pseudo).cloned();
    let is_meant = |style: &Style| !style.is(L::Content, "none") && !style.is(L::Content, "normal");
    let shows = |style: &Style| has_generated_mark(style) || paints_box(style);
    for [(_, has), (host, lacks)] in [looks, [looks[1], looks[0]]] {
        for pseudo in PseudoElement::GENERATED {
            let (Some(there), Some(never)) = (style(has, pseudo), style(lacks, pseudo)) else { continue };
            if !never.is_never_generated() || !is_meant(&never) || there.is_empty_generated() || !shows(&there) {
                continue;
            }
            let place = survey.tracer.origin(&never, L::Content).declaration;
            let says_otherwise = control.rules.iter().any(|rule| !rule.hosts.is_empty() && !rule.states.is_rest());
            let name = if pseudo == PseudoElement::Before { "::before" } else { "::after" };
            return (!says_otherwise).then_some((host, name, place));
        }
    }
    None
}

/// The first property that a declaration of the control sets and that the hosts compute to other values.
fn difference(
    survey: &Survey,
    control: &Control,
    reference: &Look,
    other: &Look,
) -> Option<(L, String, String, Option<Span>)> {
    let (a, b) = (reference.styles.element(reference.mounted.host)?, other.styles.element(other.mounted.host)?);
    let mut longhands = a.set_by_author();
    longhands.add_all(&b.set_by_author());
    for longhand in longhands.iter() {
        // How a control is drawn natively, and how its text may be laid out, is each element's own.
        if UNSEEN.has(longhand) || matches!(longhand, L::Appearance | L::OverflowX | L::OverflowY | L::Content) {
            continue;
        }
        // What follows `color` differs where that does.
        let follows = |style: &Style| matches!(style.get(longhand), Ok(Value::Color(Color::Current)));
        if follows(a) && follows(b) {
            continue;
        }
        let value = |style: &Style| style.get(longhand).ok().map(|value| resolve_colors(value, style.surroundings()));
        let (Some(was), Some(is)) = (value(a), value(b)) else { continue };
        if was == is {
            continue;
        }
        let [here, there] = [b, a].map(|style| survey.tracer.origin(style, longhand));
        let (declaration, first) = (here.declaration, there.declaration);
        // What one host says of itself may well be made of what all say.
        let is_meant = [declaration, first, here.winner, there.winner].into_iter().flatten().any(|span| {
            control.rules.iter().any(|rule| !rule.hosts.is_empty() && rule.declarations.iter().any(|d| d.span == span))
        });
        if !is_meant {
            // What the sheet says comes before what resets say.
            let is_own =
                |span: &Span| control.rules.iter().any(|rule| rule.declarations.iter().any(|d| d.span == *span));
            let place = [declaration, first].into_iter().flatten().find(is_own).or(declaration).or(first);
            return Some((longhand, to_css(&was), to_css(&is), place));
        }
    }
    None
}
