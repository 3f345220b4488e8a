//! `geometry/depth`: a pressed layer goes down by as much as stands out below it.

use crate::check::relevance::Reads;
use crate::check::sink::{Cause, Fault, Sink};
use crate::check::state::slips::offset;
use crate::check::{Check, Example, Inspection, Of, Scope};
use crate::css::Unknown;
use crate::css::property::Longhand as L;
use crate::css::serialize::number;
use crate::css::value::Value;
use crate::diagnostic::{Diagnostic, Level};
use crate::engine::Style;

/// The check.
pub const CHECK: Check = Check {
    id: "geometry/depth",
    summary: "a pressed layer moves by as much as the layer behind it stands out",
    why: "A button with an edge below it that goes down by less seems to float, by more to sink through the page.",
    source: "CSS Backgrounds and Borders 3, box-shadow",
    level: Level::Warning,
    mend: "Let one local say how far it stands out, and the state move by it and take it off the shadow.",
    fails: Example::sheet(
        "@control button {\n  background: {sea}; color: {paper}; box-shadow: 0 6px 0 {ink};\n  @state active { translate: 0 4px; box-shadow: 0 0 0 {ink}; }\n}\n",
    ),
    passes: Example::sheet(
        "@control button {\n  background: {sea}; color: {paper}; box-shadow: 0 6px 0 {ink};\n  @state active { translate: 0 6px; box-shadow: 0 0 0 {ink}; }\n}\n",
    ),
    scope: Scope::Options(Reads::Alone(&READS, &["active"]), Of::Any, run),
};

const READS: [L; 8] = [L::BoxShadow, L::Translate, L::Transform, L::Position, L::Top, L::Bottom, L::Left, L::Right];

/// How far the layer behind stands out below, in px: a shadow without a blur.
fn depth(style: &Style) -> Option<f64> {
    let Ok(Value::List(shadows)) = style.get(L::BoxShadow) else { return Some(0.0) };
    let mut depth: f64 = 0.0;
    for shadow in shadows {
        let Value::Words(words) = shadow else { continue };
        let px: Vec<f64> = words.iter().filter_map(Value::as_px).collect();
        let [x, y, blur, spread] = px[..] else { return None };
        if blur == 0.0 && spread == 0.0 && x == 0.0 && !words.iter().any(|word| word.is("inset")) {
            depth = depth.max(y);
        }
    }
    Some(depth)
}

fn run(inspection: &Inspection, sink: &mut Sink) {
    let (Some(rest), Some(active)) = (inspection.rest(), inspection.alone("active")) else { return };
    let host = rest.look.mounted.host;
    let (Some(before), Some(after)) = (rest.look.styles.element(host), active.look.styles.element(host)) else {
        return;
    };
    if depth(before) == Some(0.0) {
        return;
    }
    let (Some(out), Some(left), Some(from), Some(to)) = (depth(before), depth(after), offset(before), offset(after))
    else {
        return sink.unknown(CHECK.id, active.stands_for, Unknown("how far it moves takes a layout"));
    };
    let moved = to.1 - from.1;
    if out <= 0.0 || moved <= 0.0 {
        return;
    }
    sink.decided(CHECK.id, active.stands_for);
    if (out - left - moved).abs() <= 0.5 {
        return;
    }
    let place = inspection.tracer.origin(after, L::Translate).declaration;
    let control = &inspection.unit.control.name;
    let message = format!(
        "pressed, `{}` goes down by {}px while its lower layer goes in by {}px",
        control.value,
        number(moved),
        number(out - left)
    );
    let diagnostic = Diagnostic::new(CHECK.level, CHECK.id, place.unwrap_or(control.span), message)
        .label(format!("moves by {}px", number(moved)))
        .mend(format!("move by {}px, or let a local give both", number(out - left)));
    let cause = Cause { spans: vec![place.or(Some(control.span))], words: String::new() };
    let figures = format!("{}px of {}px", number(moved), number(out - left));
    sink.fail(inspection, active, Fault { cause, score: -(out - left - moved).abs(), figures, diagnostic });
}
