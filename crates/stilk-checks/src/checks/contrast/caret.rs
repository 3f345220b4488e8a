//! The caret of a field that a sheet gives a colour of its own: it shows where the next letter goes.

use crate::checks::contrast::indicator::{CHECK, NEEDED};
use crate::choice::choice;
use crate::gather::Met;
use crate::inspection::{Inspection, Shown};
use crate::painted::least::{Beside, over_surfaces};
use crate::painted::origin::background_origin;
use crate::painted::paint::{self, Stack, floor, hex};
use crate::sink::{Cause, Fault, MendKind, Sink};
use stilk_engine::css::Unknown;
use stilk_engine::css::property::Longhand as L;
use stilk_engine::dom::{Document, NodeId};
use stilk_language::system::StateId;
use stilk_text::diagnostic::Diagnostic;

/// Judges the caret of a field; whether there is one.
///
/// # Errors
/// The reason why it cannot be known.
pub fn judge(inspection: &Inspection, shown: &Shown, sink: &mut Sink) -> Result<bool, Unknown> {
    let look = shown.look;
    let node = look.mounted.bearer;
    let Some(style) = look.styles.element(node) else { return Ok(false) };
    // A caret in the colour of the text is as good as the text.
    if !takes_text(&look.document, node) || style.is(L::CaretColor, "auto") || shown.states.has(StateId::Readonly) {
        return Ok(false);
    }
    let Some(Beside { ratio, pixel, beside }) = worst(inspection, shown, node, sink)? else { return Ok(false) };
    if ratio >= NEEDED {
        return Ok(true);
    }
    let origin = inspection.tracer.color_origin(style, L::CaretColor);
    let theme = inspection.system.tokens.theme_name(&inspection.unit.theme);
    let control = &inspection.unit.control.name;
    let figure = format!("{:.2}:1", floor(ratio));
    let message = format!(
        "the caret of `{}`, {}, is {figure} on what it lies on in {theme}, it needs 3:1 to be found",
        control.value,
        origin.name()
    );
    let place = origin.span().unwrap_or(control.span);
    let mut diagnostic = Diagnostic::new(CHECK.level, CHECK.id, place, message).label(format!(
        "{} on {}: {figure}",
        hex(pixel),
        hex(beside)
    ));
    if let Some(span) = origin.declaration.filter(|span| Some(*span) != diagnostic.span) {
        diagnostic = diagnostic.related(span, "the caret");
    }
    let (words, mend) = match origin.token() {
        Some(_) => (String::new(), MendKind::AnotherColor),
        None => ("caret".to_owned(), MendKind::AsSaid),
    };
    let cause = Cause { spans: vec![Some(place)], words };
    let behind = background_origin(inspection.tracer, shown.look, &paint::chain(shown.look, node), 0);
    let choice = choice(inspection, [&origin, &behind], &[]);
    let figures = format!("{figure}, needs 3:1");
    sink.fail(inspection, shown, Fault { cause, score: ratio / NEEDED, figures, diagnostic, mend, choice });
    Ok(true)
}

/// The least contrast of the caret over all surfaces, with what it lies on.
fn worst(inspection: &Inspection, shown: &Shown, node: NodeId, sink: &mut Sink) -> Result<Option<Beside>, Unknown> {
    let look = shown.look;
    let chain = paint::chain(look, node);
    let styles = paint::styles_of(look, &chain);
    // Where nobody knows whether the field can be seen, nothing is known of its caret either.
    let Some(style) = styles.last() else { return Ok(None) };
    if !paint::is_visible(&styles)? {
        return Ok(None);
    }
    let color = style.used_color(L::CaretColor)?;
    let stack = Stack::of(&styles)?;
    let worst = over_surfaces(look, |index, surface| {
        let pairs = stack.painted(look, surface, &color)?.into_iter().zip(stack.behind(look, surface)?);
        let least = Beside::least(pairs);
        if let Some(least) = least.filter(|_| sink.gathers()) {
            let caret = inspection.tracer.color_origin(style, L::CaretColor);
            let behind = background_origin(inspection.tracer, look, &chain, index);
            let sides = [(least.pixel, &caret), (least.beside, &behind)];
            sink.meet(inspection, shown, &Met { sides, needed: NEEDED });
        }
        Ok(least.map(|least| (least, ())))
    })?;
    Ok(worst.map(|(worst, ())| worst))
}

/// Whether people type into an element.
fn takes_text(document: &Document, node: NodeId) -> bool {
    const NOT_TYPED: [&str; 11] =
        ["checkbox", "radio", "range", "color", "file", "hidden", "submit", "reset", "button", "image", "date"];
    document.element(node).is_some_and(|element| match element.local() {
        "textarea" => true,
        "input" => !element.attribute("type").is_some_and(|kind| NOT_TYPED.contains(&kind)),
        _ => false,
    })
}
