//! Where a sheet chose colours that do not go together: what a person would edit where they fail in every theme.

use crate::inspection::Inspection;
use crate::sink::Choice;
use crate::trace::ValueSource;
use stilk_engine::cascade::Style;
use stilk_engine::css::Value;
use stilk_engine::css::property::Longhand as L;
use stilk_text::source::Span;

/// Of the declarations of two colours, and of those that thin them out, the one in the rule that asks for more: whoever wrote
/// it had the others before them. The first of equals.
pub fn choice(inspection: &Inspection, sides: [&ValueSource; 2], around: &[&Style]) -> Option<Choice> {
    let thinned = around.iter().filter(|style| {
        style.get(L::Opacity).ok().and_then(Value::as_number).is_some_and(|opacity| opacity > 0.0 && opacity < 1.0)
    });
    let thinned = thinned.filter_map(|style| inspection.tracer.origin(style, L::Opacity).declaration);
    let places = sides.iter().filter_map(|side| side.declaration).chain(thinned);
    let of: Vec<Span> = places.collect();
    let at = of.iter().copied().reduce(|a, b| if rank(inspection, b) > rank(inspection, a) { b } else { a })?;
    let mut values: Vec<(Span, String)> = Vec::new();
    for token in sides.iter().flat_map(|side| &side.tokens) {
        if !values.contains(token) {
            values.push(token.clone());
        }
    }
    let paths = sides[0].tokens.iter().map(|(_, path)| path.clone()).collect();
    Some(Choice { at, of, paths, values })
}

/// How much the rule around a declaration asks for; nothing where it is no rule of the control.
fn rank(inspection: &Inspection, at: Span) -> impl PartialOrd + use<> {
    let rules = &inspection.unit.control.rules;
    let rule = rules.iter().find(|rule| rule.declarations.iter().any(|declaration| declaration.span == at));
    rule.map(|rule| (inspection.system.states.precedence(&rule.states), rule.options.len(), rule.place))
}
