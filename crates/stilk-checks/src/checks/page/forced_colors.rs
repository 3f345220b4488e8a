//! `page/forced-colors`: where the device forces its own colours, the focus can be seen on a page too.

use crate::check::{Check, Scope};
use crate::checks::page::place::{Places, is_disabled, likeness};
use crate::checks::reset::forced_colors::stays;
use crate::example::Example;
use crate::painted::visible::changes;
use crate::visit::instance::Instance;
use crate::visit::{PageSink, VisitedPage};
use std::collections::HashMap;
use stilk_engine::cascade::{PseudoClass, Style};
use stilk_engine::css::property::Longhand as L;
use stilk_language::case::Look;
use stilk_text::diagnostic::{Diagnostic, Level};

/// The check.
pub const CHECK: Check = Check {
    id: "page/forced-colors",
    summary: "under forced colours a control's focus shows on the page, with the page's own rules over it",
    why: "Windows' contrast themes take fills and shadows away. A page that turns the outline off and draws the focus with a \
          shadow leaves these people without any.",
    source: "CSS Color Adjustment 1, 3.1 (properties affected by forced colors mode); WCAG 2.2, 2.4.7 Focus Visible",
    level: Level::Error,
    mend: "Write `outline: 2px solid transparent` instead of `outline: none`: it is painted where colours are forced.",
    fails: Example::page(
        "<style>button:focus-visible { outline: none; box-shadow: 0 0 0 3px #06c }</style><button type=\"button\" class=\"ex-button\"><span class=\"ex-button_label\">Book</span></button>",
    ),
    passes: Example::page(
        "<style>button:focus-visible { outline: 2px solid transparent; box-shadow: 0 0 0 3px #06c }</style><button type=\"button\" class=\"ex-button\"><span class=\"ex-button_label\">Book</span></button>",
    ),
    scope: Scope::Page(run),
};

/// What may take the sign of focus away that stays where colours are forced.
const SIGNS: [L; 5] = [L::OutlineStyle, L::OutlineWidth, L::ForcedColorAdjust, L::BorderTopStyle, L::BorderTopWidth];

fn run(visit: &VisitedPage, sink: &mut PageSink) {
    if visit.instances.is_empty() {
        return;
    }
    let places = Places::new(visit);
    let mut known: HashMap<u64, Option<L>> = HashMap::new();
    for instance in visit.instances.iter().filter(|instance| !is_disabled(visit, instance)) {
        sink.decided(CHECK.id, 1);
        let lost = known.entry(likeness(visit, instance)).or_insert_with(|| judge(visit, &places, instance));
        let Some(longhand) = *lost else { continue };
        let name = instance.name(visit.system);
        let message = format!("under forced colours the focus of `{name}` cannot be seen here");
        let mut diagnostic =
            Diagnostic::new(CHECK.level, CHECK.id, visit.span(instance.node), message).label("looks as at rest");
        let mut cause = name;
        let focused = places.look(instance, FOCUS);
        let winner = own(&focused, instance).and_then(|style| style.winner(longhand));
        if let Some(id) = winner
            && let (Some(span), Some(of_rule)) = (visit.foreign_span(id), visit.declaration_cause(id))
        {
            diagnostic = diagnostic.related(span, "the page's own rule");
            cause = of_rule;
        }
        sink.find(cause, diagnostic);
    }
}

const FOCUS: &[PseudoClass] = &[PseudoClass::Focus, PseudoClass::FocusVisible];

/// What takes the focus away under forced colours; nothing where it can be seen, or where the page has no part in it.
fn judge(visit: &VisitedPage, places: &Places, instance: &Instance) -> Option<L> {
    let focused = places.look(instance, FOCUS);
    let style = own(&focused, instance)?;
    let foreign = style.set_in(|sheet| !visit.is_of_system(sheet));
    let is_foreign = |longhand: &L| style.winner(*longhand).is_some_and(|id| visit.is_foreign(id));
    let taken = SIGNS.into_iter().find(|longhand| foreign.has(*longhand) && is_foreign(longhand))?;
    let [rest, focused] = [&[], FOCUS].map(|states| places.forced_look(instance, states));
    // A ring of the browser's own stays as well.
    let has_ring = instance.elements().any(|(_, node)| {
        let style = focused.styles.element(node);
        style.is_some_and(|s| !s.is(L::OutlineStyle, "none") && s.px(L::OutlineWidth).is_ok_and(|px| px > 0.0))
    });
    let stays = || changes(&rest, &focused).iter().any(|change| stays(&rest, &focused, change));
    (!has_ring && !stays()).then_some(taken)
}

/// The style of the element that the keyboard reaches.
fn own<'l>(look: &'l Look, instance: &Instance) -> Option<&'l Style> {
    look.styles.element(instance.bearer).map(std::rc::Rc::as_ref)
}
