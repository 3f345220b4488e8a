//! `contrast/placeholder`: a field's placeholder can be read, as text.

use crate::check::{Check, Looks, Scope};
use crate::checks::contrast::text;
use crate::example::Example;
use crate::inspection::Inspection;
use crate::painted::paint;
use crate::painted::text::is_inactive;
use crate::relevance::reads::Reads;
use crate::sink::Sink;
use stilk_text::diagnostic::Level;

/// The check.
pub const CHECK: Check = Check {
    id: "contrast/placeholder",
    summary: "a placeholder on everything painted behind it has a contrast of at least 4.5:1",
    why: "A placeholder is text like any other: whoever cannot read it misses the example or the hint that it gives. \
          Browsers make it pale by themselves, and pale tokens make it paler.",
    source: "WCAG 2.2, 1.4.3 Contrast (Minimum)",
    level: Level::Error,
    mend: "Give `::placeholder` a colour of its own with enough contrast, and `opacity: 1`; better still, say it in a hint \
           below the label, which does not go when people type.",
    fails: Example::drawn(
        FIELD,
        "@control field {\n  background: {paper}; color: {ink};\n  @part native::placeholder { color: {mist}; }\n}\n",
    ),
    passes: Example::drawn(
        FIELD,
        "@control field {\n  background: {paper}; color: {ink};\n  @part native::placeholder { color: {sea}; opacity: 1; }\n}\n",
    ),
    scope: Scope::Looks(
        Looks::new(Reads::values(text::READS).on_generated(text::GENERATED).with_large_text(), run).of_fields(),
    ),
};

const FIELD: &str =
    "<label><span part=\"label\"><slot>Vessel</slot></span><input part=\"native\" placeholder=\"Kittiwake\"></label>\n";

fn run(inspection: &Inspection, sink: &mut Sink) {
    for shown in &inspection.looks {
        let places = paint::placeholder_places(shown.look);
        if places.is_empty() || is_inactive(shown.states) {
            continue;
        }
        text::judge_all(&CHECK, inspection, shown, &places, sink);
    }
}
