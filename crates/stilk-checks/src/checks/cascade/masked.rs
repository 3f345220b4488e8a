//! `cascade/masked`: a colour that is set is not hidden by a picture from elsewhere.

use crate::check::{Check, Looks, Scope};
use crate::example::Example;
use crate::inspection::Inspection;
use crate::painted::paint;
use crate::painted::visible::element_name;
use crate::relevance::reads::Reads;
use crate::sink::{Cause, Fault, MendKind, Sink};
use stilk_engine::cascade::{LonghandSet, Styled};
use stilk_engine::css::property::Longhand as L;
use stilk_language::system::{BoundDeclaration, Control, Rule};
use stilk_text::diagnostic::{Diagnostic, Level};
use stilk_text::source::Span;

/// The check.
pub const CHECK: Check = Check {
    id: "cascade/masked",
    summary: "a colour that an option or a state sets is not hidden by a gradient that it did not set",
    why: "The base has a gradient, the option sets `background-color`: the gradient stays on top, and nothing changes.",
    source: "CSS Backgrounds and Borders 3, 2.2: pictures are painted over the colour",
    level: Level::Error,
    mend: "Write `background-image: none` with the colour, or `background`, which resets both.",
    fails: Example::sheet(
        "@control button {\n  background: linear-gradient({sea}, {ink}); color: {paper};\n  @state hover { background-color: {rust}; }\n}\n",
    ),
    passes: Example::sheet(
        "@control button {\n  background: linear-gradient({sea}, {ink}); color: {paper};\n  @state hover { background: {rust}; }\n}\n",
    ),
    scope: Scope::Looks(Looks::new(Reads::values(READS), run).by_option()),
};

const READS: LonghandSet = LonghandSet::of(&[
    L::BackgroundColor,
    L::BackgroundImage,
    L::BackgroundSize,
    L::BoxShadow,
    L::Color,
    L::ColorScheme,
]);

fn rule_of(control: &Control, span: Span) -> Option<&Rule> {
    control.rules.iter().find(|rule| rule.declarations.iter().any(|declaration| declaration.span == span))
}

/// Whether a declaration of a control draws a picture, whatever colours it takes from elsewhere.
fn draws_by_itself(control: &Control, span: Span) -> bool {
    let all = control.rules.iter().flat_map(|rule| &rule.declarations);
    all.filter(|declaration| declaration.span == span).any(BoundDeclaration::draws_gradient)
}

fn run(inspection: &Inspection, sink: &mut Sink) {
    let control = inspection.unit.control;
    for shown in &inspection.looks {
        let mut unknown = None;
        for (_, node) in shown.look.mounted.elements() {
            let Some(style) = shown.look.styles.element(node) else { continue };
            match paint::hides_color(style) {
                Ok(true) => {}
                Ok(false) => continue,
                Err(reason) => {
                    unknown = Some(reason);
                    continue;
                }
            }
            let color = inspection.tracer.origin(style, L::BackgroundColor).declaration;
            let image = inspection.tracer.origin(style, L::BackgroundImage);
            // A picture of the option's own, in colours of the control's.
            let drawn = image.winner.filter(|span| draws_by_itself(control, *span));
            let image = drawn.or(image.declaration);
            let (Some(color), Some(image)) = (color, image) else { continue };
            let (Some(sets), Some(masks)) = (rule_of(control, color), rule_of(control, image)) else { continue };
            // A picture that an option draws on purpose may cover what others set; one from further back may not.
            let is_general = masks.options.iter().all(|option| sets.options.contains(option))
                && sets.states.covers(&masks.states)
                && (masks.options.len(), masks.states.len()) != (sets.options.len(), sets.states.len());
            if color == image || !is_general {
                continue;
            }
            let name = element_name(shown.look, Styled::element(node));
            let message =
                format!("a colour set for {name} of `{}` cannot be seen: a picture lies over it", control.name.value);
            let diagnostic = Diagnostic::new(CHECK.level, CHECK.id, color, message)
                .label("hidden")
                .related(image, "by this picture")
                .mend("write `background` instead, or `background-image: none` beside it");
            let cause = Cause { spans: vec![Some(color), Some(image)], words: String::new() };
            sink.fail(
                inspection,
                shown,
                Fault { cause, score: 0.0, figures: "hidden".into(), diagnostic, mend: MendKind::AsSaid, choice: None },
            );
        }
        sink.verdict(CHECK.id, shown.stands_for, unknown);
    }
}
