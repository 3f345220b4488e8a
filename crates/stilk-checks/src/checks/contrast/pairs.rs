//! Which colours meet: no check, but a list of what there is.

use crate::check::{Looks, Scope, Task};
use crate::checks::contrast::text::{GENERATED, READS, WHERE_SPLIT};
use crate::gather::Met;
use crate::inspection::Inspection;
use crate::painted::origin::background_origin;
use crate::painted::paint;
use crate::painted::text::{is_inactive, needed};
use crate::relevance::reads::Reads;
use crate::sink::Sink;

/// Collects the pairs of text and background.
pub const PAIRS: Task = Task {
    id: "contrast/pairs",
    scope: &Scope::Looks(
        Looks::new(Reads::values(READS).on_generated(GENERATED).with_large_text(), run).where_split(WHERE_SPLIT),
    ),
};

fn run(inspection: &Inspection, sink: &mut Sink) {
    let system = inspection.system;
    for shown in inspection.looks.iter().filter(|shown| !is_inactive(shown.states)) {
        let look = shown.look;
        let places = paint::text_places(look).into_iter().chain(paint::placeholder_places(look));
        for place in places.filter(|place| !place.is_inactive(look)) {
            let Some(style) = place.style(look) else { continue };
            let needed = needed(system.manifest.conformance, style);
            let Ok(painted) = paint::paint(look, &place, needed, inspection.sizes) else { continue };
            for one in painted {
                let longhand = paint::text_color_longhand(std::iter::once(&**style));
                let text = inspection.tracer.color_origin(style, longhand);
                let on = background_origin(inspection.tracer, look, &place.chain, one.surface);
                sink.meet(inspection, shown, &Met { sides: [(one.text, &text), (one.behind, &on)], needed });
            }
        }
    }
}
